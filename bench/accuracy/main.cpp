// How far the measurements are from the truth on virtual clients, and which planted faults are found.
//   bench_accuracy [--small] [--no-trial] [--no-grid] [--truth] [--kept] [--only TEXT] [--keep DIR] [--model
//   lite|full|heavy] [--people a|b] [--fronts | --upright-fronts] [--first N] [--count N]
// Every clip is drawn, encoded and analysed like any other, and analysed once more from the true landmarks, so that
// errors of the network and errors of our own geometry are told apart. With --keep, clips' poses stay in DIR and are
// used again. --truth takes true landmarks for the network's: a look at the cases in seconds. --kept leaves
// out what --keep has no poses of. --small fails (exit code 1) when reps are miscounted or an angle is further off than
// a wide limit. --people films lifelike people (bench/people) instead of the figures: half a is for calibration, half b
// for tables; with --keep the truth of each stays beside its poses. They also show the clean sets of the fault trial
// and every fault clearly, unless --no-trial. --fronts: squats filmed from the front take the place of the grid
// (fronts.h), by the figures or the people; --upright-fronts: with shins that hardly lean. A virtual client is not a
// person: this finds mistakes of ours and of the network on such figures, nothing more.
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "bench/accuracy/fronts.h"
#include "bench/accuracy/tables.h"
#include "bench/common.h"
#include "bench/people/cast.h"
#include "catalog/data_files.h"
#include "core/serial/camera_hold_json.h"
#include "core/serial/pose_record.h"
#include "pipeline/analyse_clip.h"
#include "pipeline/room_reader.h"
#include "pipeline/turning_points.h"
#include "present/words.h"

using namespace zevo;
using bench::bytesOf, bench::factsOf, bench::keepBytes;

namespace {

struct Options {
    bool small = false, trial = true, grid = true, truth = false, kept = false;
    bool fronts = false, upright = false;
    std::string only, keep;
    std::string people;  ///< "a" or "b": the half
    int first = 0, count = 45;
    pipeline::AnalyseOptions analyse;
};

void keepHold(const std::filesystem::path& file, const std::optional<CameraHold>& hold) {
    std::ofstream(file) << writeHold(hold) << '\n';
}

/// As kept, else as a kept clip shows it.
std::optional<CameraHold> holdKept(const std::filesystem::path& file, const std::filesystem::path& clip,
                                   const PoseFrames& poses) {
    if (!std::filesystem::exists(file)) {
        if (!std::filesystem::exists(clip)) return std::nullopt;
        keepHold(file, pipeline::readRoom(clip.string(), poses));
    }
    const auto kept = bytesOf(file);
    return readHold({kept.begin(), kept.end()});
}

/// What is seen in a spec's clip: what was kept, else the clip is drawn and the networks run.
Result<bench::Seen> seenIn(const std::string& name, const sim::ClipSpec& spec, const Options& options) {
    if (options.truth) return bench::Seen{sim::truePoses(spec), {}, {}};
    namespace fs = std::filesystem;
    const fs::path folder =
        options.keep.empty() ? fs::temp_directory_path() / "zevo-bench-accuracy" : fs::path(options.keep);
    fs::create_directories(folder);
    const fs::path clip = folder / (name + ".mp4"),
                   stem = folder / (name + "-" + pose::modelName(options.analyse.model)),
                   poses = stem.string() + ".poses", secondEstimates = stem.string() + ".opinions",
                   room = stem.string() + ".room";
    if (!options.keep.empty())
        if (fs::exists(poses) && fs::exists(secondEstimates)) {
            auto kept = zevo::readPoses(bytesOf(poses));
            auto looks = zevo::readSecondEstimates(bytesOf(secondEstimates));
            if (!kept) return kept.error();
            if (!looks) return looks.error();
            const auto hold = holdKept(room, clip, *kept);
            return bench::Seen{std::move(*kept), std::move(*looks), hold};
        }
    if (options.kept) return Error{"Not measured.", "not kept"};
    const auto movement = catalog::loadMovement(spec.motion.movement);
    if (!movement) return movement.error();
    std::atomic<bool> cancel{false};
    SetFacts facts;
    facts.statureCm = spec.motion.body.statureCm;
    facts.variation = spec.motion.variation;
    if (!options.keep.empty() && fs::exists(poses) && fs::exists(clip)) {
        // The points followed are as they were: only the other networks are asked again.
        Observation seen;
        auto kept = zevo::readPoses(bytesOf(poses));
        if (!kept) return kept.error();
        seen.poses = std::move(*kept);
        if (const auto view = measureView(seen.poses, factsOf(spec), contextOf(facts, *movement)))
            pipeline::estimateAtTurningPoints(clip.string(), *view, options.analyse, cancel, seen);
        keepBytes(secondEstimates, writeSecondEstimates(seen.secondEstimates));
        const auto hold = holdKept(room, clip, seen.poses);
        return bench::Seen{std::move(seen.poses), std::move(seen.secondEstimates), hold};
    }
    if (!fs::exists(clip) || options.keep.empty())
        if (auto made = sim::makeClip(spec, clip.string()); !made) return made.error();
    auto read = pipeline::observeClip(clip.string(), contextOf(facts, *movement), options.analyse, cancel);
    if (options.keep.empty()) fs::remove(clip);
    if (!read) return read.error();
    if (!options.keep.empty()) {
        keepBytes(secondEstimates, writeSecondEstimates(read->secondEstimates));
        keepBytes(poses, writePoses(read->poses));
        keepHold(room, read->clip.hold);
    }
    return bench::Seen{std::move(read->poses), std::move(read->secondEstimates), read->clip.hold};
}

/// The small grid's limits: far wider than what the tables show, to catch a broken change.
int verdictOf(const bench::Column& network, const bench::Column& perfect) {
    int broken = 0;
    auto check = [&](bool good, const std::string& what) {
        if (!good) std::printf("BROKEN: %s\n", what.c_str());
        broken += !good;
    };
    check(network.counted == network.sets, "reps are miscounted");
    check(perfect.counted == perfect.sets, "reps are miscounted from true landmarks");
    for (const auto& [family, figures] : network.bottom)
        for (const auto& [figure, angles] : figures)
            for (const auto& [angle, e] : angles) check(e.meanSize() < 12, family + " " + angle + " is off");
    for (const auto& [family, figures] : perfect.bottom)
        for (const auto& [figure, angles] : figures)
            for (const auto& [angle, e] : angles)
                check(e.meanSize() < 3, family + " " + angle + " from true landmarks is off");
    return broken ? 1 : 0;
}

/// What a kept clip of a person truly shows: enough to hold a reading against without the package.
void keepTruth(const bench::Case& c, const std::filesystem::path& file) {
    const auto motion = sim::motionOf(c.spec);
    const int near = c.spec.scene.camera.azimuthDeg >= 0 ? 1 : 0;
    nlohmann::json out{{"movement", c.spec.motion.movement},         {"variation", c.spec.motion.variation},
                       {"stature_cm", c.spec.motion.body.statureCm}, {"width", c.spec.scene.camera.width},
                       {"height", c.spec.scene.camera.height},       {"azimuth_deg", c.spec.scene.camera.azimuthDeg},
                       {"roll_deg", c.spec.scene.camera.rollDeg},    {"reps", nlohmann::json::array()}};
    for (const auto& rep : motion->reps()) {
        const sim::TrueAngles a = sim::trueAngles(motion->at(rep.bottomS), near);
        out["reps"].push_back({{"start_s", rep.startS},
                               {"bottom_s", rep.bottomS},
                               {"end_s", rep.endS},
                               {"knee_flexion", a.kneeFlexion},
                               {"hip_flexion", a.hipFlexion},
                               {"trunk_lean", a.trunkLean},
                               {"shin_angle", a.shinAngle},
                               {"thigh_angle", a.thighAngle}});
    }
    std::ofstream(file) << out.dump(1) << '\n';
}

/// Whoever shows a fault is in no set of the grid of people.
constexpr int kFirstOfTrial = 1000;

int failed(const Error& error) {
    std::fprintf(stderr, "%s %s\n", qPrintable(present::sentence(error)), error.detail.c_str());
    return 1;
}

}  // namespace

int main(int argc, char** argv) {
    Options options;
    options.analyse.modelDir = catalog::modelDir();
    for (int i = 1; i < argc; ++i) {
        const std::string key = argv[i];
        const std::string value = i + 1 < argc ? argv[i + 1] : "";
        if (key == "--small") options.small = true;
        if (key == "--no-trial") options.trial = false;
        if (key == "--no-grid") options.grid = false;
        if (key == "--truth") options.truth = true;
        if (key == "--kept") options.kept = true;
        if (key == "--fronts") options.fronts = true;
        if (key == "--upright-fronts") options.fronts = options.upright = true;
        if (key == "--only") options.only = value;
        if (key == "--keep") options.keep = value;
        if (key == "--people") options.people = value;
        if (key == "--first") options.first = std::stoi(value);
        if (key == "--count") options.count = std::stoi(value);
        if (key == "--model")
            if (auto size = pose::modelSizeFromName(value); size) options.analyse.model = *size;
    }
    bench::Column network, perfect;
    auto cases = options.small ? bench::smallGrid() : bench::grid();
    const auto half = options.people == "a" ? bench::Half::Calibration : bench::Half::Tables;
    std::shared_ptr<const bench::HumanPackage> package;
    if (!options.people.empty()) {
        auto opened = bench::HumanPackage::open(bench::peopleFolder());
        if (!opened) return failed(opened.error());
        package = std::move(*opened);
        auto sets =
            bench::peopleSets(*package, half, options.first, options.grid && !options.fronts ? options.count : 0);
        if (!sets) return failed(sets.error());
        cases = std::move(*sets);
    }
    if (options.fronts) {
        auto sets = bench::frontSets(package.get(), half, options.first, options.count);
        if (!sets) return failed(sets.error());
        cases = std::move(*sets);
        if (options.upright) bench::standShinsUpright(cases);
    }
    std::printf("%zu clips\n", cases.size());
    for (const auto& c : cases) {
        if (!options.grid || c.name.find(options.only) == std::string::npos) continue;
        const auto seen = seenIn(c.name + (options.small ? "-small" : ""), c.spec, options);
        if (!seen && seen.error().detail == "not kept") continue;
        if (!seen) {
            std::fprintf(stderr, "%s: %s %s\n", c.name.c_str(), qPrintable(present::sentence(seen.error())),
                         seen.error().detail.c_str());
            return 1;
        }
        if (!options.people.empty() && !options.keep.empty())
            keepTruth(c, std::filesystem::path(options.keep) / (c.name + ".truth.json"));
        SetResult trueSet;
        bench::compare(c, {sim::truePoses(c.spec), {}, seen->hold}, factsOf(c.spec), perfect, nullptr, &trueSet);
        bench::compare(c, *seen, factsOf(c.spec), network, &trueSet);
        std::fprintf(stderr, ".");
    }
    if (options.grid) bench::print(network, perfect);
    if (options.small) return verdictOf(network, perfect);
    if (!options.trial) return 0;

    bench::Score byNetwork, byTruth;
    const auto trials = package ? bench::shortTrial() : bench::faultTrial();
    std::printf(
        "\n%zu sets of the fault trial\n\n| set | said | reading | also claimed (left open) | true landmarks said | "
        "reading "
        "|\n|---|---|---|---|---|---|\n",
        trials.size());
    int number = kFirstOfTrial;
    for (auto t : trials) {
        ++number;
        if (t.name.find(options.only) == std::string::npos) continue;
        if (package) {
            auto spec = bench::bySomeone(*package, half, number, t.spec);
            if (!spec) return failed(spec.error());
            t.spec = std::move(*spec);
        }
        const auto shown = seenIn(t.name, t.spec, options);
        if (!shown && shown.error().detail == "not kept") continue;
        if (!shown) {
            std::fprintf(stderr, "%s: %s\n", t.name.c_str(), qPrintable(present::sentence(shown.error())));
            return 1;
        }
        const auto seen = bench::judge(t, *shown, factsOf(t.spec)),
                   ideal = bench::judge(t, {sim::truePoses(t.spec), {}, shown->hold}, factsOf(t.spec));
        byNetwork.add(t, seen, ideal);
        byTruth.add(t, ideal, ideal);
        std::string others, idealOthers;
        for (const auto& o : seen.others) others += o + " ";
        for (const auto& o : seen.unsure) others += "(" + o + ") ";
        for (const auto& o : ideal.others) idealOthers += " also " + o;
        std::printf("| %s | %s | %s | %s | %s | %s |\n", t.name.c_str() + 6, seen.said.c_str(), seen.reading.c_str(),
                    others.c_str(), (ideal.said + idealOthers).c_str(), ideal.reading.c_str());
        std::fprintf(stderr, ".");
    }
    bench::print(byNetwork, byTruth);
    return 0;
}
