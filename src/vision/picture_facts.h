#pragma once

#include "core/base/picture.h"

namespace zevo {

/// What makes a picture hard to read, whoever is in it.
struct PictureQuality {
    double brightness = 128;  ///< mean over the picture, 0…255
    /// Of the strongest edges: 1 = two pixels wide or less, 0.5 = six. Out of focus, or moved during the exposure.
    double sharpness = 1;
};

/// Looks at every fourth row only, for live pictures.
PictureQuality qualityOf(const PictureView& picture);

}  // namespace zevo
