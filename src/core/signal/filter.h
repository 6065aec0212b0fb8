#pragma once

#include <array>
#include <span>
#include <vector>

namespace zevo {

/// One second-order section: b0 b1 b2 over 1 a1 a2.
struct Biquad {
    double b0 = 1, b1 = 0, b2 = 0, a1 = 0, a2 = 0;
};

/// Butterworth low-pass of even order as cascaded sections (bilinear transform with pre-warping; e.g.
/// Oppenheim & Schafer, *Discrete-Time Signal Processing*). `cutoff` in the unit of `rate`, below rate / 2.
std::vector<Biquad> butterworthLowPass(int order, double cutoff, double rate);

/// Filters forwards, then backwards: no lag, twice the order. Ends are extended by point reflection and the
/// filter starts in its steady state, so a constant stays the constant. Any length ≥ 1.
std::vector<double> filterZeroLag(std::span<const Biquad> sections, std::span<const double> signal);

/// The field's usual landmark smoothing: zero-lag, 4th order in all, −3 dB at `cutoff` after both passes
/// (Winter, *Biomechanics and Motor Control of Human Movement*: single-pass cut-off divided by 0.802).
/// Returns the signal unchanged when `rate` is too low for the cut-off.
std::vector<double> smooth(std::span<const double> signal, double rate, double cutoff = 6.0);

/// Central differences, per second.
std::vector<double> derivative(std::span<const double> signal, double rate);

/// Points that stray more than `limit` robust standard deviations (1.4826 · MAD) from the median of their
/// window are replaced by NaN (Hampel identifier). NaNs in the input are passed over.
/// `floor` is the smallest deviation that counts, in signal units.
std::vector<double> dropOutliers(std::span<const double> signal, int halfWindow, double limit, double floor);

/// Linear interpolation of (times, values) at `at`; NaN values are skipped; where the gap between the two
/// neighbours is wider than `maxGap`, or outside the range, the result is NaN.
std::vector<double> resample(std::span<const double> times, std::span<const double> values, std::span<const double> at,
                             double maxGap);

/// Replaces NaN by the nearest valid value (0 when there is none).
std::vector<double> fillNearest(std::span<const double> signal);

/// Median; NaN entries are ignored; NaN when nothing is left.
double median(std::vector<double> values);
/// Value below which the share `q` (0…1) of the entries lies, linear between ranks; NaN when empty.
double quantile(std::vector<double> values, double q);

}  // namespace zevo
