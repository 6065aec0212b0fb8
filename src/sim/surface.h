#pragma once

// What surfaces and the sensor look like up close; not for use outside src/sim.

#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

namespace zevo::sim {

/// A number without pattern from another one: noise that is the same in every run.
inline std::uint32_t hash(std::uint32_t x) {
    x ^= x >> 16;
    x *= 0x7feb352dU;
    x ^= x >> 15;
    x *= 0x846ca68bU;
    return x ^ (x >> 16);
}

/// The same as a number from 0 to 1.
inline float unit(std::uint32_t x) {
    return static_cast<float>(hash(x) & 0xffffff) / 16777216.0F;
}

/// Smooth pseudo-random field for cloth folds and wood grain.
inline float wave(const Eigen::Vector3f& p) {
    return std::sin(p.x() * 31 + 2.1F * std::sin(p.y() * 17 + p.z() * 9)) *
           std::sin(p.y() * 23 + 1.7F * std::sin(p.z() * 29 + p.x() * 7));
}

/// Light as a display's 8-bit step (gamma 2.2).
inline std::uint8_t display(float v) {
    static const auto table = [] {
        std::array<std::uint8_t, 4097> t{};
        for (int i = 0; i <= 4096; ++i)
            t[i] = static_cast<std::uint8_t>(std::lround(255 * std::pow(i / 4096.0, 1 / 2.2)));
        return t;
    }();
    return table[static_cast<int>(std::clamp(v, 0.0F, 1.0F) * 4096)];
}

}  // namespace zevo::sim
