#include "core/track/side_depths.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "core/base/angles.h"
#include "core/base/degrees.h"
#include "core/signal/filter.h"
#include "core/track/view_estimate.h"

namespace zevo {
namespace {

/// Joint centres beside the middle of the body, statures: a little more than half the pelvis' and a little less than
/// half the shoulders' breadth of the tables (body/anthropometry.h), which are taken over the outside.
constexpr double kHip = 0.050, kShoulder = 0.105;
/// Stances lie between hip and shoulder breadth, more often near the latter, and some much wider (common practice, no
/// source): half of it, and one standard deviation.
constexpr double kUsualHalfStance = 0.090, kUsualSd = 0.025;
/// By how much an ankle's height in the picture scatters from client to client, one standard deviation in statures
/// (docs/measurements.md, “Lifelike people”); what both ankles are off alike hardly matters.
constexpr double kAnkleSd = 0.008;
/// How far a camera that nothing is known of looks up or down, and how well a room tells it at best; degrees, one
/// standard deviation (project choices).
constexpr double kUnknownPitchSd = 4, kLeastPitchSd = 0.5;
constexpr double kToesOutDeg = 15, kNetworksShare = 0.3;

double halfStanceOf(const Track& track, double bodyPx, double focalPx) {
    const double pitchDeg = track.hold ? track.hold->pitchDeg : 0,
                 pitchSd = track.hold ? std::max(kLeastPitchSd, track.hold->pitchPm90 / 1.645) : kUnknownPitchSd;
    const double horizon = track.pictureHeight / 2.0 + focalPx * std::tan(pitchDeg * kRadiansPerDegree);
    const auto near = static_cast<std::size_t>(ofSide(Landmark::LeftAnkle, track.near)),
               far = static_cast<std::size_t>(ofSide(Landmark::LeftAnkle, otherSide(track.near)));
    constexpr double kTooNearTheHorizon = 0.1;  // statures; a camera on the floor sees no floor
    std::vector<double> halves, belows;
    for (std::size_t i = 0; i < track.size(); ++i) {
        const double nearBelow = horizon - track.points[near][i].y(), farBelow = horizon - track.points[far][i].y();
        if (!(std::min(nearBelow, farBelow) > kTooNearTheHorizon * bodyPx)) continue;
        halves.push_back(0.5 * focalPx / bodyPx * std::log(nearBelow / farBelow));
        belows.push_back(nearBelow);
    }
    if (halves.empty() || halves.size() < track.size() / 2) return kUsualHalfStance;
    const double seen = median(halves), below = median(belows);
    const double sd = std::hypot(0.5 * focalPx / below * kAnkleSd * std::numbers::sqrt2,
                                 seen * focalPx / below * pitchSd * kRadiansPerDegree);
    const double share = kUsualSd * kUsualSd / (kUsualSd * kUsualSd + sd * sd);
    return std::max(0.0, kUsualHalfStance + share * (seen - kUsualHalfStance));
}

}  // namespace

SideDepths::SideDepths(const Track& track, double bodyPx, double focalPx)
    : m_track(track), m_bodyPx(std::max(1.0, bodyPx)) {
    // Turned further it is a side view only because the coach says so.
    const double turned = std::clamp(track.towardsDeg, -kMostOffSideDeg, kMostOffSideDeg);
    m_turn = track.family == Family::Bridge ? 0 : turned * kRadiansPerDegree;
    const bool sideBySide = track.family == Family::Squat || track.family == Family::Hinge;
    m_halfStance = sideBySide ? halfStanceOf(track, m_bodyPx, focalPx) : kUsualHalfStance;
}

double SideDepths::lateral(Landmark landmark, std::size_t at) const {
    if (landmark >= Landmark::LeftAnkle) return m_halfStance;
    if (landmark == Landmark::LeftHip || landmark == Landmark::RightHip) return kHip;
    if (landmark == Landmark::LeftShoulder || landmark == Landmark::RightShoulder) return kShoulder;
    const auto id = static_cast<std::size_t>(landmark);
    const Vec2 &hip = m_track.points[id - 2][at], &knee = m_track.points[id][at], &ankle = m_track.points[id + 2][at];
    const double between = 0.5 * (kHip + m_halfStance),
                 overFoot = m_halfStance +
                            std::abs(knee.x() - ankle.x()) / m_bodyPx * std::tan(kToesOutDeg * kRadiansPerDegree);
    return std::lerp(between, overFoot, std::sin(0.5 * kneeFlexion(hip, knee, ankle) * kRadiansPerDegree));
}

double SideDepths::of(Landmark landmark, std::size_t at, double guessed) const {
    const bool foot = landmark >= Landmark::LeftAnkle,
               knee = landmark == Landmark::LeftKnee || landmark == Landmark::RightKnee,
               hip = landmark == Landmark::LeftHip || landmark == Landmark::RightHip,
               shoulder = landmark == Landmark::LeftShoulder || landmark == Landmark::RightShoulder;
    const bool stands = m_track.family != Family::Bridge;
    if (!foot && !(stands && (hip || shoulder)) && !(knee && m_track.family == Family::Squat)) return guessed;
    const bool left = static_cast<std::size_t>(landmark) % 2 == 1;
    const double side = left == (m_track.near == Side::Left) ? -1 : 1;
    const double hipsX = 0.5 * (m_track.at(Landmark::LeftHip, at).x() + m_track.at(Landmark::RightHip, at).x());
    const double ahead = (m_track.at(landmark, at).x() - hipsX) / m_bodyPx;
    const double depth = side * lateral(landmark, at) * std::cos(m_turn) - ahead * std::tan(m_turn);
    return knee ? std::lerp(depth, guessed, kNetworksShare) : depth;
}

}  // namespace zevo
