#pragma once

#include <array>
#include <vector>

#include "core/track/track.h"

namespace zevo {

/// One leg of a client filmed from the front, at every sample; degrees, with the signs of base/angles.h, in the
/// client's sagittal plane.
struct LegInSpace {
    std::vector<double> kneeFlexion, shinAngle, thighAngle;
};
/// Left, right.
struct LegsInSpace {
    std::array<LegInSpace, 2> weighed;  ///< what counts
    std::array<LegInSpace, 2> asDrawn;  ///< were each knee as high as it is drawn
};

/// How deep a squat goes, told by one camera in front of the client.
///
/// A thigh that points at the camera shows short; but its two ends still show how high they are, and near level that is
/// all there is to know: a hip 1 % of the stature higher is 2.3° of the thigh. From the feet up: the ankle stands where
/// it stood; the knee lies where the line of sight through it is one shank from the ankle, ahead of it; the hip where
/// the line of sight is one thigh from the knee, behind it. What is nearer shows larger and further from the horizon;
/// that is in the lines of sight (pinhole, assumedFocalPx(), the camera's pitch where the room tells it, Track::hold,
/// else level: a pitch that is not known turns thigh and shin by as much, and the knee's bend not at all). Shank and
/// thigh are taken as half-way between what they show at rest and the handbook's shares of the stature
/// (body/anthropometry.h): networks draw a standing knee too low, each client's by another amount.
///
/// How far a knee is ahead of its ankle is told by how much shorter the shank shows, which is little: a knee drawn too
/// high by 2 % of the stature, as networks do of a thigh that points at the camera, makes a shin that leans by 25°
/// stand upright. So the knee's height is weighed against what shins do in squats: they lean by about a quarter of the
/// knee's bend. Both are observations with an error (calibration.h, “front.”); the knee is taken where they agree best,
/// and half of what an angle is another for it is part of the doubt: shins that hardly lean, as to a high box, are
/// drawn towards those of others.
///
/// Assumes feet that stay where they stood at rest, side by side and under the hips, and a client who faces the camera.
/// Without samples of other families and from elsewhere: from behind, the knees are guessed through the legs. Pure;
/// safe on every thread.
LegsInSpace legsInSpace(const Track& track);

}  // namespace zevo
