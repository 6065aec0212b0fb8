// Lunges: the rear leg, and how the body comes up.
#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/measures/reading.h"
#include "core/signal/filter.h"
#include "core/track/perspective.h"

namespace zevo {
namespace {

using L = Landmark;

/// ± of a length between two landmarks, centimetres: their jitter, and what the network misplaces
/// (docs/measurements.md).
double lengthPm(const Track& t, L a, L b, double network) {
    const double jitter = 1.645 * t.cmPerPixel *
                          std::hypot(t.noisePx[static_cast<std::size_t>(a)], t.noisePx[static_cast<std::size_t>(b)]);
    return rootSumSquare({jitter, network});
}

std::optional<Reading> rearKneeFlexion(const MeasureInput& in) {
    if (!in.rep.leg) return std::nullopt;
    return jointAngle(in, in.otherLegSeries().kneeFlexion, Quantity::Knee,
                      {in.otherLeg(L::LeftHip), in.otherLeg(L::LeftKnee)},
                      {in.otherLeg(L::LeftKnee), in.otherLeg(L::LeftAnkle)});
}

/// Rear knee behind the hip (+) or ahead of it, share of the leg's length.
std::optional<Reading> rearKneeBehindHip(const MeasureInput& in) {
    if (!in.rep.leg) return std::nullopt;
    const Track& t = in.track;
    const std::size_t at = in.rep.bottom;
    const double leg = (proportion::kThigh + proportion::kShank) * t.bodyPx;
    if (leg < 1) return std::nullopt;
    const double gap = t.flatAt(in.otherLeg(L::LeftHip), at).x() - t.flatAt(in.otherLeg(L::LeftKnee), at).x();
    return reading(gap / leg, calibrated("lunge.knee_behind_hip"), at);
}

/// Height of the rear knee over the floor at its lowest.
std::optional<Reading> rearKneeHeight(const MeasureInput& in) {
    const Track& t = in.track;
    if (!in.rep.leg || t.cmPerPixel <= 0) return std::nullopt;
    const L knee = in.otherLeg(L::LeftKnee), front = in.leg(L::LeftHeel);
    // The floor under them now: the heel of the working foot, so that a client who travels is read alike.
    const double floor = std::min(t.flatAt(front, in.rep.bottom).y(), t.flatAt(in.leg(L::LeftToe), in.rep.bottom).y());
    double lowest = 1e9;
    std::size_t at = in.rep.bottom;
    for (std::size_t i = in.rep.arrive; i <= in.rep.leave; ++i)
        if (t.flatAt(knee, i).y() < lowest) lowest = t.flatAt(knee, i).y(), at = i;
    return reading((lowest - floor) * t.cmPerPixel, lengthPm(t, knee, front, calibrated("lunge.knee_height")), at);
}

/// How fast the rear knee still falls just before it is lowest.
std::optional<Reading> rearKneeSpeed(const MeasureInput& in) {
    const Track& t = in.track.followed();
    if (!in.rep.leg || t.cmPerPixel <= 0) return std::nullopt;
    const L knee = in.otherLeg(L::LeftKnee);
    std::vector<double> height;
    for (std::size_t i = 0; i < t.size(); ++i) height.push_back(t.flatAt(knee, i).y() * t.cmPerPixel / 100);
    const auto speed = derivative(height, t.rate);
    const std::size_t lowest = smallestIn(height, in.rep.start, in.rep.leave);
    const auto before = static_cast<std::size_t>(0.12 * t.rate);
    const std::size_t at = smallestIn(speed, lowest > before ? lowest - before : 0, lowest);
    return reading(-speed[at], 0.16 + 0.15 * std::abs(speed[at]), at);
}

/// How much further the hips have come up than the shoulders when the lift is a third done, share of the whole way: +
/// the hips go first and the back follows.
std::optional<Reading> hipsBeforeShoulders(const MeasureInput& in) {
    const Track& t = in.track;
    const L hip = t.nearOf(L::LeftHip), shoulder = t.nearOf(L::LeftShoulder);
    auto share = [&](L id, std::size_t i) {
        const double from = t.flatAt(id, in.rep.leave).y(), to = t.flatAt(id, in.rep.end).y();
        return std::abs(to - from) < 1 ? std::nan("") : (t.flatAt(id, i).y() - from) / (to - from);
    };
    double most = std::nan("");
    std::size_t at = in.rep.leave;
    for (std::size_t i = in.rep.leave; i <= in.rep.end; ++i) {
        const double hips = share(hip, i), ahead = hips - share(shoulder, i);
        if (hips < 0.1 || hips > 0.75) continue;
        if (std::isnan(most) || ahead > most) most = ahead, at = i;
    }
    return reading(most, calibrated("lunge.hips_first"), at);
}

/// The same of a pull from the floor, by the angles: how much further the knees have straightened than the trunk has
/// come up, share of the whole way. The hips themselves rise too little there to be compared by height. Plates hide
/// the knee; the ± is that of clips with them.
std::optional<Reading> kneesBeforeTrunk(const MeasureInput& in) {
    auto share = [&](const std::vector<double>& s, std::size_t i) {
        const double way = s[in.rep.leave] - s[in.rep.end];
        return std::abs(way) < 15 ? std::nan("") : (s[in.rep.leave] - s[i]) / way;
    };
    double most = std::nan("");
    std::size_t at = in.rep.leave;
    for (std::size_t i = in.rep.leave; i <= in.rep.end; ++i) {
        const double trunk = share(in.series.trunkLean, i), ahead = share(in.series.kneeFlexion, i) - trunk;
        if (trunk > 0.6) break;
        if (std::isnan(most) || ahead > most) most = ahead, at = i;
    }
    return reading(most, calibrated("hinge.knees_first"), at);
}

/// Bend of the leg that stays straight in a lateral lunge. From the side that leg points towards the camera or away
/// from it and shows short, so that the knee's bend looks larger than it is: what is read is how far the knee stands
/// out of the line from hip to ankle, against a leg of the published length.
std::optional<Reading> trailingKneeFlexion(const MeasureInput& in) {
    const Track& t = in.track;
    // Behind the working leg the network cannot tell the far one from it.
    if (!in.rep.leg || *in.rep.leg == t.near) return std::nullopt;
    const std::size_t at = in.rep.bottom;
    const double leg = (proportion::kThigh + proportion::kShank) * t.bodyPx;
    const Vec2 &hip = t.flatAt(in.otherLeg(L::LeftHip), at), &knee = t.flatAt(in.otherLeg(L::LeftKnee), at),
               &ankle = t.flatAt(in.otherLeg(L::LeftAnkle), at);
    const Vec2 line = hip - ankle;
    if (leg < 1 || line.norm() < 0.2 * leg) return std::nullopt;
    const Vec2 out = knee - ankle;
    const double aside = (line.y() * out.x() - line.x() * out.y()) / line.norm();  // knee ahead +
    return reading(2 * std::asin(std::clamp(2 * aside / leg, -1.0, 1.0)) * 57.2957795,
                   calibrated("lunge.trailing_knee"), at);
}

/// Spread of nose, working knee and toe from side to side.
std::optional<Reading> noseKneeToe(const MeasureInput& in) {
    const Track& t = in.track;
    if (!in.rep.leg || t.cmPerPixel <= 0) return std::nullopt;
    const std::size_t at = in.rep.bottom;
    const std::array<double, 3> x{t.at(L::Nose, at).x(), t.at(in.leg(L::LeftKnee), at).x(),
                                  t.at(in.leg(L::LeftToe), at).x()};
    const auto [least, most] = std::minmax_element(x.begin(), x.end());
    return reading((*most - *least) * t.cmPerPixel, calibrated("lunge.nose_knee_toe"), at);
}

/// How far the nose stands past the working knee, away from the other leg; short of it −.
std::optional<Reading> nosePastKnee(const MeasureInput& in) {
    const Track& t = in.track;
    if (!in.rep.leg || !in.front || t.cmPerPixel <= 0) return std::nullopt;
    const std::size_t at = in.rep.bottom;
    const double outward = (in.legSide() == Side::Left ? -1 : 1) * in.front->rightwards;
    return reading((t.at(L::Nose, at).x() - t.at(in.leg(L::LeftKnee), at).x()) * outward * t.cmPerPixel,
                   calibrated("lunge.nose_knee_toe"), at);
}

/// Turn of the pelvis about the vertical against rest, from how far the hips stand apart from the side. The near hip
/// hides the far one: on virtual clients the network's hips did not follow the turn at all (docs/measurements.md), so
/// the ± leaves nearly every case open.
std::optional<Reading> hipTurn(const MeasureInput& in) {
    const Track& t = in.track;
    const double breadth = 0.5 * proportion::kHipBreadth * t.bodyPx;  // joint to joint: about half the outer breadth
    if (breadth < 1) return std::nullopt;
    auto apart = [&](const Vec2& left, const Vec2& right) {
        return std::asin(std::clamp((right.x() - left.x()) / breadth, -1.0, 1.0)) * 57.2957795;
    };
    const std::size_t at = in.rep.bottom;
    const double now = apart(t.flatAt(L::LeftHip, at), t.flatAt(L::RightHip, at));
    const double rest = apart(t.standingFlatAt(L::LeftHip), t.standingFlatAt(L::RightHip));
    return reading(now - rest, calibrated("hip_turn"), at);
}

/// How far the front foot stands outside the rear one, sideways: two rails, one line or crossed. Seen from the front
/// the front foot is nearer to the camera than the hips and the rear one further; how much follows from what a lunge
/// is: the front ankle about a thigh ahead of the hips, the rear one about a shank behind them. Lines ahead of the
/// client meet where they look: at the camera when they face it, that is above themselves in the picture; in its middle
/// when they stand beside its axis and look past it. Which of the two is not known, so the difference goes into the ±.
/// The rear ankle is hidden more often than not and put where it is all the same (38 of 40 reps within ±0.2), so its
/// visibility is not asked for. Half of what the second look moved the ankles by goes into the ±.
std::optional<Reading> feetOnRails(const MeasureInput& in) {
    const Track& t = in.track;
    if (!in.rep.leg || !in.front || in.movement.sideways || t.bodyPx < 1) return std::nullopt;
    constexpr double kPm = calibrated("lunge.rails");
    const double shoulders = std::abs(t.standingAt(L::RightShoulder).x() - t.standingAt(L::LeftShoulder).x());
    if (shoulders < 1) return std::nullopt;
    const double perDepth = t.bodyPx / assumedFocalPx(t.pictureWidth, t.pictureHeight),
                 towardsCamera = t.view == ViewKind::Rear ? -1 : 1;
    const double own = 0.5 * (t.standingAt(L::LeftHip).x() + t.standingAt(L::RightHip).x());
    const std::size_t half = in.samples(kLongS), at = in.rep.bottom, from = at > half ? at - half : 0,
                      to = std::min(at + half, t.size() - 1);
    auto apartIn = [&](const Track& seen) {
        auto aside = [&](L ankle, double aheadShare, std::size_t i) {
            return (seen.at(ankle, i).x() - own) * (1 - towardsCamera * aheadShare * perDepth);
        };
        double sum = 0;
        for (std::size_t i = from; i <= to; ++i)
            sum += aside(in.leg(L::LeftAnkle), proportion::kThigh, i) -
                   aside(in.otherLeg(L::LeftAnkle), -proportion::kShank, i);
        return sum / static_cast<double>(to - from + 1);
    };
    const double apart = apartIn(t), moved = t.asFollowed ? apart - apartIn(*t.asFollowed) : 0;
    const double outward = (in.legSide() == Side::Left ? -1 : 1) * in.front->rightwards;
    const double open = std::abs(own - t.pictureWidth / 2.0) * (proportion::kThigh + proportion::kShank) * perDepth;
    return reading(outward * apart / shoulders, rootSumSquare({kPm, open / shoulders, 0.5 * moved / shoulders}), at);
}

}  // namespace

std::span<const MeasureDef> lungeMeasures() {
    using namespace row;
    static const std::vector<SketchPart> rearGap{{Draw::Apart, kOtherHip, kOtherKnee}};
    static const std::vector<MeasureDef> all{
        {"rear_knee_flexion",
         "Rear knee bend",
         "knee flexion of the rear leg",
         Unit::Degrees,
         kSideView,
         Of::WorkingLeg,
         other({L::LeftHip, L::LeftKnee, L::LeftAnkle}),
         {nullptr, [](const ViewSeries& v,
                      Side leg) { return v.side.legs[static_cast<std::size_t>(otherSide(leg))].kneeFlexion; }},
         {{Draw::Joint, kOtherHip, kOtherKnee, kOtherAnkle}},
         {0, 150},
         rearKneeFlexion},
        {"rear_knee_behind_hip",
         "Rear knee behind the hip",
         "horizontal gap rear knee to hip, share of the leg",
         Unit::Share,
         kSideView,
         Of::WorkingLeg,
         other({L::LeftHip, L::LeftKnee}),
         kByKnee,
         rearGap,
         {-0.5, 0.6},
         rearKneeBehindHip},
        {"rear_knee_height",
         "Rear knee over the floor",
         "height of the rear knee at its lowest",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         other({L::LeftKnee}) + working({L::LeftHeel, L::LeftToe}),
         kByKnee,
         rearGap,
         {0, 60},
         rearKneeHeight},
        {"rear_knee_speed",
         "Rear knee on landing",
         "downward speed of the rear knee",
         Unit::MetresPerSecond,
         kSideView,
         Of::WorkingLeg,
         other({L::LeftKnee}),
         kByKnee,
         rearGap,
         {0, 2},
         rearKneeSpeed},
        {"hips_before_shoulders",
         "Hips rise before shoulders",
         "hip rise ahead of trunk rise, share of the lift",
         Unit::Share,
         kSideView,
         Of::Body,
         near({L::LeftHip, L::LeftShoulder}),
         kByTrunk,
         {{Draw::Path, kNearHip}},
         {-0.5, 1},
         hipsBeforeShoulders},
        {"knees_before_trunk",
         "Knees straighten before the trunk rises",
         "knee extension ahead of trunk rise, share of the lift",
         Unit::Share,
         kSideView,
         Of::Body,
         near({L::LeftHip, L::LeftKnee, L::LeftAnkle}),
         kByKnee,
         {{Draw::Joint, kHip, kKnee, kAnkle}, {Draw::Segment, kHip, kShoulder}},
         {-1, 1},
         kneesBeforeTrunk},
        {"hip_turn",
         "Hips turned",
         "pelvis rotation, right side forward +",
         Unit::Degrees,
         kSideView,
         Of::Body,
         both({L::LeftHip}),
         kByKnee,
         {{Draw::Path, kNearHip}},
         {-60, 60},
         hipTurn},
        {"trailing_knee_flexion",
         "Trailing knee bend",
         "knee flexion of the straight leg",
         Unit::Degrees,
         kSideView,
         Of::WorkingLeg,
         other({L::LeftHip, L::LeftKnee, L::LeftAnkle}),
         kByKnee,
         {{Draw::Joint, kOtherHip, kOtherKnee, kOtherAnkle}},
         {0, 90},
         trailingKneeFlexion},
        {"feet_on_rails",
         "Front foot outside the rear one",
         "lateral distance of the ankles, share of the shoulders; crossed −",
         Unit::Share,
         kFrontal,
         Of::WorkingLeg,
         working({L::LeftAnkle}),
         kBySeparation,
         {{Draw::Across, {L::LeftAnkle, Role::Left}, {L::LeftAnkle, Role::Right}}},
         {-1, 2},
         feetOnRails},
        {"nose_knee_toe",
         "Nose, knee and toe apart",
         "frontal spread of nose, knee and toe",
         Unit::Centimetres,
         kFrontal,
         Of::WorkingLeg,
         working({L::Nose, L::LeftKnee, L::LeftToe}),
         kBySeparation,
         {{Draw::PlumbOf, kNose, kKnee, kToe}},
         {0, 50},
         noseKneeToe},
        {"nose_past_knee",
         "Nose past the working knee",
         "frontal distance of nose and knee, away from the other leg +",
         Unit::Centimetres,
         kFrontal,
         Of::WorkingLeg,
         working({L::Nose, L::LeftKnee}),
         kBySeparation,
         {{Draw::PlumbOf, kNose, kKnee}},
         {-40, 40},
         nosePastKnee},
    };
    return all;
}

}  // namespace zevo
