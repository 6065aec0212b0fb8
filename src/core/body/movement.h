#pragma once

#include <string>

namespace zevo {

enum class Family { Squat, Lunge, Hinge, Bridge };

/// The family of a movement by its id (docs/formats.md); Squat for one that is not known.
Family familyOf(const std::string& movement);

/// The quantity that goes up and down once a repetition, and what counts as rest.
enum class Drive {
    Sinking,  ///< squats and lunges: hips and shoulders go down from standing
    Folding,  ///< hinges: the trunk folds over the thighs; rest is standing
    HipRise   ///< bridges: the hips go up; rest is lying
};
Drive driveOf(Family family);

}  // namespace zevo
