// Whether sets differ: how often chance is taken for a change, by how much sets scatter by themselves; how soon a true
// change is seen; what is taken out, and what is corrected for.
#include <random>

#include "core/session/comparison.h"
#include "core/statistics/set_change.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

using Runs = std::vector<std::vector<SetReadings>>;

std::mt19937 g_random(20);

/// A set of a client whose repetitions scatter by 1 and whose sets by `ratio`.
SetReadings drawn(double middle, double ratio, int reps, double slope = 0) {
    std::normal_distribution<double> noise(0, 1);
    SetReadings out;
    const double set = middle + ratio * noise(g_random);
    for (int i = 0; i < reps; ++i) out.values.push_back(set + noise(g_random) + slope * i);
    return out;
}

/// Share of trials in which a change is seen, with `earlier` sets before it.
double seen(double change, double ratio, int reps, int earlier, double slope = 0) {
    constexpr int kTrials = 2000;
    int out = 0;
    for (int t = 0; t < kTrials; ++t) {
        std::vector<SetReadings> before;
        for (int i = 0; i < earlier; ++i) before.push_back(drawn(0, ratio, reps, slope));
        const auto test = testChange(before, std::vector{drawn(change, ratio, reps, slope)}, scatterOf(Runs{before}));
        out += test && test->p <= kAlpha;
    }
    return static_cast<double>(out) / kTrials;
}

/// Three standard errors of such a share of one in twenty.
constexpr double kChance = 0.05 + 3 * 0.0049;

}  // namespace

class TestSetChange : public QObject {
    Q_OBJECT

  private slots:
    /// Nothing changed. Sets that scatter by half of what their repetitions do were called changed in 14 % of cases of
    /// five repetitions and in 24 % of eight when repetitions were the unit.
    void chanceIsTakenForAChangeAtMostOnceInTwenty() {
        for (double ratio : {0.0, 0.3, 0.5, 1.0})
            for (int reps : {5, 8})
                for (int earlier : {1, 4, 8}) {
                    const double share = seen(0, ratio, reps, earlier);
                    QVERIFY2(
                        share <= kChance,
                        qPrintable(
                            QString("ratio %1, %2 reps, %3 earlier: %4").arg(ratio).arg(reps).arg(earlier).arg(share)));
                }
        QVERIFY(seen(0, 1.0, 5, 2, 0.6) <= kChance);  // both tire alike
    }

    /// Two deviations of a repetition: the more sets there were before and the less they scatter, the surer it is seen.
    void historyMakesSmallerChangesSeen() {
        const double once = seen(2, 0.3, 5, 1), often = seen(2, 0.3, 5, 8), unsteady = seen(2, 1.0, 5, 8);
        QVERIFY2(often > 0.6 && once < 0.3 && unsteady < 0.6,
                 qPrintable(QString("%1 %2 %3").arg(once).arg(often).arg(unsteady)));
        QVERIFY(seen(6, 0.3, 5, 1) > 0.9);  // and a large one at once
        QVERIFY(seen(2, 0.3, 5, 8, 0.6) > 0.6);
    }

    /// The coach speaks up after the first set that looks bad. The next one is better by itself; that is no effect.
    void whatFollowsABadSetIsNoEffect() {
        constexpr int kTrials = 2000;
        for (double ratio : {0.5, 1.0}) {
            int worked = 0, alone = 0;
            for (int t = 0; t < kTrials; ++t) {
                std::vector<SetReadings> before;
                const double bad = 1.2 * std::sqrt(ratio * ratio + 0.2);
                double mean = 0;
                do {
                    before.push_back(drawn(0, ratio, 5));
                    mean = 0;
                    for (double v : before.back().values) mean += v / 5;
                } while (mean < bad && before.size() < 40);
                const std::vector now{drawn(0, ratio, 5)};
                const auto test = testChange(before, now, scatterOf(Runs{before}));
                worked += test->p <= kAlpha && test->change() < 0;
                const auto last = testChange(std::vector{before.back()}, now, {}, {{}, true});
                alone += last->p <= kAlpha && last->change() < 0;
            }
            QVERIFY2(worked <= kChance * kTrials, qPrintable(QString::number(worked)));
            // Held against that set alone, repetitions as the unit, it is called an effect again and again.
            QVERIFY2(alone > 0.3 * kTrials, qPrintable(QString::number(alone)));
        }
    }

    /// Many unchanged measures on one page: a verdict on any of them is as rare as on a single one.
    void aPageOfUnchangedMeasuresStaysQuiet() {
        Standard standard;
        const auto rows = allMeasures().first(40);
        for (std::size_t i = 0; i < 25; ++i) {
            Band band;
            band.measure = MeasureId(&rows[i]);
            band.max = 0;
            standard.bands.push_back(band);
        }
        int pages = 0;
        constexpr int kPages = 400;
        for (int t = 0; t < kPages; ++t) {
            std::vector<RepsOfSet> sets(2, RepsOfSet(6));
            for (const MeasureDef& row : rows)
                for (RepsOfSet& set : sets) {
                    const SetReadings values = drawn(0, 1.0, 6);
                    for (std::size_t i = 0; i < 6; ++i)
                        set[i].measures.push_back({MeasureId(&row), values.values[i], 0.5, 0.9, 0});
                }
            const auto all = differencesOf({{sets[0]}, {sets[1]}}, {}, standard);
            QCOMPARE(all.size(), std::size_t{40});
            bool any = false;
            for (const auto& d : all) {
                any |= d.significant;
                QVERIFY(d.judged || !d.significant);
            }
            pages += any;
        }
        QVERIFY2(pages <= (0.05 + 3 * 0.011) * kPages, qPrintable(QString::number(pages)));
    }

    void holmsCorrectionByHand() {
        // Sorted 0.005 · 4, 0.01 · 3, 0.03 · 2, 0.04 · 1, and none below the one before it.
        const auto p = holm(std::vector{0.01, 0.04, 0.03, 0.005});
        const std::vector<double> wanted{0.03, 0.06, 0.06, 0.02};
        for (std::size_t i = 0; i < p.size(); ++i) NEAR(p[i], wanted[i], 1e-12);
        QVERIFY(holm({}).empty());
    }

    /// A leg that is weaker in every set is no scatter of repetitions; a set that was done with one leg only is held
    /// against that leg.
    void legsAreComparedWithThemselves() {
        const SetReadings before{{9.9, 1.1, 10.1, 0.9, 10.0, 1.0}, {0, 1, 0, 1, 0, 1}},
            after{{8.9, 0.1, 9.1, -0.1, 9.0, 0.0}, {0, 1, 0, 1, 0, 1}}, leftOnly{{10.0, 9.9, 10.1, 10.0}, {0, 0, 0, 0}};
        const auto both = testChange(std::vector{before}, std::vector{after}, {});
        NEAR(both->change(), -1, 1e-9);
        QVERIFY(both->p < 0.001);
        const auto one = testChange(std::vector{before}, std::vector{leftOnly}, {});
        NEAR(one->change(), 0, 0.06);
        QVERIFY(one->p > 0.3);
    }

    void nothingIsSaidOfTooLittle() {
        const SetReadings one{{1.0}}, three{{1.0, 1.1, 0.9}};
        QVERIFY(!testChange(std::vector{one}, std::vector{one}, {}));
        QVERIFY(!testChange({}, std::vector{three}, {}));
        QVERIFY(testChange(std::vector{one}, std::vector{three}, {}).has_value());
        // Single repetitions, with the sets they are from.
        QVERIFY(testChange(std::vector{one}, std::vector{one}, {}, {{three, three}, false}).has_value());
        // Nothing scatters: what differs at all, differs.
        const SetReadings still{{2, 2, 2}}, other{{3, 3, 3}};
        NEAR(testChange(std::vector{still}, std::vector{other}, {})->p, 0, 1e-12);
        NEAR(testChange(std::vector{still}, std::vector{still}, {})->p, 1, 1e-12);
    }

    /// Many short sets that hardly differ, before two long ones: what history and repetitions say nearly cancels.
    void partsThatCancelStillAnswer() {
        std::vector<SetReadings> run(24, SetReadings{{0.9, 1.0, 1.1}});
        SetReadings loud, louder;
        for (int i = 0; i < 15; ++i) loud.values.push_back(i % 2 ? 3 : -3), louder.values.push_back(i % 2 ? 4 : -2);
        const auto test = testChange(std::vector{loud}, std::vector{louder}, scatterOf(Runs{run}));
        QVERIFY(test && std::isfinite(test->beforePm) && test->beforePm > 0 && test->df >= 1);
        QVERIFY(test->p > 0 && test->p <= 1);
    }

    /// The stated half width of a mean holds what it promises for a set of such a client.
    void halfWidthsHold() {
        for (double ratio : {0.3, 1.0}) {
            int inside = 0;
            constexpr int kTrials = 2000;
            for (int t = 0; t < kTrials; ++t) {
                std::vector<SetReadings> before;
                for (int i = 0; i < 4; ++i) before.push_back(drawn(0, ratio, 5));
                const auto test = testChange(before, std::vector{drawn(0, ratio, 5)}, scatterOf(Runs{before}));
                inside += std::abs(test->before) <= test->beforePm;
            }
            QVERIFY2(inside >= 0.88 * kTrials, qPrintable(QString::number(inside)));
        }
    }
};

ZEVO_SUITE(TestSetChange, "set_change")
#include "test_set_change.moc"
