#include "pipeline/read_heads.h"

#include <algorithm>
#include <cmath>

#include "core/base/angles.h"
#include "core/base/degrees.h"
#include "core/signal/filter.h"
#include "pipeline/pose_near.h"
#include "vision/head_turn.h"

namespace zevo::pipeline {
namespace {

/// Heads at rest that every other is laid over: one could look aside, three do not.
constexpr std::size_t kAtRest = 3;
/// So long before a repetition the client stands and looks ahead.
constexpr double kBeforeS = 0.15;
/// A kept piece lies no further from the moment asked for.
constexpr double kNearS = 0.11;
/// Half of a head from chin to crown, share of the stature: half of 0.13 (Drillis & Contini 1966), and the hair.
constexpr double kRadius = 0.075;
/// From the ear to the nose: there the middle of a head in profile is.
constexpr double kAheadOfEar = 0.4;

struct Head {
    HeadPicture picture;
    PoseFrame* pose;
};

}  // namespace

void readHeads(const AllPieces& pieces, const MeasuredView& found, Observation& seen) {
    const int width = frameWidthOf(pieces);
    const Track& t = *found.track;
    if (width == 0 || t.view != ViewKind::Side || t.family == Family::Bridge) return;
    const double scale = static_cast<double>(seen.clip.width) / width;  // the source's pixels for one of the frame
    auto headAt = [&](double timeS) -> std::optional<Head> {
        auto near = piecesBetween(pieces, PieceOf::Head, timeS - kNearS, timeS + kNearS);
        if (near.empty()) return std::nullopt;
        const FramePiece& piece = *std::min_element(near.begin(), near.end(), [&](const auto& a, const auto& b) {
            return std::abs(a.timeS - timeS) < std::abs(b.timeS - timeS);
        });
        const auto at = poseNear(seen.poses, piece.timeS);
        if (!at) return std::nullopt;
        PoseFrame* pose = &seen.poses[*at];
        auto place = [&](Landmark id) -> Vec2 { return Vec2(pose->at(id).x, pose->at(id).y) / scale - piece.origin; };
        const Vec2 ear = place(t.nearOf(Landmark::LeftEar)), face = place(Landmark::Nose) - ear;
        return Head{HeadPicture(piece.picture.view(), {ear + kAheadOfEar * face, kRadius * t.bodyPx / scale,
                                                       std::atan2(face.y(), face.x()) * kDegreesPerRadian}),
                    pose};
    };
    // Each head at rest, with its turn against the first of them.
    std::vector<std::pair<Head, double>> atRest;
    for (std::size_t i = 0; i < found.reps.size() && atRest.size() < kAtRest; ++i) {
        auto head = headAt(t.timesS[found.reps[i].start] - kBeforeS);
        if (!head) continue;
        const auto turn = atRest.empty() ? HeadTurn{} : headTurn(atRest.front().first.picture, head->picture);
        if (turn) atRest.emplace_back(std::move(*head), turn->turnDeg);
    }
    if (atRest.empty()) return;
    std::vector<double> turned;
    for (const auto& [head, turn] : atRest) turned.push_back(turn);
    const double rest = median(std::move(turned));
    for (const Rep& rep : found.reps) {
        const auto head = headAt(t.timesS[rep.bottom]);
        if (!head) continue;
        std::vector<double> turns, likeness, apart;
        for (const auto& [before, turn] : atRest)
            if (const auto got = headTurn(before.picture, head->picture)) {
                turns.push_back(turn + got->turnDeg), likeness.push_back(got->likeness), apart.push_back(got->apartDeg);
            }
        if (turns.empty()) continue;
        const auto [least, most] = std::minmax_element(turns.begin(), turns.end());
        head->pose->head = {true, static_cast<float>(wrapDegrees(median(turns) - rest)),
                            static_cast<float>(median(likeness)),
                            static_cast<float>(std::max(median(apart), (*most - *least) / 2))};
    }
}

}  // namespace zevo::pipeline
