#include "sim/looks.h"

#include <algorithm>
#include <cmath>
#include <initializer_list>

#include "sim/figure.h"
#include "sim/surface.h"

namespace zevo::sim {
namespace {

bool isOneOf(const std::string& value, std::initializer_list<const char*> known) {
    return std::any_of(known.begin(), known.end(), [&](const char* k) { return value == k; });
}

/// 1 inside a band around `at`, 0 outside, with a soft edge.
float inside(float x, double at, double width) {
    constexpr float kEdge = 0.03F;
    const float past = static_cast<float>(0.5 * width) - std::abs(x - static_cast<float>(at));
    return std::clamp(past / kEdge + 0.5F, 0.0F, 1.0F);
}

}  // namespace

float Looks::keyLight(float acrossM, double timeS) const {
    float light = 1;
    if (bandWidthM > 0)
        light *= 1 - static_cast<float>(bandDark) * inside(acrossM, bandAtM + bandSpeed * timeS, bandWidthM);
    if (sunWidthM > 0) light *= 1 + static_cast<float>(sunBright) * inside(acrossM, sunAtM, sunWidthM);
    return light;
}

float Looks::exposureAt(double timeS) const {
    if (exposureWander <= 0) return 1;
    return static_cast<float>(1 + exposureWander * (0.7 * std::sin(0.9 * timeS + 1) + 0.3 * std::sin(2.3 * timeS)));
}

float Looks::floorTone(float u, float v) const {
    if (floor == "plain") return 1;
    if (floor == "tiles") {
        const float x = u / 0.3F - std::floor(u / 0.3F), y = v / 0.3F - std::floor(v / 0.3F);
        const bool odd = (static_cast<int>(std::floor(u / 0.3F)) + static_cast<int>(std::floor(v / 0.3F))) & 1;
        return x < 0.03F || y < 0.03F ? 0.6F : odd ? 1.12F : 0.9F;
    }
    if (floor == "stripes") return std::sin(u * 60) > 0 ? 1.2F : 0.75F;
    if (floor == "speckled")
        return 0.8F + 0.4F * unit(static_cast<std::uint32_t>(static_cast<int>(std::floor(u * 120)) * 7919 +
                                                             static_cast<int>(std::floor(v * 120)) * 104729));
    const int plank = static_cast<int>(std::floor(v / 0.14F));
    const float seam = std::abs(v / 0.14F - static_cast<float>(plank) - 0.5F);
    const float tone = 0.90F + 0.16F * unit(static_cast<std::uint32_t>(plank + 1000)) +
                       0.03F * std::sin(u * 40 + 6 * std::sin(v * 55 + static_cast<float>(plank)));
    return tone * (seam > 0.485F ? 0.72F : 1.0F);
}

void paintShoes(const Looks& looks, const Skeleton& s, Mesh& mesh) {
    if (looks.shoes == "plain") return;
    std::vector<char> of(mesh.vertices.size(), 0);
    for (std::size_t n = 0; n < mesh.triangles.size(); ++n)
        if (mesh.groups[n] == LeftShoe || mesh.groups[n] == RightShoe)
            for (auto v : mesh.triangles[n]) of[v] = mesh.groups[n] == LeftShoe ? 1 : 2;
    for (std::size_t i = 0; i < of.size(); ++i) {
        if (!of[i]) continue;
        const auto side = static_cast<std::size_t>(of[i] - 1);
        const Eigen::Vector3f heel = s.heel[side].cast<float>(), toe = s.toe[side].cast<float>();
        const Eigen::Vector3f along = (toe - heel).normalized();
        const float u = (mesh.vertices[i].position - heel).dot(along) / (toe - heel).norm();
        Eigen::Vector3f& colour = mesh.vertices[i].colour;
        if (looks.shoes == "socks")
            colour = linear({96, 98, 104});  // no sole shows
        else if (looks.shoes == "two-tone")
            colour = u > 0.55F ? colour : Eigen::Vector3f(colour * 0.45F);
        else if (looks.shoes == "stripes")
            colour = static_cast<int>(std::floor(u * 9)) & 1 ? colour : linear({232, 230, 224});
        else
            colour = colour * (0.5F + unit(static_cast<std::uint32_t>(i * 2654435761U)));
    }
}

void shake(const Looks& looks, double t, Picture& p) {
    if (looks.shakePx <= 0) return;
    // A hand's tremor and sway: a few frequencies that do not repeat together.
    const double dx = looks.shakePx * (0.6 * std::sin(5.1 * t) + 0.3 * std::sin(11.7 * t + 1) + 0.1 * std::sin(29 * t));
    const double dy = looks.shakePx * (0.6 * std::sin(4.3 * t + 2) + 0.3 * std::sin(13.1 * t) + 0.1 * std::sin(31 * t));
    const Picture from = p;
    const int ix = static_cast<int>(std::floor(dx)), iy = static_cast<int>(std::floor(dy));
    const double fx = dx - ix, fy = dy - iy;
    auto pixel = [&](int x, int y) {
        return from.at(std::clamp(x, 0, from.width - 1), std::clamp(y, 0, from.height - 1));
    };
    for (int y = 0; y < p.height; ++y)
        for (int x = 0; x < p.width; ++x) {
            const auto *a = pixel(x + ix, y + iy), *b = pixel(x + ix + 1, y + iy), *c = pixel(x + ix, y + iy + 1),
                       *d = pixel(x + ix + 1, y + iy + 1);
            for (int k = 0; k < 3; ++k)
                p.at(x, y)[k] = static_cast<std::uint8_t>(
                    std::lround((1 - fy) * ((1 - fx) * a[k] + fx * b[k]) + fy * ((1 - fx) * c[k] + fx * d[k])));
        }
}

std::string problemOf(const Looks& looks) {
    if (!isOneOf(looks.floor, {"planks", "tiles", "stripes", "speckled", "plain"})) return "floor";
    if (!isOneOf(looks.shoes, {"plain", "two-tone", "stripes", "speckled", "socks"})) return "shoes";
    if (!isOneOf(looks.wall, {"boarded", "plain", "brick", "stripes", "tiles"})) return "wall";
    if (looks.shadowSpread < 1 || looks.shadowSpread > 5) return "shadow_spread";
    return {};
}

}  // namespace zevo::sim
