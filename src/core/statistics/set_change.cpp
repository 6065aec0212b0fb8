#include "core/statistics/set_change.h"

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <cstddef>
#include <map>
#include <numeric>

namespace zevo {
namespace {

constexpr std::size_t kFewestOfASet = 3;
/// A slope over the set is taken out where so many repetitions tell it from chance.
constexpr std::size_t kFewestForASlope = 4;

double mean(std::span<const double> values) {
    return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

/// A set's mean, each leg counting alike, and what it has of the variance of one repetition.
struct SetMean {
    double value = 0, inverse = 0;  ///< inverse: 1 / n for repetitions of one leg
};

std::map<int, std::vector<double>> byLeg(const SetReadings& set) {
    std::map<int, std::vector<double>> out;
    for (std::size_t i = 0; i < set.values.size(); ++i)
        out[set.legs.empty() ? 0 : set.legs[i]].push_back(set.values[i]);
    return out;
}

SetMean meanOf(const SetReadings& set) {
    SetMean out;
    const auto legs = byLeg(set);
    const auto n = static_cast<double>(legs.size());
    for (const auto& [leg, values] : legs) {
        out.value += mean(values) / n;
        out.inverse += 1 / (n * n * static_cast<double>(values.size()));
    }
    return out;
}

struct Variance {
    double sum = 0, df = 0;
    void add(const SetReadings& set) {
        for (const auto& [leg, values] : byLeg(set)) {
            const double middle = mean(values);
            for (double v : values) sum += (v - middle) * (v - middle);
            df += static_cast<double>(values.size()) - 1;
        }
    }
    double value() const { return df > 0 ? sum / df : 0; }
};

/// Takes out what all sets do alike from repetition to repetition (the client tires, or settles in) by least squares,
/// so that a longer set is not held against more of the slope. Returns the sum of squared places the slope rests on; 0
/// where none was taken out.
double level(std::vector<SetReadings>& sets) {
    double across = 0, along = 0;
    std::size_t longest = 0;
    for (const SetReadings& set : sets) {
        if (set.values.size() < kFewestForASlope) return 0;
        longest = std::max(longest, set.values.size());
        // Within each leg: legs that take turns are no slope.
        SetReadings places = set;
        for (std::size_t i = 0; i < places.values.size(); ++i) places.values[i] = static_cast<double>(i);
        const auto values = byLeg(set), at = byLeg(places);
        for (const auto& [leg, read] : values) {
            const double middle = mean(read), middlePlace = mean(at.at(leg));
            for (std::size_t i = 0; i < read.size(); ++i) {
                const double place = at.at(leg)[i] - middlePlace;
                across += place * (read[i] - middle), along += place * place;
            }
        }
    }
    if (along <= 0) return 0;
    const double slope = across / along, centre = 0.5 * static_cast<double>(longest - 1);
    for (SetReadings& set : sets)
        for (std::size_t i = 0; i < set.values.size(); ++i) set.values[i] -= slope * (static_cast<double>(i) - centre);
    return along;
}

/// Only repetitions of legs that every set has: a left leg says nothing about a right one.
std::vector<SetReadings> ofCommonLegs(std::vector<SetReadings> sets) {
    std::map<int, std::size_t> inSets;
    for (const SetReadings& set : sets)
        for (const auto& [leg, values] : byLeg(set)) ++inSets[leg];
    const bool common = std::any_of(inSets.begin(), inSets.end(), [&](auto& l) { return l.second == sets.size(); });
    if (!common) return sets;  // the legs are what is compared
    for (SetReadings& set : sets) {
        SetReadings kept;
        for (std::size_t i = 0; i < set.values.size(); ++i) {
            const int leg = set.legs.empty() ? 0 : set.legs[i];
            if (inSets[leg] < sets.size()) continue;
            kept.values.push_back(set.values[i]);
            kept.legs.push_back(leg);
        }
        set = std::move(kept);
    }
    return sets;
}

}  // namespace

double studentT(double confidence, double df) {
    return boost::math::quantile(boost::math::students_t(df), 0.5 + 0.5 * confidence);
}

SetScatter scatterOf(std::span<const std::vector<SetReadings>> runs) {
    SetScatter out;
    double between = 0, inverse = 0, sets = 0;
    for (const auto& run : runs) {
        std::vector<SetMean> means;
        for (const SetReadings& set : run) {
            if (set.values.size() >= kFewestOfASet) means.push_back(meanOf(set));
        }
        if (means.size() < 2) continue;
        double middle = 0;
        for (const SetMean& m : means) middle += m.value / static_cast<double>(means.size());
        for (const SetMean& m : means) {
            between += (m.value - middle) * (m.value - middle);
            inverse += m.inverse;
        }
        sets += static_cast<double>(means.size());
        out.betweenDf += static_cast<double>(means.size()) - 1;
    }
    if (out.betweenDf > 0) out.betweenMeans = between / out.betweenDf, out.meanInverse = inverse / sets;
    return out;
}

std::optional<SetChangeTest> testChange(std::span<const SetReadings> before, std::span<const SetReadings> after,
                                        const SetScatter& history, const PartsOfSets& parts) {
    const bool sameSet = parts.sameSet;
    std::vector<SetReadings> sets(before.begin(), before.end());
    sets.insert(sets.end(), after.begin(), after.end());
    if (before.empty() || after.empty()) return std::nullopt;
    sets = ofCommonLegs(std::move(sets));
    if (std::any_of(sets.begin(), sets.end(), [](const SetReadings& s) { return s.values.empty(); }))
        return std::nullopt;
    const double along = level(sets);

    Variance within;
    for (const SetReadings& set : parts.sets.empty() ? sets : parts.sets) within.add(set);
    if (parts.sets.empty() && along > 0) within.df -= 1;
    if (within.df < 2) return std::nullopt;
    const double sigma2 = within.value();

    SetChangeTest out;
    struct Side {
        double value = 0, inverse = 0, sets = 0, middle = 0;  ///< middle: mean place of its repetitions
    };
    auto sideOf = [&](std::size_t from, std::size_t count) {
        Side side;
        side.sets = static_cast<double>(count);
        for (std::size_t i = from; i < from + count; ++i) {
            const SetMean m = meanOf(sets[i]);
            side.value += m.value / side.sets;
            side.inverse += m.inverse / (side.sets * side.sets);
            side.middle += 0.5 * static_cast<double>(sets[i].values.size() - 1) / side.sets;
        }
        return side;
    };
    const Side a = sideOf(0, before.size()), b = sideOf(before.size(), after.size());
    out.before = a.value, out.after = b.value;

    // τ² is a mix of history and prior: a share of `betweenMeans` and a multiple of σ². Satterthwaite's degrees of
    // freedom follow from how sure each of the two is.
    const double share = sameSet ? 0 : history.betweenDf / (kPriorDf + history.betweenDf);
    const double ofSigma = sameSet ? 0 : (1 - share) * kPriorRatio * kPriorRatio - share * history.meanInverse;
    struct Error {
        double variance = 0, df = 0;
    };
    auto errorOf = [&](double ofSets, double ofReps) {
        const double fromHistory = ofSets * share * history.betweenMeans;
        const double fromWithin = sigma2 * (ofReps + ofSets * ofSigma);
        // Sets cannot scatter less than their repetitions make them.
        const double variance = std::max(fromHistory + fromWithin, sigma2 * ofReps);
        const double spread = fromWithin * fromWithin / within.df +
                              (history.betweenDf > 0 ? fromHistory * fromHistory / history.betweenDf : 0.0);
        // Of two parts that nearly cancel nothing is left to count; one degree is the least there is.
        return Error{variance, spread > 0 ? std::max(1.0, variance * variance / spread) : within.df};
    };
    auto halfWidth = [&](const Side& side) {
        const Error e = errorOf(sameSet ? 0 : 1 / side.sets, side.inverse);
        return studentT(0.9, e.df) * std::sqrt(e.variance);
    };
    out.beforePm = halfWidth(a), out.afterPm = halfWidth(b);
    // Sides of unequal length rest on the slope, too.
    const double ofSlope = along > 0 ? (a.middle - b.middle) * (a.middle - b.middle) / along : 0;
    const Error e = errorOf(sameSet ? 0 : 1 / a.sets + 1 / b.sets, a.inverse + b.inverse + ofSlope);
    out.df = e.df;
    const double error = std::sqrt(e.variance);
    if (error <= 1e-12 * std::max(1.0, std::abs(out.before) + std::abs(out.after)))
        out.p = std::abs(out.change()) > 1e-9 ? 0 : 1;
    else
        out.p = 2 * boost::math::cdf(
                        boost::math::complement(boost::math::students_t(e.df), std::abs(out.change()) / error));
    return out;
}

std::vector<double> holm(std::span<const double> chances) {
    std::vector<std::size_t> order(chances.size());
    std::iota(order.begin(), order.end(), 0U);
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return chances[a] < chances[b]; });
    std::vector<double> out(chances.size());
    double sofar = 0;
    for (std::size_t i = 0; i < order.size(); ++i) {
        sofar = std::max(sofar, std::min(1.0, static_cast<double>(order.size() - i) * chances[order[i]]));
        out[order[i]] = sofar;
    }
    return out;
}

}  // namespace zevo
