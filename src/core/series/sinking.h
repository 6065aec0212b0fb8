#pragma once

#include "core/series/mass_centre.h"
#include "core/track/track.h"

namespace zevo {

/// How far the body has gone down against rest at every sample, share of the standing leg (rising −). What it is read
/// from depends on the drive: hips and a little of the shoulders for squats and lunges (steadier than hips alone), the
/// shoulders for hinges, the hips for bridges. Every view of a set shows the same course of it.
std::vector<double> sinkingOf(const Track& track, PointSet points);

}  // namespace zevo
