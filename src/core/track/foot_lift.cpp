#include "core/track/foot_lift.h"

#include <cmath>
#include <limits>
#include <map>
#include <vector>

#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();
constexpr double kBridgeableGapS = 0.30;

std::vector<double> liftOf(const PoseFrames& frames, std::size_t point, const std::vector<bool>& stands,
                           const Track& track) {
    std::map<int, std::vector<double>> resting;  // height while standing, per stretch
    for (const auto& f : frames) {
        const FootPoint& p = f.feet[point];
        if (p.score > 0 && stands[track.sampleAt(f.timeS)]) resting[p.stretch].push_back(p.y);
    }
    std::map<int, double> base;
    for (auto& [stretch, heights] : resting) base[stretch] = median(std::move(heights));
    std::vector<double> times, lift;
    for (const auto& f : frames) {
        const FootPoint& p = f.feet[point];
        const auto known = base.find(p.stretch);
        times.push_back(f.timeS);
        lift.push_back(p.score > 0 && known != base.end() ? known->second - p.y : kNaN);
    }
    const auto even = resample(times, lift, track.timesS, kBridgeableGapS);
    auto smoothed = smooth(fillNearest(even), track.rate);
    for (std::size_t i = 0; i < smoothed.size(); ++i)
        if (std::isnan(even[i])) smoothed[i] = kNaN;
    return smoothed;
}

std::vector<double> liftOf(const Track& track, ShoeReading Track::ShoeMoment::*end) {
    std::vector<double> times, lift;
    for (const auto& m : track.shoe) {
        times.push_back(m.timeS);
        lift.push_back((m.*end).state == ShoeReading::State::Read ? (m.*end).rise : kNaN);
    }
    return resample(times, lift, track.timesS, kBridgeableGapS);
}

}  // namespace

void measureFootLift(const PoseFrames& frames, std::span<const std::size_t> standing, Track& track) {
    const std::size_t side = track.near == Side::Left ? 0 : 1;
    track.shoe.clear();
    for (const auto& f : frames)
        if (f.shoes[side].state != ShoeReading::State::NotLooked)
            track.shoe.push_back({f.timeS, f.shoes[side], f.shoes[2 + side]});
    if (!track.shoe.empty()) {
        track.heelLiftPx = liftOf(track, &Track::ShoeMoment::heel);
        track.toeLiftPx = liftOf(track, &Track::ShoeMoment::toe);
        return;
    }
    std::vector<bool> stands(track.size(), false);
    for (std::size_t i : standing) stands[i] = true;
    track.heelLiftPx = liftOf(frames, side, stands, track);
    track.toeLiftPx = liftOf(frames, 2 + side, stands, track);
}

}  // namespace zevo
