// Zevo's computation against the world outside: SciPy, Eigen's rotations, handbook tables, published ranges.
#include <Eigen/Geometry>
#include <QProcess>
#include <nlohmann/json.hpp>
#include <numbers>
#include <random>
#include <tuple>

#include "catalog/data_files.h"
#include "core/base/angles.h"
#include "core/body/anthropometry.h"
#include "core/session/comparison.h"
#include "core/signal/filter.h"
#include "core/signal/peaks.h"
#include "tests/support/outlined_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using nlohmann::json;

class TestReference : public QObject {
    Q_OBJECT
    std::vector<std::vector<double>> m_signals;
    json m_scipy;
    static json scipy(const char* script, const json& task) {
        QProcess python;
        python.start("/usr/bin/python3", {QString(ZEVO_TEST_DIR "/reference/") + script});
        python.write(QByteArray::fromStdString(task.dump()));
        python.closeWriteChannel();
        if (!python.waitForFinished(-1) || python.exitCode() != 0)
            qFatal("%s: %s", script, python.readAllStandardError().constData());
        return json::parse(python.readAllStandardOutput().toStdString());
    }

    const std::vector<double> m_cutoffs{4.0, 6.0, 10.0};
    const std::vector<std::pair<double, double>> m_limits{{-10, 0}, {0.3, 0.2}, {0.0, 1.0}};

  private slots:
    void initTestCase() {
        // Knee bends of a set with noise, a random walk, and white noise; lengths that are odd, even and short.
        std::mt19937 random(2);
        std::normal_distribution<double> noise(0, 1);
        for (int n : {401, 250, 37}) {
            std::vector<double> knee, walk, white;
            for (int i = 0; i < n; ++i) {
                knee.push_back(60 * (1 - std::cos(2 * std::numbers::pi * i / 90.0)) + noise(random));
                walk.push_back((walk.empty() ? 0 : walk.back()) + noise(random));
                white.push_back(noise(random));
            }
            m_signals.insert(m_signals.end(), {knee, walk, white});
        }
        json task{{"signals", m_signals}, {"rate", 30.0}, {"cutoffs", m_cutoffs}, {"peaks", json::array()}};
        for (const auto& [height, prominence] : m_limits)
            task["peaks"].push_back({{"height", height}, {"prominence", prominence}});
        m_scipy = scipy("scipy_values.py", task);
    }

    /// SciPy's butter + sosfiltfilt. The start of each pass differs by a hair (steady state of the first padded value
    /// in both), so agreement is to rounding.
    void butterworthFilterIsScipys() {
        for (std::size_t s = 0; s < m_signals.size(); ++s)
            for (std::size_t c = 0; c < m_cutoffs.size(); ++c) {
                const auto ours = smooth(m_signals[s], 30.0, m_cutoffs[c]);
                const auto theirs = m_scipy["filtered"][s][c].get<std::vector<double>>();
                QCOMPARE(ours.size(), theirs.size());
                for (std::size_t i = 0; i < ours.size(); ++i)
                    NEAR(ours[i], theirs[i], 1e-9 * std::max(1.0, std::abs(theirs[i])));
            }
    }

    /// SciPy's find_peaks with the same height and prominence.
    void peaksAreScipys() {
        for (std::size_t s = 0; s < m_signals.size(); ++s)
            for (std::size_t k = 0; k < m_limits.size(); ++k) {
                const auto ours = findPeaks(m_signals[s], m_limits[k].first, m_limits[k].second);
                const auto& theirs = m_scipy["peaks"][s][k];
                QCOMPARE(ours.size(), theirs["index"].size());
                for (std::size_t i = 0; i < ours.size(); ++i) {
                    QCOMPARE(ours[i].index, theirs["index"][i].get<std::size_t>());
                    NEAR(ours[i].prominence, theirs["prominence"][i].get<double>(), 1e-9);
                }
            }
    }

    /// Whether two sides differ, without anything sets differ by: chances against SciPy's t-test, for three repetitions
    /// as they stand, from four on with a common slope, by NumPy's least squares. What sets differ by against SciPy's
    /// one-way analysis of variance; half widths of means against SciPy's quantiles of Student's t.
    void differencesOfSetsAreScipys() {
        std::mt19937 random(11);
        std::normal_distribution<double> noise(0, 1);
        json task{
            {"balance", json::array()}, {"drift", json::array()}, {"lag", json::array()}, {"groups", json::array()}};
        std::vector<std::pair<std::vector<double>, std::vector<double>>> groups;
        for (int n : {3, 4, 5, 6, 8})
            for (int m : {3, 4, 5, 7})
                for (double shift : {0.0, 1.0, 2.5}) {
                    std::vector<double> a, b;
                    for (int i = 0; i < n; ++i) a.push_back(noise(random) + 0.3 * i);
                    for (int i = 0; i < m; ++i) b.push_back(noise(random) + 0.3 * i + shift);
                    task["groups"].push_back({{"a", a}, {"b", b}});
                    groups.emplace_back(a, b);
                }
        std::vector<std::vector<SetReadings>> runs;
        for (int sets : {2, 3, 6}) {
            runs.emplace_back();
            for (int k = 0; k < sets; ++k) {
                SetReadings set;
                for (int i = 0; i < 5; ++i) set.values.push_back(noise(random) + 0.4 * k);
                runs.back().push_back(set);
            }
            task["runs"].push_back(json::array());
            for (const auto& set : runs.back()) task["runs"].back().push_back(set.values);
        }
        task["student"] = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 14, 19, 29};
        const json theirs = scipy("scipy_sets.py", task);
        for (std::size_t i = 0; i < groups.size(); ++i) {
            const auto& [a, b] = groups[i];
            const auto test = testChange(std::vector{SetReadings{a}}, std::vector{SetReadings{b}}, {}, {{}, true});
            QVERIFY(test.has_value());
            const bool levelled = a.size() >= 4 && b.size() >= 4;
            NEAR(test->p, theirs[levelled ? "levelled" : "groups"][i].get<double>(), 1e-9);
        }
        for (std::size_t i = 0; i < runs.size(); ++i) {
            const SetScatter scatter = scatterOf(std::vector<std::vector<SetReadings>>{runs[i]});
            double sum = 0;
            for (const auto& set : runs[i]) {
                const double n = static_cast<double>(set.values.size());
                double mean = 0;
                for (double v : set.values) mean += v / n;
                for (double v : set.values) sum += (v - mean) * (v - mean);
            }
            const double within = sum / (4.0 * static_cast<double>(runs[i].size()));
            NEAR(scatter.betweenMeans / (within * scatter.meanInverse), theirs["runs"][i].get<double>(), 1e-9);
            NEAR(scatter.betweenDf, static_cast<double>(runs[i].size()) - 1, 1e-12);
        }
        for (std::size_t i = 0; i < task["student"].size(); ++i)
            NEAR(studentT(0.9, task["student"][i].get<double>()), theirs["student"][i].get<double>(), 1e-7);
        // As the tables print it (Fisher and Yates; from memory): 2.776 for 4 degrees of freedom, 95 % two-sided.
        NEAR(studentT(0.95, 4), 2.776, 5e-4);
        const std::vector<double> three{1, 2, 3};
        NEAR(halfWidth(three), 2.920 / std::sqrt(3.0), 1e-3);
    }

    /// The balanced lean against SciPy's brentq on a model written down independently (scipy_sets.py), the trend's
    /// chance against SciPy's exact Kendall test, and the lag of two clips against SciPy's cross-correlation.
    void balanceDriftAndLagAreScipys() {
        std::mt19937 random(7);
        auto between = [&](double a, double b) { return std::uniform_real_distribution<double>(a, b)(random); };
        json task{{"balance", json::array()}, {"drift", json::array()}, {"lag", json::array()}};
        struct Case {
            BalanceModel model;
            double shin, thigh, aim;
        };
        std::vector<Case> cases;
        // Places of arms and load: what the model says of itself (core/balance/balance.cpp).
        const std::vector<std::tuple<LoadPlace, std::array<double, 3>, std::array<double, 3>>> places{
            {LoadPlace::None, {0, 0, 0.17}, {0, 0, 0}},
            {LoadPlace::Chest, {0.09, -0.10, 0}, {0.13, -0.12, 0}},
            {LoadPlace::Back, {0, -0.06, 0}, {-0.05, 0.01, 0}},
            {LoadPlace::Sides, {0, 0, 0}, {0, 0, 0}}};
        while (cases.size() < 200) {
            const auto& [place, arms, load] = places[cases.size() % places.size()];
            Case c{{}, between(5, 40), between(-30, 50), between(0.35, 0.65)};
            c.model.shank = between(0.22, 0.27), c.model.thigh = between(0.22, 0.27),
            c.model.trunk = between(0.26, 0.31);
            c.model.thighsOutDeg = between(0, 30);
            c.model.load = place;
            c.model.loadShare = place == LoadPlace::None ? 0 : between(0.1, 1.2);
            const auto lean = balancedLean(c.model, c.shin, c.thigh, c.aim);
            if (!lean || *lean < -75) continue;  // outside the search
            task["balance"].push_back({{"shank", c.model.shank},
                                       {"thigh", c.model.thigh},
                                       {"trunk", c.model.trunk},
                                       {"foot", c.model.foot},
                                       {"head", 0.936 - 0.818},
                                       {"thighs_out", c.model.thighsOutDeg},
                                       {"shin", c.shin},
                                       {"thigh_angle", c.thigh},
                                       {"aim", c.aim},
                                       {"arms", arms},
                                       {"load", load},
                                       {"load_share", c.model.loadShare}});
            cases.push_back(c);
        }
        std::vector<std::vector<double>> drifts;
        for (int n : {5, 6, 8, 12})
            for (int k = 0; k < 5; ++k) {
                std::vector<double> v;
                for (int i = 0; i < n; ++i) v.push_back(between(0, 1) + 0.1 * k * i);
                drifts.push_back(v);
            }
        task["drift"] = drifts;
        std::vector<double> a, b, timesA, timesB;
        for (int i = 0; i < 900; ++i) {
            auto course = [](double t) {
                return std::exp(-std::pow(t - 3, 2)) + 0.7 * std::exp(-std::pow(t - 6.2, 2));
            };
            a.push_back(course(i / 100.0)), b.push_back(course(i / 100.0 + 0.42));
            timesA.push_back(i / 100.0), timesB.push_back(i / 100.0);
        }
        task["lag"].push_back({{"a", a}, {"b", b}, {"rate", 100}});
        const json theirs = scipy("scipy_sets.py", task);
        for (std::size_t i = 0; i < cases.size(); ++i)
            NEAR(*balancedLean(cases[i].model, cases[i].shin, cases[i].thigh, cases[i].aim),
                 theirs["lean"][i].get<double>(), 1e-6);
        for (std::size_t i = 0; i < drifts.size(); ++i)
            NEAR(trendOf(drifts[i]).p, theirs["drift"][i].get<double>(), 1e-9);
        const Alignment lag = alignCourses({timesA, a}, {timesB, b});
        NEAR(lag.lagS, theirs["lag"][0].get<double>(), 0.006);
        NEAR(lag.lagS, -0.42, 0.002);
    }

    /// Angles against rotations by Eigen: segments are built by turning, the angles must come back.
    void anglesAreEigensRotations() {
        std::mt19937 random(4);
        std::uniform_real_distribution<double> shin(-20, 60), knee(0, 150), trunk(-20, 90);
        auto up = [](double forwardDegrees, double length) -> Vec2 {
            return Eigen::Rotation2Dd(-forwardDegrees * std::numbers::pi / 180) * Vec2(0, length);
        };
        for (int i = 0; i < 500; ++i) {
            const double s = shin(random), k = knee(random), t = trunk(random);
            const Vec2 ankle(1, 2), kneePoint = ankle + up(s, 40), hip = kneePoint + up(s - k, 42),
                                    shoulder = hip + up(t, 50);
            NEAR(shinAngle(ankle, kneePoint), s, 1e-9);
            NEAR(kneeFlexion(hip, kneePoint, ankle), k, 1e-9);
            NEAR(trunkLean(hip, shoulder), t, 1e-9);
            NEAR(wrapDegrees(hipFlexion(shoulder, hip, kneePoint) - (t - (s - k))), 0, 1e-9);
            // And the unsigned angle between the segments by Eigen's dot product.
            const double between =
                std::acos(std::clamp((kneePoint - ankle).normalized().dot((hip - kneePoint).normalized()), -1.0, 1.0)) *
                180 / std::numbers::pi;
            NEAR(std::abs(kneeFlexion(hip, kneePoint, ankle)), between, 1e-6);
        }
    }

    /// Winter, Biomechanics and Motor Control of Human Movement, table 4.1 (from memory): a whole body weighs one
    /// body, and its mass centre stands a little above half of the stature. Standing mass-centre heights of adults
    /// are usually given as 55–57 % of stature.
    void segmentMassesAddUp() {
        using namespace segment;
        const double whole = kTrunk.massShare + kHeadNeck.massShare +
                             2 * (kHand.massShare + kForearm.massShare + kUpperArm.massShare + kFoot.massShare +
                                  kShank.massShare + kThigh.massShare);
        NEAR(whole, 1.0, 0.01);
        const auto spec = made::spec(1);
        const auto s = sim::SpecMotion(spec.motion).at(0);
        NEAR(s.massCentre.y() / 1.75, 0.56, 0.03);
    }

    /// Drillis & Contini 1966 as printed in Winter (from memory): the shares of a standing body fit on each other.
    void segmentLengthsStack() {
        using namespace proportion;
        NEAR(kFootHeight + kShank, kKneeHeight, 0.005);
        NEAR(kKneeHeight + kThigh, kHipHeight, 0.005);
        QVERIFY(kShoulderHeight > kHipHeight + 0.25 && kHipBreadth < kShoulderBreadth);
        // The virtual client is built to these shares.
        const auto s = sim::SpecMotion(made::spec(1).motion).at(0);
        NEAR((s.hip[0] - s.knee[0]).norm() / 1.75, kThigh, 0.002);
        NEAR((s.knee[0] - s.ankle[0]).norm() / 1.75, kShank, 0.002);
        NEAR(s.hip[0].y() / 1.75, kHipHeight, 0.02);
        NEAR(s.shoulder[0].y() / 1.75, kShoulderHeight, 0.02);
    }

    /// Depth words by peak knee flexion, Schoenfeld 2010, J Strength Cond Res 24(12) (from memory): quarter ≈ 40–60°,
    /// half ≈ 70–100°, deep > 100°. And the competition rule (international powerlifting technical rules): the hip's
    /// crease below the knee, which Zevo's “below level” band asks of the joint centres.
    void depthWordsFitThePublishedRanges() {
        struct {
            double thigh, shin, from, to;
        } const cases[] = {{48, 12, 40, 60}, {12, 20, 70, 100}, {-14, 32, 100, 150}};
        for (const auto& c : cases) {
            auto spec = made::spec(1);
            spec.motion.reps[0].thighBottomDeg = c.thigh;
            spec.motion.reps[0].shinBottomDeg = c.shin;
            const auto set = made::measured(spec);
            QVERIFY(bool(set));
            const double knee = made::value(*set, 0, "knee_flexion");
            QVERIFY2(knee >= c.from && knee <= c.to, qPrintable(QString::number(knee)));
        }
        const auto upright = catalog::loadStandard("upright");
        QVERIFY(upright->bandFor("thigh_angle")->max <= 0);
    }

    /// Healthy lifters flex the low back by about 10 to 25° against standing in a deep squat (range of the literature
    /// on lumbar motion in squats, from memory): what a school lets pass must end within it, not below it, where every
    /// squat would tuck.
    void whereATuckBeginsFitsThePublishedRange() {
        for (const bool mesh : {false, true}) {
            auto spec = made::spec(4);
            spec.motion.body.figure = mesh ? "mesh" : "drawn";
            const std::array<double, 4> tucks{0, 8, 14, 22};
            for (std::size_t i = 0; i < 4; ++i)
                spec.motion.reps[i].lowerS = 1.8, spec.motion.reps[i].liftS = 1.3,
                spec.motion.reps[i].tuckDeg = tucks[i];
            const auto state = made::stateOf(spec);
            const auto bands = catalog::loadStandard("whole-foot");
            const double edge = *bands->bandFor("low_back_tuck")->max;
            // Pelvis against lumbar link: 1.2 times the dial (the parts of the spine turn against each other).
            double from = -1;
            for (int i = 1; i < 4 && from < 0; ++i) {
                const double a = made::value(state.set, i - 1, "low_back_tuck"),
                             b = made::value(state.set, i, "low_back_tuck");
                const double before = tucks[static_cast<std::size_t>(i - 1)], now = tucks[static_cast<std::size_t>(i)];
                if (b > edge) from = 1.2 * (before + (edge - a) / (b - a) * (now - before));
            }
            QVERIFY2(from > 8 && from < 25, qPrintable(QString("%1: %2°").arg(mesh).arg(from)));
        }
    }

    /// Weight-bearing ankle dorsiflexion of healthy adults is about 35–45° of shin inclination (Bennell et al. 1998,
    /// from memory): the shipped scales must have room for it.
    void scalesHaveRoomForHealthyAnkles() { QVERIFY(MeasureId::named("shin_angle")->scale.to >= 45); }
};

ZEVO_SUITE(TestReference, "reference")
#include "test_reference.moc"
