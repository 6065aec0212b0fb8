#pragma once

#include <string>
#include <vector>

#include "core/measures/measure.h"

namespace zevo {

/// A fault id of earlier versions that named both directions at once, or two things, and what it is called now.
struct RetiredFault {
    std::string id;
    std::string measure;       ///< of the band; empty: any
    std::string below, above;  ///< today's ids for a value under and over the band
    std::string title;         ///< as older results have it
};
const std::vector<RetiredFault>& retiredFaults();

/// Today's id of a fault that a band names: itself, unless it is retired.
std::string currentFault(const std::string& id, MeasureId measure, bool above);

/// What a retired id meant, for results of earlier versions; empty for ids in use.
std::string retiredTitle(const std::string& id);

}  // namespace zevo
