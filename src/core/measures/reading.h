#pragma once

// What the measures of this folder share; not for use outside it.

#include <initializer_list>

#include "core/measures/error_model.h"
#include "core/measures/measure.h"

namespace zevo {

/// Half widths of the means that readings are, seconds.
inline constexpr double kShortS = 2.0 / 30, kLongS = 4.0 / 30;
/// A joint misplaced by a share of a segment turns it by up to that many radians.
inline constexpr double kDegreesPerShare = 57.3;
/// Mean over so many samples either side.
double meanAround(const std::vector<double>& s, std::size_t at, std::size_t half);
std::size_t largestIn(const std::vector<double>& s, std::size_t from, std::size_t to);
std::size_t smallestIn(const std::vector<double>& s, std::size_t from, std::size_t to);

/// A reading, or nothing when the value is not a number.
std::optional<Reading> reading(double value, double pm90, std::size_t sample);

/// The angle of a joint between two lines, or of one line from the vertical or horizontal, at the turning point.
std::optional<Reading> jointAngle(const MeasureInput& in, const std::vector<double>& s, Quantity quantity,
                                  const SegmentAngle& a, const SegmentAngle& b);
std::optional<Reading> lineAngle(const MeasureInput& in, const std::vector<double>& s, Quantity quantity,
                                 const SegmentAngle& line);

std::optional<Reading> trunkLeanAtBottom(const MeasureInput& in);
std::optional<Reading> thighAngleAtBottom(const MeasureInput& in);
/// Nothing where the shoe was looked at and could not be told.
std::optional<Reading> heelRise(const MeasureInput& in);

/// Thigh angle where the tail begins to tuck; nothing where it does not, or the back was not read.
std::optional<Reading> tuckStart(const MeasureInput& in);

/// The top after the repetition: from its end to the start of the next (or one second).
std::pair<std::size_t, std::size_t> topSpan(const MeasureInput& in);

/// What the rows of the table are written with.
namespace row {

inline constexpr PointRead kHip{Landmark::LeftHip, Role::Working}, kKnee{Landmark::LeftKnee, Role::Working},
    kAnkle{Landmark::LeftAnkle, Role::Working}, kToe{Landmark::LeftToe, Role::Working},
    kHeel{Landmark::LeftHeel, Role::Near}, kShoulder{Landmark::LeftShoulder, Role::Near},
    kEar{Landmark::LeftEar, Role::Near}, kNose{Landmark::Nose, Role::Near}, kWrist{Landmark::LeftWrist, Role::Near},
    kNearHip{Landmark::LeftHip, Role::Near}, kOtherHip{Landmark::LeftHip, Role::Other},
    kOtherKnee{Landmark::LeftKnee, Role::Other}, kOtherAnkle{Landmark::LeftAnkle, Role::Other};

using Points = std::initializer_list<Landmark>;
std::vector<PointRead> readBy(Role role, Points points);
inline std::vector<PointRead> near(Points p) {
    return readBy(Role::Near, p);
}
inline std::vector<PointRead> working(Points p) {
    return readBy(Role::Working, p);
}
inline std::vector<PointRead> other(Points p) {
    return readBy(Role::Other, p);
}
inline std::vector<PointRead> both(Points p) {
    return readBy(Role::Both, p);
}

template <typename T>
std::vector<T> operator+(std::vector<T> a, const std::vector<T>& b) {
    a.insert(a.end(), b.begin(), b.end());
    return a;
}

/// Courses that several measures have.
extern const CourseDef kKneeCourse, kHipCourse, kThighCourse, kShinCourse, kTrunkCourse, kHeelCourse;
/// Stand-ins: what shows a measure that has no course of its own. kByDrive: the knee's bend, from the front the knees'
/// separation.
extern const CourseDef kByKnee, kByThigh, kByTrunk, kByDrive, kBySeparation;

}  // namespace row

/// The measures of each file, for the registry.
std::span<const MeasureDef> sagittalMeasures();
std::span<const MeasureDef> footMeasures();
std::span<const MeasureDef> lungeMeasures();
std::span<const MeasureDef> hingeMeasures();
std::span<const MeasureDef> bridgeMeasures();
std::span<const MeasureDef> backMeasures();
std::span<const MeasureDef> markMeasures();
std::span<const MeasureDef> timeMeasures();
std::span<const MeasureDef> leanMeasures();
std::span<const MeasureDef> frontMeasures();

}  // namespace zevo
