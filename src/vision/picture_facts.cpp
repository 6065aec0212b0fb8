#include "vision/picture_facts.h"

#include <algorithm>
#include <cstdlib>
#include <vector>

namespace zevo {
namespace {

constexpr int kEveryRow = 4, kReach = 6;
/// An edge counts from this contrast on, well above sensor noise.
constexpr int kContrast = 40;
constexpr double kSharpPx = 3;

int grey(const std::uint8_t* p) {
    return (2 * p[0] + 5 * p[1] + p[2]) / 8;
}

}  // namespace

PictureQuality qualityOf(const PictureView& picture) {
    PictureQuality out;
    double sum = 0;
    long count = 0;
    std::vector<double> widths;
    std::vector<int> row(static_cast<std::size_t>(picture.width));
    for (int y = 0; y < picture.height; y += kEveryRow) {
        const std::uint8_t* p = picture.rgb + static_cast<std::ptrdiff_t>(y) * picture.stride;
        for (int x = 0; x < picture.width; ++x) sum += row[static_cast<std::size_t>(x)] = grey(p + 3 * x);
        count += picture.width;
        for (std::size_t x = kReach; x + kReach < row.size(); ++x) {
            const int slope = std::abs(row[x + 1] - row[x - 1]);
            const int contrast = std::abs(row[x + kReach] - row[x - kReach]);
            if (contrast < kContrast || slope < 4) continue;
            // Where it is steepest only.
            if (slope < std::abs(row[x + 2] - row[x]) || slope < std::abs(row[x] - row[x - 2])) continue;
            widths.push_back(2.0 * contrast / slope);
        }
    }
    if (count > 0) out.brightness = sum / static_cast<double>(count);
    if (widths.size() > 50) {
        // Round limbs shade off softly however sharp the lens is: the sharpest tenth speaks.
        const auto tenth = widths.begin() + static_cast<std::ptrdiff_t>(widths.size() / 10);
        std::nth_element(widths.begin(), tenth, widths.end());
        out.sharpness = std::clamp(kSharpPx / *tenth, 0.0, 1.0);
    }
    return out;
}

}  // namespace zevo
