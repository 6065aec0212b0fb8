// Filters, resampling, outliers, peaks: what they do to signals whose answer is known.
#include <cmath>
#include <limits>
#include <numbers>

#include "core/signal/filter.h"
#include "core/signal/peaks.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

const double kNaN = std::numeric_limits<double>::quiet_NaN();

std::vector<double> sine(double hertz, double rate, int n) {
    std::vector<double> out;
    for (int i = 0; i < n; ++i) out.push_back(std::sin(2 * std::numbers::pi * hertz * i / rate));
    return out;
}

double rms(const std::vector<double>& v, std::size_t from, std::size_t to) {
    double sum = 0;
    for (std::size_t i = from; i < to; ++i) sum += v[i] * v[i];
    return std::sqrt(sum / static_cast<double>(to - from));
}

}  // namespace

class TestSignal : public QObject {
    Q_OBJECT
  private slots:
    void smoothingKeepsConstantsAndRamps() {
        const std::vector<double> flat(50, 3.5);
        for (double v : smooth(flat, 30)) NEAR(v, 3.5, 1e-9);
        std::vector<double> ramp;
        for (int i = 0; i < 60; ++i) ramp.push_back(0.1 * i);
        const auto smoothed = smooth(ramp, 30);
        for (std::size_t i = 0; i < ramp.size(); ++i) NEAR(smoothed[i], ramp[i], 1e-3);
    }

    void smoothingHalvesPowerAtTheCutoffWithoutLag_data() {
        QTest::addColumn<double>("hertz");
        QTest::addColumn<double>("gain");
        // After both passes: |H|² of a single 2nd-order pass with its cut-off at 6 / 0.802 Hz, bilinear at 120 Hz.
        QTest::newRow("slow passes") << 1.0 << 1.0;
        QTest::newRow("at 6 Hz −3 dB") << 6.0 << std::sqrt(0.5);
        QTest::newRow("20 Hz is gone") << 20.0 << 0.0;
    }
    void smoothingHalvesPowerAtTheCutoffWithoutLag() {
        QFETCH(double, hertz);
        QFETCH(double, gain);
        const auto in = sine(hertz, 120, 1200);
        const auto out = smooth(in, 120);
        NEAR(rms(out, 300, 900) / rms(in, 300, 900), gain, 0.025);
        // No lag: in phase with the input, so the product's mean equals the product of the rms values.
        double product = 0;
        for (std::size_t i = 300; i < 900; ++i) product += in[i] * out[i] / 600;
        NEAR(product, rms(in, 300, 900) * rms(out, 300, 900), 0.003);
    }

    void smoothingLeavesTooSlowSignalsAlone() {
        const std::vector<double> few{1, 5, 2, 8};
        QCOMPARE(smooth(few, 10), few);  // 10 samples a second cannot carry a 6 Hz cut-off
        QCOMPARE(smooth(std::vector<double>{1, 2}, 60), (std::vector<double>{1, 2}));
        QVERIFY(smooth(std::vector<double>{}, 60).empty());
    }

    void derivativeOfALine() {
        std::vector<double> line;
        for (int i = 0; i < 10; ++i) line.push_back(2 + 0.5 * i);
        for (double v : derivative(line, 20)) NEAR(v, 10.0, 1e-9);
        QCOMPARE(derivative(std::vector<double>{7}, 20), std::vector<double>{0});
    }

    void outliersAreDroppedAndSlowChangeIsNot() {
        std::vector<double> v;
        for (int i = 0; i < 40; ++i) v.push_back(100 + 2 * i);
        v[20] = 400;
        const auto clean = dropOutliers(v, 3, 4.0, 1.0);
        QVERIFY(std::isnan(clean[20]));
        for (std::size_t i = 0; i < v.size(); ++i)
            if (i != 20) QCOMPARE(clean[i], v[i]);
    }

    void resamplingBridgesShortGapsOnly() {
        const std::vector<double> t{0, 0.1, 0.2, 0.8, 0.9}, x{0, 1, 2, 8, 9};
        const std::vector<double> at{0.05, 0.2, 0.5, 0.85, 1.0};
        const auto narrow = resample(t, x, at, 0.3);
        NEAR(narrow[0], 0.5, 1e-9);
        NEAR(narrow[1], 2.0, 1e-9);
        QVERIFY(std::isnan(narrow[2]));
        NEAR(narrow[3], 8.5, 1e-9);
        QVERIFY(std::isnan(narrow[4]));
        NEAR(resample(t, x, at, 1.0)[2], 5.0, 1e-9);
        QVERIFY(std::isnan(resample({}, {}, at, 1.0)[0]));
    }

    void gapsAreFilledFromTheNearestSide() {
        QCOMPARE(fillNearest(std::vector<double>{kNaN, 2, kNaN, kNaN, 5, kNaN}),
                 (std::vector<double>{2, 2, 2, 2, 5, 5}));
        QCOMPARE(fillNearest(std::vector<double>{kNaN, kNaN}), (std::vector<double>{0, 0}));
    }

    void quantiles() {
        NEAR(quantile({4, 1, 3, 2}, 0.5), 2.5, 1e-12);
        NEAR(quantile({1, 2, 3, 4, 5}, 0.9), 4.6, 1e-12);
        NEAR(median({kNaN, 7, kNaN}), 7.0, 0);
        QVERIFY(std::isnan(median({})));
    }

    void peaksNeedHeightAndProminence() {
        const std::vector<double> v{0, 3, 1, 2.5, 2.4, 5, 5, 5, 0, 1, 0.5};
        const auto all = findPeaks(v, 0, 0);
        QCOMPARE(all.size(), std::size_t{4});
        QCOMPARE(all[2].index, std::size_t{6});  // middle of the flat top
        NEAR(all[2].prominence, 5.0, 1e-12);
        NEAR(all[0].prominence, 2.0, 1e-12);  // the valley at 1 separates it from higher ground
        QCOMPARE(findPeaks(v, 2, 0.5).size(), std::size_t{2});
        QVERIFY(findPeaks(std::vector<double>{5, 4, 3}, 0, 0).empty());  // the ends are no peaks
    }
};

ZEVO_SUITE(TestSignal, "signal")
#include "test_signal.moc"
