#pragma once

#include <array>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "core/back/back_profile.h"
#include "core/body/movement.h"
#include "core/body/outline.h"
#include "core/reps/reps.h"
#include "core/series/view_series.h"
#include "core/track/track.h"

/// The line of the back, read off the body's outline.
///
/// Frame of a moment: H and S are the middles of both hips and both shoulders; e points from H to S, n is e turned by a
/// right angle to the dorsal side. The trunk's length L is the one at rest, held for the whole set, and the frame is
/// anchored in the middle between H and S: the points slide along the back when the arms rise, their middle does not.
/// A station u counts from the hip (0) to the shoulder (1) in L; f(u) is how far the outline lies from the line H–S
/// along n, in L. Everything is read as a change against this client's own line on the way (halfway down a squat or a
/// lunge, early in a hinge, halfway up in a bridge), so that build and clothes cancel.
namespace zevo {

/// Why a back is not read: what has to be different in the next film.
enum class BackDoubt {
    None,
    NoOutline,  ///< no outlines of this view
    OffSquare,  ///< the camera stands too far off square
    TooSmall,   ///< too few pixels for the trunk
    Covered,    ///< a bar or plates lie over the back
    NotAsked,   ///< nobody said how the shirt lies
    Loose,      ///< it hangs
    Arm,        ///< an arm is before or behind the back
    Cluttered,  ///< the outline is not a back's: things of the clothes' colours behind it
    Faint,      ///< the outline is no clear edge: the wall has the shirt's colour, or it is dark
    TooFew,     ///< too few pictures on the way to take the client's own line from
    Unread      ///< nobody has looked for outlines: not yet, or not in the day of an older version
};
/// "no-outline" …: as kept in notices.
const char* backDoubtName(BackDoubt doubt);

/// What stands against reading a back before it is looked at.
BackDoubt exclusionReason(Shirt shirt, bool covered);

/// The back at one moment.
struct BackMoment {
    double timeS = 0;
    std::size_t sample = 0;  ///< of the track
    BackProfile f{};
    double lowSag = 0;   ///< bulge at the low back over its neighbours, f at 0.30 over the chord 0.06–0.94, L
    double highSag = 0;  ///< bulge between the shoulder blades, f at 0.58 over the chord 0.22–0.94, L
    double hollow = 0;   ///< largest gap under a straight edge laid on seat and shoulder blades from outside, L
    /// Gaps under a stick laid along the back, L. Each is against the other two contacts: the stick lies on them.
    double headGap = 0, bladesGap = 0, seatGap = 0;
    /// How far the near elbow or wrist lies inside the back line, L; large where it is not there.
    double armInside = 1;
    double residual = 0;    ///< rms of what no bend of a back explains, L
    double contrast = 255;  ///< of the outline's edge over the back, the weakest tenth
    double rival = 0;       ///< of other edges beside it, the strongest quarter
};

/// What the stretch around a moment comes to: medians of the moments within it, changes against the client's own line.
struct BackReading {
    double lowCm = 0;                             ///< rounding of the low back by its bulge (sagitta), cm; arched −
    double highCm = 0;                            ///< rounding between the shoulder blades, cm
    double hollowCm = 0;                          ///< hollow lost under a straight edge, cm
    double headCm = 0, bladesCm = 0, seatCm = 0;  ///< gaps under the stick, more than at rest, cm
    double residual = 0, armInside = 1;           ///< as in BackMoment
    double contrast = 255, rival = 0;
    int moments = 0;
};

/// The back of one view over its repetitions.
class BackLine {
  public:
    /// `outlines`: closed lines in picture pixels, any rate; those that cannot be read are left out.
    BackLine(std::shared_ptr<const Track> track, std::shared_ptr<const ViewSeries> series, std::span<const Rep> reps,
             std::span<const Outline> outlines);

    /// What stands against reading this view at all. A bridge's order needs no client's own line and no square camera
    /// but outlines: floorOrder() answers nothing without them.
    BackDoubt doubt() const { return m_doubt; }
    /// What stands against a repetition's turning point.
    BackDoubt doubtAt(std::size_t sample) const;
    /// The same with what the coach knows of shirt and load.
    BackDoubt doubtAt(std::size_t sample, Shirt shirt, bool covered) const;

    const std::vector<BackMoment>& moments() const { return m_moments; }
    double trunkPx() const { return m_trunkPx; }
    double cmPerTrunk() const { return m_cmPerTrunk; }
    /// Nothing where no moment lies within `halfS`.
    std::optional<BackReading> around(double timeS, double halfS = 0.25) const;

    /// The first repetition's turning point; nothing where something stands against it.
    const std::optional<BackReading>& first() const { return m_first; }

    /// The outline of the back at a sample and a straight edge (or a stick, up over the head) laid on it, in the
    /// track's frame; empty where no outline was read nearby.
    struct Drawn {
        std::vector<Vec2> outline;
        std::array<Vec2, 2> edge{};
    };
    Drawn drawnAt(std::size_t sample, bool stick) const;

    /// How much hollower the low back is at the top after a repetition than at rest before the first one, cm: standing
    /// against standing. Nothing where one of the two was not seen, or an arm is over it.
    std::optional<double> hollowAtTop(std::size_t from, std::size_t to) const;

    /// Where on the way down of a repetition one of the stick's three contacts is lost for good: opens by more than
    /// `endCm` at head or seat, by more than `bladesCm` between the shoulder blades (a head that is raised with the
    /// trunk opens half of that). Sample of the track; nothing where none is.
    std::optional<std::size_t> stickLeaves(const Rep& rep, double endCm, double bladesCm) const;

    /// Where on the way down of a repetition the low back begins to round: hollow lost for good. Nothing where it does
    /// not. Sample of the track.
    std::optional<std::size_t> tuckBegins(const Rep& rep) const;

    /// Bridges: how much later low back and middle back leave the floor than the pelvis, mean of both, share of the
    /// lift; lowering: how much earlier they meet it, share of the way down. About 0 in one piece, 0.05 and more
    /// segment by segment. Nothing where it was not seen.
    std::optional<double> floorOrder(const Rep& rep, bool lowering) const;

  private:
    void readMoments(std::span<const Outline> outlines);
    void readEdges(const Outline& outline, const std::vector<Vec2>& line, BackMoment& m) const;
    void readZero(std::span<const Rep> reps);
    bool isZero(const BackMoment& m, std::span<const Rep> reps) const;
    /// Where on the way down, with the hip bent by more than so much, a value of the moments (smoothed) passes a limit
    /// and stays above it up to the bottom.
    template <typename Value>
    std::optional<std::size_t> passesForGood(const Rep& rep, double limit, double fromHipDeg, Value&& value) const;

    std::shared_ptr<const Track> m_keptTrack;
    std::shared_ptr<const ViewSeries> m_keptSeries;
    const Track& m_track;
    const Series& m_series;
    std::vector<BackMoment> m_moments;
    std::vector<std::array<double, 3>> m_frontRise;  ///< of bridges: front of pelvis, low back, middle back, pixels
    double m_trunkPx = 0, m_cmPerTrunk = 0;
    BackMoment m_zero, m_rest;  ///< medians
    bool m_restSeen = false;    ///< else the client's own line on the way stands for it
    std::optional<BackReading> m_first;
    BackDoubt m_doubt = BackDoubt::None;
};

}  // namespace zevo
