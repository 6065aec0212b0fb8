#include "core/series/mass_centre.h"

#include "core/body/anthropometry.h"

namespace zevo {

Vec2 massCentre(const Track& t, std::size_t i, PointSet points) {
    auto at = [&](Landmark id) -> const Vec2& { return points == PointSet::Seen ? t.at(id, i) : t.flatAt(id, i); };
    Vec2 sum = Vec2::Zero();
    double total = 0;
    auto add = [&](const SegmentMass& m, double limbs, const Vec2& nearEnd, const Vec2& farEnd) {
        sum += limbs * m.massShare * (nearEnd + m.centreFromNearEnd * (farEnd - nearEnd));
        total += limbs * m.massShare;
    };
    auto middle = [&](Landmark left) -> Vec2 {
        return (at(left) + at(static_cast<Landmark>(static_cast<int>(left) + 1))) / 2;
    };
    auto near = [&](Landmark left) -> const Vec2& { return at(t.nearOf(left)); };
    const Vec2 shoulders = middle(Landmark::LeftShoulder);
    const Vec2& hips = near(Landmark::LeftHip);
    add(segment::kTrunk, 1, shoulders, hips);
    add(segment::kHeadNeck, 1, shoulders, middle(Landmark::LeftEar));
    add(segment::kThigh, 2, hips, near(Landmark::LeftKnee));
    add(segment::kShank, 2, near(Landmark::LeftKnee), near(Landmark::LeftAnkle));
    add(segment::kFoot, 2, near(Landmark::LeftHeel), near(Landmark::LeftToe));
    // The far arm is often hidden behind the body: the near one stands for both.
    add(segment::kUpperArm, 2, near(Landmark::LeftShoulder), near(Landmark::LeftElbow));
    add(segment::kForearm, 2, near(Landmark::LeftElbow), near(Landmark::LeftWrist));
    add(segment::kHand, 2, near(Landmark::LeftWrist), near(Landmark::LeftIndex));
    return sum / total;
}

}  // namespace zevo
