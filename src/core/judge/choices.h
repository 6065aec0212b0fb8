#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/base/result.h"
#include "core/judge/standard.h"

namespace zevo {

/// One way of doing what schools do differently.
struct ChoiceOption {
    std::string id;
    std::string title;        ///< "Whole foot, nothing lifts"
    std::string with;         ///< how a card says that a set has it otherwise: "with toes light"
    std::string setUp;        ///< what the client is told before the first repetition; may be empty
    std::string as;           ///< the variation that it is, where there is one of that name; may be empty
    bool asksNumber = false;  ///< written "own:12"; its bands hold the number in the place of the edge
    /// What the school asks with this option. Every option of a choice names the same measures: a band without edges
    /// says that nothing is asked.
    std::vector<Band> bands;
};

/// Something schools differ in (data/choices.json): where a squat starts, how deep it goes, what the arms do.
struct Choice {
    std::string id, title;
    std::vector<std::string> movements;  ///< ids or families
    std::vector<ChoiceOption> options;

    bool isFor(const Movement& movement) const;
    const ChoiceOption* option(const std::string& chosen) const;  ///< "own" of "own:12"
};
using ChoiceBook = std::vector<Choice>;

/// Reads the file of choices. `name` stands for the file in messages; an error names file, path and value.
Result<ChoiceBook> parseChoices(const std::string& text, const std::string& name);

/// The choice and the option that take a client's own number for a measure in a movement: {"depth", "own"}; nothing
/// where none does.
std::optional<std::pair<std::string, std::string>> ownNumberFor(const ChoiceBook& book, const Movement& movement,
                                                                MeasureId measure);

/// The number of "own:12"; nothing when there is none.
std::optional<double> numberOf(const std::string& chosen);

/// Why a bundle cannot be used: a choice or an option that is not known, a number that is missing. Empty: it can.
std::string problemOf(const Choices& choices, const ChoiceBook& book);

/// A school with the bands of its own bundle; those that its file has itself stand before them.
Standard withBundle(const Standard& school, const ChoiceBook& book);

/// A school as a client or a set has it: the bands of the overrides in the place of its own. Overrides of choices that
/// are unknown, not for this movement, or what the school asks anyway are passed over.
Standard withChoices(const Standard& school, const ChoiceBook& book, const Choices& overrides,
                     const Movement& movement);

/// What a client is told before the first repetition, by what was chosen, in the book's order; nothing of arms that are
/// busy.
std::vector<std::string> setUpOf(const Choices& choices, const ChoiceBook& book, const Movement& movement,
                                 const std::string& variation);

/// What the arms do by a bundle of choices.
Arms armsOf(const Choices& choices);
/// Whether the weight is to be over the heels, by a bundle of choices.
bool toesLight(const Choices& choices);
/// The variation whose bands hold for a set: the plain one of which something is chosen that has a variation of its own
/// (a wide stance, a bridge segment by segment) is judged as that.
std::string judgedAs(const std::string& variation, const Choices& choices, const ChoiceBook& book,
                     const Movement& movement);

}  // namespace zevo
