#include "record/demo_sets.h"

#include <QDir>

#include "pipeline/follow_mark.h"
#include "record/readings.h"

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

}  // namespace

Result<Imported> prepareDemoSet(const QString& libraryFolder, const pipeline::DemoSet& set,
                                const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                const pipeline::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const auto clients = library->clients();
    if (!clients) return clients.error();
    const QString name = QString::fromStdString(set.client);
    const auto known = std::find_if(clients->begin(), clients->end(), [&](const auto& c) { return c.name == name; });
    store::ClientId client{};
    if (known != clients->end()) {
        client = known->id;
    } else {
        auto added =
            library->addClient({{}, name, set.statureCm, QString::fromStdString(set.note), QDate::currentDate()});
        if (!added) return added.error();
        client = *added;
    }
    auto clipOf = [&](const std::string& clipName, const std::string& spec) -> Result<QString> {
        auto path =
            pipeline::demoClip(clipName, spec, QDir(libraryFolder).filePath("clips").toStdString(), cancel, progress);
        if (!path) return path.error();
        return QString::fromStdString(*path);
    };
    const auto path = clipOf(set.clipName, set.specJson);
    if (!path) return path.error();
    // Sets are known by their clips.
    const auto sets = library->sets(client);
    if (!sets) return sets.error();
    for (const auto& s : *sets)
        if (auto stored = library->loadSet(s.id); stored && stored->seen.front().clip.path == *path)
            return Imported{s.id, client, s.headline};

    ImportRequest request;
    request.libraryFolder = libraryFolder, request.clipPath = *path, request.client = client;
    request.standard = QString::fromStdString(set.standard), request.catalogue = catalogue;
    request.facts.movement = set.movement;
    request.facts.variation = set.variation;
    request.facts.loadShare = set.loadShare;
    request.facts.wedgeDeg = set.wedgeDeg;
    request.facts.shirt = Shirt::Tight;  // as they are drawn
    auto imported = importClip(request, cancel, progress);
    if (!imported) return imported;
    if (auto back = readBackOf(libraryFolder, imported->id, catalogue, cancel, progress); !back) return back.error();
    if (auto marked = markDemoSet(*library, imported->id, set.marks, catalogue, cancel, progress); !marked)
        return marked.error();
    if (set.frontName.empty()) return imported;
    const auto front = clipOf(set.frontName, set.frontSpecJson);
    if (!front) return front.error();
    const Movement* movement = catalogue->movement(request.facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {request.facts.movement});
    auto seen = observeForSet(libraryFolder, *front, contextOf(request.facts, *movement), cancel, progress);
    if (!seen) return seen.error();
    const auto outcome = joinSeen(*library, imported->id, std::move(*seen), true, std::nullopt, catalogue);
    if (!outcome) return outcome.error();
    imported->headline = outcome->headline;
    return imported;
}

}  // namespace zevo::record
