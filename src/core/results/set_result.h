#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/advice/stop_rules.h"
#include "core/body/movement.h"
#include "core/findings/findings.h"
#include "core/reps/alignment.h"
#include "core/result.h"
#include "core/standards/tempo.h"
#include "core/statistics/trend.h"
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
    Movement movement;
    std::string variation;  ///< empty = plain
    std::string model = "full";
    double loadShare = 0;                 ///< of what is held ÷ body mass, as far as known
    std::optional<double> ankleLimitDeg;  ///< as measured by the coach
    double wedgeDeg = 0;                  ///< under the heels
    std::optional<Tempo> tempo;           ///< as asked by the coach
    PainCheck pain;
};

/// The other view of the same set.
struct SecondView {
    ClipFacts clip;
    ViewKind view = ViewKind::Front;
    double trackedShare = 0;
    Alignment alignment;   ///< found from the movement
    double nudgeS = 0;     ///< what the coach added to the lag
    bool together = true;  ///< filmed at the same time; else the clips' repetitions are judged each for themselves
    std::vector<MeasuredRep> reps;  ///< of this clip, by its own clock
    double lagS() const { return alignment.lagS + nudgeS; }
};

/// A measure that changes over the set.
struct Drift {
    std::string measure;
    Trend trend;
    bool moreThanNoise = false;  ///< p below 0.05 and larger than what a reading jitters
};

/// One measure of both legs.
struct LegsCompared {
    std::string measure;
    Unit unit = Unit::Degrees;
    Comparison comparison;
};

/// The result of a set: everything the window, the record and the open file need.
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
    StopAnswer stop;                 ///< comes before any advice
    std::vector<Drift> drifts;       ///< of every judged measure that could be tested
    std::vector<LegsCompared> legs;  ///< where both were seen
    std::optional<SecondView> second;
    std::string looksLike;  ///< id of the movement it looks like, where that is another one
    Series series;
    std::vector<double> timesS;
    std::vector<std::string> warnings;
};

/// From poses to the measured set. Errors: what buildTrack refuses, no whole rep. The findings stay empty until
/// judgeSet().
struct MeasuredSet {
    Track track;
    SetResult result;
    std::optional<Track> secondTrack;
};
Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context);

/// Joins a second clip of the set in another view: its measures go to the repetitions they belong to, with the clips
/// aligned by the movement itself, or stand by themselves when the clips were filmed one after the other. Errors: what
/// measureSet() refuses, both clips show the same view, nothing in common. `nudgeS` is added to the lag found.
Result<void> joinSecondView(MeasuredSet& set, const PoseFrames& frames, const ClipFacts& clip, bool together = true,
                            double nudgeS = 0);

/// The bands of a standard that hold for a set: those of its movement and variation, and the tempo asked for.
Standard standardOf(const SetContext& context, const Standard& whole);

/// Fills in findings, drifts and the comparison of legs from the repetitions that count; needs no video, so a set can
/// be judged again by another standard at once. Pain or a red flag stops scoring: then there are no findings.
void judgeSet(SetResult& result, const Standard& standard);

}  // namespace zevo
