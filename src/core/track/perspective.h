#pragma once

#include <span>

#include "core/body/landmarks.h"
#include "core/track/track.h"

namespace zevo {

/// The depths for a track's clock, slowly filtered. They depend on the poses alone, not on what the coach corrects.
Depths depthsOf(const PoseFrames& frames, std::span<const double> frameTimes, const Track& track);

/// Fills in track.flat: the points as a camera very far away would see them, at the depth of the mid-hip.
///
/// A shoulder stands nearer to the camera than the hip, a turned-out knee nearer than both: near points look larger
/// and further from the picture's middle, which at three metres turns a thigh by up to 4°. With X the place in the
/// body's plane, u in the picture (from its middle), z the depth behind the mid-hip and D the camera's distance,
/// X ∝ u (1 + z / D). From the side, depths come from geometry as far as it knows them (side_depths.h), else from the
/// network's coarse 3D estimate, slowly filtered and scaled by the length of its legs (Drillis & Contini,
/// body/anthropometry.h): an error of 5 cm costs half a degree to one and a half, with where in the picture it is. D
/// follows from the body's height in the picture and the focal length.
///
/// A camera that looks down by p (Track::hold) besides shows what is nearer lower: the height of a place is
/// Y cos p − z sin p, and cos p is left out (at most 4 % of all lengths alike). Feet, which are where the floor is, lie
/// further along the axis of such a camera by what they are below the hip × sin p. A knee turned out by 15 cm is 1 cm
/// lower at 5°, which turns a thigh by 1.4°. p is as good as the focal length it was read with.
/// `bodyPx`: stature in pixels at the mid-hip's depth.
void undoPerspective(const Depths& depths, double bodyPx, double focalPx, Track& track);

/// Focal length assumed for a clip, pixels: a 26 mm equivalent, the main camera of most phones (common practice, no
/// source), 0.60 of the picture's diagonal. A lens twice as long makes the correction twice too large: about 1°.
double assumedFocalPx(int pictureWidth, int pictureHeight);

}  // namespace zevo
