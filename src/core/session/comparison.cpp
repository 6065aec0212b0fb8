#include "core/session/comparison.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "core/signal/filter.h"

namespace zevo {
namespace {

std::vector<SetReadings> readingsOf(const std::vector<RepsOfSet>& sets, MeasureId measure) {
    std::vector<SetReadings> out;
    for (const RepsOfSet& set : sets) out.push_back(zevo::readingsOf(set, measure));
    return out;
}

/// Median of the stated ± of a measure; 0 where it was not read.
double statedPm(const std::vector<RepsOfSet>& sets, MeasureId measure) {
    std::vector<double> out;
    for (const RepsOfSet& set : sets)
        for (const MeasuredRep& rep : set)
            if (const Measurement* m = rep.find(measure)) out.push_back(m->pm90);
    return out.empty() ? 0 : median(out);
}

std::set<MeasureId> measuresOf(const std::vector<RepsOfSet>& sets) {
    std::set<MeasureId> out;
    for (const RepsOfSet& set : sets)
        for (const MeasuredRep& rep : set)
            for (const Measurement& m : rep.measures) out.insert(m.measure);
    return out;
}

}  // namespace

SetReadings readingsOf(const RepsOfSet& reps, MeasureId measure) {
    SetReadings out;
    for (const MeasuredRep& rep : reps) {
        const Measurement* m = rep.find(measure);
        if (!m) continue;
        out.values.push_back(m->value);
        out.legs.push_back(rep.leg ? static_cast<int>(*rep.leg) : -1);
    }
    return out;
}

SetScatter scatterOf(const SetHistory& history, MeasureId measure) {
    std::vector<std::vector<SetReadings>> runs;
    for (const auto& run : history) runs.push_back(readingsOf(run, measure));
    return scatterOf(runs);
}

double halfWidth(std::span<const double> values) {
    const auto n = static_cast<double>(values.size());
    if (values.size() < 2) return 0;
    double mean = 0, sum = 0;
    for (double v : values) mean += v / n;
    for (double v : values) sum += (v - mean) * (v - mean);
    return studentT(0.9, n - 1) * std::sqrt(sum / (n - 1) / n);
}

std::vector<MeasureDifference> differencesOf(const SidesCompared& sides, const SetHistory& history,
                                             const Standard& standard) {
    std::vector<MeasureDifference> out;
    std::vector<double> stated;  // the larger ± of both sides
    const auto are = measuresOf(sides.after);
    for (MeasureId measure : measuresOf(sides.before)) {
        if (!are.contains(measure)) continue;
        auto read = [&](const std::vector<RepsOfSet>& sets) {
            auto all = readingsOf(sets, measure);
            std::erase_if(all, [](const SetReadings& s) { return s.values.empty(); });
            return all;
        };
        MeasureDifference d;
        d.measure = measure;
        d.judged = standard.bandFor(measure) != nullptr;
        const double pmBefore = statedPm(sides.before, measure), pmAfter = statedPm(sides.after, measure);
        const auto before = read(sides.before), after = read(sides.after);
        if (const auto test =
                testChange(before, after, scatterOf(history, measure), {read(sides.partOf), sides.sameSet})) {
            d.before = test->before, d.after = test->after, d.p = test->p;
            d.beforePm = test->beforePm, d.afterPm = test->afterPm;
        } else {
            auto middle = [](const std::vector<SetReadings>& sets) {
                std::vector<double> all;
                for (const SetReadings& s : sets) all.insert(all.end(), s.values.begin(), s.values.end());
                return median(all);
            };
            d.before = middle(before), d.after = middle(after);
            d.beforePm = pmBefore, d.afterPm = pmAfter;
        }
        if (!sides.alike) {
            d.beforePm = std::hypot(d.beforePm, pmBefore), d.afterPm = std::hypot(d.afterPm, pmAfter);
            if (std::abs(d.change()) <= std::hypot(pmBefore, pmAfter)) d.p = 1;
        }
        stated.push_back(std::max(pmBefore, pmAfter));
        out.push_back(d);
    }
    std::vector<double> chances;
    for (const MeasureDifference& d : out)
        if (d.judged) chances.push_back(d.p);
    const auto corrected = holm(chances);
    for (std::size_t i = 0, k = 0; i < out.size(); ++i) {
        MeasureDifference& d = out[i];
        if (!d.judged) continue;
        d.p = corrected[k++];
        d.significant = d.p <= kAlpha && std::abs(d.change()) >= kShareWorthAWord * stated[i];
    }
    auto shelf = [](const MeasureDifference& d) { return d.significant ? 0 : d.judged ? 1 : 2; };
    auto size = [](const MeasureDifference& d) {
        return std::abs(d.change()) / std::max(1e-9, std::hypot(d.beforePm, d.afterPm));
    };
    std::stable_sort(out.begin(), out.end(), [&](const MeasureDifference& x, const MeasureDifference& y) {
        return shelf(x) != shelf(y) ? shelf(x) < shelf(y) : size(x) > size(y);
    });
    return out;
}

namespace {

/// Moments with a phase of their own, in order.
std::array<std::pair<double, double>, 5> stationsOf(const MeasuredRep& r) {
    return {{{0, r.startS}, {1, r.arriveS}, {1.5, r.bottomS}, {2, r.leaveS}, {3, r.endS}}};
}

}  // namespace

double phaseOf(const MeasuredRep& rep, double timeS) {
    const auto all = stationsOf(rep);
    for (std::size_t i = 1; i < all.size(); ++i) {
        const auto [from, fromS] = all[i - 1];
        const auto [to, toS] = all[i];
        if (timeS > toS && i + 1 < all.size()) continue;
        if (toS - fromS < 1e-9) {
            if (timeS <= toS) return to;
            continue;
        }
        return std::clamp(from + (to - from) * (timeS - fromS) / (toS - fromS), 0.0, 3.0);
    }
    return 3;
}

double timeAt(const MeasuredRep& rep, double phase) {
    const auto all = stationsOf(rep);
    for (std::size_t i = 1; i < all.size(); ++i) {
        const auto [from, fromS] = all[i - 1];
        const auto [to, toS] = all[i];
        if (phase <= to) return fromS + (toS - fromS) * std::clamp((phase - from) / (to - from), 0.0, 1.0);
    }
    return rep.endS;
}

}  // namespace zevo
