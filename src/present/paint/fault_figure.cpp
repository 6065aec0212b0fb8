#include "present/paint/fault_figure.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "core/base/degrees.h"

namespace zevo::present {
namespace {

constexpr double kFloor = 92;
constexpr double kShank = 27, kThigh = 27, kTrunk = 32, kHead = 11, kFoot = 16;

/// From a point, so far along a direction: degrees from straight up, to the right +.
QPointF from(const QPointF& p, double length, double degrees) {
    return p + length * QPointF(std::sin(degrees * kRadiansPerDegree), -std::cos(degrees * kRadiansPerDegree));
}

struct Dials {
    const Turned& turned;
    double operator()(const char* name, double usual = 0) const {
        const auto found = turned.find(name);
        return found == turned.end() ? usual : found->second;
    }
};

/// From the side, facing right: foot, shank, thigh, trunk, head.
std::vector<QPolygonF> sideFigure(const Dials& d, double shin, double thigh, double trunk) {
    const double heelUp = d("heel"), toesUp = d("toes"), sway = d("sway");
    QPointF heel(38, kFloor), toe(38 + kFoot, kFloor);
    if (heelUp > 0)
        heel = toe + kFoot * QPointF(-std::cos(heelUp * kRadiansPerDegree), -std::sin(heelUp * kRadiansPerDegree));
    if (toesUp > 0)
        toe = heel + kFoot * QPointF(std::cos(toesUp * kRadiansPerDegree), -std::sin(toesUp * kRadiansPerDegree));
    const QPointF ankle = heel + QPointF(4, -4);
    const QPointF knee = from(ankle, kShank, d("shin", shin) + 0.5 * sway);
    const QPointF hip = from(knee, kThigh, -90 + d("thigh", thigh) + 0.7 * sway);
    const QPointF shoulder = from(hip, kTrunk, d("trunk", trunk) + sway);
    const QPointF head = from(shoulder, kHead, d("trunk", trunk) + sway + d("neck"));
    QPolygonF body{ankle, knee, hip, shoulder, head};
    if (d.turned.contains("low") || d.turned.contains("high")) {
        // The trunk as a back that bends: out to the dorsal side at the loins and between the shoulder blades.
        const double lean = (d("trunk", trunk) + sway) * kRadiansPerDegree;
        const QPointF dorsal(-std::cos(lean), -std::sin(lean));
        body = {ankle,
                knee,
                hip,
                hip + 0.32 * (shoulder - hip) + d("low") * dorsal,
                hip + 0.68 * (shoulder - hip) + d("high") * dorsal,
                shoulder,
                head};
    }
    std::vector<QPolygonF> out{{{heel, toe}}, body};
    if (d.turned.contains("hand")) out.push_back({{shoulder, from(shoulder, 30, 180 - d("hand"))}});
    return out;
}

std::vector<QPolygonF> lungeFigure(const Dials& d) {
    const QPointF ankle(66, kFloor - 4 - d("rise"));
    const QPointF knee = from(QPointF(66, kFloor - 4), kShank, d("shin"));
    const QPointF hip = from(knee, kThigh, -90 + d("thigh"));
    const QPointF shoulder = from(hip, kTrunk, d("trunk", 4));
    const QPointF rearKnee = from(hip, kThigh, 180 - d("rear_thigh"));
    const QPointF rearAnkle = from(rearKnee, kShank, -90 - d("rear_shin"));
    return {{{QPointF(62, kFloor), QPointF(62 + kFoot, kFloor)}},
            {{QPointF(66, kFloor - 4), knee, hip, shoulder, from(shoulder, kHead, d("trunk", 4))}},
            {{hip, rearKnee - QPointF(0, d("rise")), rearAnkle - QPointF(0, d("rise"))}}};
}

std::vector<QPolygonF> bridgeFigure(const Dials& d) {
    const QPointF shoulder(20, kFloor - 4), foot(74 + d("feet"), kFloor - 2), knee(70, kFloor - 34);
    const QPointF middle = 0.52 * shoulder + 0.48 * knee;
    const QPointF hips = middle - QPointF(0, d("hips")), back = 0.5 * (shoulder + hips) - QPointF(0, d("back"));
    return {{{QPointF(9, kFloor - 6), shoulder, back, hips, knee, foot}}, {{foot, foot + QPointF(12, 0)}}};
}

/// From the front, standing in the lower half of the movement.
std::vector<QPolygonF> frontFigure(const Dials& d) {
    std::vector<QPolygonF> out;
    const double stance = 15 + d("stance"), shift = d("shift");
    const double tiltHip = std::tan(d("hips") * kRadiansPerDegree),
                 tiltShoulder = std::tan(d("shoulders") * kRadiansPerDegree);
    auto hipAt = [&](double s) { return QPointF(50 + shift + 9 * s, 52 + 9 * s * tiltHip); };
    for (double s : {-1.0, 1.0}) {
        const QPointF ankle(50 + stance * s, kFloor - 3);
        const QPointF knee(50 + (stance + 5 + 0.7 * d("knees")) * s + 6 * d("wobble"), 73);
        const double turned = 12 + d("toes") + (s > 0 ? d("one_toe") : 0);
        out.push_back({{ankle, ankle + QPointF(13 * std::sin(turned * kRadiansPerDegree) * s,
                                               9 * std::cos(turned * kRadiansPerDegree))}});
        out.push_back({{ankle, knee, hipAt(s)}});
    }
    const QPointF left(50 + shift * 1.2 - 14, 24 - 14 * tiltShoulder),
        right(50 + shift * 1.2 + 14, 24 + 14 * tiltShoulder);
    out.push_back({{hipAt(-1), hipAt(1), right, left, hipAt(-1)}});
    const QPointF neck = 0.5 * (left + right);
    out.push_back({{neck, neck + QPointF(-8 * tiltShoulder, -13)}});
    return out;
}

}  // namespace

std::vector<QPolygonF> faultLines(const QString& figure, const Turned& turned) {
    const Dials d{turned};
    if (figure == "squat") return sideFigure(d, 28, 0, 38);
    if (figure == "start") return sideFigure(d, 10, 66, 16);
    if (figure == "top") return sideFigure(d, 0, 90, 0);
    if (figure == "hinge") return sideFigure(d, 4, 74, 64);
    if (figure == "lunge") return lungeFigure(d);
    if (figure == "bridge") return bridgeFigure(d);
    if (figure == "front") return frontFigure(d);
    return {};
}

void drawFault(QPainter& p, const QRectF& box, const QString& figure, const Turned& turned, const Theme& theme) {
    constexpr double kHeadRadius = 4.5, kMargin = 3;
    const auto meant = faultLines(figure, {}), seen = faultLines(figure, turned);
    QRectF room(4, 0, 92, kFloor + 1.5);  // of the floor
    for (const auto* lines : {&meant, &seen})
        for (const QPolygonF& line : *lines) {
            const double head = figure == "front" ? 0 : kHeadRadius;
            room = room.united(line.boundingRect().adjusted(-head, -head, head, 0));
        }
    room.adjust(-kMargin, -kMargin, kMargin, kMargin);
    const double scale = std::min(box.width() / room.width(), box.height() / room.height());
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.translate(box.center());
    p.scale(scale, scale);
    p.translate(-room.center());
    p.setPen(QPen(theme.line, 1.5));
    p.drawLine(QPointF(4, kFloor + 1.5), QPointF(96, kFloor + 1.5));
    auto draw = [&](const std::vector<QPolygonF>& lines, const QPen& pen) {
        p.setPen(pen);
        for (const auto& line : lines) p.drawPolyline(line);
        // Where a line ends that is a neck, a head.
        for (const auto& line : lines)
            if (line.size() >= 5 && figure != "front") {
                p.setBrush(Qt::NoBrush);
                p.drawEllipse(figure == "bridge" ? line.front() : line.back(), kHeadRadius, kHeadRadius);
            }
    };
    draw(meant, QPen(theme.ghost, 2, Qt::DashLine, Qt::RoundCap, Qt::RoundJoin));
    draw(seen, QPen(theme.outside, 3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.restore();
}

}  // namespace zevo::present
