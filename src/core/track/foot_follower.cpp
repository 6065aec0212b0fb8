#include "core/track/foot_follower.h"

#include <algorithm>
#include <cmath>

namespace zevo {
namespace {

constexpr double kTurnStep = 5;  // degrees between the turned patches
constexpr int kTurns = 9;        // −20…20°
constexpr double kGoodScore = 0.75, kSureScore = 0.95;
constexpr int kPatience = 5;           // frames a match may be missing (a hand passing by)
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
        p.turned.push_back(cutPatch(picture, landmark, p.half, (k - kTurns / 2) * kTurnStep));
    if (p.turned[kTurns / 2].flat) return;
    p.active = true;
    p.turn = kTurns / 2;
    p.at = landmark;
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
        const int reach = std::max(3, static_cast<int>(0.12 * footLength)) + p.lost;
        // A planted foot is where it was: look around only when it is not, and try the other turns only there.
        int turn = p.turn;
        PatchMatch best = findPatch(picture, p.turned[static_cast<std::size_t>(turn)], p.at, 2);
        if (best.score < kSureScore) best = findPatch(picture, p.turned[static_cast<std::size_t>(turn)], p.at, reach);
        for (int k : {p.turn - 1, p.turn + 1}) {
            if (k < 0 || k >= kTurns) continue;
            const PatchMatch m = findPatch(picture, p.turned[static_cast<std::size_t>(k)], best.at, 1);
            if (m.score > best.score) {
                best = m;
                turn = k;
            }
        }
        if (best.score < kGoodScore) {
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
