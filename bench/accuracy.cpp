// How far the measurements are from the truth on virtual clients, side view, square on.
//   bench_accuracy [--bodies N] [--height PIXELS] [--model lite|full|heavy]
// Each body does a clean set filmed from one side. The clip is drawn, encoded, analysed like any other, and compared
// with the same analysis of the true landmarks. A virtual client is not a person: this finds mistakes of ours and of
// the network on such figures, nothing more.
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "analysis/analyse_clip.h"
#include "analysis/data_files.h"
#include "core/signal/filter.h"
#include "sim/clip_maker.h"

using namespace zevo;

namespace {

/// Builds, clothes and sides; in an order that any first few differ.
std::vector<sim::ClipSpec> specs(int bodies, int height) {
    struct Build {
        double stature, girth, legs, trunk, azimuth;
        sim::Colour skin, shirt, shorts, shoe, hair;
    };
    const std::vector<Build> builds{
        {175, 1.00, 1.00, 1.00, 90, {205, 152, 122}, {176, 52, 56}, {48, 56, 74}, {58, 92, 150}, {52, 34, 24}},
        {163, 0.95, 1.02, 0.97, -90, {150, 104, 80}, {60, 96, 70}, {70, 60, 50}, {120, 60, 50}, {30, 22, 18}},
        {188, 1.15, 1.03, 0.98, 90, {224, 180, 150}, {40, 60, 110}, {120, 110, 90}, {60, 60, 60}, {160, 120, 60}},
        {170, 1.10, 0.97, 1.03, -90, {96, 64, 46}, {210, 200, 180}, {60, 30, 30}, {200, 196, 190}, {20, 16, 14}},
        {181, 0.90, 1.00, 1.05, -90, {190, 140, 110}, {90, 90, 100}, {30, 40, 60}, {50, 110, 90}, {80, 60, 40}},
        {158, 1.05, 1.00, 1.00, 90, {120, 84, 64}, {200, 150, 60}, {50, 70, 60}, {90, 40, 70}, {24, 18, 16}},
    };
    std::vector<sim::ClipSpec> out;
    for (int i = 0; i < bodies && i < static_cast<int>(builds.size()); ++i) {
        const Build& b = builds[static_cast<std::size_t>(i)];
        sim::ClipSpec s;
        s.motion.body.statureCm = b.stature;
        s.scene.camera.azimuthDeg = b.azimuth;
        s.scene.camera.height = height;
        s.scene.camera.width = height * 16 / 9 / 2 * 2;
        s.scene.seed = static_cast<std::uint64_t>(100 + i);
        for (double thigh : {-14.0, -4.0, 18.0}) {
            sim::RepSpec rep;
            rep.thighBottomDeg = thigh;
            rep.shinBottomDeg = 32;
            rep.lowerS = 2.0;
            s.motion.reps.push_back(rep);
        }
        out.push_back(s);
    }
    return out;
}

struct Errors {
    std::vector<double> signedErrors;
    int inside = 0;
    void add(double error, double pm = -1) {
        signedErrors.push_back(error);
        inside += pm >= 0 && std::abs(error) <= pm;
    }
    double mean() const {
        double sum = 0;
        for (double e : signedErrors) sum += e;
        return sum / static_cast<double>(signedErrors.size());
    }
    std::vector<double> sizes() const {
        std::vector<double> out;
        for (double e : signedErrors) out.push_back(std::abs(e));
        return out;
    }
    double meanSize() const {
        double sum = 0;
        for (double e : signedErrors) sum += std::abs(e);
        return sum / static_cast<double>(signedErrors.size());
    }
};

struct Table {
    std::map<std::string, Errors> measures;                       // read values of whole reps
    std::map<std::string, std::map<std::string, Errors>> phases;  // angle → phase → errors at every sample
    Errors start, bottom, end;
    int counted = 0, sets = 0, frames = 0, tracked = 0;
    std::map<std::string, int> falseFindings;
};

void compare(const sim::ClipSpec& spec, const SetResult& seen, const SetResult& truth,
             const std::vector<sim::RepTruth>& events, Table& table) {
    ++table.sets;
    table.counted += seen.reps.size() == truth.reps.size();
    for (std::size_t i = 0; i < seen.reps.size() && i < events.size(); ++i) {
        table.start.add((seen.reps[i].startS - events[i].startS) * spec.frameRate);
        table.bottom.add((seen.reps[i].bottomS - events[i].bottomS) * spec.frameRate);
        table.end.add((seen.reps[i].endS - events[i].endS) * spec.frameRate);
        for (const auto& m : seen.reps[i].measures)
            if (i < truth.reps.size())
                if (const Measurement* t = truth.reps[i].find(m.id))
                    table.measures[m.id].add(m.value - t->value, m.pm90);
    }
    const sim::SpecMotion motion(spec.motion);
    const int near = spec.scene.camera.azimuthDeg > 0 ? 1 : 0;
    static const char* const kPhases[] = {"top", "lowering", "bottom", "lifting"};
    for (std::size_t i = 0; i < seen.timesS.size(); ++i) {
        const sim::Skeleton s = motion.at(seen.timesS[i]);
        const sim::TrueAngles a = sim::trueAngles(s, near);
        const char* phase = kPhases[static_cast<int>(s.phase)];
        table.phases["knee_flexion"][phase].add(seen.series.kneeFlexion[i] - a.kneeFlexion);
        table.phases["hip_flexion"][phase].add(seen.series.hipFlexion[i] - a.hipFlexion);
        table.phases["trunk_lean"][phase].add(seen.series.trunkLean[i] - a.trunkLean);
        table.phases["shin_angle"][phase].add(seen.series.shinAngle[i] - a.shinAngle);
        table.phases["thigh_angle"][phase].add(seen.series.thighAngle[i] - a.thighAngle);
    }
}

void print(const Table& t) {
    std::printf("\nreps counted exactly in %d of %d sets; person tracked in %d of %d frames\n", t.counted, t.sets,
                t.tracked, t.frames);
    std::printf("\n| angle, degrees | phase | bias | mean abs. error | 95th percentile |\n|---|---|---|---|---|\n");
    for (const auto& [angle, phases] : t.phases)
        for (const char* phase : {"top", "lowering", "bottom", "lifting"})
            if (const auto found = phases.find(phase); found != phases.end())
                std::printf("| %s | %s | %+.1f | %.1f | %.1f |\n", angle.c_str(), phase, found->second.mean(),
                            found->second.meanSize(), quantile(found->second.sizes(), 0.95));
    std::printf("\n| event, frames | bias | mean abs. error | largest |\n|---|---|---|---|\n");
    for (const auto& [name, e] :
         {std::pair("start", &t.start), std::pair("bottom", &t.bottom), std::pair("end", &t.end)})
        std::printf("| %s | %+.1f | %.1f | %.1f |\n", name, e->mean(), e->meanSize(), quantile(e->sizes(), 1));
    std::printf(
        "\n| measure of a rep, its unit | reps | bias | mean abs. error | 95th percentile | inside the stated ± "
        "|\n|---|---|---|---|---|---|\n");
    for (const auto& [id, e] : t.measures)
        std::printf("| %s | %zu | %+.2f | %.2f | %.2f | %.0f %% |\n", id.c_str(), e.signedErrors.size(), e.mean(),
                    e.meanSize(), quantile(e.sizes(), 0.95),
                    100.0 * e.inside / static_cast<double>(e.signedErrors.size()));
}

}  // namespace

int main(int argc, char** argv) {
    int bodies = 6, height = 720;
    analysis::AnalyseOptions options;
    options.modelDir = analysis::modelDir();
    for (int i = 1; i + 1 < argc; i += 2) {
        const std::string key = argv[i];
        if (key == "--bodies") bodies = std::atoi(argv[i + 1]);
        if (key == "--height") height = std::atoi(argv[i + 1]);
        if (key == "--model")
            if (auto size = pose::modelSizeFromName(argv[i + 1]); size) options.model = *size;
    }
    const auto folder = std::filesystem::temp_directory_path() / "zevo-bench-accuracy";
    std::filesystem::create_directories(folder);
    std::atomic<bool> cancel{false};
    Table table;
    for (const auto& spec : specs(bodies, height)) {
        const std::string clip =
            (folder / ("set-" + std::to_string(spec.scene.seed) + "-" + std::to_string(height) + ".mp4")).string();
        if (auto made = sim::makeClip(spec, clip); !made) {
            std::fprintf(stderr, "%s\n", made.error().message.c_str());
            return 1;
        }
        SetContext context;
        context.context.statureCm = spec.motion.body.statureCm;
        auto seen = analysis::analyseClip(clip, context, options, cancel);
        std::filesystem::remove(clip);
        auto truth =
            measureSet(sim::truePoses(spec), {0, 0, spec.scene.camera.width, spec.scene.camera.height, 0}, context);
        if (!seen || !truth) {
            std::printf("%.0f cm: %s\n", spec.motion.body.statureCm,
                        (seen ? truth.error() : seen.error()).message.c_str());
            ++table.sets;
            continue;
        }
        table.frames += static_cast<int>(seen->poses.frames.size());
        table.tracked += static_cast<int>(
            std::count_if(seen->poses.frames.begin(), seen->poses.frames.end(), [](const auto& f) { return f.found; }));
        compare(spec, seen->set.result, truth->result, sim::SpecMotion(spec.motion).reps(), table);
        std::printf("%.0f cm, %s side:", spec.motion.body.statureCm, sideName(seen->set.result.near).c_str());
        if (auto standard = analysis::loadStandard("whole-foot")) {
            judgeSet(seen->set.result, *standard);
            judgeSet(truth->result, *standard);
            for (const auto& f : seen->set.result.findings)
                std::printf(" %s(%s)", f.fault.c_str(), severityName(f.severity).c_str());
            std::printf("; by true landmarks:");
            for (const auto& f : truth->result.findings)
                std::printf(" %s(%s)", f.fault.c_str(), severityName(f.severity).c_str());
        }
        std::printf("\n");
        std::fflush(stdout);
    }
    print(table);
    return 0;
}
