#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/result.h"

namespace zevo {

/// What a school asks of one measure. A side without a fault id is not judged, only drawn.
struct Band {
    std::string measure;
    std::optional<double> min, max;
    std::string faultBelow, faultAbove;  ///< fault ids
    int rank = 100;                      ///< lower = said first
    bool careful = false;                ///< reading inside but with the ± over the edge is "unsure", not passed
    double scaleFrom = 0, scaleTo = 0;   ///< range of the little scale it is drawn on
};

/// A school's judgement as data (data/standards/*.json).
struct Standard {
    std::string id, movement, title;
    std::string reason;          ///< two sentences: what it values and why
    double minConfidence = 0.5;  ///< below: unsure
    std::vector<Band> bands;

    const Band* bandFor(const std::string& measure) const;
};

/// Reads a standard. `name` stands for the file in messages; an error names file, path and value.
Result<Standard> parseStandard(const std::string& text, const std::string& name);

}  // namespace zevo
