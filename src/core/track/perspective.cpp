#include "core/track/perspective.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/body/anthropometry.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kDepthCutoffHz = 1.5;
/// Feet of a client seen from the side: a little under half the shoulder breadth from their middle: stances lie between
/// hip and shoulder breadth, more often near the latter (common practice, no source; breadths joint to joint, 0.10 and
/// 0.21 of stature). The 3D estimate has them wrong by up to 15 cm there, as far as the body is thick, while shoulder,
/// hip and knee are right within 6.
constexpr double kFootFromMiddle = 0.090;
constexpr double kLegShare = proportion::kThigh + proportion::kShank;

/// Length of the client's leg in the units of the 3D estimate.
double legInWorld(const PoseFrames& frames, const Track& track) {
    std::vector<double> lengths;
    for (const auto& f : frames) {
        if (!f.found) continue;
        auto point = [&](Landmark left) -> Eigen::Vector3f {
            const auto& w = f.world[static_cast<std::size_t>(track.nearOf(left))];
            return {w[0], w[1], w[2]};
        };
        const auto hip = point(Landmark::LeftHip), knee = point(Landmark::LeftKnee), ankle = point(Landmark::LeftAnkle);
        lengths.push_back((hip - knee).norm() + (knee - ankle).norm());
    }
    return median(lengths);
}

}  // namespace

double assumedFocalPx(int pictureWidth, int pictureHeight) {
    return 0.60 * std::hypot(pictureWidth, pictureHeight);
}

Depths depthsOf(const PoseFrames& frames, std::span<const double> frameTimes, const Track& track) {
    Depths out;
    out.leg = legInWorld(frames, track);
    for (std::size_t id = 0; id < kLandmarkCount; ++id) {
        std::vector<double> depth;
        for (const auto& f : frames)
            depth.push_back(f.found ? f.world[id][2] : std::numeric_limits<double>::quiet_NaN());
        out.behindHip[id] = smooth(fillNearest(resample(frameTimes, depth, track.timesS, 1.0)), track.rate,
                                   std::min(kDepthCutoffHz, 0.2 * track.rate));
    }
    return out;
}

void undoPerspective(const Depths& depths, double bodyPx, double focalPx, Track& track) {
    const Vec2 middle(track.pictureWidth / 2.0, track.pictureHeight / 2.0);
    for (std::size_t id = 0; id < kLandmarkCount; ++id) {
        track.flat[id] = track.points[id];
        if (!(depths.leg > 1e-6)) continue;
        const auto landmark = static_cast<Landmark>(id);
        const bool foot = landmark >= Landmark::LeftAnkle && track.view == ViewKind::Side;
        const bool left = id % 2 == 1;
        const double planted = (left == (track.near == Side::Left) ? -1 : 1) * kFootFromMiddle;
        for (std::size_t i = 0; i < track.size(); ++i) {
            const double depth = foot ? planted : depths.behindHip[id][i] * kLegShare / depths.leg;
            const double nearer = std::clamp(depth * bodyPx / focalPx, -0.15, 0.15);
            track.flat[id][i] = middle + (track.points[id][i] - middle) * (1 + nearer);
        }
    }
}

}  // namespace zevo
