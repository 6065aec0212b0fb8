#include "core/session/comparison.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/signal/filter.h"

namespace zevo {
namespace {

struct Readings {
    std::vector<double> values, pm;
};

std::map<MeasureId, Readings> readingsOf(const std::vector<MeasuredRep>& reps) {
    std::map<MeasureId, Readings> out;
    for (const MeasuredRep& rep : reps)
        for (const Measurement& m : rep.measures) {
            out[m.measure].values.push_back(m.value);
            out[m.measure].pm.push_back(m.pm90);
        }
    return out;
}

double deviation(std::span<const double> values) {
    if (values.size() < 2) return 0;
    double mean = 0, sum = 0;
    for (double v : values) mean += v / static_cast<double>(values.size());
    for (double v : values) sum += (v - mean) * (v - mean);
    return std::sqrt(sum / static_cast<double>(values.size() - 1));
}

}  // namespace

bool isTold(const GroupChange& change, double pm90, std::size_t repetitions) {
    return change.p <= (repetitions > 3 ? kBelieved : kBelievedOfThree) + 1e-9 &&
           std::abs(change.change()) >= kShareWorthAWord * pm90;
}

double halfWidth(std::span<const double> values) {
    const std::size_t n = values.size();
    if (n < 2) return 0;
    // Student's t, two-sided 90 %, by degrees of freedom (any table of it; tests hold it against the integral).
    constexpr std::array kT{6.314, 2.920, 2.353, 2.132, 2.015, 1.943, 1.895, 1.860, 1.833, 1.812};
    const double t = n - 2 < kT.size() ? kT[n - 2] : 1.645 + 1.6 / static_cast<double>(n - 1);
    return t * deviation(values) / std::sqrt(static_cast<double>(n));
}

std::vector<Unlike> unlikeBetween(const SetState& a, const SetState& b) {
    constexpr double kOtherAngleDeg = 5, kOtherSize = 1.17;
    std::vector<Unlike> out;
    const Track &s = a.set.track(), &t = b.set.track();
    if (s.view != t.view) out.push_back(Unlike::View);
    if (s.view == t.view && std::abs(s.offSquareDeg - t.offSquareDeg) > kOtherAngleDeg) out.push_back(Unlike::Angle);
    const double size =
        (s.bodyPx / std::max(1, s.pictureHeight)) / std::max(1e-6, t.bodyPx / std::max(1, t.pictureHeight));
    if (size > kOtherSize || size < 1 / kOtherSize) out.push_back(Unlike::Size);
    const bool older = a.kept != b.kept;  // one shows what an older engine measured
    if (a.first->model != b.first->model || a.first->engine != b.first->engine || older) out.push_back(Unlike::Network);
    if (s.scaleTold != t.scaleTold) out.push_back(Unlike::Scale);
    return out;
}

std::vector<MeasureDifference> differencesOf(const std::vector<MeasuredRep>& before,
                                             const std::vector<MeasuredRep>& after,
                                             const std::vector<std::vector<MeasuredRep>>& from, bool alike) {
    constexpr std::size_t kFewest = 3;
    std::vector<MeasureDifference> out;
    const auto was = readingsOf(before), is = readingsOf(after);
    std::map<MeasureId, double> scatter;  // of the noisier set; only where more than three repetitions tell it
    for (const auto& set : from)
        for (const auto& [measure, r] : readingsOf(set))
            if (r.values.size() > kFewest) scatter[measure] = std::max(scatter[measure], deviation(r.values));
    for (const auto& [measure, a] : was) {
        const auto found = is.find(measure);
        if (found == is.end()) continue;
        const Readings& b = found->second;
        MeasureDifference d;
        d.measure = measure;
        const double pm = std::max(median(a.pm), median(b.pm));
        if (a.values.size() >= kFewest && b.values.size() >= kFewest) {
            const GroupChange change = alignedRankSum(a.values, b.values);
            d.before = change.before, d.after = change.after, d.p = change.p;
            d.told = isTold(change, pm, std::min(a.values.size(), b.values.size()));
            d.beforePm = halfWidth(a.values), d.afterPm = halfWidth(b.values);
        } else {
            d.before = median(a.values), d.after = median(b.values);
            const auto around = scatter.find(measure);
            const double each = around == scatter.end() ? 0 : 1.645 * around->second;
            d.beforePm = d.afterPm = each;
            const double noiseOfBoth = std::sqrt(2.0) * each;
            d.told = around != scatter.end() && std::abs(d.change()) > std::max(noiseOfBoth, kShareWorthAWord * pm);
        }
        if (!alike) {
            d.beforePm = std::hypot(d.beforePm, median(a.pm)), d.afterPm = std::hypot(d.afterPm, median(b.pm));
            d.told = d.told && std::abs(d.change()) > std::hypot(median(a.pm), median(b.pm));
        }
        out.push_back(d);
    }
    auto size = [](const MeasureDifference& d) {
        return std::abs(d.change()) / std::max(1e-9, std::hypot(d.beforePm, d.afterPm));
    };
    std::stable_sort(out.begin(), out.end(), [&](const MeasureDifference& x, const MeasureDifference& y) {
        return x.told != y.told ? x.told : size(x) > size(y);
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
