#pragma once

#include <vector>

#include "core/base/picture.h"
#include "core/base/vectors.h"

namespace zevo {

/// A small square of a picture in grey, with its mean taken out and its centre weighted more than its rim.
struct Patch {
    int half = 0;               ///< the square is 2·half + 1 wide
    std::vector<float> values;  ///< weighted, zero mean, unit length
    bool flat = true;           ///< too little structure to be found again
};

/// Cuts the patch around `centre` (continuous picture coordinates), turned by `degrees` (clockwise in the picture):
/// what the patch at `centre` would look like after the thing under it has turned that far.
Patch cutPatch(const PictureView& picture, const Vec2& centre, int half, double degrees = 0);

struct PatchMatch {
    Vec2 at = Vec2::Zero();
    double score = -1;  ///< normalised cross-correlation, −1…1
};

/// Where in the picture, within so many whole pixels of `around`, the patch fits best; refined below a pixel by
/// a parabola through the best score and its neighbours in x and in y.
PatchMatch findPatch(const PictureView& picture, const Patch& patch, const Vec2& around, int reachX, int reachY);

}  // namespace zevo
