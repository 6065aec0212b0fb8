#include "record/importing.h"

#include <QDir>
#include <QFileInfo>

#include "catalog/data_files.h"
#include "pipeline/review_proxy.h"
#include "record/file_shelf.h"
#include "record/opening.h"

namespace zevo::record {

using pipeline::Doing;

namespace {

/// The clip's entry in the record, and a copy that is quick to jump about in where it needs one.
Result<store::Clip> recordClip(store::Library& library, const QString& path, std::vector<Notice>& notices,
                               const std::atomic<bool>& cancel, const pipeline::OnProgress& progress) {
    if (progress) progress({0, 0, 0, Doing::CheckingFile});
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    const std::string clip = path.toStdString();
    if (auto wants = pipeline::needsReviewProxy(clip); wants && *wants) {
        FileShelf shelf(library);
        auto proxy = shelf.growViewing(*sha256);
        if (!proxy) return proxy.error();
        QDir().mkpath(QFileInfo(*proxy).path());
        auto made = pipeline::makeReviewProxy(clip, proxy->toStdString(), cancel, progress);
        if (!made || cancel)
            if (auto gone = shelf.retire(*proxy); !gone) return gone.error();
        if (!made && !cancel) notices.push_back({NoticeKind::NoViewingCopy, {}});
    }
    if (cancel) return refusal(NoticeKind::Stopped);
    const bool filmed = QFileInfo(path).dir() == QDir(library.recordings());
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), filmed};
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

Result<pipeline::AnalyseOptions> optionsFor(const QString& model) {
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const auto size = pose::modelSizeFromName(model.toStdString());
    if (!size) return size.error();
    options.model = *size;
    return options;
}

Result<Imported> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                            const pipeline::OnProgress& progress) {
    auto set = measureClip(request, cancel, progress);
    if (!set) return set.error();
    auto library = store::Library::open(request.libraryFolder);
    if (!library) return library.error();
    auto id = library->addSet(*set);
    if (!id) {
        dropMeasured(request.libraryFolder, *set);
        return id.error();
    }
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
    const QDate heldOn = dayOf(request.clipPath);
    takeFrom(*client, heldOn, facts);
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
    record.heldOn = heldOn;
    record.author = request.author;
    record.seen = {
        {std::move(*recorded), std::make_shared<const Observation>(std::move(*seen)), store::ObservationId::fresh()}};
    record.edits = std::move(edits);
    record.outcome = outcomeOf(*state, kEngine, request.catalogue);
    return record;
}

Result<Imported> fileMeasured(const QString& libraryFolder, store::NewSet set, store::ClientId client,
                              const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    if (!(set.client == client)) {
        const auto whose = library->client(client);
        if (!whose) return whose.error();
        set.client = client;
        SetFacts facts = fold(set.edits).facts;
        facts.choices.clear();
        takeFrom(*whose, set.heldOn, facts);
        set.edits = with(std::move(set.edits), FactsSet{facts});
        auto state = recompute(observationsOf(set.seen), set.edits, *catalogue);
        if (!state) return state.error();
        set.outcome = outcomeOf(*state, kEngine, catalogue);
    }
    auto id = library->addSet(set);
    if (!id) return id.error();
    return Imported{*id, client, set.outcome.headline};
}

void dropMeasured(const QString& libraryFolder, const store::NewSet& set) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return;
    // What cannot be retired now is nobody's at the next start.
    for (const store::Seen& seen : set.seen) (void)FileShelf(*library).retire(library->viewingCopy(seen.clip.sha256));
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
    return store::Seen{std::move(*recorded), std::make_shared<const Observation>(std::move(*seen)),
                       store::ObservationId::fresh()};
}

}  // namespace zevo::record
