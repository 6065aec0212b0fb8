#pragma once

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "core/back/back_line.h"
#include "core/balance/balance.h"
#include "core/base/result.h"
#include "core/judge/set_result.h"
#include "core/marks/marks.h"
#include "core/series/view_series.h"
#include "core/track/track.h"

namespace zevo {

/// One view of a set, measured. Each part is made from the one before and shared between the states of a document that
/// did not change it; sample numbers of one view mean nothing in another.
struct MeasuredView {
    ClipFacts clip;
    std::shared_ptr<const CleanedPoses> cleaned;
    std::shared_ptr<const Track> track;
    std::shared_ptr<const ViewSeries> series;
    std::vector<Rep> reps;                   ///< sample numbers of this view's track
    std::shared_ptr<const BackLine> back;    ///< where outlines over the repetitions were read
    std::shared_ptr<const MarkLines> marks;  ///< points the coach marked, where there are any
    std::optional<BalanceModel> balance;     ///< of this client at this set, where one can be made
    std::vector<MeasuredRep> measured;
    /// The same without the points the coach moved, where there are any: what the network saw stays visible.
    std::shared_ptr<const std::vector<MeasuredRep>> withoutManual;
    std::string looksLike;        ///< family, where it is another one
    std::vector<Notice> notices;  ///< what limits this view
};

/// A set measured from one or two views.
struct MeasuredSet {
    MeasuredView first;
    std::optional<MeasuredView> other;
    SetResult result;

    const Track& track() const { return *first.track; }
    const Series& series() const { return first.series->side; }
    const MeasuredView& view(bool second) const { return second && other ? *other : first; }
};

/// What the coach says the repetitions of a stretch are: whatever was found there, by its turning point, makes way.
struct RepsByHand {
    Span within;
    std::vector<Span> reps;  ///< from start to end each
    bool operator==(const RepsByHand&) const = default;
};
/// The leg the coach names for the repetition that holds a moment.
struct LegByHand {
    double atS = 0;
    Side leg = Side::Left;
    bool operator==(const LegByHand&) const = default;
};
/// Both, of one view, in the order they were said.
struct ByHand {
    std::span<const RepsByHand> reps;
    std::span<const LegByHand> legs;
};

/// track → repetitions, named legs and what the picture says against the movement. Errors: no whole repetition, or a
/// movement that the picture contradicts (nobody lies, the feet never part, nobody walks).
Result<void> findRepetitions(MeasuredView& view, const PoseFrames& frames, const SetContext& context,
                             const ByHand& byHand = {});
/// repetitions and outlines → the line of the back; nothing where there are none, or the view is not from the side.
void readBack(MeasuredView& view, std::span<const Outline> contours);
/// repetitions and marked points → their lines on the track's clock; nothing where there are none.
void readMarks(MeasuredView& view, std::span<const Mark> marks);
/// repetitions → measures and notices.
void measureRepetitions(MeasuredView& view, const SetContext& context);
/// The whole way of one view. Errors: what buildTrack() and findRepetitions() refuse.
Result<MeasuredView> measureView(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context,
                                 std::span<const SecondEstimate> secondEstimates = {},
                                 std::span<const Outline> contours = {});

/// A set of the first view alone; findings stay empty until judgeSet().
MeasuredSet setOf(MeasuredView first, const SetContext& context);
/// Joins another view: its measures go to the repetitions they belong to, with the clips aligned by the movement
/// itself, or stand by themselves when the clips were filmed one after the other. `nudgeS` is added to the lag found.
/// Errors: both clips show the same side, nothing in common; the set is then as it was.
Result<void> joinView(MeasuredSet& set, MeasuredView other, bool sameTake, double nudgeS);

/// From poses to the measured set, in one go.
Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context,
                               std::span<const SecondEstimate> secondEstimates = {});
/// measureView() and joinView() in one go; refusals are about the second clip.
Result<void> joinSecondView(MeasuredSet& set, const PoseFrames& frames, const ClipFacts& clip, bool sameTake = true,
                            double nudgeS = 0, std::span<const SecondEstimate> secondEstimates = {});

}  // namespace zevo
