#include "core/session/cue_answer.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr std::size_t kFewest = 3;

bool containsFault(const std::vector<Finding>& findings, const std::string& fault) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.fault == fault; });
}

/// A measure that sees a fault, with its twin of the other leg where both are asked.
struct Witness {
    MeasureId measure, twin;
    bool above = false;  ///< the fault lies above the band
};

std::vector<Witness> witnessesOf(const std::string& fault, const Standard& standard) {
    std::vector<Witness> out;
    for (const Band& band : standard.bands) {
        const bool above = band.max && band.faultAbove == fault;
        if (!above && !(band.min && band.faultBelow == fault)) continue;
        const auto twin = std::find_if(out.begin(), out.end(), [&](const Witness& w) {
            return w.above == above && w.measure == ofOtherLeg(band.measure);
        });
        if (twin != out.end())
            twin->twin = band.measure;
        else
            out.push_back({band.measure, {}, above});
    }
    return out;
}

/// Readings of a witness, both legs as their mean in each repetition.
struct WitnessReadings {
    SetReadings readings;
    std::vector<double> pm;
};
WitnessReadings readingsOf(const RepsOfSet& reps, const Witness& w) {
    WitnessReadings out;
    for (const MeasuredRep& rep : reps) {
        if (rep.kind == RepKind::Partial) continue;
        const Measurement *one = rep.find(w.measure), *other = w.twin ? rep.find(w.twin) : one;
        if (!one || !other) continue;
        out.readings.values.push_back(0.5 * (one->value + other->value));
        out.readings.legs.push_back(rep.leg ? static_cast<int>(*rep.leg) : -1);
        out.pm.push_back(std::max(one->pm90, other->pm90));
    }
    return out;
}

/// A leg that was hidden in one of the sets leaves the other one to speak.
Witness readable(Witness w, const std::vector<RepsOfSet>& before, const RepsOfSet& now) {
    if (!w.twin) return w;
    auto isRead = [&](const Witness& which) {
        return readingsOf(now, which).pm.size() >= kFewest &&
               std::any_of(before.begin(), before.end(),
                           [&](const RepsOfSet& set) { return readingsOf(set, which).pm.size() >= kFewest; });
    };
    if (isRead(w)) return w;
    const Witness one{w.measure, {}, w.above}, other{w.twin, {}, w.above};
    return isRead(one) ? one : other;
}

}  // namespace

CueAnswer answerTo(const CueGiven& cue, const std::vector<RepsOfSet>& before, const RepsOfSet& now,
                   const SetHistory& history, const Standard& standard) {
    CueAnswer out;
    out.cue = cue;
    const auto were = before.empty() ? std::vector<Finding>() : findFaults(before.back(), standard);
    const auto are = findFaults(now, standard);
    out.gone = !containsFault(are, cue.fault);
    for (const Finding& f : are)
        if (f.severity == Severity::Clear && f.fault != cue.fault && !containsFault(were, f.fault))
            out.newFaults.push_back(f.fault);

    struct Answer {
        Witness witness;
        SetChangeTest test;
        double pm = 0;
        int sets = 0;
    };
    std::vector<Answer> answers;
    std::vector<double> chances;
    for (const Witness& asked : witnessesOf(cue.fault, standard)) {
        const Witness w = readable(asked, before, now);
        std::vector<SetReadings> was;
        for (const RepsOfSet& set : before)
            if (auto r = readingsOf(set, w); r.pm.size() >= kFewest) was.push_back(std::move(r.readings));
        const auto is = readingsOf(now, w);
        if (was.empty() || is.pm.size() < kFewest) continue;
        std::vector<std::vector<SetReadings>> runs;
        for (const auto& run : history) {
            runs.emplace_back();
            for (const RepsOfSet& set : run) runs.back().push_back(readingsOf(set, w).readings);
        }
        const auto test = testChange(was, std::vector{is.readings}, scatterOf(runs));
        if (!test) continue;
        answers.push_back({w, *test, median(is.pm), static_cast<int>(was.size())});
        chances.push_back(test->p);
    }
    if (answers.empty()) return out;
    // Several measures may see the same fault: the surest speaks, at the price of having looked at all of them.
    const auto corrected = holm(chances);
    const auto surest =
        static_cast<std::size_t>(std::min_element(corrected.begin(), corrected.end()) - corrected.begin());
    const Answer& a = answers[surest];
    out.measure = a.witness.measure, out.bothLegs = bool(a.witness.twin), out.earlierSets = a.sets;
    out.before = a.test.before, out.after = a.test.after, out.p = corrected[surest];
    out.beforePm = a.test.beforePm, out.afterPm = a.test.afterPm;
    const double change = a.witness.above ? a.test.change() : -a.test.change();
    const bool significant = out.p <= kAlpha && std::abs(change) >= kShareWorthAWord * a.pm;
    out.effect = !significant ? CueEffect::NoDifference : change < 0 ? CueEffect::Worked : CueEffect::Worse;
    return out;
}

}  // namespace zevo
