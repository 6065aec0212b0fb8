#pragma once

#include <optional>
#include <vector>

#include "core/body/landmarks.h"

namespace zevo {

struct FacedFrames {
    PoseFrames frames;
    std::vector<double> mendedS;  ///< when, in order: what is read around there is unsure
};

/// For clips from the front or from behind. Frames in which the network took a client who faces the camera for one who
/// turns their back, or the other way round, get their left and right points exchanged: nobody turns round within a
/// frame or two, and a line of shoulders or hips that does would be read as one that tips. Frames in which it could not
/// make up its mind, so that shoulders and hips fall together, become frames without a person. Knees and feet that
/// change places for less than half a second are put back. Which way most frames have it is taken for right; nothing
/// when all frames agree.
std::optional<FacedFrames> facingOneWay(const PoseFrames& frames);

}  // namespace zevo
