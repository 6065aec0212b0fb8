#include "core/statistics/rank_sum.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <vector>

#include "core/signal/filter.h"

namespace zevo {

GroupChange rankSum(std::span<const double> before, std::span<const double> after) {
    GroupChange out;
    constexpr std::size_t kMost = 15;
    if (before.size() > kMost) before = before.last(kMost);
    if (after.size() > kMost) after = after.last(kMost);
    if (before.empty() || after.empty()) return out;
    out.before = median({before.begin(), before.end()});
    out.after = median({after.begin(), after.end()});
    std::vector<double> all(before.begin(), before.end());
    all.insert(all.end(), after.begin(), after.end());
    // Twice the mid-rank of every value: whole numbers, so that sums can be counted.
    std::vector<int> ranks;
    for (double v : all) {
        int less = 0, same = 0;
        for (double w : all) less += w < v, same += w == v;
        ranks.push_back(2 * less + same + 1);
    }
    int seen = 0, most = 0;
    for (std::size_t i = 0; i < ranks.size(); ++i) {
        most += ranks[i];
        if (i < before.size()) seen += ranks[i];
    }
    // ways[k][s]: to choose k values whose doubled ranks come to s.
    std::vector<std::vector<double>> ways(before.size() + 1,
                                          std::vector<double>(static_cast<std::size_t>(most) + 1, 0.0));
    ways[0][0] = 1;
    for (int r : ranks)
        for (std::size_t k = before.size(); k-- > 0;)
            for (std::size_t s = 0; s + static_cast<std::size_t>(r) <= static_cast<std::size_t>(most); ++s)
                ways[k + 1][s + static_cast<std::size_t>(r)] += ways[k][s];
    const std::vector<double>& dealt = ways[before.size()];
    const double middle = static_cast<double>(before.size()) * most / static_cast<double>(all.size());
    double total = 0, extreme = 0;
    for (std::size_t s = 0; s < dealt.size(); ++s) {
        total += dealt[s];
        if (std::abs(static_cast<double>(s) - middle) >= std::abs(seen - middle) - 1e-9) extreme += dealt[s];
    }
    out.p = extreme / total;
    return out;
}

GroupChange alignedRankSum(std::span<const double> before, std::span<const double> after) {
    constexpr std::size_t kFewest = 4;
    if (before.size() < kFewest || after.size() < kFewest) return rankSum(before, after);
    double across = 0, along = 0;
    for (const auto& set : {before, after}) {
        double mean = 0;
        for (double v : set) mean += v / static_cast<double>(set.size());
        const double middle = 0.5 * static_cast<double>(set.size() - 1);
        for (std::size_t i = 0; i < set.size(); ++i) {
            const double place = static_cast<double>(i) - middle;
            across += place * (set[i] - mean), along += place * place;
        }
    }
    const double slope = across / along;
    auto levelled = [&](std::span<const double> set) {
        std::vector<double> out(set.begin(), set.end());
        for (std::size_t i = 0; i < out.size(); ++i) out[i] -= slope * static_cast<double>(i);
        return out;
    };
    GroupChange out = rankSum(levelled(before), levelled(after));
    out.before = median({before.begin(), before.end()});
    out.after = median({after.begin(), after.end()});
    return out;
}

}  // namespace zevo
