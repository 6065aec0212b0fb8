#pragma once

#include <string>
#include <vector>

#include "core/measures/measure.h"
#include "core/standards/standard.h"

namespace zevo {

struct MeasuredRep {
    int index = 0;
    RepKind kind = RepKind::Full;
    double startS = 0, arriveS = 0, bottomS = 0, leaveS = 0, endS = 0;
    std::optional<Side> leg;  ///< the client's, where one leg works at a time
    std::vector<Measurement> measures;

    const Measurement* find(const std::string& id) const;
};

/// Where a value lies against its band, counting its ±.
enum class Verdict { Inside, Outside, Unsure };

struct Judgement {
    Verdict verdict = Verdict::Inside;
    bool above = false;  ///< which side it is (or may be) out on
    double beyond = 0;   ///< how far the value lies past the nearest edge; negative inside
};

/// Outside when even the favourable end of the ± is out; unsure when the ± spans the edge with the value
/// outside (in careful bands: on either side of it), or when the confidence is below the standard's.
Judgement judge(const Measurement& m, const Band& band, double minConfidence);

enum class Severity { Clear, Watch, Unsure };
std::string severityName(Severity s);

/// The leg a measurement speaks of in a repetition; nothing when it is about the whole body.
std::optional<Side> sideOf(const Measurement& m, const MeasuredRep& rep);

/// A fault seen in a set.
struct Finding {
    std::string fault;
    Severity severity = Severity::Unsure;
    std::vector<int> reps;  ///< numbers of the repetitions that show it
    std::string measure;
    double atS = 0;                        ///< the moment that shows it best
    double value = 0, pm90 = 0, edge = 0;  ///< there
    int rank = 100;
    std::optional<Side> side;  ///< of a fault of one leg: the client's
    bool second = false;       ///< seen in the second clip; atS is that clip's time
};

/// Judges every full or double repetition; a fault is clear when it is out in at least a third of the
/// repetitions or in two of them, watch when only once in a longer set, unsure when the ± does not settle it
/// in at least half of them. A fault of one leg is found for each leg by itself, among the repetitions in which that
/// leg works. Ordered: clear first, then by the standard's rank.
std::vector<Finding> findFaults(const std::vector<MeasuredRep>& reps, const Standard& standard);

/// Clear first, then by rank.
void sortFindings(std::vector<Finding>& findings);

}  // namespace zevo
