#pragma once

#include <cmath>
#include <cstdint>

namespace zevo::pose {

/// A half float (IEEE 754 binary16) as a float.
inline float fromHalf(std::uint16_t half) {
    const int exponent = (half >> 10) & 31;
    const int mantissa = half & 1023;
    const float sign = (half & 0x8000) ? -1.0F : 1.0F;
    if (exponent == 0) return sign * std::ldexp(static_cast<float>(mantissa), -24);
    if (exponent == 31) return mantissa ? NAN : sign * INFINITY;
    return sign * std::ldexp(static_cast<float>(mantissa + 1024), exponent - 25);
}

}  // namespace zevo::pose
