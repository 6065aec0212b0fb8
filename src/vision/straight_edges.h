#pragma once

#include <vector>

#include "core/base/picture.h"
#include "core/track/room_lines.h"

namespace zevo {

/// Straight edges of a picture, in its own pixels, none shorter than a twenty-fifth of its height: OpenCV's line
/// segment detector (von Gioi et al. 2010, IEEE PAMI 32:722). Any thread; about 20 ms for 720p.
std::vector<RoomLine> straightEdges(const PictureView& picture);

}  // namespace zevo
