#include "core/track/body_size.h"

#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/body/anthropometry.h"

namespace zevo {

BodySize bodySize(const std::array<Vec2, kLandmarkCount>& atRest, Side near, Family family) {
    using L = Landmark;
    auto place = [&](L left) { return atRest[static_cast<std::size_t>(ofSide(left, near))]; };
    auto length = [&](L from, L to) { return (place(to) - place(from)).norm(); };
    const double thigh = length(L::LeftHip, L::LeftKnee), shank = length(L::LeftKnee, L::LeftAnkle);
    // Nothing of who lies shows the stature but the segments.
    if (family == Family::Bridge) return {shank / proportion::kShank};
    const double eyes = place(L::LeftEye).y(), sole = std::min(place(L::LeftHeel).y(), place(L::LeftToe).y());
    const double byEyes = family == Family::Lunge ? (eyes - place(L::LeftHip).y() + thigh + shank) /
                                                        (proportion::kEyeHeight - proportion::kFootHeight)
                                                  : (eyes - sole) / proportion::kEyeHeight,
                 byTrunk = length(L::LeftHip, L::LeftShoulder) / (proportion::kShoulderHeight - proportion::kHipHeight),
                 witness = std::sqrt(byTrunk * thigh / proportion::kThigh);
    if (!(byEyes > 0) || !(witness > 0)) return {std::max(0.0, byEyes)};
    const double by = byEyes / witness - 1;
    if (std::abs(std::log(byEyes / witness)) <= calibrated("doubt.size")) return {byEyes};
    return {by < 0 ? witness : byEyes, by};
}

}  // namespace zevo
