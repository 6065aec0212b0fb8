#include "record/demo_sets.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSaveFile>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "catalog/data_files.h"
#include "core/serial/edit_json.h"
#include "core/serial/observation_cbor.h"
#include "pipeline/follow_mark.h"
#include "record/opening.h"
#include "record/readings.h"
#include "record/set_keeper.h"

namespace zevo::record {
namespace {

/// What the demo's coach marked is followed, as in the window, and kept as edits of the set.
Result<void> markDemoSet(store::Library& library, store::SetId id, const std::vector<Mark>& marks,
                         const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                         const pipeline::OnProgress& progress) {
    if (marks.empty()) return {};
    auto stored = library.loadSet(id);
    if (!stored) return stored.error();
    const auto state = recompute(observationsOf(stored->seen), stored->edits, *catalogue);
    if (!state) return state.error();
    const MeasuredView& view = state->set.first;
    std::vector<PointMarked> followed;
    for (const Mark& mark : marks) {
        auto done = pipeline::followMark(stored->seen.front().clip.path.toStdString(), mark,
                                         pipeline::markedSpan(view, mark), view.clip.width, cancel, progress);
        if (!done) return done.error();
        followed.push_back({false, std::move(*done)});
    }
    return keepMarks(library.folder(), id, followed, catalogue);
}

using nlohmann::json;
constexpr const char* kShippedSchema = "zevo-demo-set-1";

/// The client of a demo set, added where nobody has the name.
Result<store::Client> clientOf(store::Library& library, const pipeline::DemoSet& set) {
    const auto clients = library.clients();
    if (!clients) return clients.error();
    const QString name = QString::fromStdString(set.client);
    for (const store::Client& c : *clients)
        if (c.name == name) return c;
    auto added = library.addClient({{}, name, set.statureCm, QString::fromStdString(set.note), QDate::currentDate()});
    if (!added) return added.error();
    return library.client(*added);
}

Result<store::Clip> clipAt(const QString& path) {
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), false};
}

/// The set from what is shipped of it; nothing where a part of it is not, or is of another engine.
Result<std::optional<Imported>> takeShipped(store::Library& library, const store::Client& client,
                                            const pipeline::DemoSet& set, const std::vector<QString>& clips,
                                            const std::shared_ptr<const Catalogue>& catalogue) {
    auto shipped = readShippedSet(QDir(demoFolder()).filePath(shippedSetName(set)));
    if (!shipped || shipped->seen.size() != clips.size()) return std::optional<Imported>();
    store::NewSet made;
    made.client = client.id;
    made.heldOn = QDate::currentDate();
    for (std::size_t i = 0; i < clips.size(); ++i) {
        auto clip = clipAt(clips[i]);
        if (!clip) return clip.error();
        made.seen.push_back({std::move(*clip), shipped->seen[i], store::ObservationId::fresh()});
    }
    made.edits = std::move(shipped->edits);
    const auto state = recompute(observationsOf(made.seen), made.edits, *catalogue);
    if (!state) return state.error();
    made.outcome = outcomeOf(*state, kEngine, catalogue);
    auto id = library.addSet(made);
    if (!id) return id.error();
    return std::optional(Imported{*id, client.id, made.outcome.headline});
}

/// The same by reading the clips with the networks.
Result<Imported> measureDemoSet(store::Library& library, store::ClientId client, const pipeline::DemoSet& set,
                                const std::vector<QString>& clips, const std::shared_ptr<const Catalogue>& catalogue,
                                const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    const QString libraryFolder = library.folder();
    ImportRequest request;
    request.libraryFolder = libraryFolder, request.clipPath = clips[0], request.client = client;
    request.standard = QString::fromStdString(set.standard), request.catalogue = catalogue;
    request.facts.movement = set.movement;
    request.facts.variation = set.variation;
    request.facts.loadShare = set.loadShare;
    request.facts.wedgeDeg = set.wedgeDeg;
    request.facts.shirt = set.looseShirt ? Shirt::Loose : Shirt::Tight;  // as they are drawn
    request.facts = askedAnew(request.facts, set.asks, *catalogue);
    auto imported = importClip(request, cancel, progress);
    if (!imported) return imported;
    if (auto back = readBackOf(libraryFolder, imported->id, catalogue, cancel, progress); !back) return back.error();
    if (auto marked = markDemoSet(library, imported->id, set.marks, catalogue, cancel, progress); !marked)
        return marked.error();
    if (clips.size() < 2) return imported;
    const Movement* movement = catalogue->movement(request.facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {request.facts.movement});
    auto seen = observeForSet(libraryFolder, clips[1], contextOf(request.facts, *movement), cancel, progress);
    if (!seen) return seen.error();
    const auto outcome = joinSeen(library, imported->id, std::move(*seen), true, std::nullopt, catalogue);
    if (!outcome) return outcome.error();
    imported->headline = outcome->headline;
    return imported;
}

/// The clips of a set: shipped, in the library, or drawn into it now.
Result<std::vector<QString>> clipsOf(const pipeline::DemoSet& set, const QString& libraryFolder,
                                     const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    std::vector<QString> out;
    for (const auto& [name, spec] : {std::pair(set.clipName, set.specJson), {set.frontName, set.frontSpecJson}}) {
        if (name.empty()) continue;
        auto path =
            pipeline::demoClip(name, spec, QDir(libraryFolder).filePath("clips").toStdString(), cancel, progress);
        if (!path) return path.error();
        out.push_back(QString::fromStdString(*path));
    }
    return out;
}

}  // namespace

QString demoFolder() {
    return QDir(QString::fromStdString(catalog::dataDir())).filePath("demo/clips");
}

QString shippedSetName(const pipeline::DemoSet& set) {
    return QFileInfo(QString::fromStdString(pipeline::shippedName(set.clipName, set.specJson))).completeBaseName() +
           ".set";
}

Result<ShippedSet> readShippedSet(const QString& path) {
    QFile file(path);
    if (!file.open(QFile::ReadOnly)) return Error{"This set of the demo is not shipped.", path.toStdString()};
    const QByteArray block = qUncompress(file.readAll());
    const Error damaged{"What is shipped of this set of the demo is damaged.", path.toStdString()};
    ShippedSet out;
    try {
        const json root = json::from_cbor(block.begin(), block.end());
        if (root.at("schema") != kShippedSchema) return damaged;
        for (const json& seen : root.at("observations")) {
            auto observation = readObservation(seen.get_binary());
            if (!observation) return observation.error();
            if (observation->engine != kEngine)
                return Error{"What is shipped of this set of the demo was measured by another engine.",
                             path.toStdString()};
            out.seen.push_back(std::make_shared<const Observation>(std::move(*observation)));
        }
        for (const json& edit : root.at("edits")) {
            auto read = readEdit(edit.at(0), edit.at(1));
            if (!read) return read.error();
            out.edits.push_back(std::move(*read));
        }
    } catch (const json::exception&) {
        return damaged;
    }
    return out;
}

Result<QString> shipDemoSet(const QString& folder, const pipeline::DemoSet& set,
                            const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel) {
    QTemporaryDir dir;
    auto library = store::Library::open(dir.path());
    if (!library) return library.error();
    const auto client = clientOf(*library, set);
    if (!client) return client.error();
    const auto clips = clipsOf(set, dir.path(), cancel, {});
    if (!clips) return clips.error();
    const auto made = measureDemoSet(*library, client->id, set, *clips, catalogue, cancel, {});
    if (!made) return made.error();
    const auto stored = library->loadSet(made->id);
    if (!stored) return stored.error();
    json root{{"schema", kShippedSchema}, {"observations", json::array()}, {"edits", json::array()}};
    for (const store::Seen& seen : stored->seen)
        root["observations"].push_back(json::binary(writeObservation(*seen.observation)));
    for (const Edit& edit : stored->edits) {
        const auto [kind, payload] = writeEdit(edit);
        root["edits"].push_back({kind, payload});
    }
    const auto block = json::to_cbor(root);
    const QString path = QDir(folder).filePath(shippedSetName(set));
    QSaveFile file(path);
    constexpr int kSmallest = 9;
    if (!file.open(QSaveFile::WriteOnly) ||
        file.write(qCompress(block.data(), static_cast<qsizetype>(block.size()), kSmallest)) < 0 || !file.commit())
        return Error{"The file could not be written.", path.toStdString()};
    return path;
}

Result<Imported> prepareDemoSet(const QString& libraryFolder, const pipeline::DemoSet& set,
                                const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const auto client = clientOf(*library, set);
    if (!client) return client.error();
    const auto clips = clipsOf(set, libraryFolder, cancel, progress);
    if (!clips) return clips.error();
    // Sets are known by their clips.
    const auto sets = library->setsOfClip((*clips)[0]);
    if (!sets) return sets.error();
    if (!sets->empty()) return Imported{sets->front(), client->id, {}};
    auto taken = takeShipped(*library, *client, set, *clips, catalogue);
    if (!taken) return taken.error();
    if (*taken) return **taken;
    return measureDemoSet(*library, client->id, set, *clips, catalogue, cancel, progress);
}

}  // namespace zevo::record
