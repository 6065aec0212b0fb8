#pragma once

#include <array>
#include <vector>

#include "core/series/front_depth.h"
#include "core/track/track.h"

namespace zevo {

/// Frontal-plane quantities at every sample of a track filmed from the front, from behind or from the foot end. Index
/// 0 = the client's left, 1 = right. From the points as seen; ratios need no scale. Undefined values are NaN.
///
/// A bent knee stands ahead of its ankle, nearer to a camera in front, and so shows further from the picture's middle
/// and, with toes turned out, outside its ankle. How far ahead follows from the shank, which is rigid and shows shorter
/// the more it leans towards the camera; both effects are undone with that.
struct FrontSeries {
    std::vector<double> kneeSeparation;  ///< distance of the knees ÷ distance of the ankles
    std::vector<double> stance;          ///< distance of the ankles ÷ standing distance of the shoulders
    /// How far the knee stands inside the line from the ankle over the toe (towards the other leg +), share of the
    /// shank, less kneeInByBuild.
    std::array<std::vector<double>, 2> kneeIn;
    /// How far the knee stands inside its ankle, likewise: needs no toes, whose direction is read only roughly.
    std::array<std::vector<double>, 2> kneeInside;
    /// How far the knee stands inside the line hip–ankle at rest, share of the shank: knock knees +, bow legs −. A
    /// build and no way of moving.
    std::array<double, 2> kneeInByBuild{};
    /// Frontal-plane projection angle: hip–knee–ankle bent inwards +, degrees. Loses its meaning in a deep bend.
    std::array<std::vector<double>, 2> projection;
    std::array<std::vector<double>, 2> toeOut;    ///< of the foot, outwards +, degrees
    std::array<std::vector<double>, 2> legShown;  ///< hip–ankle distance ÷ standing length of the leg
    std::vector<double> hipTilt;                  ///< line of the hips, right side lower +, degrees
    std::vector<double> shoulderTilt;             ///< line of the shoulders, likewise
    /// Middle of the trunk, between hips and shoulders, from the middle of the ankles; the client's right +, share of
    /// the ankles' distance. Of the hips alone the network shows half of a shift only, drawn to the middle of the feet.
    std::vector<double> trunkShift;
    LegsInSpace inSpace;    ///< of a squat from the front, else without samples (front_depth.h)
    double rightwards = 1;  ///< +1: the client's right lies towards +x of the track
};

FrontSeries computeFrontSeries(const Track& track);

}  // namespace zevo
