#pragma once

#include <span>

#include "core/body/second_estimate.h"
#include "core/track/track.h"

namespace zevo {

/// Whether a second look is of use. Not for lying clients: the other networks were trained on people who stand, and
/// made bridges worse (trunk 1.5 → 2.6° on average, and a third of them doubted; docs/measurements.md). From the front
/// it is for squats, whose depth is told there, and from behind nothing is.
inline bool secondEstimatesHelp(Family family, ViewKind view) {
    if (view == ViewKind::Front) return family == Family::Squat;
    return family != Family::Bridge && !isFrontal(view);
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
/// Disagreement is a flag and no source of ±. Own measurements: docs/measurements.md, “Behind things”.
///
/// From the front no point is moved: the other networks' are no better there. Where the larger one has the hips more
/// than 2 % of the stature higher or lower, the turning point is doubted (docs/measurements.md, “Depth from the
/// front”).
void applySecondEstimates(std::span<const SecondEstimate> secondEstimates, Track& track);

}  // namespace zevo
