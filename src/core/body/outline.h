#pragma once

#include <cstdint>
#include <utility>
#include <vector>

namespace zevo {

/// Outline of the body at one moment: a closed line in picture pixels (x right, y down); empty where none was found.
struct Outline {
    double timeS = 0;
    std::vector<std::pair<float, float>> points;
    /// How clearly each point is an edge; empty where that was not looked at.
    struct Edge {
        std::uint8_t contrast = 0;  ///< colour inside against outside in the picture, the channel that differs most
        std::uint8_t rival =
            0;  ///< another edge of the picture beside it, inside or outside: 128 = as strong as its own
    };
    std::vector<Edge> edges{};
};

}  // namespace zevo
