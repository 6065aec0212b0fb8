#include "core/measures/error_model.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace zevo {

double allowed(const Allowance& a, double kneeFlexionDeg) {
    const double w = std::clamp(kneeFlexionDeg / 120.0, 0.0, 1.0);
    return a.still + (a.deep - a.still) * w;
}

double jitterOfLine(const Track& t, const SegmentAngle& line, std::size_t sample) {
    const double length = (t.at(line.to, sample) - t.at(line.from, sample)).norm();
    const double a = t.noisePx[static_cast<std::size_t>(line.from)], b = t.noisePx[static_cast<std::size_t>(line.to)];
    return 1.645 * std::hypot(a, b) / std::max(1.0, length) * 180 / std::numbers::pi;
}

double foreshortening(double inclinationDeg, double offSquareDeg) {
    const double rad = std::numbers::pi / 180;
    // Square on, horizontal and vertical parts keep their ratio; turned by ψ the horizontal part shrinks by cos ψ.
    const double seen =
        std::atan2(std::sin(inclinationDeg * rad) * std::cos(offSquareDeg * rad), std::cos(inclinationDeg * rad));
    return std::abs(inclinationDeg - seen / rad);
}

double together(double a, double b, double c) {
    return std::sqrt(a * a + b * b + c * c);
}

}  // namespace zevo
