#pragma once

#include "sim/mesh.h"
#include "sim/skeleton.h"

namespace zevo::sim {

/// Lets the shirt of a figure that has been built hang off the body: `body.looseShirtCm` where the skin faces down,
/// half of it off an upright back, nothing where it lies on top, less towards the shoulders, and half-centimetre folds
/// that slide as the trunk tips. A guess of what an untucked shirt does, not a measured one; it moves the outline as
/// cloth does, which is all it is for.
void hangShirt(const BodySpec& body, const Skeleton& skeleton, Mesh& mesh);

}  // namespace zevo::sim
