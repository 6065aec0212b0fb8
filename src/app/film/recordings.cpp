#include "app/film/recordings.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QSaveFile>
#include <future>

#include "catalog/data_files.h"
#include "core/record/edit_json.h"
#include "present/film_words.h"

namespace zevo::app {
namespace {

QString noteOf(const QString& path) {
    return path + ".note";
}

Edits editsOf(const SetFacts& facts, const QString& standard) {
    Edits edits{FactsSet{facts}};
    if (!standard.isEmpty()) edits.push_back(StandardChosen{standard.toStdString()});
    return edits;
}

Result<store::Clip> clipOf(const QString& path) {
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), true};
}

}  // namespace

Result<void> noteRecording(const QString& path, const FilmPlan& plan) {
    QSaveFile file(noteOf(path));
    QByteArray text = QByteArray::number(static_cast<qlonglong>(plan.client.id)) + '\n';
    for (const Edit& edit : editsOf(plan.facts, plan.standard)) {
        const auto [kind, payload] = writeEdit(edit);
        text += QByteArray::fromStdString(kind) + ' ' + QByteArray::fromStdString(payload) + '\n';
    }
    if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size() || !file.commit())
        return Error{"The recording cannot begin: the library folder cannot be written to, or the disk is full.",
                     file.errorString().toStdString()};
    return {};
}

void forgetRecording(const QString& path) {
    QFile::remove(noteOf(path));
}

Result<FilmedResult> keepFilmed(const QString& libraryFolder, const FilmedSet& set) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const QString path = QString::fromStdString(set.filmed.path);
    SetFacts facts = set.plan.facts;
    // What hurts and which flags stand are asked of the record, not of what was known when the camera came on.
    const auto client = library->client(set.plan.client.id);
    if (!client) return client.error();
    facts.statureCm = client->statureCm;
    facts.choices = client->choices;
    facts.pain = store::painOf(*client, QDate::currentDate());
    const Movement* movement = set.plan.catalogue->movement(facts.movement);
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
    record.seen = {{*clip, seen}};
    record.edits = editsOf(facts, set.plan.standard);
    auto state = recompute({seen}, record.edits, *set.plan.catalogue);
    if (state) {
        record.outcome = outcomeOf(*state, kEngine, set.plan.catalogue);
    } else {
        out.nothingCounted = true;
        out.why = present::sentence(state.error());
        record.outcome.movement = QString::fromStdString(facts.movement);
        record.outcome.variation = QString::fromStdString(facts.variation);
        record.outcome.standard = set.plan.standard;
        record.outcome.headline = QObject::tr("Nothing counted");
        record.outcome.engine = kEngine;
    }
    auto id = library->addSet(record);
    if (!id) return id.error();
    forgetRecording(path);
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

Result<store::Seen> refineFilmed(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                                 const QString& model, const std::atomic<bool>& cancel,
                                 const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const auto size = pose::modelSizeFromName(model.toStdString());
    if (!size) return size.error();
    options.model = *size;
    // One core stays free for the next set.
    options.workers = std::max(1, options.workers - 1);
    const auto begun = library->edits(id);
    if (!begun) return begun.error();
    const SetFacts facts = fold(*begun).facts;
    const Movement* movement = set.plan.catalogue->movement(facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {facts.movement});
    auto seen = pipeline::observeFilmed(set.filmed, contextOf(facts, *movement, model.toStdString()), options, cancel,
                                        progress);
    if (!seen) return seen.error();
    const auto state = recompute({std::make_shared<const Observation>(*seen)}, {FactsSet{facts}}, *set.plan.catalogue);
    if (!state) return state.error();
    if (auto done = addOutlines(set.filmed.path, *state, *seen, cancel, progress); !done) return done.error();
    if (auto done = addContours(set.filmed.path, *state, *seen, cancel, progress); !done) return done.error();
    auto clip = clipOf(QString::fromStdString(set.filmed.path));
    if (!clip) return clip.error();
    store::Seen refined{std::move(*clip), std::make_shared<const Observation>(std::move(*seen))};
    // As the set is now: the coach may have changed it, and another view may have joined it.
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    stored->seen.front() = refined;
    const auto now = recompute(observationsOf(stored->seen), stored->edits, *set.plan.catalogue);
    if (!now) return now.error();
    if (auto kept = library->refineSet(id, refined, outcomeOf(*now, kEngine, set.plan.catalogue)); !kept)
        return kept.error();
    return refined;
}

Result<void> joinFilmed(const QString& libraryFolder, store::SetId id, const FilmedSet& set) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const QString path = QString::fromStdString(set.filmed.path);
    auto clip = clipOf(path);
    if (!clip) return clip.error();
    const auto seen = std::make_shared<const Observation>(pipeline::observedLive(set.filmed, set.plan.context()));
    if (auto joined = joinSeen(*library, id, {std::move(*clip), seen}, false, 0, set.plan.catalogue); !joined)
        return joined.error();
    forgetRecording(path);
    return {};
}

void eraseStranded(const store::Library& library, store::ClientId client) {
    for (const Stranded& s : strandedRecordings(library)) {
        if (s.client == client) eraseRecording(s);
    }
}

void eraseRecording(const Stranded& s) {
    for (const QString& path : {s.path, s.path + ".part"}) QFile::remove(path);
    forgetRecording(s.path);
}

std::vector<Stranded> strandedRecordings(const store::Library& library) {
    std::vector<Stranded> out;
    const QDir folder(library.recordings());
    for (const QFileInfo& note : folder.entryInfoList({"*.note"}, QDir::Files, QDir::Name)) {
        Stranded s;
        s.path = note.filePath().chopped(5);
        const bool whole = QFileInfo::exists(s.path);
        s.partial = !whole && QFileInfo::exists(s.path + ".part");
        if (!whole && !s.partial) {
            QFile::remove(note.filePath());  // it never came to a picture
            continue;
        }
        s.at = QFileInfo(whole ? s.path : s.path + ".part").lastModified();
        QFile file(note.filePath());
        if (!file.open(QIODevice::ReadOnly)) continue;
        s.client = store::ClientId(file.readLine().trimmed().toLongLong());
        Edits edits;
        while (!file.atEnd()) {
            const QByteArray line = file.readLine().trimmed();
            const auto space = line.indexOf(' ');
            if (space < 0) continue;
            if (auto edit = readEdit(line.left(space).toStdString(), line.mid(space + 1).toStdString()))
                edits.push_back(std::move(*edit));
        }
        const EditedSet said = fold(edits);
        s.facts = said.facts;
        s.standard = QString::fromStdString(said.standard);
        out.push_back(std::move(s));
    }
    return out;
}

Result<Imported> recoverRecording(const QString& libraryFolder, const Stranded& s, const QString& model,
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
    if (done || !refused()) {
        if (done) forgetRecording(s.path);
        return done;
    }
    // Saved, and nothing in it counts: it is in the record as that.
    FilmedSet set;
    set.plan.client.id = s.client;
    set.plan.facts = s.facts;
    set.plan.standard = s.standard;
    set.plan.catalogue = catalogue;
    set.filmed.path = s.path.toStdString();
    set.begun = s.at;
    auto kept = keepFilmed(libraryFolder, set);
    if (!kept) return kept.error();
    return kept->set;
}

}  // namespace zevo::app
