#include "core/statistics/trend.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace zevo {
namespace {

constexpr std::size_t kFewest = 5;

double meanOf(std::span<const double> v) {
    double sum = 0;
    for (double x : v) sum += x;
    return sum / static_cast<double>(v.size());
}

/// Chance that a random order of n values has at most `discordant` pairs out of order. The numbers of orders with k
/// such pairs (Mahonian numbers) follow from those of n − 1 values: the n-th goes to any of n places.
double chanceOfAtMost(std::size_t n, double discordant) {
    std::vector<double> ways{1};
    for (std::size_t m = 2; m <= n; ++m) {
        std::vector<double> next(ways.size() + m - 1, 0.0);
        for (std::size_t k = 0; k < ways.size(); ++k)
            for (std::size_t j = 0; j < m; ++j) next[k + j] += ways[k] / static_cast<double>(m);
        ways = std::move(next);
    }
    double sum = 0;
    for (std::size_t k = 0; k < ways.size() && static_cast<double>(k) <= discordant + 1e-9; ++k) sum += ways[k];
    return sum;
}

}  // namespace

Trend trendOf(std::span<const double> values) {
    Trend t;
    const std::size_t n = values.size();
    if (n == 0) return t;
    const std::size_t third = std::max<std::size_t>(1, n / 3);
    t.first = meanOf(values.first(third));
    t.last = meanOf(values.last(third));
    t.change = t.last - t.first;
    if (n < kFewest) return t;
    double down = 0;
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t k = i + 1; k < n; ++k)
            down += values[k] < values[i] ? 1.0 : values[k] == values[i] ? 0.5 : 0.0;
    const double pairs = 0.5 * static_cast<double>(n) * static_cast<double>(n - 1);
    t.p = std::min(1.0, 2 * chanceOfAtMost(n, std::min(down, pairs - down)));
    return t;
}

Comparison compareSides(std::span<const double> left, std::span<const double> right, double pm90) {
    Comparison c;
    if (left.empty() || right.empty()) return c;
    c.left = meanOf(left);
    c.right = meanOf(right);
    auto pmOf = [pm90](std::span<const double> v, double mean) {
        double sum = 0;
        for (double x : v) sum += (x - mean) * (x - mean);
        const auto n = static_cast<double>(v.size());
        const double spread = v.size() > 1 ? 1.645 * std::sqrt(sum / (n - 1) / n) : 0;
        return std::hypot(pm90, spread);
    };
    const double pmLeft = pmOf(left, c.left), pmRight = pmOf(right, c.right);
    c.difference = c.right - c.left;
    c.differencePm = std::hypot(pmLeft, pmRight);
    c.moreThanNoise = std::abs(c.difference) > c.differencePm;
    const double small = std::min(std::abs(c.left), std::abs(c.right)),
                 large = std::max(std::abs(c.left), std::abs(c.right));
    // A ratio of two readings that are hardly told from zero says nothing.
    if (c.left * c.right > 0 && small > 2 * pm90) {
        c.index = 100 * small / large;
        c.indexPm = c.index * std::hypot(pmLeft / c.left, pmRight / c.right);
    }
    return c;
}

}  // namespace zevo
