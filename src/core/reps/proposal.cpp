#include "core/reps/proposal.h"

#include <cmath>

#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;

constexpr double kLyingDeg = 50;       // a trunk further from upright at rest lies or leans on a bench
constexpr double kFeetApart = 0.30;    // ankles ahead of each other, share of stature: a step
constexpr double kKneesApartDeg = 40;  // one knee bent this much more than the other, feet level: a lateral lunge
constexpr double kFoldDeg = 35, kHingeKneeDeg = 45;

}  // namespace

std::string looksLike(const Track& t, const Series& s, const std::vector<Rep>& reps) {
    if (reps.empty()) return {};
    const Vec2 trunk = t.standingFlatAt(t.nearOf(L::LeftShoulder)) - t.standingFlatAt(t.nearOf(L::LeftHip));
    if (std::abs(std::atan2(trunk.x(), trunk.y())) * 57.2957795 > kLyingDeg) return "bridge";
    if (t.view != ViewKind::Side) return {};
    std::vector<double> apart, knees, knee, lean;
    for (const Rep& r : reps) {
        apart.push_back(std::abs(t.flatAt(L::LeftAnkle, r.bottom).x() - t.flatAt(L::RightAnkle, r.bottom).x()) /
                        std::max(1.0, t.bodyPx));
        knees.push_back(std::abs(s.legs[0].kneeFlexion[r.bottom] - s.legs[1].kneeFlexion[r.bottom]));
        knee.push_back(s.kneeFlexion[r.bottom]);
        lean.push_back(s.trunkLean[r.bottom]);
    }
    if (median(apart) > kFeetApart || median(knees) > kKneesApartDeg) return "lunge";
    if (median(lean) > kFoldDeg && median(knee) < kHingeKneeDeg) return "hinge";
    return "squat";
}

}  // namespace zevo
