#pragma once

#include <QComboBox>

#include "core/session/session.h"

namespace zevo::app {

/// Movements and their variations in one list: item data is the movement's id, UserRole + 1 the variation's.
class MovementBox : public QComboBox {
    Q_OBJECT
  public:
    explicit MovementBox(QWidget* parent = nullptr) : QComboBox(parent) { setAccessibleName(tr("Movement")); }
    void fill(const Catalogue& catalogue);
    void choose(const std::string& movement, const std::string& variation);
};

}  // namespace zevo::app
