#pragma once

#include <string>

#include "core/reps/reps.h"

namespace zevo {

/// The family a set looks like, by what the body does between rest and turning point: "squat", "lunge", "hinge" or
/// "bridge"; empty when it does not show (from the front a squat and a hinge look alike). The coach has the last word.
std::string looksLike(const Track& track, const Series& series, const std::vector<Rep>& reps);

}  // namespace zevo
