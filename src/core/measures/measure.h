#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/measures/series.h"
#include "core/reps/reps.h"
#include "core/track/track.h"

namespace zevo {

enum class Unit { Degrees, Centimetres, Seconds, Milliseconds, Share, MetresPerSecond2 };

/// "deg", "cm", "s", "ms", "share", "m/s2": as written in results.
std::string unitName(Unit unit);

struct Measurement {
    std::string id;
    double value = 0;
    double pm90 = 0;  ///< half width of the 90 % interval, same unit
    Unit unit = Unit::Degrees;
    double confidence = 0;  ///< 0…1: were the points it needs seen, in a view where it is valid
    double atS = 0;         ///< the moment it was read from
};

/// Everything a measure may look at.
struct MeasureInput {
    const Track& track;
    const Series& series;
    const Rep& rep;
    const Rep* next = nullptr;  ///< the repetition after, if any
    double levelDoubtDeg = 0;   ///< levelDoubt() of the set
};

/// One quantity read per repetition.
struct MeasureDef {
    const char* id;
    const char* title;  ///< coach's words
    const char* term;   ///< the field's term
    Unit unit;
    /// Landmarks (left ones of the pairs; the near side is taken) that must be seen.
    std::vector<Landmark> needs;
    /// Empty when it cannot be read (for example no scale).
    bool (*read)(const MeasureInput& in, double& value, double& pm90, std::size_t& sample);
};

/// Every measure Zevo knows in the side view, in display order.
std::span<const MeasureDef> sideMeasures();
const MeasureDef* findMeasure(const std::string& id);

/// All readable measures of one repetition.
std::vector<Measurement> measureRep(const MeasureInput& input);

}  // namespace zevo
