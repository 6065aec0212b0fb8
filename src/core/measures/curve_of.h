#pragma once

#include <string>
#include <vector>

#include "core/measures/front_series.h"
#include "core/measures/series.h"

namespace zevo {

/// The course over time that belongs to a measure. Measures that have none of their own (tempo, order of joints)
/// answer with what shows them: the knee's bending, or from the front the sinking of the hips.
struct CurveOf {
    std::string measure;         ///< whose course it is: the measure asked for, or the stand-in
    std::vector<double> values;  ///< one a sample, in that measure's unit; NaN where not readable
};
/// Of a measure read from the side; `leg`: the one it is about.
CurveOf curveOf(const std::string& measure, const Series& series, Side leg);
/// Of a measure read from the front.
CurveOf curveOf(const std::string& measure, const FrontSeries& series);

}  // namespace zevo
