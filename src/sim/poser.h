#pragma once

// Inner parts of the virtual client's motion; not for use outside src/sim.

#include "core/base/degrees.h"
#include "sim/motion.h"

namespace zevo::sim {

/// Least-jerk passage from 0 to 1.
double ease(double x);
inline double mix(double a, double b, double w) {
    return a + (b - a) * w;
}

/// Segment lengths of a body, metres. Shares of stature: Drillis & Contini 1966 as printed in Winter (from memory),
/// joint centre to joint centre; or the person's own, where the body has them.
struct Segments {
    explicit Segments(const BodySpec& body);
    double stature, scale;  ///< scale: against 175 cm, at which the figure was measured
    double thigh, shank, ankleHeight, trunk, hipHalf, shoulderHalf, upperArm, forearm;
    double heelBack, ballAhead, toeAhead, footPointHeight;  ///< from the ankle, along the sole; toe from the ball
    double neck;  ///< mid-shoulder to 2 cm (at 175 cm) behind and below the head centre
};

/// Where a repetition stands.
struct Moment {
    double timeS = 0;
    double depth = 0;    ///< 0…1 towards the turning point
    double topLean = 0;  ///< 0…1 weight of the lock-out dials
    double step = 1;     ///< stepping lunges: 0 feet together … 1 stepped out
    bool rising = false;
    bool over = false;  ///< on the way back or past the turning point: a client who travels ends at their new place
    int working = 1;    ///< the leg that works in this rep
    Phase phase = Phase::Top;
    int rep = -1;
};

struct FootPose {
    Vec3 flatAnkle = Vec3::Zero();  ///< where the ankle is with the sole flat
    double toeOutDeg = 0;
    double pitchDeg = 0;  ///< heel up + (turns about the ball), toes up − (turns about the heel)
};
void placeFoot(Skeleton& s, int side, const Segments& seg, const FootPose& foot);

/// Bends at the knee so that hip and ankle keep their places. The knee lies over the line that `towards` draws on the
/// floor from the ankle (as far as its bend allows), moved inwards from it by `inwardM`.
/// With `overFoot` off the knee bends straight towards `towards` (a leg that does not carry).
Vec3 solveKnee(const Vec3& hip, const Vec3& ankle, double thigh, double shank, const Vec3& towards, double inwardM,
               double inwardSign, bool overFoot = true);

struct TrunkPose {
    double leanDeg = 0;  ///< of the line mid-hip → mid-shoulder, forward +; −90 lies on the back
    double headDeg = 0;  ///< of the head, likewise
    double tuckDeg = 0, roundDeg = 0;
    double shoulderTipDeg = 0;
    double sideDeg = 0;  ///< trunk and head leaning to the client's right
};
void placeTrunk(Skeleton& s, const Segments& seg, const TrunkPose& pose);

enum class Arms {
    Forward,
    Hang,
    Chest,
    Back,
    Hips,
    Dowel,
    Floor,
    Swing,
    Rack,
    FrontBar,
    Overhead,
    Support,
    HeldIn,
    BehindHead,
    PushedAway
};
void placeArms(Skeleton& s, const Segments& seg, Arms arms, const RepSpec& rep, double depth);

/// Adds what the variation puts into the hands, on the back or along the spine.
void poseProps(Skeleton& s, const MotionSpec& spec, const Segments& seg);

/// Mass centre of body and load (segment masses of core/body/anthropometry.h).
Vec3 massCentreOf(const Skeleton& s, double loadShare);

// One movement family each. `rep`: the dials in force.
void poseStanding(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m);  ///< squat and hinge
void poseLunge(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m);
void poseBridge(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m);

bool isLunge(const std::string& movement);
bool stepsOut(const std::string& movement);

}  // namespace zevo::sim
