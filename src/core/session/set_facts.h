#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

#include "core/judge/asks.h"
#include "core/judge/choices.h"
#include "core/judge/set_result.h"
#include "core/judge/stop_rules.h"
#include "core/judge/tempo.h"

namespace zevo {

enum class SetKind { Working, WarmUp, Test };

/// What is held, so that a load is entered as it is lifted: one bell, a bar with its own weight, or two weights.
struct Load {
    std::string held;   ///< "bell", "bar" or "pair"; empty: nothing said
    double eachKg = 0;  ///< of the bell, of each of the two, or of the plates in all
    double barKg = 0;   ///< the bar's own weight
    double totalKg() const { return held == "pair" ? 2 * eachKg : held == "bar" ? barKg + eachKg : eachKg; }
    bool operator==(const Load&) const = default;
};

/// How a set was meant and done, as the coach logs it. Nothing here is measured; what changes a reading (load, wedge)
/// stands in SetFacts as well.
struct SetLog {
    SetKind kind = SetKind::Working;
    Load load;
    double boxCm = 0;  ///< height of a box to sit to; 0 = none
    bool belt = false, pole = false;
    std::string shoes;          ///< id of present/log_words.h; empty: nothing said
    std::optional<int> effort;  ///< 0–10, the client's own
    std::string endedBy;        ///< what ended the set, id of present/log_words.h; empty: nothing said
    int plannedReps = 0;        ///< 0: none were planned
    std::string note;
    bool operator==(const SetLog&) const = default;
};

/// What is done instead of a movement that hurt, until the coach goes back to it.
struct Substitute {
    std::string of, variation;  ///< ids of the movement that hurt
    std::string why;            ///< the places, as painSpotsText() has them
    std::optional<int> pain;    ///< 0–10, what it was then
    std::string by, on;         ///< the coach; the day, ISO 8601
    bool operator==(const Substitute&) const = default;
};

/// What the coach says of a set, by ids: the movement's data is looked up in the catalogue.
struct SetFacts {
    std::string movement = "squat", variation;  ///< variation: empty = plain
    std::string view = "auto";                  ///< of the first clip, when the coach knows better
    double statureCm = 0;                       ///< of the client when the set was filmed; 0 = not known
    double loadShare = 0, wedgeDeg = 0;
    std::optional<double> ankleLimitDeg;
    bool stoodStraight = false;  ///< before the first repetition with straight knees, as they were asked to
    std::optional<Tempo> tempo;
    Choices choices;  ///< where the client or the set has it otherwise than the school
    PainCheck pain;
    std::vector<std::string> felt;  ///< where the client felt it (ids of feltPlaces())
    double massKg = 0;              ///< of the client when the set was filmed; 0 = not known
    Shirt shirt = Shirt::NotSaid;   ///< the back is read only where it is known to lie on
    Asks asks;                      ///< what was asked of this set; it is judged by it
    std::optional<Substitute> substitute;
    SetLog log;

    /// What is held ÷ body mass: from the load and the mass where both are known, else as the coach said.
    double heldShare() const { return massKg > 0 && log.load.totalKg() > 0 ? log.load.totalKg() / massKg : loadShare; }
    bool operator==(const SetFacts&) const = default;
};

/// What a next set starts from: the same set-up, without what belongs to one set alone (effort, note, what was felt and
/// hurt after it).
SetFacts nextSet(SetFacts facts);

/// As the record holds them, and back. Throws std::exception where they are damaged.
nlohmann::json writeFacts(const SetFacts& facts);
SetFacts readFacts(const nlohmann::json& object);

}  // namespace zevo
