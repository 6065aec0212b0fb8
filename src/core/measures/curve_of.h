#pragma once

#include <string>
#include <vector>

#include "core/measures/series.h"

namespace zevo {

/// The course over time that belongs to a measure. Measures that have none of their own (tempo, order of joints)
/// answer with the knee's bending, which shows them.
struct CurveOf {
    std::string measure;         ///< whose course it is: the measure asked for, or the stand-in
    std::vector<double> values;  ///< one a sample, in that measure's unit; NaN where not readable
};
CurveOf curveOf(const std::string& measure, const Series& series);

}  // namespace zevo
