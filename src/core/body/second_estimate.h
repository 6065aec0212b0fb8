#pragma once

#include <array>
#include <string>

#include "core/body/landmarks.h"

namespace zevo {

/// What another network saw in one frame around a turning point; kept beside the poses, as raw as it came.
struct SecondEstimate {
    double timeS = 0;
    std::string network;  ///< "heavy": the larger one of the same kind; "second": one trained elsewhere
    /// Pixels of the clip; points it does not give have presence 0.
    std::array<LandmarkPoint, kLandmarkCount> points{};
};

}  // namespace zevo
