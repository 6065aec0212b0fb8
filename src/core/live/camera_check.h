#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/body/movement.h"
#include "core/track/track.h"

namespace zevo {

/// What can be wrong with where a camera stands, worst first.
enum class CameraProblem {
    Nobody,     ///< no client in the picture
    CutOff,     ///< part of the body outside, now or at the turning point
    TooNear,    ///< no room for the movement
    TooFar,     ///< so small that joints are guessed
    Rolled,     ///< not level
    OffSquare,  ///< neither side nor front
    TooLow,     ///< against the hips
    TooHigh,
    ShinHidden,    ///< something before the shin of the near leg
    SomebodyElse,  ///< a second person
    Dark,
    Blurred,
    FewFrames  ///< fewer a second than the camera promised
};

/// What to do with the camera, as its owner sees it from behind it.
enum class CameraMove {
    None,
    Back,    ///< amount: metres
    Nearer,  ///< metres
    Up,
    Down,  ///< metres
    AimLeft,
    AimRight,
    AimUp,
    AimDown,  ///< turned on the spot; degrees
    WalkLeft,
    WalkRight,  ///< round the client, still pointed at them; degrees
    LevelLeft,
    LevelRight  ///< turned about its own axis, against the clock or with it; degrees
};

struct CameraAdvice {
    CameraProblem problem = CameraProblem::Nobody;
    CameraMove move = CameraMove::None;
    double amount = 0;
    bool operator==(const CameraAdvice&) const = default;
};

/// A box in the picture, pixels.
struct PictureBox {
    double left = 0, top = 0, right = 0, bottom = 0;
    double width() const { return right - left; }
    double height() const { return bottom - top; }
};

/// What is known of the pictures besides the poses.
struct PictureFacts {
    int width = 0, height = 0;
    double brightness = 128;  ///< mean of the client's surroundings, 0…255
    double sharpness = 1;     ///< of the client's outline (vision/picture_facts.h); 1 = as sharp as need be
    double frameRate = 30, promisedRate = 30;
    int people = 1;
};

/// What the client is about to do.
struct CheckedMovement {
    Family family = Family::Squat;
    bool steps = false, sideways = false, travels = false;
    bool overhead = false;  ///< something is held up
    bool armsReach = true;  ///< the hands go ahead at the turning point
    bool lying = false;
};
CheckedMovement checkedMovement(const Movement& movement, const std::string& variation);

struct CameraCheck {
    std::vector<CameraAdvice> problems;  ///< worst first; empty: film
    ViewKind view = ViewKind::Side;
    PictureBox body;  ///< where the client is now; all zero without one
    PictureBox room;  ///< what they will need at the turning point
    double rollDeg = 0;
    double offSquareDeg = 0;            ///< + : the camera has to go to its left
    std::optional<double> heightShare;  ///< of the camera over the floor, in statures; where it can be read
    bool good() const { return problems.empty(); }
};

/// Looks at the client as they stand (or lie) at rest. `recent`: poses of about the last second. Everything is geometry
/// of a standing body; where a part cannot be read from this view it is left out, never guessed.
///
/// Roll: the line from the ankles to the shoulders, which stands upright in every view (± 0.5° on drawn clients).
/// Square, from the side: how far the near shoulder, hip and ankle lie ahead of the far ones against their breadth.
/// Square, from the front: the nearer foot is lower in the picture and the nearer shoulder higher.
/// Height, from the side, by two witnesses that must agree: pairs of joints at the camera's own height lie level in the
/// picture whatever the tilt, and the near ankle is lower than the far one by more the higher the camera stands. The
/// amount reads low by up to a half above 1.4 m: the move is right, and has to be made twice.
/// Distances assume a lens of 26 mm equivalent, as phones and notebooks have (common practice, no source): ± a quarter.
CameraCheck checkCamera(std::span<const PoseFrame> recent, const PictureFacts& picture,
                        const CheckedMovement& movement);

}  // namespace zevo
