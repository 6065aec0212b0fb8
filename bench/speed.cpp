// How much of an analysis is network and decoding, and how much is ours: ratios within one run.
//   bench_speed [--model lite|full|heavy]
// "Alone" times are taken like the analysis works: two threads, each with its own network or decoder, half the
// frames each.
#include <atomic>
#include <functional>
#include <thread>

#include "bench/common.h"
#include "catalog/data_files.h"
#include "media/clip_reader.h"
#include "pipeline/analyse_clip.h"
#include "pose/landmarker.h"

using namespace zevo;

namespace {

double twice(const std::function<void(int)>& half) {
    const bench::Watch watch;
    std::thread other([&] { half(1); });
    half(0);
    other.join();
    return watch.seconds();
}

}  // namespace

int main(int argc, char** argv) {
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    if (argc == 3)
        if (auto size = pose::modelSizeFromName(argv[2]); size) options.model = *size;
    const std::string clip = bench::sideClip(4);
    std::atomic<bool> cancel{false};
    long frames = 0;
    double durationS = 0;
    {
        auto reader = media::ClipReader::open(clip);
        frames = reader->info().frames;
        durationS = reader->info().durationS;
    }
    const auto graph =
        pose::loadGraph(options.modelDir + "/pose_landmark_" + pose::modelName(options.model) + ".tflite");
    std::vector<pose::Landmarker> landmarkers;
    for (int i = 0; i < 2; ++i) landmarkers.push_back(std::move(*pose::Landmarker::create(*graph)));

    std::vector<double> network, decoding, whole, back;
    for (int round = 0; round < 3; ++round) {
        network.push_back(twice([&](int i) {
            for (long k = 0; k < frames / 2; ++k) (void)landmarkers[static_cast<std::size_t>(i)].network().run();
        }));
        decoding.push_back(twice([&](int i) {
            auto reader = media::ClipReader::open(clip, {1280});
            if (i == 1) (void)reader->seek(durationS / 2);
            media::VideoFrame frame;
            for (long k = 0; k < frames / 2; ++k)
                if (auto more = reader->next(frame); !more || !*more) break;
        }));
        const bench::Watch watch;
        auto poses = pipeline::observeClip(clip, {}, options, cancel);
        if (!poses) return 1;
        SetContext context;
        context.context.statureCm = 175;
        auto set = measureSet(poses->poses, poses->clip, context, poses->secondEstimates);
        whole.push_back(watch.seconds());
        if (!set) return 1;
        const bench::Watch afterwards;
        if (!pipeline::readContours(clip, set->first, *poses, options.modelDir, cancel)) return 1;
        back.push_back(afterwards.seconds());
    }
    const double n = bench::middle(network), d = bench::middle(decoding), w = bench::middle(whole);
    std::printf("| model %s, 720p30, %ld frames, 2 workers, median of 3 | s | ms a frame |\n|---|---|---|\n",
                pose::modelName(options.model).c_str(), frames);
    std::printf("| network alone | %.2f | %.1f |\n| decoding alone | %.2f | %.1f |\n| whole analysis | %.2f | %.1f |\n",
                n, 1000 * n / static_cast<double>(frames), d, 1000 * d / static_cast<double>(frames), w,
                1000 * w / static_cast<double>(frames));
    const double b = bench::middle(back);
    std::printf("| outlines for the back, after the answer | %.2f | %.1f |\n", b,
                1000 * b / static_cast<double>(frames));
    std::printf("\noutlines ÷ (network + decoding) = %.2f (wanted: at most 0.6)", b / (n + d));
    std::printf(
        "\nwhole ÷ (network + decoding) = %.2f (wanted: at most 1.25)\nspeed = %.1f × real time (wanted: at least 2)\n",
        w / (n + d), durationS / w);
    return 0;
}
