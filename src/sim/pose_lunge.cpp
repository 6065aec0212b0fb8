// Lunges: one foot works in front (or to the side), the other reaches back on its toes, lies on a bench or stays
// straight behind. The turning point is built from the working leg; hips travel between it and the rest position.
#include <algorithm>
#include <cmath>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

constexpr double kBenchHeight = 0.32;
constexpr double kStretched = 0.995;  ///< share of the leg's length that may be used

/// Where the hips are above an ankle when the leg has this bend; forward of it +.
Vec3 hipAbove(const Segments& seg, const Vec3& ankle, double knee, double shin) {
    return ankle +
           Vec3(
               seg.shank * std::sin(shin * kRadiansPerDegree) - seg.thigh * std::sin((knee - shin) * kRadiansPerDegree),
               seg.shank * std::cos(shin * kRadiansPerDegree) + seg.thigh * std::cos((knee - shin) * kRadiansPerDegree),
               0);
}

/// Ankle of a foot whose ball is at `ball` and whose heel is up by `pitchDeg`.
Vec3 ankleOverBall(const Segments& seg, const Vec3& ball, double pitchDeg) {
    const double p = pitchDeg * kRadiansPerDegree, back = -seg.ballAhead, up = seg.ankleHeight - seg.footPointHeight;
    return ball + Vec3(back * std::cos(p) + up * std::sin(p), up * std::cos(p) - back * std::sin(p), 0);
}

/// Highest the hips may be for a leg to reach its ankle.
double reachHeight(const Segments& seg, const Vec3& hip, const Vec3& ankle) {
    const double length = kStretched * (seg.thigh + seg.shank);
    const double aside2 = (hip - ankle).squaredNorm() - std::pow(hip.y() - ankle.y(), 2);
    return ankle.y() + std::sqrt(std::max(0.01, length * length - aside2));
}

struct Plan {
    FootPose workingRest, workingOut, otherRest, otherOut;
    Vec3 hipRest, hipOut;  ///< mid-hip
    double leanOut = 0;
    double stepM = 0;  ///< between the places of the two feet
};

/// `over`: on the way back, which for a client who travels ends over the front foot.
Plan planSagittal(const Segments& seg, const MotionSpec& spec, const RepSpec& rep, bool over) {
    const bool bench = spec.movement == "rear-foot-raised", still = !stepsOut(spec.movement);
    const double pitchTop = bench ? 42 : 44, pitchBottom = bench ? 52 : 62,
                 ballY = seg.footPointHeight + (bench ? kBenchHeight : 0);
    const Vec3 frontAnkle(0, seg.ankleHeight, 0);
    const Vec3 hip = hipAbove(seg, frontAnkle, rep.frontKneeDeg, rep.frontShinDeg);
    const double r = (rep.rearThighDeg + (bench ? 18 : 0)) * kRadiansPerDegree;
    const Vec3 rearKnee = hip - seg.thigh * Vec3(std::sin(r), std::cos(r), 0);
    const double ankleY = ankleOverBall(seg, Vec3(0, ballY, 0), pitchBottom).y();
    const double rise = std::clamp(ankleY - rearKnee.y(), -0.95 * seg.shank, 0.95 * seg.shank);
    const double ankleX = rearKnee.x() - std::sqrt(seg.shank * seg.shank - rise * rise);
    const double ballX = ankleX - ankleOverBall(seg, Vec3::Zero(), pitchBottom).x();
    // FootPose wants the ankle of the flat foot with this ball.
    auto flat = [&](double x, double y) {
        return Vec3(x - seg.ballAhead, y + seg.ankleHeight - seg.footPointHeight, 0);
    };
    Plan p;
    p.leanOut = rep.lungeLeanDeg;
    p.workingOut = {frontAnkle, 4, 0};
    p.otherOut = {flat(ballX, ballY), 0, pitchBottom};
    p.hipOut = hip;
    p.stepM = p.workingOut.flatAnkle.x() - p.otherOut.flatAnkle.x();
    p.workingRest = p.workingOut;
    p.otherRest = p.otherOut;
    if (still) {
        p.otherRest.pitchDeg = pitchTop;
        p.hipRest = Vec3(mix(0, ballX, bench ? 0.22 : 0.40), 0, 0);
        // As high as both legs allow with the rear heel where it is at rest.
        const Vec3 rearAnkle = ankleOverBall(seg, Vec3(ballX, ballY, 0), pitchTop);
        p.hipRest.y() = bench
                            ? hipAbove(seg, frontAnkle, 6, 3).y()
                            : std::min(reachHeight(seg, p.hipRest, frontAnkle), reachHeight(seg, p.hipRest, rearAnkle));
    } else if (spec.movement == "reverse-lunge" || (spec.movement == "walking-lunge" && over)) {
        p.otherRest = {frontAnkle, 4, 0};
        p.hipRest = hipAbove(seg, frontAnkle, spec.standingKneeDeg, spec.standingKneeDeg / 2);
    } else {
        p.otherRest = {flat(ballX, ballY), 4, 0};
        p.workingRest = p.otherRest;
        p.hipRest = hipAbove(seg, p.otherRest.flatAnkle, spec.standingKneeDeg, spec.standingKneeDeg / 2);
    }
    return p;
}

Plan planLateral(const Segments& seg, const MotionSpec& spec, const RepSpec& rep, double sign) {
    const Vec3 working(0, seg.ankleHeight, 0);
    const Vec3 above = hipAbove(seg, working, rep.frontKneeDeg, rep.frontShinDeg + 14);
    const double inward = 0.09 * seg.scale, back = above.x();
    const double reach2 = (above - working).squaredNorm();
    const double height = std::sqrt(std::max(0.04, reach2 - back * back - inward * inward));
    Plan p;
    p.leanOut = rep.lungeLeanDeg + 28;
    p.hipOut = Vec3(back, seg.ankleHeight + height, -sign * (inward + seg.hipHalf));
    const double bent = rep.trailingKneeDeg * kRadiansPerDegree;  // two links with a bend between span less
    const double length =
        std::min(kStretched * (seg.thigh + seg.shank),
                 std::sqrt(seg.thigh * seg.thigh + seg.shank * seg.shank + 2 * seg.thigh * seg.shank * std::cos(bent)));
    const double away = std::sqrt(std::max(0.01, length * length - height * height - back * back));
    const double otherZ = p.hipOut.z() - sign * (seg.hipHalf + away);
    p.workingOut = {working, 6, 0};
    p.otherOut = p.otherRest = {Vec3(0, seg.ankleHeight, otherZ), 6, 0};
    p.workingRest = {Vec3(0, seg.ankleHeight, otherZ + sign * spec.stanceShare * seg.stature), 6, 0};
    p.hipRest = hipAbove(seg, p.otherRest.flatAnkle, spec.standingKneeDeg, spec.standingKneeDeg / 2);
    p.hipRest.z() = (p.workingRest.flatAnkle.z() + otherZ) / 2;
    return p;
}

FootPose between(const FootPose& a, const FootPose& b, double w) {
    FootPose f{a.flatAnkle + (b.flatAnkle - a.flatAnkle) * w, mix(a.toeOutDeg, b.toeOutDeg, w),
               mix(a.pitchDeg, b.pitchDeg, w)};
    const double travel = (b.flatAnkle - a.flatAnkle).norm();
    if (travel > 0.05) f.flatAnkle.y() += 0.07 * std::sin(std::numbers::pi * w);  // the stepping foot is in the air
    return f;
}

}  // namespace

void poseLunge(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m) {
    const Segments seg(spec.body);
    const int working = m.working, other = 1 - working;
    const bool lateral = spec.movement == "lateral-lunge";
    const double sign = working == 0 ? -1 : 1, d = m.depth;
    auto planOf = [&](const RepSpec& r) {
        return lateral ? planLateral(seg, spec, r, sign) : planSagittal(seg, spec, r, m.over);
    };
    // The feet go where the first rep puts them; later reps may go deeper or lean more over the same step.
    Plan p = planOf(spec.reps.empty() ? rep : spec.reps.front());
    const double rail = lateral ? 0 : 0.075 * seg.stature;
    // The picture's middle is between rest and turning point; a lateral lunge rests in it, so that it may go either
    // way; a client who travels has the middle of their way there.
    Vec3 centre(-(p.hipOut.x() + p.hipRest.x()) / 2, 0, lateral ? -p.hipRest.z() : 0);
    if (spec.movement == "walking-lunge") {
        const auto reps = static_cast<double>(spec.reps.size());
        const double index = m.rep >= 0 ? m.rep : m.over ? reps - 1 : 0;
        centre.x() = (index + 1 - reps / 2) * p.stepM;
    }
    for (FootPose* f : {&p.workingRest, &p.workingOut})
        f->flatAnkle += centre + Vec3(0, 0, sign * (rail + (lateral ? 0 : spec.railsCm / 100)));
    for (FootPose* f : {&p.otherRest, &p.otherOut}) f->flatAnkle += centre - Vec3(0, 0, sign * rail);
    const Plan now = planOf(rep);
    p.hipOut = now.hipOut, p.leanOut = now.leanOut;
    p.hipRest += centre, p.hipOut += centre;

    const bool pitchBySinking = !stepsOut(spec.movement);
    FootPose workingFoot = between(p.workingRest, p.workingOut, m.step);
    FootPose otherFoot = between(p.otherRest, p.otherOut,
                                 pitchBySinking ? d
                                 : spec.movement == "forward-lunge" || (spec.movement == "walking-lunge" && !m.over)
                                     ? std::max(d, 0.4 * m.step)
                                     : m.step);
    const double late = ease(std::clamp((d - 0.35) / 0.5, 0.0, 1.0));
    const double heelToBall = seg.heelBack + seg.ballAhead;
    workingFoot.pitchDeg +=
        std::asin(std::clamp(rep.heelRiseCm / 100 * late / heelToBall, 0.0, 0.9)) / kRadiansPerDegree;
    placeFoot(s, working, seg, workingFoot);
    placeFoot(s, other, seg, otherFoot);

    const double shooting = m.rising ? rep.hipsShootUp * 4 * d * (1 - d) : 0.0;
    const double sunk = d - 0.15 * shooting, along = stepsOut(spec.movement) ? 0.5 * (m.step + d) : d;
    s.midHip = Vec3(mix(p.hipRest.x(), p.hipOut.x(), along) - 0.02 * rep.lockoutLeanDeg / 10 * m.topLean,
                    mix(p.hipRest.y(), p.hipOut.y(), sunk),
                    mix(p.hipRest.z(), p.hipOut.z(), along) + sign * rep.shiftCm / 100 * d);
    const double sway = 0.003 * std::sin(1.7 * m.timeS) + 0.0015 * std::sin(4.1 * m.timeS + 1);
    s.midHip.x() += sway;
    const double drop = rep.hipDropDeg * d * kRadiansPerDegree, turn = rep.hipTurnDeg * d * kRadiansPerDegree;
    s.pelvisRight = Vec3(std::sin(turn), -std::sin(drop), std::cos(turn) * std::cos(drop)).normalized();
    for (int pass = 0; pass < 3; ++pass)
        for (int i = 0; i < 2; ++i) {
            const Vec3 hip = s.midHip + (i == 0 ? -1 : 1) * seg.hipHalf * s.pelvisRight;
            s.midHip.y() = std::min(s.midHip.y(), s.midHip.y() - hip.y() + reachHeight(seg, hip, s.ankle[i]));
        }
    for (int i = 0; i < 2; ++i) {
        const double side = i == 0 ? -1 : 1;
        s.hip[i] = s.midHip + side * seg.hipHalf * s.pelvisRight;
        const double wobble = rep.kneeWobbleCm * std::sin(2 * std::numbers::pi * 3.2 * m.timeS) * std::min(1.0, 2 * d);
        const double inCm = i == working ? (i == 0 ? rep.kneeInLeftCm : rep.kneeInRightCm) * d + wobble : 0.0;
        s.knee[i] = solveKnee(s.hip[i], s.ankle[i], seg.thigh, seg.shank, Vec3(1, i == working ? 0 : -0.8, 0.08 * side),
                              inCm / 100, -side, i == working || !lateral);
    }
    const double lean =
        mix(1.0, p.leanOut, d) + rep.extraLeanDeg * ease(d) + 22 * shooting - rep.lockoutLeanDeg * m.topLean;
    TrunkPose trunk{lean, lean * 0.75 - rep.neckDeg * d, rep.tuckDeg * late, rep.roundDeg * d, rep.shoulderTipDeg * d,
                    0};
    if (lateral) {
        // The trunk tips over the working leg until the nose is above its knee.
        placeTrunk(s, seg, trunk);
        const double aside = s.knee[working].z() - s.nose.z() - sign * rep.noseOffCm / 100;
        trunk.sideDeg = d * std::asin(std::clamp(aside / (s.nose.y() - s.midHip.y()), -0.6, 0.6)) / kRadiansPerDegree;
    }
    placeTrunk(s, seg, trunk);
    placeArms(s, seg, lateral || spec.variation == "goblet" ? Arms::Chest : Arms::Hips, rep, d);
    s.massCentre = massCentreOf(s, spec.loadShare);
    if (spec.movement == "rear-foot-raised") {
        const Vec3 under(s.ball[other].x() - 0.10, kBenchHeight / 2, 0);
        s.props.push_back({Prop::Kind::Box, under, Vec3(0.15, kBenchHeight / 2, 0.40), 0, {92, 74, 66}});
    }
}

}  // namespace zevo::sim
