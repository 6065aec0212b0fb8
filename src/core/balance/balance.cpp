#include "core/balance/balance.h"

#include <algorithm>
#include <cmath>

#include "core/base/degrees.h"

namespace zevo {
namespace {

/// Ear above the shoulder line, share of stature: eye height less shoulder height (Drillis & Contini, from memory).
constexpr double kHeadAboveShoulder = proportion::kEyeHeight - proportion::kShoulderHeight;
/// Sagittal slant of a squat that goes no deeper than this is not a squat's.
constexpr double kHighestThigh = 60, kLowestThigh = -40, kThighStep = 0.25;

/// A place held at the shoulder, shares of stature: `ahead` and `up` turn with the trunk, `forward` does not.
struct Held {
    double ahead, up, forward;
};

/// Mass centres of the arms and of the load (common practice, no source).
Held armsAt(const BalanceModel& m) {
    if (m.arms == Arms::PushedAway && m.load == LoadPlace::Chest) return {0, 0, 0.17};
    switch (m.load) {
        case LoadPlace::Chest: return {0.09, -0.10, 0};
        case LoadPlace::Front: return {0.07, -0.06, 0};
        case LoadPlace::Back: return {0.0, -0.06, 0};
        case LoadPlace::Sides:
        case LoadPlace::Overhead: return {0, 0, 0};
        case LoadPlace::None: break;
    }
    switch (m.arms) {
        case Arms::HeldIn: return {0.07, -0.08, 0};
        case Arms::BehindHead: return {0.0, 0.04, 0};
        case Arms::Reach:
        case Arms::PushedAway: break;
    }
    return {0, 0, 0.17};
}
Held loadAt(const BalanceModel& m) {
    // A weight pushed away goes ahead of the shoulder with the arms (an arm's length less what the hand is off it).
    if (m.arms == Arms::PushedAway && m.load == LoadPlace::Chest) return {0, -0.02, 0.30};
    switch (m.load) {
        case LoadPlace::Chest: return {0.13, -0.12, 0};
        case LoadPlace::Front: return {0.07, -0.02, 0};
        case LoadPlace::Back: return {-0.05, 0.01, 0};
        case LoadPlace::Sides:
        case LoadPlace::Overhead:
        case LoadPlace::None: break;
    }
    return {0, 0, 0};
}

/// Moments about the ankle, divided by the whole mass: x_mass = along·sin(lean) + ahead·cos(lean) + fixed.
struct Moments {
    double along = 0, ahead = 0, fixed = 0;
};

Moments momentsOf(const BalanceModel& m, double shinDeg, double thighDeg) {
    const double knee = m.shank * std::sin(shinDeg * kRadiansPerDegree);
    const double thigh = m.thigh * std::cos(m.thighsOutDeg * kRadiansPerDegree);
    const double hip = knee - thigh * std::cos(thighDeg * kRadiansPerDegree);
    Moments out;
    double mass = 0;
    auto add = [&](double share, double x) {
        mass += share;
        out.fixed += share * x;
    };
    add(2 * segment::kFoot.massShare, (0.5 - kAnkleAlongFoot) * m.foot);
    add(2 * segment::kShank.massShare, knee * (1 - segment::kShank.centreFromNearEnd));
    add(2 * segment::kThigh.massShare, hip + (knee - hip) * segment::kThigh.centreFromNearEnd);
    auto onTrunk = [&](double share, double up, double ahead, double forward) {
        add(share, hip + forward);
        out.along += share * up;
        out.ahead += share * ahead;
    };
    onTrunk(segment::kTrunk.massShare, (1 - segment::kTrunk.centreFromNearEnd) * m.trunk, 0, 0);
    onTrunk(segment::kHeadNeck.massShare, m.trunk + kHeadAboveShoulder * m.stature, 0, 0);
    const double arms = 2 * (segment::kUpperArm.massShare + segment::kForearm.massShare + segment::kHand.massShare);
    for (const auto& [share, held] : {std::pair{arms, armsAt(m)}, std::pair{m.loadShare, loadAt(m)}})
        onTrunk(share, m.trunk + held.up * m.stature, held.ahead * m.stature, held.forward * m.stature);
    return {out.along / mass, out.ahead / mass, out.fixed / mass};
}

double placeAlongFoot(const BalanceModel& m, double aim) {
    return (aim - kAnkleAlongFoot) * m.foot;
}

}  // namespace

double massAlongFoot(const BalanceModel& m, double shinDeg, double thighDeg, double leanDeg) {
    const Moments k = momentsOf(m, shinDeg, thighDeg);
    const double x =
        k.along * std::sin(leanDeg * kRadiansPerDegree) + k.ahead * std::cos(leanDeg * kRadiansPerDegree) + k.fixed;
    return x / m.foot + kAnkleAlongFoot;
}

std::optional<double> balancedLean(const BalanceModel& m, double shinDeg, double thighDeg, double aim) {
    const Moments k = momentsOf(m, shinDeg, thighDeg);
    const double reach = std::hypot(k.along, k.ahead), wanted = placeAlongFoot(m, aim) - k.fixed;
    if (!(reach > 0) || std::abs(wanted) > reach) return std::nullopt;
    return (std::asin(wanted / reach) - std::atan2(k.ahead, k.along)) / kRadiansPerDegree;
}

std::optional<double> neededLean(const BalanceModel& m, double thighDeg, double aim,
                                 std::optional<double> shinLimitDeg) {
    double shin = sagittalShin(m, m.ankleLimitDeg) + m.wedgeDeg;
    if (shinLimitDeg) shin = std::min(shin, *shinLimitDeg);
    return balancedLean(m, shin, thighDeg, aim);
}

double sagittalShin(const BalanceModel& m, double shinDeg) {
    return std::atan(std::tan(shinDeg * kRadiansPerDegree) * std::cos(m.thighsOutDeg * kRadiansPerDegree)) /
           kRadiansPerDegree;
}

double shinInItsPlane(const BalanceModel& m, double sagittalDeg) {
    return std::atan(std::tan(sagittalDeg * kRadiansPerDegree) / std::cos(m.thighsOutDeg * kRadiansPerDegree)) /
           kRadiansPerDegree;
}

double deepestBalanced(const BalanceModel& m, double aim) {
    double deepest = kHighestThigh;
    for (double thigh = kHighestThigh; thigh >= kLowestThigh; thigh -= kThighStep) {
        const auto lean = neededLean(m, thigh, aim);
        if (!lean || *lean + 90 - thigh > m.hipLimitDeg) break;
        deepest = thigh;
    }
    return deepest;
}

double shinWithKneeOverToe(const BalanceModel& m) {
    return std::asin(std::clamp((1 - kAnkleAlongFoot) * m.foot / m.shank, 0.0, 1.0)) / kRadiansPerDegree;
}

}  // namespace zevo
