#include "core/reps/alignment.h"

#include <algorithm>
#include <cmath>

#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kRate = 100;        // finer than any frame
constexpr double kLeastShare = 0.4;  // of the shorter clip that both must show

/// The course on an even clock from its own beginning.
std::vector<double> even(const Course& c) {
    std::vector<double> at;
    for (double t = c.timesS.front(); t <= c.timesS.back(); t += 1 / kRate) at.push_back(t);
    return fillNearest(resample(c.timesS, c.values, at, 1.0));
}

/// Correlation of a[i] with b[i + shift] over what both have; 0 where one of them is still.
double correlation(const std::vector<double>& a, const std::vector<double>& b, long shift, std::size_t& shared) {
    const long from = std::max(0L, -shift);
    const long to = std::min(static_cast<long>(a.size()), static_cast<long>(b.size()) - shift);
    shared = to > from ? static_cast<std::size_t>(to - from) : 0;
    if (shared < 3) return 0;
    double sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
    for (long i = from; i < to; ++i) {
        const double x = a[static_cast<std::size_t>(i)], y = b[static_cast<std::size_t>(i + shift)];
        sa += x, sb += y, saa += x * x, sbb += y * y, sab += x * y;
    }
    const auto n = static_cast<double>(shared);
    const double va = saa - sa * sa / n, vb = sbb - sb * sb / n;
    return va > 1e-9 && vb > 1e-9 ? (sab - sa * sb / n) / std::sqrt(va * vb) : 0;
}

}  // namespace

Alignment alignCourses(const Course& first, const Course& second) {
    if (first.timesS.size() < 3 || second.timesS.size() < 3) return {};
    const auto a = even(first), b = even(second);
    const auto shorter = static_cast<double>(std::min(a.size(), b.size()));
    double best = -2;
    long bestShift = 0;
    Alignment out;
    auto worth = [&](long shift) {
        std::size_t shared = 0;
        const double c = correlation(a, b, shift, shared);
        const double share = static_cast<double>(shared) / shorter;
        return share < kLeastShare ? -2.0 : c * (0.8 + 0.2 * std::min(1.0, share));
    };
    for (long shift = -static_cast<long>(a.size()); shift <= static_cast<long>(b.size()); ++shift)
        if (const double w = worth(shift); w > best) best = w, bestShift = shift;
    if (best <= -2) return {};
    // The weight only chose among like peaks; the peak itself is the correlation's own.
    std::size_t shared = 0;
    auto pure = [&](long shift) { return correlation(a, b, shift, shared); };
    for (long step : {1L, -1L})
        while (pure(bestShift + step) > pure(bestShift)) bestShift += step;
    out.agreement = correlation(a, b, bestShift, shared);
    out.overlapS = static_cast<double>(shared) / kRate;
    const double before = pure(bestShift - 1), after = pure(bestShift + 1);
    const double curve = before - 2 * out.agreement + after;
    const double between = curve < -1e-12 ? 0.5 * (before - after) / curve : 0;
    // a[i] at first.front + i / rate shows what b[i + shift] shows.
    out.lagS = second.timesS.front() - first.timesS.front() + (static_cast<double>(bestShift) + between) / kRate;
    return out;
}

}  // namespace zevo
