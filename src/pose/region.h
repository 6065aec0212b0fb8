#pragma once

#include <span>

#include "core/base/picture.h"

namespace zevo::pose {

/// A rotated square in the picture that a network looks at. Continuous pixels.
struct Region {
    double centreX = 0, centreY = 0;
    double size = 0;      ///< side, pixels
    double rotation = 0;  ///< radians, clockwise in the picture

    /// Picture position of crop coordinates u, v in 0..1.
    void toPicture(double u, double v, double& x, double& y) const;
    /// The square whose centre is p0 and whose half side reaches 1.25 · |p1 − p0| with p1 straight up.
    static Region fromPoints(double x0, double y0, double x1, double y1);
};

enum class Border { Black, Replicate };

/// Samples the region bilinearly into side × side × 3 floats: value = byte · scale + offset.
/// Crop pixel (i, j) is read at u = (i + ½)/side, v = (j + ½)/side.
void sampleRegion(const PictureView& picture, const Region& region, int side, Border border, float scale, float offset,
                  std::span<float> out);

}  // namespace zevo::pose
