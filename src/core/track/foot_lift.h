#pragma once

#include <span>

#include "core/body/landmarks.h"
#include "core/track/track.h"

namespace zevo {

/// Fills in track.heelLiftPx and toeLiftPx from the followed shoe points: height above where the point lay while
/// standing, stretch by stretch, on the track's clock and smoothed like the landmarks. A stretch without a standing
/// moment says nothing (NaN). `standing`: the track's samples that count as standing.
void measureFootLift(const PoseFrames& frames, std::span<const std::size_t> standing, Track& track);

}  // namespace zevo
