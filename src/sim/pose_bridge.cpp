// Bridges: on the back, shoulders on the floor or on a bench, feet flat; the hips rise until shoulder, hip and knee
// make the wanted angle.
#include <algorithm>
#include <cmath>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

struct Rig {
    Vec3 shoulder, ankle;  ///< in the middle plane
    double restSlope, topSlope;
};

/// Signed shoulder–hip–knee angle with the trunk `slope` above the horizontal; grows with it past 180.
double lineAngle(const Segments& seg, const Vec3& shoulder, const Vec3& ankle, double slope) {
    const Vec3 hip = shoulder + seg.trunk * Vec3(std::cos(slope), std::sin(slope), 0);
    const Vec3 knee = solveKnee(hip, ankle, seg.thigh, seg.shank, Vec3(0.2, 1, 0), 0, 1);
    const Vec3 thigh = knee - hip;
    return 180 - (std::atan2(thigh.y(), thigh.x()) - slope) / kRadiansPerDegree;
}

Rig rigOf(const Segments& seg, const MotionSpec& spec, double topAngleDeg) {
    const bool bench = spec.variation == "thrust";
    Rig r;
    r.shoulder = Vec3(0, bench ? 0.50 : 0.115 * seg.scale, 0);
    const double restHip = bench ? 0.24 : 0.105 * seg.scale;
    r.restSlope = std::asin(std::clamp((restHip - r.shoulder.y()) / seg.trunk, -0.9, 0.9));
    // Feet so that the shins stand upright when shoulder, hip and knee are in one line.
    const double rise = (seg.ankleHeight + seg.shank - r.shoulder.y()) / (seg.trunk + seg.thigh);
    r.ankle = Vec3((seg.trunk + seg.thigh) * std::sqrt(1 - rise * rise) + spec.feetFarCm / 100, seg.ankleHeight, 0);
    double lo = r.restSlope, hi = 70 * kRadiansPerDegree;
    for (int i = 0; i < 50; ++i) {
        const double mid = (lo + hi) / 2;
        (lineAngle(seg, r.shoulder, r.ankle, mid) < topAngleDeg ? lo : hi) = mid;
    }
    r.topSlope = (lo + hi) / 2;
    return r;
}

}  // namespace

void poseBridge(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m) {
    const Segments seg(spec.body);
    const bool bench = spec.variation == "thrust";
    const Rig rig = rigOf(seg, spec, rep.topAngleDeg);
    const double d = m.depth, slope = mix(rig.restSlope, rig.topSlope, d);
    const Vec3 centre(-0.62 * rig.ankle.x(), 0, 0);
    const double drop = rep.hipDropDeg * d * kRadiansPerDegree;
    s.pelvisRight = Vec3(0, -std::sin(drop), std::cos(drop));
    const Vec3 shoulder = rig.shoulder + centre;
    s.midHip = shoulder + seg.trunk * Vec3(std::cos(slope), std::sin(slope), 0);
    const double half = spec.stanceShare * seg.stature / 2 * 0.75;
    const double wobble = rep.kneeWobbleCm * std::sin(2 * std::numbers::pi * 3.2 * m.timeS) * d;
    for (int i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        // One leg does most of the work when the other foot stands further away.
        const double away = spec.variation == "one-leg-biased" && i != m.working ? 0.16 * seg.scale : 0.0;
        placeFoot(s, i, seg, {rig.ankle + centre + Vec3(away, 0, sign * half), spec.toeOutDeg * 0.5, 0});
        s.hip[i] = s.midHip + sign * seg.hipHalf * s.pelvisRight;
        const double inCm = (i == 0 ? rep.kneeInLeftCm : rep.kneeInRightCm) * d - rep.kneesOutCm * d + wobble;
        s.knee[i] = solveKnee(s.hip[i], s.ankle[i], seg.thigh, seg.shank, Vec3(0.2, 1, 0.05 * sign), inCm / 100, -sign);
    }
    const double lean = -90 - slope / kRadiansPerDegree;
    // Arching lifts the hips by bending the lumbar spine; the line hip–shoulder stays.
    const double head = bench ? mix(-40, -62, d) : -94;
    // Articulated, the spine leaves the floor segment by segment: between floor and top it is rolled up.
    const double rolled = spec.variation == "articulated" ? 4 * d * (1 - d) : 0;
    placeTrunk(s, seg, {lean, head - rep.neckDeg * d, rep.tuckDeg * d + 16 * rolled, rep.roundDeg * d + 8 * rolled, 0});
    placeArms(s, seg, bench ? Arms::Hips : Arms::Floor, rep, d);
    s.massCentre = massCentreOf(s, spec.loadShare);
    if (bench)
        s.props.push_back(
            {Prop::Kind::Box, Vec3(shoulder.x() - 0.10, 0.20, 0), Vec3(0.20, 0.20, 0.62), 0, {92, 74, 66}});
}

}  // namespace zevo::sim
