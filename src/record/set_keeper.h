#pragma once

#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/session.h"
#include "store/library.h"

namespace zevo::record {

/// What somebody knows of a set in the record: enough to add to it, and to notice that it has gone on without them.
struct KnownSet {
    store::SetId id{};
    int revision = 0;
    store::EditEntries entries;
    std::vector<store::ObservationId> places;  ///< null where a place is empty
    Edits edits() const { return store::editsInForce(entries); }
    static KnownSet of(const store::StoredSet& set);
};

/// A change of a set, as whoever made it sees it.
struct SetChange {
    Edits from, to;                       ///< the edits it was made over, and those it led to
    std::vector<store::Seen> seen{};      ///< what `to` speaks of, by place; those new to the record are added
    std::optional<store::Seen> refine{};  ///< the first view, read more carefully
    /// What the set comes to with `to`. Made again where the record has gone on meanwhile, and where it is missing.
    std::optional<store::Outcome> outcome{};
    /// The values shown are an older engine's: they stay while nothing but the judgement changes.
    int engine = kEngine;
};

/// How a change was kept.
struct Committed {
    KnownSet known;
    /// The set as it is now, where others had changed it since: their changes and this one.
    std::optional<store::StoredSet> merged{};
    /// Places of observations that had to make way for others': as the change had them, as they are now.
    std::map<int, int> moved{};
};

/// The only way to change a set. Edits are keyed by time, so that a change that was made over an older state of the set
/// can be laid on the newer one: what it took out is taken out there, what it added is added behind. Nothing is ever
/// overwritten. One keeper and its library a thread.
class SetKeeper {
  public:
    /// `author`: the coach's name as set on this computer.
    SetKeeper(store::Library& library, std::shared_ptr<const Catalogue> catalogue, QString author = {})
        : m_library(library), m_catalogue(std::move(catalogue)), m_author(std::move(author)) {}

    Result<Committed> commit(KnownSet known, SetChange change);
    /// The same where the caller has only just read the set.
    Result<Committed> commit(const store::StoredSet& set, SetChange change) {
        return commit(KnownSet::of(set), std::move(change));
    }

  private:
    Result<store::Outcome> outcomeWith(const store::StoredSet& set, const Edits& edits,
                                       const std::vector<store::Seen>& seen, const SetChange& change) const;

    store::Library& m_library;
    std::shared_ptr<const Catalogue> m_catalogue;
    QString m_author;
};

/// Entries that make `wanted` of what is there: what is not wanted is taken back, what was taken back and is wanted
/// again is in force again at its old place, the rest is added. Entries that cannot be read are left alone.
store::EditEntries entriesToward(const store::EditEntries& there, const Edits& wanted, const QString& author);

/// What a set comes to, for lists and progress.
store::Outcome outcomeOf(const SetState& state, int engine, const std::shared_ptr<const Catalogue>& catalogue);
Observations observationsOf(const std::vector<store::Seen>& seen);

}  // namespace zevo::record
