#pragma once

#include <QPushButton>

#include "core/judge/stop_rules.h"

namespace zevo::app {

/// Where it hurts: a button that says it, with a menu of the places and their sides; three at most.
class PlaceButton : public QPushButton {
    Q_OBJECT
  public:
    explicit PlaceButton(QWidget* parent);
    const PainSpots& spots() const { return m_spots; }
    /// Shows places without telling of it.
    void setSpots(const PainSpots& spots);

  signals:
    /// The coach chose or took back a place.
    void chosen();

  private:
    void fillMenu();
    void put(const PainSpot& spot, bool there);

    PainSpots m_spots;
};

}  // namespace zevo::app
