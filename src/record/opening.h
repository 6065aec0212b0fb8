#pragma once

#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/cue_ledger.h"
#include "core/session/session.h"
#include "store/library.h"

namespace zevo::record {

// Sets of the record, ready to be shown. Each call opens the library folder itself, because a database connection
// belongs to one thread; for threads other than the window's.

/// A library for reading, by whoever may only do that as well.
Result<store::Library> openToRead(const QString& libraryFolder);

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
        Baseline baseline;                 ///< the sets without the cue, or with the old set-up, up to that one
        std::vector<SetUpChange> changes;  ///< of the set-up, since then
        bool seenAlike = true;             ///< no ComparabilityIssue between the two
    };
    std::optional<Before> before;
    /// How the wordings fared with this client in their last sixty sets of the movement.
    std::vector<CueScore> scores;
};

/// Shows a recorded set again: no network runs, the video is only looked for, nothing is written. Values of an older
/// engine are shown as they are kept.
Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, std::shared_ptr<const Catalogue> catalogue);

/// The record's sets of a client as the ledger reads them, oldest first.
std::vector<LedgerSet> ledgerSets(const std::vector<store::LoggedSet>& log);
/// Those of one movement, with their values: the newest sixty, and what the ledger looks at for `set`. A client of
/// years is not read whole to open one set.
Result<std::vector<LedgerSet>> ledgerSetsAround(const store::Library& library, store::ClientId client,
                                                const QString& movement, store::SetId set);
/// What a next set starts from: the facts of the client's newest set of the movement, without what belongs to one set
/// alone; `otherwise` where there is none. The client's as they are now.
SetFacts carriedOver(const store::Library& library, const store::Client& client, const SetFacts& otherwise,
                     const Catalogue& catalogue);
/// Stature, mass, pain and choices as they are the client's on a day; what the set-up was asked to be stays.
void takeFrom(const store::Client& client, const QDate& day, SetFacts& facts);

/// Where the coach's own standards lie.
QString ownStandards(const QString& libraryFolder);

}  // namespace zevo::record
