#pragma once

#include <utility>
#include <vector>

namespace zevo {

/// Outline of the body at one moment: a closed line in picture pixels (x right, y down); empty where none was found.
struct Outline {
    double timeS = 0;
    std::vector<std::pair<float, float>> points;
};

}  // namespace zevo
