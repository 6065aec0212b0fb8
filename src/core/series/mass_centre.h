#pragma once

#include "core/base/vectors.h"
#include "core/track/track.h"

namespace zevo {

/// Mass centre of the body in the sagittal plane at one sample, track coordinates (pixels), from the segment
/// masses of body/anthropometry.h. Trunk and head from both sides; legs and arms from the near side, which stands
/// for both (the far one is hidden behind it). An implement in the hands is not known and not counted.
/// From the points as seen (for drawing) or with perspective undone (for reading).
enum class PointSet { Seen, Flat };
Vec2 massCentre(const Track& track, std::size_t sample, PointSet points);

}  // namespace zevo
