// Hinges: how the hips travel against the knees, and where the hands go.
#include <cmath>

#include "core/base/calibration.h"
#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// Hip bending for each degree of knee bending, against standing. The ± is that of the knee, which is the smaller one.
std::optional<Reading> hipPerKnee(const MeasureInput& in) {
    const std::size_t at = in.rep.bottom;
    const double hip = meanAround(in.series.hipFlexion, at, in.samples(kShortS)) -
                       meanAround(in.series.hipFlexion, in.rep.start, in.samples(kShortS));
    const double knee = meanAround(in.series.kneeFlexion, at, in.samples(kShortS)) -
                        meanAround(in.series.kneeFlexion, in.rep.start, in.samples(kShortS));
    if (knee < 5) return std::nullopt;  // a knee that hardly bends cannot be set against anything
    const double v = hip / knee, kneeError = allowanceOf(in.track.family, Quantity::Knee).deep;
    return reading(v, v * std::min(1.0, kneeError / knee), at);
}

/// How far the hips have gone back when the trunk leans 45° (or at the bottom of a shallower hinge), share of the leg.
std::optional<Reading> hipTravel(const MeasureInput& in) {
    const Track& t = in.track;
    const L hip = t.nearOf(L::LeftHip);
    const double leg = (proportion::kThigh + proportion::kShank) * t.bodyPx;
    if (leg < 1) return std::nullopt;
    std::size_t at = in.rep.start;
    while (at < in.rep.bottom && in.series.trunkLean[at] < 45) ++at;
    if (in.series.trunkLean[at] < 25) return std::nullopt;
    return reading((t.flatAt(hip, in.rep.start).x() - t.flatAt(hip, at).x()) / leg, calibrated("hinge.hip_travel"), at);
}

/// The hand, a little beyond the wrist: share of stature between the two (hand's middle, Drillis & Contini, from
/// memory).
constexpr double kHandBeyondWrist = 0.05;

/// Only hands that hang are where a load would be: those on a stick, a bar on the back or a post tell nothing of it.
bool handsHang(const MeasureInput& in) {
    return in.hands == Hands::Free || in.hands == Hands::Sides;
}

Vec2 handAt(const MeasureInput& in, std::size_t sample) {
    const Track& t = in.track;
    return t.flatAt(t.nearOf(L::LeftWrist), sample) - Vec2(0, kHandBeyondWrist * t.bodyPx);
}

/// How far the hands are ahead of the shin (below the knee) or of the mid-foot (above it).
double handAhead(const MeasureInput& in, std::size_t at) {
    const Track& t = in.track;
    const Vec2 ankle = t.standingFlatAt(t.nearOf(L::LeftAnkle));
    const double midFoot =
        0.5 * (t.standingFlatAt(t.nearOf(L::LeftHeel)).x() + t.standingFlatAt(t.nearOf(L::LeftToe)).x());
    const Vec2 hand = handAt(in, at), knee = t.flatAt(t.nearOf(L::LeftKnee), at);
    const double w = (hand.y() - ankle.y()) / std::max(1.0, knee.y() - ankle.y());
    const double shin = ankle.x() + (knee.x() - ankle.x()) * std::min(1.0, std::max(0.0, w));
    return (hand.x() - std::max(midFoot, shin)) * t.cmPerPixel;
}

/// The load's way over the whole repetition: the furthest ahead that is held for a fifth of a second, there or back.
std::optional<Reading> loadAhead(const MeasureInput& in) {
    // Where the load itself is marked and held, the hands do not stand for it any more.
    if (in.track.cmPerPixel <= 0 || !handsHang(in) || (in.marks && in.marks->loadIn(in.rep))) return std::nullopt;
    const std::size_t hold = std::max<std::size_t>(1, in.samples(0.2));
    std::optional<double> most;
    std::size_t at = in.rep.bottom;
    for (std::size_t i = in.rep.start; i + hold <= in.rep.end; ++i) {
        double least = handAhead(in, i);
        for (std::size_t k = i + 1; k <= i + hold; ++k) least = std::min(least, handAhead(in, k));
        if (!most || least > *most) most = least, at = i + hold / 2;
    }
    if (!most) return std::nullopt;
    return reading(*most, calibrated("hinge.load_ahead"), at);
}

/// Height of the hands at the lowest, along the shin: 0 ankle, 1 knee.
std::optional<Reading> handsHeight(const MeasureInput& in) {
    const Track& t = in.track;
    const std::size_t at = in.rep.bottom;
    const double ankle = t.flatAt(t.nearOf(L::LeftAnkle), at).y(), knee = t.flatAt(t.nearOf(L::LeftKnee), at).y();
    if (!handsHang(in) || knee - ankle < 1) return std::nullopt;
    return reading((handAt(in, at).y() - ankle) / (knee - ankle), calibrated("hinge.hands"), at);
}

/// Height of the hips at the lowest, between knee (0) and shoulder (1): where a pull from the floor begins, and how
/// deep the hips are in any other hinge.
std::optional<Reading> startHips(const MeasureInput& in) {
    const Track& t = in.track;
    const std::size_t at = in.rep.bottom;
    auto height = [&](L left) { return t.flatAt(t.nearOf(left), at).y(); };
    const double knee = height(L::LeftKnee), shoulder = height(L::LeftShoulder);
    if (shoulder - knee < 0.05 * t.bodyPx) return std::nullopt;
    // A hip is known to about 2 % of stature, shoulder and knee to half of that (virtual clients).
    return reading((height(L::LeftHip) - knee) / (shoulder - knee), 0.04 * t.bodyPx / (shoulder - knee), at);
}

/// How much of the knees' bend is done when the hands pass the knees on the way down: a pull is put down hips first,
/// knees after, and comes back the other way round.
std::optional<Reading> kneesEarly(const MeasureInput& in) {
    if (!handsHang(in)) return std::nullopt;
    const Track& t = in.track;
    std::size_t at = in.rep.start;
    while (at < in.rep.bottom && handAt(in, at).y() > t.flatAt(t.nearOf(L::LeftKnee), at).y()) ++at;
    if (at == in.rep.start || at == in.rep.bottom) return std::nullopt;  // the hands never pass
    const double before = in.series.kneeFlexion[in.rep.start],
                 all = meanAround(in.series.kneeFlexion, in.rep.bottom, in.samples(kShortS)) - before;
    if (all < 15) return std::nullopt;
    const double done = meanAround(in.series.kneeFlexion, at, in.samples(kShortS)) - before;
    return reading(done / all, 2 * allowanceOf(t.family, Quantity::Knee).deep / all, at);
}

}  // namespace

std::span<const MeasureDef> hingeMeasures() {
    using namespace row;
    static const std::vector<PointRead> hand = near({L::LeftWrist, L::LeftKnee});
    static const std::vector<SketchPart> overShin{{Draw::OverShin, kWrist, kKnee, kAnkle}};
    static const std::vector<MeasureDef> all{
        {"hip_per_knee",
         "Hip bend per knee bend",
         "hip flexion ÷ knee flexion",
         Unit::Share,
         kSideView,
         Of::Body,
         near({L::LeftHip, L::LeftKnee, L::LeftAnkle}),
         kByKnee,
         {{Draw::Joint, kHip, kKnee, kAnkle}, {Draw::Segment, kHip, kShoulder}},
         {0, 10},
         hipPerKnee},
        {"hip_travel",
         "Hips go back",
         "backward hip travel at 45° of lean, share of the leg",
         Unit::Share,
         kSideView,
         Of::Body,
         near({L::LeftHip}),
         kByTrunk,
         {{Draw::Path, kNearHip}},
         {-0.2, 0.5},
         hipTravel},
        {"load_ahead",
         "Load ahead of the legs",
         "hand ahead of shin or mid-foot",
         Unit::Centimetres,
         kSideView,
         Of::Body,
         hand,
         kByKnee,
         overShin,
         {-20, 40},
         loadAhead},
        {"hands_height",
         "Hands along the shin",
         "height of the hands, 0 ankle … 1 knee",
         Unit::Share,
         kSideView,
         Of::Body,
         hand,
         kByKnee,
         overShin,
         {-0.5, 2.5},
         handsHeight},
        {"start_hips",
         "Hips between knee and shoulder",
         "height of the hips at the lowest, 0 knee … 1 shoulder",
         Unit::Share,
         kSideView,
         Of::Body,
         near({L::LeftHip, L::LeftKnee, L::LeftShoulder}),
         kByTrunk,
         {{Draw::Segment, kKnee, kNearHip}, {Draw::Segment, kNearHip, kShoulder}},
         {-0.2, 1.1},
         startHips},
        {"knees_early",
         "Knees bend before the hands pass them",
         "share of the knee bend done when the hands pass the knees, going down",
         Unit::Share,
         kSideView,
         Of::Body,
         hand,
         kByKnee,
         overShin,
         {-0.2, 1.2},
         kneesEarly},
    };
    return all;
}

}  // namespace zevo
