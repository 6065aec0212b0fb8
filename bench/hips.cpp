// What the two larger networks see of a pelvis that drops to one side or turns, in the view from the front, from the
// side, and in both together (docs/measurements.md).
//   bench_hips [--figures] [--first N] [--count N]
// Single pictures at the turning points of squats, drawn and not encoded; the place of the body is given to the
// networks as it truly is, so what they say here is the best that can be had of them. Each is held against what it says
// of the same body's own turning point with nothing planted. People are those of the half for calibration.
#include <Eigen/Dense>
#include <array>
#include <cstring>
#include <optional>
#include <set>

#include "bench/accuracy/fronts.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "core/base/degrees.h"
#include "media/frame_source.h"
#include "pose/second_estimates.h"
#include "sim/camera.h"
#include "sim/motion.h"

using namespace zevo;

namespace {

struct Planted {
    double dropDeg, turnDeg;
};
/// The first is what the others are held against.
constexpr std::array<Planted, 6> kPlanted{{{0, 0}, {10, 15}, {-10, -15}, {10, -15}, {-10, 15}, {0, 20}}};

/// The line between the hips: its angle in the picture, and how far the right one lies to the right of the left one, %
/// of the client's height in the picture.
struct HipLine {
    double angleDeg = 0, acrossPercent = 0;
};

HipLine lineOf(const std::array<LandmarkPoint, kLandmarkCount>& points, double heightPx) {
    const auto& left = points[static_cast<std::size_t>(Landmark::LeftHip)];
    const auto& right = points[static_cast<std::size_t>(Landmark::RightHip)];
    return {std::atan2(right.y - left.y, std::abs(left.x - right.x)) * kDegreesPerRadian,
            100 * (right.x - left.x) / heightPx};
}

double heightOf(const PoseFrame& standing) {
    double top = 1e9, bottom = -1e9;
    for (const auto& p : standing.points) top = std::min<double>(top, p.y), bottom = std::max<double>(bottom, p.y);
    return bottom - top;
}

/// One view of one body at one turning point: the truth, and each network's.
struct Seen {
    HipLine truth, larger, elsewhere;
};

std::optional<Seen> lookAt(sim::ClipSpec spec, const sim::Motion& motion, double timeS,
                           pose::SecondEstimator& networks) {
    spec.startS = timeS, spec.frames = 1;
    auto client = sim::liveClient(spec);
    media::VideoFrame frame;
    if (!client) return std::nullopt;
    if (const auto more = (*client)->next(frame); !more || !*more) return std::nullopt;
    const sim::Camera camera(spec.scene.camera);
    PoseFrame there = sim::truePose(motion.at(timeS), camera, timeS);
    const double height = heightOf(sim::truePose(motion.at(0), camera, 0));
    Seen out;
    out.truth = lineOf(there.points, height);
    const double scale = static_cast<double>(frame.picture.width) / spec.scene.camera.width;
    for (auto& p : there.points) p.x = static_cast<float>(p.x * scale), p.y = static_cast<float>(p.y * scale);
    networks.reset();
    const auto larger = networks.larger(frame.picture.view(), there),
               elsewhere = networks.second(frame.picture.view(), there);
    if (!larger || !elsewhere) return std::nullopt;
    out.larger = lineOf(larger->points, height * scale), out.elsewhere = lineOf(elsewhere->points, height * scale);
    return out;
}

/// A turning point against the one with nothing planted.
struct Row {
    std::string who;
    std::array<double, 4> seen;  ///< front line by the larger and the other network, side across by the two
    double truth[2];             ///< front line, and turn as planted
};

constexpr std::array<const char*, 4> kSources{"front, line, larger network", "front, line, trained elsewhere",
                                              "side, hips apart, larger network",
                                              "side, hips apart, trained elsewhere"};

/// Errors of the straight combination of `sources` that fits everybody else best.
std::vector<double> errorsOf(const std::vector<Row>& rows, int truth, const std::vector<int>& sources) {
    std::vector<double> out;
    auto fill = [&](bool own, const std::string& who, Eigen::MatrixXd& a, Eigen::VectorXd& y) {
        std::vector<const Row*> used;
        for (const Row& r : rows)
            if ((r.who == who) == own) used.push_back(&r);
        a.resize(static_cast<long>(used.size()), static_cast<long>(sources.size())), y.resize(a.rows());
        for (long i = 0; i < a.rows(); ++i) {
            for (long k = 0; k < a.cols(); ++k)
                a(i, k) = used[static_cast<std::size_t>(i)]
                              ->seen[static_cast<std::size_t>(sources[static_cast<std::size_t>(k)])];
            y(i) = used[static_cast<std::size_t>(i)]->truth[truth];
        }
    };
    std::string last;
    for (const Row& r : rows) {
        if (r.who == last) continue;
        last = r.who;
        Eigen::MatrixXd others, own;
        Eigen::VectorXd theirs, is;
        fill(false, r.who, others, theirs), fill(true, r.who, own, is);
        const Eigen::VectorXd error = own * others.colPivHouseholderQr().solve(theirs) - is;
        out.insert(out.end(), error.begin(), error.end());
    }
    return out;
}

void print(const std::vector<Row>& rows) {
    const char* names[2] = {"hip line from the front, °", "turn of the pelvis, °"};
    for (int truth = 0; truth < 2; ++truth) {
        std::vector<double> nothing;
        for (const Row& r : rows) nothing.push_back(r.truth[truth]);
        std::printf(
            "\n%s: %zu pictures against the same body's without; said nothing, one errs by %.1f (mean size), %.1f (90 "
            "%%)\n",
            names[truth], rows.size(), bench::meanSize(nothing), bench::sizeAt(nothing, 0.9));
        for (std::size_t k = 0; k < kSources.size(); ++k) {
            double xy = 0, xx = 0, yy = 0;
            for (const Row& r : rows)
                xy += r.seen[k] * r.truth[truth], yy += r.seen[k] * r.seen[k], xx += r.truth[truth] * r.truth[truth];
            std::printf("| %s | shows %.2f of it | goes with it by %.2f |\n", kSources[k], xy / xx,
                        xy / std::sqrt(xx * yy));
        }
        const std::pair<const char*, std::vector<int>> ways[]{
            {"front alone", {0, 1}}, {"side alone", {2, 3}}, {"both views", {0, 1, 2, 3}}};
        for (const auto& [way, sources] : ways) {
            const auto errors = errorsOf(rows, truth, sources);
            std::printf("| %s, both networks, fitted to all others | errs by %.1f | 90 %%: %.1f |\n", way,
                        bench::meanSize(errors), bench::sizeAt(errors, 0.9));
        }
    }
}

}  // namespace

int main(int argc, char** argv) {
    bool people = true;
    int first = 0, count = 40;
    for (int i = 1; i < argc; ++i) {
        if (!std::strcmp(argv[i], "--figures")) people = false;
        if (!std::strcmp(argv[i], "--first") && i + 1 < argc) first = std::atoi(argv[++i]);
        if (!std::strcmp(argv[i], "--count") && i + 1 < argc) count = std::atoi(argv[++i]);
    }
    std::shared_ptr<const bench::HumanPackage> package;
    if (people) {
        auto opened = bench::HumanPackage::open(bench::peopleFolder());
        if (!opened) return std::fprintf(stderr, "%s\n", opened.error().message.c_str()), 1;
        package = *opened;
    }
    auto sets = bench::frontSets(package.get(), bench::Half::Calibration, first, count);
    auto networks = pose::makeSecondEstimator(catalog::modelDir());
    if (!sets || !networks) return std::fprintf(stderr, "no clients, or no networks\n"), 1;
    std::vector<Row> rows;
    for (auto& set : *sets) {
        auto& reps = set.spec.motion.reps;
        reps.assign(kPlanted.size(), reps.front());
        for (std::size_t i = 0; i < kPlanted.size(); ++i)
            reps[i].hipDropDeg = kPlanted[i].dropDeg, reps[i].hipTurnDeg = kPlanted[i].turnDeg;
        auto fromTheSide = set.spec;
        fromTheSide.scene.camera.azimuthDeg = 90;
        const auto motion = sim::motionOf(set.spec);
        std::optional<Seen> frontBare, sideBare;
        for (std::size_t i = 0; i < kPlanted.size(); ++i) {
            const double at = motion->reps()[i].bottomS;
            const auto front = lookAt(set.spec, *motion, at, **networks),
                       side = lookAt(fromTheSide, *motion, at, **networks);
            if (!front || !side) continue;
            if (i == 0) {
                frontBare = front, sideBare = side;
                continue;
            }
            if (!frontBare) break;
            rows.push_back({set.name,
                            {front->larger.angleDeg - frontBare->larger.angleDeg,
                             front->elsewhere.angleDeg - frontBare->elsewhere.angleDeg,
                             side->larger.acrossPercent - sideBare->larger.acrossPercent,
                             side->elsewhere.acrossPercent - sideBare->elsewhere.acrossPercent},
                            {front->truth.angleDeg - frontBare->truth.angleDeg, kPlanted[i].turnDeg}});
        }
        std::fprintf(stderr, ".");
    }
    std::fprintf(stderr, "\n");
    if (rows.empty()) return std::fprintf(stderr, "no picture could be read\n"), 1;
    std::set<std::string> bodies;
    for (const Row& r : rows) bodies.insert(r.who);
    std::printf("%s, %zu bodies\n", people ? "lifelike people" : "figures", bodies.size());
    print(rows);
    return 0;
}
