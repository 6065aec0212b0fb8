#pragma once

#include <string>
#include <vector>

#include "sim/clip_maker.h"

namespace bench {

/// One clip of the grid.
struct Case {
    std::string name;    ///< also the name of its files
    std::string family;  ///< squat, lunge, hinge, bridge
    std::string view;    ///< side or front (a bridge's front is its foot end)
    bool square = true;  ///< filmed as asked for; others show what a bad set-up costs
    zevo::sim::ClipSpec spec;
};

/// How far a set's planted fault lies from the edge of the band.
enum class Size { None, Inside, Outside, Clear };
const char* sizeName(Size size);

/// One set of the fault trial.
struct Trial {
    std::string name;
    std::string fault;  ///< the one that is planted; of clean sets empty
    std::string standard;
    std::string group;  ///< family, school and view, for the count of clean sets
    std::string side;   ///< of a fault of one leg
    Size size = Size::None;
    zevo::sim::ClipSpec spec;
};

/// Every movement in the views it needs, both figures, six builds and clothes; then cameras and light as they come.
std::vector<Case> grid();
/// A few cases that take well under a minute each.
std::vector<Case> smallGrid();
std::vector<Trial> faultTrial();
/// What lifelike people show of it: its clean sets, and every fault clearly.
std::vector<Trial> shortTrial();

}  // namespace bench
