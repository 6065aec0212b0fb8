#pragma once

#include <map>
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
    /// Another measure of the same fault that has to see it too: "out" is said only where that one's value is past its
    /// own edge, "unsure" where it is not or was not read. Empty: the measure speaks for itself.
    std::vector<MeasureId> witness;
    /// Variations, or ids of movements, it holds for; empty = all but those of `except`. The plain variation is called
    /// "plain".
    std::vector<std::string> only, except;
    std::string source;  ///< where the numbers come from: a publication, "common practice", "ours, because …"

    bool holdsFor(const std::string& movement, const std::string& variation) const;
};

/// Which option is taken of each choice, by their ids: {"foot": "tripod"}. Options that need a number carry it after a
/// colon: "own:12".
using Choices = std::map<std::string, std::string>;

/// A school's judgement as data (data/standards/*.json, or a coach's own file): a named bundle of choices (choices.h),
/// and bands for what is no choice.
struct Standard {
    std::string id, movement, title;  ///< movement: a movement's id, or its family's name
    std::string reason;               ///< two sentences: what it values and why
    std::string differs;              ///< where it differs from the other schools of its movement
    double minConfidence = 0.5;       ///< below: unsure
    std::vector<Band> bands;
    /// Without these judged in most repetitions a set is not called clean.
    std::vector<MeasureId> leading;
    Choices choices;
    std::vector<std::string>
        changed;       ///< what a client or a set has otherwise: "with toes light"; not part of the file
    bool own = false;  ///< the coach's, not shipped; not part of the file

    const Band* bandFor(MeasureId measure) const;
    const Band* bandFor(std::string_view measure) const { return bandFor(MeasureId::named(measure)); }
    /// The same with only the bands that hold for a movement and its variation ("" = plain).
    Standard forSet(const std::string& movement, const std::string& variation) const;
};

/// Bands that several schools share (data/standards/common/*.json), by the file's name.
using CommonBands = std::map<std::string, std::vector<Band>>;

/// Reads a standard. `name` stands for the file in messages; an error names file, path and value. Fault ids of older
/// files are read as those of today (retired_faults.h). `common`: what `"common"` may name; the standard's own bands
/// stand in the place of common ones of the same measure.
Result<Standard> parseStandard(const std::string& text, const std::string& name, const CommonBands& common = {});
/// Reads a file of common bands.
Result<std::vector<Band>> parseBands(const std::string& text, const std::string& name);
/// Writes one so that parseStandard() reads the same again.
std::string standardJson(const Standard& standard);

}  // namespace zevo
