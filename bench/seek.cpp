// How long it takes from asking for a frame anywhere in a 720p clip until it is painted with its lines.
#include <QApplication>
#include <QImage>
#include <QPainter>
#include <random>

#include "app/parts/stage.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "media/clip_reader.h"
#include "media/clip_writer.h"
#include "pipeline/analyse_clip.h"
#include "pipeline/review_proxy.h"
#include "present/overlay.h"

using namespace zevo;

namespace {

/// The same pictures with a key frame only every ten seconds, as some phones write them.
std::string sparseClip(const std::string& from) {
    const auto path = std::filesystem::temp_directory_path() / "zevo-bench-sparse.mp4";
    auto reader = media::ClipReader::open(from);
    media::WriteOptions options;
    options.keyFrameInterval = 300;
    auto writer = media::ClipWriter::create(path.string(), reader->info().width, reader->info().height, options);
    media::VideoFrame frame;
    while (*reader->next(frame)) (void)writer->write(frame.picture.view(), frame.timeS);
    (void)writer->finish();
    return path.string();
}

void measure(const char* name, const std::string& clip, const Observation& poses, const Track& track) {
    std::vector<double> times;
    for (const auto& f : poses.poses) times.push_back(f.timeS);
    app::Stage stage;
    stage.resize(960, 600);
    stage.show();
    stage.open(QString::fromStdString(clip), times, {poses.clip.width, poses.clip.height}, {});
    std::mt19937 random(5);
    std::vector<double> took;
    auto wait = [&] {
        while (!stage.hasPicture() || stage.shownFrame() != stage.frame())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        (void)stage.grab();
    };
    wait();
    for (int i = 0; i < 200; ++i) {
        const std::size_t frame = random() % times.size();
        const bench::Watch watch;
        stage.goTo(times[frame]);
        stage.setOverlay(
            present::overlayFor(MeasureId::named("hip_flexion"), track, track.sampleAt(times[frame]), nullptr),
            "108° ±9");
        wait();
        took.push_back(1000 * watch.seconds());
    }
    std::printf("| %s | %.0f | %.0f |\n", name, bench::middle(took), *std::max_element(took.begin(), took.end()));
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    const std::string clip = bench::sideClip(4);
    std::atomic<bool> cancel{false};
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    options.model = pose::ModelSize::Lite;
    auto poses = pipeline::observeClip(clip, {}, options, cancel);
    const SetContext context;
    auto set = measureSet(poses->poses, poses->clip, context, poses->secondEstimates);
    if (!set) return 1;
    std::printf("| 200 random frames, 720p, painted with overlay | median ms | worst ms |\n|---|---|---|\n");
    measure("Zevo's own clip (key frame every 15)", clip, *poses, set->track());
    const std::string sparse = sparseClip(clip);
    measure("key frame every 300, as filmed", sparse, *poses, set->track());
    const std::string copy = (std::filesystem::temp_directory_path() / "zevo-bench-copy.mp4").string();
    if (!pipeline::makeReviewProxy(sparse, copy, cancel)) return 1;
    measure("key frame every 300, through the viewing copy Zevo makes of it", copy, *poses, set->track());
    std::filesystem::remove(sparse);
    std::filesystem::remove(copy);
    std::printf("wanted: median at most 40, worst at most 150\n");
    return 0;
}
