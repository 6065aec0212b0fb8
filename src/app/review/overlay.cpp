#include "app/review/overlay.h"

#include <cmath>
#include <numbers>

#include "core/body/mass_centre.h"
#include "core/measures/foot_extent.h"

namespace zevo::app {
namespace {

using L = Landmark;
constexpr double kDegrees = 180 / std::numbers::pi;

struct Sketch {
    const Track& track;
    std::size_t sample;
    Overlay out;

    Vec2 near(L left) const { return track.at(track.nearOf(left), sample); }
    QPointF picture(const Vec2& p) const {
        const Vec2 q = track.toPicture(p);
        return {q.x(), q.y()};
    }
    double legLength() const {
        return (track.standingAt(track.nearOf(L::LeftHip)) - track.standingAt(track.nearOf(L::LeftAnkle))).norm();
    }

    void line(const Vec2& a, const Vec2& b) { out.lines.emplace_back(picture(a), picture(b)); }
    void ghost(const Vec2& a, const Vec2& b) { out.ghosts.emplace_back(picture(a), picture(b)); }
    void dot(const Vec2& p) { out.dots.push_back(picture(p)); }

    /// Arc at `centre` from direction a to direction b, the shorter way.
    void arc(const Vec2& centre, const Vec2& a, const Vec2& b) {
        auto direction = [&](const Vec2& d) {
            const QPointF p = picture(centre + d) - picture(centre);
            return std::atan2(-p.y(), p.x()) * kDegrees;
        };
        const double from = direction(a);
        double span = direction(b) - from;
        span -= 360 * std::floor((span + 180) / 360);
        out.arc = Overlay::Arc{picture(centre), from, span};
    }

    void joint(const Vec2& a, const Vec2& centre, const Vec2& b) {
        line(a, centre);
        line(centre, b);
        for (const Vec2& p : {a, centre, b}) dot(p);
        // Flexion is the angle against the straight-on continuation of the first segment.
        const Vec2 on = centre + (centre - a) * 0.6;
        ghost(centre, on);
        arc(centre, on - centre, b - centre);
        out.label = picture(centre);
    }

    void fromVertical(const Vec2& a, const Vec2& b) {
        const Vec2 up(0, (b - a).norm());
        ghost(a, a + up);
        line(a, b);
        dot(a), dot(b);
        arc(a, up, b - a);
        out.label = picture(a + 0.55 * (b - a));
    }

    void rise(L point) {
        const Vec2 p = near(point), rest = track.standingAt(track.nearOf(point));
        const double reach = 0.18 * legLength();
        ghost(Vec2(p.x() - reach, rest.y()), Vec2(p.x() + reach, rest.y()));
        line(Vec2(p.x(), rest.y()), p);
        dot(p);
        out.label = picture(p + Vec2(0, 0.06 * legLength()));
    }

    void path(L point, std::size_t around) {
        const std::size_t from = sample > around ? sample - around : 0;
        for (std::size_t i = from; i < sample; ++i) {
            const L id = track.nearOf(point);
            out.ghosts.emplace_back(picture(track.at(id, i)), picture(track.at(id, i + 1)));
        }
        dot(near(point));
        out.label = picture(near(point));
    }
};

/// From the front: what stands against what, left and right.
Overlay frontalOverlay(Sketch& s, const std::string& measure) {
    auto at = [&](L id) -> Vec2 { return s.track.at(id, s.sample); };
    auto across = [&](L left, bool level) {
        const Vec2 a = at(left), b = at(ofSide(left, Side::Right));
        s.line(a, b);
        s.dot(a), s.dot(b);
        if (level) s.ghost(Vec2(a.x(), 0.5 * (a.y() + b.y())), Vec2(b.x(), 0.5 * (a.y() + b.y())));
        s.out.label = s.picture(0.5 * (a + b));
    };
    auto leg = [&](Side side) {
        const Vec2 hip = at(ofSide(L::LeftHip, side)), knee = at(ofSide(L::LeftKnee, side)),
                   ankle = at(ofSide(L::LeftAnkle, side)), toe = at(ofSide(L::LeftToe, side));
        s.line(hip, knee);
        s.line(knee, ankle);
        s.line(ankle, toe);
        s.ghost(toe, Vec2(toe.x(), knee.y()));  // where the knee would stand over the toe
        for (const Vec2& p : {knee, ankle, toe}) s.dot(p);
        s.out.label = s.picture(knee);
    };
    if (measure == "hip_tilt")
        across(L::LeftHip, true);
    else if (measure == "shoulder_tilt")
        across(L::LeftShoulder, true);
    else if (measure == "stance")
        across(L::LeftAnkle, false);
    else if (measure == "knee_ratio") {
        across(L::LeftAnkle, false);
        across(L::LeftKnee, false);
    } else if (measure == "trunk_shift") {
        const Vec2 feet = 0.5 * (at(L::LeftAnkle) + at(L::RightAnkle)),
                   trunk = 0.25 * (at(L::LeftHip) + at(L::RightHip) + at(L::LeftShoulder) + at(L::RightShoulder));
        s.ghost(feet, Vec2(feet.x(), trunk.y()));
        s.line(Vec2(feet.x(), trunk.y()), trunk);
        s.dot(trunk);
        s.out.label = s.picture(trunk);
    } else if (measure == "nose_knee_toe") {
        const Vec2 nose = at(L::Nose);
        s.ghost(nose, Vec2(nose.x(), at(L::LeftAnkle).y()));
        s.dot(nose);
        for (Side side : {Side::Left, Side::Right}) s.dot(at(ofSide(L::LeftKnee, side)));
        s.out.label = s.picture(nose);
    } else if (measure == "toe_out_uneven") {
        leg(Side::Left);
        leg(Side::Right);
    } else if (measure.ends_with("_left") || measure.ends_with("_right")) {
        leg(measure.ends_with("_left") ? Side::Left : Side::Right);
    } else {
        s.path(L::LeftHip, static_cast<std::size_t>(1.5 * s.track.rate));
    }
    return s.out;
}

}  // namespace

Overlay overlayFor(const std::string& measure, const Track& track, std::size_t sample, const Band* band,
                   std::optional<Side> leg) {
    const Side side = leg.value_or(track.near), other = otherSide(side);
    Sketch s{track, std::min(sample, track.size() - 1), {}};
    if (track.view != ViewKind::Side && track.view != ViewKind::Oblique) return frontalOverlay(s, measure);
    auto at = [&](L left, Side which) -> Vec2 { return track.at(ofSide(left, which), s.sample); };
    const Vec2 hip = at(L::LeftHip, side), knee = at(L::LeftKnee, side), ankle = at(L::LeftAnkle, side),
               shoulder = s.near(L::LeftShoulder);
    if (measure == "thigh_angle") {
        const double length = (hip - knee).norm(), edge = (band && band->max ? *band->max : 0.0) / kDegrees;
        const Vec2 target(-length * std::cos(edge), length * std::sin(edge));
        s.ghost(knee, knee + 1.25 * target);
        s.line(knee, hip);
        s.dot(knee), s.dot(hip);
        s.arc(knee, target, hip - knee);
        s.out.label = s.picture(hip + Vec2(-0.9, -0.35) * length);  // behind and below the seat, clear of the lines
    } else if (measure == "hip_flexion" || measure == "bridge_line") {
        s.joint(shoulder, hip, knee);
    } else if (measure == "trunk_lean" || measure == "top_trunk_lean" || measure == "needed_lean" ||
               measure.starts_with("lean_over_needed")) {
        s.fromVertical(hip, shoulder);
    } else if (measure == "shin_angle") {
        s.fromVertical(ankle, knee);
    } else if (measure == "lean_over_shin") {
        s.line(ankle, knee);
        s.line(hip, shoulder);
        s.ghost(hip, hip + (knee - ankle).normalized() * (shoulder - hip).norm());
        s.arc(hip, knee - ankle, shoulder - hip);
        for (const Vec2& p : {ankle, knee, hip, shoulder}) s.dot(p);
        s.out.label = s.picture(hip + 0.5 * (shoulder - hip));
    } else if (measure == "rear_knee_flexion" || measure == "trailing_knee_flexion") {
        s.joint(at(L::LeftHip, other), at(L::LeftKnee, other), at(L::LeftAnkle, other));
    } else if (measure.starts_with("rear_knee_")) {
        const Vec2 rear = at(L::LeftKnee, other), above = at(L::LeftHip, other);
        s.ghost(above, Vec2(above.x(), rear.y()));
        s.line(Vec2(above.x(), rear.y()), rear);
        s.dot(rear), s.dot(above);
        s.out.label = s.picture(rear);
    } else if (measure == "load_ahead" || measure == "hands_height") {
        const Vec2 hand = s.near(L::LeftWrist);
        s.line(ankle, knee);
        s.ghost(Vec2(hand.x(), ankle.y()), hand);
        s.dot(hand), s.dot(knee), s.dot(ankle);
        s.out.label = s.picture(hand);
    } else if (measure == "usable_depth" || measure == "depth_past_control") {
        s.line(knee, hip);
        s.dot(knee), s.dot(hip);
        s.rise(L::LeftHeel);
    } else if (measure == "heel_rise") {
        s.rise(L::LeftHeel);
    } else if (measure == "toe_rise") {
        s.rise(L::LeftToe);
    } else if (measure == "knee_past_toe") {
        const FootExtent foot = footExtent(track, PointSet::Seen);
        s.ghost(Vec2(foot.toe, foot.floor), Vec2(foot.toe, knee.y() + 0.1 * s.legLength()));
        s.line(Vec2(foot.toe, knee.y()), knee);
        s.dot(knee);
        s.out.label = s.picture(knee);
    } else if (measure == "mass_over_foot") {
        const Vec2 mass = massCentre(track, s.sample, PointSet::Seen);
        const FootExtent foot = footExtent(track, PointSet::Seen);
        auto along = [&](double share) -> Vec2 { return Vec2(foot.heel + share * foot.length(), foot.floor); };
        s.ghost(along(band && band->min ? *band->min : 0), along(band && band->max ? *band->max : 1));
        s.line(mass, Vec2(mass.x(), foot.floor));
        s.dot(mass);
        s.out.label = s.picture(mass);
    } else if (measure == "neck_change") {
        const Vec2 ear = s.near(L::LeftEar), nose = track.at(L::Nose, s.sample);
        s.line(hip, shoulder);
        s.line(ear, nose);
        s.dot(ear), s.dot(nose);
        s.out.label = s.picture(ear);
    } else if (measure == "knee_flexion" || measure == "top_knee_flexion" || measure == "knee_lead" ||
               measure == "hip_per_knee" || measure == "knees_before_trunk") {
        s.joint(hip, knee, ankle);
        if (measure != "knee_flexion" && measure != "top_knee_flexion") s.line(hip, shoulder);
    } else {
        s.path(L::LeftHip, static_cast<std::size_t>(1.5 * track.rate));
    }
    return s.out;
}

Overlay skeletonOverlay(const Track& track, std::size_t sample) {
    Sketch s{track, std::min(sample, track.size() - 1), {}};
    static constexpr std::pair<L, L> kBones[] = {{L::LeftShoulder, L::LeftElbow}, {L::LeftElbow, L::LeftWrist},
                                                 {L::LeftShoulder, L::LeftHip},   {L::LeftHip, L::LeftKnee},
                                                 {L::LeftKnee, L::LeftAnkle},     {L::LeftAnkle, L::LeftHeel},
                                                 {L::LeftHeel, L::LeftToe},       {L::LeftAnkle, L::LeftToe}};
    const bool leftNear = track.near == Side::Left;
    for (const auto& [a, b] : kBones)
        for (const bool left : {true, false}) {
            auto of = [&](L id) { return s.picture(track.at(ofSide(id, left ? Side::Left : Side::Right), s.sample)); };
            (left == leftNear ? s.out.lines : s.out.ghosts).emplace_back(of(a), of(b));
        }
    return s.out;
}

}  // namespace zevo::app
