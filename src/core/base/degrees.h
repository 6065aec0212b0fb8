#pragma once

#include <numbers>

namespace zevo {

inline constexpr double kRadiansPerDegree = std::numbers::pi / 180, kDegreesPerRadian = 180 / std::numbers::pi;

}  // namespace zevo
