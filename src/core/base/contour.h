#pragma once

#include <span>
#include <vector>

#include "core/base/vectors.h"

namespace zevo {

/// The longest closed line at `level` in a width × height field (marching squares, Lorensen & Cline's idea in
/// two dimensions). Positions in pixels; value (i, j) sits at (i + ½, j + ½). Outside the field counts as 0.
/// Empty when nothing reaches the level.
std::vector<Vec2> largestContour(std::span<const float> field, int width, int height, float level);

/// The same closed line with fewer points: none of those left out lies further than `tolerance` from it (Ramer 1972,
/// Douglas and Peucker 1973).
std::vector<Vec2> simplified(const std::vector<Vec2>& closedLine, double tolerance);

}  // namespace zevo
