#pragma once

#include <QLineF>
#include <QPointF>
#include <optional>

#include "core/body/landmarks.h"
#include "core/body/movement.h"
#include "core/judge/standard.h"

namespace zevo::present {

/// The line a client has to reach, drawn on the live picture, and the point of their body that has to reach it. Picture
/// pixels. Taken from the standard's own edge: the same line the answer will be judged by, without its ±.
struct LiveLine {
    QLineF line;
    QPointF point;
    bool reached = false;
};

/// From the side only; nothing where the pose or the standard does not give one.
std::optional<LiveLine> liveLine(const PoseFrame& pose, const Movement& movement, const Standard& standard);

/// Where the target of a tempo is, seconds after the first repetition should begin: 0 at rest … 1 at the turning point.
struct TempoTarget {
    double share = 0;
    int phase = 0;  ///< 0 down, 1 pause, 2 up, 3 rest
    double leftS = 0;
    int rep = 0;  ///< counted from 0
};
/// `lower`, `pause`, `lift`, `rest`: seconds.
TempoTarget tempoAt(double sinceS, double lowerS, double pauseS, double liftS, double restS);

}  // namespace zevo::present
