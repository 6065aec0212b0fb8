#pragma once

#include <span>

#include "core/body/landmarks.h"
#include "core/track/track.h"

namespace zevo {

/// Fills in track.shoe, heelLiftPx and toeLiftPx: on the track's clock and smoothed like the landmarks, NaN where not
/// known. From the near shoe as it was read in the picture (vision/turned_strip.h); in records of before that from
/// points followed on it: height above where the point lay while standing, stretch by stretch. A stretch without a
/// standing moment says nothing. `standing`: the track's samples that count as standing.
void measureFootLift(const PoseFrames& frames, std::span<const std::size_t> standing, Track& track);

}  // namespace zevo
