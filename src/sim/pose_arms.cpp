// Arms, and what they hold.
#include <algorithm>
#include <cmath>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

/// Elbow between shoulder and wrist; a wrist out of reach comes nearer.
void reachFor(Skeleton& s, const Segments& seg, int side, const Vec3& target, const Vec3& elbowTowards) {
    const Vec3 line = target - s.shoulder[side];
    const double most = (seg.upperArm + seg.forearm) * 0.995, least = std::abs(seg.upperArm - seg.forearm) + 0.06;
    const double d = std::clamp(line.norm(), least, most);
    const Vec3 along = line.normalized();
    const double a = (seg.upperArm * seg.upperArm - seg.forearm * seg.forearm + d * d) / (2 * d);
    const double h = std::sqrt(std::max(0.0, seg.upperArm * seg.upperArm - a * a));
    const Vec3 out = (elbowTowards - elbowTowards.dot(along) * along).normalized();
    s.elbow[side] = s.shoulder[side] + a * along + h * out;
    s.wrist[side] = s.shoulder[side] + d * along;
}

constexpr double kPoleAhead = 0.62;  ///< of the ankles, metres at 175 cm

const Colour kIron{62, 64, 68}, kSteel{150, 152, 156}, kWood{176, 136, 84};

void addBar(Skeleton& s, const Vec3& middle, double plateRadius) {
    const Vec3 z(0, 0, 1);
    s.props.push_back({Prop::Kind::Rod, middle - 0.75 * z, middle + 0.75 * z, 0.014, kSteel});
    for (double side : {-1.0, 1.0})
        s.props.push_back({Prop::Kind::Rod, middle + side * 0.62 * z, middle + side * 0.66 * z, plateRadius, kIron});
}

void addBell(Skeleton& s, const Vec3& middle) {
    Prop bell{Prop::Kind::Ball, middle, Vec3(0.085, 0.09, 0.085), 0, kIron};
    s.props.push_back(bell);
}

}  // namespace

void placeArms(Skeleton& s, const Segments& seg, Arms arms, const RepSpec& rep, double depth) {
    const Vec3 ribs = (s.midShoulder - s.lumbarHigh).normalized(), front = ribs.cross(s.chestRight).normalized();
    const Vec3 pelvis = (s.lumbarLow - s.midHip).normalized(), belly = pelvis.cross(s.pelvisRight).normalized();
    const double k = seg.scale, reach = seg.upperArm + seg.forearm;
    for (int i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        const Vec3 out = s.chestRight * sign;
        switch (arms) {
            case Arms::Forward: {
                const double a = mix(8, 82, ease(std::min(1.0, depth * 1.15)));
                const Vec3 upper(std::sin(a * kRadiansPerDegree), -std::cos(a * kRadiansPerDegree), 0.06 * sign);
                s.elbow[i] = s.shoulder[i] + seg.upperArm * upper.normalized();
                const double b = a + 10;
                const Vec3 fore(std::sin(b * kRadiansPerDegree), -std::cos(b * kRadiansPerDegree), -0.10 * sign);
                s.wrist[i] = s.elbow[i] + seg.forearm * fore.normalized();
                break;
            }
            case Arms::Hang: {
                // Hands slide down along the legs, a little ahead of the shins.
                const double legX = 0.5 * (s.ankle[0].x() + s.ankle[1].x()) + 0.10 * k;
                const double ahead =
                    std::clamp((legX + rep.loadDriftCm / 100 * depth - s.shoulder[i].x()) / reach, -0.6, 0.6);
                const Vec3 down(std::sin(std::asin(ahead)), -std::sqrt(1 - ahead * ahead), 0.05 * sign);
                reachFor(s, seg, i, s.shoulder[i] + 0.98 * reach * down.normalized(), Vec3(-0.4, 0, 0.6 * sign));
                break;
            }
            case Arms::Swing: {
                const double a = mix(68, -14, depth);
                const Vec3 d(std::sin(a * kRadiansPerDegree), -std::cos(a * kRadiansPerDegree), -0.22 * sign);
                reachFor(s, seg, i, s.shoulder[i] + 0.97 * reach * d.normalized(), Vec3(0, -1, 0.3 * sign));
                break;
            }
            case Arms::BehindHead:
                reachFor(s, seg, i, s.midShoulder + (0.17 * ribs - 0.02 * front + 0.11 * out) * k,
                         out + 0.2 * ribs - 0.2 * front);
                break;
            case Arms::PushedAway: {
                const double w = ease(std::min(1.0, depth * 1.15));
                reachFor(s, seg, i,
                         s.midShoulder + (-0.15 * ribs + mix(0.19, 0.92 * reach / k, w) * front + 0.05 * out) * k,
                         -ribs + 0.4 * out);
                break;
            }
            case Arms::HeldIn:
            case Arms::Chest:
                reachFor(s, seg, i, s.midShoulder + (-0.15 * ribs + 0.19 * front + 0.05 * out) * k, -ribs + 0.4 * out);
                break;
            case Arms::Rack:  // fists at the collar bones, elbows low or, under a bar, high
            case Arms::FrontBar: {
                const double up = arms == Arms::Rack ? -0.9 : -0.1;
                reachFor(s, seg, i, s.midShoulder + (-0.02 * ribs + 0.10 * front + 0.15 * out) * k,
                         up * ribs + 0.9 * front + 0.2 * out);
                break;
            }
            case Arms::Overhead:
                reachFor(s, seg, i, s.midShoulder + Vec3(0.02, 0.97 * reach, 0) + 0.30 * k * out, out - 0.2 * front);
                break;
            case Arms::Support:
                reachFor(s, seg, i, Vec3(kPoleAhead * k, 0.95 * k, 0.03 * sign), Vec3(0, -1, 0.4 * sign));
                break;
            case Arms::Back:
                reachFor(s, seg, i, s.midShoulder + (0.01 * ribs - 0.03 * front + 0.33 * out) * k, -ribs - 0.4 * front);
                break;
            case Arms::Hips:
                reachFor(s, seg, i, s.midHip + (0.10 * pelvis + 0.05 * belly + 0.17 * out) * k, out - 0.6 * front);
                break;
            case Arms::Dowel:
                if (i == 1)
                    reachFor(s, seg, i, s.midShoulder + (0.10 * ribs - 0.14 * front + 0.03 * out) * k,
                             out + 0.6 * ribs);
                else
                    reachFor(s, seg, i, s.midHip + (0.14 * pelvis - 0.17 * belly + 0.05 * out) * k, out - 0.5 * front);
                break;
            case Arms::Floor:
                reachFor(
                    s, seg, i,
                    s.midShoulder + (-0.46 * ribs + 0.26 * out) * k + Vec3(0, 0.02 - s.midShoulder.y() + 0.05 * k, 0),
                    out + Vec3(0, 0.3, 0));
                break;
        }
    }
}

void poseProps(Skeleton& s, const MotionSpec& spec, const Segments& seg) {
    const Vec3 ribs = (s.midShoulder - s.lumbarHigh).normalized(), front = ribs.cross(s.chestRight).normalized();
    const Vec3 hands = (s.wrist[0] + s.wrist[1]) / 2 +
                       0.07 * seg.scale * (s.wrist[0] + s.wrist[1] - s.elbow[0] - s.elbow[1]).normalized();
    if (spec.variation == "goblet") addBell(s, hands + Vec3(0.02, 0, 0));
    if (spec.variation == "swing") addBell(s, hands + Vec3(0, -0.04, 0));
    if (spec.variation == "back-bar") addBar(s, s.midShoulder + (0.03 * ribs - 0.105 * front) * seg.scale, 0.13);
    if (spec.variation == "front-bar") addBar(s, s.midShoulder + (0.02 * ribs + 0.11 * front) * seg.scale, 0.13);
    if (spec.variation == "overhead") addBar(s, hands, 0.13);
    if (spec.variation == "two-kettlebell-front")
        for (const Vec3& wrist : s.wrist) addBell(s, wrist + (0.06 * front - 0.08 * ribs) * seg.scale);
    if (spec.variation == "supported") {
        const Vec3 foot(kPoleAhead * seg.scale, 0, 0);
        s.props.push_back({Prop::Kind::Rod, foot, foot + Vec3(0, 1.5, 0), 0.02, kWood});
    }
    if (spec.variation == "romanian" || spec.variation == "stiff-leg") addBar(s, hands, 0.07);
    if (spec.variation == "floor" || spec.variation == "wide-floor") addBar(s, hands, 0.225);
    if (spec.variation == "dowel") {
        const Vec3 up = (s.midShoulder - s.midHip).normalized(), back = -up.cross(s.chestRight).normalized();
        const Vec3 low = s.midHip + back * 0.155 * seg.scale - up * 0.10;
        s.props.push_back({Prop::Kind::Rod, low, low + up * 1.05, 0.012, kWood});
    }
}

}  // namespace zevo::sim
