#include "core/track/body_size.h"

#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/body/anthropometry.h"

namespace zevo {

BodySize bodySize(const std::array<Vec2, kLandmarkCount>& atRest, Side near, Family family, ViewKind view) {
    using L = Landmark;
    auto place = [&](L left) { return atRest[static_cast<std::size_t>(ofSide(left, near))]; };
    auto length = [&](L from, L to) { return (place(to) - place(from)).norm(); };
    const double shank = length(L::LeftKnee, L::LeftAnkle),
                 byTrunk = length(L::LeftHip, L::LeftShoulder) / (proportion::kShoulderHeight - proportion::kHipHeight);
    // Nothing of who lies shows the stature but the segments.
    if (family == Family::Bridge) return {shank / proportion::kShank};
    if (family == Family::Lunge && isFrontal(view)) return {byTrunk};
    const double eyes = place(L::LeftEye).y(), leg = length(L::LeftHip, L::LeftKnee) + shank,
                 sole = std::min(place(L::LeftHeel).y(), place(L::LeftToe).y());
    const double byEyes = family == Family::Lunge ? (eyes - place(L::LeftHip).y() + leg) /
                                                        (proportion::kEyeHeight - proportion::kFootHeight)
                                                  : (eyes - sole) / proportion::kEyeHeight;
    if (!(byEyes > 0) || !(byTrunk > 0)) return {std::max(0.0, byEyes)};
    if (std::abs(std::log(byEyes / byTrunk)) <= calibrated("doubt.size")) return {byEyes};
    return {std::max(byEyes, byTrunk), byEyes / byTrunk - 1};
}

}  // namespace zevo
