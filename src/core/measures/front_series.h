#pragma once

#include <array>
#include <vector>

#include "core/track/track.h"

namespace zevo {

/// Frontal-plane quantities at every sample of a track filmed from the front or from behind. Index 0 = the client's
/// left, 1 = right, from the points as seen. Ratios need no scale. Undefined values are NaN.
struct FrontSeries {
    std::vector<double> kneeSeparation;       ///< distance of the knees ÷ distance of the ankles
    std::vector<double> stanceOverShoulders;  ///< distance of the ankles ÷ distance of the shoulders, standing
    /// How far the knee stands inside its ankle (towards the other leg +), share of the standing shank: the frontal
    /// lean of the shank, which keeps its meaning in a deep squat, where the projected hip–knee–ankle angle loses it.
    std::array<std::vector<double>, 2> kneeInside;
    std::vector<double> hipTilt;  ///< line of the hips, right side lower +, degrees
};

FrontSeries computeFrontSeries(const Track& track);

}  // namespace zevo
