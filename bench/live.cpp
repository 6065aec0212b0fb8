// Filming with the simulated camera at its own pace: pictures dropped, how far the lines lag behind, what the answer
// after a set takes, and memory over a long recording.   bench_live [SECONDS, 600]
#include <atomic>
#include <cstdlib>
#include <fstream>
#include <future>
#include <mutex>
#include <thread>

#include "bench/common.h"
#include "catalog/data_files.h"
#include "pipeline/live_session.h"
#include "pipeline/virtual_client.h"

using namespace zevo;

namespace {

double residentMb() {
    std::ifstream status("/proc/self/status");
    std::string word;
    while (status >> word)
        if (word == "VmRSS:") {
            double kb = 0;
            status >> kb;
            return kb / 1024;
        }
    return 0;
}

double share(std::vector<double> v, double part) {
    std::sort(v.begin(), v.end());
    return v.empty() ? 0 : v[static_cast<std::size_t>(part * static_cast<double>(v.size() - 1))];
}

struct Run {
    pipeline::Filmed filmed;
    std::vector<double> behind;
    double poseRate = 0, cameraRate = 0, mbEarly = 0, mbLate = 0, answerS = 0;
    int reps = 0;
};

Run film(const std::string& rest, const std::string& set, const SetContext& context, const std::string& out,
         double seconds, const Catalogue& catalogue, const SetFacts& facts) {
    Run run;
    auto camera = sim::SimulatedCamera::open(rest);
    auto* client = camera->get();
    client->setSet(set);
    std::mutex mutex;
    pipeline::LiveSession::Options options;
    options.modelDir = catalog::modelDir();
    std::atomic<long> looks{0};
    auto session = pipeline::LiveSession::start(
        std::move(*camera), options,
        [&](pipeline::LiveFrameResult&& look) {
            const std::lock_guard lock(mutex);
            run.behind.push_back(media::steadySeconds() - look.timeS);
            ++looks;
        },
        [](const Error& e) { std::printf("trouble: %s\n", e.message.c_str()); });
    while (looks < 90) std::this_thread::sleep_for(std::chrono::milliseconds(10));
    if (auto begun = (*session)->film(out, "", context); !begun) std::exit(1);
    const bench::Watch watch;
    std::vector<double> poseRates;
    while (watch.seconds() < seconds) {
        client->begin();  // again as soon as the last set is over
        std::this_thread::sleep_for(std::chrono::milliseconds(500));
        poseRates.push_back((*session)->counts().poseRate);
        if (run.mbEarly == 0 && watch.seconds() > std::min(60.0, seconds / 3)) run.mbEarly = residentMb();
    }
    run.mbLate = residentMb();
    const auto counts = (*session)->counts();
    run.poseRate = share(poseRates, 0.05);
    run.cameraRate = counts.cameraRate;
    const bench::Watch stop;
    auto filmed = (*session)->endFilming();
    if (!filmed) std::exit(1);
    // As the window does it: the file's sum, by which the record knows the clip, beside the reading.
    auto hashing = std::async(std::launch::async, [&] { return media::sha256OfFile(filmed->path); });
    const auto seen = std::make_shared<const Observation>(pipeline::observedLive(*filmed, context));
    const auto state = recompute({seen}, {FactsSet{facts}}, catalogue);
    (void)hashing.get();
    run.answerS = stop.seconds();
    run.reps = state ? static_cast<int>(state->set.result.reps.size()) : 0;
    run.filmed = std::move(*filmed);
    return run;
}

void print(const char* name, const Run& r) {
    const double size = static_cast<double>(std::filesystem::file_size(r.filmed.path)) / 1e6;
    std::printf("| %s | %.0f | %ld | %ld | %.1f | %.0f | %.0f | %.0f | %.2f | %.1f | %.0f → %.0f | %d |\n", name,
                r.filmed.durationS, r.filmed.frames, r.filmed.dropped, r.poseRate, 1000 * share(r.behind, 0.5),
                1000 * share(r.behind, 0.95), 1000 * share(r.behind, 1), r.answerS, size / r.filmed.durationS,
                r.mbEarly, r.mbLate, r.reps);
}

}  // namespace

int main(int argc, char** argv) {
    const double seconds = argc > 1 ? std::atof(argv[1]) : 600;
    const auto folder = std::filesystem::temp_directory_path() / "zevo-bench-live";
    const std::atomic<bool> goOn{false};
    sim::ClientDials dials;
    dials.fault = "heels_rise";
    const auto rest = pipeline::drawnRest(dials, folder.string(), goOn);
    const auto set = pipeline::drawnSet(dials, folder.string(), goOn);
    const auto catalogue = catalog::loadCatalogue();
    if (!rest || !set || !catalogue) return 1;
    SetFacts facts;
    facts.statureCm = 175;
    const SetContext context = contextOf(facts, *catalogue->movement("squat"));
    std::printf(
        "| simulated camera, 720p30, full | s | pictures | dropped | looked at a second (5 %%) | lines behind, "
        "median ms | 95 %% | longest | stop to answer, s | MB a second | memory, MB | reps |\n"
        "|---|---|---|---|---|---|---|---|---|---|---|---|\n");
    const Run minute = film(*rest, *set, context, (folder / "minute.mkv").string(), 60, *catalogue, facts);
    print("a set of a minute", minute);
    std::fflush(stdout);
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const bench::Watch refining;
    const auto refined = pipeline::observeFilmed(minute.filmed, context, options, goOn);
    const double refineS = refining.seconds();
    const bench::Watch reading;
    const auto whole = pipeline::observeClip(minute.filmed.path, context, options, goOn);
    const double wholeS = reading.seconds();
    double worst = 0;
    bool same = refined && whole;
    if (same) {
        const auto a = recompute({std::make_shared<const Observation>(*refined)}, {FactsSet{facts}}, *catalogue);
        const auto b = recompute({std::make_shared<const Observation>(*whole)}, {FactsSet{facts}}, *catalogue);
        same = a && b && a->set.result.reps.size() == b->set.result.reps.size();
        for (std::size_t i = 0; same && i < a->set.result.reps.size(); ++i)
            for (const char* m : {"thigh_angle", "knee_flexion", "trunk_lean", "shin_angle"}) {
                const auto *x = a->set.result.reps[i].find(m), *y = b->set.result.reps[i].find(m);
                if (x && y) worst = std::max(worst, std::abs(x->value - y->value));
            }
    }
    std::printf(
        "\ncareful reading afterwards %.1f s, the file from the beginning %.1f s (%.2f of it); same repetitions: "
        "%s; angles differ by at most %.2f degrees\n\n",
        refineS, wholeS, refineS / wholeS, same ? "yes" : "NO", worst);
    const Run longOne = film(*rest, *set, context, (folder / "long.mkv").string(), seconds, *catalogue, facts);
    print("a long recording", longOne);
    std::filesystem::remove(minute.filmed.path);
    std::filesystem::remove(longOne.filmed.path);
    return 0;
}
