// Squat and hinge: both feet planted; the legs' bend says where the hips are, balance says how the trunk leans
// (squat) or how far the hips go back (hinge).
#include <algorithm>
#include <cmath>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

Arms armsOf(const MotionSpec& spec) {
    const bool away = spec.arms == zevo::Arms::PushedAway;
    if (spec.variation == "goblet") return away ? Arms::PushedAway : Arms::Chest;
    if (spec.variation == "back-bar") return Arms::Back;
    if (spec.variation == "two-kettlebell-front") return Arms::Rack;
    if (spec.variation == "front-bar") return Arms::FrontBar;
    if (spec.variation == "overhead") return Arms::Overhead;
    if (spec.variation == "supported") return Arms::Support;
    if (spec.variation == "dowel") return Arms::Dowel;
    if (spec.variation == "swing") return Arms::Swing;
    if (spec.movement == "hinge") return spec.variation.empty() ? Arms::Hips : Arms::Hang;
    if (spec.arms == zevo::Arms::HeldIn) return Arms::HeldIn;
    return spec.arms == zevo::Arms::BehindHead ? Arms::BehindHead : Arms::Forward;
}

}  // namespace

void poseStanding(Skeleton& s, const MotionSpec& spec, const RepSpec& rep, const Moment& m) {
    const Segments seg(spec.body);
    const bool hinge = spec.movement == "hinge";
    const double d = m.depth;
    // Sway: nobody stands like a post. Millimetres, slow, the same in every run.
    const double sway = 0.004 * std::sin(1.7 * m.timeS) + 0.002 * std::sin(4.1 * m.timeS + 1);
    const double shooting = m.rising ? rep.hipsShootUp * 4 * d * (1 - d) : 0.0;
    const double legs = d - 0.22 * shooting;

    const double late = ease(std::clamp((d - rep.tuckFrom) / std::min(0.5, 1 - rep.tuckFrom), 0.0, 1.0));
    const double heelToBall = seg.heelBack + seg.ballAhead;
    const double lifted = ease(std::clamp((d - rep.heelFrom) / std::min(0.5, 1 - rep.heelFrom), 0.0, 1.0));
    const double pitch = std::asin(std::clamp(rep.heelRiseCm / 100 * lifted / heelToBall, 0.0, 0.9)) -
                         std::asin(std::clamp(rep.toeRiseCm / 100 * lifted / (heelToBall + seg.toeAhead), 0.0, 0.9));
    const double half = spec.stanceShare * seg.stature / 2;
    // In a split stance the other foot stands behind on its ball and carries little.
    const bool split = spec.variation == "split-stance";
    for (int i = 0; i < 2; ++i) {
        const bool behind = split && i != m.working;
        placeFoot(s, i, seg,
                  {Vec3(behind ? -0.30 * seg.scale : 0, seg.ankleHeight, (i == 0 ? -1 : 1) * half),
                   spec.toeOutDeg + (i == 1 ? spec.toeOutUnevenDeg : 0), behind ? 35 : pitch / kRadiansPerDegree});
    }
    const auto carrying = static_cast<std::size_t>(m.working);
    Vec3 midAnkle = (s.ankle[0] + s.ankle[1]) / 2;
    if (split) midAnkle = Vec3(s.ankle[carrying].x(), s.ankle[carrying].y(), 0);
    const double turnedOut =
        std::cos(spec.toeOutDeg * kRadiansPerDegree);  // seen from the side turned-out legs look shorter
    const double drop = rep.hipDropDeg * d * kRadiansPerDegree, turn = rep.hipTurnDeg * d * kRadiansPerDegree;
    s.pelvisRight = Vec3(std::sin(turn), -std::sin(drop), std::cos(turn) * std::cos(drop)).normalized();
    const double wobble = rep.kneeWobbleCm * std::sin(2 * std::numbers::pi * 3.2 * m.timeS) * std::min(1.0, 2 * d);

    const double standing = spec.standingKneeDeg - rep.lockoutKneeDeg * m.topLean;
    auto placeLegs = [&](double shin, double thighBack) {
        const double back =
            (seg.shank * std::sin(shin * kRadiansPerDegree) - seg.thigh * std::sin(thighBack * kRadiansPerDegree)) *
            turnedOut;
        const double aside = half - seg.hipHalf;  // the legs also slant sideways; the hip sinks for it
        const double reach2 = seg.thigh * seg.thigh + seg.shank * seg.shank +
                              2 * seg.thigh * seg.shank * std::cos((shin + thighBack) * kRadiansPerDegree);
        s.midHip = midAnkle +
                   Vec3(back, std::sqrt(std::max(0.01, reach2 - back * back - aside * aside)), rep.shiftCm / 100 * d);
        for (int i = 0; i < 2; ++i) {
            const double sign = i == 0 ? -1 : 1;
            s.hip[i] = s.midHip + sign * seg.hipHalf * s.pelvisRight;
            const Vec3 toward(turnedOut, 0, sign * std::sin(spec.toeOutDeg * kRadiansPerDegree));
            const double inCm = (i == 0 ? rep.kneeInLeftCm : rep.kneeInRightCm) * d + wobble;
            s.knee[i] = solveKnee(s.hip[i], s.ankle[i], seg.thigh, seg.shank, toward, inCm / 100, -sign);
        }
    };
    auto placeUpper = [&](double lean) {
        placeTrunk(s, seg,
                   {lean, lean * 0.75 - rep.neckDeg * d, rep.tuckDeg * late - rep.lockoutArchDeg * m.topLean,
                    rep.roundDeg * d, rep.shoulderTipDeg * d});
        placeArms(s, seg, armsOf(spec), rep, d);
        s.massCentre = massCentreOf(s, spec.loadShare);
    };
    const double heelX = split ? s.heel[carrying].x() : std::min(s.heel[0].x(), s.heel[1].x()),
                 toeX = split ? s.toe[carrying].x() : std::max(s.toe[0].x(), s.toe[1].x());
    const double wanted = mix(heelX, toeX, 0.5 + rep.balanceShift * d) + sway;
    /// The value between lo and hi that brings the mass centre over the wanted place; mass goes forward with it.
    auto balance = [&](double lo, double hi, auto place) {
        for (int i = 0; i < 40; ++i) {
            const double mid = (lo + hi) / 2;
            place(mid);
            (s.massCentre.x() < wanted ? lo : hi) = mid;
        }
        return (lo + hi) / 2;
    };
    // Standing, people do not lean to be over mid-foot: blend from upright to balanced as they sink.
    const double leave = ease(std::min(1.0, d * 2.2));
    const double leanExtra = rep.extraLeanDeg * ease(d) + 40 * shooting - rep.lockoutLeanDeg * m.topLean;
    if (hinge) {
        const double lean = mix(1.0, rep.hingeLeanDeg, d) + leanExtra, knee = mix(standing, rep.kneeBendDeg, legs);
        auto place = [&](double shin) {
            placeLegs(shin, knee - shin);
            placeUpper(lean);
        };
        place(mix(standing * 0.5, balance(-25, 30, place), leave));
    } else {
        // With "knees first" the shins reach their angle in the first part of the descent and the thigh stays
        // upright; otherwise all joints go together.
        const double shinProgress = mix(legs, std::pow(legs, 0.35), rep.kneesFirst);
        const double thighProgress = mix(legs, std::pow(legs, 1.7), rep.kneesFirst);
        placeLegs(mix(standing * 0.5, rep.shinBottomDeg, shinProgress),
                  mix(standing * 0.5, 90 - rep.thighBottomDeg, thighProgress));
        const double lean = balance(-35, 80, placeUpper);
        placeUpper(mix(1.0, lean, leave) + leanExtra);
    }
    if (spec.variation == "box") {
        const double seat = 0.5 * seg.thigh + seg.ankleHeight;
        s.props.push_back(
            {Prop::Kind::Box, Vec3(-0.42 * seg.scale, seat / 2, 0), Vec3(0.2, seat / 2, 0.24), 0, {168, 128, 84}});
    }
}

}  // namespace zevo::sim
