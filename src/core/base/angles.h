#pragma once

#include "core/base/vectors.h"

namespace zevo {

// Sagittal-plane angles in degrees. Frame: the client faces +x, y is up. Every function returns NaN when
// two of its points coincide.

/// Bend of the knee; 0 = straight, + = bent the usual way (calf towards thigh), − = past straight.
double kneeFlexion(const Vec2& hip, const Vec2& knee, const Vec2& ankle);
/// Angle between trunk and thigh; 0 = in line, + = bent forward.
double hipFlexion(const Vec2& shoulder, const Vec2& hip, const Vec2& knee);
/// Hip → shoulder line from vertical, forward +.
double trunkLean(const Vec2& hip, const Vec2& shoulder);
/// Ankle → knee line from vertical, knee ahead of the ankle +.
double shinAngle(const Vec2& ankle, const Vec2& knee);
/// Knee → hip line from horizontal, hip above the knee +, 0 = level.
double thighAngle(const Vec2& knee, const Vec2& hip);

/// Brings an angle difference into −180…180.
double wrapDegrees(double degrees);

}  // namespace zevo
