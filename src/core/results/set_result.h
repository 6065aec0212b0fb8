#pragma once

#include <string>
#include <vector>

#include "core/findings/findings.h"
#include "core/result.h"
#include "core/track/track.h"

namespace zevo {

struct ClipFacts {
    long frames = 0;
    double durationS = 0;
    int width = 0, height = 0, rotationDeg = 0;
};

/// What a set was judged as.
struct SetContext {
    Context context;
    std::string movement = "squat";
    std::string variation;
    std::string model = "full";
};

/// The result of one clip: everything the window, the record and the open file need.
struct SetResult {
    ClipFacts clip;
    SetContext context;
    std::string standard;
    ViewKind view = ViewKind::Side;
    Side near = Side::Right;
    double offSquareDeg = 0;
    double trackedShare = 0;
    std::vector<MeasuredRep> reps;
    std::vector<int> leftOut;  ///< numbers of repetitions the coach says do not count
    std::vector<Finding> findings;
    Series series;
    std::vector<double> timesS;
    std::vector<std::string> warnings;
};

/// From poses to the measured set. Errors: what buildTrack refuses, a view that cannot answer, no whole rep.
/// The findings stay empty until judgeSet().
struct MeasuredSet {
    Track track;
    SetResult result;
};
Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context);

/// Fills in the findings from the repetitions that count; needs no video, so a set can be judged again by another
/// standard at once.
void judgeSet(SetResult& result, const Standard& standard);

/// The open result format of docs/formats.md.
std::string toJson(const SetResult& result);

}  // namespace zevo
