#include "vision/patch_match.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace zevo {
namespace {

float grey(const PictureView& p, int x, int y) {
    x = std::clamp(x, 0, p.width - 1);
    y = std::clamp(y, 0, p.height - 1);
    const std::uint8_t* c = p.rgb + static_cast<std::ptrdiff_t>(y) * p.stride + 3 * static_cast<std::ptrdiff_t>(x);
    return 0.299F * c[0] + 0.587F * c[1] + 0.114F * c[2];
}

float greyBetween(const PictureView& p, double x, double y) {
    const double fx = std::floor(x - 0.5), fy = std::floor(y - 0.5);
    const auto ax = static_cast<float>(x - 0.5 - fx), ay = static_cast<float>(y - 0.5 - fy);
    const int i = static_cast<int>(fx), j = static_cast<int>(fy);
    return (1 - ay) * ((1 - ax) * grey(p, i, j) + ax * grey(p, i + 1, j)) +
           ay * ((1 - ax) * grey(p, i, j + 1) + ax * grey(p, i + 1, j + 1));
}

/// Bell-shaped weights: what lies at the rim (floor, background) moves otherwise and counts less.
std::vector<float> weights(int half) {
    const int side = 2 * half + 1;
    std::vector<float> w(static_cast<std::size_t>(side) * side);
    const double spread = 0.6 * half;
    for (int j = 0; j < side; ++j)
        for (int i = 0; i < side; ++i)
            w[static_cast<std::size_t>(j) * side + i] = static_cast<float>(
                std::exp(-((i - half) * (i - half) + (j - half) * (j - half)) / (2 * spread * spread)));
    return w;
}

}  // namespace

Patch cutPatch(const PictureView& picture, const Vec2& centre, int half, double degrees) {
    Patch out;
    out.half = half;
    const int side = 2 * half + 1;
    out.values.resize(static_cast<std::size_t>(side) * side);
    const auto w = weights(half);
    const double c = std::cos(degrees * std::numbers::pi / 180), s = std::sin(degrees * std::numbers::pi / 180);
    double sum = 0, total = 0;
    for (int j = -half; j <= half; ++j)
        for (int i = -half; i <= half; ++i) {
            const std::size_t k = static_cast<std::size_t>(j + half) * side + (i + half);
            out.values[k] = greyBetween(picture, centre.x() + c * i + s * j, centre.y() - s * i + c * j);
            sum += w[k] * out.values[k];
            total += w[k];
        }
    const auto mean = static_cast<float>(sum / total);
    double energy = 0;
    for (std::size_t k = 0; k < out.values.size(); ++k) {
        const float d = out.values[k] - mean;
        energy += w[k] * d * d;
        out.values[k] = w[k] * d;
    }
    out.flat = energy / total < 9;  // under 3 grey levels of structure: noise
    const auto scale = static_cast<float>(1 / std::sqrt(std::max(1e-9, energy)));
    for (float& v : out.values) v *= scale;
    return out;
}

PatchMatch findPatch(const PictureView& picture, const Patch& patch, const Vec2& around, int reachX, int reachY) {
    const int half = patch.half, side = 2 * half + 1, gridX = 2 * reachX + 1, gridY = 2 * reachY + 1;
    const auto w = weights(half);
    const int cx = static_cast<int>(std::floor(around.x())), cy = static_cast<int>(std::floor(around.y()));
    // The part of the picture that is looked at, in grey, once.
    const int wide = side + 2 * reachX, tall = side + 2 * reachY;
    std::vector<float> field(static_cast<std::size_t>(wide) * tall);
    for (int j = 0; j < tall; ++j)
        for (int i = 0; i < wide; ++i)
            field[static_cast<std::size_t>(j) * wide + i] =
                grey(picture, cx - half - reachX + i, cy - half - reachY + j);
    float total = 0;
    for (float v : w) total += v;
    std::vector<double> scores(static_cast<std::size_t>(gridX) * gridY, -1);
    for (int dy = 0; dy < gridY; ++dy)
        for (int dx = 0; dx < gridX; ++dx) {
            float sum = 0, squares = 0, product = 0;
            for (int j = 0; j < side; ++j) {
                const float* row = field.data() + static_cast<std::size_t>(dy + j) * wide + dx;
                const float* weight = w.data() + static_cast<std::size_t>(j) * side;
                const float* wanted = patch.values.data() + static_cast<std::size_t>(j) * side;
                for (int i = 0; i < side; ++i) {
                    sum += weight[i] * row[i];
                    squares += weight[i] * row[i] * row[i];
                    product +=
                        wanted[i] * row[i];  // the patch has zero weighted mean: the window's needs no subtraction
                }
            }
            const float energy = squares - sum * sum / total;
            if (energy > 1e-3F) scores[static_cast<std::size_t>(dy) * gridX + dx] = product / std::sqrt(energy);
        }
    const auto best = static_cast<int>(std::max_element(scores.begin(), scores.end()) - scores.begin());
    const int bx = best % gridX, by = best / gridX;
    auto score = [&](int x, int y) { return scores[static_cast<std::size_t>(y) * gridX + x]; };
    auto vertex = [](double before, double here, double after) {
        const double bend = before - 2 * here + after;
        return bend < -1e-9 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
    };
    const double sx = bx > 0 && bx + 1 < gridX ? vertex(score(bx - 1, by), score(bx, by), score(bx + 1, by)) : 0;
    const double sy = by > 0 && by + 1 < gridY ? vertex(score(bx, by - 1), score(bx, by), score(bx, by + 1)) : 0;
    return {{cx - reachX + bx + 0.5 + sx, cy - reachY + by + 0.5 + sy}, score(bx, by)};
}

}  // namespace zevo
