#pragma once

#include <array>
#include <string>
#include <vector>

#include "core/session/comparison.h"
#include "core/session/cue_answer.h"
#include "core/session/seen_from.h"

namespace zevo {

/// A set of a client as the ledger needs it: values as they are kept, no poses.
struct LedgerSet {
    std::string id;  ///< the caller's
    long day = 0;    ///< a number that rises by one a day
    Edits edits;
    std::vector<MeasuredRep> reps;
    std::vector<SeenFrom> seenFrom;  ///< empty: not known
    bool measured = true;            ///< there are repetitions, whether they were read already or not
    std::vector<MeasuredRep> counted() const { return countedOf(reps, fold(edits).leftOut); }
};
/// Which set answers which: where something was said, or the set-up changed, the next one of the same movement on the
/// same day. Positions; needs no repetitions.
std::vector<std::pair<std::size_t, std::size_t>> trialPairs(const std::vector<LedgerSet>& sets);

/// Whom the set after a trial is held against.
struct Baseline {
    std::vector<RepsOfSet> sets;  ///< oldest first; the one right before the trial last
    SetHistory history;           ///< of the sets up to that one
};
/// The sets like `at`, and `at` itself: of its movement and set-up, seen alike, and with as much said about `fault`
/// (empty: about any) before them on their day. Where nothing was, of other days too, the last six of six weeks; else
/// only of that day. `sets`: oldest first.
Baseline baselineOf(const std::vector<LedgerSet>& sets, std::size_t at, const std::string& fault);
/// Runs of sets of the movement of `at`, up to it, between which nothing was said or changed; the last two dozen sets.
/// `without`: sets that are left out, because they are what is tested.
SetHistory historyOf(const std::vector<LedgerSet>& sets, std::size_t at, const std::vector<std::string>& without = {});

/// Choices (core/judge/choices.h) that are how a set is set up, not how it is judged alone.
inline constexpr std::array kSetUpChoices{"stance", "toes", "arms"};

/// What a coach asked for otherwise than in the set before: a trial of the set-up.
struct SetUpChange {
    enum class What { Wedge, Stance, Toes, Arms, LoadPlace, Box, Pole, Belt, Shoes, Load, Asked } what;
    std::string from, to;  ///< ids, or numbers with a point; of what was asked "kind/rung/amount", empty for nothing
    bool operator==(const SetUpChange&) const = default;
};
std::vector<SetUpChange> setUpChanges(const SetFacts& before, const SetFacts& after);

/// A cue and what the next set of the movement on that day said to it.
struct CueTrial {
    std::string set, answeredBy;
    long day = 0;
    CueAnswer answer;
    /// The set-up was changed as well: what helped cannot be told apart.
    std::vector<SetUpChange> also;
    bool seenAlike = true;
    bool counts() const { return also.empty() && seenAlike && answer.effect != CueEffect::CannotSay; }
};
/// One change of the set-up between two sets of a day, nothing said in between.
struct SetUpTrial {
    std::string without, with;
    long day = 0;
    std::string movement;
    std::vector<SetUpChange> changes;
    std::vector<MeasureDifference> differences;  ///< of judged measures; more than noise first
    /// Of the standard's faults: found before and not any more, and the other way round.
    std::vector<std::string> gone, brought;
    bool seenAlike = true;
};
struct Ledger {
    std::vector<CueTrial> cues;  ///< oldest first
    std::vector<SetUpTrial> trials;
};
/// Goes through a client's sets, oldest first. Sets whose movement the catalogue does not know are passed over.
Ledger ledgerOf(const std::vector<LedgerSet>& sets, const Catalogue& catalogue);

/// How a wording fared with one client. Answers that cannot be given, and those with another set-up or another camera,
/// count neither way.
struct CueScore {
    std::string fault, wording;
    int worked = 0, noDifference = 0, worse = 0, open = 0;
    int failed() const { return noDifference + worse; }
    int tried() const { return worked + failed() + open; }
};
/// One a wording, in the order they were first given.
std::vector<CueScore> scoresOf(const std::vector<CueTrial>& trials);

/// The order in which wordings are offered: those that worked first (oftener first), then those not tried yet as the
/// card has them, last those that failed twice, and oftener than they worked. Positions in `wordings`.
std::vector<std::size_t> bestFirst(const std::vector<std::string>& wordings, const std::string& fault,
                                   const std::vector<CueScore>& scores);

}  // namespace zevo
