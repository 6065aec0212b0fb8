// How well the line of the back is read off the body's outline, on virtual clients that nothing was fitted to.
//   bench_back [--first N] [--sets N] [--only TEXT] [--truth] [--keep DIR] [--reps]
// Bodies, clothes, looks, sides and sizes of the faults come from a number; other numbers are other people. --first and
// --sets say which. With --truth the true outline and landmarks are read: what geometry alone comes to;
// --true-lines and --true-joints take one of the two. --keep
// keeps poses and outlines in DIR. --reps prints every repetition. A virtual client is not a person; the shirt that
// hangs is a guess of what cloth does.
#include <cstdio>
#include <cstring>
#include <fstream>
#include <map>
#include <random>
#include <set>

#include "bench/accuracy/builds.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "core/back/back_line.h"
#include "core/serial/pose_record.h"
#include "pipeline/analyse_clip.h"
#include "present/words.h"

using namespace zevo;
using bench::bytesOf, bench::Dice, bench::factsOf, bench::keepBytes, bench::sizeAt;

namespace {

struct Back {
    std::string name, kind;  ///< kind: movement and what is the matter
    std::string clothes;     ///< tight or loose
    bool mesh = false;
    sim::ClipSpec spec;
};

/// The fault dials of a set's four repetitions, in an order that chance gives.
void plant(sim::MotionSpec& m, const std::string& kind, Dice& dice) {
    const bool bridge = kind.starts_with("bridge");
    for (int i = 0; i < 4; ++i) {
        sim::RepSpec r = bench::quickRep();
        r.thighBottomDeg = dice.between(-18, -4), r.hingeLeanDeg = dice.between(56, 72);
        r.kneeBendDeg = dice.between(15, 26), r.topAngleDeg = dice.between(172, 180);
        if (bridge) r.liftS = 1.4, r.pauseS = 0.8, r.lowerS = 1.6;
        m.reps.push_back(r);
    }
    std::array<int, 4> order{0, 1, 2, 3};
    for (std::size_t i = 3; i > 0; --i) std::swap(order[i], order[dice.bits() % (i + 1)]);
    auto rep = [&](int i) -> sim::RepSpec& {
        return m.reps[static_cast<std::size_t>(order[static_cast<std::size_t>(i)])];
    };
    // Two repetitions stay clean.
    if (kind == "squat") {
        rep(0).tuckDeg = dice.between(8.4, 12), rep(1).tuckDeg = dice.between(12, 20);
        for (int i : {0, 1}) rep(i).tuckFrom = dice.between(0.55, 0.75);
    } else if (kind == "hinge low") {
        rep(0).tuckDeg = dice.between(8.4, 12), rep(1).tuckDeg = dice.between(12, 22);
    } else if (kind == "hinge high" || kind == "squat high" || kind == "split high") {
        rep(0).roundDeg = dice.between(12, 16), rep(1).roundDeg = dice.between(16, 30);
    } else if (kind == "hinge head") {
        rep(0).neckDeg = dice.between(-26, -18), rep(1).neckDeg = dice.between(18, 26);
    } else if (kind == "hinge top") {
        rep(0).lockoutArchDeg = dice.between(12, 18), rep(1).lockoutArchDeg = dice.between(18, 26);
        for (auto& r : m.reps) r.topS = 1.3;
    } else if (kind == "bridge arch") {
        rep(0).tuckDeg = dice.between(-26, -14), rep(1).roundDeg = dice.between(-26, -14);
    }
}

Back backOf(const std::string& kind, int number, bool mesh, bool loose) {
    Back b;
    b.kind = kind, b.mesh = mesh, b.clothes = loose ? "loose" : "tight";
    b.spec = bench::plainClip(number, mesh, number, bench::ByChance::Yes);
    Dice dice{std::mt19937_64(77000 + static_cast<std::uint64_t>(number) * 31 + std::hash<std::string>{}(kind) % 1000)};
    sim::BodySpec& body = b.spec.motion.body;
    body.statureCm = dice.between(156, 190), body.girth = dice.between(0.88, 1.16);
    body.trunkShare = dice.between(0.95, 1.05), body.legShare = dice.between(0.97, 1.03);
    if (loose) body.looseShirtCm = dice.between(3.5, 6);
    b.spec.motion.movement = kind.starts_with("squat")   ? "squat"
                             : kind.starts_with("split") ? "split-squat"
                             : kind.starts_with("hinge") ? "hinge"
                                                         : "bridge";
    if (kind.starts_with("split")) b.spec.motion.variation = "goblet";
    if (b.spec.motion.movement == "hinge") b.spec.motion.variation = "romanian", b.spec.motion.loadShare = 0.2;
    if (kind == "bridge rolled") b.spec.motion.variation = "articulated";
    if (kind == "hinge hands") b.spec.motion.variation.clear();  // hands on the hips
    plant(b.spec.motion, kind, dice);
    auto& camera = b.spec.scene.camera;
    camera.width = 1280, camera.height = 720;
    camera.azimuthDeg += dice.between(-3, 3);
    camera.distanceM = dice.between(3.0, 3.6);
    b.spec.frameRate = 30;
    b.spec.scene.looks.shakePx = 0;
    if (b.spec.motion.movement == "bridge") camera.heightM = dice.between(0.4, 0.55), camera.aimHeightM = 0.42;
    if (kind == "squat clutter") b.spec.scene.looks.clutter = true;
    if (kind == "squat off") camera.azimuthDeg += camera.azimuthDeg > 0 ? -13 : 13;
    b.name = kind + "-" + b.clothes + (mesh ? "-mesh" : "-drawn") + std::to_string(number);
    std::replace(b.name.begin(), b.name.end(), ' ', '-');
    return b;
}

/// True bends of the spine, rounding +, degrees.
struct Bends {
    double low = 0, high = 0;
};
Bends bendsOf(const sim::Skeleton& s) {
    auto turn = [](const Vec3& a, const Vec3& b) {
        return std::atan2(a.y() * b.x() - a.x() * b.y(), a.x() * b.x() + a.y() * b.y()) * 180 / 3.14159265358979;
    };
    const Vec3 pelvis = s.lumbarLow - s.midHip, lumbar = s.lumbarHigh - s.lumbarLow,
               ribs = s.midShoulder - s.lumbarHigh;
    return {turn(pelvis, lumbar), turn(lumbar, ribs)};
}

struct Options {
    int first = 0, sets = 2;
    bool truth = false, reps = false, trueLines = false, trueJoints = false;
    std::string only, keep;
};

SetContext contextOf(const Back& b) {
    SetFacts facts;
    facts.statureCm = b.spec.motion.body.statureCm;
    facts.variation = b.spec.motion.variation;
    const auto movement = catalog::loadMovement(b.spec.motion.movement);
    if (!movement) std::exit(1);
    return zevo::contextOf(facts, *movement);
}

/// What was seen: poses and outlines, from the network or true ones.
Result<Observation> seenIn(const Back& b, const Options& options) {
    namespace fs = std::filesystem;
    const fs::path folder =
        options.keep.empty() ? fs::temp_directory_path() / "zevo-bench-back" : fs::path(options.keep);
    fs::create_directories(folder);
    const fs::path clip = folder / (b.name + ".mp4"), poses = folder / (b.name + ".poses"),
                   lines = folder / (b.name + ".outlines"), trueLines = folder / (b.name + ".true");
    if (!fs::exists(trueLines) || (!options.truth && !fs::exists(lines))) {
        std::vector<Outline> outlines;
        if (auto made = sim::makeClip(b.spec, clip.string(), {}, &outlines); !made) return made.error();
        keepBytes(trueLines, writeOutlines(outlines));
        std::atomic<bool> cancel{false};
        if (!options.truth) {
            pipeline::AnalyseOptions analyse;
            analyse.modelDir = catalog::modelDir();
            auto seen = pipeline::observeClip(clip.string(), contextOf(b), analyse, cancel);
            if (!seen) return seen.error();
            std::vector<double> moments;
            for (double t = 0; t < seen->clip.durationS; t += 0.1) moments.push_back(t);
            auto read = pipeline::readOutlines(clip.string(), seen->poses, moments, analyse.modelDir, cancel);
            if (!read) return read.error();
            keepBytes(poses, writePoses(seen->poses));
            keepBytes(lines, writeOutlines(*read));
        }
        fs::remove(clip);
    }
    Observation out;
    out.clip = factsOf(b.spec);
    if (options.truth) {
        out.poses = sim::truePoses(b.spec);
        auto all = readOutlines(bytesOf(trueLines));
        if (!all) return all.error();
        for (std::size_t i = 0; i < all->size(); i += 3) out.contours.push_back((*all)[i]);
        return out;
    }
    auto kept = readPoses(bytesOf(poses));
    auto outlines = readOutlines(bytesOf(lines));
    if (!kept) return kept.error();
    if (!outlines) return outlines.error();
    out.poses = std::move(*kept), out.contours = std::move(*outlines);
    if (options.trueJoints) out.poses = sim::truePoses(b.spec);
    if (options.trueLines) {
        auto all = readOutlines(bytesOf(trueLines));
        if (!all) return all.error();
        out.contours.clear();
        for (std::size_t i = 0; i < all->size(); i += 3) out.contours.push_back((*all)[i]);
    }
    return out;
}

/// What was said of a measure over repetitions that show a fault, or do not.
struct Said {
    int out = 0, unsure = 0, inside = 0, notRead = 0;
    void add(const std::optional<Judgement>& j) {
        if (!j)
            ++notRead;
        else
            ++(j->verdict == Verdict::Outside ? out : j->verdict == Verdict::Unsure ? unsure : inside);
    }
};
struct Tables {
    std::map<std::string, std::pair<Said, Said>> said;     ///< measure, clothes, figure → with the fault, without
    std::map<std::string, std::vector<double>> errors;     ///< against the true outline and landmarks
    std::map<std::string, std::pair<int, int>> held;       ///< inside the stated ±, of how many
    std::map<std::string, std::pair<int, int>> cleanSets;  ///< sets without a fault, with a clear back finding
    std::map<std::string, int> refused;                    ///< why, by kind
    std::vector<double> starts;                            ///< thigh angle where a tuck begins, read − true
    std::vector<double> makingMs;  ///< of the line of the back, of a whole set: what dragging a point costs more
};

/// A bend counts as one from here on, degrees (what is asked of Zevo), and begins where this much of it is there.
constexpr double kLowDeg = 10, kHighDeg = 12, kBegunDeg = 3;

Result<MeasuredSet> setFrom(const Back& b, const Observation& seen) {
    SetContext context = contextOf(b);
    context.shirt = b.clothes == "loose" ? Shirt::Loose : Shirt::Tight;
    auto view = measureView(seen.poses, seen.clip, context, {}, seen.contours);
    if (!view) return view.error();
    MeasuredSet set = setOf(std::move(*view), context);
    const std::string school = context.movement.id == "squat"             ? "whole-foot"
                               : context.movement.id == "split-squat"     ? "tall"
                               : context.movement.id == "hinge"           ? "soft-finish"
                               : b.spec.motion.variation == "articulated" ? "articulated"
                                                                          : "neutral";
    const auto standard = catalog::loadStandard(school);
    if (!standard) return standard.error();
    judgeSet(set.result, *standard);
    return set;
}

void readSet(const Back& b, const Options& options, Tables& tables) {
    const auto seen = seenIn(b, options);
    if (!seen) {
        std::fprintf(stderr, "%s: %s\n", b.name.c_str(), qPrintable(present::sentence(seen.error())));
        return;
    }
    const auto set = setFrom(b, *seen);
    if (!set) {
        std::fprintf(stderr, "%s: %s\n", b.name.c_str(), qPrintable(present::sentence(set.error())));
        return;
    }
    Options truth = options;
    truth.truth = true;
    const auto ideal = seenIn(b, truth);
    const auto idealSet = ideal ? setFrom(b, *ideal) : Result<MeasuredSet>(ideal.error());
    const auto standard = catalog::loadStandard(set->result.standard);
    const std::string who = " " + b.clothes + (b.mesh ? " anatomical" : " drawn");
    const sim::SpecMotion motion(b.spec.motion);
    MeasuredView view = set->first;
    const bench::Watch making;
    readBack(view, seen->contours);
    tables.makingMs.push_back(1000 * making.seconds());
    bool faulty = false;
    for (std::size_t i = 0; i < view.reps.size(); ++i) {
        const Rep& rep = view.reps[i];
        const MeasuredRep& measured = set->result.reps[i];
        const double atS = view.track->timesS[rep.bottom];
        const auto& truths = motion.reps();
        const auto at =
            std::find_if(truths.begin(), truths.end(), [&](const auto& t) { return atS > t.startS && atS < t.endS; });
        if (at == truths.end()) continue;
        const Bends rest = bendsOf(motion.at(at->startS)), there = bendsOf(motion.at(at->bottomS));
        const double low = there.low - rest.low, high = there.high - rest.high;
        const bool clean = std::abs(low) < 2 && std::abs(high) < 2;
        const double topS = b.spec.motion.reps[static_cast<std::size_t>(at - truths.begin())].topS;
        const double topArch = rest.low - bendsOf(motion.at(at->endS + 0.5 * topS)).low;
        faulty = faulty || !clean || topArch > 2;
        const MeasuredRep* other = nullptr;
        if (idealSet)
            for (const auto& r : idealSet->result.reps)
                if (r.bottomS > at->startS && r.bottomS < at->endS) other = &r;
        auto judged = [&](const char* id, bool with, bool without) {
            const MeasureId m = MeasureId::named(id);
            const Band* band = standard ? standard->bandFor(m) : nullptr;
            if (!band || (!with && !without)) return;
            auto& [shown, not_] = tables.said[id + who + (b.kind.find(' ') == std::string::npos ? "" : ", " + b.kind)];
            (with ? shown : not_).add(zevo::judge(measured, *band, *standard));
        };
        if (b.spec.motion.movement == "squat") judged("low_back_tuck", low >= kLowDeg, clean);
        if (b.spec.motion.movement.starts_with("s")) judged("chest_drop", high >= kHighDeg, clean);
        if (b.spec.motion.movement == "hinge") {
            judged("low_back_round", low >= kLowDeg, clean);
            judged("upper_back_round", high >= kHighDeg, clean);
            judged("top_hollow", topArch >= kLowDeg, topArch < 2);
        }
        if (b.kind == "bridge arch") judged("bridge_arch", !clean, clean);
        if (b.kind.starts_with("bridge")) {
            // In the one-piece school an order that differs is a fault, in the other one that does not.
            const Measurement* order = measured.find("bridge_order");
            auto& [right, wrong] = tables.cleanSets["bridge order right, of reps" + who];
            ++wrong, right += order && (order->value > 0.05) == (b.kind == "bridge rolled");
            const Measurement* down = measured.find("bridge_order_down");
            auto& [rightDown, allDown] = tables.cleanSets["bridge order on the way down right, of reps" + who];
            ++allDown, rightDown += down && (down->value > 0.05) == (b.kind == "bridge rolled");
        }
        if (const BackDoubt why = view.back ? view.back->doubtAt(rep.bottom) : BackDoubt::NoOutline;
            why != BackDoubt::None)
            ++tables.refused[b.kind + who + ": " + backDoubtName(why)];
        for (const Measurement& m : measured.measures)
            if (const Measurement* t = other ? other->find(m.measure) : nullptr;
                t && (m.measure->sketch.front().draw == Draw::Back || m.measure->sketch.front().draw == Draw::Stick)) {
                tables.errors[m.measure.name() + who].push_back(m.value - t->value);
                auto& [inside, all] = tables.held[m.measure.name() + who];
                ++all, inside += std::abs(m.value - t->value) <= m.pm90;
            }
        if (const Measurement* start = measured.find("tuck_start"); start && low >= kLowDeg)
            for (double t = at->startS; t < at->bottomS; t += 0.01)
                if (bendsOf(motion.at(t)).low - rest.low > kBegunDeg) {
                    tables.starts.push_back(start->value - sim::trueAngles(motion.at(t), 1).thighAngle);
                    break;
                }
        if (options.reps && view.back) {
            const auto r = view.back->around(atS).value_or(BackReading{});
            std::printf(
                "%s %zu low %.1f high %.1f | T %.2f R %.2f HL %.2f | head %.2f blades %.2f seat %.2f | res %.4f "
                "arm %.2f doubt %s | contrast %.0f rival %.0f | L %.0f off %.0f\n",
                b.name.c_str(), i, low, high, r.lowCm, r.highCm, r.hollowCm, r.headCm, r.bladesCm, r.seatCm, r.residual,
                r.armInside, backDoubtName(view.back->doubtAt(rep.bottom)), r.contrast, r.rival, view.back->trunkPx(),
                view.track->offSquareDeg);
        }
    }
    if (!faulty && b.kind != "bridge rolled") {
        auto& [clear, sets] = tables.cleanSets["clean sets with a clear back finding," + who];
        ++sets;
        static const std::set<std::string> kBack{"back_tucks",  "back_rounds_low", "back_rounds_up",
                                                 "back_arches", "ribs_flare",      "chest_drops"};
        clear += std::any_of(set->result.findings.begin(), set->result.findings.end(),
                             [](const Finding& f) { return f.severity == Severity::Clear && kBack.contains(f.fault); });
    }
    std::fprintf(stderr, ".");
}

void print(const Tables& t) {
    std::printf(
        "\n| reading | with it: out | unsure | inside | not read | without: out | unsure | inside | not read |\n"
        "|---|---|---|---|---|---|---|---|---|\n");
    for (const auto& [what, pair] : t.said) {
        const auto& [w, n] = pair;
        std::printf("| %s | %d | %d | %d | %d | %d | %d | %d | %d |\n", what.c_str(), w.out, w.unsure, w.inside,
                    w.notRead, n.out, n.unsure, n.inside, n.notRead);
    }
    std::printf(
        "\n| measure, against true outline and landmarks | reps | mean | 90th percentile | within the ± |\n"
        "|---|---|---|---|---|\n");
    for (const auto& [what, e] : t.errors) {
        double sum = 0;
        for (double x : e) sum += x;
        const auto& [inside, all] = t.held.at(what);
        std::printf("| %s | %zu | %+.2f | %.2f | %.0f %% |\n", what.c_str(), e.size(),
                    sum / static_cast<double>(e.size()), sizeAt(e, 0.9), 100.0 * inside / all);
    }
    std::printf("\n");
    for (const auto& [what, pair] : t.cleanSets) std::printf("%s: %d of %d\n", what.c_str(), pair.first, pair.second);
    for (const auto& [what, n] : t.refused) std::printf("refused, %s: %d reps\n", what.c_str(), n);
    if (!t.makingMs.empty())
        std::printf("making the line of the back of a set: %.1f ms median, %.1f longest\n", bench::middle(t.makingMs),
                    *std::max_element(t.makingMs.begin(), t.makingMs.end()));
    if (!t.starts.empty())
        std::printf("where a tuck begins: %zu told, 90 %% within %.0f°\n", t.starts.size(), sizeAt(t.starts, 0.9));
}

}  // namespace

int main(int argc, char** argv) {
    Options options;
    for (int i = 1; i < argc; ++i) {
        const std::string key = argv[i];
        const std::string value = i + 1 < argc ? argv[i + 1] : "";
        if (key == "--first") options.first = std::atoi(value.c_str());
        if (key == "--sets") options.sets = std::atoi(value.c_str());
        if (key == "--only") options.only = value;
        if (key == "--keep") options.keep = value;
        if (key == "--truth") options.truth = true;
        if (key == "--reps") options.reps = true;
        if (key == "--true-lines") options.trueLines = true;
        if (key == "--true-joints") options.trueJoints = true;
    }
    Tables tables;
    for (const char* kind :
         {"squat", "squat clean", "squat high", "split high", "split clean", "hinge top", "hinge low", "hinge high",
          "hinge head", "bridge arch", "bridge rolled", "squat clutter", "squat off", "hinge hands", "hinge clean"})
        for (bool loose : {false, true})
            for (bool mesh : {false, true})
                for (int n = 0; n < options.sets; ++n) {
                    const std::string k = kind;
                    if (loose && (k == "squat clutter" || k == "squat off" || k == "hinge hands" || k == "hinge head"))
                        continue;
                    const Back b = backOf(kind, options.first + n * 2 + mesh, mesh, loose);
                    if (b.name.find(options.only) == std::string::npos) continue;
                    readSet(b, options, tables);
                }
    print(tables);
    return 0;
}
