// Sagittal measures of every family: angles at the turning point, the feet, balance, head, and the top.
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/angles.h"
#include "core/measures/reading.h"

namespace zevo {

using L = Landmark;

std::optional<Reading> trunkLeanAtBottom(const MeasureInput& in) {
    return lineAngle(in, in.series.trunkLean, Quantity::Trunk,
                     {in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftShoulder)});
}
std::optional<Reading> thighAngleAtBottom(const MeasureInput& in) {
    return lineAngle(in, in.legSeries().thighAngle, Quantity::Thigh, {in.leg(L::LeftKnee), in.leg(L::LeftHip)});
}

namespace {

std::optional<Reading> kneeFlexionAtBottom(const MeasureInput& in) {
    return jointAngle(in, in.legSeries().kneeFlexion, Quantity::Knee, {in.leg(L::LeftHip), in.leg(L::LeftKnee)},
                      {in.leg(L::LeftKnee), in.leg(L::LeftAnkle)});
}
std::optional<Reading> hipFlexionAtBottom(const MeasureInput& in) {
    return jointAngle(in, in.legSeries().hipFlexion, Quantity::Hip, {in.leg(L::LeftHip), in.leg(L::LeftKnee)},
                      {in.track.nearOf(L::LeftShoulder), in.track.nearOf(L::LeftHip)});
}
std::optional<Reading> shinAngleAtBottom(const MeasureInput& in) {
    return lineAngle(in, in.legSeries().shinAngle, Quantity::Shin, {in.leg(L::LeftAnkle), in.leg(L::LeftKnee)});
}

/// How much further the trunk leans than the shins: long thighs and short ankles raise it, so does folding.
std::optional<Reading> leanBeyondShins(const MeasureInput& in) {
    const auto trunk = trunkLeanAtBottom(in), shin = shinAngleAtBottom(in);
    if (!trunk || !shin) return std::nullopt;
    return reading(trunk->value - shin->value, std::hypot(trunk->pm90, shin->pm90), trunk->sample);
}

/// Whether what a hinge lowers in its hands comes down before the shoe: plates are as thick as a shin is long.
bool handsAtTheShoe(const MeasureInput& in, std::size_t at) {
    constexpr double kOfShank = 0.7;
    const Track& t = in.track;
    if (t.family != Family::Hinge) return false;
    const L knee = t.nearOf(L::LeftKnee), ankle = t.nearOf(L::LeftAnkle);
    const double shank = (t.standingFlatAt(knee) - t.standingFlatAt(ankle)).norm();
    return t.flatAt(t.nearOf(L::LeftWrist), at).y() - t.standingFlatAt(ankle).y() < kOfShank * shank;
}

/// The most an end of the shoe rises for at least 0.15 s during the repetition, from the shoe as read in the picture.
/// Sure only where most moments around the turning point could be read; a rise between the two sure answers whose
/// strip did not find itself well is a compromise between shoe and shadow, and is left open. Thresholds: own
/// measurements on figures of several renderers (docs/measurements.md).
std::optional<Reading> riseOfShoe(const MeasureInput& in, ShoeReading Track::ShoeMoment::*end, double stillPm,
                                  double leastDepthShare = 0) {
    constexpr double kAroundS = 0.30, kShareRead = 0.6, kHeldS = 0.15;
    constexpr double kSmall = 0.4, kEdge = 1.5, kAlike = 0.93, kOpenPm = 1.5;
    constexpr double kShare = 0.12, kUpright = 0.3, kNeverDownCm = 1.2;
    const Track& t = in.track;
    const double bottom = t.timesS[in.rep.bottom], from = t.timesS[in.rep.start], to = t.timesS[in.rep.end];
    int looked = 0, read = 0;
    double leastUpright = std::numeric_limits<double>::infinity();  // of the moments nearly upright
    std::vector<std::pair<double, const ShoeReading*>> moments;
    for (const auto& m : t.shoe) {
        const ShoeReading& r = m.*end;
        if (m.timeS < from || m.timeS > to) continue;
        const bool isRead = r.state == ShoeReading::State::Read && !handsAtTheShoe(in, t.sampleAt(m.timeS));
        if (std::abs(m.timeS - bottom) <= kAroundS) ++looked, read += isRead;
        const double depth = in.series.depth[t.sampleAt(m.timeS)];
        const bool deepEnough = depth >= leastDepthShare * in.series.depth[in.rep.bottom];
        if (isRead && depth < kUpright * in.series.depth[in.rep.bottom])
            leastUpright = std::min(leastUpright, r.rise * t.cmPerPixel);
        if (isRead && deepEnough) moments.emplace_back(m.timeS, &r);
    }
    if (looked == 0 || read < kShareRead * looked || moments.empty()) return std::nullopt;
    // Up from the first moment to the last, upright as well: what it was held against was not this shoe.
    if (std::isfinite(leastUpright) && leastUpright > kNeverDownCm) return std::nullopt;
    // Held: the least over any stretch of that length between neighbouring readings.
    constexpr double kGapS = 0.35;
    std::optional<double> most;
    const ShoeReading* best = nullptr;
    double atS = bottom;
    for (std::size_t i = 0; i < moments.size(); ++i) {
        double least = moments[i].second->rise;
        const ShoeReading* weakest = moments[i].second;
        for (std::size_t k = i + 1; k < moments.size() && moments[k].first - moments[k - 1].first <= kGapS; ++k) {
            if (moments[k].second->rise < least) least = moments[k].second->rise, weakest = moments[k].second;
            if (moments[k].first - moments[i].first < kHeldS) continue;
            if (!most || least > *most) most = least, best = weakest, atS = 0.5 * (moments[i].first + moments[k].first);
            break;
        }
    }
    if (!most) return std::nullopt;
    const double value = *most * t.cmPerPixel;
    double pm = together({stillPm, kShare * value, 0.5 * best->half * t.cmPerPixel, 0.5 * best->apart * t.cmPerPixel});
    if (value > kSmall && value < kEdge && best->likeness < kAlike) pm = std::max(pm, kOpenPm);
    return reading(value, pm, t.sampleAt(atS));
}

/// The same for records of before shoes were read: from points followed on the shoe where that held for most of the
/// rep, else from the landmarks, which are far less sure (error_model.h).
std::optional<Reading> riseOfPoint(const MeasureInput& in, const std::vector<double>& s,
                                   const std::vector<bool>& followed) {
    std::size_t held = 0;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i) held += followed[i];
    const bool byShoe = static_cast<double>(held) >= 0.6 * static_cast<double>(in.rep.end - in.rep.start + 1);
    // A foot that steps is off the floor as a whole.
    if (in.movement.steps && !byShoe) return std::nullopt;
    const auto hold = std::max<std::size_t>(1, static_cast<std::size_t>(0.15 * in.track.rate));
    std::optional<double> most;
    std::size_t at = in.rep.start;
    for (std::size_t i = in.rep.start; i + hold <= in.rep.end; ++i) {
        double least = std::numeric_limits<double>::infinity();
        bool whole = true;  // a gap in the following leaves the stretch open
        for (std::size_t k = i; k <= i + hold; ++k) {
            whole = whole && !(byShoe && !followed[k]) && std::isfinite(s[k]);
            least = std::min(least, s[k]);
        }
        if (whole && (!most || least > *most)) {
            most = least;
            at = i + hold / 2;
        }
    }
    if (!most) return std::nullopt;
    const Allowance& allowance = byShoe ? kShoeLiftAllowance : kLandmarkLiftAllowance;
    return reading(*most, together({allowance.still, allowance.deep * std::max(0.0, *most)}), at);
}

/// Only the foot near the camera is read; when the other one works, nothing is said, nor of a foot that steps nearer to
/// the camera or further from it.
bool footIsShown(const MeasureInput& in) {
    return in.track.cmPerPixel > 0 && in.legSide() == in.track.near && !in.movement.sideways;
}
std::optional<Reading> heelRise(const MeasureInput& in) {
    if (!footIsShown(in)) return std::nullopt;
    if (!in.track.shoe.empty()) return riseOfShoe(in, &Track::ShoeMoment::heel, 0.3);
    return riseOfPoint(in, in.series.heelRise, in.series.heelFollowed);
}
std::optional<Reading> toeRise(const MeasureInput& in) {
    if (!footIsShown(in)) return std::nullopt;
    if (!in.track.shoe.empty()) {
        // The mirrored strip is looked at where toes leave the floor, in the depth: nearly upright again it was seen to
        // follow a shadow. Toes that are up carry nothing: with the mass centre over the forefoot it is a shadow as
        // well.
        constexpr double kDeep = 0.3, kOverForefoot = 0.68, kStillPm = 1.0;
        auto rise = riseOfShoe(in, &Track::ShoeMoment::toe, kStillPm, kDeep);
        if (rise && meanAround(in.series.massOverFoot, in.rep.bottom, in.samples(kLongS)) > kOverForefoot)
            rise->pm90 = std::max(rise->pm90, rise->value);
        return rise;
    }
    return riseOfPoint(in, in.series.toeRise, in.series.toeFollowed);
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
        return reading(meanAround(in.series.kneePastToe, at, in.samples(kShortS)), together({jitter, 4.0}), at);
    const double heel = t.flatAt(in.leg(L::LeftHeel), at).x(), toe = t.flatAt(in.leg(L::LeftToe), at).x();
    const double tip = 0.5 * (heel + toe) + 0.5 * std::max(toe - heel, proportion::kFootLength * t.bodyPx);
    return reading((t.flatAt(in.leg(L::LeftKnee), at).x() - tip) * t.cmPerPixel, together({jitter, 6.5}), at);
}

std::optional<Reading> massOverFoot(const MeasureInput& in) {
    // 90th percentile of the errors of both figures; see docs/measurements.md
    return reading(meanAround(in.series.massOverFoot, in.rep.bottom, in.samples(kLongS)), 0.19, in.rep.bottom);
}

/// Head against the trunk, as a change from standing, by two lines that turn with the head: from the ear to the nose
/// and from the ear to the eye. What they differ by is not known better. A trunk that folds far takes the face out of
/// profile and the shoulder's point along with the arm: figures of another making had a clean hinge called off the line
/// at ±11°, so a fifth of the fold is allowed besides (ours; on our own figures ±11° held in 10 of 10 hinges).
std::optional<Reading> neckChange(const MeasureInput& in) {
    constexpr double kPm = 11.0, kShareOfFold = 0.2;
    const Track& t = in.track;
    const L hip = t.nearOf(L::LeftHip), shoulder = t.nearOf(L::LeftShoulder), ear = t.nearOf(L::LeftEar),
            eye = t.nearOf(L::LeftEye);
    const std::size_t at = in.rep.bottom;
    const double byNose = meanAround(in.series.neckChange, at, in.samples(kLongS));
    const double byEye =
        wrapDegrees(headAgainstTrunk(t.flatAt(hip, at), t.flatAt(shoulder, at), t.flatAt(ear, at), t.flatAt(eye, at)) -
                    headAgainstTrunk(t.standingFlatAt(hip), t.standingFlatAt(shoulder), t.standingFlatAt(ear),
                                     t.standingFlatAt(eye)));
    const double fold = std::max(0.0, meanAround(in.series.trunkLean, at, in.samples(kLongS)));
    return reading(byNose, together({kPm, wrapDegrees(byNose - byEye), kShareOfFold * fold}), at);
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
    // Slow descents cross the quarter mark less sharply; of a large lead the network shows half, never more
    // (docs/measurements.md).
    return reading((hip - knee) / in.track.rate * 1000, std::max(30.0, 12.0 * lowering),
                   static_cast<std::size_t>(std::min(hip, knee)));
}

/// The smallest value of a course at the top.
std::optional<Reading> atTop(const MeasureInput& in, const std::vector<double>& s, double pm90) {
    const auto [from, to] = topSpan(in);
    const std::size_t at = smallestIn(s, from, to);
    return reading(meanAround(s, at, in.samples(kShortS)), pm90, at);
}
/// The network's points draw a standing knee straighter or more bent than it is, by up to 10° and each client
/// otherwise. Where the client stood with straight knees as he was asked to, what they read there is taken off, and the
/// ± is only what standing twice differs by (docs/measurements.md, “Knees at the top”).
std::optional<Reading> topKneeFlexion(const MeasureInput& in) {
    constexpr double kStandingTwicePm = 2.0;
    const Track& t = in.track;
    const bool known = in.stoodStraight && !in.rep.leg;  // a step or a split stands otherwise than the rest before
    const L hip = in.leg(L::LeftHip), knee = in.leg(L::LeftKnee), ankle = in.leg(L::LeftAnkle);
    auto top = atTop(in, in.legSeries().kneeFlexion, 0);
    if (!top) return top;
    const double misplaced = lengthDoubt(t, {hip, knee}, top->sample) + lengthDoubt(t, {knee, ankle}, top->sample);
    top->pm90 = together({known ? kStandingTwicePm : allowanceOf(t.family, Quantity::Knee).still,
                          jitterOfLine(t, {hip, knee}, in.rep.end), misplaced * kDegreesPerShare});
    if (known) top->value -= kneeFlexion(t.standingFlatAt(hip), t.standingFlatAt(knee), t.standingFlatAt(ankle));
    return top;
}
std::optional<Reading> topTrunkLean(const MeasureInput& in) {
    const SegmentAngle trunk{in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftShoulder)};
    auto top = atTop(in, in.series.trunkLean, 0);
    if (top)
        top->pm90 = together({allowanceOf(in.track.family, Quantity::Trunk).still, kLevelError + in.levelDoubtDeg,
                              jitterOfLine(in.track, trunk, in.rep.end),
                              lengthDoubt(in.track, trunk, top->sample) * kDegreesPerShare});
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
         kSideView,
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
         kSideView,
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
         kSideView,
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
        {"heel_rise",
         "Heel off the floor",
         "heel rise",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         working({L::LeftHeel}),
         kHeelCourse,
         {{Draw::Rise, kHeel}},
         {-1, 8},
         heelRise},
        {"toe_rise",
         "Toes off the floor",
         "toe rise",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         working({L::LeftToe}),
         {nullptr, [](const ViewSeries& v, Side) { return v.side.toeRise; }},
         {{Draw::Rise, kToe}},
         {-1, 8},
         toeRise},
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
