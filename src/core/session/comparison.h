#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/judge/findings.h"
#include "core/session/session.h"
#include "core/statistics/rank_sum.h"

namespace zevo {

/// Why two sets, or repetitions of two sets, were not seen alike: what a camera or a network gets wrong every time does
/// not fall out then, and the stated ± of both readings count as well.
enum class Unlike {
    View,     ///< one from the side, one from the front …
    Angle,    ///< more than 5° differently off square
    Size,     ///< the body more than a sixth larger in one picture than in the other
    Network,  ///< read or measured by different networks or engines
    Scale     ///< lengths by a told length in one and by the stature in the other
};
std::vector<Unlike> unlikeBetween(const SetState& a, const SetState& b);

/// Differences under a fifth of a reading's ± get no word, however surely they are there. Chance is believed away at
/// one in twenty; with three repetitions on a side, where a test of ranks cannot say more, at one in ten (our choice: a
/// false word costs the coach one set, a missed one as well).
inline constexpr double kShareWorthAWord = 0.2, kBelieved = 0.05, kBelievedOfThree = 0.1;
/// `repetitions`: of the smaller group.
bool isTold(const GroupChange& change, double pm90, std::size_t repetitions);

/// 90 % half width of the mean of repetitions from their own scatter (Student's t); 0 for fewer than two.
double halfWidth(std::span<const double> values);

/// What one measure did between two groups of repetitions, or two single ones.
struct MeasureDifference {
    MeasureId measure;
    double before = 0, after = 0;      ///< medians
    double beforePm = 0, afterPm = 0;  ///< from scatter, or the readings' own where both groups are not seen alike
    double p = 1;                      ///< alignedRankSum(); 1 for single repetitions
    bool told = false;                 ///< more than noise
    double change() const { return after - before; }
};

/// Compares what both groups have; `from`: the sets they are taken from. Groups of at least three: by
/// alignedRankSum(). Smaller ones: a difference is told where it is more than single repetitions differ by (1.645 √2 of
/// the scatter of the noisier set). Where `alike` is false the stated ± of both have to be passed, too. Told ones
/// first, the largest against the ± first.
std::vector<MeasureDifference> differencesOf(const std::vector<MeasuredRep>& before,
                                             const std::vector<MeasuredRep>& after,
                                             const std::vector<std::vector<MeasuredRep>>& from, bool alike);

/// Where in its course a repetition is: 0 start, 1 arrived, 1.5 turning point, 2 leaves, 3 end. Moments of two
/// repetitions with the same phase belong together, however long either took.
double phaseOf(const MeasuredRep& rep, double timeS);
double timeAt(const MeasuredRep& rep, double phase);

}  // namespace zevo
