#include "present/live_lines.h"

#include <cmath>

#include "core/base/degrees.h"

namespace zevo::present {
namespace {

QPointF at(const PoseFrame& pose, Landmark id) {
    return {pose.at(id).x, pose.at(id).y};
}

}  // namespace

std::optional<LiveLine> liveLine(const PoseFrame& pose, const Movement& movement, const Standard& standard) {
    if (!pose.found) return std::nullopt;
    const bool right = pose.at(Landmark::RightKnee).visibility + pose.at(Landmark::RightHip).visibility >=
                       pose.at(Landmark::LeftKnee).visibility + pose.at(Landmark::LeftHip).visibility;
    auto near = [&](Landmark left) {
        return at(pose, right ? static_cast<Landmark>(static_cast<int>(left) + 1) : left);
    };
    const QPointF hip = near(Landmark::LeftHip), knee = near(Landmark::LeftKnee);
    const QPointF shoulder = near(Landmark::LeftShoulder), ankle = near(Landmark::LeftAnkle);
    const double facing = near(Landmark::LeftToe).x() >= near(Landmark::LeftHeel).x() ? 1 : -1;
    const double thigh = std::hypot(hip.x() - knee.x(), hip.y() - knee.y());
    const double shank = std::hypot(ankle.x() - knee.x(), ankle.y() - knee.y());
    LiveLine out;
    switch (movement.drive) {
        case Drive::Sinking: {
            const Band* band = standard.bandFor("thigh_angle");
            if (!band || !band->max || movement.oneLeg) return std::nullopt;
            // From the knee back at the angle the thigh has to reach; as long as the shank, whatever the thigh shows.
            const double a = *band->max * kRadiansPerDegree;
            const QPointF back(-facing * std::cos(a), -std::sin(a));
            out.line = QLineF(knee, knee + 1.15 * shank * back);
            out.point = hip;
            const double behind = std::abs(hip.x() - knee.x());
            out.reached = hip.y() >= knee.y() - behind * std::tan(a);
            return out;
        }
        case Drive::Folding: {
            const Band* band = standard.bandFor("trunk_lean");
            if (!band || !band->min) return std::nullopt;
            const double a = *band->min * kRadiansPerDegree;
            const double trunk = std::hypot(shoulder.x() - hip.x(), shoulder.y() - hip.y());
            out.line = QLineF(hip, hip + 1.1 * trunk * QPointF(facing * std::sin(a), -std::cos(a)));
            out.point = shoulder;
            out.reached = std::atan2(facing * (shoulder.x() - hip.x()), hip.y() - shoulder.y()) >= a;
            return out;
        }
        case Drive::HipRise: {
            if (thigh < 1) return std::nullopt;
            out.line = QLineF(shoulder, knee);
            out.point = hip;
            const double t = (hip.x() - shoulder.x()) / (knee.x() - shoulder.x() == 0 ? 1 : knee.x() - shoulder.x());
            // Five degrees short of the line is there (the standard's 170°).
            out.reached = hip.y() <= shoulder.y() + t * (knee.y() - shoulder.y()) + 0.06 * thigh;
            return out;
        }
    }
    return std::nullopt;
}

TempoTarget tempoAt(double sinceS, double lowerS, double pauseS, double liftS, double restS) {
    TempoTarget out;
    const double whole = lowerS + pauseS + liftS + restS;
    if (sinceS < 0 || !(whole > 0)) return {0, 3, -sinceS, 0};
    out.rep = static_cast<int>(sinceS / whole);
    double t = sinceS - out.rep * whole;
    const double lengths[] = {lowerS, pauseS, liftS, restS};
    while (out.phase < 3 && t >= lengths[out.phase]) t -= lengths[out.phase++];
    out.leftS = lengths[out.phase] - t;
    const double through = lengths[out.phase] > 0 ? t / lengths[out.phase] : 1;
    out.share = out.phase == 0 ? through : out.phase == 1 ? 1 : out.phase == 2 ? 1 - through : 0;
    return out;
}

}  // namespace zevo::present
