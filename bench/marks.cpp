// How well marked points are followed, and what is read from them, on virtual clients that nothing was fitted to.
//   bench_marks [--first N] [--sets N] [--only TEXT] [--keep DIR] [--rows] [--joints]
// One click a point, at a moment and off by as much as a hand is, both by chance; bodies, clothes and looks come from a
// number. Truth is the point of the skin or of the bar itself, projected. Poses are true ones: what is measured here is
// following, not the network. With --joints the network's poses are compared with true ones instead, over true marks.
#include <cmath>
#include <cstdio>
#include <cstring>
#include <map>
#include <random>
#include <set>

#include "bench/accuracy/builds.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "pipeline/follow_mark.h"
#include "sim/tapes.h"

using namespace zevo;
using bench::Dice, bench::sizeAt;

namespace {

struct Kind {
    const char* name;
    const char *movement, *variation;
    std::vector<MarkKind> marks;
    bool front = false, tapes = false, fast = false, rear = false;
    int clicks = 1;
};
const std::vector<Kind>& kinds() {
    using K = MarkKind;
    static const std::vector<Kind> all{
        {"bar, slow hinge", "hinge", "romanian", {K::BarEnd}},
        {"bar, from the floor", "hinge", "floor", {K::BarEnd}},
        {"bar on the back", "squat", "back-bar", {K::BarEnd}},
        {"bell, goblet", "squat", "goblet", {K::Bell}},
        {"bell, swing", "hinge", "swing", {K::Bell}, false, false, true},
        {"stick ends", "hinge", "dowel", {K::StickTop, K::StickLow}},
        {"tape on the back, hinge", "hinge", "", {K::BackHigh, K::BackLow}, false, true},
        {"tape on the hip bones, squat", "squat", "", {K::HipLeft, K::HipRight}, true, true},
        {"tape on the hip bones, split squat", "split-squat", "", {K::HipLeft, K::HipRight}, true, true},
        {"tape on the knees, squat", "squat", "", {K::KneeLeft, K::KneeRight}, true, true},
        {"tape on the hips from behind, split stance",
         "hinge",
         "split-stance",
         {K::HipLeft, K::HipRight},
         true,
         true,
         false,
         true},
        {"tape on the hips from behind, squat", "squat", "", {K::HipLeft, K::HipRight}, true, true, false, true},
        {"plain cloth, two clicks", "hinge", "", {K::BackHigh, K::BackLow}, false, false, false, false, 2},
        {"plain cloth, one click", "hinge", "", {K::BackHigh, K::BackLow}},
    };
    return all;
}

sim::ClipSpec specOf(const Kind& kind, int number, bool mesh, Dice& dice) {
    sim::ClipSpec spec = bench::plainClip(number, mesh, number, bench::ByChance::Yes);
    sim::BodySpec& body = spec.motion.body;
    body.statureCm = dice.between(156, 190), body.girth = dice.between(0.88, 1.16);
    spec.motion.movement = kind.movement, spec.motion.variation = kind.variation;
    if (std::strcmp(kind.variation, "") != 0) spec.motion.loadShare = 0.2;
    for (int i = 0; i < 3; ++i) {
        sim::RepSpec r = bench::quickRep();
        r.thighBottomDeg = dice.between(-16, 0), r.hingeLeanDeg = dice.between(54, 72);
        if (kind.front) r.hipDropDeg = i == 0 ? 0 : dice.between(-9, 9);
        if (!kind.front) r.loadDriftCm = i == 0 ? 0 : dice.between(0, 14);
        if (kind.fast) r.lowerS = 0.55, r.liftS = 0.5, r.pauseS = 0.05, r.topS = 0.25;
        r.liftS *= 1 + 0.15 * i;
        spec.motion.reps.push_back(r);
    }
    auto& camera = spec.scene.camera;
    camera.width = 1280, camera.height = 720;
    camera.distanceM = dice.between(3.0, 4.0);
    camera.azimuthDeg = kind.front ? dice.between(-3, 3) : camera.azimuthDeg + dice.between(-4, 4);
    if (kind.rear) camera.azimuthDeg = 180 + dice.between(-3, 3);
    spec.frameRate = 30;
    spec.scene.looks.shakePx = 0;
    // Three pictures drawn for one: only where there is speed to blur.
    spec.scene.shutter = kind.fast ? dice.between(0.1, 0.4) : 0;
    spec.scene.looks.tapes = kind.tapes;
    return spec;
}

struct Followed {
    std::vector<double> errorPx;  ///< of pictures that hold it
    std::vector<double> worstPx;  ///< one a point
    long pictures = 0, held = 0, wrong = 0, points = 0, refused = 0;
    std::vector<double> seconds;  ///< a second of clip, one a point
};
struct Rows {
    std::map<std::string, std::vector<double>> errors;
    std::map<std::string, std::pair<int, int>> within;  ///< the ±, of
    void take(const std::string& row, double value, double truth, double pm) {
        errors[row].push_back(value - truth);
        within[row].first += std::abs(value - truth) <= pm;
        ++within[row].second;
    }
};

/// The same rows from the network's points against those from true ones, the marks true in both: what joints add.
void compareJoints(const std::string& clip, const sim::ClipSpec& spec, const SetContext& context,
                   const std::vector<Mark>& marks, bool print, Rows& rows) {
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const std::atomic<bool> never{false};
    const auto seen = pipeline::observeClip(clip, context, options, never);
    if (!seen) return;
    auto network = measureView(seen->poses, seen->clip, context, seen->secondEstimates);
    auto truth = measureView(sim::truePoses(spec), bench::factsOf(spec), context);
    if (!network || !truth) return;
    for (auto* view : {&*network, &*truth}) {
        readMarks(*view, marks);
        measureRepetitions(*view, context);
    }
    for (const MeasuredRep& rep : network->measured)
        for (const MeasuredRep& same : truth->measured) {
            if (same.bottomS < rep.startS || same.bottomS > rep.endS) continue;
            for (const char* id : {"start_hips", "knees_early", "load_ahead_foot", "load_off_leg", "load_sway",
                                   "load_speed", "bell_height", "bell_back", "bell_lifted"}) {
                const Measurement *a = rep.find(MeasureId::named(id)), *b = same.find(MeasureId::named(id));
                if (!a || !b) continue;
                rows.take(id, a->value, b->value, a->pm90);
                if (print)
                    std::printf("  joints %s rep %d: %.2f ± %.2f, true %.2f\n", id, rep.index, a->value, a->pm90,
                                b->value);
            }
        }
}

/// What the rows should be, from the room.
void compareRows(const sim::ClipSpec& spec, const MeasuredView& view, bool print, Rows& rows) {
    const auto motion = sim::motionOf(spec);
    const sim::Camera camera(spec.scene.camera);
    const Vec3 toCamera(-camera.forward().x(), 0, -camera.forward().z());
    for (const MeasuredRep& rep : view.measured) {
        std::vector<Vec3> way;
        std::vector<double> times;
        for (double t = rep.startS; t <= rep.endS; t += 1.0 / 60) {
            const auto at = sim::thingsMarked(motion->at(t), toCamera);
            for (MarkKind k : {MarkKind::BarEnd, MarkKind::Bell})
                if (const auto found = at.find(k); found != at.end() && (way.empty() || times.back() < t - 1e-9))
                    way.push_back(found->second), times.push_back(t);
        }
        auto check = [&](const char* id, double truth) {
            const Measurement* m = rep.find(MeasureId::named(id));
            if (!m) return;
            rows.take(id, m->value, truth, m->pm90);
            if (print) std::printf("  %s rep %d: %.2f ± %.2f, true %.2f\n", id, rep.index, m->value, m->pm90, truth);
        };
        if (way.size() > 5) {
            double least = 1e9, most = -1e9;
            std::size_t low = 0;
            for (std::size_t i = 0; i < way.size(); ++i) {
                least = std::min(least, way[i].x()), most = std::max(most, way[i].x());
                if (way[i].y() < way[low].y()) low = i;
            }
            check("load_sway", 100 * (most - least));
            std::size_t high = low;
            for (std::size_t i = low; i < way.size(); ++i)
                if (way[i].y() > way[high].y()) high = i;
            const double rise = way[high].y() - way[low].y();
            auto passes = [&](double share) {
                std::size_t i = high;
                while (i > low && way[i - 1].y() >= way[low].y() + share * rise) --i;
                return times[i];
            };
            if (rise > 0.1) check("load_speed", 0.9 * rise / std::max(1e-3, passes(0.95) - passes(0.05)));
            // The furthest ahead of the middle of the feet that is held for a fifth of a second.
            const sim::Skeleton rest = motion->at(0);
            const double foot = 0.25 * (rest.heel[0].x() + rest.heel[1].x() + rest.toe[0].x() + rest.toe[1].x());
            double ahead = -1e9;
            constexpr std::size_t kHold = 12;
            for (std::size_t i = 0; i + kHold < way.size(); ++i) {
                double held = 1e9;
                for (std::size_t k = i; k <= i + kHold; ++k) held = std::min(held, way[k].x());
                ahead = std::max(ahead, held);
            }
            check("load_ahead_foot", 100 * (ahead - foot));
        }
        auto tilt = [&](double t) { return sim::trueFront(motion->at(t)).hipTiltDeg; };
        check("hip_line_tape", tilt(rep.bottomS) - tilt(rep.startS));
    }
}

}  // namespace

int main(int argc, char** argv) {
    int firstNumber = 0, sets = 2;
    bool printRows = false, joints = false;
    std::string only, keep = (std::filesystem::temp_directory_path() / "zevo-bench-marks").string();
    for (int i = 1; i < argc; ++i) {
        const std::string key = argv[i], value = i + 1 < argc ? argv[i + 1] : "";
        if (key == "--first") firstNumber = std::atoi(value.c_str());
        if (key == "--sets") sets = std::atoi(value.c_str());
        if (key == "--only") only = value;
        if (key == "--keep") keep = value;
        if (key == "--rows") printRows = true;
        if (key == "--joints") joints = true;
    }
    std::filesystem::create_directories(keep);
    std::map<std::string, Followed> table;
    std::vector<std::string> order;
    Rows rows;
    const std::atomic<bool> never{false};
    for (const Kind& kind : kinds())
        for (bool mesh : {false, true})
            for (int n = 0; n < sets; ++n) {
                if (std::string(kind.name).find(only) == std::string::npos) continue;
                const int number = firstNumber + 2 * n + mesh;
                Dice dice{std::mt19937_64(91000 + static_cast<std::uint64_t>(number) * 37 +
                                          static_cast<std::uint64_t>(&kind - kinds().data()))};
                const sim::ClipSpec spec = specOf(kind, number, mesh, dice);
                std::string file = std::string(kind.name) + (mesh ? "-mesh" : "-drawn") + std::to_string(number);
                std::replace(file.begin(), file.end(), ' ', '-');
                const std::string clip = keep + "/" + file + ".mp4";
                if (!std::filesystem::exists(clip))
                    if (auto made = sim::makeClip(spec, clip); !made) {
                        std::fprintf(stderr, "%s\n", made.error().message.c_str());
                        continue;
                    }
                // Where the tape would be, also where none is: plain cloth is asked to be followed as well.
                sim::ClipSpec taped = spec;
                taped.scene.looks.tapes = true;
                const auto truth = sim::trueMarks(taped);
                if (!truth) continue;
                SetFacts facts;
                facts.movement = kind.movement, facts.variation = kind.variation;
                facts.statureCm = spec.motion.body.statureCm;
                const auto movement = catalog::loadMovement(kind.movement);
                const SetContext context = contextOf(facts, *movement);
                auto view = measureView(sim::truePoses(spec), bench::factsOf(spec), context);
                if (!view) {
                    std::fprintf(stderr, "%s: cannot be measured\n", file.c_str());
                    continue;
                }
                const std::string who = std::string(kind.name) + (mesh ? ", mesh" : ", drawn");
                if (!table.contains(who)) order.push_back(who);
                Followed& f = table[who];
                std::vector<Mark> marks;
                if (joints) {
                    for (MarkKind k : kind.marks)
                        if (const auto way = truth->find(k); way != truth->end())
                            marks.push_back({k,
                                             k == MarkKind::BarEnd ? 75.0 : usuallyNearerCm(k),
                                             {},
                                             std::make_shared<const std::vector<MarkStep>>(way->second)});
                    if (!kind.front) compareJoints(clip, spec, context, marks, printRows, rows);
                    continue;
                }
                for (MarkKind k : kind.marks) {
                    ++f.points;
                    const auto found = truth->find(k);
                    if (found == truth->end()) continue;
                    const auto& way = found->second;
                    // Where a coach clicks: the client stands, nothing lies before it; of two, at either end.
                    const auto motion = sim::motionOf(spec);
                    Mark mark{k, k == MarkKind::BarEnd ? 75.0 : usuallyNearerCm(k), {}, nullptr};
                    const Vec2 offset(dice.between(-2, 2), dice.between(-2, 2));
                    for (int c = 0; c < kind.clicks; ++c) {
                        const double from = c == 0 ? 0.02 : 0.9, to = kind.clicks == 2 && c == 0 ? 0.12 : 0.98;
                        std::size_t clicked = 0;
                        do clicked = static_cast<std::size_t>(dice.between(from, to) * static_cast<double>(way.size()));
                        while (motion->at(way[clicked].timeS).depth > 0.2);
                        const auto& at = way[clicked];
                        mark = mark.clicked({at.timeS, at.x + offset.x(), at.y + offset.y()});
                    }
                    const bench::Watch watch;
                    auto done = pipeline::followMark(clip, mark, pipeline::markedSpan(*view, mark),
                                                     spec.scene.camera.width, never);
                    if (!done) {
                        ++f.refused;
                        continue;
                    }
                    f.seconds.push_back(watch.seconds() / std::max(0.1, way.back().timeS));
                    double worst = 0;
                    for (const MarkStep& s : *done->path) {
                        const auto same = std::min_element(way.begin(), way.end(), [&](const auto& a, const auto& b) {
                            return std::abs(a.timeS - s.timeS) < std::abs(b.timeS - s.timeS);
                        });
                        ++f.pictures;
                        if (!s.held()) continue;
                        ++f.held;
                        // What the hand was off by is not the follower's.
                        const double off = std::hypot(s.x - same->x - offset.x(), s.y - same->y - offset.y());
                        f.errorPx.push_back(off);
                        f.wrong += off > 6;
                        worst = std::max(worst, off);
                    }
                    f.worstPx.push_back(worst);
                    marks.push_back(std::move(*done));
                }
                readMarks(*view, marks);
                measureRepetitions(*view, context);
                if (printRows) std::printf("%s\n", file.c_str());
                if (std::strncmp(kind.name, "plain cloth", 11) != 0) compareRows(spec, *view, printRows, rows);
                std::fprintf(stderr, ".");
            }
    std::printf(
        "\n| marked, figure | points | refused | held | median px | 95 %% px | worst of a point, median | held and "
        "more "
        "than 6 px off | time of a second of clip, s |\n|---|---|---|---|---|---|---|---|---|\n");
    for (const auto& who : order) {
        const Followed& f = table[who];
        std::printf("| %s | %ld | %ld | %.0f %% | %.1f | %.1f | %.1f | %.1f %% | %.2f |\n", who.c_str(), f.points,
                    f.refused, f.pictures ? 100.0 * static_cast<double>(f.held) / static_cast<double>(f.pictures) : 0,
                    sizeAt(f.errorPx, 0.5), sizeAt(f.errorPx, 0.95), sizeAt(f.worstPx, 0.5),
                    f.held ? 100.0 * static_cast<double>(f.wrong) / static_cast<double>(f.held) : 0,
                    sizeAt(f.seconds, 0.5));
    }
    std::printf("\n| row | reps | mean | 90th percentile | within the ± |\n|---|---|---|---|---|\n");
    for (const auto& [row, e] : rows.errors) {
        double sum = 0;
        for (double x : e) sum += x;
        std::printf("| %s | %zu | %+.2f | %.2f | %.0f %% |\n", row.c_str(), e.size(),
                    sum / static_cast<double>(e.size()), sizeAt(e, 0.9),
                    100.0 * rows.within[row].first / rows.within[row].second);
    }
    return 0;
}
