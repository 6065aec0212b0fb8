// Sagittal measures of every family: angles at the turning point, the feet, balance, head, and the top.
#include <algorithm>
#include <cmath>

#include "core/base/angles.h"
#include "core/base/calibration.h"
#include "core/body/anthropometry.h"
#include "core/measures/reading.h"
#include "core/signal/filter.h"

namespace zevo {

using L = Landmark;

std::optional<Reading> trunkLeanAtBottom(const MeasureInput& in) {
    return lineAngle(in, in.series.trunkLean, Quantity::Trunk,
                     {in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftShoulder)});
}
namespace {

/// As both legs stand in space, seen from the front (series/front_depth.h). What left and right differ by, half of
/// what the knee's height was weighed by, and for lines that are held against gravity how far the camera looks up or
/// down, is not known better. Nothing of another view or family, or where the network was less than sure of
/// a leg: of fifteen such repetitions eleven had the thigh 7 to 29° wrong (docs/measurements.md, “Depth from the
/// front”).
template <std::vector<double> LegInSpace::*Values>
std::optional<Reading> fromFront(const MeasureInput& in, double pm90, bool againstGravity) {
    const LegsInSpace& legs = in.front->inSpace;
    if ((legs.weighed[0].*Values).empty()) return std::nullopt;
    constexpr double kSeen = calibrated("front.seen"), kPitchPm = calibrated("front.pitch");
    const std::size_t at = in.rep.bottom, half = in.samples(kShortS);
    for (const L end : {L::LeftHip, L::LeftKnee, L::LeftAnkle})
        for (const Side side : {Side::Left, Side::Right}) {
            const L point = ofSide(end, side);
            if (!in.track.isManual(point, at) && in.track.seen[static_cast<std::size_t>(point)][at] < kSeen)
                return std::nullopt;
        }
    auto ofBoth = [&](const std::array<LegInSpace, 2>& of) {
        return std::array{meanAround(of[0].*Values, at, half), meanAround(of[1].*Values, at, half)};
    };
    const auto [l, r] = ofBoth(legs.weighed);
    const auto [drawnL, drawnR] = ofBoth(legs.asDrawn);
    const double pitch = !againstGravity ? 0
                         : in.track.hold ? in.track.hold->pitchPm90
                                         : kPitchPm,
                 byWeighing = (l + r - drawnL - drawnR) / 2;
    return reading((l + r) / 2, rootSumSquare({pm90, pitch, (l - r) / 2, byWeighing / 2}), at);
}

}  // namespace

std::optional<Reading> thighAngleAtBottom(const MeasureInput& in) {
    if (in.front) return fromFront<&LegInSpace::thighAngle>(in, calibrated("front.thigh"), true);
    return lineAngle(in, in.legSeries().thighAngle, Quantity::Thigh, {in.leg(L::LeftKnee), in.leg(L::LeftHip)});
}

namespace {

std::optional<Reading> kneeFlexionAtBottom(const MeasureInput& in) {
    if (in.front) return fromFront<&LegInSpace::kneeFlexion>(in, calibrated("front.knee"), false);
    return jointAngle(in, in.legSeries().kneeFlexion, Quantity::Knee, {in.leg(L::LeftHip), in.leg(L::LeftKnee)},
                      {in.leg(L::LeftKnee), in.leg(L::LeftAnkle)});
}
std::optional<Reading> hipFlexionAtBottom(const MeasureInput& in) {
    return jointAngle(in, in.legSeries().hipFlexion, Quantity::Hip, {in.leg(L::LeftHip), in.leg(L::LeftKnee)},
                      {in.track.nearOf(L::LeftShoulder), in.track.nearOf(L::LeftHip)});
}
std::optional<Reading> shinAngleAtBottom(const MeasureInput& in) {
    if (in.front) return fromFront<&LegInSpace::shinAngle>(in, calibrated("front.shin"), true);
    return lineAngle(in, in.legSeries().shinAngle, Quantity::Shin, {in.leg(L::LeftAnkle), in.leg(L::LeftKnee)});
}

/// How much further the trunk leans than the shins: long thighs and short ankles raise it, so does folding.
std::optional<Reading> leanBeyondShins(const MeasureInput& in) {
    const auto trunk = trunkLeanAtBottom(in), shin = shinAngleAtBottom(in);
    if (!trunk || !shin) return std::nullopt;
    return reading(trunk->value - shin->value, std::hypot(trunk->pm90, shin->pm90), trunk->sample);
}

/// Knee ahead of the toe tip. Planted feet: from the foot as it stands (foot_extent.h); a working leg that stepped:
/// from its foot as it stands at the turning point.
std::optional<Reading> kneePastToe(const MeasureInput& in) {
    const Track& t = in.track;
    if (t.cmPerPixel <= 0) return std::nullopt;
    const std::size_t at = in.rep.bottom;
    // Both ends of the error: where the foot ends (foot_extent.h) and where the knee is (docs/measurements.md).
    const double jitter = 1.645 * t.noisePx[static_cast<std::size_t>(in.leg(L::LeftKnee))] * t.cmPerPixel;
    if (!in.rep.leg)
        return reading(meanAround(in.series.kneePastToe, at, in.samples(kShortS)),
                       rootSumSquare({jitter, calibrated("knee_past_toe.planted")}), at);
    const double heel = t.flatAt(in.leg(L::LeftHeel), at).x(), toe = t.flatAt(in.leg(L::LeftToe), at).x();
    const double tip = 0.5 * (heel + toe) + 0.5 * std::max(toe - heel, proportion::kFootLength * t.bodyPx);
    return reading((t.flatAt(in.leg(L::LeftKnee), at).x() - tip) * t.cmPerPixel,
                   rootSumSquare({jitter, calibrated("knee_past_toe.stepped")}), at);
}

std::optional<Reading> massOverFoot(const MeasureInput& in) {
    // 90th percentile of the errors of both figures; see docs/measurements.md
    return reading(meanAround(in.series.massOverFoot, in.rep.bottom, in.samples(kLongS)), calibrated("mass_over_foot"),
                   in.rep.bottom);
}

/// A head is rigid: nose and eye stay as far from the ear as they were at rest, but for the little it turns aside. What
/// shows otherwise is not a head in profile: hair over the ear, a face that looks away.
bool headIsWhole(const Track& t, std::size_t at) {
    const L ear = t.nearOf(L::LeftEar), eye = t.nearOf(L::LeftEye);
    auto times = [&](L point) {
        const double rest = (t.standingFlatAt(point) - t.standingFlatAt(ear)).norm();
        return (t.flatAt(point, at) - t.flatAt(ear, at)).norm() / std::max(1.0, rest);
    };
    const double nose = times(L::Nose), eyes = times(eye), skewed = nose > eyes ? nose / eyes : eyes / nose;
    return std::min(nose, eyes) > calibrated("doubt.head_small") &&
           std::max(nose, eyes) < calibrated("doubt.head_large") && skewed < calibrated("doubt.head_skewed");
}

/// Head against the trunk, as a change from standing. Where the picture of the head was laid over the one at rest
/// (Track::head), the trunk errs more than its turn. Elsewhere by two lines that turn with the head: from the ear to
/// the nose and from the ear to the eye. What they differ by is not known better. A trunk that folds far takes the face
/// out of profile and the shoulder's point along with the arm: figures of another making had a clean hinge called off
/// the line at ±11°, so a fifth of the fold is allowed besides (project choice; on our own figures ±11° held in 10 of
/// 10 hinges).
std::optional<Reading> neckChange(const MeasureInput& in) {
    constexpr double kPm = calibrated("neck"), kShareOfFold = calibrated("neck.fold");
    const Track& t = in.track;
    const L hip = t.nearOf(L::LeftHip), shoulder = t.nearOf(L::LeftShoulder), ear = t.nearOf(L::LeftEar),
            eye = t.nearOf(L::LeftEye);
    const std::size_t at = in.rep.bottom;
    if (const auto* head = t.headAt(at)) {
        constexpr double kPicturePm = calibrated("neck.picture"), kInSquatPm = calibrated("neck.picture.squat");
        const double half = t.family == Family::Squat ? kInSquatPm : kPicturePm,
                     turned = calibrated("neck.picture.turn") * head->chinUpDeg;
        // It tells of its own moment; around it the network's line counts again, which may leap.
        const std::size_t shown = t.sampleAt(head->timeS);
        const double lean = meanAround(in.series.trunkLean, at, in.samples(kLongS)) - in.series.trunkLean[shown];
        return reading(wrapDegrees(in.series.neckChange[shown] + lean), rootSumSquare({half, turned, head->apartDeg}),
                       at);
    }
    if (!headIsWhole(t, at)) return std::nullopt;
    const double byNose = meanAround(in.series.neckChange, at, in.samples(kLongS));
    const double byEye =
        wrapDegrees(headAgainstTrunk(t.flatAt(hip, at), t.flatAt(shoulder, at), t.flatAt(ear, at), t.flatAt(eye, at)) -
                    headAgainstTrunk(t.standingFlatAt(hip), t.standingFlatAt(shoulder), t.standingFlatAt(ear),
                                     t.standingFlatAt(eye)));
    const double fold = std::max(0.0, meanAround(in.series.trunkLean, at, in.samples(kLongS)));
    return reading(byNose, rootSumSquare({kPm, wrapDegrees(byNose - byEye), kShareOfFold * fold}), at);
}

/// Time from one joint having made a quarter of its way to the other: knee before hip is +.
std::optional<Reading> kneeLead(const MeasureInput& in) {
    auto quarter = [&](const std::vector<double>& s) {
        const double from = meanAround(s, in.rep.start, in.samples(kShortS)),
                     to = meanAround(s, in.rep.arrive, in.samples(kShortS));
        const double level = from + 0.25 * (to - from);
        for (std::size_t i = in.rep.start; i < in.rep.arrive; ++i)
            if ((s[i] < level) != (s[i + 1] < level)) {
                const double w = (level - s[i]) / (s[i + 1] - s[i]);
                return static_cast<double>(i) + w;
            }
        return std::nan("");
    };
    const double hip = quarter(in.series.hipFlexion), knee = quarter(in.series.kneeFlexion);
    if (std::isnan(hip) || std::isnan(knee)) return std::nullopt;
    const double lowering = static_cast<double>(in.rep.arrive - in.rep.start) / in.track.rate;
    // Slow descents cross the quarter mark less sharply. Of a large lead the network shows half on drawn figures, most
    // of it on lifelike people, never more than there is (docs/measurements.md).
    return reading((hip - knee) / in.track.rate * 1000,
                   std::max(calibrated("knee_lead"), calibrated("knee_lead.slow") * lowering),
                   static_cast<std::size_t>(std::min(hip, knee)));
}

/// The smallest value of a course at the top.
std::optional<Reading> atTop(const MeasureInput& in, const std::vector<double>& s, double pm90) {
    const auto [from, to] = topSpan(in);
    const std::size_t at = smallestIn(s, from, to);
    return reading(meanAround(s, at, in.samples(kShortS)), pm90, at);
}
/// The network's points draw a standing knee straighter or more bent than it is, by 3° on average and each client
/// otherwise. Against the client's own stand the ± is only what standing twice differs by (docs/measurements.md, “Knees
/// at the top”).
std::optional<Reading> topKneeAgainst(const MeasureInput& in, std::optional<double> stand) {
    constexpr double kStandingTwicePm = calibrated("top.twice");
    const Track& t = in.track;
    const L hip = in.leg(L::LeftHip), knee = in.leg(L::LeftKnee), ankle = in.leg(L::LeftAnkle);
    auto top = atTop(in, in.legSeries().kneeFlexion, 0);
    if (!top) return top;
    const double misplaced =
        segmentLengthDeviation(t, {hip, knee}, top->sample) + segmentLengthDeviation(t, {knee, ankle}, top->sample);
    const double asRead =
        t.family == Family::Hinge ? calibrated("hinge.knee.top") : allowanceOf(t.family, Quantity::Knee).still;
    top->pm90 = rootSumSquare(
        {stand ? kStandingTwicePm : asRead, jitterOfLine(t, {hip, knee}, in.rep.end), misplaced * kDegreesPerShare});
    if (stand) top->value -= *stand;
    return top;
}
/// How the knee stood in the second before the client first began to go down, where the clip has it. Not in all rests:
/// between repetitions the knees may stay bent, or snap, every time. By the time the hips have sunk by kGone, knees
/// have been bending for about half a second.
std::optional<double> kneeAtFirstStand(const MeasureInput& in) {
    constexpr double kGone = 0.02, kBendingS = 0.5, kLeastS = 0.3;
    const auto& depth = in.series.depth;
    const auto gone = static_cast<std::size_t>(
        std::find_if(depth.begin(), depth.end(), [](double d) { return d > kGone; }) - depth.begin());
    const std::size_t to = gone - std::min(gone, in.samples(kBendingS)), from = to - std::min(to, in.samples(1.0));
    if (to - from < in.samples(kLeastS) || gone > in.rep.bottom) return std::nullopt;
    const auto& bend = in.legSeries().kneeFlexion;
    return quantile({bend.begin() + static_cast<long>(from), bend.begin() + static_cast<long>(to)}, 0.5);
}
/// Where the client stood with straight knees as they were asked to, that is straight. A clip that begins in the first
/// descent has only the rests between the repetitions to go by.
std::optional<Reading> topKneeFlexion(const MeasureInput& in) {
    const Track& t = in.track;
    const L hip = in.leg(L::LeftHip), knee = in.leg(L::LeftKnee), ankle = in.leg(L::LeftAnkle);
    // A step or a split stands otherwise than the rest before.
    if (!in.stoodStraight || in.rep.leg) return topKneeAgainst(in, {});
    const auto first = kneeAtFirstStand(in);
    return topKneeAgainst(
        in, first ? *first : kneeFlexion(t.standingFlatAt(hip), t.standingFlatAt(knee), t.standingFlatAt(ankle)));
}
/// However they first stood: knees that are no straighter than then do not snap.
std::optional<Reading> topKneeChange(const MeasureInput& in) {
    const auto first = in.rep.leg ? std::nullopt : kneeAtFirstStand(in);
    if (!first) return std::nullopt;
    return topKneeAgainst(in, first);
}
std::optional<Reading> topTrunkLean(const MeasureInput& in) {
    const SegmentAngle trunk{in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftShoulder)};
    auto top = atTop(in, in.series.trunkLean, 0);
    if (top)
        top->pm90 = rootSumSquare({allowanceOf(in.track.family, Quantity::Trunk).still,
                                   in.track.levelPm90() + in.levelDoubtDeg, jitterOfLine(in.track, trunk, in.rep.end),
                                   segmentLengthDeviation(in.track, trunk, top->sample) * kDegreesPerShare});
    return top;
}

}  // namespace

std::span<const MeasureDef> sagittalMeasures() {
    using namespace row;
    static const std::vector<PointRead> leg = working({L::LeftHip, L::LeftKnee, L::LeftAnkle}),
                                        trunk = near({L::LeftHip, L::LeftShoulder}),
                                        body = near({L::LeftShoulder, L::LeftHip, L::LeftKnee, L::LeftAnkle,
                                                     L::LeftHeel, L::LeftToe});
    static const std::vector<MeasureDef> all{
        {"thigh_angle",
         "Depth: thigh from level",
         "thigh inclination at the bottom",
         Unit::Degrees,
         kSideView | kFrontView,
         Of::WorkingLeg,
         working({L::LeftHip, L::LeftKnee}),
         kThighCourse,
         {{Draw::FromEdge, kKnee, kHip}},
         {-40, 90},
         thighAngleAtBottom},
        {"knee_flexion",
         "Knee bend",
         "knee flexion",
         Unit::Degrees,
         kSideView | kFrontView,
         Of::WorkingLeg,
         leg,
         kKneeCourse,
         {{Draw::Joint, kHip, kKnee, kAnkle}},
         {0, 150},
         kneeFlexionAtBottom},
        {"hip_flexion",
         "Hip bend",
         "hip flexion",
         Unit::Degrees,
         kSideView,
         Of::WorkingLeg,
         near({L::LeftShoulder}) + working({L::LeftHip, L::LeftKnee}),
         kHipCourse,
         {{Draw::Joint, kShoulder, kHip, kKnee}},
         {-30, 160},
         hipFlexionAtBottom},
        {"trunk_lean",
         "Trunk lean",
         "trunk inclination from vertical",
         Unit::Degrees,
         kSideView,
         Of::Body,
         trunk,
         kTrunkCourse,
         {{Draw::FromVertical, kHip, kShoulder}},
         {-30, 110},
         trunkLeanAtBottom},
        {"shin_angle",
         "Shin lean",
         "ankle dorsiflexion, shin from vertical",
         Unit::Degrees,
         kSideView | kFrontView,
         Of::WorkingLeg,
         working({L::LeftKnee, L::LeftAnkle}),
         kShinCourse,
         {{Draw::FromVertical, kAnkle, kKnee}},
         {-40, 60},
         shinAngleAtBottom},
        {"lean_over_shin",
         "Lean beyond the shins",
         "trunk minus shin inclination",
         Unit::Degrees,
         kSideView,
         Of::Body,
         body,
         {nullptr,
          [](const ViewSeries& v, Side) {
              std::vector<double> out(v.side.trunkLean.size());
              for (std::size_t i = 0; i < out.size(); ++i) out[i] = v.side.trunkLean[i] - v.side.shinAngle[i];
              return out;
          }},
         {{Draw::Against, kAnkle, kKnee, kHip, kShoulder}},
         {-20, 60},
         leanBeyondShins},
        {"knee_past_toe",
         "Knee ahead of toes",
         "knee travel past the toe tip",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         working({L::LeftKnee, L::LeftToe}),
         {nullptr, [](const ViewSeries& v, Side) { return v.side.kneePastToe; }},
         {{Draw::ToeTip, kKnee}},
         {-25, 25},
         kneePastToe},
        {"mass_over_foot",
         "Balance over the foot",
         "mass centre, 0 heel … 1 toe tip",
         Unit::Share,
         kSideView,
         Of::Body,
         body,
         {nullptr, [](const ViewSeries& v, Side) { return v.side.massOverFoot; }},
         {{Draw::OverFoot}},
         {0, 1},
         massOverFoot},
        {"neck_change",
         "Head off the trunk line",
         "neck extension against standing",
         Unit::Degrees,
         kSideView,
         Of::Body,
         near({L::LeftEar, L::LeftEye, L::LeftShoulder}),
         {nullptr, [](const ViewSeries& v, Side) { return v.side.neckChange; }},
         {{Draw::Segment, kHip, kShoulder}, {Draw::Segment, kEar, kNose}},
         {-60, 60},
         neckChange},
        {"knee_lead",
         "Knees start before hips",
         "knee onset before hip onset",
         Unit::Milliseconds,
         kSideView,
         Of::Body,
         body,
         kByKnee,
         {{Draw::Joint, kHip, kKnee, kAnkle}, {Draw::Segment, kHip, kShoulder}},
         {-300, 500},
         kneeLead},
        {"top_knee_flexion",
         "Knees at the top",
         "knee flexion standing",
         Unit::Degrees,
         kSideView,
         Of::WorkingLeg,
         leg,
         kByKnee,
         {{Draw::Joint, kHip, kKnee, kAnkle}},
         {-15, 60},
         topKneeFlexion},
        {"top_knee_change",
         "Knees at the top against rest",
         "knee flexion standing, less that at rest",
         Unit::Degrees,
         kSideView,
         Of::WorkingLeg,
         leg,
         kByKnee,
         {{Draw::Joint, kHip, kKnee, kAnkle}},
         {-20, 40},
         topKneeChange},
        {"top_trunk_lean",
         "Trunk at the top",
         "trunk inclination standing",
         Unit::Degrees,
         kSideView,
         Of::Body,
         trunk,
         kByTrunk,
         {{Draw::FromVertical, kHip, kShoulder}},
         {-30, 30},
         topTrunkLean},
    };
    return all;
}

}  // namespace zevo
