#include "record/filmed_sets.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <future>

#include "present/film_words.h"
#include "record/opening.h"
#include "record/readings.h"

namespace zevo::record {
namespace {

Result<store::Clip> clipOf(const QString& path) {
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), true};
}

}  // namespace

SetContext FilmPlan::context() const {
    const Movement* movement = catalogue->movement(facts.movement);
    return contextOf(facts, movement ? *movement : catalogue->movements.front());
}

Edits FilmPlan::edits() const {
    Edits out{FactsSet{facts}};
    if (!standard.isEmpty()) out.push_back(StandardChosen{standard.toStdString()});
    return out;
}

Result<void> beginRecording(const QString& libraryFolder, pipeline::LiveSession& session, const QString& path,
                            const FilmPlan& plan, const QDateTime& begun) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    QDir().mkpath(QFileInfo(path).path());
    FileShelf shelf(*library);
    if (auto noted = shelf.grow(path, plan.client.id, plan.edits()); !noted)
        return Error{"The recording cannot begin: the library folder cannot be written to, or the disk is full.",
                     noted.error().detail};
    auto done = session.film(path.toStdString(), begun.toUTC().toString(Qt::ISODate).toStdString(), plan.context());
    if (!done) (void)shelf.retire(path);  // nothing was written; the next start finds that as well
    return done;
}

Result<FilmedResult> saveQuickResult(const QString& libraryFolder, const FilmedSet& set, const QString& author) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const QString path = QString::fromStdString(set.filmed.path);
    FilmPlan plan = set.plan;
    SetFacts& facts = plan.facts;
    // What hurts and which flags stand are asked of the record, not of what was known when the camera came on.
    const auto client = library->client(plan.client.id);
    if (!client) return client.error();
    takeFrom(*client, set.begun.date(), facts);
    const Movement* movement = plan.catalogue->movement(facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {facts.movement});
    FilmedResult out;
    // The file's sum is taken beside the reading: a minute of film is 80 MB.
    auto hashing = std::async(std::launch::async, [path] { return clipOf(path); });
    const auto seen = std::make_shared<const Observation>(
        pipeline::observedLive(set.filmed, contextOf(facts, *movement, set.filmed.model)));
    auto clip = hashing.get();
    if (!clip) return clip.error();
    store::NewSet record;
    record.client = client->id;
    record.heldOn = set.begun.date();
    record.seen = {{*clip, seen, store::ObservationId::fresh()}};
    record.author = author;
    record.edits = plan.edits();
    auto state = recompute({seen}, record.edits, *plan.catalogue);
    if (state) {
        record.outcome = outcomeOf(*state, kEngine, plan.catalogue);
    } else {
        out.nothingCounted = true;
        out.why = present::sentence(state.error());
        record.outcome.movement = QString::fromStdString(facts.movement);
        record.outcome.variation = QString::fromStdString(facts.variation);
        record.outcome.standard = plan.standard;
        record.outcome.headline = QObject::tr("Nothing counted");
        record.outcome.engine = kEngine;
    }
    auto id = library->addSet(record);
    if (!id) return id.error();
    out.set = {*id, client->id, record.outcome.headline};
    out.reps = record.outcome.reps;
    QStringList notes;
    if (set.filmed.dropped > 0)
        notes.append(
            QObject::tr("%n picture(s) were dropped because the disk was too slow.", "", int(set.filmed.dropped)));
    if (set.filmed.broken) notes.append(present::sentence(*set.filmed.broken));
    out.note = notes.join(' ');
    return out;
}

Result<Imported> saveRefinedResult(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                                   const QString& model, const std::atomic<bool>& cancel,
                                   const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto options = optionsFor(model);
    if (!options) return options.error();
    // One core stays free for the next set.
    options->workers = std::max(1, options->workers - 1);
    const auto begun = library->edits(id);
    if (!begun) return begun.error();
    const SetFacts facts = fold(*begun).facts;
    const Movement* movement = set.plan.catalogue->movement(facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {facts.movement});
    auto seen = pipeline::observeFilmed(set.filmed, contextOf(facts, *movement, model.toStdString()), *options, cancel,
                                        progress);
    if (!seen) return seen.error();
    const auto state = recompute({std::make_shared<const Observation>(*seen)}, {FactsSet{facts}}, *set.plan.catalogue);
    if (!state) return state.error();
    if (auto done = addOutlines(set.filmed.path, *state, *seen, cancel, progress); !done) return done.error();
    if (auto done = addContours(set.filmed.path, *state, *seen, cancel, progress); !done) return done.error();
    auto clip = clipOf(QString::fromStdString(set.filmed.path));
    if (!clip) return clip.error();
    // As the set is now: the coach may have changed it, and another view may have joined it.
    const auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    const store::Seen refined{std::move(*clip), std::make_shared<const Observation>(std::move(*seen)),
                              stored->seen.front().id};
    const auto kept =
        SetKeeper(*library, set.plan.catalogue).commit(*stored, {stored->edits, stored->edits, {}, refined});
    if (!kept) return kept.error();
    Imported out{id, stored->client.id, {}};
    const auto sets = library->sets(out.client);
    if (!sets) return sets.error();
    for (const store::SetSummary& s : *sets)
        if (s.id == id) out.headline = s.headline;
    return out;
}

Result<void> attachOtherCamera(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                               const QString& model, const std::atomic<bool>& cancel,
                               const pipeline::OnProgress& progress) {
    SetContext context = set.plan.context();
    context.model = model.toStdString();
    auto seen = observeForSet(libraryFolder, QString::fromStdString(set.second->path), context, cancel, progress);
    if (!seen) return seen.error();
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    if (auto joined = joinSeen(*library, id, std::move(*seen), true, set.laterS(), set.plan.catalogue); !joined)
        return joined.error();
    return {};
}

Result<void> attachSecondView(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                              const QString& author) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto clip = clipOf(QString::fromStdString(set.filmed.path));
    if (!clip) return clip.error();
    const auto seen = std::make_shared<const Observation>(pipeline::observedLive(set.filmed, set.plan.context()));
    auto joined = joinSeen(*library, id, {std::move(*clip), seen, store::ObservationId::fresh()}, false, std::nullopt,
                           set.plan.catalogue, author);
    if (!joined) return joined.error();
    return {};
}

Result<Imported> recoverRecording(const QString& libraryFolder, const OrphanedRecording& s, const QString& model,
                                  const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress) {
    if (s.partial) {
        const auto saved = media::recoverClip((s.path + ".part").toStdString(), s.path.toStdString());
        if (!saved) return saved.error();
        if (*saved == 0)
            return Error{"Not one picture of this recording can be read. It was broken off too soon.",
                         s.path.toStdString()};
    }
    ImportRequest request{libraryFolder, s.path, s.facts, s.standard, model, s.client, catalogue};
    auto done = importClip(request, cancel, progress);
    auto refused = [&] {
        const auto& why = done.error().notice;
        return why && why->kind < NoticeKind::Stopped;
    };
    if (done || !refused()) return done;
    // Saved, and nothing in it counts: it is in the record as that.
    FilmedSet set;
    set.plan.client.id = s.client;
    set.plan.facts = s.facts;
    set.plan.standard = s.standard;
    set.plan.catalogue = catalogue;
    set.filmed.path = s.path.toStdString();
    set.begun = s.at;
    auto kept = saveQuickResult(libraryFolder, set);
    if (!kept) return kept.error();
    return kept->set;
}

}  // namespace zevo::record
