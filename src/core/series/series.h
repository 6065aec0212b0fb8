#pragma once

#include <array>
#include <vector>

#include "core/track/track.h"

namespace zevo {

/// The sagittal quantities of one leg at every sample, degrees.
struct LegSeries {
    std::vector<double> kneeFlexion, hipFlexion, shinAngle, thighAngle;
};

/// The sagittal quantities of the near side at every sample of a track. Angles in degrees with the signs of
/// geometry/angles.h; lengths in centimetres (NaN when the scale is unknown, or the
/// end of the shoe was looked for and not read).
struct Series {
    std::vector<double> kneeFlexion, hipFlexion, trunkLean, shinAngle, thighAngle;
    std::array<LegSeries, 2> legs;  ///< left, right; the far one is seen less surely
    std::vector<double> heelRise;   ///< of the heel, change from standing, without what the toe does too, cm
    /// Where the two rises come from the shoe in the picture, not from the landmarks.
    std::vector<bool> heelFollowed, toeFollowed;
    std::vector<double> toeRise;       ///< of the toe tip, likewise, cm
    std::vector<double> kneePastToe;   ///< knee ahead of the toe tip (toe of the standing foot), cm
    std::vector<double> massOverFoot;  ///< mass centre over the standing foot: 0 heel, 1 toe tip
    std::vector<double> neckChange;    ///< head against trunk, change from standing; chin up +
    /// 0 at rest … about 0.6 at the turning point: how far the drive of the movement has gone. Sinking as a share of
    /// the standing hip height, folding as a share of 120°, rising as a share of the thigh.
    std::vector<double> depth;
};

Series computeSeries(const Track& track);

/// Direction of the line from the ear to a point of the face (nose, eye) against the trunk, degrees; grows when the
/// chin goes up. It turns with the head and does not depend on where the neck bends.
double headAgainstTrunk(const Vec2& hip, const Vec2& shoulder, const Vec2& ear, const Vec2& face);

/// How far from level the camera seems to be, degrees, beyond what people's standing leaves open. Nobody stands with
/// their mass centre far from the middle of their feet: a camera that leans makes them seem to. 0 where they rest
/// otherwise (a bridge, a split stance). The usual place is a third of the foot from its heel end, ± 0.17 (virtual
/// clients: 0.22–0.50).
double levelDoubt(const Track& track, const Series& series);

}  // namespace zevo
