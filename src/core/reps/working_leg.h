#pragma once

#include <span>

#include "core/body/movement.h"
#include "core/reps/reps.h"

namespace zevo {

/// Names the leg that works in each repetition of a one-leg movement: the one ahead at the turning point (from the
/// side by the ankles; from the front by the shank that is seen shorter and the foot that stands nearer), in lateral
/// lunges the one the hips travel to. Read over the middle of the repetition, so that a landmark that jumps once does
/// not decide. Legs of a client who does not alternate (a split squat) are named alike for the whole set by majority.
void nameWorkingLegs(const Track& track, const Movement& movement, std::span<Rep> reps);

}  // namespace zevo
