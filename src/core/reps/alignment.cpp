#include "core/reps/alignment.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <unsupported/Eigen/FFT>

#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kRate = 100;        // finer than any frame
constexpr double kLeastShare = 0.4;  // of the shorter clip that both must show

/// The course on an even clock from its own beginning.
std::vector<double> even(const Course& c) {
    std::vector<double> at;
    for (double t = c.timesS.front(); t <= c.timesS.back(); t += 1 / kRate) at.push_back(t);
    return fillNearest(resample(c.timesS, c.values, at, 1.0));
}

/// Correlation of a[i] with b[i + shift] over what both have, for every shift at once. The sums of products come from
/// one Fourier transform, all others from running sums: n log n steps where comparing shift by shift takes n².
class Correlations {
  public:
    Correlations(const std::vector<double>& a, const std::vector<double>& b) : m_a(sums(a)), m_b(sums(b)) {
        std::size_t n = 1;
        while (n < a.size() + b.size()) n *= 2;
        std::vector<double> x(n, 0.0), y(n, 0.0);
        std::copy(a.begin(), a.end(), x.begin());
        std::copy(b.begin(), b.end(), y.begin());
        Eigen::FFT<double> fft;
        std::vector<std::complex<double>> fx, fy;
        fft.fwd(fx, x);
        fft.fwd(fy, y);
        for (std::size_t k = 0; k < fx.size(); ++k) fy[k] *= std::conj(fx[k]);
        fft.inv(m_products, fy);
    }

    /// 0 where one of them is still or nothing is shared.
    double at(long shift, std::size_t& shared) const {
        const long na = static_cast<long>(m_a.ones.size()) - 1, nb = static_cast<long>(m_b.ones.size()) - 1;
        const long from = std::max(0L, -shift), to = std::min(na, nb - shift);
        shared = to > from ? static_cast<std::size_t>(to - from) : 0;
        if (shared < 3) return 0;
        auto over = [](const std::vector<double>& s, long i, long k) {
            return s[static_cast<std::size_t>(k)] - s[static_cast<std::size_t>(i)];
        };
        const double sa = over(m_a.ones, from, to), saa = over(m_a.squares, from, to);
        const double sb = over(m_b.ones, from + shift, to + shift), sbb = over(m_b.squares, from + shift, to + shift);
        const long size = static_cast<long>(m_products.size());
        const double sab = m_products[static_cast<std::size_t>((shift % size + size) % size)];
        const auto n = static_cast<double>(shared);
        const double va = saa - sa * sa / n, vb = sbb - sb * sb / n;
        return va > 1e-9 && vb > 1e-9 ? (sab - sa * sb / n) / std::sqrt(va * vb) : 0;
    }

  private:
    struct Sums {
        std::vector<double> ones{0.0}, squares{0.0};  ///< running sums of the values and of their squares
    };
    static Sums sums(const std::vector<double>& v) {
        Sums s;
        for (double x : v) {
            s.ones.push_back(s.ones.back() + x);
            s.squares.push_back(s.squares.back() + x * x);
        }
        return s;
    }

    Sums m_a, m_b;
    std::vector<double> m_products;
};

}  // namespace

Alignment alignCourses(const Course& first, const Course& second) {
    if (first.timesS.size() < 3 || second.timesS.size() < 3) return {};
    const auto a = even(first), b = even(second);
    const auto shorter = static_cast<double>(std::min(a.size(), b.size()));
    const Correlations correlations(a, b);
    double best = -2;
    long bestShift = 0;
    Alignment out;
    auto worth = [&](long shift) {
        std::size_t shared = 0;
        const double c = correlations.at(shift, shared);
        const double share = static_cast<double>(shared) / shorter;
        return share < kLeastShare ? -2.0 : c * (0.8 + 0.2 * std::min(1.0, share));
    };
    for (long shift = -static_cast<long>(a.size()); shift <= static_cast<long>(b.size()); ++shift)
        if (const double w = worth(shift); w > best) best = w, bestShift = shift;
    if (best <= -2) return {};
    // The weight only chose among like peaks; the peak itself is the correlation's own.
    std::size_t shared = 0;
    auto pure = [&](long shift) { return correlations.at(shift, shared); };
    for (long step : {1L, -1L})
        while (pure(bestShift + step) > pure(bestShift)) bestShift += step;
    out.agreement = correlations.at(bestShift, shared);
    out.overlapS = static_cast<double>(shared) / kRate;
    const double before = pure(bestShift - 1), after = pure(bestShift + 1);
    const double curve = before - 2 * out.agreement + after;
    const double between = curve < -1e-12 ? 0.5 * (before - after) / curve : 0;
    // a[i] at first.front + i / rate shows what b[i + shift] shows.
    out.lagS = second.timesS.front() - first.timesS.front() + (static_cast<double>(bestShift) + between) / kRate;
    return out;
}

}  // namespace zevo
