#include "pose/region.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace zevo::pose {

void Region::toPicture(double u, double v, double& x, double& y) const {
    const double c = std::cos(rotation), s = std::sin(rotation);
    const double dx = (u - 0.5) * size, dy = (v - 0.5) * size;
    x = centreX + c * dx - s * dy;
    y = centreY + s * dx + c * dy;
}

Region Region::fromPoints(double x0, double y0, double x1, double y1) {
    constexpr double pi = std::numbers::pi;
    Region r{x0, y0, 2.0 * std::hypot(x1 - x0, y1 - y0) * 1.25, pi / 2 - std::atan2(-(y1 - y0), x1 - x0)};
    r.rotation -= 2 * pi * std::floor((r.rotation + pi) / (2 * pi));
    return r;
}

void sampleRegion(const PictureView& picture, const Region& region, int side, Border border, float scale, float offset,
                  std::span<float> out) {
    const float step = static_cast<float>(region.size / side);
    const float c = static_cast<float>(std::cos(region.rotation)) * step;
    const float s = static_cast<float>(std::sin(region.rotation)) * step;
    double startX = 0, startY = 0;
    region.toPicture(0.5 / side, 0.5 / side, startX, startY);
    const int w = picture.width, h = picture.height;
    float* to = out.data();
    for (int j = 0; j < side; ++j) {
        // Pixel centres lie at i + ½: shift so that integer coordinates are pixel centres.
        float x = static_cast<float>(startX) - 0.5F - s * static_cast<float>(j);
        float y = static_cast<float>(startY) - 0.5F + c * static_cast<float>(j);
        for (int i = 0; i < side; ++i, x += c, y += s, to += 3) {
            const float fx = std::floor(x), fy = std::floor(y);
            const float ax = x - fx, ay = y - fy;
            const int x0 = static_cast<int>(fx), y0 = static_cast<int>(fy);
            float sum[3] = {0, 0, 0};
            if (x0 >= 0 && y0 >= 0 && x0 + 1 < w && y0 + 1 < h) {  // nearly always: no edge to mind
                const std::uint8_t* p = picture.rgb + static_cast<std::ptrdiff_t>(y0) * picture.stride + x0 * 3;
                const std::uint8_t* q = p + picture.stride;
                for (int ch = 0; ch < 3; ++ch) {
                    const float upper = p[ch] + ax * static_cast<float>(p[ch + 3] - p[ch]);
                    const float lower = q[ch] + ax * static_cast<float>(q[ch + 3] - q[ch]);
                    sum[ch] = upper + ay * (lower - upper);
                }
            } else {
                const float weight[4] = {(1 - ax) * (1 - ay), ax * (1 - ay), (1 - ax) * ay, ax * ay};
                for (int k = 0; k < 4; ++k) {
                    int px = x0 + (k & 1), py = y0 + (k >> 1);
                    if (border == Border::Black && (px < 0 || py < 0 || px >= w || py >= h)) continue;
                    px = std::clamp(px, 0, w - 1);
                    py = std::clamp(py, 0, h - 1);
                    const std::uint8_t* p = picture.rgb + static_cast<std::ptrdiff_t>(py) * picture.stride + px * 3;
                    for (int ch = 0; ch < 3; ++ch) sum[ch] += weight[k] * p[ch];
                }
            }
            for (int ch = 0; ch < 3; ++ch) to[ch] = sum[ch] * scale + offset;
        }
    }
}

}  // namespace zevo::pose
