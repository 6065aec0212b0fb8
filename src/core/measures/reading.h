#pragma once

// What the measures of this folder share; not for use outside it.

#include "core/measures/error_model.h"
#include "core/measures/measure.h"

namespace zevo {

/// Mean over a few samples either side.
double meanAround(const std::vector<double>& s, std::size_t at, std::size_t half = 2);
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

/// The top after the repetition: from its end to the start of the next (or one second).
std::pair<std::size_t, std::size_t> topSpan(const MeasureInput& in);

/// The measures of each file, for the registry.
std::span<const MeasureDef> sagittalMeasures();
std::span<const MeasureDef> lungeMeasures();
std::span<const MeasureDef> hingeMeasures();
std::span<const MeasureDef> bridgeMeasures();
std::span<const MeasureDef> timeMeasures();
std::span<const MeasureDef> leanMeasures();
std::span<const MeasureDef> frontMeasures();

}  // namespace zevo
