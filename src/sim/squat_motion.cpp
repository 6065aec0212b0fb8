#include "sim/squat_motion.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/body/anthropometry.h"
#include "core/geometry/angles.h"

namespace zevo::sim {
namespace {

constexpr double kRad = std::numbers::pi / 180.0;

/// Least-jerk passage from 0 to 1.
double ease(double x) {
    x = std::clamp(x, 0.0, 1.0);
    return x * x * x * (10 + x * (6 * x - 15));
}

double mix(double a, double b, double w) {
    return a + (b - a) * w;
}

struct Moment {
    double depth = 0;    // 0…1 towards the bottom of this rep
    double topLean = 0;  // 0…1 weight of the lock-out dial
    Phase phase = Phase::Top;
    int rep = -1;
};

Moment momentAt(const SquatSpec& spec, const std::vector<RepTruth>& truth, double t) {
    Moment m;
    for (std::size_t i = 0; i < spec.reps.size(); ++i) {
        const RepSpec& r = spec.reps[i];
        if (t < truth[i].startS || t >= truth[i].endS + r.topS) continue;
        m.rep = static_cast<int>(i);
        const double x = t - truth[i].startS;
        if (x < r.lowerS) {
            m.phase = Phase::Lowering;
            const double even = ease(x / r.lowerS);
            const double dropped = std::pow(x / r.lowerS, 2.0);  // still fast when the bottom stops it
            m.depth = mix(even, dropped, r.bounce);
        } else if (x < r.lowerS + r.pauseS) {
            m.phase = Phase::Bottom;
            m.depth = 1;
        } else if (x < r.lowerS + r.pauseS + r.liftS) {
            m.phase = Phase::Lifting;
            const double y = (x - r.lowerS - r.pauseS) / r.liftS;
            m.depth = 1 - mix(ease(y), 1 - std::pow(1 - y, 2.0), r.bounce);
        } else {
            const double y = (x - r.lowerS - r.pauseS - r.liftS) / r.topS;
            m.topLean = std::sin(std::numbers::pi * std::clamp(y, 0.0, 1.0));
        }
        return m;
    }
    return m;
}

/// Bends at the knee so that hip and ankle keep their places; the knee points along `towards`.
Vec3 solveKnee(const Vec3& hip, const Vec3& ankle, double thigh, double shank, const Vec3& towards) {
    const Vec3 line = hip - ankle;
    const double d = std::min(line.norm(), (thigh + shank) * 0.99999);
    const Vec3 along = line.normalized();
    const double a = (shank * shank - thigh * thigh + d * d) / (2 * d);
    const double h = std::sqrt(std::max(0.0, shank * shank - a * a));
    const Vec3 out = (towards - towards.dot(along) * along).normalized();
    return ankle + a * along + h * out;
}

Vec3 massCentreOf(const Skeleton& s) {
    Vec3 sum = Vec3::Zero();
    double total = 0;
    auto add = [&](const SegmentMass& m, const Vec3& nearEnd, const Vec3& farEnd) {
        sum += m.massShare * (nearEnd + m.centreFromNearEnd * (farEnd - nearEnd));
        total += m.massShare;
    };
    for (int i = 0; i < 2; ++i) {
        add(segment::kThigh, s.hip[i], s.knee[i]);
        add(segment::kShank, s.knee[i], s.ankle[i]);
        add(segment::kFoot, s.heel[i], s.toe[i]);
        add(segment::kUpperArm, s.shoulder[i], s.elbow[i]);
        add(segment::kForearm, s.elbow[i], s.wrist[i]);
        add(segment::kHand, s.wrist[i], s.wrist[i]);
    }
    add(segment::kTrunk, s.midShoulder, s.midHip);
    add(segment::kHeadNeck, s.midShoulder, (s.ear[0] + s.ear[1]) / 2);
    return sum / total;
}

}  // namespace

SquatMotion::SquatMotion(SquatSpec spec) : m_spec(std::move(spec)) {
    double t = m_spec.leadInS;
    for (const auto& r : m_spec.reps) {
        const double bottom = t + r.lowerS + r.pauseS / 2;
        const double end = t + r.lowerS + r.pauseS + r.liftS;
        m_reps.push_back({t, bottom, end});
        t = end + r.topS;
    }
    m_durationS = t + m_spec.leadOutS;
}

Skeleton SquatMotion::at(double timeS) const {
    const double H = m_spec.body.statureCm / 100;
    const double thigh = 0.245 * H * m_spec.body.legShare, shank = 0.246 * H * m_spec.body.legShare;
    const double ankleHeight = 0.048 * H;
    const double scale = H / 1.75;  // the figure was measured at 175 cm
    const Moment m = momentAt(m_spec, m_reps, timeS);
    static const RepSpec kStill{};
    const RepSpec& rep = m.rep < 0 ? kStill : m_spec.reps[m.rep];
    const double d = std::clamp(m.depth, 0.0, 1.0);  // 1 − ease(1) may come out as −1e-16, which pow() refuses

    // Sway: nobody stands like a post. Millimetres, slow, the same in every run.
    const double sway = 0.004 * std::sin(1.7 * timeS) + 0.002 * std::sin(4.1 * timeS + 1);

    // Leg profile. With "knees first" the shins reach their angle in the first part of the descent and the
    // thigh stays upright; otherwise all joints go together.
    const double kneeBottom = 90 - rep.thighBottomDeg + rep.shinBottomDeg;
    const double shinProgress = mix(d, std::pow(d, 0.35), rep.kneesFirst);
    const double thighProgress = mix(d, std::pow(d, 1.7), rep.kneesFirst);
    const double standingShin = m_spec.standingKneeDeg * 0.5;
    const double shin = mix(standingShin, rep.shinBottomDeg, shinProgress);
    const double thighBack = mix(m_spec.standingKneeDeg - standingShin, kneeBottom - rep.shinBottomDeg, thighProgress);

    Skeleton s;
    s.depth = d;
    s.phase = m.phase;
    s.rep = m.rep;
    const double heelRise = rep.heelRiseCm / 100 * ease(std::clamp((d - 0.35) / 0.5, 0.0, 1.0));
    const double toeRise = rep.toeRiseCm / 100 * ease(std::clamp((d - 0.35) / 0.5, 0.0, 1.0));
    const double heelToBall = 0.190 * scale;
    const double pitch = std::asin(std::clamp(heelRise / heelToBall, 0.0, 0.9)) -
                         std::asin(std::clamp(toeRise / (heelToBall + 0.085 * scale), 0.0, 0.9));

    const double half = m_spec.stanceShare * H / 2;
    for (int i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        const Vec3 f(std::cos(m_spec.toeOutDeg * kRad), 0, sign * std::sin(m_spec.toeOutDeg * kRad));
        const Vec3 up(0, 1, 0);
        // Flat foot first; heel rise turns it about the ball, toe rise about the heel.
        const Vec3 flatAnkle(0, ankleHeight, sign * half);
        const Vec3 ball = flatAnkle + 0.128 * scale * f - (ankleHeight - 0.022 * scale) * up;
        const Vec3 heel = flatAnkle - 0.062 * scale * f - (ankleHeight - 0.022 * scale) * up;
        const Vec3 pivot = pitch >= 0 ? ball : heel;
        auto turned = [&](const Vec3& p) -> Vec3 {
            const Vec3 v = p - pivot;
            const double a = v.dot(f), b = v.y();
            const double c = std::cos(pitch), q = std::sin(pitch);
            return pivot + (a * c + b * q) * f + (b * c - a * q) * up;
        };
        s.ankle[i] = turned(flatAnkle);
        s.heel[i] = turned(heel);
        s.ball[i] = turned(ball);
        const Vec3 toe = ball + 0.085 * scale * f;
        s.toe[i] = pitch >= 0 ? toe : turned(toe);
        s.footForward[i] = (std::cos(pitch) * f - std::sin(pitch) * up).normalized();
    }
    const Vec3 midAnkle = (s.ankle[0] + s.ankle[1]) / 2;
    const double c =
        std::cos(m_spec.toeOutDeg * kRad);  // leg planes are turned out: seen from the side they look shorter
    const double hipHalf = 0.050 * H;
    const double back = (shank * std::sin(shin * kRad) - thigh * std::sin(thighBack * kRad)) * c;
    const double aside = half - hipHalf;  // the legs also slant sideways; the hip sinks for it, the knee bend stays
    const double reach2 = thigh * thigh + shank * shank + 2 * thigh * shank * std::cos((shin + thighBack) * kRad);
    s.midHip = midAnkle + Vec3(back, std::sqrt(std::max(0.01, reach2 - back * back - aside * aside)), 0);
    for (int i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        s.hip[i] = s.midHip + Vec3(0, 0, sign * hipHalf);
        const Vec3 toward(c, 0, sign * std::sin(m_spec.toeOutDeg * kRad));
        s.knee[i] = solveKnee(s.hip[i], s.ankle[i], thigh, shank, toward);
    }

    const double armDeg = mix(8, 82, ease(std::min(1.0, d * 1.15)));
    auto placeUpperBody = [&](double leanDeg) {
        const double trunk = 0.288 * H * m_spec.body.trunkShare;
        const Vec3 up(std::sin(leanDeg * kRad), std::cos(leanDeg * kRad), 0);
        s.lumbar = s.midHip + 0.4 * trunk * up;
        s.midShoulder = s.midHip + trunk * up;
        const double headDeg = leanDeg * 0.75 - rep.neckDeg * d;  // gaze on the floor ahead: the head follows the trunk
        const Vec3 headUp(std::sin(headDeg * kRad), std::cos(headDeg * kRad), 0);
        const Vec3 headForward(headUp.y(), -headUp.x(), 0);
        const Vec3 neckUp = (0.65 * headUp + 0.35 * up).normalized();
        s.headCentre = s.midShoulder + scale * (0.150 * neckUp + 0.02 * headForward + 0.02 * headUp);
        s.nose = s.headCentre + scale * (0.106 * headForward - 0.028 * headUp);
        for (int i = 0; i < 2; ++i) {
            const double sign = i == 0 ? -1 : 1;
            const Vec3 side(0, 0, sign);
            s.ear[i] = s.headCentre + scale * (0.074 * side - 0.005 * headUp);
            s.shoulder[i] = s.midShoulder + 0.103 * H * side;
            const double a = armDeg * kRad;
            const Vec3 arm(std::sin(a), -std::cos(a), 0.06 * sign);
            s.elbow[i] = s.shoulder[i] + 0.172 * H * arm.normalized();
            const double b = (armDeg + 10) * kRad;
            s.wrist[i] = s.elbow[i] + 0.150 * H * Vec3(std::sin(b), -std::cos(b), -0.10 * sign).normalized();
        }
        s.massCentre = massCentreOf(s);
    };

    // The lean that puts the mass centre over the wanted place of the foot; bisection, lean grows → mass moves forward.
    const double heelX = std::min(s.heel[0].x(), s.heel[1].x()), toeX = std::max(s.toe[0].x(), s.toe[1].x());
    const double wanted = mix(heelX, toeX, 0.5 + rep.balanceShift * d) + sway;
    double lo = -35, hi = 80;
    for (int i = 0; i < 40; ++i) {
        const double mid = (lo + hi) / 2;
        placeUpperBody(mid);
        (s.massCentre.x() < wanted ? lo : hi) = mid;
    }
    // Standing, people do not lean to be over mid-foot: blend from upright to balanced as they sink.
    const double balanced = mix(1.0, (lo + hi) / 2, ease(std::min(1.0, d * 2.2)));
    placeUpperBody(balanced + rep.extraLeanDeg * ease(d) - rep.lockoutLeanDeg * m.topLean);
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
    // The heel's truth point lies 2.2 cm (at 175 cm) above the sole in a flat foot.
    a.heelRiseCm = std::max(0.0, (s.heel[side].y() - s.ball[side].y()) * 100);
    return a;
}

}  // namespace zevo::sim
