#pragma once

#include <QPolygonF>
#include <QString>
#include <map>
#include <string>
#include <vector>

#include "present/paint/look.h"

class QPainter;

namespace zevo::present {

/// What a figure does otherwise than it is meant to, by name (docs/formats.md lists them).
using Turned = std::map<std::string, double>;

/// Lines of a figure (squat, start, top, hinge, lunge, bridge or front), on a floor at 92 and some 100 wide, y down;
/// who stands upright reaches above 0. None for a figure that is not known.
std::vector<QPolygonF> faultLines(const QString& figure, const Turned& turned);

/// What a fault means, as a small figure that fills `box`: how it is meant to be (dashed), and what was seen instead.
void drawFault(QPainter& p, const QRectF& box, const QString& figure, const Turned& turned, const Theme& theme);

}  // namespace zevo::present
