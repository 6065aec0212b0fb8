#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/advice/advice.h"
#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "core/body/movement.h"
#include "core/body/outline.h"
#include "core/judge/choices.h"
#include "core/judge/standard.h"
#include "core/session/edits.h"
#include "core/session/measured_set.h"

namespace zevo {

/// Version of what makes measures out of observations. Raised with every change that moves values; values stored by an
/// older one are shown as they are until the coach has them measured anew. 0: from before versions were kept.
inline constexpr int kEngine = 21;

/// What was seen in one clip. Never changed after it was made.
struct Observation {
    ClipFacts clip;
    PoseFrames poses;
    std::vector<SecondEstimate> secondEstimates;  ///< of other networks, around the turning points
    std::vector<Outline> outlines;                ///< at the turning points found first
    std::vector<Outline> contours;  ///< about ten a second over the repetitions; empty until they are read
    std::vector<Notice> notices;    ///< of the reading itself
    int engine = kEngine;           ///< that read it
    std::string model = "full";     ///< size of the network
    std::string network;            ///< hash of the network's file; empty in old records
};
using Observations = std::vector<std::shared_ptr<const Observation>>;

/// What sets are held against: movements, schools and advice, shipped and the coach's own.
struct Catalogue {
    std::vector<Movement> movements;  ///< squat first
    std::vector<Standard> standards;  ///< the coach's own last
    ChoiceBook choices;               ///< what schools differ in
    AskBook asks;                     ///< what a coach may ask otherwise
    AdviceBook advice;                ///< for every situation
    std::vector<Error> refused;       ///< own files that cannot be used

    const Movement* movement(const std::string& id) const;
    /// Those made for a movement or its family, its default first.
    std::vector<Standard> standardsFor(const Movement& movement) const;
};
/// Whether a standard is made for a movement (or for its family).
bool judges(const Standard& standard, const Movement& movement);

/// What an older engine measured, as it stands in the record.
struct KeptValues {
    int engine = 0;
    std::vector<MeasuredRep> reps, secondReps;
};

/// The context that facts and a movement come to.
SetContext contextOf(const SetFacts& facts, const Movement& movement, const std::string& model = "full");

/// A set of which these are asked instead of what was: what is set up for an ask (a box, a wedge, a post) comes and
/// goes with it; what was asked before and still is stays as the coach has it.
SetFacts askedAnew(SetFacts facts, Asks asks, const Catalogue& catalogue);
/// The same client at another movement or variation: what was set up for an ask of the movement before goes with it,
/// and what is asked of this one is set up. A substitute ends with its movement.
SetFacts atMovement(SetFacts facts, const std::string& movement, const std::string& variation,
                    const Catalogue& catalogue);
/// What the set after this one starts from: nextSet(), and what is asked from then on.
SetFacts factsAfter(const EditedSet& set, const Catalogue& catalogue);

/// The bands a set is judged by: its school's (its movement's default where that is missing), with its choices, for its
/// movement and variation, and with what was asked of it. Nothing for a movement nobody knows.
std::optional<Standard> standardFor(const EditedSet& edited, const Catalogue& catalogue);

/// The parts of a set, each made from the one before.
enum class Stage { Clean, Track, Series, Repetitions, Measures, Judgement, Nothing };

/// A set as it stands: made from observations, edits and catalogue, and from nothing else.
struct SetState {
    EditedSet edited;
    MeasuredSet set;
    Standard standard;  ///< the bands that hold for this set
    std::string wholeStandard;
    bool standardMissing = false;      ///< the school chosen is gone or broken; judged by the default meanwhile
    std::optional<Error> secondError;  ///< why the second view is left out
    Stage from = Stage::Clean;         ///< the first part that was made anew
    bool kept = false;                 ///< repetitions and values are an older engine's

    /// Observations the views were made from.
    std::shared_ptr<const Observation> first, second;
};

/// Makes a set, from the first part whose input changed since `before`. A pure function of observations, edits and
/// catalogue (and of kept values, where an older engine's are to be shown). Errors: what cannot be measured that way,
/// with the reason; nothing is changed then. A second view that does not fit any more is no error: it is left out and
/// said to be (secondError), unless `strictSecond`, when the edit is about it.
Result<SetState> recompute(const Observations& observations, const Edits& edits, const Catalogue& catalogue,
                           const SetState* before = nullptr, const KeptValues* kept = nullptr,
                           bool strictSecond = false);

/// One measure of one repetition before and after, where they differ by more than a tenth of the ±.
struct ValueChange {
    int rep = 0;  ///< number in the new measurement
    MeasureId measure;
    double before = 0, after = 0, pm90 = 0;
};
/// What measuring anew would change.
struct Differences {
    int repsBefore = 0, repsAfter = 0;
    std::vector<std::string> faultsGone, faultsNew;  ///< ids, clear or watch
    std::vector<ValueChange> values;                 ///< largest against their ± first
    bool none() const { return repsBefore == repsAfter && faultsGone.empty() && faultsNew.empty() && values.empty(); }
};
Differences differencesBetween(const SetResult& before, const SetResult& after);

}  // namespace zevo
