#pragma once

#include <optional>

#include "core/body/landmarks.h"

namespace zevo {

/// Frames in which the network took a client who faces the camera for one who turns his back, or the other way round,
/// get their left and right points exchanged: nobody turns round within a frame or two, and a line of shoulders or hips
/// that does would be read as one that tips. For clips from the front or from behind; which way most frames have it is
/// taken for right. Nothing when all frames agree.
std::optional<PoseFrames> facingOneWay(const PoseFrames& frames);

}  // namespace zevo
