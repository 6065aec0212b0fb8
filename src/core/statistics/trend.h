#pragma once

#include <span>

namespace zevo {

/// What a measure does over a set: fatigue, or settling in.
struct Trend {
    double first = 0, last = 0;  ///< means of the first and the last third
    double change = 0;           ///< last − first
    /// Chance of an order at least as one-sided, up or down, if the repetitions had no trend: the exact two-sided test
    /// of Mann (1945) and Kendall on the number of pairs in order. Ties count half. 1 for fewer than 5 values: four
    /// repetitions in order happen by chance once in twelve sets.
    double p = 1;
};

Trend trendOf(std::span<const double> values);

/// Two sides compared, each with the 90 % half width of its mean.
struct Comparison {
    double left = 0, right = 0;
    double difference = 0, differencePm = 0;  ///< right − left
    /// Limb symmetry index: the smaller mean in per cent of the larger one; only where both have the same sign and are
    /// more than twice a reading's ± from zero.
    double index = 0, indexPm = 0;
    bool moreThanNoise = false;  ///< the difference is larger than its ±
};

/// `pm90`: of a single reading. What repeats in every reading of a side does not average out, so the half width of a
/// mean is that of one reading with the spread of the side's readings on top.
Comparison compareSides(std::span<const double> left, std::span<const double> right, double pm90);

}  // namespace zevo
