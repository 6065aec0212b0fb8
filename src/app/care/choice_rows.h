#pragma once

#include <QWidget>
#include <vector>

#include "core/judge/choices.h"

class QComboBox;
class QDoubleSpinBox;
class QGridLayout;
class QPushButton;

namespace zevo::app {

/// What schools do differently, each with what the school asks and what the set has instead.
class ChoiceRows : public QWidget {
    Q_OBJECT
  public:
    explicit ChoiceRows(QWidget* parent);
    /// `overrides`: of the set; `forClient`: what the client has as a rule.
    void show(const ChoiceBook& book, const Movement& movement, const Standard& school, const Choices& overrides,
              const Choices& forClient);

  signals:
    void chosen(const zevo::Choices& overrides);
    /// From now on as in this set, for this client.
    void keptForClient(const zevo::Choices& overrides);

  private:
    void build(const ChoiceBook& book, const Movement& movement);
    Choices picked() const;

    struct Row {
        std::string choice, number;  ///< number: the option that asks for one
        QComboBox* box;
        QDoubleSpinBox* value = nullptr;
    };
    std::vector<Row> m_rows;
    std::string m_movement;
    Choices m_overrides;
    bool m_filling = false;
    QGridLayout* m_grid;
    QPushButton* m_keep;
};

}  // namespace zevo::app
