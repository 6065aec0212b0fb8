#pragma once

#include <span>

#include "core/track/track.h"

namespace zevo {

/// From where a camera sees the client, by the network's coarse 3D estimate and where nose and toes point.
struct SeenView {
    ViewKind view = ViewKind::Side;  ///< of somebody who stands
    double offSquareDeg = 0;         ///< 0 = square from the side, 90 = from the front or from behind
    double towardsDeg = 0;           ///< the same, + where the client's front is turned to the camera, − away
    bool facesRight = true;          ///< in the picture
    /// Facing the picture's right, a client shows the camera their right side.
    Side near() const { return facesRight ? Side::Right : Side::Left; }
};

/// Medians over frames in which somebody was found; of none, a square side view.
SeenView seenView(std::span<const PoseFrame> frames);

}  // namespace zevo
