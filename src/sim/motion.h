#pragma once

#include <map>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/body/movement.h"
#include "sim/skeleton.h"

namespace zevo::sim {

/// One repetition and its dials. A fault's dial at zero does nothing; sizes are those at the turning point of the rep.
struct RepSpec {
    // Tempo. A bridge lifts first.
    double lowerS = 2.4, pauseS = 0.4, liftS = 1.4, topS = 0.9;
    double oneAndHalf = 0;  ///< 1: up to half height and down again before standing up
    // Shape of the turning point. NaN-free defaults are those of a clean rep; each family reads its own.
    double thighBottomDeg = -10;  ///< squat: thigh angle, 0 = level, hip under knee −
    double shinBottomDeg = 32;    ///< squat: shin angle
    double kneeBendDeg = 18;      ///< hinge: knee flexion
    double hingeLeanDeg = 62;     ///< hinge: trunk lean
    double frontKneeDeg = 90;     ///< lunge: flexion of the working knee
    double frontShinDeg = 8;      ///< lunge: its shin angle
    double lungeLeanDeg = 6;      ///< lunge: trunk lean (lateral lunge: 30 more)
    double rearThighDeg = 0;      ///< lunge: rear thigh off the vertical, knee behind hip +
    /// Stepping lunges: shares of the way after which the foot is down, and before which nothing sinks.
    double stepShare = 0.55, sinkAfter = 0.25;
    double topAngleDeg = 176;  ///< bridge: shoulder–hip–knee
    // Dials of the faults.
    double heelRiseCm = 0, toeRiseCm = 0;
    double heelFrom = 0.35;                      ///< share of the depth at which heel or toes begin to rise
    double extraLeanDeg = 0;                     ///< trunk lean beyond the balanced one
    double neckDeg = 0;                          ///< chin up +, beyond the trunk line
    double kneesFirst = 0;                       ///< 0…1: the knees lead the descent
    double bounce = 0;                           ///< 0…1: drops into the bottom and rebounds
    double balanceShift = 0;                     ///< mass centre away from mid-foot, share of foot length, toes +
    double lockoutLeanDeg = 0;                   ///< trunk thrown back at the top
    double lockoutArchDeg = 0;                   ///< pelvis tipped forward against the spine, at the top
    double lockoutKneeDeg = 0;                   ///< knees straightened beyond the soft standing bend, at the top
    double kneeInLeftCm = 0, kneeInRightCm = 0;  ///< knee towards the other one; bowing out −
    double kneeWobbleCm = 0;                     ///< amplitude of both knees' sideways shaking
    double hipDropDeg = 0;                       ///< pelvis line, right side down +
    double shiftCm = 0;                          ///< hips to the client's right
    double shoulderTipDeg = 0;                   ///< shoulder line, right side down +
    double hipTurnDeg = 0;                       ///< pelvis about the vertical, right side forward +
    double tuckDeg = 0;                          ///< pelvis tipped back against the spine (tail tuck); arched −
    double tuckFrom = 0.35;                      ///< share of the depth at which the pelvis begins to tip
    double roundDeg = 0;                         ///< rib cage bent forward against the lumbar spine
    double hipsShootUp = 0;                      ///< 0…1: hips rise before the trunk
    double loadDriftCm = 0;                      ///< hands forward of the legs
    double trailingKneeDeg = 0;                  ///< lateral lunge: bend of the leg that should stay straight
    double noseOffCm = 0;                        ///< lateral lunge: nose short of the working knee; past it −
    double kneesOutCm = 0;                       ///< bridge: both knees falling out
};

/// A dial by its name in specs (docs/formats.md).
struct Dial {
    const char* name;
    double RepSpec::*value;
};
std::span<const Dial> dials();

struct MotionSpec {
    /// One of movements().
    std::string movement = "squat";
    /// Variations as movements() lists them; empty: plain.
    std::string variation;
    BodySpec body;
    double leadInS = 1.2;  ///< at rest before the first rep
    double leadOutS = 1.0;
    double stanceShare = 0.19;  ///< ankle distance ÷ stature
    double toeOutDeg = 10;
    double toeOutUnevenDeg = 0;  ///< right foot turned out by this much more
    double standingKneeDeg = 7;  ///< soft knees at the top
    double feetFarCm = 0;        ///< bridge: feet further from the seat
    int workingLeg = 1;          ///< lunge: the front or stepping leg (of the first rep), 0 left, 1 right
    double railsCm = 0;          ///< lunge: the front foot this much further out to its side; crossing over −
    bool alternate = false;      ///< lunges that step: the legs take turns
    double loadShare = 0;        ///< mass in the hands or on the back ÷ body mass
    /// Squats: what the arms do where nothing is held; pushed away, also a bell at the chest.
    zevo::Arms arms = zevo::Arms::Reach;
    std::vector<RepSpec> reps;
};

/// True event times of one rep, seconds.
struct RepTruth {
    double startS = 0, bottomS = 0, endS = 0;
};

/// Where the client's joints are at any moment.
class Motion {
  public:
    virtual ~Motion() = default;
    virtual double durationS() const = 0;
    virtual Skeleton at(double timeS) const = 0;
    virtual const std::vector<RepTruth>& reps() const = 0;
};

/// The movement of a spec; kept in balance over the feet unless a dial says otherwise.
class SpecMotion : public Motion {
  public:
    explicit SpecMotion(MotionSpec spec);
    double durationS() const override { return m_durationS; }
    Skeleton at(double timeS) const override;
    const std::vector<RepTruth>& reps() const override { return m_reps; }
    const MotionSpec& spec() const { return m_spec; }
    /// The leg that works in a rep: 0 left, 1 right.
    int workingLeg(int rep) const;

  private:
    MotionSpec m_spec;
    std::vector<double> m_starts;  ///< of the reps, and the end of the last
    std::vector<RepTruth> m_reps;
    double m_durationS = 0;
};

/// Movements a spec may name, each with its variations (the plain one is empty).
const std::map<std::string, std::vector<std::string>>& movements();
/// An error in plain words for a movement or variation that is not among them.
Result<void> checkMovement(const MotionSpec& spec);

}  // namespace zevo::sim
