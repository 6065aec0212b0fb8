#include "pipeline/read_shoes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "vision/turned_strip.h"

namespace zevo::pipeline {
namespace {

/// Where the shoe stands just before a repetition, pixels of the delivered picture.
StandingShoe standingBefore(const PoseFrames& poses, Side side, double fromS, double toS, double scale) {
    std::array<std::vector<double>, 4> places;
    for (const auto& f : poses) {
        if (!f.found || f.timeS < fromS || f.timeS > toS) continue;
        const auto &heel = f.at(ofSide(Landmark::LeftHeel, side)), &toe = f.at(ofSide(Landmark::LeftToe, side));
        places[0].push_back(heel.x), places[1].push_back(heel.y), places[2].push_back(toe.x),
            places[3].push_back(toe.y);
    }
    auto middle = [&](std::size_t k) {
        auto& v = places[k];
        if (v.empty()) return 0.0;
        std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
        return v[v.size() / 2] / scale;
    };
    return {{middle(0), middle(1)}, {middle(2), middle(3)}};
}

/// Whether the shoe is still where it stood: one that has stepped away is another picture altogether, and what looks
/// like it there is chance.
bool standsStill(const PoseFrame& seen, Side side, const StandingShoe& shoe, double scale) {
    constexpr double kStepped = 0.4;  // of the foot's length
    auto moved = [&](Landmark left, const Vec2& stood) {
        const LandmarkPoint& p = seen.at(ofSide(left, side));
        return (Vec2(p.x, p.y) / scale - stood).norm();
    };
    return seen.found && std::min(moved(Landmark::LeftHeel, shoe.heel), moved(Landmark::LeftToe, shoe.toe)) <
                             kStepped * shoe.length();
}

}  // namespace

void readShoes(const AllPieces& pieces, const MeasuredView& found, Observation& seen) {
    const int width = frameWidthOf(pieces);
    if (width == 0) return;
    const double scale = static_cast<double>(seen.clip.width) / width;  // the source's pixels for one of the frame
    const Track& t = *found.track;
    if (t.view != ViewKind::Side && t.view != ViewKind::Oblique) return;
    // The last moment before the repetition; a little longer where too few views lie in it.
    constexpr double kBeforeS = 0.30, kLongerS = 0.60, kIntoS = 0.02;
    for (const Rep& rep : found.reps) {
        const double start = t.timesS[rep.start], end = t.timesS[rep.end];
        const auto all =
            piecesBetween(pieces, t.near == Side::Left ? PieceOf::LeftShoe : PieceOf::RightShoe, start - kLongerS, end);
        std::vector<const FramePiece*> before;
        for (double reach : {kBeforeS, kLongerS}) {
            before.clear();
            for (const auto& v : all)
                if (v.timeS >= start - reach && v.timeS <= start + kIntoS) before.push_back(&v);
            if (before.size() >= 3) break;
        }
        const StandingShoe shoe = standingBefore(seen.poses, t.near, start - kLongerS, start + kIntoS, scale);
        TurnedStrip strip(shoe, before);
        for (const auto& v : all) {
            if (v.timeS < start) continue;
            const auto frame = std::lower_bound(seen.poses.begin(), seen.poses.end(), v.timeS - 1e-6,
                                                [](const PoseFrame& f, double at) { return f.timeS < at; });
            if (frame == seen.poses.end()) break;
            TurnedStrip::Lift lift;
            lift.heel.state = lift.toe.state = ShoeReading::State::Unclear;
            if (strip.readable() && standsStill(*frame, t.near, shoe, scale)) lift = strip.read(v);
            for (auto [reading, place] : {std::pair(&lift.heel, 0), {&lift.toe, 2}}) {
                for (float* length : {&reading->rise, &reading->half, &reading->apart})
                    *length *= static_cast<float>(scale);
                frame->shoes[static_cast<std::size_t>(place + (t.near == Side::Right))] = *reading;
            }
        }
    }
}

}  // namespace zevo::pipeline
