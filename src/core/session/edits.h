#pragma once

#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/judge/set_result.h"
#include "core/judge/stop_rules.h"
#include "core/judge/tempo.h"
#include "core/session/measured_set.h"
#include "core/track/track.h"

namespace zevo {

/// What the coach says of a set, by ids: the movement's data is looked up in the catalogue.
struct SetFacts {
    std::string movement = "squat", variation;  ///< variation: empty = plain
    std::string view = "auto";                  ///< of the first clip, when the coach knows better
    double statureCm = 0;                       ///< of the client when the set was filmed; 0 = not known
    double loadShare = 0, wedgeDeg = 0;
    std::optional<double> ankleLimitDeg;
    bool stoodStraight = false;  ///< before the first repetition with straight knees, as he was asked to
    std::optional<Tempo> tempo;
    Choices choices;  ///< where the client or the set has it otherwise than the school
    PainCheck pain;
    std::vector<std::string> felt;  ///< where the client felt it (ids of feltPlaces())
    bool warmUp = false;            ///< not a working set

    bool operator==(const SetFacts&) const = default;
};

// What can be said against, or about, what was observed. Every edit is keyed by time, never by a repetition's number:
// numbers change when the set is measured anew, moments do not. Times are on the clock of the view they are about.

struct FactsSet {
    SetFacts facts;
    bool operator==(const FactsSet&) const = default;
};
struct StandardChosen {
    std::string id;
    bool operator==(const StandardChosen&) const = default;
};
/// A span of the first view that does not count, or counts again.
struct SpanLeftOut {
    Span span;
    bool out = true;
    bool operator==(const SpanLeftOut&) const = default;
};
/// Another clip of the set; `observation`: its place in the list of observations.
struct SecondAdded {
    int observation = 1;
    bool together = true;  ///< false: filmed one after the other
    bool operator==(const SecondAdded&) const = default;
};
struct SecondRemoved {
    bool operator==(const SecondRemoved&) const = default;
};
struct SecondNudged {
    double nudgeS = 0;  ///< in all, added to the lag found
    bool operator==(const SecondNudged&) const = default;
};
struct SecondApart {
    bool together = false;
    bool operator==(const SecondApart&) const = default;
};
struct LandmarkMoved {
    bool second = false;
    MovedPoint point;
    bool operator==(const LandmarkMoved&) const = default;
};
/// Only this stretch of a view's clip is the set.
struct Trimmed {
    bool second = false;
    Span span;
    bool operator==(const Trimmed&) const = default;
};
/// A repetition's bounds set by hand.
struct RepetitionSet {
    bool second = false;
    RepBounds bounds;
    bool operator==(const RepetitionSet&) const = default;
};
/// Who the client is, where two people are in the picture. The clip is followed again from there (src/pipeline); what
/// was observed then already is that person, so recompute() has nothing to do for it.
struct PersonChosen {
    bool second = false;
    double atS = 0, x = 0, y = 0;  ///< picture pixels
    bool operator==(const PersonChosen&) const = default;
};

/// What the coach said to the client after this set, before the next.
struct CueGiven {
    std::string fault;    ///< the finding it is about; empty: nothing was said, watching
    std::string wording;  ///< as it stands on the card, or the coach's own
    bool operator==(const CueGiven&) const = default;
};
struct CueTakenBack {
    bool operator==(const CueTakenBack&) const = default;
};

using Edit = std::variant<FactsSet, StandardChosen, SpanLeftOut, SecondAdded, SecondRemoved, SecondNudged, SecondApart,
                          LandmarkMoved, Trimmed, RepetitionSet, PersonChosen, CueGiven, CueTakenBack>;
enum class EditKind {
    FactsSet,
    StandardChosen,
    SpanLeftOut,
    SecondAdded,
    SecondRemoved,
    SecondNudged,
    SecondApart,
    LandmarkMoved,
    Trimmed,
    RepetitionSet,
    PersonChosen,
    CueGiven,
    CueTakenBack
};
inline EditKind kindOf(const Edit& edit) {
    return static_cast<EditKind>(edit.index());
}

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
        bool together = true;
        double nudgeS = 0;
    };
    std::optional<Second> second;
    struct View {
        std::vector<MovedPoint> moved;
        std::optional<Span> trimmed;
        std::vector<RepBounds> byHand;
        bool operator==(const View&) const = default;
    };
    View views[2];
    std::optional<CueGiven> cue;  ///< given after this set
};
EditedSet fold(const Edits& edits);

}  // namespace zevo
