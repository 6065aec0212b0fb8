#include "core/signal/peaks.h"

#include <algorithm>

namespace zevo {

std::vector<Peak> findPeaks(std::span<const double> signal, double minHeight, double minProminence) {
    std::vector<Peak> out;
    const std::size_t n = signal.size();
    for (std::size_t i = 1; i + 1 < n;) {
        if (!(signal[i] > signal[i - 1])) {
            ++i;
            continue;
        }
        std::size_t end = i;
        while (end + 1 < n && signal[end + 1] == signal[i]) ++end;
        if (end + 1 < n && signal[end + 1] < signal[i]) {
            const double h = signal[i];
            double leftLow = h, rightLow = h;
            for (std::size_t j = i; j-- > 0 && signal[j] <= h;) leftLow = std::min(leftLow, signal[j]);
            for (std::size_t j = end + 1; j < n && signal[j] <= h; ++j) rightLow = std::min(rightLow, signal[j]);
            const double prominence = h - std::max(leftLow, rightLow);
            if (h >= minHeight && prominence >= minProminence) out.push_back({(i + end) / 2, h, prominence});
        }
        i = end + 1;
    }
    return out;
}

}  // namespace zevo
