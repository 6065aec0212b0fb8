#include "sim/skeleton.h"

#include <algorithm>
#include <cmath>

#include "core/base/angles.h"

namespace zevo::sim {

Skeleton moved(Skeleton s, const Vec3& by) {
    for (auto* pair : {&s.hip, &s.knee, &s.ankle, &s.heel, &s.ball, &s.toe, &s.shoulder, &s.elbow, &s.wrist, &s.ear})
        for (Vec3& p : *pair) p += by;
    for (Vec3* p : {&s.midHip, &s.lumbarLow, &s.lumbarHigh, &s.midShoulder, &s.headCentre, &s.nose, &s.massCentre})
        *p += by;
    for (Prop& prop : s.props) {
        prop.a += by;
        if (prop.kind == Prop::Kind::Rod) prop.b += by;
    }
    return s;
}

TrueAngles trueAngles(const Skeleton& s, int side) {
    auto flat = [](const Vec3& p) { return Vec2(p.x(), p.y()); };
    TrueAngles a;
    a.kneeFlexion = zevo::kneeFlexion(flat(s.hip[side]), flat(s.knee[side]), flat(s.ankle[side]));
    a.hipFlexion = zevo::hipFlexion(flat(s.shoulder[side]), flat(s.hip[side]), flat(s.knee[side]));
    a.trunkLean = zevo::trunkLean(flat(s.hip[side]), flat(s.shoulder[side]));
    a.shinAngle = zevo::shinAngle(flat(s.ankle[side]), flat(s.knee[side]));
    a.thighAngle = zevo::thighAngle(flat(s.knee[side]), flat(s.hip[side]));
    // The heel's truth point lies 2.2 cm (at 175 cm) above the sole in a flat foot, like the ball's.
    a.heelRiseCm = std::max(0.0, (s.heel[side].y() - s.ball[side].y()) * 100);
    return a;
}

TrueFront trueFront(const Skeleton& s) {
    auto apart = [](const std::array<Vec3, 2>& p) { return std::hypot(p[1].z() - p[0].z(), p[1].y() - p[0].y()); };
    const Vec3 line = s.hip[1] - s.hip[0];
    return {apart(s.knee) / apart(s.ankle), apart(s.ankle) / apart(s.shoulder),
            std::atan2(-line.y(), line.z()) * 57.29577951308232};
}

}  // namespace zevo::sim
