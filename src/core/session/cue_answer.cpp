#include "core/session/cue_answer.h"

#include <algorithm>
#include <cmath>

#include "core/session/comparison.h"
#include "core/signal/filter.h"
#include "core/statistics/rank_sum.h"

namespace zevo {
namespace {

struct Readings {
    std::vector<double> beyond, values, pm;
};

Readings readingsOf(const std::vector<MeasuredRep>& reps, const Band& band, bool above) {
    Readings out;
    for (const MeasuredRep& rep : reps) {
        const Measurement* m = rep.kind == RepKind::Partial ? nullptr : rep.find(band.measure);
        if (!m) continue;
        out.values.push_back(m->value);
        out.pm.push_back(m->pm90);
        out.beyond.push_back(above ? m->value - *band.max : *band.min - m->value);
    }
    return out;
}

bool found(const std::vector<Finding>& findings, const std::string& fault) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.fault == fault; });
}

}  // namespace

CueAnswer answerTo(const CueGiven& cue, const std::vector<MeasuredRep>& before, const std::vector<MeasuredRep>& now,
                   const Standard& standard) {
    CueAnswer out;
    out.cue = cue;
    const auto were = findFaults(before, standard), are = findFaults(now, standard);
    out.gone = !found(are, cue.fault);
    for (const Finding& f : are)
        if (f.severity == Severity::Clear && f.fault != cue.fault && !found(were, f.fault))
            out.newFaults.push_back(f.fault);
    // Several measures may see the same fault, one a leg: the one that lay furthest past its band before is the one it
    // was said about.
    double furthest = -1e9;
    for (const Band& band : standard.bands) {
        const bool above = band.max && band.faultAbove == cue.fault;
        if (!above && !(band.min && band.faultBelow == cue.fault)) continue;
        const Readings a = readingsOf(before, band, above), b = readingsOf(now, band, above);
        constexpr std::size_t kFewest = 3;
        if (a.values.size() < kFewest || b.values.size() < kFewest) continue;
        const double past = median(a.beyond) / std::max(1e-9, median(a.pm));
        if (past <= furthest) continue;
        furthest = past;
        out.measure = band.measure;
        out.before = median(a.values);
        out.after = median(b.values);
        const GroupChange change = alignedRankSum(a.beyond, b.beyond);
        out.p = change.p;
        out.beforePm = halfWidth(a.values), out.afterPm = halfWidth(b.values);
        const bool told = isTold(change, median(b.pm), std::min(a.values.size(), b.values.size()));
        out.effect = !told ? CueEffect::NoDifference : change.change() < 0 ? CueEffect::Worked : CueEffect::Worse;
    }
    return out;
}

}  // namespace zevo
