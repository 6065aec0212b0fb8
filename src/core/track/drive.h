#pragma once

#include <string>

namespace zevo {

/// The quantity that goes up and down once a repetition, and what counts as rest.
enum class Drive {
    Sinking,     ///< squats and lunges: hips and shoulders go down from standing
    HipFlexion,  ///< hinges: the trunk folds over the thighs; rest is standing
    HipRise      ///< bridges: the hips go up; rest is lying
};

/// The drive of a movement by its id; Sinking for one that is not known.
Drive driveOf(const std::string& movement);

}  // namespace zevo
