#pragma once

#include <array>
#include <vector>

#include "core/base/vectors.h"
#include "sim/body.h"

/// The virtual client: a made-up person whose joint centres are known exactly.
/// World frame, metres: x the way the client faces, y up (floor at 0), z to the client's right.
namespace zevo::sim {

/// Part of a repetition. A bridge begins with Lifting and ends with Lowering; its hold at the top is Bottom, the
/// turning point.
enum class Phase { Top, Lowering, Bottom, Lifting };

/// A thing in the client's hands or under them.
struct Prop {
    enum class Kind { Rod, Ball, Box } kind = Kind::Rod;
    Vec3 a = Vec3::Zero(), b = Vec3::Zero();  ///< ends of the rod; centre and half axes of ball and box
    double radius = 0.01;                     ///< of the rod
    Colour colour{70, 72, 76};
};

/// Joint centres at one moment. Index 0 = left, 1 = right where a pair is meant.
struct Skeleton {
    std::array<Vec3, 2> hip, knee, ankle, heel, ball, toe, shoulder, elbow, wrist, ear;
    std::array<Vec3, 2> footForward;  ///< unit, along the sole
    /// The spine bends where its three links meet: pelvis, lumbar spine, rib cage.
    Vec3 midHip, lumbarLow, lumbarHigh, midShoulder;
    Vec3 headCentre, nose;
    Vec3 pelvisRight{0, 0, 1}, chestRight{0, 0, 1};  ///< unit, to the client's right
    Vec3 massCentre;                                 ///< of the body and what it holds
    double depth = 0;                                ///< 0 at rest … 1 at the turning point of the rep
    Phase phase = Phase::Top;
    int rep = -1;  ///< −1 outside any rep
    std::vector<Prop> props;
};

/// The same skeleton, everything moved by `by`.
Skeleton moved(Skeleton s, const Vec3& by);

/// The true values of a moment in the conventions of the measures (degrees, cm) of one leg, seen exactly from the side.
struct TrueAngles {
    double kneeFlexion = 0, hipFlexion = 0, trunkLean = 0, shinAngle = 0, thighAngle = 0, heelRiseCm = 0;
};

/// `side`: 0 left, 1 right.
TrueAngles trueAngles(const Skeleton& s, int side);

/// The true values seen exactly from the front.
struct TrueFront {
    double kneeSeparation = 0;       ///< knee distance ÷ ankle distance
    double stanceOverShoulders = 0;  ///< ankle distance ÷ distance of the shoulder joints
    double hipTiltDeg = 0;           ///< right side lower +
};
TrueFront trueFront(const Skeleton& s);

}  // namespace zevo::sim
