#pragma once

#include <initializer_list>

#include "core/base/calibration.h"
#include "core/track/track.h"

namespace zevo {

/// How far a reading may be from the truth, as the half width of a 90 % interval.
///
/// Five parts, joined as independent: what the landmarks still jitter (measured in the clip), what an off-square camera
/// does to a projected angle, a camera that is not quite level, a segment that shows longer or shorter than it did at
/// rest (a joint is hidden or misplaced), and what the pose network is known to get wrong. The last is an allowance,
/// not a correction: it was measured on virtual clients of two makings (docs/measurements.md).
struct SegmentAngle {
    Landmark from, to;  ///< near-side landmarks
};

/// Allowance of a quantity: `still` standing upright, `deep` at 120° of knee flexion; linear between.
struct Allowance {
    double still, deep;
};

enum class Quantity { Knee, Hip, Trunk, Shin, Thigh };
Allowance allowanceOf(Family family, Quantity quantity);

/// Rise of heel or toe: centimetres with the foot flat, and share of the rise (the patch that is followed lies some
/// centimetres before the end of the heel and rises less than it).
/// For points followed on the shoe, as records of before the turned strip have them:
inline constexpr Allowance kShoeLiftAllowance{calibrated("foot.followed.still"), calibrated("foot.followed.share")};
inline constexpr Allowance kLandmarkLiftAllowance{calibrated("foot.landmark.still"), calibrated("foot.landmark.share")};

double networkHalfWidth(const Allowance& allowance, double kneeFlexionDeg);

/// 90 % half width of the angle of a line between two landmarks from their jitter alone, degrees; of points the coach
/// placed, from what a hand misses them by.
double jitterOfLine(const Track& track, const SegmentAngle& line, std::size_t sample);

/// Whether the coach placed both ends: what the network gets wrong does not count then.
bool isManual(const Track& track, const SegmentAngle& line, std::size_t sample);

/// How much longer or shorter a line shows at a sample than at rest, beyond what soft tissue and a slight turn explain;
/// share of its length. Thigh and shank are rigid; the trunk may bend and the shoulder rise with the arm: it is asked
/// besides whether the shoulder has gone away from the ear.
double segmentLengthDeviation(const Track& track, const SegmentAngle& line, std::size_t sample);

/// Change of a line's inclination when it is seen `offSquareDeg` off the square side view, degrees.
double foreshortening(double inclinationDeg, double offSquareDeg);

/// Root of the sum of squares.
double rootSumSquare(std::initializer_list<double> parts);

}  // namespace zevo
