#pragma once

#include <QString>
#include <QStringList>
#include <atomic>
#include <memory>
#include <optional>

#include "core/session/cue_ledger.h"
#include "core/session/session.h"
#include "pipeline/analyse_clip.h"
#include "store/library.h"

namespace zevo::app {

// What can be done with a set away from the window's thread. Each call opens the library folder itself, because a
// database connection belongs to one thread.

/// A clip to be watched: where it lies, or why it cannot be shown.
struct Watchable {
    QString path;     ///< the clip, or the copy that is quick to jump about in; empty when the video is not there
    QString missing;  ///< why there is no video, in plain words
    std::vector<double> timesS;
};
Watchable watchable(const store::Library& library, const store::Seen& seen);

/// A recorded set, ready to be shown.
struct LoadedSet {
    store::StoredSet stored;
    SetState state;
    std::shared_ptr<const Catalogue> catalogue;
    std::vector<Watchable> clips;  ///< one an observation
    /// The set before it on the same day, where a cue was given after that one or the set-up was changed since.
    struct Before {
        CueGiven cue;
        std::vector<MeasuredRep> reps;
        std::vector<SetUpChange> changes;  ///< of the set-up, since then
        bool seenAlike = true;             ///< picture, network and engine are the same
    };
    std::optional<Before> before;
    /// How the wordings fared with this client so far.
    std::vector<CueScore> scores;
};
/// The record's sets of a client as the ledger reads them, oldest first.
std::vector<LedgerSet> ledgerSets(const std::vector<store::LoggedSet>& log);
/// What a next set starts from: the facts of the client's newest set of the movement, without what belongs to one set
/// alone; `otherwise` where there is none. The client's as he is now.
SetFacts carriedOver(const store::Library& library, const store::Client& client, const SetFacts& otherwise);
/// Stature, mass, pain and choices as they are the client's today; what the set-up was asked to be stays.
void takeFrom(const store::Client& client, SetFacts& facts);

struct ImportRequest {
    QString libraryFolder, clipPath;
    SetFacts facts;    ///< the stature is the client's
    QString standard;  ///< empty = the movement's default
    QString model = "full";
    store::ClientId client{};
    std::shared_ptr<const Catalogue> catalogue;
};

/// What a measured clip has become.
struct Imported {
    store::SetId id{};
    store::ClientId client{};
    QString headline;
};

/// Measures a clip and writes it to the client's record. Outlines and viewing copy are tried last: when they fail the
/// set is kept without them. Errors are for the coach; nothing is kept then.
Result<Imported> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                            const pipeline::OnProgress& progress);

/// The same without writing anything.
Result<store::NewSet> measureClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress);

/// Shows a recorded set again: no network runs, the video is only looked for, nothing is written. Values of an older
/// engine are shown as they are kept.
Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, std::shared_ptr<const Catalogue> catalogue);

/// Follows the client in another clip, for a set that is open and is judged in `context`; nothing is written.
Result<store::Seen> observeForSet(const QString& libraryFolder, const QString& clipPath, const SetContext& context,
                                  const std::atomic<bool>& cancel, const pipeline::OnProgress& progress,
                                  const std::optional<pipeline::PersonAt>& person = {});

/// Adds the outlines at the turning points of `state`; where they cannot be had, a notice. Error: stopped.
Result<void> addOutlines(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress);
/// Adds the outlines over the repetitions, about ten a second, where the line of the back can be read from them (a side
/// view); nothing where they cannot be had. Error: stopped.
Result<void> addContours(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress);
/// The same for the first view of a set in the record, after its answer was given; kept there with what the set comes
/// to then. Nothing where the view is not from the side, has them, or its video is not there.
Result<std::optional<store::Seen>> readBackOf(const QString& libraryFolder, store::SetId id,
                                              const std::shared_ptr<const Catalogue>& catalogue,
                                              const std::atomic<bool>& cancel, const pipeline::OnProgress& progress);
/// Keeps what was followed in a set of the record, whoever looks at it.
Result<void> keepMarks(const QString& libraryFolder, store::SetId id, const std::vector<PointMarked>& marked,
                       const std::shared_ptr<const Catalogue>& catalogue);
Observations observationsOf(const std::vector<store::Seen>& seen);

/// A second view joins a set in the record, whoever looks at it. `laterS`: how much later its clip begins by a clock
/// both cameras share, where there is one; it goes before what the movement says where the two disagree. Answers what
/// the set comes to. Error: it does not fit; the set stays as it was.
Result<store::Outcome> joinSeen(store::Library& library, store::SetId id, store::Seen seen, bool together,
                                std::optional<double> laterS, const std::shared_ptr<const Catalogue>& catalogue);

/// What a set comes to, for lists and progress.
store::Outcome outcomeOf(const SetState& state, int engine, const std::shared_ptr<const Catalogue>& catalogue);

/// Where the coach's own standards lie.
QString ownStandards(const QString& libraryFolder);

}  // namespace zevo::app
