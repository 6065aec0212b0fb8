#include "sim/poser.h"

#include <algorithm>
#include <cmath>

#include "core/body/anthropometry.h"
#include "sim/segment_masses.h"

namespace zevo::sim {

double ease(double x) {
    x = std::clamp(x, 0.0, 1.0);
    return x * x * x * (10 + x * (6 * x - 15));
}

Segments::Segments(const BodySpec& body)
    : stature(body.statureCm / 100),
      scale(stature / 1.75),
      thigh(0.245 * stature * body.legShare),
      shank(0.246 * stature * body.legShare),
      ankleHeight(0.048 * stature),
      trunk(0.288 * stature * body.trunkShare),
      hipHalf(0.050 * stature),
      shoulderHalf(0.103 * stature),
      upperArm(0.172 * stature * body.armShare),
      forearm(0.150 * stature * body.armShare),
      heelBack(0.062 * scale),
      ballAhead(0.128 * scale),
      toeAhead(0.085 * scale),
      footPointHeight(0.022 * scale),
      neck(0.150 * scale) {
    if (!body.lengths) return;
    const BodyLengths& own = *body.lengths;
    thigh = own.thigh, shank = own.shank, ankleHeight = own.ankleHeight, trunk = own.trunk;
    hipHalf = own.hipHalf, shoulderHalf = own.shoulderHalf, upperArm = own.upperArm, forearm = own.forearm;
    heelBack = own.heelBack, ballAhead = own.ballAhead, toeAhead = own.toeAhead;
    footPointHeight = own.footPointHeight, neck = own.neck;
}

void placeFoot(Skeleton& s, int side, const Segments& seg, const FootPose& foot) {
    const double sign = side == 0 ? -1 : 1;
    const double yaw = foot.toeOutDeg * kRadiansPerDegree, pitch = foot.pitchDeg * kRadiansPerDegree;
    const Vec3 f(std::cos(yaw), 0, sign * std::sin(yaw)), up(0, 1, 0);
    const double down = seg.ankleHeight - seg.footPointHeight;
    const Vec3 ball = foot.flatAnkle + seg.ballAhead * f - down * up;
    const Vec3 heel = foot.flatAnkle - seg.heelBack * f - down * up;
    const Vec3 pivot = pitch >= 0 ? ball : heel;
    auto turned = [&](const Vec3& p) -> Vec3 {
        const Vec3 v = p - pivot;
        const double a = v.dot(f), b = v.y(), c = std::cos(pitch), q = std::sin(pitch);
        return pivot + (a * c + b * q) * f + (b * c - a * q) * up;
    };
    s.ankle[side] = turned(foot.flatAnkle);
    s.heel[side] = turned(heel);
    s.ball[side] = turned(ball);
    const Vec3 toe = ball + seg.toeAhead * f;
    s.toe[side] = pitch >= 0 ? toe : turned(toe);
    s.footForward[side] = (std::cos(pitch) * f - std::sin(pitch) * up).normalized();
}

Vec3 solveKnee(const Vec3& hip, const Vec3& ankle, double thigh, double shank, const Vec3& towards, double inwardM,
               double inwardSign, bool overFoot) {
    const Vec3 line = hip - ankle;
    const double d = std::min(line.norm(), (thigh + shank) * 0.99999);
    const Vec3 along = line.normalized();
    const double a = (shank * shank - thigh * thigh + d * d) / (2 * d);
    const double h = std::sqrt(std::max(0.0, shank * shank - a * a));
    const Vec3 out = (towards - towards.dot(along) * along).normalized();
    Vec3 inward = out.cross(along);
    if (inward.z() * inwardSign < 0) inward = -inward;
    if (h < 1e-6) return ankle + a * along;
    if (!overFoot) {
        const double turn = std::asin(std::clamp(inwardM / h, -0.95, 0.95));
        return ankle + a * along + h * (std::cos(turn) * out + std::sin(turn) * inward);
    }
    // The knee can only go round the line hip–ankle. Where it stands over the line on the floor, or inwards of it, is
    // where n·(knee − ankle) has the wanted size, n pointing across that line; a nearly straight leg cannot get there.
    Vec3 n(-towards.z(), 0, towards.x());
    n = n.z() * inwardSign < 0 ? Vec3(-n) : n;
    const double c = n.normalized().dot(out) * h, q = n.normalized().dot(inward) * h;
    // A straight leg stays where it is; from about a third of a squat on the knee is where it belongs.
    constexpr double kBentM = 0.15;
    const double w = ease(h / kBentM);
    const double wanted = ((1 - w) * c - w * a * n.normalized().dot(along) + inwardM) / std::hypot(c, q);
    const double reached = 0.95 * std::tanh(wanted / 0.95);  // eases into what the bend allows
    const double turn = std::asin(std::clamp(reached, -0.95, 0.95)) - std::atan2(c, q);
    return ankle + a * along + h * (std::cos(turn) * out + std::sin(turn) * inward);
}

void placeTrunk(Skeleton& s, const Segments& seg, const TrunkPose& pose) {
    auto upAt = [](double deg) {
        return Vec3(std::sin(deg * kRadiansPerDegree), std::cos(deg * kRadiansPerDegree), 0);
    };
    // Shares of the spine: pelvis 0.22, lumbar 0.33, rib cage 0.45. The parts turn against each other so that the
    // line hip–shoulder keeps the wanted lean.
    const double lean = pose.leanDeg, tuck = pose.tuckDeg, bend = pose.roundDeg;
    const Vec3 pelvis = upAt(lean - tuck - 0.45 * bend), lumbar = upAt(lean + 0.2 * tuck - 0.45 * bend),
               ribs = upAt(lean + 0.34 * tuck + 0.55 * bend);
    s.lumbarLow = s.midHip + 0.22 * seg.trunk * pelvis;
    s.lumbarHigh = s.lumbarLow + 0.33 * seg.trunk * lumbar;
    s.midShoulder = s.lumbarHigh + 0.45 * seg.trunk * ribs;
    const double tip = pose.shoulderTipDeg * kRadiansPerDegree;
    s.chestRight = (std::cos(tip) * Vec3(0, 0, 1) - std::sin(tip) * ribs).normalized();

    const Vec3 headUp = upAt(pose.headDeg), headForward(headUp.y(), -headUp.x(), 0);
    const Vec3 neckUp = (0.65 * headUp + 0.35 * ribs).normalized();
    s.headCentre = s.midShoulder + seg.neck * neckUp + seg.scale * (0.02 * headForward + 0.02 * headUp);
    s.nose = s.headCentre + seg.scale * (0.106 * headForward - 0.028 * headUp);
    for (int i = 0; i < 2; ++i) {
        const Vec3 side = s.chestRight * (i == 0 ? -1 : 1);
        s.ear[i] = s.headCentre + seg.scale * (0.074 * side - 0.005 * headUp);
        s.shoulder[i] = s.midShoulder + seg.shoulderHalf * side;
    }
    if (pose.sideDeg == 0) return;
    const Eigen::AngleAxisd aside(pose.sideDeg * kRadiansPerDegree, Vec3::UnitX());
    for (Vec3* p : {&s.lumbarLow, &s.lumbarHigh, &s.midShoulder, &s.headCentre, &s.nose, &s.ear[0], &s.ear[1],
                    &s.shoulder[0], &s.shoulder[1]})
        *p = s.midHip + aside * (*p - s.midHip);
    s.chestRight = aside * s.chestRight;
}

Vec3 massCentreOf(const Skeleton& s, double loadShare) {
    Vec3 sum = Vec3::Zero();
    double total = 0;
    auto add = [&](const SegmentMass& m, const Vec3& nearEnd, const Vec3& farEnd) {
        sum += m.massShare * (nearEnd + m.centreFromNearEnd * (farEnd - nearEnd));
        total += m.massShare;
    };
    for (int i = 0; i < 2; ++i) {
        add(leva::kThigh, s.hip[i], s.knee[i]);
        add(leva::kShank, s.knee[i], s.ankle[i]);
        add(leva::kFoot, s.heel[i], s.toe[i]);
        add(leva::kUpperArm, s.shoulder[i], s.elbow[i]);
        add(leva::kForearm, s.elbow[i], s.wrist[i]);
        add(leva::kHand, s.wrist[i], s.wrist[i]);
    }
    add(leva::kTrunk, s.midShoulder, s.midHip);
    add(leva::kHead, s.midShoulder, (s.ear[0] + s.ear[1]) / 2);
    sum += loadShare * (s.wrist[0] + s.wrist[1]) / 2;
    return sum / (total + loadShare);
}

bool isLunge(const std::string& movement) {
    return movement == "split-squat" || movement == "rear-foot-raised" || stepsOut(movement);
}

bool stepsOut(const std::string& movement) {
    return movement == "reverse-lunge" || movement == "forward-lunge" || movement == "walking-lunge" ||
           movement == "lateral-lunge";
}

}  // namespace zevo::sim
