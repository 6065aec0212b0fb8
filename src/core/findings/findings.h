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

/// A fault seen in a set.
struct Finding {
    std::string fault;
    Severity severity = Severity::Unsure;
    std::vector<int> reps;  ///< numbers of the repetitions that show it
    std::string measure;
    double atS = 0;                        ///< the moment that shows it best
    double value = 0, pm90 = 0, edge = 0;  ///< there
    int rank = 100;
};

/// Judges every full or double repetition; a fault is clear when it is out in at least a third of the
/// repetitions or in two of them, watch when only once in a longer set, unsure when the ± does not settle it
/// in at least half of them. Ordered: clear first, then by the standard's rank.
std::vector<Finding> findFaults(const std::vector<MeasuredRep>& reps, const Standard& standard);

}  // namespace zevo
