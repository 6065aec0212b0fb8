#include "core/series/foot_extent.h"

#include <algorithm>
#include <cmath>

#include "core/base/degrees.h"
#include "core/body/anthropometry.h"

namespace zevo {

FootExtent footExtent(const Track& t, PointSet points) {
    const Landmark heelId = t.nearOf(Landmark::LeftHeel), toeId = t.nearOf(Landmark::LeftToe);
    const bool seen = points == PointSet::Seen;
    const Vec2 heel = seen ? t.standingAt(heelId) : t.standingFlatAt(heelId);
    const Vec2 toe = seen ? t.standingAt(toeId) : t.standingFlatAt(toeId);
    const double turned = std::cos(t.offSquareDeg() * kRadiansPerDegree);  // a foot seen at an angle looks shorter
    const double half = std::max(0.5 * std::abs(toe.x() - heel.x()), 0.5 * proportion::kFootLength * t.bodyPx * turned);
    const double middle = 0.5 * (heel.x() + toe.x());
    return {middle - half, middle + half, std::min(heel.y(), toe.y())};
}

}  // namespace zevo
