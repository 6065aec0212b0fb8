#pragma once

#include <span>

namespace zevo {

/// Whether two small groups of values differ: the exact two-sided rank-sum test of Mann and Whitney (1947), over all
/// ways to deal the values to the two groups, so that ties are right as well.
struct GroupChange {
    double before = 0, after = 0;  ///< medians
    double change() const { return after - before; }
    double p = 1;  ///< chance of a difference at least as large if nothing had changed; 1 with an empty group
};

/// Up to 30 values in all; with more, the last 15 of each.
GroupChange rankSum(std::span<const double> before, std::span<const double> after);

/// The same for two sets of repetitions in their order: what both sets do alike from repetition to repetition (he
/// tires, he settles in) is taken out first, as the common slope within the sets, and repetition meets repetition at
/// the same place (aligned ranks, Hodges and Lehmann 1962). With fewer than four in either set the values are taken as
/// they are. `before` and `after` stay medians of the values themselves.
GroupChange alignedRankSum(std::span<const double> before, std::span<const double> after);

}  // namespace zevo
