#include "core/track/perspective.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/signal/filter.h"
#include "core/track/side_depths.h"

namespace zevo {
namespace {

constexpr double kDepthCutoffHz = 1.5;
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
    std::optional<SideDepths> known;
    if (track.view == ViewKind::Side) known.emplace(track, bodyPx, focalPx);
    const double down = track.hold ? std::sin(track.hold->pitchDeg * kRadiansPerDegree) : 0;
    for (std::size_t id = 0; id < kLandmarkCount; ++id) {
        track.flat[id] = track.points[id];
        if (!(depths.leg > 1e-6)) continue;
        const auto landmark = static_cast<Landmark>(id);
        const bool foot = landmark >= Landmark::LeftAnkle;
        for (std::size_t i = 0; i < track.size(); ++i) {
            const Vec2& seen = track.points[id][i];
            double depth = depths.behindHip[id][i] * kLegShare / depths.leg;
            if (known) depth = known->of(landmark, i, depth);
            if (known && foot) {
                const double hips = 0.5 * (track.at(Landmark::LeftHip, i).y() + track.at(Landmark::RightHip, i).y());
                depth += (hips - seen.y()) / std::max(1.0, bodyPx) * down;
            }
            const double nearer = std::clamp(depth * bodyPx / focalPx, -0.15, 0.15);
            track.flat[id][i] = middle + (seen - middle) * (1 + nearer);
            track.flat[id][i].y() -= depth * bodyPx * down;
        }
    }
}

}  // namespace zevo
