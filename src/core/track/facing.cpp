#include "core/track/facing.h"

#include <cmath>
#include <utility>

#include "core/signal/filter.h"

namespace zevo {
namespace {

/// How far the right shoulder and hip lie to the picture's right of the left ones.
double acrossOf(const PoseFrame& f) {
    return 0.5 * (f.at(Landmark::RightShoulder).x - f.at(Landmark::LeftShoulder).x + f.at(Landmark::RightHip).x -
                  f.at(Landmark::LeftHip).x);
}

void exchangeSides(PoseFrame& f) {
    auto exchange = [&](std::size_t left, std::size_t right) {
        std::swap(f.points[left], f.points[right]);
        std::swap(f.world[left], f.world[right]);
    };
    for (Landmark eye : {Landmark::LeftEyeInner, Landmark::LeftEye, Landmark::LeftEyeOuter})
        exchange(static_cast<std::size_t>(eye), static_cast<std::size_t>(eye) + 3);
    for (auto left = static_cast<std::size_t>(Landmark::LeftEar); left < kLandmarkCount; left += 2)
        exchange(left, left + 1);
}

}  // namespace

std::optional<PoseFrames> facingOneWay(const PoseFrames& frames) {
    std::vector<double> across;
    for (const auto& f : frames)
        if (f.found) across.push_back(acrossOf(f));
    if (across.empty()) return std::nullopt;
    const double usual = median(across);
    constexpr double kClearlyOther = 0.25;  // of the usual width; less may be a client who stands aslant
    auto otherWay = [&](const PoseFrame& f) { return f.found && acrossOf(f) * usual < -kClearlyOther * usual * usual; };
    std::optional<PoseFrames> out;
    for (std::size_t i = 0; i < frames.size(); ++i) {
        if (!otherWay(frames[i])) continue;
        if (!out) out = frames;
        exchangeSides((*out)[i]);
    }
    return out;
}

}  // namespace zevo
