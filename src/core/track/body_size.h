#pragma once

#include <array>

#include "core/track/track.h"

namespace zevo {

/// How large a client is in the picture, and whether what tells it agrees.
struct BodySize {
    double px = 0;  ///< their stature at the depth of the mid-hip, pixels; 0: nothing shows it
    /// By how much floor and eyes make the client smaller (−) or larger (+) than trunk and thigh do, a share; 0: they
    /// agree. Of a client who is smaller between floor and eyes `px` is what trunk and thigh say.
    double contradictedBy = 0;
};

/// From a client at rest, y up, the side `near` to the camera.
///
/// Standing: how high the eyes are over the soles; in lunges, whose feet may be apart at rest, how high they are over
/// the hip and how long the leg is. The middle (geometric mean) of what trunk and thigh make of it is a witness, about
/// as good by itself, and nothing hides a trunk and a thigh that stand: where the two differ by more than 15 %, six
/// times what they usually do, something hides the feet (a plate, a bench: the floor is then taken to be too high), a
/// hip or a shoulder. Lying: by the shank, and there is no witness. Shares of the stature: Drillis & Contini
/// (body/anthropometry.h). Measured: docs/measurements.md, “The scale”. Pure; safe on every thread.
BodySize bodySize(const std::array<Vec2, kLandmarkCount>& atRest, Side near, Family family);

}  // namespace zevo
