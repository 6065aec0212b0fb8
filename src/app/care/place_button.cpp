#include "app/care/place_button.h"

#include <QMenu>
#include <algorithm>

#include "present/words.h"

namespace zevo::app {

PlaceButton::PlaceButton(QWidget* parent) : QPushButton(parent) {
    setMenu(new QMenu(this));
    connect(menu(), &QMenu::aboutToShow, this, &PlaceButton::fillMenu);
    setSpots({});
}

void PlaceButton::setSpots(const PainSpots& spots) {
    m_spots = spots;
    const QString where = present::painSpotsWords(spots);
    setText(where.isEmpty() ? tr("where?") : where);
}

void PlaceButton::put(const PainSpot& spot, bool there) {
    PainSpots next = m_spots;
    const auto at = std::find_if(next.begin(), next.end(), [&](const PainSpot& s) { return s.place == spot.place; });
    if (at == next.end() && there)
        next.push_back(spot);
    else if (at != next.end())
        there ? void(*at = spot) : void(next.erase(at));
    setSpots(next);
    emit chosen();
}

void PlaceButton::fillMenu() {
    menu()->clear();
    // The menus of sides are not the actions' to delete.
    qDeleteAll(menu()->findChildren<QMenu*>(Qt::FindDirectChildrenOnly));
    const bool full = m_spots.size() >= kMostPainSpots;
    if (full) menu()->addAction(tr("Three places at most"))->setEnabled(false);
    for (const std::string& place : painPlaces()) {
        const auto at =
            std::find_if(m_spots.begin(), m_spots.end(), [&](const PainSpot& s) { return s.place == place; });
        const bool there = at != m_spots.end();
        auto offer = [&](QMenu* in, const QString& title, const PainSpot& spot) {
            QAction* a = in->addAction(title);
            a->setCheckable(true);
            a->setChecked(there && *at == spot);
            a->setEnabled(there || !full);
            a->setData(QString::fromStdString(painSpotsText({spot})));
            connect(a, &QAction::triggered, this, [this, spot](bool on) { put(spot, on); });
        };
        const QString title = present::painPlaceTitle(place);
        if (!hasSides(place)) {
            offer(menu(), title, {place});
            continue;
        }
        QMenu* sides = menu()->addMenu(there ? tr("%1 ✓").arg(title) : title);
        for (const BodySide side : {BodySide::Left, BodySide::Right, BodySide::Both, BodySide::NotSaid})
            offer(sides, present::sideTitle(side), {place, side});
    }
}

}  // namespace zevo::app
