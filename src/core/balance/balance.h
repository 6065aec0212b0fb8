#pragma once

#include <optional>

#include "core/body/anthropometry.h"
#include "core/body/movement.h"

namespace zevo {

/// Where along the foot a client is asked to balance, 0 = heel: on the whole of it, or with light toes (common
/// practice, no source).
inline constexpr double kAimMiddle = 0.5, kAimHeels = 0.4;

/// The planar balance of a squat: which trunk lean brings the mass centre over the foot.
///
/// Shank, thigh and trunk are rigid links in the sagittal plane from a planted foot; segment masses and their centres
/// are those of body/anthropometry.h. With shin and thigh given, one angle is free, and the condition
///
///     x_mass(lean) = S sin(lean) + C cos(lean) + K = x_aim
///
/// has the closed solution lean = asin((x_aim − K) / √(S² + C²)) − atan2(C, S): S gathers what lies along the trunk, C
/// what is held ahead of it, K all that does not turn with it. Lengths in any one unit; angles in the conventions of
/// geometry/angles.h, degrees. What is not in the model: bending of the spine, and muscles.
struct BalanceModel {
    double shank = proportion::kShank, thigh = proportion::kThigh;
    double trunk = proportion::kShoulderHeight - proportion::kHipHeight;
    double foot = proportion::kFootLength;
    double stature = 1;  ///< places of head, arms and load are shares of it
    /// Steepest the shin gets on a flat foot. One ankle alone, pushed to its end against a wall, gives 35–45° in
    /// healthy adults (Bennell et al. 1998, from memory); in a squat people stop somewhat before it (common practice,
    /// no source). A client who shows more has more.
    double ankleLimitDeg = 30;
    double ankleOpenDeg = 3;  ///< by how much that may be wrong; 0 when the coach has measured it
    double wedgeDeg = 0;      ///< slope under the heel; it tips the whole lower leg forward
    /// How far the legs point out to the sides: from the side thighs look shorter by its cosine, and the shins, which
    /// bend over turned-out feet, come less far forward.
    double thighsOutDeg = 0;
    LoadPlace load = LoadPlace::None;
    Arms arms = Arms::Reach;   ///< where nothing is held
    double loadShare = 0;      ///< mass of the load ÷ body mass
    double aim = kAimMiddle;   ///< where along the foot they are asked to balance
    double hipLimitDeg = 125;  ///< most the hip bends (handbook norms of 120–135°, from memory)
};

/// Ankle joint from the heel's end, share of the foot (common practice, no source).
inline constexpr double kAnkleAlongFoot = 0.2;

/// Place of the mass centre along the foot: 0 = heel, 1 = toe tip.
double massAlongFoot(const BalanceModel& model, double shinDeg, double thighDeg, double leanDeg);

/// The lean that brings the mass centre to `aim` along the foot. Nothing when no lean does.
std::optional<double> balancedLean(const BalanceModel& model, double shinDeg, double thighDeg, double aim);

/// The least lean this client needs at a depth: with the shins as far forward as the ankles, the wedge and, where it is
/// given, the school's limit allow.
std::optional<double> neededLean(const BalanceModel& model, double thighDeg, double aim,
                                 std::optional<double> shinLimitDeg = std::nullopt);

/// The deepest thigh angle this client can balance at `aim` without the hip bending past its limit.
double deepestBalanced(const BalanceModel& model, double aim);

/// What shows from the side of a shin that leans over a turned-out foot, and the way back.
double sagittalShin(const BalanceModel& model, double shinDeg);
double shinInItsPlane(const BalanceModel& model, double sagittalDeg);

/// The shin angle at which the knee stands over the toe tip.
double shinWithKneeOverToe(const BalanceModel& model);

}  // namespace zevo
