#pragma once

#include <cstddef>

#include "core/body/landmarks.h"
#include "core/track/track.h"

namespace zevo {

/// Where the joints of a client filmed from the side lie in depth, by geometry: how far a near knee stands out towards
/// the camera turns its thigh in the picture by up to 4° at three metres, and the network's 3D estimate sees about half
/// of it (docs/measurements.md, “Lifelike people”).
///
/// - Feet: half the stance (halfStance()). The network has them wrong by up to 15 cm, as far as the body is thick.
/// - Hips and shoulders of who stands: half their breadth beside the middle, joint centre to joint centre.
/// - Knees of a squat: a straight knee lies between hip and foot, a bent one where the shin leans over the line of the
///   foot, toes turned out by 15° (the middle of what is taught, 0 to 30°; common practice, no source). The network is
///   heard for a third: it knows little, but not nothing, of knees that cave or a foot turned out far.
/// - Who stands and is turned towards the camera or away from it (Track::towardsDeg) has what is ahead of the hips
///   nearer or further away by its distance × tan of the turn.
///
/// Everything else, knees of lunges and hinges and who lies among it, is where the network has it. Lengths in statures,
/// behind the middle of the hips (+ away from the camera). Pure; safe on every thread.
class SideDepths {
  public:
    /// `bodyPx`: stature in pixels; `focalPx`: focal length of the lens, pixels. Reads track.points; the track must
    /// outlive it.
    SideDepths(const Track& track, double bodyPx, double focalPx);

    /// Depth of a landmark at a sample, given what the network guesses.
    double of(Landmark landmark, std::size_t at, double guessed) const;

    /// Half the distance between the ankles, as the floor shows it. A camera h above the ankles sees one that is z away
    /// f h / z below the horizon; so the ankles' heights in the picture are to each other as their distances are, and
    /// half the stance is f / (2 stature in pixels) × ln(near ÷ far). The horizon is as the room tells it
    /// (Track::hold), or, less surely, the picture's middle. Weighed against what is usual by the errors of both; of
    /// feet that do not stand side by side (lunges, who lies), the usual alone.
    double halfStance() const { return m_halfStance; }

  private:
    double lateral(Landmark landmark, std::size_t at) const;
    const Track& m_track;
    double m_bodyPx, m_turn, m_halfStance;
};

}  // namespace zevo
