#include "record/opening.h"

#include <QDir>
#include <QFileInfo>
#include <algorithm>
#include <set>

#include "record/set_keeper.h"

namespace zevo::record {

Result<store::Library> openToRead(const QString& libraryFolder) {
    auto library = store::Library::open(libraryFolder);
    if (!library) library = store::Library::open(libraryFolder, store::Access::Read);
    return library;
}

Watchable watchable(const store::Library& library, const store::Seen& seen) {
    Watchable out;
    if (!seen.observation) return out;
    for (const auto& f : seen.observation->poses) out.timesS.push_back(f.timeS);
    const QString proxy = library.viewingCopy(seen.clip.sha256);
    if (QFileInfo::exists(proxy))
        out.path = proxy;
    else if (QFileInfo::exists(seen.clip.path))
        out.path = seen.clip.path;
    else
        out.missing = "The video is not at " + seen.clip.path +
                      " any more. The measurements are kept; put the file back there, or open it from its new place.";
    return out;
}

QString ownStandards(const QString& libraryFolder) {
    return QDir(libraryFolder).filePath("standards");
}

namespace {

/// What was said after the set before this one, or done to the set-up, and how that one was.
std::optional<LoadedSet::Before> setBefore(const std::vector<LedgerSet>& sets, store::SetId id) {
    for (const auto& [before, after] : trialPairs(sets)) {
        if (sets[after].id != id.key()) continue;
        const EditedSet was = fold(sets[before].edits);
        const CueGiven cue = was.cue && !was.cue->fault.empty() ? *was.cue : CueGiven();
        return LoadedSet::Before{cue, baselineOf(sets, before, cue.fault),
                                 setUpChanges(was.facts, fold(sets[after].edits).facts),
                                 comparabilityIssues(sets[before].seenFrom, sets[after].seenFrom).empty()};
    }
    return std::nullopt;
}

}  // namespace

std::vector<LedgerSet> ledgerSets(const std::vector<store::LoggedSet>& log) {
    std::vector<LedgerSet> out;
    for (const auto& s : log)
        out.push_back({s.id.key(), static_cast<long>(s.heldOn.toJulianDay()), s.edits, s.reps, s.seenFrom, s.measured});
    return out;
}

Result<std::vector<LedgerSet>> ledgerSetsAround(const store::Library& library, store::ClientId client,
                                                const QString& movement, store::SetId set) {
    constexpr std::size_t kNewest = 60, kUpToSet = 30;
    auto log = library.log(client, movement, [&](const std::vector<store::LoggedSet>& all) {
        const auto found = std::find_if(all.begin(), all.end(), [&](const auto& s) { return s.id == set; });
        const auto at = static_cast<std::size_t>(found - all.begin());
        std::vector<bool> out(all.size());
        for (std::size_t i = 0; i < all.size(); ++i)
            out[i] = i + kNewest >= all.size() || (i <= at && i + kUpToSet > at);
        return out;
    });
    if (!log) return log.error();
    if (auto read = library.readRepetitions(*log); !read) return read.error();
    return ledgerSets(*log);
}

SetFacts carriedOver(const store::Library& library, const store::Client& client, const SetFacts& otherwise,
                     const Catalogue& catalogue) {
    SetFacts out = otherwise;
    std::optional<Asks> asks;                   // as they stand after the newest set, whatever its movement
    bool rose = false;                          ///< on this day
    std::set<QString> newer;                    // movements done since
    const auto sets = library.sets(client.id);  // newest first
    for (const auto& s : sets ? *sets : std::vector<store::SetSummary>()) {
        const bool same = s.movement.toStdString() == otherwise.movement;
        if (!same) newer.insert(s.movement);
        if (asks && !same) continue;
        const auto edits = library.edits(s.id);
        if (!edits) continue;
        const EditedSet edited = fold(*edits);
        if (!asks) {
            asks = asksAfter(edited);
            const PainCheck& pain = edited.facts.pain;
            rose = s.heldOn == QDate::currentDate() && (pain.roseBefore || pain.rose());
        }
        if (!same) continue;
        out = edited.facts;
        // They have gone back to what it was done instead of.
        if (out.substitute && newer.count(QString::fromStdString(out.substitute->of))) out.substitute.reset();
        if (!otherwise.variation.empty()) out.variation = otherwise.variation;
        break;
    }
    out = nextSet(std::move(out));
    if (asks) out = askedAnew(std::move(out), std::move(*asks), catalogue);
    out.pain.roseBefore = rose;
    takeFrom(client, QDate::currentDate(), out);
    return out;
}

void takeFrom(const store::Client& client, const QDate& day, SetFacts& facts) {
    facts.statureCm = client.statureCm;
    facts.massKg = client.massKg;
    const bool rose = facts.pain.roseBefore;
    facts.pain = store::painOf(client, day);
    facts.pain.roseBefore = rose;
    Choices choices = client.choices;
    for (const char* id : kSetUpChoices)
        if (const auto asked = facts.choices.find(id); asked != facts.choices.end()) choices[id] = asked->second;
    facts.choices = std::move(choices);
}

Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, std::shared_ptr<const Catalogue> catalogue) {
    auto library = openToRead(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    const Observations seen = observationsOf(stored->seen);
    std::vector<Watchable> clips;
    for (const auto& s : stored->seen) clips.push_back(watchable(*library, s));
    const bool older = stored->kept.engine != kEngine && !stored->kept.reps.empty();
    auto state = recompute(seen, stored->edits, *catalogue, nullptr, older ? &stored->kept : nullptr);
    if (!state) return state.error();
    // A record that cannot be read for the ledger is no reason not to show the set.
    const auto sets =
        ledgerSetsAround(*library, stored->client.id, QString::fromStdString(fold(stored->edits).facts.movement), id);
    std::optional<LoadedSet::Before> before;
    std::vector<CueScore> scores;
    if (sets) {
        before = setBefore(*sets, id);
        scores = scoresOf(ledgerOf(*sets, *catalogue).cues);
    }
    return LoadedSet{std::move(*stored), std::move(*state), std::move(catalogue),
                     std::move(clips),   std::move(before), std::move(scores)};
}

}  // namespace zevo::record
