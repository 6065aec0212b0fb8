#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/advice/situation.h"
#include "core/base/result.h"
#include "core/judge/asks.h"

namespace zevo {

/// One wording of a cue.
struct Cue {
    std::string kind;  ///< external, internal or image
    std::string text;
    std::vector<std::string> claims;
};

/// A movement that is done instead of one that hurts.
struct Instead {
    std::string movement, variation;  ///< variation: empty = plain
    bool operator==(const Instead&) const = default;
};

/// A change of set-up, or an easier version.
struct Change {
    std::string text;
    std::vector<std::string> claims;
    std::optional<Ask> ask{};          ///< what taking it asks of the next set; nothing: it is said and done
    std::optional<Instead> instead{};  ///< what is filmed next where it is taken
};

/// One step of preparation with its dose.
struct Drill {
    std::string stage;  ///< release, activate or integrate
    std::string text;
    std::string dose;
    std::vector<std::string> claims;
};

/// What a text asks for or leads to, beyond its words ("knees-forward", "needs-wall"), so that it can be kept from
/// where it does harm (data/advice/claims.json).
struct Claim {
    struct Push {
        MeasureId measure;
        bool up = true;
    };
    std::string id;
    std::vector<Push> pushes;        ///< a fault over the band is never answered with what pushes further up, and so on
    std::vector<When> never;         ///< situations in which it may not be said
    bool setOnly = false;            ///< of no account in drills, which are done apart from the set
    std::vector<std::string> words;  ///< a text that holds one of these makes this claim (tests see to it)
};

/// A fault's name and how it can be seen better. One id, one meaning, one direction.
struct FaultWords {
    std::string title;   ///< coach's words: "Heels leave the floor"
    std::string term;    ///< the field's term
    std::string unsure;  ///< what to film or look at when Zevo could not tell
    std::string view;    ///< that reads it: side, front or foot-end; empty: whichever
    /// What is meant, as a small drawing (present/paint/fault_figure.h): the figure it starts from and what is turned,
    /// by how much.
    std::string figure;
    std::map<std::string, double> turned;
};

/// When a limiter is the likely one. Everything that is given must hold.
struct Signs {
    enum class Reps { Any, FromFirst, Late } reps = Reps::Any;
    bool oneSide = false;                    ///< only one leg shows it, and the other one was seen to do it well
    std::optional<bool> loaded;              ///< with or without a weight
    std::vector<std::string> with, without;  ///< faults found besides: at least one, none
    std::vector<std::string> measures;       ///< the finding rests on one of these (ids)
    std::vector<std::string> felt;           ///< the client felt it in one of these places
    std::vector<std::string> lacks;          ///< none of these aids is in use: with one of them it is not this
};

/// A likely cause of a fault.
struct Limiter {
    std::string id;
    Signs signs;
    std::string why;      ///< what it means, ends the trace: "tires rather than lacks the skill"
    std::string against;  ///< said where an aid in use rules it out: "not the ankles: …"; empty: none can
};

/// What a coach can do about one fault in some situations (data/advice/*.json). Parts that a card leaves empty are
/// another card's: of those that hold, the one with the most special conditions gives a part.
struct Card {
    std::string fault;
    When when;
    std::optional<Limiter> limiter;  ///< only where this is the likely cause
    std::vector<Cue> say;
    std::vector<Change> change;
    std::vector<Drill> prepare;
    std::string progress;
};

// Cards that answer no finding: ids of theirs in the place of a fault's.
inline constexpr const char *kCleanCard = "clean", *kFeltCard = "felt_elsewhere", *kPainCard = "complaint";

/// Everything that can be advised.
struct AdviceBook {
    std::map<std::string, FaultWords> faults;
    std::vector<Card> cards;
    std::vector<Claim> claims;

    const FaultWords* fault(const std::string& id) const;
    /// A fault's title, also of ids that are no longer used; the id itself where there is none.
    std::string title(const std::string& fault) const;
    /// Whether nothing in a text's claims forbids it here.
    bool allows(const std::vector<std::string>& textClaims, const Situation& situation) const;
};

/// What is advised about one fault in one situation.
struct Advice {
    std::vector<Cue> say;
    std::vector<Change> change;
    std::vector<Drill> prepare;
    std::string progress;
};
/// Each part from the most special card that holds and has something left to say there.
Advice adviceFor(const std::string& fault, const Situation& situation, const AdviceBook& book);

// The readers of the data files; errors name file, path and value.
Result<std::map<std::string, FaultWords>> parseFaults(const std::string& text, const std::string& name);
Result<std::vector<Claim>> parseClaims(const std::string& text, const std::string& name);
/// `book`: the faults and claims a card may name.
Result<std::vector<Card>> parseCards(const std::string& text, const std::string& name, const AdviceBook& book);

}  // namespace zevo
