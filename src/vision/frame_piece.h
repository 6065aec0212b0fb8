#pragma once

#include "core/base/picture.h"
#include "core/base/vectors.h"

namespace zevo {

/// A piece of a frame.
struct FramePiece {
    double timeS = 0;
    Picture picture;
    Vec2 origin = Vec2::Zero();  ///< of its upper left corner, pixels of the frame it was cut from
};

}  // namespace zevo
