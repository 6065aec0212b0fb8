#pragma once

#include "core/track/track.h"

namespace zevo {

/// How far a reading may be from the truth, as the half width of a 90 % interval.
///
/// Three parts, joined as independent: what the landmarks still jitter (measured in the clip), what an
/// off-square camera does to a projected angle, and what the pose network is known to get wrong on deep
/// positions. The last is an allowance, not a correction: it was measured on virtual clients
/// (docs/measurements.md) and grows with knee flexion, because the network places the hip deeper than the
/// joint centre there.
struct SegmentAngle {
    Landmark from, to;  ///< near-side landmarks
};

/// Allowance of a quantity: `still` standing upright, `deep` at 120° of knee flexion; linear between.
struct Allowance {
    double still, deep;
};

inline constexpr Allowance kKneeAllowance{6.0, 5.0};
inline constexpr Allowance kHipAllowance{8.0, 9.0};
inline constexpr Allowance kTrunkAllowance{2.0, 4.0};
inline constexpr Allowance kShinAllowance{2.0, 5.0};
/// Rise of heel or toe: centimetres with the foot flat, and share of the rise (the patch that is followed lies some
/// centimetres before the end of the heel and rises less than it).
inline constexpr Allowance kShoeLiftAllowance{0.8, 0.35};
inline constexpr Allowance kLandmarkLiftAllowance{3.5, 0.33};
inline constexpr Allowance kThighAllowance{4.5, 8.0};

double allowed(const Allowance& allowance, double kneeFlexionDeg);

/// 90 % half width of the angle of a line between two landmarks from their jitter alone, degrees.
double jitterOfLine(const Track& track, const SegmentAngle& line, std::size_t sample);

/// Change of a line's inclination when it is seen `offSquareDeg` off the square side view, degrees.
double foreshortening(double inclinationDeg, double offSquareDeg);

/// √(a² + b² + c²)
double together(double a, double b, double c = 0);

}  // namespace zevo
