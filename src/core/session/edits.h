#pragma once

#include <map>
#include <optional>
#include <string>
#include <type_traits>
#include <variant>
#include <vector>

#include "core/marks/marks.h"
#include "core/session/edits/ask_set.h"
#include "core/session/edits/cue_given.h"
#include "core/session/edits/cue_retracted.h"
#include "core/session/edits/edit_kind.h"
#include "core/session/edits/facts_set.h"
#include "core/session/edits/filmed_separately.h"
#include "core/session/edits/leg_named.h"
#include "core/session/edits/note_pinned.h"
#include "core/session/edits/person_chosen.h"
#include "core/session/edits/point_marked.h"
#include "core/session/edits/point_placed.h"
#include "core/session/edits/reference_length.h"
#include "core/session/edits/repetition_set.h"
#include "core/session/edits/rest_pose_chosen.h"
#include "core/session/edits/second_added.h"
#include "core/session/edits/second_nudged.h"
#include "core/session/edits/second_removed.h"
#include "core/session/edits/span_left_out.h"
#include "core/session/edits/standard_chosen.h"
#include "core/session/edits/trimmed.h"
#include "core/session/measured_set.h"
#include "core/session/set_facts.h"
#include "core/track/track.h"

namespace zevo {

/// Every kind there is (edits/edit_kind.h).
using Edit = std::variant<FactsSet, StandardChosen, SpanLeftOut, SecondAdded, SecondRemoved, SecondNudged,
                          FilmedSeparately, PointPlaced, Trimmed, RepetitionSet, PersonChosen, CueGiven, CueRetracted,
                          LegNamed, RestPoseChosen, ReferenceLength, NotePinned, PointMarked, AskSet>;

/// What a kind says of itself (edits/edit_kind.h).
bool isAboutSecondView(const Edit& edit);
bool needsSecondView(const Edit& edit);
bool leavesValues(const Edit& edit);
bool onlyJudges(const Edit& edit);

/// In the order they were made.
using Edits = std::vector<Edit>;

/// The list with one edit more. Where an edit makes an earlier one of its kind meaningless (facts, standard, nudge,
/// apart, the same span, the same point at the same moment) that one goes, so that the list does not grow with
/// fiddling.
Edits with(Edits edits, Edit edit);

/// What a list of edits comes to.
struct EditedSet {
    SetFacts facts;
    std::string standard;  ///< as chosen; empty = the movement's default
    std::vector<Span> leftOut;
    struct Second {
        int observation = 1;
        bool sameTake = true;
        double nudgeS = 0;
    };
    std::optional<Second> second;
    struct View {
        Corrections corrections;
        std::optional<Span> trimmed;
        std::vector<RepsByHand> byHand;
        std::vector<LegByHand> legs;
        std::optional<PersonChosen> person;
        std::vector<NotePinned> notes;  ///< in the order of time
        std::vector<Mark> marks;        ///< one of a kind
        bool operator==(const View&) const = default;
    };
    View views[2];
    std::optional<CueGiven> cue;  ///< given after this set
    /// What is asked of the sets after it, by movement and kind, where that was changed; nothing: lifted.
    std::map<std::pair<std::string, std::string>, std::optional<Ask>> asked;
};
EditedSet fold(const Edits& edits);
/// What is asked of the set after this one: what was asked of it, with what was asked and lifted after it.
Asks asksAfter(const EditedSet& set);
/// Places in the list of observations that edits speak of; the first one always counts.
std::vector<bool> observationsSpokenOf(const Edits& edits);

/// Those of `a` that are not in `b`; each as often as it is there more often.
Edits without(const Edits& a, const Edits& b);
/// `mine` was made over `base`; the same difference made over `theirs`: what it took out is taken out there, what it
/// added is added behind. Edits are keyed by time, so that this means the same. `moved`: observations that `mine` added
/// stand at other places of the list there.
Edits rebased(const Edits& base, const Edits& mine, const Edits& theirs, const std::map<int, int>& moved = {});

}  // namespace zevo
