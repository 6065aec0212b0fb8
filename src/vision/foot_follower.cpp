#include "vision/foot_follower.h"

#include <algorithm>
#include <cmath>

namespace zevo {
namespace {

constexpr double kTurnStep = 5;        // degrees between the turned patches
constexpr int kTurns = 9;              // −20…20°
constexpr int kStraight = kTurns / 2;  // the one that is not turned
constexpr double kGoodScore = 0.70, kSureScore = 0.95;
constexpr int kPatience = 90;          // frames a match may be missing while the landmark says that the foot is there
constexpr double kSteppedAway = 0.45;  // of the foot's length between landmark and patch: the foot has moved on

constexpr std::array<Landmark, kFootPointCount> kLandmarks{Landmark::LeftHeel, Landmark::RightHeel, Landmark::LeftToe,
                                                           Landmark::RightToe};

Vec2 place(const LandmarkPoint& p) {
    return {p.x, p.y};
}

}  // namespace

void FootFollower::begin(Point& p, const PictureView& picture, const Vec2& landmark, double footLength) {
    p = {};
    // About 7 cm of a 21 cm heel-to-toe distance: shoe and sole, little of the floor.
    p.half = std::clamp(static_cast<int>(std::lround(0.17 * footLength)), 4, 24);
    if (landmark.x() < p.half || landmark.y() < p.half || landmark.x() > picture.width - p.half ||
        landmark.y() > picture.height - p.half)
        return;
    for (int k = 0; k < kTurns; ++k)
        p.turned.push_back(cutPatch(picture, landmark, p.half, kTurnStep * static_cast<double>(k - kStraight)));
    if (p.turned[kStraight].flat) return;
    p.active = true;
    p.turn = kStraight;
    p.at = p.home = landmark;
    p.stretch = m_nextStretch++;
}

void FootFollower::follow(const PictureView& picture, PoseFrame& pose) {
    for (std::size_t i = 0; i < kFootPointCount; ++i) {
        Point& p = m_points[i];
        FootPoint& out = pose.feet[i];
        out = {};
        if (!pose.found) {
            p.active = false;
            continue;
        }
        const Vec2 landmark = place(pose.at(kLandmarks[i]));
        const double footLength = (place(pose.at(kLandmarks[i % 2 + 2])) - place(pose.at(kLandmarks[i % 2]))).norm();
        const bool steppedAway = p.active && (landmark - p.at).norm() > kSteppedAway * std::max(footLength, 12.0);
        if (!p.active || steppedAway || p.lost > kPatience) begin(p, picture, landmark, footLength);
        if (!p.active) continue;
        // A planted foot does not slide: without this a patch on a straight sole wanders along it. Up and down it may.
        const int reach = std::max(3, static_cast<int>(0.12 * footLength)) + std::min(p.lost, 8);
        const double slide = std::max(2.0, 0.1 * footLength);
        const Vec2 around(std::clamp(p.at.x(), p.home.x() - slide, p.home.x() + slide), p.at.y());
        // Where it was, mostly: look around, in every turn, only when it is not there.
        int turn = p.turn;
        PatchMatch best = findPatch(picture, p.turned[static_cast<std::size_t>(turn)], around, 2, 2);
        if (best.score < kSureScore) {
            for (int k = std::max(0, p.turn - 1); k <= std::min(kTurns - 1, p.turn + 1); ++k) {
                const PatchMatch m = findPatch(picture, p.turned[static_cast<std::size_t>(k)], around, 2, reach);
                if (m.score > best.score) {
                    best = m;
                    turn = k;
                }
            }
        }
        if (best.score < kGoodScore) {
            // Turned away too far, or something stands before it: wait for it where it was last seen.
            ++p.lost;
            continue;
        }
        p.lost = 0;
        p.turn = turn;
        p.at = best.at;
        out = {static_cast<float>(best.at.x()), static_cast<float>(best.at.y()), static_cast<float>(best.score),
               p.stretch};
    }
}

}  // namespace zevo
