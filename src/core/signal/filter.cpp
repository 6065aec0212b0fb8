#include "core/signal/filter.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <limits>
#include <numbers>

namespace zevo {
namespace {

constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();

/// Transposed direct form II, started in the steady state of a constant `x0`.
void run(const Biquad& s, std::vector<double>& x, double x0) {
    const double gain = (s.b0 + s.b1 + s.b2) / (1 + s.a1 + s.a2);
    double z1 = (gain - s.b0) * x0, z2 = (s.b2 - s.a2 * gain) * x0;
    for (double& v : x) {
        const double y = s.b0 * v + z1;
        z1 = s.b1 * v - s.a1 * y + z2;
        z2 = s.b2 * v - s.a2 * y;
        v = y;
    }
}

void cascade(std::span<const Biquad> sections, std::vector<double>& x) {
    for (const auto& s : sections) run(s, x, x.front());
}

}  // namespace

std::vector<Biquad> butterworthLowPass(int order, double cutoff, double rate) {
    std::vector<Biquad> out;
    const double k = std::tan(std::numbers::pi * cutoff / rate);
    for (int i = 0; i < order / 2; ++i) {
        const double q = 2 * std::sin(std::numbers::pi * (2 * i + 1) / (2.0 * order));  // 1 / quality of the pole pair
        const double norm = 1 / (1 + q * k + k * k);
        out.push_back(
            {k * k * norm, 2 * k * k * norm, k * k * norm, 2 * (k * k - 1) * norm, (1 - q * k + k * k) * norm});
    }
    return out;
}

std::vector<double> filterZeroLag(std::span<const Biquad> sections, std::span<const double> signal) {
    const std::size_t n = signal.size();
    if (n == 0) return {};
    const std::size_t pad = std::min(n - 1, 3 * (2 * sections.size() + 1));
    std::vector<double> x;
    x.reserve(n + 2 * pad);
    for (std::size_t i = pad; i > 0; --i) x.push_back(2 * signal[0] - signal[i]);
    x.insert(x.end(), signal.begin(), signal.end());
    for (std::size_t i = 1; i <= pad; ++i) x.push_back(2 * signal[n - 1] - signal[n - 1 - i]);
    for (int pass = 0; pass < 2; ++pass) {
        cascade(sections, x);
        std::reverse(x.begin(), x.end());
    }
    return {x.begin() + static_cast<std::ptrdiff_t>(pad), x.begin() + static_cast<std::ptrdiff_t>(pad + n)};
}

std::vector<double> smooth(std::span<const double> signal, double rate, double cutoff) {
    const double single = cutoff / 0.802;
    if (signal.size() < 3 || single >= 0.45 * rate) return {signal.begin(), signal.end()};
    return filterZeroLag(butterworthLowPass(2, single, rate), signal);
}

std::vector<double> derivative(std::span<const double> signal, double rate) {
    const std::size_t n = signal.size();
    std::vector<double> out(n, 0.0);
    for (std::size_t i = 0; i < n && n > 1; ++i) {
        const std::size_t a = i == 0 ? 0 : i - 1, b = std::min(i + 1, n - 1);
        out[i] = (signal[b] - signal[a]) * rate / static_cast<double>(b - a);
    }
    return out;
}

std::vector<double> dropOutliers(std::span<const double> signal, int halfWindow, double limit, double floor) {
    std::vector<double> out(signal.begin(), signal.end());
    const int n = static_cast<int>(signal.size());
    for (int i = 0; i < n; ++i) {
        if (std::isnan(signal[i])) continue;
        std::vector<double> around;
        for (int j = std::max(0, i - halfWindow); j <= std::min(n - 1, i + halfWindow); ++j)
            around.push_back(signal[j]);
        const double middle = median(around);
        for (double& v : around) v = std::abs(v - middle);
        const double spread = std::max(floor, 1.4826 * median(around));
        if (std::abs(signal[i] - middle) > limit * spread) out[i] = kNaN;
    }
    return out;
}

std::vector<double> resample(std::span<const double> times, std::span<const double> values, std::span<const double> at,
                             double maxGap) {
    std::vector<double> t, v, out(at.size(), kNaN);
    for (std::size_t i = 0; i < times.size(); ++i)
        if (!std::isnan(values[i])) {
            t.push_back(times[i]);
            v.push_back(values[i]);
        }
    for (std::size_t i = 0; i < at.size() && !t.empty(); ++i) {
        const auto after = static_cast<std::size_t>(std::lower_bound(t.begin(), t.end(), at[i]) - t.begin());
        if (after < t.size() && t[after] == at[i]) {
            out[i] = v[after];
            continue;
        }
        if (after == 0 || after == t.size()) continue;
        const double gap = t[after] - t[after - 1];
        if (gap > maxGap) continue;
        const double w = (at[i] - t[after - 1]) / gap;
        out[i] = v[after - 1] + w * (v[after] - v[after - 1]);
    }
    return out;
}

std::vector<double> fillNearest(std::span<const double> signal) {
    std::vector<double> out(signal.begin(), signal.end());
    double last = kNaN;
    for (double& x : out) {
        if (std::isnan(x))
            x = last;
        else
            last = x;
    }
    last = kNaN;
    for (auto x = out.rbegin(); x != out.rend(); ++x) {
        if (std::isnan(*x))
            *x = std::isnan(last) ? 0.0 : last;
        else
            last = *x;
    }
    return out;
}

double median(std::vector<double> values) {
    return quantile(std::move(values), 0.5);
}

double quantile(std::vector<double> values, double q) {
    std::erase_if(values, [](double v) { return std::isnan(v); });
    if (values.empty()) return kNaN;
    std::sort(values.begin(), values.end());
    const double at = std::clamp(q, 0.0, 1.0) * static_cast<double>(values.size() - 1);
    const auto low = static_cast<std::size_t>(at);
    const auto high = std::min(low + 1, values.size() - 1);
    return values[low] + (at - static_cast<double>(low)) * (values[high] - values[low]);
}

}  // namespace zevo
