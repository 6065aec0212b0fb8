#pragma once

#include <optional>
#include <span>
#include <vector>

namespace zevo {

// Whether a measure changed between sets. The unit is the set: repetitions of one set share what the client was like in
// it, so that ten of them are not ten witnesses.
//
// Model: reading = client + set + leg + slope · place in the set + repetition, with set ~ N(0, τ²) and
// repetition ~ N(0, σ²). Leg and slope are common to the sets held against each other and taken out. σ² is pooled
// within sets. τ² is what sets between which nothing changed differ by, less what their repetitions explain (one-way
// analysis of variance), mixed with the prior below. The difference of two means of sets over its standard error then
// follows Student's t with the degrees of freedom of Satterthwaite (1946).
//
// Assumes: sets and repetitions scatter normally and alike before and after; a set is the same length of time away from
// each other set (no drift from set to set).

/// Readings of one measure in one set, in the order of its repetitions.
struct SetReadings {
    std::vector<double> values;
    std::vector<int> legs = {};  ///< which leg each is of, any two numbers; empty: of none
};

/// How much sets scatter by themselves, from sets between which nothing changed.
struct SetScatter {
    double betweenMeans = 0;  ///< variance of the means of sets about their run
    double betweenDf = 0;     ///< degrees of freedom of it
    double meanInverse = 0;  ///< mean of 1 / repetitions over those sets: σ² times this of betweenMeans is repetitions'
};
/// `runs`: of each, sets of one client one after the other with nothing said and nothing changed in between. Sets of
/// fewer than three repetitions are passed over.
SetScatter scatterOf(std::span<const std::vector<SetReadings>> runs);

/// What is held about τ / σ before a client's history says better: a little more than one, so that the promise below
/// holds for clients whose sets scatter as much as their repetitions (Satterthwaite's degrees of freedom are an
/// approximation). Weighs as much as so many degrees of freedom (project choices; no measured source. bench_between
/// shows what they come to).
inline constexpr double kPriorRatio = 1.1, kPriorDf = 4;
/// Chance of a "changed" where nothing did.
inline constexpr double kAlpha = 0.05;
/// Differences under a fifth of a reading's ± get no word, however surely they are there (project choice).
inline constexpr double kShareWorthAWord = 0.2;

struct SetChangeTest {
    double before = 0, after = 0;      ///< means of the means of sets
    double beforePm = 0, afterPm = 0;  ///< 90 % half widths of both, with what sets differ by
    double p = 1;                      ///< two-sided
    double df = 0;
    double change() const { return after - before; }
};
/// Where the sides are not whole sets.
struct PartsOfSets {
    std::vector<SetReadings> sets = {};  ///< the whole ones, which tell σ then; empty: the sides do
    bool sameSet = false;                ///< both sides are parts of one set, in which the set's own share falls out
};
/// Nothing where there are no repetitions on a side, or fewer than three to tell from how far repetitions of a set lie
/// apart.
std::optional<SetChangeTest> testChange(std::span<const SetReadings> before, std::span<const SetReadings> after,
                                        const SetScatter& history, const PartsOfSets& parts = {});

/// Holm's (1979) correction for having looked at several: chances in the same order, each to be held against kAlpha.
std::vector<double> holm(std::span<const double> chances);

/// Quantile of Student's t: half width of a two-sided interval of `confidence`.
double studentT(double confidence, double df);

}  // namespace zevo
