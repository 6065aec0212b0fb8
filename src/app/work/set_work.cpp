#include "app/work/set_work.h"

#include <QDir>
#include <QFileInfo>
#include <tuple>

#include "analysis/data_files.h"
#include "analysis/demo_maker.h"
#include "analysis/review_proxy.h"
#include "core/results/result_json.h"

namespace zevo::app {
namespace {

const Error kStopped{"Stopped. Nothing was kept.", "cancelled"};

Result<std::shared_ptr<ReviewPresenter>> makePresenter(MeasuredSet set, std::vector<Outline> outlines,
                                                       const std::string& standard, const QString& folder,
                                                       QStringList* refused = nullptr) {
    const Movement& movement = set.result.context.movement;
    std::vector<Error> bad;
    auto standards = analysis::loadStandards(movement, ownStandards(folder).toStdString(), &bad);
    if (!standards) return standards.error();
    if (refused)
        for (const auto& e : bad) refused->append(QString::fromStdString(e.message));
    auto advice = analysis::loadAdvice(movement);
    if (!advice) return advice.error();
    set.result.standard = standard.empty() ? standards->front().id : standard;
    return std::make_shared<ReviewPresenter>(std::move(set), std::move(outlines), std::move(*standards),
                                             std::move(*advice));
}

/// Where a clip can be watched: the copy that is quick to jump about in, or the clip itself; else why not.
std::pair<QString, QString> videoOf(const store::Library& library, const store::Clip& clip) {
    const QString proxy = library.viewingCopy(clip.sha256);
    if (QFileInfo::exists(proxy)) return {proxy, {}};
    if (QFileInfo::exists(clip.path)) return {clip.path, {}};
    return {{},
            "The video is not at " + clip.path +
                " any more. The measurements are kept; put the file back there, or open it from its new place."};
}

std::vector<double> timesOf(const PoseFrames& poses) {
    std::vector<double> out;
    for (const auto& f : poses) out.push_back(f.timeS);
    return out;
}

}  // namespace

QString ownStandards(const QString& libraryFolder) {
    return QDir(libraryFolder).filePath("standards");
}

namespace {

/// The clip's entry in the record, and a copy that is quick to jump about in where it needs one.
Result<store::Clip> recordClip(const store::Library& library, const QString& path, const ClipFacts& facts,
                               std::vector<std::string>& notes, const std::atomic<bool>& cancel,
                               const analysis::OnProgress& progress) {
    if (progress) progress({0, 0, 0, "Checking the file"});
    auto sha256 = store::hashFile(path);
    if (!sha256) return sha256.error();
    const std::string clip = path.toStdString();
    if (auto wants = analysis::needsReviewProxy(clip); wants && *wants) {
        const QString proxy = library.viewingCopy(*sha256);
        QDir().mkpath(QFileInfo(proxy).path());
        auto made = analysis::makeReviewProxy(clip, proxy.toStdString(), cancel, progress);
        if (cancel) return kStopped;
        if (!made) notes.emplace_back("Jumping about in this clip will be slow: no quick copy of it could be made.");
    }
    if (cancel) return kStopped;
    return store::Clip{{}, *sha256, path, QFileInfo(path).size(), facts};
}

analysis::AnalyseOptions optionsFor(pose::ModelSize model) {
    analysis::AnalyseOptions options;
    options.modelDir = analysis::modelDir();
    options.model = model;
    return options;
}

/// What the window needs of a set in the record.
LoadedSet shown(const store::Library& library, store::StoredSet stored, std::shared_ptr<ReviewPresenter> presenter,
                const QStringList& refused) {
    LoadedSet out;
    out.id = stored.id;
    out.client = std::move(stored.client);
    out.heldOn = stored.heldOn;
    out.corrections = std::move(stored.corrections);
    out.frameTimesS = timesOf(stored.poses);
    out.context = std::move(stored.context);
    out.presenter = std::move(presenter);
    out.refusedStandards = refused;
    std::tie(out.viewingPath, out.missing) = videoOf(library, stored.clip);
    out.clip = std::move(stored.clip);
    if (stored.second) {
        std::tie(out.secondPath, out.secondMissing) = videoOf(library, stored.second->clip);
        out.secondTimesS = timesOf(stored.second->poses);
        out.second = std::move(stored.second);
    }
    return out;
}

}  // namespace

Result<LoadedSet> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                             const analysis::OnProgress& progress) {
    auto library = store::Library::open(request.libraryFolder);
    if (!library) return library.error();
    const auto client = library->client(request.client);
    if (!client) return client.error();
    const auto model = pose::modelSizeFromName(request.model.toStdString());
    if (!model) return model.error();
    auto movement = analysis::loadMovement(request.movement.toStdString());
    if (!movement) return movement.error();

    SetContext context;
    context.movement = std::move(*movement);
    if (context.movement.variation(request.variation.toStdString()))
        context.variation = request.variation.toStdString();
    context.context.statureCm = client->statureCm;
    context.loadShare = request.loadShare;
    const std::string clip = request.clipPath.toStdString();
    const auto options = optionsFor(*model);
    auto analysed = analysis::analyseClip(clip, context, options, cancel, progress);
    if (!analysed) return analysed.error();

    if (progress) progress({0, 0, 0, "Drawing the outlines"});
    std::vector<double> bottoms;
    for (const auto& r : analysed->set.result.reps) bottoms.push_back(r.bottomS);
    auto outlines = analysis::readOutlines(clip, analysed->poses, bottoms, options.modelDir, cancel);
    if (!outlines) return outlines.error();
    // Named by the moment they were wanted for, so that they are found again by it.
    for (std::size_t i = 0; i < outlines->size(); ++i) (*outlines)[i].timeS = bottoms[i];
    auto recorded =
        recordClip(*library, request.clipPath, analysed->poses.clip, analysed->set.result.warnings, cancel, progress);
    if (!recorded) return recorded.error();

    store::NewSet record;
    record.client = request.client;
    record.heldOn = QDate::currentDate();
    record.clip = std::move(*recorded);
    record.context = analysed->set.result.context;
    record.poses = std::move(analysed->poses.frames);
    record.readingNotes = analysed->poses.warnings;
    record.outlines = *outlines;
    QStringList refused;
    auto presenter = makePresenter(std::move(analysed->set), std::move(*outlines), request.standard.toStdString(),
                                   request.libraryFolder, &refused);
    if (!presenter) return presenter.error();
    record.standard = QString::fromStdString((*presenter)->standard().id);
    record.resultJson = QByteArray::fromStdString(toJson((*presenter)->result()));
    record.reps = (*presenter)->countedReps();
    record.headline = (*presenter)->headline();
    auto id = library->addSet(record);
    if (!id) return id.error();
    store::StoredSet stored;
    stored.id = *id;
    stored.client = *client;
    stored.heldOn = record.heldOn;
    stored.clip = std::move(record.clip);
    stored.context = std::move(record.context);
    stored.poses = std::move(record.poses);
    return shown(*library, std::move(stored), *presenter, refused);
}

Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, const std::atomic<bool>& cancel,
                          const analysis::OnProgress& progress) {
    if (progress) progress({0, 0, 0, "Opening the set"});
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    auto movement = analysis::loadMovement(stored->context.movement.id);
    if (!movement) return movement.error();
    stored->context.movement = std::move(*movement);
    auto set = measureSet(stored->poses, stored->clip.facts, stored->context);
    if (!set) return set.error();
    auto& warnings = set->result.warnings;
    warnings.insert(warnings.end(), stored->readingNotes.begin(), stored->readingNotes.end());
    if (stored->second) {
        const auto& second = *stored->second;
        // A view that does not fit any more (another movement was chosen) is kept, and said to be left out.
        if (auto joined = joinSecondView(*set, second.poses, second.clip.facts, second.together, second.nudgeS);
            !joined)
            warnings.push_back("The second clip is left out. " + joined.error().message);
    }
    for (const auto& c : stored->corrections)
        if (c.kind == "leave_out") set->result.leftOut.push_back(c.rep);
    if (cancel) return kStopped;
    QStringList refused;
    auto presenter = makePresenter(std::move(*set), std::move(stored->outlines), stored->standard.toStdString(),
                                   libraryFolder, &refused);
    if (!presenter) return presenter.error();
    return shown(*library, std::move(*stored), *presenter, refused);
}

Result<LoadedSet> addSecondClip(const QString& libraryFolder, store::SetId id, const QString& clipPath, bool together,
                                const QString& model, const std::atomic<bool>& cancel,
                                const analysis::OnProgress& progress) {
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    auto stored = library->loadSet(id);
    if (!stored) return stored.error();
    const auto size = pose::modelSizeFromName(model.toStdString());
    if (!size) return size.error();
    auto movement = analysis::loadMovement(stored->context.movement.id);
    if (!movement) return movement.error();
    stored->context.movement = std::move(*movement);
    auto set = measureSet(stored->poses, stored->clip.facts, stored->context);
    if (!set) return set.error();
    auto poses = analysis::readPoses(clipPath.toStdString(), optionsFor(*size), cancel, progress);
    if (!poses) return poses.error();
    // Joined once before it is written, so that a clip that does not belong here is refused.
    if (auto joined = joinSecondView(*set, poses->frames, poses->clip, together); !joined) return joined.error();
    store::SecondClip second;
    auto recorded = recordClip(*library, clipPath, poses->clip, poses->warnings, cancel, progress);
    if (!recorded) return recorded.error();
    second.clip = std::move(*recorded);
    second.poses = std::move(poses->frames);
    second.together = together;
    second.readingNotes = poses->warnings;
    if (auto kept = library->setSecondClip(id, second); !kept) return kept.error();
    auto out = openSet(libraryFolder, id, cancel, progress);
    if (!out) return out;
    const ReviewPresenter& p = *out->presenter;
    if (auto kept = library->updateJudgement(id, QString::fromStdString(p.standard().id), p.countedReps(), p.headline(),
                                             QByteArray::fromStdString(toJson(p.result())));
        !kept)
        return kept.error();
    return out;
}

Result<LoadedSet> prepareDemo(const QString& libraryFolder, const QString& story, const std::atomic<bool>& cancel,
                              const analysis::OnProgress& progress) {
    const auto demo = analysis::loadDemo(story.toStdString());
    if (!demo) return demo.error();
    auto library = store::Library::open(libraryFolder);
    if (!library) return library.error();
    Result<LoadedSet> first = Error{"The demo scenario holds no set.", "larkmoor.json"};
    for (const auto& set : *demo) {
        const auto clients = library->clients();
        if (!clients) return clients.error();
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
        const QDir clips(QDir(libraryFolder).filePath("clips"));
        QDir().mkpath(clips.path());
        auto clipOf = [&](const std::string& clipName, const std::string& spec) -> Result<QString> {
            const QString path = clips.filePath(QString::fromStdString(clipName));
            if (!QFileInfo::exists(path))
                if (auto made = analysis::makeDemoClip(spec, path.toStdString(), cancel, progress); !made)
                    return made.error();
            return path;
        };
        // Sets are known by their clips.
        const auto path = clipOf(set.clipName, set.specJson);
        if (!path) return path.error();
        Result<LoadedSet> loaded = Error{"", ""};
        for (const auto& s : *sets)
            if (auto stored = library->loadSet(s.id); stored && stored->clip.path == *path)
                loaded = openSet(libraryFolder, s.id, cancel, progress);
        if (!loaded) {
            ImportRequest request{libraryFolder,
                                  *path,
                                  QString::fromStdString(set.movement),
                                  QString::fromStdString(set.variation),
                                  QString::fromStdString(set.standard),
                                  "full",
                                  client,
                                  set.loadShare};
            loaded = importClip(request, cancel, progress);
            if (loaded && !set.frontName.empty()) {
                const auto front = clipOf(set.frontName, set.frontSpecJson);
                if (!front) return front.error();
                loaded = addSecondClip(libraryFolder, loaded->id, *front, true, "full", cancel, progress);
            }
        }
        if (!loaded && cancel) return loaded.error();
        if (!first) first = std::move(loaded);  // one set that cannot be shown does not hide the others
    }
    return first;
}

}  // namespace zevo::app
