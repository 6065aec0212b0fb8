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
// For contradictions, with a margin to the above on either side (our choice, no source).
constexpr double kUprightDeg = 30, kSurelyLyingDeg = 65, kFeetTogether = 0.15, kKneesAlikeDeg = 20;
constexpr double kGoesNowhere = 0.25;  // share of stature between the first and the last repetition

/// Inclination of the trunk at rest from upright, degrees.
double trunkAtRest(const Track& t) {
    const Vec2 trunk = t.standingFlatAt(t.nearOf(L::LeftShoulder)) - t.standingFlatAt(t.nearOf(L::LeftHip));
    return std::abs(std::atan2(trunk.x(), trunk.y())) * 57.2957795;
}

/// The most upright the trunk gets over the clip (but for a tenth of it), degrees from upright. Who stands does so now
/// and then, whatever the movement takes for rest; who lies never does.
double mostUpright(const Track& t) {
    std::vector<double> all;
    for (std::size_t i = 0; i < t.size(); ++i) {
        const Vec2 trunk = t.flatAt(t.nearOf(L::LeftShoulder), i) - t.flatAt(t.nearOf(L::LeftHip), i);
        all.push_back(std::abs(std::atan2(trunk.x(), trunk.y())) * 57.2957795);
    }
    return quantile(all, 0.1);
}

/// Ankles ahead of each other at a sample, share of stature.
double feetApart(const Track& t, std::size_t i) {
    return std::abs(t.flatAt(L::LeftAnkle, i).x() - t.flatAt(L::RightAnkle, i).x()) / std::max(1.0, t.bodyPx);
}

double kneesApart(const Series& s, std::size_t i) {
    return std::abs(s.legs[0].kneeFlexion[i] - s.legs[1].kneeFlexion[i]);
}

}  // namespace

std::string looksLike(const Track& t, const Series& s, const std::vector<Rep>& reps) {
    if (reps.empty()) return {};
    if (trunkAtRest(t) > kLyingDeg) return "bridge";
    if (t.view != ViewKind::Side) return {};
    std::vector<double> apart, knees, knee, lean;
    for (const Rep& r : reps) {
        apart.push_back(feetApart(t, r.bottom));
        knees.push_back(kneesApart(s, r.bottom));
        knee.push_back(s.kneeFlexion[r.bottom]);
        lean.push_back(s.trunkLean[r.bottom]);
    }
    if (median(apart) > kFeetApart || median(knees) > kKneesApartDeg) return "lunge";
    if (median(lean) > kFoldDeg && median(knee) < kHingeKneeDeg) return "hinge";
    return "squat";
}

std::optional<Notice> contradictionAtRest(const Track& t, const Movement& movement) {
    const bool fromSide = t.view == ViewKind::Side;
    const double trunk = mostUpright(t);
    if (movement.family == Family::Bridge) {
        // From the foot end a lying trunk shows short and in any direction: nothing is said of it there.
        if (fromSide && trunk < kUprightDeg)
            return Notice{NoticeKind::NobodyLies, {movement.title, std::string("squat")}};
    } else if (fromSide && trunk > kSurelyLyingDeg) {
        return Notice{NoticeKind::SomebodyLies, {movement.title, std::string("bridge")}};
    }
    return std::nullopt;
}

std::optional<Notice> contradictionInMotion(const Track& t, const Series& s, const Movement& movement,
                                            const std::vector<Rep>& reps) {
    if (t.view != ViewKind::Side || movement.family != Family::Lunge || movement.sideways) return std::nullopt;
    std::vector<double> apart, knees;
    for (const Rep& r : reps) {
        if (r.kind == RepKind::Partial) continue;
        apart.push_back(feetApart(t, r.bottom));
        knees.push_back(kneesApart(s, r.bottom));
    }
    if (apart.empty()) return std::nullopt;
    std::string looks = looksLike(t, s, reps);
    if (looks.empty() || looks == "lunge") looks = "squat";
    if (quantile(apart, 0.75) < kFeetTogether && quantile(knees, 0.75) < kKneesAlikeDeg)
        return Notice{NoticeKind::FeetNeverPart, {movement.title, looks}};
    if (movement.travels && reps.size() > 1) {
        const L hip = t.nearOf(L::LeftHip);
        const double gone = std::abs(t.flatAt(hip, reps.back().bottom).x() - t.flatAt(hip, reps.front().bottom).x());
        if (gone < kGoesNowhere * t.bodyPx)
            return Notice{NoticeKind::NobodyWalks, {movement.title, std::string("lunge")}};
    }
    return std::nullopt;
}

}  // namespace zevo
