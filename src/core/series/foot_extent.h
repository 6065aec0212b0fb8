#pragma once

#include "core/series/mass_centre.h"
#include "core/track/track.h"

namespace zevo {

/// Where the near foot begins and ends along the floor while standing, track coordinates (pixels).
///
/// Heel and toe landmarks lie inside the foot, by two to four centimetres each; their middle is about the middle of the
/// foot. The length is the published one, 0.152 of stature (Drillis & Contini, as printed in Winter, from memory), or
/// that between the landmarks where it is longer.
struct FootExtent {
    double heel = 0, toe = 0;
    double floor = 0;  ///< height of the lower of the two landmarks
    double length() const { return toe - heel; }
};
FootExtent footExtent(const Track& track, PointSet points);

}  // namespace zevo
