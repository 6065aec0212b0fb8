#include "core/track/second_estimates.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <utility>
#include <vector>

#include "core/base/angles.h"
#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"

namespace zevo {
namespace {

constexpr double kTogetherS = 0.2;  // secondEstimates closer than this are about one turning point
constexpr double kDoubtDeg = calibrated("doubt.networks");
constexpr double kSamePoseDeg = calibrated("doubt.same_pose"), kOtherPoseDeg = calibrated("doubt.other_pose");
/// A network that looked at somebody else, share of the body's height.
constexpr double kSomebodyElse = calibrated("doubt.somebody_else");

using Differences = std::array<std::optional<Vec2>, kLandmarkCount>;

Vec2 inTrack(const LandmarkPoint& p, const Track& t) {
    return t.fromPicture(Vec2(p.x, p.y));
}

/// Mean difference of a network's points from the followed ones over its frames.
Differences differencesOf(std::span<const SecondEstimate* const> secondEstimates, const Track& t) {
    Differences out;
    for (std::size_t id = 0; id < kLandmarkCount; ++id) {
        Vec2 sum = Vec2::Zero();
        int n = 0;
        for (const SecondEstimate* o : secondEstimates) {
            const LandmarkPoint& p = o->points[id];
            if (p.presence < 0.5F || !std::isfinite(p.x) || !std::isfinite(p.y)) continue;
            sum += inTrack(p, t) - t.points[id][t.sampleAt(o->timeS)];
            ++n;
        }
        if (n > 0) out[id] = sum / n;
    }
    return out;
}

std::array<double, 5> anglesAt(const Track& t, std::size_t at, const Differences& with) {
    auto point = [&](Landmark left) {
        const auto id = static_cast<std::size_t>(t.nearOf(left));
        return Vec2(t.points[id][at] + with[id].value_or(Vec2::Zero()));
    };
    const Vec2 shoulder = point(Landmark::LeftShoulder), hip = point(Landmark::LeftHip),
               knee = point(Landmark::LeftKnee), ankle = point(Landmark::LeftAnkle);
    return {kneeFlexion(hip, knee, ankle), hipFlexion(shoulder, hip, knee), trunkLean(hip, shoulder),
            shinAngle(ankle, knee), thighAngle(knee, hip)};
}

/// Whether the other network's left leg lies on the followed right one and the other way round.
bool callsLegsOtherwise(const Track& t, std::size_t at, const Differences& with) {
    double same = 0, swapped = 0, apart = 0;
    for (auto left : {Landmark::LeftKnee, Landmark::LeftAnkle}) {
        const auto l = static_cast<std::size_t>(left), r = l + 1;
        if (!with[l] || !with[r]) return false;
        const Vec2 &mineL = t.points[l][at], &mineR = t.points[r][at];
        const Vec2 theirsL = mineL + *with[l], theirsR = mineR + *with[r];
        same += with[l]->norm() + with[r]->norm();
        swapped += (theirsL - mineR).norm() + (theirsR - mineL).norm();
        apart += (mineL - mineR).norm();
    }
    constexpr double kClearlyNearer = 0.5;
    return apart > 0 && swapped < kClearlyNearer * same;
}

double bodySpan(const Track& t, std::size_t at) {
    return (t.points[static_cast<std::size_t>(t.nearOf(Landmark::LeftShoulder))][at] -
            t.points[static_cast<std::size_t>(t.nearOf(Landmark::LeftHip))][at])
               .norm() *
           3.5;  // of the trunk: about the stature
}

bool isSomebodyElse(const Track& t, std::size_t at, const Differences& d) {
    Vec2 sum = Vec2::Zero();
    int n = 0;
    for (auto id : {Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftHip, Landmark::RightHip})
        if (const auto& difference = d[static_cast<std::size_t>(id)]) sum += *difference, ++n;
    return n == 0 || (sum / n).norm() > kSomebodyElse * bodySpan(t, at);
}

/// From the front: by how much both thighs turn, degrees, where the larger network has the hips too much higher or
/// lower to be believed.
std::optional<double> hipsDoubtedBy(const Differences& larger, const Track& t) {
    const auto &left = larger[static_cast<std::size_t>(Landmark::LeftHip)],
               &right = larger[static_cast<std::size_t>(Landmark::RightHip)];
    if (!left || !right) return std::nullopt;
    double legs = 1;  // both, as long as they show at most, pixels
    for (std::size_t i = 0; i < t.size(); ++i)
        legs = std::max(legs, t.at(Landmark::LeftHip, i).y() + t.at(Landmark::RightHip, i).y() -
                                  t.at(Landmark::LeftAnkle, i).y() - t.at(Landmark::RightAnkle, i).y());
    const double apart = std::abs(left->y() + right->y()) / legs * (proportion::kThigh + proportion::kShank);
    if (apart <= calibrated("doubt.front_hips")) return std::nullopt;
    return apart / proportion::kThigh * kDegreesPerRadian;
}

double median3(double a, double b, double c) {
    return std::max(std::min(a, b), std::min(std::max(a, b), c));
}

/// Largest difference of one of the five angles between the followed points and those of another network.
double apartDeg(const Track& t, std::size_t at, const Differences& with) {
    const auto mine = anglesAt(t, at, {}), theirs = anglesAt(t, at, with);
    double most = 0;
    for (std::size_t i = 0; i < mine.size(); ++i) most = std::max(most, std::abs(wrapDegrees(mine[i] - theirs[i])));
    return most;
}

/// Each coordinate the middle one of three: as followed, by the larger and by the other network.
Differences medianOf(const Differences& larger, const Differences& other) {
    Differences out;
    for (std::size_t id = 0; id < kLandmarkCount; ++id) {
        if (!larger[id] || !other[id]) continue;  // of two, neither is the middle: as followed
        out[id] = Vec2(median3(0, larger[id]->x(), other[id]->x()), median3(0, larger[id]->y(), other[id]->y()));
    }
    return out;
}

/// Knees and ankles lie where the network that was trained elsewhere and the larger one together have them. Of the
/// three it is nearest there, at hips and shoulders it is the furthest away (own measurements: docs/measurements.md,
/// “Lifelike people”).
void takeLegsFromBoth(const Differences& other, Differences& larger) {
    constexpr double kOther = 2.0 / 3;
    for (auto id : {Landmark::LeftKnee, Landmark::RightKnee, Landmark::LeftAnkle, Landmark::RightAnkle}) {
        const auto i = static_cast<std::size_t>(id);
        if (larger[i] && other[i]) larger[i] = (1 - kOther) * *larger[i] + kOther * *other[i];
    }
}

/// Of a lunge from the front. Nothing where the feet stand so wide that no leg covers the other: a split stance's are
/// about 0.14 of the stature apart sideways, a lateral lunge's 0.4.
Differences legsInFront(const Track& t, std::size_t at, const Differences& other) {
    constexpr std::array kLegs{Landmark::LeftKnee, Landmark::RightKnee, Landmark::LeftAnkle, Landmark::RightAnkle};
    constexpr auto kLeft = static_cast<std::size_t>(Landmark::LeftAnkle),
                   kRight = static_cast<std::size_t>(Landmark::RightAnkle);
    constexpr double kWide = 0.25;
    Differences out;
    if (!other[kLeft] || !other[kRight]) return out;
    const double span = std::max(1.0, bodySpan(t, at)),
                 followed = (t.points[kLeft][at].x() - t.points[kRight][at].x()) / span,
                 change = (other[kLeft]->x() - other[kRight]->x()) / span;
    if (std::min(std::abs(followed), std::abs(followed + change)) > kWide) return out;
    const bool elsewhere = callsLegsOtherwise(t, at, other) || std::abs(change) > calibrated("second.legs_in_front");
    for (auto id : kLegs)
        if (const auto& d = other[static_cast<std::size_t>(id)])
            out[static_cast<std::size_t>(id)] = elsewhere ? *d : 0.5 * *d;
    return out;
}

/// What a network sees wrongly it sees wrongly in the whole pose, not for a moment: the difference found at the turning
/// point holds as long as the pose stays like it, and fades as it becomes another. Were it to fade with the clock, the
/// deepest sample would be found where it has faded.
void spread(Track& t, std::size_t at, const Differences& by) {
    const auto there = anglesAt(t, at, {});
    auto weightAt = [&](std::size_t i) {
        const auto here = anglesAt(t, i, {});
        double most = 0;
        for (std::size_t k = 0; k < here.size(); ++k) most = std::max(most, std::abs(wrapDegrees(here[k] - there[k])));
        if (!std::isfinite(most)) return 0.0;
        const double past = std::clamp((most - kSamePoseDeg) / (kOtherPoseDeg - kSamePoseDeg), 0.0, 1.0);
        return 0.5 * (1 + std::cos(std::numbers::pi * past));
    };
    std::vector<std::pair<std::size_t, double>> weights{{at, 1.0}};
    for (std::size_t i = at; i-- > 0;) {
        const double w = weightAt(i);
        if (w <= 0) break;
        weights.emplace_back(i, w);
    }
    for (std::size_t i = at + 1; i < t.size(); ++i) {
        const double w = weightAt(i);
        if (w <= 0) break;
        weights.emplace_back(i, w);
    }
    for (const auto& [i, weight] : weights)
        for (std::size_t id = 0; id < kLandmarkCount; ++id)
            if (by[id]) t.points[id][i] += weight * *by[id];
}

}  // namespace

void applySecondEstimates(std::span<const SecondEstimate> secondEstimates, Family family, Track& t) {
    t.doubts.clear();
    if (t.size() == 0) return;
    std::vector<const SecondEstimate*> all;
    for (const SecondEstimate& o : secondEstimates) all.push_back(&o);
    std::stable_sort(all.begin(), all.end(), [](auto* a, auto* b) { return a->timeS < b->timeS; });
    for (std::size_t from = 0, to = 0; from < all.size(); from = to) {
        while (to < all.size() && all[to]->timeS - all[from]->timeS < kTogetherS) ++to;
        std::vector<const SecondEstimate*> heavy, second;
        double atS = 0;
        for (std::size_t i = from; i < to; ++i) {
            atS += all[i]->timeS / static_cast<double>(to - from);
            (all[i]->network == "second" ? second : heavy).push_back(all[i]);
        }
        const std::size_t at = t.sampleAt(atS);
        Differences larger = differencesOf(heavy, t), other = differencesOf(second, t);
        if (isSomebodyElse(t, at, larger)) larger = {};
        if (!second.empty() && isSomebodyElse(t, at, other)) other = {};
        if (t.view == ViewKind::Side) {
            const bool legs = !second.empty() && callsLegsOtherwise(t, at, other);
            // Legs called the other way round are no place to move points to.
            const double apart = second.empty() ? 0 : apartDeg(t, at, other), stray = apartDeg(t, at, larger);
            if (legs) other = {};
            if (legs || apart > kDoubtDeg || (second.empty() && stray > kDoubtDeg))
                t.doubts.push_back({atS, std::max(apart, second.empty() ? stray : 0.0), legs});
            // Where one of the three stands apart, the two others have it. Networks that merely differ are each as
            // far off as usual, and their middle is then no better than the best of each.
            if (legs || apart > kDoubtDeg || stray > kDoubtDeg)
                larger = medianOf(larger, other);
            else
                takeLegsFromBoth(other, larger);
        }
        if (t.view == ViewKind::Front && family == Family::Lunge) {
            spread(t, at, legsInFront(t, at, other));
            continue;
        }
        if (t.view == ViewKind::Front) {
            if (const auto doubt = hipsDoubtedBy(larger, t)) t.doubts.push_back({atS, *doubt, false});
            continue;
        }
        spread(t, at, larger);
    }
}

}  // namespace zevo
