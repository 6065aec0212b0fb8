// Frontal measures, from the front or from behind (bridges: from the foot end).
#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/measures/reading.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;

/// Allowances of the frontal readings: the 90th percentile of the errors of both figures (docs/measurements.md).
constexpr double kRatioPm = calibrated("front.ratio"), kKneePm = calibrated("front.knee_in"),
                 kInsidePm = calibrated("front.knee_inside"), kStancePm = calibrated("front.stance"),
                 kToePm = calibrated("front.toe_out"), kUnevenPm = calibrated("front.toe_uneven"),
                 kHipLinePm = calibrated("front.hip_line"), kShoulderPm = calibrated("front.shoulder_line"),
                 kShiftPm = calibrated("front.shift"), kProjectionPm = calibrated("front.projection");

/// Readings are means over this much either side.
constexpr double kAroundS = 0.1;

/// Samples of the lower half of the repetition: there the knees are under load. A leg that reaches out to the side has
/// its knee inside the ankle until the weight is on it, at the turning point.
std::pair<std::size_t, std::size_t> lowerHalf(const MeasureInput& in) {
    if (in.movement.sideways) return {in.rep.arrive, in.rep.leave};
    return {(in.rep.start + in.rep.bottom) / 2, (in.rep.bottom + in.rep.end) / 2};
}

std::optional<Reading> atBottom(const MeasureInput& in, const std::vector<double>& s, double pm90) {
    return reading(meanAround(s, in.rep.bottom, in.samples(kAroundS)), pm90, in.rep.bottom);
}

/// The value around the bottom against that before the rep began.
std::optional<Reading> changeSinceStart(const MeasureInput& in, const std::vector<double>& s, double pm90) {
    const std::size_t half = in.samples(kAroundS),
                      before = in.rep.start > 2 * half ? in.rep.start - half : in.rep.start;
    return reading(meanAround(s, in.rep.bottom, half) - meanAround(s, before, half), pm90, in.rep.bottom);
}

std::optional<Reading> kneeRatio(const MeasureInput& in) {
    return atBottom(in, in.front->kneeSeparation, kRatioPm);
}

/// The furthest the knee comes in over the lower half, as the mean over a fifth of a second. Only of a leg that works.
std::optional<Reading> furthestIn(const MeasureInput& in, const std::vector<double>& s, Side side, double pm90) {
    if (in.rep.leg && *in.rep.leg != side) return std::nullopt;
    const auto [from, to] = lowerHalf(in);
    const auto half = static_cast<std::size_t>(0.1 * in.track.rate);
    std::size_t at = in.rep.bottom;
    double most = std::nan("");
    for (std::size_t i = from; i <= to; ++i)
        if (const double v = meanAround(s, i, half); std::isnan(most) ? std::isfinite(v) : v > most) most = v, at = i;
    return reading(most, pm90, at);
}
std::optional<Reading> kneeInsideLeft(const MeasureInput& in) {
    return furthestIn(in, in.front->kneeInside[0], Side::Left, kInsidePm);
}
std::optional<Reading> kneeInsideRight(const MeasureInput& in) {
    return furthestIn(in, in.front->kneeInside[1], Side::Right, kInsidePm);
}

/// How far the knee comes inside its ankle, less what knock knees or bow legs put it inside at rest.
std::optional<Reading> kneeMovedIn(const MeasureInput& in, Side side) {
    const auto k = static_cast<std::size_t>(side);
    auto most = furthestIn(in, in.front->kneeInside[k], side, kInsidePm);
    if (!most) return most;
    return reading(most->value - in.front->kneeInByBuild[k], kInsidePm, most->sample);
}
std::optional<Reading> kneeMovedInLeft(const MeasureInput& in) {
    return kneeMovedIn(in, Side::Left);
}
std::optional<Reading> kneeMovedInRight(const MeasureInput& in) {
    return kneeMovedIn(in, Side::Right);
}

/// Against the toes, at the bottom, where a knee that bows out is furthest. Where the toes point is read only roughly,
/// and counts the more the further the knee is ahead of its ankle and the further the foot is turned out.
std::optional<Reading> kneeIn(const MeasureInput& in, Side side) {
    if (in.rep.leg && *in.rep.leg != side) return std::nullopt;
    const auto k = static_cast<std::size_t>(side);
    const Track& t = in.track;
    const L knee = ofSide(L::LeftKnee, side), ankle = ofSide(L::LeftAnkle, side);
    const double shank = (t.standingAt(knee) - t.standingAt(ankle)).norm(),
                 shown = (t.at(knee, in.rep.bottom) - t.at(ankle, in.rep.bottom)).norm();
    // Far turned-out feet are read as turned by little more than half (docs/measurements.md).
    constexpr double kShareHidden = calibrated("front.toe_hidden");
    const double toeOut = meanAround(in.front->toeOut[k], in.rep.bottom, in.samples(kAroundS)),
                 turned = std::cos(toeOut * kRadiansPerDegree);
    // What the shank shows too little is how far the knee is ahead: with a length 3 % wrong hardly known of a leg that
    // is turned out and shows all of it, and told by the toes' direction.
    constexpr double kShownWrong = 0.03;
    const double ahead = shank > 1 ? std::sqrt(std::max(0.0, 1 - shown * shown / (shank * shank))) : 1.0;
    const double farthest = std::min(80.0, (1 + kShareHidden) * std::max(0.0, toeOut)) * kRadiansPerDegree;
    const double byAhead = std::tan(farthest) * (std::sqrt(ahead * ahead + 2 * kShownWrong) - ahead);
    const double byToes =
        ahead / std::max(0.1, turned * turned) * (kToePm + kShareHidden * std::max(0.0, toeOut)) * kRadiansPerDegree;
    return atBottom(in, in.front->kneeIn[k], rootSumSquare({kKneePm, byToes, byAhead}));
}
std::optional<Reading> kneeInLeft(const MeasureInput& in) {
    return kneeIn(in, Side::Left);
}
std::optional<Reading> kneeInRight(const MeasureInput& in) {
    return kneeIn(in, Side::Right);
}

/// Read as deep as the leg still shows most of its length: a thigh that points at the camera has no direction.
std::optional<Reading> projection(const MeasureInput& in, Side side) {
    if (in.rep.leg && *in.rep.leg != side) return std::nullopt;
    constexpr double kShown = 0.85;
    const auto k = static_cast<std::size_t>(side);
    std::size_t at = in.rep.start;
    while (at < in.rep.bottom && meanAround(in.front->legShown[k], at + 1, in.samples(kShortS)) >= kShown) ++at;
    if (in.front->legShown[k][at] > 0.97) return std::nullopt;  // hardly bent
    return reading(meanAround(in.front->projection[k], at, in.samples(kShortS)), kProjectionPm, at);
}
std::optional<Reading> projectionLeft(const MeasureInput& in) {
    return projection(in, Side::Left);
}
std::optional<Reading> projectionRight(const MeasureInput& in) {
    return projection(in, Side::Right);
}

/// Sideways shaking of a knee: root mean square of its path without the slow part of it.
std::optional<Reading> wobble(const MeasureInput& in, Side side) {
    const Track& t = in.track;
    if (t.cmPerPixel <= 0 || (in.rep.leg && *in.rep.leg != side)) return std::nullopt;
    constexpr double kSlowHz = 1.5;
    const L knee = ofSide(L::LeftKnee, side), ankle = ofSide(L::LeftAnkle, side);
    std::vector<double> path;
    for (std::size_t i = 0; i < t.size(); ++i) path.push_back(t.at(knee, i).x() - t.at(ankle, i).x());
    const auto slow = smooth(path, t.rate, kSlowHz);
    double sum = 0;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i) sum += (path[i] - slow[i]) * (path[i] - slow[i]);
    const double v = std::sqrt(sum / static_cast<double>(in.rep.end - in.rep.start + 1)) * t.cmPerPixel;
    return reading(v, calibrated("front.wobble") + calibrated("front.wobble.share") * v, in.rep.bottom);
}
std::optional<Reading> wobbleLeft(const MeasureInput& in) {
    return wobble(in, Side::Left);
}
std::optional<Reading> wobbleRight(const MeasureInput& in) {
    return wobble(in, Side::Right);
}

std::optional<Reading> hipTilt(const MeasureInput& in) {
    return changeSinceStart(in, in.front->hipTilt, kHipLinePm);
}
/// Of a tilt the network shows a part, on one of our figures a fifth: the ± is what may be hidden, not what it errs by
/// on a level line (docs/measurements.md).
std::optional<Reading> shoulderTilt(const MeasureInput& in) {
    return changeSinceStart(in, in.front->shoulderTilt, kShoulderPm);
}
std::optional<Reading> trunkShift(const MeasureInput& in) {
    return changeSinceStart(in, in.front->trunkShift, kShiftPm);
}

std::optional<Reading> stance(const MeasureInput& in) {
    return reading(meanAround(in.front->stance, in.rep.start, in.samples(kAroundS)), kStancePm, in.rep.start);
}
std::optional<Reading> toeOut(const MeasureInput& in, Side side) {
    return reading(meanAround(in.front->toeOut[static_cast<std::size_t>(side)], in.rep.start, in.samples(kAroundS)),
                   kToePm, in.rep.start);
}
std::optional<Reading> toeOutLeft(const MeasureInput& in) {
    return toeOut(in, Side::Left);
}
std::optional<Reading> toeOutRight(const MeasureInput& in) {
    return toeOut(in, Side::Right);
}
/// Right foot turned out more than the left one +.
std::optional<Reading> toeOutUneven(const MeasureInput& in) {
    const auto left = toeOutLeft(in), right = toeOutRight(in);
    if (!left || !right) return std::nullopt;
    return reading(right->value - left->value, kUnevenPm, in.rep.start);  // what both feet share cancels
}

}  // namespace

namespace {

/// Left and right of a per-leg course of the front.
template <std::array<std::vector<double>, 2> FrontSeries::*Pair, std::size_t K>
std::vector<double> legCourse(const ViewSeries& v, Side) {
    return ((*v.front).*Pair)[K];
}
template <std::vector<double> FrontSeries::*Values>
std::vector<double> wholeCourse(const ViewSeries& v, Side) {
    return (*v.front).*Values;
}

}  // namespace

std::span<const MeasureDef> frontMeasures() {
    using namespace row;
    using F = FrontSeries;
    static const auto legOf = [](Role r) { return std::vector<PointRead>{{L::LeftKnee, r}, {L::LeftAnkle, r}}; };
    static const auto toedLegOf = [](Role r) {
        return std::vector<PointRead>{{L::LeftKnee, r}, {L::LeftAnkle, r}, {L::LeftToe, r}};
    };
    static const auto footOf = [](Role r) { return std::vector<PointRead>{{L::LeftAnkle, r}, {L::LeftToe, r}}; };
    static const auto overToe = [](Role r) {
        return std::vector<SketchPart>{
            {Draw::LegOverToe, {L::LeftHip, r}, {L::LeftKnee, r}, {L::LeftAnkle, r}, {L::LeftToe, r}}};
    };
    static const auto across = [](L left, Draw draw) {
        return std::vector<SketchPart>{{draw, {left, Role::Left}, {left, Role::Right}}};
    };
    /// A row of one leg: what left and right differ in, and what the rows of a leg do not, stands here once.
    static const auto ofLeg = [](Side side, const char* id, const char* title, const char* term, Unit unit,
                                 std::vector<PointRead> (*points)(Role), CourseDef course, Scale scale,
                                 std::optional<Reading> (*read)(const MeasureInput&), const char* both) {
        const bool left = side == Side::Left;
        const Role role = left ? Role::Left : Role::Right;
        return MeasureDef{id,
                          title,
                          term,
                          unit,
                          kFrontal,
                          left ? Of::Left : Of::Right,
                          points(role),
                          std::move(course),
                          overToe(role),
                          scale,
                          read,
                          both};
    };
    constexpr const char *kInsideTerm = "knee offset from the ankle, share of the shank",
                         *kMovedTerm = "knee offset from the ankle less the leg's own alignment, share of the shank",
                         *kToesTerm = "knee offset from the ankle–toe line, share of the shank",
                         *kProjectionTerm = "frontal-plane projection angle",
                         *kWobbleTerm = "lateral path, root mean square";
    static const std::vector<PointRead> bothLegs = both({L::LeftKnee, L::LeftAnkle}),
                                        bothFeet = both({L::LeftAnkle, L::LeftToe});
    static const std::vector<MeasureDef> all{
        {"knee_ratio",
         "Knees apart against feet apart",
         "knee separation ÷ ankle separation",
         Unit::Share,
         kFrontal | kFootEndView,
         Of::Body,
         bothLegs,
         {nullptr, wholeCourse<&F::kneeSeparation>},
         across(L::LeftAnkle, Draw::Across) + across(L::LeftKnee, Draw::Across),
         {0, 2},
         kneeRatio},
        ofLeg(Side::Left, "knee_inside_left", "Left knee inside its ankle", kInsideTerm, Unit::Share, legOf,
              {nullptr, legCourse<&F::kneeInside, 0>}, {-0.4, 0.4}, kneeInsideLeft, "Knees inside their ankles"),
        ofLeg(Side::Right, "knee_inside_right", "Right knee inside its ankle", kInsideTerm, Unit::Share, legOf,
              {nullptr, legCourse<&F::kneeInside, 1>}, {-0.4, 0.4}, kneeInsideRight, "Knees inside their ankles"),
        ofLeg(Side::Left, "knee_moved_in_left", "Left knee in, less its build", kMovedTerm, Unit::Share, legOf,
              {"knee_inside_left", legCourse<&F::kneeInside, 0>}, {-0.4, 0.4}, kneeMovedInLeft,
              "Knees in, less their build"),
        ofLeg(Side::Right, "knee_moved_in_right", "Right knee in, less its build", kMovedTerm, Unit::Share, legOf,
              {"knee_inside_right", legCourse<&F::kneeInside, 1>}, {-0.4, 0.4}, kneeMovedInRight,
              "Knees in, less their build"),
        ofLeg(Side::Left, "knee_in_left", "Left knee inside its toes", kToesTerm, Unit::Share, toedLegOf,
              {nullptr, legCourse<&F::kneeIn, 0>}, {-0.5, 0.5}, kneeInLeft, "Knees inside their toes"),
        ofLeg(Side::Right, "knee_in_right", "Right knee inside its toes", kToesTerm, Unit::Share, toedLegOf,
              {nullptr, legCourse<&F::kneeIn, 1>}, {-0.5, 0.5}, kneeInRight, "Knees inside their toes"),
        ofLeg(Side::Left, "projection_left", "Left leg bent inwards", kProjectionTerm, Unit::Degrees, legOf,
              {nullptr, legCourse<&F::projection, 0>}, {-40, 40}, projectionLeft, "Legs bent inwards"),
        ofLeg(Side::Right, "projection_right", "Right leg bent inwards", kProjectionTerm, Unit::Degrees, legOf,
              {nullptr, legCourse<&F::projection, 1>}, {-40, 40}, projectionRight, "Legs bent inwards"),
        ofLeg(Side::Left, "wobble_left", "Left knee wobble", kWobbleTerm, Unit::Centimetres, legOf,
              {"knee_in_left", legCourse<&F::kneeIn, 0>}, {0, 3}, wobbleLeft, "Knee wobble"),
        ofLeg(Side::Right, "wobble_right", "Right knee wobble", kWobbleTerm, Unit::Centimetres, legOf,
              {"knee_in_right", legCourse<&F::kneeIn, 1>}, {0, 3}, wobbleRight, "Knee wobble"),
        {"hip_tilt",
         "Hip line",
         "pelvic obliquity against standing, right side lower +",
         Unit::Degrees,
         kFrontal | kFootEndView,
         Of::BySign,
         both({L::LeftHip}),
         {nullptr, wholeCourse<&F::hipTilt>},
         across(L::LeftHip, Draw::Level),
         {-20, 20},
         hipTilt,
         nullptr,
         true},
        {"trunk_shift",
         "Trunk to one side",
         "lateral shift of the trunk, share of the stance, right +",
         Unit::Share,
         kFrontal,
         Of::BySign,
         both({L::LeftHip, L::LeftShoulder, L::LeftAnkle}),
         {nullptr, wholeCourse<&F::trunkShift>},
         {{Draw::TrunkOverFeet}},
         {-0.3, 0.3},
         trunkShift},
        {"shoulder_tilt",
         "Shoulder line",
         "shoulder tilt against standing, right side lower +",
         Unit::Degrees,
         kFrontal,
         Of::BySign,
         both({L::LeftShoulder}),
         {nullptr, wholeCourse<&F::shoulderTilt>},
         across(L::LeftShoulder, Draw::Level),
         {-20, 20},
         shoulderTilt},
        {"stance",
         "Stance",
         "ankle distance ÷ shoulder distance",
         Unit::Share,
         kFrontal,
         Of::Body,
         both({L::LeftAnkle}),
         {nullptr, wholeCourse<&F::stance>},
         across(L::LeftAnkle, Draw::Across),
         {0.3, 2.6},
         stance},
        ofLeg(Side::Left, "toe_out_left", "Left foot turned out", "toe-out angle", Unit::Degrees, footOf,
              {nullptr, legCourse<&F::toeOut, 0>}, {-20, 60}, toeOutLeft, "Feet turned out"),
        ofLeg(Side::Right, "toe_out_right", "Right foot turned out", "toe-out angle", Unit::Degrees, footOf,
              {nullptr, legCourse<&F::toeOut, 1>}, {-20, 60}, toeOutRight, "Feet turned out"),
        {"toe_out_uneven",
         "Feet turned out unevenly",
         "toe-out right minus left",
         Unit::Degrees,
         kFrontal,
         Of::BySign,
         bothFeet,
         kBySeparation,
         overToe(Role::Left) + overToe(Role::Right),
         {-30, 30},
         toeOutUneven},
    };
    return all;
}

}  // namespace zevo
