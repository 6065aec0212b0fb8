#include "record/readings.h"

#include <cmath>

#include "record/importing.h"
#include "record/opening.h"

namespace zevo::record {
namespace {

/// A lag that both courses agree on so well is the movement's own; what a clock says goes before less (project choice).
constexpr double kSureAgreement = 0.8;
/// A clock that differs by less says the same.
constexpr double kAgreeS = 0.1;

}  // namespace

Result<bool> readBackOf(const QString& libraryFolder, store::SetId id,
                        const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                        const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    const auto state = recompute(observationsOf(stored->seen), stored->edits, *catalogue);
    if (!state) return state.error();
    const Watchable clip = watchable(*library, stored->seen.front());
    if (!stored->seen.front().observation->contours.empty() || clip.path.isEmpty()) return false;
    Observation seen = *stored->seen.front().observation;
    if (auto done = addContours(clip.path.toStdString(), *state, seen, cancel, progress); !done) return done.error();
    if (seen.contours.empty()) return false;
    store::Seen refined = stored->seen.front();
    refined.observation = std::make_shared<const Observation>(std::move(seen));
    const auto kept = SetKeeper(*library, catalogue).commit(*stored, {stored->edits, stored->edits, {}, refined});
    if (!kept) return kept.error();
    return true;
}

Result<void> keepMarks(const QString& libraryFolder, store::SetId id, const std::vector<PointMarked>& marked,
                       const std::shared_ptr<const Catalogue>& catalogue, const QString& author) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    Edits edits = stored->edits;
    for (const PointMarked& point : marked) edits = with(edits, point);
    const auto kept = SetKeeper(*library, catalogue, author).commit(*stored, {stored->edits, edits});
    if (!kept) return kept.error();
    return {};
}

Result<store::Outcome> joinSeen(store::Library& library, store::SetId id, store::Seen seen, bool sameTake,
                                std::optional<double> laterS, const std::shared_ptr<const Catalogue>& catalogue,
                                const QString& author) {
    auto stored = library.loadSet(id);
    if (!stored) return stored.error();
    SetChange change{stored->edits, {}, stored->seen};
    change.seen.push_back(std::move(seen));
    change.to = with(stored->edits, SecondAdded{static_cast<int>(change.seen.size()) - 1, sameTake});
    auto state = recompute(observationsOf(change.seen), change.to, *catalogue, nullptr, nullptr, true);
    if (!state) return state.error();
    const auto& second = state->set.result.second;
    const double apartS = laterS && second ? second->lagS() + *laterS : 0;
    if (std::abs(apartS) > kAgreeS) {
        if (second->alignment.agreement < kSureAgreement) {
            change.to = with(change.to, SecondNudged{-*laterS - second->lagS()});
        } else {
            Observation said = *change.seen.back().observation;
            said.notices.push_back({NoticeKind::ClocksDiffer, {std::abs(apartS)}});
            change.seen.back().observation = std::make_shared<const Observation>(std::move(said));
        }
        state = recompute(observationsOf(change.seen), change.to, *catalogue, nullptr, nullptr, true);
        if (!state) return state.error();
    }
    store::Outcome outcome = outcomeOf(*state, kEngine, catalogue);
    change.outcome = outcome;
    const auto kept = SetKeeper(library, catalogue, author).commit(*stored, std::move(change));
    if (!kept) return kept.error();
    return outcome;
}

Result<SetFacts> giveSet(store::Library& library, store::SetId id, const store::SetPlace& place,
                         const std::optional<SetFacts>& facts, const std::shared_ptr<const Catalogue>& catalogue,
                         const QString& author) {
    const auto stored = library.loadSet(id);
    if (!stored) return stored.error();
    const SetFacts before = fold(stored->edits).facts;
    SetFacts theirs = before;
    if (facts) {
        theirs = *facts;
    } else {
        const auto client = library.client(place.client);
        if (!client) return client.error();
        theirs.choices.clear();
        takeFrom(*client, place.heldOn, theirs);
    }
    // Moved first: where the facts cannot be kept the set is at least not lost, and the move is put back.
    const auto was = library.placeOf(id);
    if (!was) return was.error();
    if (auto put = library.putSet(id, place); !put) return put.error();
    if (!(theirs == before)) {
        const auto kept = SetKeeper(library, catalogue, author)
                              .commit(*stored, {stored->edits, with(stored->edits, FactsSet{theirs})});
        if (!kept) {
            if (auto back = library.putSet(id, *was); !back) return back.error();
            return kept.error();
        }
    }
    return before;
}

}  // namespace zevo::record
