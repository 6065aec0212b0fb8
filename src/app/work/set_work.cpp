#include "app/work/set_work.h"

#include <QDir>
#include <QFileInfo>

#include "analysis/data_files.h"
#include "analysis/demo_maker.h"
#include "analysis/review_proxy.h"

namespace zevo::app {
namespace {

const Error kStopped{"Stopped. Nothing was kept.", "cancelled"};

Result<std::shared_ptr<ReviewPresenter>> makePresenter(MeasuredSet set, std::vector<Outline> outlines,
                                                       const std::string& standard) {
    auto standards = analysis::loadStandards(set.result.context.movement);
    if (!standards) return standards.error();
    auto advice = analysis::loadAdvice(set.result.context.movement);
    if (!advice) return advice.error();
    set.result.standard = standard.empty() ? standards->front().id : standard;
    return std::make_shared<ReviewPresenter>(std::move(set), std::move(outlines), std::move(*standards),
                                             std::move(*advice));
}

void findVideo(const store::Library& library, LoadedSet& set) {
    const QString proxy = library.viewingCopy(set.clip.sha256);
    if (QFileInfo::exists(proxy))
        set.viewingPath = proxy;
    else if (QFileInfo::exists(set.clip.path))
        set.viewingPath = set.clip.path;
    else
        set.missing = "The video is not at " + set.clip.path +
                      " any more. The measurements are kept; put the file back there, or open it from its new place.";
}

std::vector<double> timesOf(const PoseFrames& poses) {
    std::vector<double> out;
    for (const auto& f : poses) out.push_back(f.timeS);
    return out;
}

}  // namespace

Result<LoadedSet> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                             const analysis::OnProgress& progress) {
    auto library = store::Library::open(request.libraryFolder);
    if (!library) return library.error();
    const auto client = library->client(request.client);
    if (!client) return client.error();
    const std::string clip = request.clipPath.toStdString();
    const auto model = pose::modelSizeFromName(request.model.toStdString());
    if (!model) return model.error();

    SetContext context;
    context.movement = request.movement.toStdString();
    context.context.statureCm = client->statureCm;
    analysis::AnalyseOptions options;
    options.modelDir = analysis::modelDir();
    options.model = *model;
    auto analysed = analysis::analyseClip(clip, context, options, cancel, progress);
    if (!analysed) return analysed.error();

    if (progress) progress({0, 0, 0, "Drawing the outlines"});
    std::vector<double> bottoms;
    for (const auto& r : analysed->set.result.reps) bottoms.push_back(r.bottomS);
    auto outlines = analysis::readOutlines(clip, analysed->poses, bottoms, options.modelDir, cancel);
    if (!outlines) return outlines.error();
    // Named by the moment they were wanted for, so that they are found again by it.
    for (std::size_t i = 0; i < outlines->size(); ++i) (*outlines)[i].timeS = bottoms[i];

    if (progress) progress({0, 0, 0, "Checking the file"});
    auto sha256 = store::hashFile(request.clipPath);
    if (!sha256) return sha256.error();
    if (auto wants = analysis::needsReviewProxy(clip); wants && *wants) {
        const QString proxy = library->viewingCopy(*sha256);
        QDir().mkpath(QFileInfo(proxy).path());
        auto made = analysis::makeReviewProxy(clip, proxy.toStdString(), cancel, progress);
        if (cancel) return kStopped;
        if (!made)
            analysed->set.result.warnings.emplace_back(
                "Jumping about in this clip will be slow: no quick copy of it could be made.");
    }
    if (cancel) return kStopped;

    store::NewSet record;
    record.client = request.client;
    record.heldOn = QDate::currentDate();
    record.clip = {{}, *sha256, request.clipPath, QFileInfo(request.clipPath).size(), analysed->poses.clip};
    record.context = analysed->set.result.context;
    record.poses = std::move(analysed->poses.frames);
    record.readingNotes = analysed->poses.warnings;
    record.outlines = *outlines;
    auto presenter = makePresenter(std::move(analysed->set), std::move(*outlines), request.standard.toStdString());
    if (!presenter) return presenter.error();
    record.standard = QString::fromStdString((*presenter)->standard().id);
    record.resultJson = QByteArray::fromStdString(toJson((*presenter)->result()));
    record.reps = (*presenter)->countedReps();
    record.headline = (*presenter)->headline();
    auto id = library->addSet(record);
    if (!id) return id.error();

    LoadedSet out;
    out.id = *id;
    out.client = *client;
    out.clip = record.clip;
    out.heldOn = record.heldOn;
    out.frameTimesS = timesOf(record.poses);
    out.presenter = *presenter;
    findVideo(*library, out);
    return out;
}

Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, const std::atomic<bool>& cancel,
                          const analysis::OnProgress& progress) {
    if (progress) progress({0, 0, 0, "Opening the set"});
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    auto set = measureSet(stored->poses, stored->clip.facts, stored->context);
    if (!set) return set.error();
    set->result.warnings.insert(set->result.warnings.end(), stored->readingNotes.begin(), stored->readingNotes.end());
    for (const auto& c : stored->corrections)
        if (c.kind == "leave_out") set->result.leftOut.push_back(c.rep);
    if (cancel) return kStopped;
    auto presenter = makePresenter(std::move(*set), std::move(stored->outlines), stored->standard.toStdString());
    if (!presenter) return presenter.error();
    LoadedSet out;
    out.id = id;
    out.client = stored->client;
    out.clip = stored->clip;
    out.heldOn = stored->heldOn;
    out.corrections = stored->corrections;
    out.frameTimesS = timesOf(stored->poses);
    out.presenter = *presenter;
    findVideo(*library, out);
    return out;
}

Result<LoadedSet> prepareDemo(const QString& libraryFolder, const std::atomic<bool>& cancel,
                              const analysis::OnProgress& progress) {
    const auto demo = analysis::loadDemo();
    if (!demo) return demo.error();
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    const auto clients = library->clients();
    if (!clients) return clients.error();
    Result<LoadedSet> first = Error{"The demo scenario holds no set.", "larkmoor.json"};
    for (const auto& set : *demo) {
        const QString name = QString::fromStdString(set.client);
        const auto known =
            std::find_if(clients->begin(), clients->end(), [&](const auto& c) { return c.name == name; });
        store::ClientId client{};
        if (known != clients->end()) {
            client = known->id;
        } else {
            auto added =
                library->addClient({{}, name, set.statureCm, QString::fromStdString(set.note), QDate::currentDate()});
            if (!added) return added.error();
            client = *added;
        }
        const auto sets = library->sets(client);
        if (!sets) return sets.error();
        Result<LoadedSet> loaded = Error{"", ""};
        if (!sets->empty()) {
            loaded = openSet(libraryFolder, sets->back().id, cancel, progress);
        } else {
            const QString path = QDir(libraryFolder).filePath("clips/" + QString::fromStdString(set.clipName));
            QDir().mkpath(QFileInfo(path).path());
            if (!QFileInfo::exists(path))
                if (auto made = analysis::makeDemoClip(set, path.toStdString(), cancel, progress); !made)
                    return made.error();
            loaded = importClip({libraryFolder, path, "squat", QString::fromStdString(set.standard), "full", client},
                                cancel, progress);
        }
        if (!loaded) return loaded.error();
        if (!first) first = std::move(loaded);
    }
    return first;
}

}  // namespace zevo::app
