#include "core/series/front_depth.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/angles.h"
#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/track/perspective.h"

namespace zevo {
namespace {

using Eigen::Vector3d;
using L = Landmark;

/// Lines of sight of a pinhole: x to the right in the track's frame, y up against gravity, z level, away from the
/// camera. Lengths in statures.
class Sight {
  public:
    explicit Sight(const Track& t)
        : m_middle(t.pictureWidth / 2.0, t.pictureHeight / 2.0),
          m_focalPx(assumedFocalPx(t.pictureWidth, t.pictureHeight)) {
        const double down = t.hold ? t.hold->pitchDeg * kRadiansPerDegree : 0;
        m_cos = std::cos(down), m_sin = std::sin(down);
    }
    /// Through a place of the track, as long as goes 1 along the camera's axis.
    Vector3d through(const Vec2& place) const {
        const Vec2 p = (place - m_middle) / m_focalPx;
        return {p.x(), p.y() * m_cos - m_sin, p.y() * m_sin + m_cos};
    }
    double focalPx() const { return m_focalPx; }

  private:
    Vec2 m_middle;
    double m_focalPx, m_cos, m_sin;
};

enum class Root { Nearer, Further };

/// Where a line of sight is `length` from a place. Where it passes by further off, the point of it that is nearest.
Vector3d reached(const Vector3d& sight, const Vector3d& from, double length, Root root) {
    const double along = sight.dot(from) / sight.squaredNorm(), off2 = (along * sight - from).squaredNorm(),
                 half = std::sqrt(std::max(0.0, length * length - off2)) / sight.norm();
    return (root == Root::Nearer ? along - half : along + half) * sight;
}

/// How far a knee may be drawn off its place, up or down, and a shank be another length than it is taken for, together;
/// statures.
constexpr double kKneeOff = calibrated("front.knee_off");
/// The part of the knee's bend that a shin leans in a squat, and what that may be off by at 120° of bend.
constexpr double kShinShare = calibrated("front.shin_share"), kShinShareOffDeg = calibrated("front.shin_share_off");

/// A leg from its foot up.
class Leg {
  public:
    Leg(const Sight& sight, const Vector3d& foot, double shank, double thigh)
        : m_sight(sight), m_foot(foot), m_shank(shank), m_thigh(thigh) {}

    struct Pose {
        double kneeFlexion, shinAngle, thighAngle, cost;
    };
    /// Where hip and knee are drawn, pixels; a stature, likewise; and how far the knee may be drawn off its place.
    struct Drawn {
        Vec2 hip, knee;
        double stature, kneeOff;
    };
    /// With the knee taken `moved` above its place, statures.
    Pose posed(const Drawn& drawn, double moved) const {
        constexpr double kBeyond = 0.005, kStandingOffDeg = 2, kDeepDeg = 120;
        const Vector3d toKnee = m_sight.through(drawn.knee + Vec2(0, moved * drawn.stature));
        const Vector3d k = reached(toKnee, m_foot, m_shank, Root::Nearer),
                       h = reached(m_sight.through(drawn.hip), k, m_thigh, Root::Further);
        Pose p{};
        p.kneeFlexion = kneeFlexion(sagittal(h), sagittal(k), sagittal(m_foot));
        p.shinAngle = shinAngle(sagittal(m_foot), sagittal(k));
        p.thighAngle = thighAngle(sagittal(k), sagittal(h));
        const double beyond = std::max(0.0, (k - m_foot).norm() - m_shank),
                     unlike = p.shinAngle - kShinShare * p.kneeFlexion,
                     allowed = kStandingOffDeg + kShinShareOffDeg * std::max(0.0, p.kneeFlexion) / kDeepDeg;
        p.cost = square(moved / drawn.kneeOff) + square(unlike / allowed) + square(beyond / kBeyond);
        return p;
    }
    /// How far the knee has to be moved for all three to agree best: downhill from where it is drawn, and to the lowest
    /// place of the parabola there.
    double bestMoved(const Drawn& drawn) const {
        constexpr int kMostSteps = 8;
        constexpr double kStep = 0.0075;
        auto costAt = [&](int steps) { return posed(drawn, steps * kStep).cost; };
        int at = 0;
        double below = costAt(-1), here = costAt(0), above = costAt(1);
        const int way = below < above ? -1 : 1;
        while (std::min(below, above) < here && std::abs(at) < kMostSteps) {
            at += way;
            (way < 0 ? above : below) = here;
            here = way < 0 ? below : above;
            (way < 0 ? below : above) = costAt(at + way);
        }
        const double bent = below - 2 * here + above;
        const double beside = bent > 0 ? std::clamp(0.5 * (below - above) / bent, -1.0, 1.0) : 0;
        return (at + beside) * kStep;
    }

  private:
    static double square(double v) { return v * v; }
    /// In the plane of a client who faces the camera, their front at +x.
    static Vec2 sagittal(const Vector3d& p) { return {-p.z(), p.y()}; }

    const Sight& m_sight;
    Vector3d m_foot;
    double m_shank, m_thigh;
};

void take(const Leg::Pose& pose, LegInSpace& into) {
    into.kneeFlexion.push_back(pose.kneeFlexion);
    into.shinAngle.push_back(pose.shinAngle);
    into.thighAngle.push_back(pose.thighAngle);
}

}  // namespace

LegsInSpace legsInSpace(const Track& t) {
    LegsInSpace out;
    if (t.view != ViewKind::Front || t.family != Family::Squat || !(t.bodyPx > 1)) return out;
    const Sight sight(t);
    const Vec2 hips = 0.5 * (t.standingAt(L::LeftHip) + t.standingAt(L::RightHip));
    const double standsAt = sight.focalPx() / t.bodyPx * sight.through(hips).z();
    auto atRest = [&](L point) -> Vector3d {
        const Vector3d s = sight.through(t.standingAt(point));
        return s * (standsAt / s.z());
    };
    for (Side side : {Side::Left, Side::Right}) {
        const L hip = ofSide(L::LeftHip, side), knee = ofSide(L::LeftKnee, side), ankle = ofSide(L::LeftAnkle, side);
        const Vector3d foot = atRest(ankle), restKnee = atRest(knee);
        const double shank = 0.5 * ((restKnee - foot).norm() + proportion::kShank),
                     thigh = 0.5 * ((atRest(hip) - restKnee).norm() + proportion::kThigh);
        const Leg standing(sight, foot, shank, thigh);
        LegInSpace &weighed = out.weighed[static_cast<std::size_t>(side)],
                   &asDrawn = out.asDrawn[static_cast<std::size_t>(side)];
        for (std::size_t i = 0; i < t.size(); ++i) {
            // Where the coach put the knee it stays, but for what a hand misses it by.
            const double off = t.isManual(knee, i) ? std::min(kKneeOff, kHandPx / t.bodyPx) : kKneeOff;
            const Leg::Drawn drawn{t.at(hip, i), t.at(knee, i), t.bodyPx, off};
            take(standing.posed(drawn, standing.bestMoved(drawn)), weighed);
            take(standing.posed(drawn, 0), asDrawn);
        }
    }
    return out;
}

}  // namespace zevo
