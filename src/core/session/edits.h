#pragma once

#include <map>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/judge/set_result.h"
#include "core/judge/stop_rules.h"
#include "core/judge/tempo.h"
#include "core/marks/marks.h"
#include "core/session/measured_set.h"
#include "core/track/track.h"

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
    std::string note;
    bool operator==(const SetLog&) const = default;
};

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
    double massKg = 0;              ///< of the client when the set was filmed; 0 = not known
    Shirt shirt = Shirt::NotSaid;   ///< the back is read only where it is known to lie on
    SetLog log;

    /// What is held ÷ body mass: from the load and the mass where both are known, else as the coach said.
    double heldShare() const { return massKg > 0 && log.load.totalKg() > 0 ? log.load.totalKg() / massKg : loadShare; }
    bool operator==(const SetFacts&) const = default;
};

/// What a next set starts from: the same set-up, without what belongs to one set alone (effort, note, what was felt and
/// hurt after it).
SetFacts nextSet(SetFacts facts);

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
/// Within a stretch the repetitions are these: none (it was no repetition), one (moved, added, joined), two (split).
struct RepetitionSet {
    bool second = false;
    RepsByHand reps;
    bool operator==(const RepetitionSet&) const = default;
};
/// Which leg worked in the repetition at a moment.
struct LegNamed {
    bool second = false;
    LegByHand leg;
    bool operator==(const LegNamed&) const = default;
};
/// When the client stood (or lay) at rest; what was taken for it before is not used any more.
struct StandingSet {
    bool second = false;
    double atS = 0;
    bool operator==(const StandingSet&) const = default;
};
/// How long something in the picture truly is, at the client's distance: the scale of all lengths.
struct LengthTold {
    bool second = false;
    ToldLength length;
    bool operator==(const LengthTold&) const = default;
};
/// A word pinned to a picture; an empty one takes it away.
struct NotePinned {
    bool second = false;
    double atS = 0;
    std::string text;
    bool operator==(const NotePinned&) const = default;
};
/// Who the client is, where two people are in the picture. The clip is followed again from there (src/pipeline); what
/// was observed then takes the place of what the view was made from, and the first observation stays for undo. What was
/// put right or marked on the person followed before means nothing any more.
struct PersonChosen {
    bool second = false;
    double atS = 0, x = 0, y = 0;  ///< picture pixels
    int observation = 0;           ///< its place in the list of observations
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

/// A point marked in a view and followed through its clip; with no click left it is taken off. The path is kept with
/// it: following needs the video, and the record does not.
struct PointMarked {
    bool second = false;
    Mark mark;
    bool operator==(const PointMarked&) const = default;
};

using Edit = std::variant<FactsSet, StandardChosen, SpanLeftOut, SecondAdded, SecondRemoved, SecondNudged, SecondApart,
                          LandmarkMoved, Trimmed, RepetitionSet, PersonChosen, CueGiven, CueTakenBack, LegNamed,
                          StandingSet, LengthTold, NotePinned, PointMarked>;
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
    CueTakenBack,
    LegNamed,
    StandingSet,
    LengthTold,
    NotePinned,
    PointMarked
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
};
EditedSet fold(const Edits& edits);
/// Places in the list of observations that edits speak of; the first one always counts.
std::vector<bool> observationsSpokenOf(const Edits& edits);

/// Those of `a` that are not in `b`; each as often as it is there more often.
Edits without(const Edits& a, const Edits& b);
/// `mine` was made over `base`; the same difference made over `theirs`: what it took out is taken out there, what it
/// added is added behind. Edits are keyed by time, so that this means the same. `moved`: observations that `mine` added
/// stand at other places of the list there.
Edits rebased(const Edits& base, const Edits& mine, const Edits& theirs, const std::map<int, int>& moved = {});

}  // namespace zevo
