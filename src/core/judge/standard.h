#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/measures/measure.h"

namespace zevo {

/// What a school asks of one measure. A side without a fault id is not judged, only drawn.
struct Band {
    MeasureId measure;
    std::optional<double> min, max;
    std::string faultBelow, faultAbove;  ///< fault ids
    int rank = 100;                      ///< lower = said first
    bool careful = false;                ///< reading inside but with the ± over the edge is "unsure", not passed
    /// Variations, or ids of movements, it holds for; empty = all but those of `except`. The plain variation is called
    /// "plain".
    std::vector<std::string> only, except;

    bool holdsFor(const std::string& movement, const std::string& variation) const;
};

/// A school's judgement as data (data/standards/*.json, or a coach's own file).
struct Standard {
    std::string id, movement, title;  ///< movement: a movement's id, or its family's name
    std::string reason;               ///< two sentences: what it values and why
    std::string differs;              ///< where it differs from the other schools of its movement
    double minConfidence = 0.5;       ///< below: unsure
    std::vector<Band> bands;
    bool own = false;  ///< the coach's, not shipped; not part of the file

    const Band* bandFor(MeasureId measure) const;
    const Band* bandFor(std::string_view measure) const { return bandFor(MeasureId::named(measure)); }
    /// The same with only the bands that hold for a movement and its variation ("" = plain).
    Standard forSet(const std::string& movement, const std::string& variation) const;
};

/// Reads a standard. `name` stands for the file in messages; an error names file, path and value.
Result<Standard> parseStandard(const std::string& text, const std::string& name);
/// Writes one so that parseStandard() reads the same again.
std::string standardJson(const Standard& standard);

}  // namespace zevo
