// Whether what was said, or changed in the set-up, made a difference: tests by ranks, phases of repetitions, the ledger
// of a client, and how often its verdicts are right on virtual clients who listen by a known share.
#include <random>

#include "core/session/cue_ledger.h"
#include "core/signal/filter.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

/// Repetitions with one measure each.
std::vector<MeasuredRep> reps(const std::vector<double>& values, const char* measure = "heel_rise", double pm = 0.8) {
    std::vector<MeasuredRep> out;
    for (double v : values) {
        MeasuredRep r;
        r.index = static_cast<int>(out.size()) + 1;
        r.startS = 4.0 * r.index, r.arriveS = r.startS + 1, r.bottomS = r.startS + 1.5, r.leaveS = r.startS + 2,
        r.endS = r.startS + 3;
        r.measures.push_back({MeasureId::named(measure), v, pm, 0.95, r.bottomS});
        out.push_back(std::move(r));
    }
    return out;
}

LedgerSet setOf(long id, long day, std::vector<MeasuredRep> r, const SetFacts& facts = {}, const CueGiven& cue = {}) {
    Edits e{FactsSet{facts}};
    if (!cue.fault.empty()) e.push_back(cue);
    return {std::to_string(id), day, e, std::move(r), "camera"};
}

/// Squats of the virtual client that stop `short` degrees above where they should, each by its own little bit more or
/// less, seen with the jitter of a network.
std::vector<MeasuredRep> squatsShortBy(double degrees, unsigned seed, int n = 5) {
    std::mt19937 random(seed);
    std::normal_distribution<double> own(0, 1.5);
    auto spec = made::spec(n);
    for (auto& r : spec.motion.reps) r.thighBottomDeg = -8 + degrees + own(random);
    const auto set = made::measured(spec, made::jittered(sim::truePoses(spec), 1.2, seed + 7));
    if (!set) qFatal("%s", made::words(set.error()));
    return set->result.reps;
}

}  // namespace

class TestLedger : public QObject {
    Q_OBJECT

  private slots:
    void whatBothSetsDoAlikeFallsOut() {
        // He tires in both sets alike; the second is 1.0 lower throughout. Ranks as they stand do not see it.
        const std::vector<double> before{1.0, 2.1, 3.0, 4.1, 5.0}, after{0.0, 1.1, 2.0, 3.1, 4.0};
        QVERIFY(rankSum(before, after).p > 0.2);
        const GroupChange aligned = alignedRankSum(before, after);
        NEAR(aligned.p, 2.0 / 252, 1e-9);  // all of five lie below all of five: 1 of C(10, 5) on either side
        NEAR(aligned.before, 3.0, 1e-9);
        NEAR(aligned.change(), -1.0, 1e-9);
        // Three against three are taken as they are.
        NEAR(alignedRankSum(std::vector{1.0, 2.0, 3.0}, std::vector{4.0, 5.0, 6.0}).p, 0.1, 1e-9);
        QCOMPARE(alignedRankSum(std::vector<double>{}, after).p, 1.0);
    }

    /// Nothing changed: told in less than one of ten, however the sets drift.
    void chanceIsSeldomTakenForAChange() {
        std::mt19937 random(3);
        std::normal_distribution<double> noise(0, 1);
        for (double drift : {0.0, 0.6}) {
            int told = 0;
            constexpr int kSets = 1200;
            for (int i = 0; i < kSets; ++i) {
                std::vector<double> a, b;
                for (int k = 0; k < 5; ++k)
                    a.push_back(noise(random) + drift * k), b.push_back(noise(random) + drift * k);
                told += isTold(alignedRankSum(a, b), 2.0, 5);
            }
            QVERIFY2(told < 0.08 * kSets, qPrintable(QString("%1 of %2").arg(told).arg(kSets)));
        }
    }

    void phasesBelongTogetherWhateverTheClock() {
        const auto quick = reps({1}).front();
        MeasuredRep slow = quick;
        slow.startS = 10, slow.arriveS = 14, slow.bottomS = 14.5, slow.leaveS = 15, slow.endS = 17;
        for (double phase : {0.0, 0.4, 1.0, 1.25, 1.5, 1.9, 2.0, 2.7, 3.0}) {
            NEAR(phaseOf(quick, timeAt(quick, phase)), phase, 1e-9);
            NEAR(phaseOf(slow, timeAt(slow, phase)), phase, 1e-9);
        }
        NEAR(timeAt(slow, 1.5), slow.bottomS, 1e-9);
        NEAR(timeAt(slow, phaseOf(quick, quick.startS + 0.5)), 12, 1e-9);  // half way down in both
        // One that turns without a pause has no length between arriving and leaving.
        MeasuredRep sharp = quick;
        sharp.arriveS = sharp.leaveS = sharp.bottomS;
        NEAR(timeAt(sharp, 1.5), sharp.bottomS, 1e-9);
        NEAR(timeAt(sharp, 3), sharp.endS, 1e-9);
        QVERIFY(phaseOf(sharp, sharp.bottomS) >= 1 && phaseOf(sharp, sharp.bottomS) <= 2);
    }

    void differencesAreToldOrWithinNoise() {
        const auto before = reps({5.0, 5.4, 4.8, 5.2, 5.1}), after = reps({0.4, 0.2, 0.5, 0.3, 0.6});
        const auto d = differencesOf(before, after, {before}, true);
        QCOMPARE(d.size(), std::size_t{1});
        QVERIFY(d[0].told && d[0].change() < -4);
        NEAR(d[0].beforePm, halfWidth(std::vector{5.0, 5.4, 4.8, 5.2, 5.1}), 1e-9);
        QVERIFY(!differencesOf(before, reps({5.1, 5.3, 4.9, 5.0, 5.2}), {before}, true)[0].told);
        // Surely there, and too small for a word: a tenth of the reading's ±.
        QVERIFY(
            !differencesOf(reps({1.00, 1.01, 0.99, 1.0, 1.0}), reps({1.08, 1.09, 1.08, 1.07, 1.08}), {before}, true)[0]
                 .told);
        // Filmed otherwise: the stated ± of both have to be passed as well.
        const auto apart = reps({3.9, 4.1, 4.0, 4.2, 4.0});
        QVERIFY(differencesOf(before, apart, {before}, true)[0].told);
        QVERIFY(!differencesOf(before, apart, {before}, false)[0].told);
        QVERIFY(differencesOf(before, after, {before}, false)[0].told);
        QVERIFY(differencesOf(before, apart, {before}, false)[0].beforePm > 0.8);
        // Single repetitions: against what repetitions of their set differ by.
        const auto one = std::vector{before[0]};
        QVERIFY(!differencesOf(one, {before[1]}, {before}, true)[0].told);
        QVERIFY(differencesOf(one, {after[0]}, {before}, true)[0].told);
        QVERIFY(!differencesOf(one, {after[0]}, {one}, true)[0].told);  // nothing is known of the noise
    }

    void theNextSetOfTheDayAnswers() {
        const CueGiven cue{"heels_rise", "Press the floor away."};
        SetFacts lunge;
        lunge.movement = "split-squat";
        const std::vector<LedgerSet> sets{setOf(1, 10, reps({5, 5.4, 4.8, 5.2, 5.1}), {}, cue),
                                          setOf(2, 10, reps({1, 1, 1, 1}), lunge),  // another movement does not answer
                                          setOf(3, 10, reps({0.4, 0.2, 0.5, 0.3}), {}, cue),
                                          setOf(4, 10, reps({0.5, 0.2, 0.4, 0.3}), {}, cue),
                                          setOf(5, 11, reps({5, 5.4, 4.8, 5.2, 5.1}))};  // nor does another day
        const Ledger ledger = ledgerOf(sets, *made::catalogue());
        QCOMPARE(ledger.cues.size(), std::size_t{2});
        QCOMPARE(ledger.cues[0].answeredBy, std::string("3"));
        QCOMPARE(int(ledger.cues[0].answer.effect), int(CueEffect::Worked));
        QVERIFY(ledger.cues[0].answer.gone);
        QCOMPARE(int(ledger.cues[1].answer.effect), int(CueEffect::NoDifference));
        const auto scores = scoresOf(ledger.cues);
        QCOMPARE(scores.size(), std::size_t{1});
        QCOMPARE(scores[0].worked, 1);
        QCOMPARE(scores[0].failed(), 1);
    }

    void whatCameWithTheCueIsNamed() {
        // The heels stay down now, and the knees come far forward: another fault of the same school.
        const CueGiven cue{"heels_rise", "Press the floor away."};
        auto before = reps({5, 5.4, 4.8, 5.2, 5.1}), after = reps({0.4, 0.2, 0.5, 0.3, 0.2});
        for (auto* set : {&before, &after})
            for (auto& r : *set)
                r.measures.push_back(
                    {MeasureId::named("thigh_angle"), set == &after ? 30.0 : -5.0, 3, 0.95, r.bottomS});
        const auto standard = *standardFor(fold({FactsSet{}}), *made::catalogue());
        const CueAnswer a = answerTo(cue, before, after, standard);
        QCOMPARE(int(a.effect), int(CueEffect::Worked));
        QVERIFY(std::find(a.newFaults.begin(), a.newFaults.end(), "depth_short") != a.newFaults.end());
    }

    void setUpTrialsAreKeptApartFromCues() {
        SetFacts plain, wedge;
        wedge.wedgeDeg = 10;
        const CueGiven cue{"heels_rise", "Press the floor away."};
        const auto up = reps({5, 5.4, 4.8, 5.2, 5.1}), down = reps({0.4, 0.2, 0.5, 0.3, 0.2});
        const Ledger trial = ledgerOf({setOf(1, 1, up, plain), setOf(2, 1, down, wedge)}, *made::catalogue());
        QVERIFY(trial.cues.empty());
        QCOMPARE(trial.trials.size(), std::size_t{1});
        QCOMPARE(trial.trials[0].changes, (std::vector<SetUpChange>{{SetUpChange::What::Wedge, "0", "10"}}));
        QVERIFY(trial.trials[0].differences[0].told);
        QCOMPARE(trial.trials[0].gone, (std::vector<std::string>{"heels_rise"}));
        // Said and changed at once: it is told, and counts for neither.
        const Ledger both = ledgerOf({setOf(1, 1, up, plain, cue), setOf(2, 1, down, wedge)}, *made::catalogue());
        QVERIFY(both.trials.empty());
        QCOMPARE(both.cues[0].also.size(), std::size_t{1});
        QCOMPARE(scoresOf(both.cues)[0].worked, 0);
        QCOMPARE(scoresOf(both.cues)[0].open, 1);
        // Nor does what another camera saw.
        auto other = setOf(2, 1, down, plain);
        other.seenBy = "another camera";
        QCOMPARE(scoresOf(ledgerOf({setOf(1, 1, up, plain, cue), other}, *made::catalogue()).cues)[0].open, 1);
        QVERIFY(setUpChanges(plain, plain).empty());
        SetFacts all = plain;
        all.choices["stance"] = "wide", all.choices["arms"] = "held-in", all.log.boxCm = 40, all.log.belt = true;
        all.log.load = {"bell", 16, 0}, all.variation = "goblet", all.log.shoes = "bare";
        QCOMPARE(setUpChanges(plain, all).size(), std::size_t{7});
    }

    void whatWorkedComesFirstAndWhatFailedTwiceLast() {
        const std::vector<std::string> words{"a", "b", "c", "d"};
        const std::vector<CueScore> scores{
            {"f", "a", 0, 2, 0, 0}, {"f", "c", 1, 0, 0, 0}, {"f", "d", 3, 1, 0, 0}, {"other", "b", 9, 0, 0, 0}};
        QCOMPARE(bestFirst(words, "f", scores), (std::vector<std::size_t>{3, 2, 1, 0}));
        QCOMPARE(bestFirst(words, "f", {}), (std::vector<std::size_t>{0, 1, 2, 3}));
        // What failed oftener than it worked goes last as well.
        QCOMPARE(bestFirst(words, "f", {{"f", "a", 1, 2, 0, 0}}), (std::vector<std::size_t>{1, 2, 3, 0}));
        // Once is no pattern.
        QCOMPARE(bestFirst(words, "f", {{"f", "a", 0, 1, 0, 0}}), (std::vector<std::size_t>{0, 1, 2, 3}));
    }

    /// Virtual clients stop short of the depth; how much of that is left after the cue is known. Their own scatter and
    /// the jitter of the landmarks decide. (The same with drawn pictures and the network: bench_between.)
    void verdictsOnVirtualClients() {
        const auto standard = *standardFor(fold({FactsSet{}, StandardChosen{"whole-foot"}}), *made::catalogue());
        const MeasureId depth = MeasureId::named("thigh_angle");
        QCOMPARE(standard.bandFor(depth)->faultAbove, std::string("depth_short"));
        const CueGiven cue{"depth_short", "Down between your feet."};
        int right = 0, large = 0, quiet = 0, unchanged = 0, turned = 0;
        for (int client = 0; client < 12; ++client)
            for (double listens : {0.0, 0.3, 0.6, 1.0, 0.0}) {
                const double much = 18 + client % 4 * 4;
                const unsigned seed = 1000U + static_cast<unsigned>(large + unchanged) * 10U;
                const auto before = squatsShortBy(much, seed),
                           after = squatsShortBy(much * (1 - listens), seed + 5000U);
                const CueAnswer a = answerTo(cue, before, after, standard);
                std::vector<double> values;
                for (const auto& r : before) values.push_back(r.find(depth)->value);
                double mean = 0, sum = 0;
                for (double v : values) mean += v / static_cast<double>(values.size());
                for (double v : values) sum += (v - mean) * (v - mean);
                const double noise = std::sqrt(sum / static_cast<double>(values.size() - 1)), change = much * listens;
                if (listens == 0) {
                    ++unchanged;
                    quiet += a.effect == CueEffect::NoDifference;
                } else if (change > 2 * noise) {
                    ++large;
                    right += a.effect == CueEffect::Worked;
                    turned += a.effect == CueEffect::Worse;
                }
            }
        qInfo(
            "true change over twice the noise: right in %d of %d, the wrong way in %d; nothing changed: quiet in %d of "
            "%d",
            right, large, turned, quiet, unchanged);
        QVERIFY(large >= 25 && unchanged == 24);
        QVERIFY(right >= 0.95 * large);
        QCOMPARE(turned, 0);
        QVERIFY(quiet >= 0.87 * unchanged);  // nine of ten over many, see chanceIsSeldomTakenForAChange
    }
};

ZEVO_SUITE(TestLedger, "ledger")
#include "test_ledger.moc"
