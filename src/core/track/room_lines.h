#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/body/landmarks.h"

namespace zevo {

/// A straight edge in the picture, pixels, y down.
struct RoomLine {
    float x1 = 0, y1 = 0, x2 = 0, y2 = 0;

    bool operator==(const RoomLine&) const = default;
};

/// How the camera is held, by the edges of the room.
struct CameraHold {
    double rollDeg = 0;   ///< the picture has to be turned by this to be level, clockwise +
    double pitchDeg = 0;  ///< the camera looks down +
    double rollPm90 = 0, pitchPm90 = 0;

    bool operator==(const CameraHold&) const = default;
};

/// Those of them that no part of a client covers, or ever comes near: clothes and limbs have straight edges too. Nor
/// any that may lie on the floor.
std::vector<RoomLine> roomWithout(const PoseFrames& poses, std::span<const RoomLine> lines);

/// Where door frames, corners, windows and shelves point. Through a lens of focal length f, lines of one direction d
/// (in the camera's frame) run at (x, y) from the picture's middle along (d_x − x/f · d_z, d_y − y/f · d_z) (Hartley &
/// Zisserman, Multiple View Geometry, 2nd ed., ch. 8: lines through one vanishing point). Roll, pitch and the turn of
/// the wall are found together, robustly, from plumb edges and from level ones along the wall. Plumb edges in one
/// column cannot tell a roll from a pitch: the ± says so, with how phones are usually held as what is known beforehand.
///
/// `views`: how many pictures of the same room the lines are from. Nothing where there are too few lines, or where they
/// do not agree. Lenses that bend straight edges are not allowed for.
std::optional<CameraHold> cameraHold(std::span<const RoomLine> lines, int views, int pictureWidth, int pictureHeight,
                                     double focalPx);

}  // namespace zevo
