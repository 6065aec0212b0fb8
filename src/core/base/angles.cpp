#include "core/base/angles.h"

#include <cmath>
#include <limits>

#include "core/base/degrees.h"

namespace zevo {
namespace {

/// Direction from vertical (y up), forward +.
double fromVertical(const Vec2& from, const Vec2& to) {
    const Vec2 d = to - from;
    if (!(d.squaredNorm() > 1e-18)) return std::numeric_limits<double>::quiet_NaN();
    return std::atan2(d.x(), d.y()) * kDegreesPerRadian;
}

/// A hip's bend. It goes over from one end of its range to the other where no hip comes from either side: from the
/// side a hip in a deep and wide squat can look folded past 180°. A knee is never seen there unless it is lost.
double hipBend(double degrees) {
    constexpr double kNobodyFolds = 250;
    return wrapDegrees(degrees - (kNobodyFolds - 180)) + (kNobodyFolds - 180);
}

}  // namespace

double wrapDegrees(double degrees) {
    return degrees - 360.0 * std::floor((degrees + 180.0) / 360.0);
}

double kneeFlexion(const Vec2& hip, const Vec2& knee, const Vec2& ankle) {
    return wrapDegrees(fromVertical(ankle, knee) - fromVertical(knee, hip));
}

double hipFlexion(const Vec2& shoulder, const Vec2& hip, const Vec2& knee) {
    return hipBend(fromVertical(hip, shoulder) - fromVertical(knee, hip));
}

double trunkLean(const Vec2& hip, const Vec2& shoulder) {
    return fromVertical(hip, shoulder);
}

double shinAngle(const Vec2& ankle, const Vec2& knee) {
    return fromVertical(ankle, knee);
}

double thighAngle(const Vec2& knee, const Vec2& hip) {
    const Vec2 d = hip - knee;
    if (!(d.squaredNorm() > 1e-18)) return std::numeric_limits<double>::quiet_NaN();
    return std::atan2(d.y(), std::abs(d.x())) * kDegreesPerRadian;
}

}  // namespace zevo
