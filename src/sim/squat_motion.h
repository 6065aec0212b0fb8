#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "core/geometry/vectors.h"

/// The virtual client: a made-up person whose joint centres are known exactly.
/// World frame, metres: x the way the client faces, y up (floor at 0), z to the client's right.
namespace zevo::sim {

struct Colour {
    std::uint8_t r = 0, g = 0, b = 0;
};

/// Build and clothes. Lengths are shares of stature unless another unit is named.
struct BodySpec {
    double statureCm = 175;
    double girth = 1.0;     ///< scales all radii
    double legShare = 1.0;  ///< scales thigh and shank
    double trunkShare = 1.0;
    Colour skin{205, 152, 122}, shirt{176, 52, 56}, shorts{48, 56, 74}, shoe{58, 92, 150}, hair{52, 34, 24};
};

/// One repetition and its dials. A dial at its default does nothing.
struct RepSpec {
    double thighBottomDeg = -10;  ///< thigh angle at the bottom, 0 = level, hip under knee −
    double shinBottomDeg = 32;    ///< shin angle at the bottom
    double lowerS = 2.4, pauseS = 0.4, liftS = 1.4, topS = 0.9;
    double heelRiseCm = 0;      ///< at the bottom
    double toeRiseCm = 0;       ///< at the bottom
    double extraLeanDeg = 0;    ///< trunk lean beyond the balanced one, at the bottom
    double neckDeg = 0;         ///< chin up +, beyond the trunk line, at the bottom
    double kneesFirst = 0;      ///< 0…1: the knees lead the descent
    double bounce = 0;          ///< 0…1: drops into the bottom and rebounds
    double balanceShift = 0;    ///< mass centre away from mid-foot, share of foot length, toes +
    double lockoutLeanDeg = 0;  ///< trunk thrown back at the top of this rep
};

struct SquatSpec {
    BodySpec body;
    double leadInS = 1.2;  ///< standing before the first rep
    double leadOutS = 1.0;
    double stanceShare = 0.19;  ///< ankle distance ÷ stature
    double toeOutDeg = 10;
    double standingKneeDeg = 7;  ///< soft knees at the top
    std::vector<RepSpec> reps;
};

enum class Phase { Top, Lowering, Bottom, Lifting };

/// Joint centres at one moment. Index 0 = left, 1 = right where a pair is meant.
struct Skeleton {
    std::array<Vec3, 2> hip, knee, ankle, heel, ball, toe, shoulder, elbow, wrist;
    Vec3 midHip, lumbar, midShoulder, headCentre, nose;
    std::array<Vec3, 2> ear;
    std::array<Vec3, 2> footForward;  ///< unit, along the sole
    Vec3 massCentre;
    double depth = 0;  ///< 0 standing … 1 bottom
    Phase phase = Phase::Top;
    int rep = -1;  ///< −1 outside any rep
};

/// The true values of a moment in the conventions of the measures (degrees, cm), near leg given by side.
struct TrueAngles {
    double kneeFlexion = 0, hipFlexion = 0, trunkLean = 0, shinAngle = 0, thighAngle = 0, heelRiseCm = 0;
};

/// True event times of one rep, seconds.
struct RepTruth {
    double startS = 0, bottomS = 0, endS = 0;
};

class SquatMotion {
  public:
    explicit SquatMotion(SquatSpec spec);
    double durationS() const { return m_durationS; }
    Skeleton at(double timeS) const;
    const std::vector<RepTruth>& reps() const { return m_reps; }
    const SquatSpec& spec() const { return m_spec; }

  private:
    SquatSpec m_spec;
    std::vector<RepTruth> m_reps;
    double m_durationS = 0;
};

/// Angles of the leg on `side` (0 left, 1 right) seen exactly from the side.
TrueAngles trueAngles(const Skeleton& s, int side);

}  // namespace zevo::sim
