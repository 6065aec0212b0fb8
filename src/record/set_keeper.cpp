#include "record/set_keeper.h"

#include <algorithm>

#include "present/review_presenter.h"

namespace zevo::record {
namespace {

/// Another writer cannot be this quick so many times in a row.
constexpr int kTries = 20;

bool speaksOf(const Edit& edit, int place) {
    if (const auto* second = std::get_if<SecondAdded>(&edit)) return second->observation == place;
    if (const auto* person = std::get_if<PersonChosen>(&edit)) return person->observation == place;
    return false;
}

/// Whether what lies between two lists changes no value.
bool sameValues(const Edits& from, const Edits& to) {
    auto harmless = [](const Edits& edits) { return std::all_of(edits.begin(), edits.end(), leavesValues); };
    return harmless(without(from, to)) && harmless(without(to, from));
}

}  // namespace

KnownSet KnownSet::of(const store::StoredSet& set) {
    KnownSet out{set.id, set.revision, set.entries, {}};
    for (const store::Seen& s : set.seen) out.places.push_back(s.id);
    return out;
}

Observations observationsOf(const std::vector<store::Seen>& seen) {
    Observations out;
    for (const auto& s : seen) out.push_back(s.observation);
    return out;
}

store::Outcome outcomeOf(const SetState& state, int engine, const std::shared_ptr<const Catalogue>& catalogue) {
    const present::ReviewPresenter shown(state, catalogue);
    const SetResult& r = state.set.result;
    store::Outcome out;
    out.movement = QString::fromStdString(r.context.movement.id);
    out.variation = QString::fromStdString(r.context.variation);
    // The school the coach chose stays the set's, also while it is missing.
    out.standard = QString::fromStdString(state.standardMissing ? state.edited.standard : state.wholeStandard);
    out.reps = shown.countedReps();
    out.headline = shown.headline();
    out.engine = engine;
    out.measured = r.reps;
    if (r.second) out.second = r.second->reps;
    out.seenFrom = seenFrom(state);
    return out;
}

store::EditEntries entriesToward(const store::EditEntries& there, const Edits& wanted, const QString& author) {
    const std::vector<bool> holds = store::inForce(there);
    const QDateTime now = QDateTime::currentDateTimeUtc();
    store::EditEntries out;
    auto takeBack = [&](const store::EntryId& id) {
        out.push_back({store::EntryId::fresh(), author, now, id, std::nullopt});
    };
    // Wanted edits that are there in this order keep their entries, in force or not; behind the first that is not
    // there, all are new.
    std::size_t kept = 0;
    std::vector<bool> wants(there.size());
    for (std::size_t at = 0; kept < wanted.size(); ++kept, ++at) {
        while (at < there.size() && !(there[at].edit && *there[at].edit == wanted[kept])) ++at;
        if (at >= there.size()) break;
        wants[at] = true;
    }
    for (std::size_t i = 0; i < there.size(); ++i) {
        if (!there[i].edit || wants[i] == holds[i]) continue;
        if (holds[i]) {
            takeBack(there[i].id);
            continue;
        }
        for (std::size_t j = i + 1; j < there.size(); ++j)
            if (holds[j] && there[j].takesBack == there[i].id) takeBack(there[j].id);
    }
    for (; kept < wanted.size(); ++kept) out.push_back({store::EntryId::fresh(), author, now, {}, wanted[kept]});
    return out;
}

Result<store::Outcome> SetKeeper::outcomeWith(const store::StoredSet& set, const Edits& edits,
                                              const std::vector<store::Seen>& seen, const SetChange& change) const {
    const bool older = set.kept.engine != kEngine && !set.kept.reps.empty() && !change.refine &&
                       (change.engine != kEngine || sameValues(set.edits, edits));
    auto state = recompute(observationsOf(seen), edits, *m_catalogue, nullptr, older ? &set.kept : nullptr);
    if (!state) return state.error();
    return outcomeOf(*state, older ? set.kept.engine : kEngine, m_catalogue);
}

namespace {

/// A change as it is laid on what is in the record.
struct Laid {
    store::SetWrite write;
    Edits target;
    std::vector<store::ObservationId> places;
    std::map<int, int> moved;
};

/// Observations that are new to the record go to their place or, where somebody was quicker, to the next one.
Laid laidOn(const KnownSet& known, SetChange& change, const QString& author) {
    Laid out;
    out.write.refine = change.refine;
    out.places = known.places;
    for (std::size_t at = 0; at < change.seen.size(); ++at) {
        store::Seen& seen = change.seen[at];
        if (!seen.observation) continue;
        if (seen.id.isNull()) seen.id = store::ObservationId::fresh();
        const bool spokenOf = std::any_of(change.to.begin(), change.to.end(),
                                          [&](const Edit& e) { return speaksOf(e, static_cast<int>(at)); });
        if (!spokenOf || std::find(out.places.begin(), out.places.end(), seen.id) != out.places.end()) continue;
        const std::size_t place = std::max(at, out.places.size());
        if (place != at) out.moved[static_cast<int>(at)] = static_cast<int>(place);
        out.places.resize(place + 1);
        out.places[place] = seen.id;
        out.write.add.emplace_back(static_cast<int>(place), seen);
    }
    const Edits theirs = known.edits();
    out.target =
        theirs == change.from && out.moved.empty() ? change.to : rebased(change.from, change.to, theirs, out.moved);
    out.write.entries = entriesToward(known.entries, out.target, author);
    return out;
}

}  // namespace

Result<Committed> SetKeeper::commit(KnownSet known, SetChange change) {
    std::optional<store::StoredSet> set;  // as it is in the record, where that had to be read
    auto read = [&]() -> Result<void> {
        auto loaded = m_library.loadSet(known.id);
        if (!loaded) return loaded.error();
        known = KnownSet::of(*loaded);
        set = std::move(*loaded);
        return {};
    };
    for (int i = 0; i < kTries; ++i) {
        Laid laid = laidOn(known, change, m_author);
        const bool asMade = laid.target == change.to;
        if (!set && !(asMade && change.outcome)) {
            if (auto done = read(); !done) return done.error();
            laid = laidOn(known, change, m_author);
        }
        if (asMade && change.outcome) {
            laid.write.outcome = change.outcome;
        } else {
            std::vector<store::Seen> all = set->seen;
            for (const auto& [place, seen] : laid.write.add) {
                all.resize(std::max(all.size(), static_cast<std::size_t>(place) + 1));
                all[static_cast<std::size_t>(place)] = seen;
            }
            if (change.refine) all.front() = *change.refine;
            auto outcome = outcomeWith(*set, laid.target, all, change);
            if (!outcome) return outcome.error();
            laid.write.outcome = std::move(*outcome);
        }
        auto revision = m_library.commit(known.id, known.revision, laid.write);
        if (!revision) return revision.error();
        if (*revision) {
            Committed out{{known.id, **revision, std::move(known.entries), std::move(laid.places)},
                          std::nullopt,
                          std::move(laid.moved)};
            out.known.entries.insert(out.known.entries.end(), laid.write.entries.begin(), laid.write.entries.end());
            if (laid.target == change.to) return out;
            auto merged = m_library.loadSet(known.id);
            if (!merged) return merged.error();
            out.known = KnownSet::of(*merged);
            out.merged = std::move(*merged);
            return out;
        }
        // Somebody else has changed it: once more, over what they made of it.
        if (auto done = read(); !done) return done.error();
    }
    return Error{"This set is being changed by another program. Try again.", known.id.key()};
}

}  // namespace zevo::record
