#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/judge/set_result.h"

namespace zevo {

/// What a coach has before the eyes when the advice is given: everything the choice of words may depend on.
struct Situation {
    std::string movement, family;
    std::string variation = "plain";
    std::string school;             ///< id of the standard
    std::string hands;              ///< free, front, sides, back, overhead, stick or post: what they are busy with
    bool loaded = false;            ///< a weight is held, wherever
    std::vector<std::string> aids;  ///< what is in use already: wedge, box, pole
    std::string shoes;              ///< id; empty: not said
    std::optional<int> effort;      ///< 0–10, the client's own; nothing: not said
    bool room = false;              ///< the movement needs room around it: nothing may stand close
    bool swings = false;            ///< a weight swings between the legs
    Choices choices;                ///< of the school, with those of the set or client in their place
    std::string level = "free";     ///< what may be said at all: free, lighten, care or stop (levelName())
    std::vector<std::string> complaints;  ///< ids of painful places
    std::vector<std::string> felt;        ///< ids of where the set was felt
    std::string limiter;                  ///< the likely cause; empty: none stood out
    Asks asks;                            ///< what was asked of the set
    MeasureId measure;                    ///< the finding's
    bool above = false;                   ///< it is over its band, not under it

    bool uses(const std::string& aid) const;
};

/// Whether nothing is said to better a movement, only what is done instead: a weight swings or is overhead, and
/// something hurts or was cleared within limits only.
bool isLeftAlone(const Situation& situation);

/// "free", "lighten", "care"; "stop" of everything that stops.
std::string levelName(StopAnswer::Level level);

/// The situation of a set as it was judged.
Situation situationOf(const SetResult& result);

/// Conditions of a card. An empty one asks for nothing; of a list one must hold; of all that is given all must hold.
struct When {
    std::vector<std::string> families, movements, variations, schools, hands, complaints, felt, levels, aids, shoes;
    std::vector<std::string> lacks;  ///< aids none of which is in use
    std::optional<bool> loaded;
    std::optional<int> effortFrom;  ///< the set was at least that hard
    std::optional<bool> room;
    std::map<std::string, std::vector<std::string>> choices;  ///< choice → options ("none": the school has none)

    bool holds(const Situation& situation) const;
    /// How special it is: a condition that fewer situations meet weighs more. 0: always holds.
    int weight() const;
};

}  // namespace zevo
