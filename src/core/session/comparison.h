#pragma once

#include <span>
#include <vector>

#include "core/judge/findings.h"
#include "core/statistics/set_change.h"

namespace zevo {

/// The repetitions of one set that are held against those of others.
using RepsOfSet = std::vector<MeasuredRep>;
/// Of each: sets of one client one after the other, seen alike, with nothing said and nothing changed in between. They
/// tell how much sets scatter by themselves.
using SetHistory = std::vector<std::vector<RepsOfSet>>;

/// Two sides of a comparison.
struct SidesCompared {
    std::vector<RepsOfSet> before, after;
    /// Whole sets the sides are taken from, where these are single repetitions or one leg: how far repetitions lie
    /// apart is told by them. Empty: by the sides.
    std::vector<RepsOfSet> partOf = {};
    bool sameSet = false;  ///< both are parts of one set
    bool alike = true;     ///< seen alike: no ComparabilityIssue
};

/// What one measure did between two sides.
struct MeasureDifference {
    MeasureId measure;
    double before = 0, after = 0;  ///< means
    double beforePm = 0,
           afterPm = 0;        ///< 90 %, with what sets differ by; of sides not seen alike the readings' own too
    bool judged = false;       ///< the standard has a band for it: only then is there a verdict
    double p = 1;              ///< of judged ones after Holm's correction; of others as it is
    bool significant = false;  ///< judged, and more than chance and a fifth of a reading's ±
    double change() const { return after - before; }
};

/// Compares what both sides have. Verdicts are given on the measures `standard` has bands for, all together wrong in at
/// most one comparison of twenty (set_change.h; Holm). Where the sides were not seen alike the stated ± of both have to
/// be passed, too. Significant ones first, then judged ones, the largest against the ± first.
std::vector<MeasureDifference> differencesOf(const SidesCompared& sides, const SetHistory& history,
                                             const Standard& standard);

/// Readings of a measure, with the leg that worked in each.
SetReadings readingsOf(const RepsOfSet& reps, MeasureId measure);
/// How much sets scatter in a measure.
SetScatter scatterOf(const SetHistory& history, MeasureId measure);

/// 90 % half width of the mean of repetitions from their own scatter (Student's t); 0 for fewer than two.
double halfWidth(std::span<const double> values);

/// Where in its course a repetition is: 0 start, 1 arrived, 1.5 turning point, 2 leaves, 3 end. Moments of two
/// repetitions with the same phase belong together, however long either took.
double phaseOf(const MeasuredRep& rep, double timeS);
double timeAt(const MeasuredRep& rep, double phase);

}  // namespace zevo
