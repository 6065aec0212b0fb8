#pragma once

#include <span>

#include "core/body/second_estimate.h"
#include "core/track/track.h"

namespace zevo {

/// Whether a second look is of use. Not for lying clients: the other networks were trained on people who stand, and
/// made bridges worse (trunk 1.5 → 2.6° on average, and a third of them doubted; docs/measurements.md). From the front
/// it is for squats, whose depth is told there, and for lunges, whose legs cover each other; from behind it is for
/// none.
inline bool secondEstimatesHelp(Family family, ViewKind view) {
    if (view == ViewKind::Front) return family == Family::Squat || family == Family::Lunge;
    return family != Family::Bridge && !isFrontal(view);
}
/// Whether points are moved by it: else the other networks are witnesses only.
inline bool secondEstimatesMove(Family family, ViewKind view) {
    return secondEstimatesHelp(family, view) && (view != ViewKind::Front || family == Family::Lunge);
}

/// Takes in what other networks saw around the turning points (before perspective is undone).
///
/// The larger network's points, as the mean over its frames there, take the place of the followed ones; knees and
/// ankles come to a third from it and to two thirds from the one that was trained elsewhere. The difference holds as
/// long as the pose stays within 8° of the one at the turning point and fades to nothing at 30°. Repetitions and their
/// times are read off the points as they were followed (Track::asFollowed). Where the network that was trained
/// elsewhere disagrees with the followed one by more than 8° in the knee, the hip, the trunk, the shin or the thigh of
/// the near side, or calls the legs the other way round, the turning point is doubted (track.doubts). Where any one of
/// the three stands that far apart, each point is the median of the three: the larger network can be the one that errs.
/// From the side disagreement is a flag and no source of ±. Own measurements: docs/measurements.md, “Behind things”.
///
/// From the front no point of a squat is moved: the other networks' are no better there. Where the larger one has the
/// hips more than 2 % of the stature higher or lower, the turning point is doubted (docs/measurements.md, “Depth from
/// the front”). Knees and ankles of a lunge whose legs cover each other lie half-way between the followed network and
/// the one that was trained elsewhere; where the two have the legs in other places, where the latter has them: it alone
/// tells the legs of feet that stand in one line or cross (docs/measurements.md, “Feet in line”).
void applySecondEstimates(std::span<const SecondEstimate> secondEstimates, Family family, Track& track);

}  // namespace zevo
