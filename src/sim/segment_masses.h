#pragma once

namespace zevo::sim {

/// Segment masses and mass centres of the virtual client: de Leva 1996, *J Biomech* 29(9), table 4, men (from memory).
/// Not the table that src/core reads mass centres with (Winter), so that the truth does not share the mistakes of what
/// is tested on it. Masses are shares of body mass, centres shares of the segment from its near end. Limbs: one of two.
struct SegmentMass {
    double massShare, centreFromNearEnd;
};
namespace leva {
inline constexpr SegmentMass kHand{0.0061, 0.0};  ///< put at the wrist: a fist's length on is left out
inline constexpr SegmentMass kForearm{0.0162, 0.4574};
inline constexpr SegmentMass kUpperArm{0.0271, 0.5772};
inline constexpr SegmentMass kFoot{0.0137, 0.4415};   ///< heel to toe tip
inline constexpr SegmentMass kShank{0.0433, 0.4395};  ///< knee to ankle joint centre
inline constexpr SegmentMass kThigh{0.1416, 0.4095};
inline constexpr SegmentMass kTrunk{0.4346, 0.4310};  ///< middle of the shoulders to middle of the hips
inline constexpr SegmentMass kHead{0.0694, 1.0};      ///< its centre lies at the ears' height
}  // namespace leva

}  // namespace zevo::sim
