#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/notice.h"
#include "core/body/movement.h"
#include "core/reps/reps.h"

namespace zevo {

/// The family a set looks like, by what the body does between rest and turning point: "squat", "lunge", "hinge" or
/// "bridge"; empty when it does not show (from the front a squat and a hinge look alike). The coach has the last word.
std::string looksLike(const Track& track, const Series& series, const std::vector<Rep>& reps);

/// Where the picture contradicts the movement outright, and not only looks more like another one: a bridge with nobody
/// lying, a standing movement with somebody lying. Nothing when it does not.
std::optional<Notice> contradictionAtRest(const Track& track, const Movement& movement);
/// The same of what shows in the repetitions: a lunge in which the feet never part and both knees bend alike, a walking
/// lunge in which nobody gets anywhere. From the side only.
std::optional<Notice> contradictionInMotion(const Track& track, const Series& series, const Movement& movement,
                                            const std::vector<Rep>& reps);

}  // namespace zevo
