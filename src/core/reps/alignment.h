#pragma once

#include <span>
#include <vector>

namespace zevo {

/// A course over time with its own clock.
struct Course {
    std::span<const double> timesS;  ///< growing
    std::span<const double> values;
};

/// How two clips of one set lie to each other in time.
struct Alignment {
    double lagS = 0;       ///< time in the second clip − time in the first, of the same moment
    double agreement = 0;  ///< correlation of the two courses at that lag, −1…1
    double overlapS = 0;   ///< stretch both clips show
};

/// Finds the lag at which the movement itself, seen by two cameras, agrees best: the largest normalised
/// cross-correlation of the two courses, with the peak's place between samples from a parabola through it. A lag that
/// leaves little in common counts for less, or a set of like repetitions would fit one repetition late as well.
/// Courses that do not move give an agreement of 0.
Alignment alignCourses(const Course& first, const Course& second);

}  // namespace zevo
