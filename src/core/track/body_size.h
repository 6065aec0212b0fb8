#pragma once

#include <array>

#include "core/track/track.h"

namespace zevo {

/// How large a client is in the picture, and whether what tells it agrees.
struct BodySize {
    double px = 0;  ///< their stature at the depth of the mid-hip, pixels; 0: nothing shows it
    /// By how much floor and eyes make the client smaller (−) or larger (+) than their trunk does, a share; 0: they
    /// agree. Of a client who is smaller between floor and eyes `px` is what the trunk says.
    double contradictedBy = 0;
};

/// From a client at rest, y up, the side `near` to the camera.
///
/// Standing: how high the eyes are over the soles; in lunges, whose feet may be apart at rest, how high they are over
/// the hip and how long the leg is. The length of the trunk is a witness: plates and benches that hide the feet, with
/// the floor taken to be too high, mostly hide some of thigh and shank as well. Where the two differ by more than 18 %,
/// five times what they usually do, something hides the feet, a hip or a shoulder. Lunges from the front or from
/// behind, where a leg shows short: by the trunk alone. Lying: by the shank alone. Shares of the stature: Drillis &
/// Contini (body/anthropometry.h). Measured: docs/measurements.md, “The scale”. Pure; safe on every thread.
BodySize bodySize(const std::array<Vec2, kLandmarkCount>& atRest, Side near, Family family, ViewKind view);

}  // namespace zevo
