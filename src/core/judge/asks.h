#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/judge/standard.h"

namespace zevo {

/// What a coach asked of a client that differs from what the school asks: "to the box, 42 cm". It holds from the set
/// after the one it was asked after until it is lifted, and a set is judged by what was asked of it.
struct Ask {
    std::string kind;                ///< id of an AskKind: "depth"; of each kind one stands at a time in a movement
    std::string rung;                ///< id of one of its rungs: "box"
    std::optional<double> amount{};  ///< in the rung's unit, where it takes one
    std::string by{};                ///< the coach's name; empty: none was set
    std::string on{};                ///< the day, ISO 8601
    std::string why{};               ///< id of the fault or the painful place it was asked for; empty: not said
    std::string movement{};          ///< it was asked of; empty: whichever, as the cards of advice have it
    std::optional<int> pain{};       ///< 0–10, what it was asked for where something hurt

    bool operator==(const Ask&) const = default;
};
/// What stands for a client: one of a kind in a movement, in the order they were asked.
using Asks = std::vector<Ask>;

/// An edge of the school that an ask takes the place of.
struct AskedEdge {
    MeasureId measure;
    bool above = true;         ///< the upper edge of the band, not the lower one
    std::optional<double> to;  ///< where it lies now; nothing: there is none any more
    bool toAmount = false;     ///< it lies at the ask's amount, `times` and `plus`
    double times = 1, plus = 0;
    /// What a value past it is called; empty: as the school calls it. An edge the school does not have is only made
    /// where this is given.
    std::string fault;
};

/// One way of asking, from the easiest to the hardest of its kind.
struct AskRung {
    std::string id;
    std::string asked;                                ///< after "asked:", "to the box"
    std::string unit;                                 ///< of the amount: cm, s, deg; empty: it takes none
    double least = 0, most = 0, step = 0, usual = 0;  ///< of the amount; one step is one rung, harder where it grows
    bool harderDown = false;                          ///< a smaller amount is the harder one: a lower box
    std::vector<AskedEdge> edges;
    // What the set is besides, so that nothing asks for what is there.
    std::string variation;                                                    ///< the plain one becomes this one
    enum class Sets { Nothing, BoxCm, WedgeDeg, Pole } sets = Sets::Nothing;  ///< what is logged of it
};

/// Something that can be asked of a movement (data/asks.json).
struct AskKind {
    std::string id;
    std::vector<std::string> movements;  ///< ids or families
    std::vector<AskRung> rungs;

    bool isFor(const Movement& movement) const;
    const AskRung* rung(const std::string& rungId) const;
};
using AskBook = std::vector<AskKind>;

/// Reads the file of asks. `name` stands for the file in messages; an error names file, path and value.
Result<AskBook> parseAsks(const std::string& text, const std::string& name);

/// As the record holds one, and back. Throws std::exception where it is damaged.
nlohmann::json writeAsk(const Ask& ask);
Ask readAsk(const nlohmann::json& object);

/// The kind of an ask for a movement; null where the book has none, or not for it.
const AskKind* kindOf(const Ask& ask, const AskBook& book, const Movement& movement);
/// Its rung; null where there is none, or where it was asked of another movement.
const AskRung* rungOf(const Ask& ask, const AskBook& book, const Movement& movement);
/// The amount as it may be: between the rung's least and most, its usual one where none was said; nothing where the
/// rung takes none.
std::optional<double> amountOf(const Ask& ask, const AskRung& rung);

/// A standard as it judges a set of which something was asked: edges that contradict the asks make way, witnesses and
/// everything else stay. Asks the book does not know for this movement are passed over.
Standard withAsks(const Standard& standard, const AskBook& book, const Asks& asks, const Movement& movement);

/// What stands of a kind in a movement; null where nothing does.
const Ask* standing(const Asks& asks, const std::string& kind, const std::string& movement);
/// Whether `wanted` is asked already: the same rung, at the same amount where it names one. To a box, if at another
/// height, is not to a box once more.
bool isAsked(const Ask& wanted, const Asks& asks);

/// The list with one ask more, in the place of one of its kind and movement.
Asks with(Asks asks, Ask ask);
/// The list without a kind of a movement.
Asks without(Asks asks, const std::string& movement, const std::string& kind);

/// The next rung: by a step of the amount while there is one, then the neighbouring rung at its easiest or hardest.
/// Nothing at either end.
std::optional<Ask> nextRung(const Ask& ask, const AskKind& kind, bool harder);

}  // namespace zevo
