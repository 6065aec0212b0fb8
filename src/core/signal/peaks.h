#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace zevo {

struct Peak {
    std::size_t index = 0;  ///< middle of a flat top
    double height = 0;
    double prominence = 0;  ///< height above the higher of the two valleys that separate it from higher ground
};

/// Local maxima with at least this height and prominence, in order of time. The ends do not count as peaks.
std::vector<Peak> findPeaks(std::span<const double> signal, double minHeight, double minProminence);

}  // namespace zevo
