#pragma once

#include <optional>
#include <string>

#include "core/body/landmarks.h"
#include "core/track/room_lines.h"

namespace zevo::pipeline {

/// How the camera of a clip is held, read off the room in three of its pictures: the client is where `poses` say, and
/// not part of it. Nothing where the room does not tell, or the pictures cannot be read: then the picture is taken as
/// level.
std::optional<CameraHold> readRoom(const std::string& clip, const PoseFrames& poses);

}  // namespace zevo::pipeline
