#include "core/measures/reading.h"

#include <algorithm>
#include <cmath>

namespace zevo {
namespace {

/// The far leg's landmarks are guessed behind the near one's: the knee of the rear, far leg errs by this much more than
/// that of the near one (docs/measurements.md, rear_knee_flexion against knee_flexion).
constexpr double kFarLeg = 1.7;

bool isFarLeg(const MeasureInput& in, const SegmentAngle& line) {
    const auto id = static_cast<int>(line.from);
    const bool ofLeg = line.from >= Landmark::LeftHip;
    return ofLeg && (id % 2 == 1) != (in.track.near == Side::Left);
}

/// The course of the leg a repetition is about.
template <std::vector<double> LegSeries::*Values>
std::vector<double> ofLeg(const ViewSeries& v, Side leg) {
    return v.side.legs[static_cast<std::size_t>(leg)].*Values;
}
std::vector<double> trunkLean(const ViewSeries& v, Side) {
    return v.side.trunkLean;
}
std::vector<double> separation(const ViewSeries& v, Side) {
    return v.front->kneeSeparation;
}

/// The middle of both legs, as they stand in space.
template <std::vector<double> LegInSpace::*Values>
std::vector<double> inSpace(const ViewSeries& v) {
    const auto &left = v.front->inSpace.weighed[0].*Values, &right = v.front->inSpace.weighed[1].*Values;
    std::vector<double> out;
    for (std::size_t i = 0; i < left.size(); ++i) out.push_back(0.5 * (left[i] + right[i]));
    return out;
}

}  // namespace

namespace row {

const CourseDef kKneeCourse{nullptr, ofLeg<&LegSeries::kneeFlexion>, inSpace<&LegInSpace::kneeFlexion>};
const CourseDef kHipCourse{nullptr, ofLeg<&LegSeries::hipFlexion>};
const CourseDef kThighCourse{nullptr, ofLeg<&LegSeries::thighAngle>, inSpace<&LegInSpace::thighAngle>};
const CourseDef kShinCourse{nullptr, ofLeg<&LegSeries::shinAngle>, inSpace<&LegInSpace::shinAngle>};
const CourseDef kTrunkCourse{nullptr, trunkLean};
const CourseDef kHeelCourse{nullptr, [](const ViewSeries& v, Side) { return v.side.heelRise; }};
const CourseDef kByKnee{"knee_flexion", ofLeg<&LegSeries::kneeFlexion>};
const CourseDef kByThigh{"thigh_angle", ofLeg<&LegSeries::thighAngle>};
const CourseDef kByTrunk{"trunk_lean", trunkLean};
const CourseDef kByDrive{"knee_flexion", ofLeg<&LegSeries::kneeFlexion>};
const CourseDef kBySeparation{"knee_ratio", separation};

std::vector<PointRead> readBy(Role role, Points points) {
    std::vector<PointRead> out;
    for (Landmark id : points) out.push_back({id, role});
    return out;
}

}  // namespace row

double meanAround(const std::vector<double>& s, std::size_t at, std::size_t half) {
    const std::size_t a = at > half ? at - half : 0, b = std::min(at + half, s.size() - 1);
    double sum = 0;
    for (std::size_t i = a; i <= b; ++i) sum += s[i];
    return sum / static_cast<double>(b - a + 1);
}

std::size_t largestIn(const std::vector<double>& s, std::size_t from, std::size_t to) {
    const auto first = s.begin() + static_cast<std::ptrdiff_t>(from);
    return static_cast<std::size_t>(std::max_element(first, s.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                    s.begin());
}

std::size_t smallestIn(const std::vector<double>& s, std::size_t from, std::size_t to) {
    const auto first = s.begin() + static_cast<std::ptrdiff_t>(from);
    return static_cast<std::size_t>(std::min_element(first, s.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                    s.begin());
}

std::optional<Reading> reading(double value, double pm90, std::size_t sample) {
    if (!std::isfinite(value)) return std::nullopt;
    return Reading{value, pm90, sample};
}

std::optional<Reading> jointAngle(const MeasureInput& in, const std::vector<double>& s, Quantity quantity,
                                  const SegmentAngle& a, const SegmentAngle& b) {
    const Track& t = in.track;
    const std::size_t at = in.rep.bottom;
    const double value = meanAround(s, at, in.samples(kShortS));
    const double doubt = segmentLengthDeviation(t, a, at) + segmentLengthDeviation(t, b, at);
    const double far = isFarLeg(in, a) || isFarLeg(in, b) ? kFarLeg : 1.0;
    const double network = isManual(t, a, at) && isManual(t, b, at)
                               ? 0
                               : far * networkHalfWidth(allowanceOf(t.family, quantity), in.series.kneeFlexion[at]);
    return reading(
        value,
        rootSumSquare({jitterOfLine(t, a, at), jitterOfLine(t, b, at), network,
                       foreshortening(std::min(60.0, std::abs(value)), t.offSquareDeg()), doubt * kDegreesPerShare}),
        at);
}

std::optional<Reading> lineAngle(const MeasureInput& in, const std::vector<double>& s, Quantity quantity,
                                 const SegmentAngle& line) {
    const Track& t = in.track;
    const std::size_t at = in.rep.bottom;
    const double value = meanAround(s, at, in.samples(kShortS));
    const double far = isFarLeg(in, line) ? kFarLeg : 1.0;
    const double network =
        isManual(t, line, at) ? 0 : far * networkHalfWidth(allowanceOf(t.family, quantity), in.series.kneeFlexion[at]);
    return reading(value,
                   rootSumSquare({jitterOfLine(t, line, at), t.levelPm90() + in.levelDoubtDeg, network,
                                  foreshortening(std::min(60.0, std::abs(value)), t.offSquareDeg()),
                                  segmentLengthDeviation(t, line, at) * kDegreesPerShare}),
                   at);
}

std::pair<std::size_t, std::size_t> topSpan(const MeasureInput& in) {
    const std::size_t last = in.track.size() - 1;
    const std::size_t to =
        in.next ? in.next->start : std::min(last, in.rep.end + static_cast<std::size_t>(in.track.rate));
    return {std::min(in.rep.end, last), std::max(std::min(in.rep.end, last), to)};
}

}  // namespace zevo
