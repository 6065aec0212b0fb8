#include "app/work/set_work.h"

#include <QDir>
#include <QFileInfo>
#include <set>

#include "catalog/data_files.h"
#include "pipeline/review_proxy.h"
#include "present/review_presenter.h"

namespace zevo::app {
namespace {

using pipeline::Doing;

/// The clip's entry in the record, and a copy that is quick to jump about in where it needs one.
Result<store::Clip> recordClip(const store::Library& library, const QString& path, std::vector<Notice>& notices,
                               const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    if (progress) progress({0, 0, 0, Doing::CheckingFile});
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    const std::string clip = path.toStdString();
    if (auto wants = pipeline::needsReviewProxy(clip); wants && *wants) {
        const QString proxy = library.viewingCopy(*sha256);
        QDir().mkpath(QFileInfo(proxy).path());
        auto made = pipeline::makeReviewProxy(clip, proxy.toStdString(), cancel, progress);
        if (!made && !cancel) notices.push_back({NoticeKind::NoViewingCopy, {}});
    }
    if (cancel) return refusal(NoticeKind::Stopped);
    const bool filmed = QFileInfo(path).dir() == QDir(library.recordings());
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), filmed};
}

Result<pipeline::AnalyseOptions> optionsFor(const QString& model) {
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const auto size = pose::modelSizeFromName(model.toStdString());
    if (!size) return size.error();
    options.model = *size;
    return options;
}

/// The day a clip was filmed, by its own account; else the file's own date, never later than today.
QDate dayOf(const QString& path) {
    const auto made =
        QDateTime::fromString(QString::fromStdString(pipeline::filmedAt(path.toStdString())), Qt::ISODate);
    // Cameras that do not know the time say 1970 or 1904.
    if (made.isValid() && made.date().year() > 1990 && made.date() <= QDate::currentDate())
        return made.toLocalTime().date();
    const QDate file = QFileInfo(path).lastModified().date();
    return file.isValid() && file <= QDate::currentDate() ? file : QDate::currentDate();
}

}  // namespace

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
    return out;
}

namespace {

/// What was said after the set before this one, or done to the set-up, and how that one was.
std::optional<LoadedSet::Before> setBefore(const std::vector<LedgerSet>& sets, store::SetId id) {
    for (const auto& [before, after] : answersAmong(sets)) {
        if (sets[after].id != static_cast<long>(id)) continue;
        const EditedSet was = fold(sets[before].edits);
        return LoadedSet::Before{was.cue && !was.cue->fault.empty() ? *was.cue : CueGiven(), sets[before].counted(),
                                 setUpChanges(was.facts, fold(sets[after].edits).facts),
                                 sets[before].seenBy == sets[after].seenBy};
    }
    return std::nullopt;
}

/// A client's sets of a movement, with the repetitions of those that answer each other.
Result<std::vector<LedgerSet>> setsForLedger(const store::Library& library, store::ClientId client,
                                             const QString& movement) {
    auto log = library.log(client, movement);
    if (!log) return log.error();
    std::set<long> wanted;
    const auto bare = ledgerSets(*log);
    for (const auto& [before, after] : answersAmong(bare)) wanted.insert({bare[before].id, bare[after].id});
    if (auto read = library.readRepetitions(
            *log, [&](const store::LoggedSet& s) { return wanted.contains(static_cast<long>(s.id)); });
        !read)
        return read.error();
    return ledgerSets(*log);
}

}  // namespace

std::vector<LedgerSet> ledgerSets(const std::vector<store::LoggedSet>& log) {
    std::vector<LedgerSet> out;
    for (const auto& s : log)
        out.push_back({static_cast<long>(s.id), static_cast<long>(s.heldOn.toJulianDay()), s.edits, s.reps,
                       s.seenBy.toStdString(), s.measured});
    return out;
}

SetFacts carriedOver(const store::Library& library, const store::Client& client, const SetFacts& otherwise) {
    SetFacts out = otherwise;
    const auto sets = library.sets(client.id);  // newest first
    for (const auto& s : sets ? *sets : std::vector<store::SetSummary>()) {
        if (s.movement.toStdString() != otherwise.movement) continue;
        if (const auto edits = library.edits(s.id)) out = fold(*edits).facts;
        if (!otherwise.variation.empty()) out.variation = otherwise.variation;
        break;
    }
    out = nextSet(std::move(out));
    takeFrom(client, out);
    return out;
}

void takeFrom(const store::Client& client, SetFacts& facts) {
    facts.statureCm = client.statureCm;
    facts.massKg = client.massKg;
    facts.pain = store::painOf(client, QDate::currentDate());
    Choices choices = client.choices;
    for (const char* id : kSetUpChoices)
        if (const auto asked = facts.choices.find(id); asked != facts.choices.end()) choices[id] = asked->second;
    facts.choices = std::move(choices);
}

Result<Imported> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                            const pipeline::OnProgress& progress) {
    auto set = measureClip(request, cancel, progress);
    if (!set) return set.error();
    auto library = store::Library::open(request.libraryFolder);
    if (!library) return library.error();
    auto id = library->addSet(*set);
    if (!id) return id.error();
    return Imported{*id, request.client, set->outcome.headline};
}

Result<store::NewSet> measureClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress) {
    auto library = store::Library::open(request.libraryFolder);
    if (!library) return library.error();
    const auto client = library->client(request.client);
    if (!client) return client.error();
    const auto options = optionsFor(request.model);
    if (!options) return options.error();
    const std::string clip = request.clipPath.toStdString();
    SetFacts facts = request.facts;
    takeFrom(*client, facts);
    const Movement* movement = request.catalogue->movement(facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {facts.movement});
    auto seen = pipeline::observeClip(clip, contextOf(facts, *movement), *options, cancel, progress);
    if (!seen) return seen.error();
    Edits edits{FactsSet{facts}};
    if (!request.standard.isEmpty()) edits.push_back(StandardChosen{request.standard.toStdString()});
    // Measured once before anything slow or fragile: a clip that cannot be measured is refused now.
    const auto shared = std::make_shared<const Observation>(*seen);
    auto state = recompute({shared}, edits, *request.catalogue);
    if (!state) return state.error();

    if (auto done = addOutlines(clip, *state, *seen, cancel, progress); !done) return done.error();
    auto recorded = recordClip(*library, request.clipPath, seen->notices, cancel, progress);
    if (!recorded) return recorded.error();

    store::NewSet record;
    record.client = request.client;
    record.heldOn = dayOf(request.clipPath);
    record.seen = {{std::move(*recorded), std::make_shared<const Observation>(std::move(*seen))}};
    record.edits = std::move(edits);
    record.outcome = outcomeOf(*state, kEngine, request.catalogue);
    return record;
}

Result<void> addOutlines(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    if (progress) progress({0, 0, 0, Doing::Outlines});
    std::vector<double> bottoms;
    for (const auto& r : state.set.result.reps) bottoms.push_back(r.bottomS);
    auto outlines = pipeline::readOutlines(clip, seen.poses, bottoms, catalog::modelDir(), cancel);
    if (cancel) return refusal(NoticeKind::Stopped);
    if (outlines)
        seen.outlines = std::move(*outlines);
    else
        seen.notices.push_back({NoticeKind::NoOutlines, {}});
    return {};
}

Result<void> addContours(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    const auto read = pipeline::readContours(clip, state.set.first, seen, catalog::modelDir(), cancel, progress);
    return cancel ? read : Result<void>();
}

Result<std::optional<store::Seen>> readBackOf(const QString& libraryFolder, store::SetId id,
                                              const std::shared_ptr<const Catalogue>& catalogue,
                                              const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    const auto state = recompute(observationsOf(stored->seen), stored->edits, *catalogue);
    if (!state) return state.error();
    const Watchable clip = watchable(*library, stored->seen.front());
    if (!stored->seen.front().observation->contours.empty() || clip.path.isEmpty()) return std::optional<store::Seen>();
    Observation seen = *stored->seen.front().observation;
    if (auto done = addContours(clip.path.toStdString(), *state, seen, cancel, progress); !done) return done.error();
    if (seen.contours.empty()) return std::optional<store::Seen>();
    // As the set is now: the coach may have changed it meanwhile.
    stored = library->loadSet(id);
    if (!stored) return stored.error();
    stored->seen.front().observation = std::make_shared<const Observation>(std::move(seen));
    const auto now = recompute(observationsOf(stored->seen), stored->edits, *catalogue);
    if (!now) return now.error();
    if (auto kept = library->refineSet(id, stored->seen.front(), outcomeOf(*now, kEngine, catalogue)); !kept)
        return kept.error();
    return std::optional(stored->seen.front());
}

Result<void> keepMarks(const QString& libraryFolder, store::SetId id, const std::vector<PointMarked>& marked,
                       const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    Edits edits = stored->edits;
    for (const PointMarked& point : marked) edits = with(edits, point);
    const auto state = recompute(observationsOf(stored->seen), edits, *catalogue);
    if (!state) return state.error();
    return library->keepSet(id, edits, stored->seen, outcomeOf(*state, kEngine, catalogue));
}

Observations observationsOf(const std::vector<store::Seen>& seen) {
    Observations out;
    for (const auto& s : seen) out.push_back(s.observation);
    return out;
}

Result<store::Outcome> joinSeen(store::Library& library, store::SetId id, store::Seen seen, bool together,
                                std::optional<double> laterS, const std::shared_ptr<const Catalogue>& catalogue) {
    auto stored = library.loadSet(id);
    if (!stored) return stored.error();
    stored->seen.push_back(std::move(seen));
    const Observations all = observationsOf(stored->seen);
    Edits edits = with(stored->edits, SecondAdded{static_cast<int>(all.size()) - 1, together});
    auto state = recompute(all, edits, *catalogue, nullptr, nullptr, true);
    if (!state) return state.error();
    constexpr double kAgreeS = 0.1;
    if (const auto& second = state->set.result.second;
        laterS && second && std::abs(second->lagS() + *laterS) > kAgreeS) {
        edits = with(edits, SecondNudged{-*laterS - second->lagS()});
        state = recompute(all, edits, *catalogue, nullptr, nullptr, true);
        if (!state) return state.error();
    }
    store::Outcome outcome = outcomeOf(*state, kEngine, catalogue);
    if (auto kept = library.keepSet(id, edits, stored->seen, outcome); !kept) return kept.error();
    return outcome;
}

Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, std::shared_ptr<const Catalogue> catalogue) {
    auto library = store::Library::open(libraryFolder);
    if (!library) library = store::Library::open(libraryFolder, store::Access::Read);
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
        setsForLedger(*library, stored->client.id, QString::fromStdString(fold(stored->edits).facts.movement));
    std::optional<LoadedSet::Before> before;
    std::vector<CueScore> scores;
    if (sets) {
        before = setBefore(*sets, id);
        scores = scoresOf(ledgerOf(*sets, *catalogue).cues);
    }
    return LoadedSet{std::move(*stored), std::move(*state), std::move(catalogue),
                     std::move(clips),   std::move(before), std::move(scores)};
}

Result<store::Seen> observeForSet(const QString& libraryFolder, const QString& clipPath, const SetContext& context,
                                  const std::atomic<bool>& cancel, const pipeline::OnProgress& progress,
                                  const std::optional<pipeline::PersonAt>& person) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto options = optionsFor(QString::fromStdString(context.model));
    if (!options) return options.error();
    SetContext theirs = context;
    theirs.context.view = "auto";
    options->person = person;
    auto seen = pipeline::observeClip(clipPath.toStdString(), theirs, *options, cancel, progress);
    if (!seen) return seen.error();
    auto recorded = recordClip(*library, clipPath, seen->notices, cancel, progress);
    if (!recorded) return recorded.error();
    return store::Seen{std::move(*recorded), std::make_shared<const Observation>(std::move(*seen))};
}

}  // namespace zevo::app
