#pragma once

#include <array>

namespace zevo {

/// Segment lengths as shares of stature: Drillis & Contini 1966 as printed in Winter, *Biomechanics and
/// Motor Control of Human Movement* (from memory).
namespace proportion {
inline constexpr double kFootHeight = 0.039;
inline constexpr double kShank = 0.246;
inline constexpr double kThigh = 0.245;
inline constexpr double kFootLength = 0.152;
inline constexpr double kShoulderBreadth = 0.259;
inline constexpr double kHipBreadth = 0.191;
inline constexpr double kUpperArm = 0.186;
inline constexpr double kForearm = 0.146;
inline constexpr double kHand = 0.108;
inline constexpr double kEyeHeight = 0.936;
inline constexpr double kShoulderHeight = 0.818;
inline constexpr double kHipHeight = 0.530;
inline constexpr double kKneeHeight = 0.285;
}  // namespace proportion

/// A knee bent further the wrong way than knees go, degrees: 5 to 10 are common (common practice, no source). What is
/// read beyond is another leg's points, or none's.
inline constexpr double kNoKneeDeg = -12;

/// A body segment's share of the body mass and the place of its mass centre, as a share of the segment's
/// length from the near (proximal) end. Winter, table 4.1 (from memory). Limb values are for one limb.
struct SegmentMass {
    double massShare;
    double centreFromNearEnd;
};
namespace segment {
inline constexpr SegmentMass kHand{0.006, 0.506};
inline constexpr SegmentMass kForearm{0.016, 0.430};
inline constexpr SegmentMass kUpperArm{0.028, 0.436};
inline constexpr SegmentMass kFoot{0.0145, 0.50};
inline constexpr SegmentMass kShank{0.0465, 0.433};
inline constexpr SegmentMass kThigh{0.100, 0.433};
/// Trunk, from the shoulder line down to the hip line.
inline constexpr SegmentMass kTrunk{0.497, 0.50};
/// Head and neck; the mass centre lies at the ear canal.
inline constexpr SegmentMass kHeadNeck{0.081, 1.0};
}  // namespace segment

}  // namespace zevo
