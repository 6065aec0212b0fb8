#pragma once

#include <cmath>
#include <span>

#include "core/track/track.h"

namespace zevo {

/// Up to here a client is seen from the side, degrees off square.
inline constexpr double kMostOffSideDeg = 32;

/// From where a camera sees the client, by the network's coarse 3D estimate and where nose and toes point.
struct SeenView {
    ViewKind view = ViewKind::Side;  ///< of somebody who stands
    double towardsDeg = 0;           ///< off a square side view, + the client's front is turned to the camera, − away
    bool facesRight = true;          ///< in the picture
    /// 0 = square from the side, 90 = from the front or from behind.
    double offSquareDeg() const { return std::abs(towardsDeg); }
    /// Facing the picture's right, a client shows the camera their right side.
    Side near() const { return facesRight ? Side::Right : Side::Left; }
};

/// Medians over frames in which somebody was found; of none, a square side view.
SeenView seenView(std::span<const PoseFrame> frames);

}  // namespace zevo
