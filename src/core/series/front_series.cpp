#include "core/series/front_series.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/track/perspective.h"

namespace zevo {
namespace {

using L = Landmark;
constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
/// Ankle joint to toe tip along the floor, share of stature: foot length less the part behind the ankle, a fifth of it
/// (common practice, no source).
constexpr double kAnkleToToe = 0.8 * proportion::kFootLength;

struct Leg {
    Vec2 hip, knee, ankle, toe;
};

}  // namespace

FrontSeries computeFrontSeries(const Track& t) {
    FrontSeries s;
    auto still = [&](L id) { return t.standingAt(id); };
    const double shoulders = (still(L::LeftShoulder) - still(L::RightShoulder)).norm();
    s.rightwards = still(L::RightShoulder).x() >= still(L::LeftShoulder).x() ? 1 : -1;
    const double focal = assumedFocalPx(t.pictureWidth, t.pictureHeight);
    const double towardsCamera = t.view == ViewKind::Rear ? -1 : 1;
    const double middle = t.pictureWidth / 2.0;
    const double foot = kAnkleToToe * t.bodyPx;

    for (Side side : {Side::Left, Side::Right}) {
        const Vec2 &hip = still(ofSide(L::LeftHip, side)), &knee = still(ofSide(L::LeftKnee, side)),
                   &ankle = still(ofSide(L::LeftAnkle, side));
        const double outward = (side == Side::Left ? -1 : 1) * s.rightwards, leg = hip.y() - ankle.y(),
                     shank = (knee - ankle).norm();
        const double line = ankle.x() + (hip.x() - ankle.x()) * (knee.y() - ankle.y()) / leg;
        s.kneeInByBuild[static_cast<std::size_t>(side)] =
            shank > 1 && leg > 1 ? (line - knee.x()) * outward / shank : kNone;
    }
    for (std::size_t i = 0; i < t.size(); ++i) {
        std::array<double, 2> kneeX{};
        for (int side = 0; side < 2; ++side) {
            const auto k = static_cast<std::size_t>(side);
            auto id = [&](L left) { return ofSide(left, static_cast<Side>(side)); };
            const Leg leg{t.at(id(L::LeftHip), i), t.at(id(L::LeftKnee), i), t.at(id(L::LeftAnkle), i),
                          t.at(id(L::LeftToe), i)};
            const double shank = (still(id(L::LeftKnee)) - still(id(L::LeftAnkle))).norm();
            const double thigh = (still(id(L::LeftHip)) - still(id(L::LeftKnee))).norm();
            const double outward = (side == 0 ? -1 : 1) * s.rightwards;
            const double shown = std::min(shank, (leg.knee - leg.ankle).norm());
            const double ahead = towardsCamera * std::sqrt(shank * shank - shown * shown);
            auto undone = [&](double x, double nearer) { return middle + (x - middle) * (1 - nearer / focal); };
            kneeX[k] = undone(leg.knee.x(), ahead);
            const double toe = (undone(leg.toe.x(), towardsCamera * foot) - leg.ankle.x()) * outward;
            const double turned = foot > 1 ? std::asin(std::clamp(toe / foot, -1.0, 1.0)) : kNone;
            s.toeOut[k].push_back(turned * kDegreesPerRadian);
            const double out = (kneeX[k] - leg.ankle.x()) * outward;
            s.kneeInside[k].push_back(shank > 1 ? -out / shank : kNone);
            s.kneeIn[k].push_back(shank > 1 ? (std::abs(ahead) * std::tan(turned) - out) / shank - s.kneeInByBuild[k]
                                            : kNone);
            const Vec2 up = leg.hip - leg.knee, down = leg.knee - leg.ankle;
            s.projection[k].push_back(
                (std::atan2(up.x() * outward, up.y()) - std::atan2(down.x() * outward, down.y())) * kDegreesPerRadian);
            s.legShown[k].push_back(thigh + shank > 1 ? (leg.hip - leg.ankle).norm() / (thigh + shank) : kNone);
        }
        const Vec2 &left = t.at(L::LeftAnkle, i), &right = t.at(L::RightAnkle, i);
        const double ankles = (right - left).norm();
        s.kneeSeparation.push_back(ankles > 1 ? std::abs(kneeX[1] - kneeX[0]) / ankles : kNone);
        s.stance.push_back(shoulders > 1 ? ankles / shoulders : kNone);
        auto tilt = [&](L l, L r) {
            const Vec2 line = t.at(r, i) - t.at(l, i);
            return std::atan2(-line.y(), line.x() * s.rightwards) * kDegreesPerRadian;
        };
        s.hipTilt.push_back(tilt(L::LeftHip, L::RightHip));
        s.shoulderTilt.push_back(tilt(L::LeftShoulder, L::RightShoulder));
        const double trunk = 0.25 * (t.at(L::LeftHip, i).x() + t.at(L::RightHip, i).x() + t.at(L::LeftShoulder, i).x() +
                                     t.at(L::RightShoulder, i).x());
        s.trunkShift.push_back(ankles > 1 ? (trunk - 0.5 * (left.x() + right.x())) * s.rightwards / ankles : kNone);
    }
    s.inSpace = legsInSpace(t);
    return s;
}

}  // namespace zevo
