// Peak memory of analysing a short and a long clip, each in a process of its own.
//   bench_memory [MINUTES]     (10 by default; takes about half as long as the clip)
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <fstream>

#include "bench/common.h"
#include "catalog/data_files.h"
#include "media/clip_reader.h"
#include "media/clip_writer.h"
#include "pipeline/analyse_clip.h"

using namespace zevo;

namespace {

/// The same set over and over until the clip has the wanted length.
std::string longClip(const std::string& from, double seconds) {
    const auto path = std::filesystem::temp_directory_path() /
                      ("zevo-bench-long-" + std::to_string(static_cast<int>(seconds)) + ".mp4");
    if (std::filesystem::exists(path)) return path.string();
    media::WriteOptions options;
    options.preset = "ultrafast";
    auto writer = media::ClipWriter::create(path.string(), 1280, 720, options);
    media::VideoFrame frame;
    for (double start = 0; start < seconds;) {
        auto reader = media::ClipReader::open(from);
        double last = start;
        while (*reader->next(frame) && start + frame.timeS < seconds) {
            last = start + frame.timeS;
            (void)writer->write(frame.picture.view(), last);
        }
        start = last + 1 / 30.0;
    }
    (void)writer->finish();
    return path.string();
}

long peakMegabytes() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.rfind("VmHWM:", 0) == 0) return std::atol(line.c_str() + 6) / 1024;
    return 0;
}

void measure(const std::string& clip) {
    std::fflush(stdout);
    const pid_t child = fork();
    if (child == 0) {
        std::atomic<bool> cancel{false};
        pipeline::AnalyseOptions options;
        options.modelDir = catalog::modelDir();
        const bench::Watch watch;
        const SetContext context;
        auto analysed = pipeline::analyseClip(clip, context, options, cancel);
        if (!analysed)
            std::printf("%s\n", analysed.error().detail.c_str());
        else
            std::printf("| %.1f min, %zu reps | %ld MB | %.1f × real time |\n", analysed->seen.clip.durationS / 60,
                        analysed->set.result.reps.size(), peakMegabytes(),
                        analysed->seen.clip.durationS / watch.seconds());
        std::fflush(stdout);
        _exit(0);
    }
    int status = 0;
    waitpid(child, &status, 0);
}

}  // namespace

int main(int argc, char** argv) {
    const double minutes = argc > 1 ? std::atof(argv[1]) : 10;
    const std::string set = bench::sideClip(4);
    const std::string shortOne = longClip(set, 60), longOne = longClip(set, 60 * minutes);
    std::printf("| clip, 720p30, model full | peak memory | speed |\n|---|---|---|\n");
    measure(shortOne);
    measure(longOne);
    std::printf("wanted: at most 700 MB, not growing with length\n");
    return 0;
}
