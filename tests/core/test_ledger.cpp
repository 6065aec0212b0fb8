// Whether what was said, or changed in the set-up, made a difference: phases of repetitions, where the camera stood,
// the ledger of a client, and how often its verdicts are right on virtual clients who listen by a known share.
#include <random>

#include "core/serial/seen_from_json.h"
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
    return {std::to_string(id), day, e, std::move(r), {{"full 3", ViewKind::Side, Side::Right, 2, 0.6, 0, 0.35, 1.5}}};
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

SetState stateOf(const sim::ClipSpec& spec) {
    auto state = made::state(spec);
    if (!state) qFatal("%s", made::words(state.error()));
    return std::move(*state);
}

}  // namespace

class TestLedger : public QObject {
    Q_OBJECT

  private slots:
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

    void differencesAreSignificantOrWithinNoise() {
        Standard standard;
        Band heels;
        heels.measure = MeasureId::named("heel_rise"), heels.max = 1;
        standard.bands = {heels};
        auto compared = [&](const RepsOfSet& a, const RepsOfSet& b, bool alike = true) {
            const auto all = differencesOf({{a}, {b}, {}, false, alike}, {}, standard);
            return all.size() == 1 ? all[0] : MeasureDifference();
        };
        const auto before = reps({5.0, 5.4, 4.8, 5.2, 5.1}), after = reps({0.4, 0.2, 0.5, 0.3, 0.6});
        const auto d = compared(before, after);
        QVERIFY(d.judged && d.significant && d.change() < -4);
        QVERIFY(!compared(before, reps({5.1, 5.3, 4.9, 5.0, 5.2})).significant);
        // Surely there, and too small for a word: a tenth of the reading's ±.
        const auto tiny = compared(reps({1.00, 1.001, 0.999, 1.0, 1.0}), reps({1.08, 1.081, 1.08, 1.079, 1.08}));
        QVERIFY(tiny.p < kAlpha && !tiny.significant);
        // Filmed otherwise: the stated ± of both have to be passed as well.
        const auto apart = reps({3.9, 4.1, 4.0, 4.2, 4.0});
        QVERIFY(compared(before, apart).significant);
        QVERIFY(!compared(before, apart, false).significant);
        QVERIFY(compared(before, after, false).significant);
        QVERIFY(compared(before, apart, false).beforePm > 0.8);
        // Nothing is asked of it: the numbers, and no verdict.
        const auto unasked = differencesOf({{before}, {after}}, {}, Standard());
        QVERIFY(!unasked[0].judged && !unasked[0].significant && unasked[0].change() < -4);
        // Single repetitions: against what repetitions of their sets differ by.
        const RepsOfSet one{before[0]}, other{after[0]};
        QVERIFY(!differencesOf({{one}, {{before[1]}}, {before}, true}, {}, standard)[0].significant);
        QVERIFY(differencesOf({{one}, {other}, {before, after}}, {}, standard)[0].significant);
        const auto unknown = differencesOf({{one}, {other}}, {}, standard)[0];  // nothing is known of the noise
        QVERIFY(!unknown.significant && unknown.beforePm > 0);
    }

    /// Knees that cave: both legs are read in every repetition. Neither is picked out for having been worse.
    void legsAreTakenTogether() {
        Standard standard;
        for (const char* id : {"knee_inside_left", "knee_inside_right"}) {
            Band band;
            band.measure = MeasureId::named(id), band.max = 0.03, band.faultAbove = "knees_cave";
            standard.bands.push_back(band);
        }
        auto set = [](double left, double right) {
            auto out = reps({left, left + 0.004, left - 0.003, left + 0.002, left}, "knee_inside_left", 0.01);
            const double wobble[] = {0.001, -0.004, 0.002, 0.003, -0.002};
            for (std::size_t i = 0; i < out.size(); ++i)
                out[i].measures.push_back(
                    {MeasureId::named("knee_inside_right"), right + wobble[i], 0.01, 0.9, out[i].bottomS});
            return out;
        };
        const CueGiven cue{"knees_cave", "Push the floor apart."};
        // What one leg wins the other loses.
        const CueAnswer traded = answerTo(cue, {set(0.12, 0.02)}, set(0.02, 0.12), {}, standard);
        QVERIFY(traded.bothLegs);
        QCOMPARE(int(traded.effect), int(CueEffect::NoDifference));
        const CueAnswer helped = answerTo(cue, {set(0.12, 0.06)}, set(0.02, 0.0), {}, standard);
        QCOMPARE(int(helped.effect), int(CueEffect::Worked));
        NEAR(helped.before, 0.09, 0.001);
        // The right knee was hidden in the second set: the left one speaks.
        auto hidden = set(0.02, 0.0);
        for (auto& r : hidden) r.measures.pop_back();
        const CueAnswer left = answerTo(cue, {set(0.12, 0.06)}, hidden, {}, standard);
        QVERIFY(!left.bothLegs && left.measure == MeasureId::named("knee_inside_left"));
        QCOMPARE(int(left.effect), int(CueEffect::Worked));
    }

    /// Sets of before the cue, of the same day and of days before; not those with a wedge, of another camera, of long
    /// ago, or in which the cue was in force.
    void aCueIsHeldAgainstTheSetsBeforeIt() {
        SetFacts wedge;
        wedge.wedgeDeg = 10;
        const CueGiven cue{"heels_rise", "Press the floor away."};
        const auto some = reps({1, 2, 3});
        std::vector<LedgerSet> sets{setOf(1, 10, some),          setOf(2, 60, some, {}, cue), setOf(3, 60, some),
                                    setOf(4, 70, some, wedge),   setOf(5, 71, some),          setOf(6, 71, some),
                                    setOf(7, 71, some, {}, cue), setOf(8, 71, some, {}, cue), setOf(9, 71, some)};
        sets[4].seenFrom[0].offSquareDeg = 12;
        sets[4].reps = reps({9, 9, 9});
        QCOMPARE(baselineOf(sets, 6, "heels_rise").sets.size(), std::size_t{3});   // 7, 6, 2
        QCOMPARE(baselineOf(sets, 7, "heels_rise").sets.size(), std::size_t{1});   // it was said before: only 8
        QCOMPARE(baselineOf(sets, 7, "depth_short").sets.size(), std::size_t{5});  // of another fault: 8, 7, 6, 3, 2
        QCOMPARE(baselineOf(sets, 6, "").sets.size(), std::size_t{3});
        // Nothing between 6 and 7 but the time; something between all others.
        const SetHistory history = historyOf(sets, 8);
        std::size_t longest = 0, all = 0;
        for (const auto& run : history) longest = std::max(longest, run.size()), all += run.size();
        QCOMPARE(all, sets.size());
        QCOMPARE(longest, std::size_t{2});
        QCOMPARE(historyOf(sets, 8, {"7"}).size(), history.size());
    }

    void whereTheCameraStoodDecidesWhetherSetsAreAlike() {
        const SeenFrom one{"full 3", ViewKind::Side, Side::Right, 2, 0.6, 0.0, 0.35, 16.0 / 9, false};
        auto with = [&](auto change) {
            SeenFrom other = one;
            change(other);
            return comparabilityIssues({one}, {other});
        };
        using Issue = ComparabilityIssue;
        QVERIFY(with([](SeenFrom& s) { s.offSquareDeg = 6, s.bodyShare = 0.65, s.acrossShare = 0.12; }).empty());
        QCOMPARE(with([](SeenFrom& s) { s.view = ViewKind::Front; }), std::vector{Issue::View});
        QCOMPARE(with([](SeenFrom& s) { s.near = Side::Left; }), std::vector{Issue::View});
        QCOMPARE(with([](SeenFrom& s) { s.offSquareDeg = 8; }), std::vector{Issue::Angle});
        QCOMPARE(with([](SeenFrom& s) { s.bodyShare = 0.45; }), std::vector{Issue::Size});
        QCOMPARE(with([](SeenFrom& s) { s.acrossShare = -0.2; }), std::vector{Issue::Place});
        QCOMPARE(with([](SeenFrom& s) { s.pictureShape = 4.0 / 3; }), std::vector{Issue::Place});
        QCOMPARE(with([](SeenFrom& s) { s.readBy = "full 4"; }), std::vector{Issue::Network});
        QCOMPARE(with([](SeenFrom& s) { s.byLength = true; }), std::vector{Issue::Scale});
        QCOMPARE(comparabilityIssues({one}, {}), std::vector{Issue::Unknown});
        // A second view counts where both have one.
        SeenFrom front = one, turned = one;
        front.view = turned.view = ViewKind::Front, turned.offSquareDeg = 20;
        QVERIFY(comparabilityIssues({one, front}, {one}).empty());
        QCOMPARE(comparabilityIssues({one, front}, {one, turned}), std::vector{Issue::Angle});
        // As the record keeps it.
        QCOMPARE(readSeenFrom(writeSeenFrom({one, turned})), (std::vector{one, turned}));
        QVERIFY(readSeenFrom("").empty() && readSeenFrom("[{}]").empty() && readSeenFrom("{\"a\": 1}").empty());
        // Of a measured set: the camera of the virtual client, as it was placed.
        const SeenFrom seen = seenFrom(stateOf(made::spec(3)))[0];
        QVERIFY(seen.view == ViewKind::Side && std::abs(seen.offSquareDeg) < 5);
        auto near = made::spec(3);
        near.scene.camera.distanceM *= 0.7;
        QCOMPARE(comparabilityIssues({seen}, seenFrom(stateOf(near))).front(), Issue::Size);
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
        const CueAnswer a = answerTo(cue, {before}, after, {}, standard);
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
        QVERIFY(trial.trials[0].differences[0].significant);
        QCOMPARE(trial.trials[0].gone, (std::vector<std::string>{"heels_rise"}));
        // Said and changed at once: it is told, and counts for neither.
        const Ledger both = ledgerOf({setOf(1, 1, up, plain, cue), setOf(2, 1, down, wedge)}, *made::catalogue());
        QVERIFY(both.trials.empty());
        QCOMPARE(both.cues[0].also.size(), std::size_t{1});
        QCOMPARE(scoresOf(both.cues)[0].worked, 0);
        QCOMPARE(scoresOf(both.cues)[0].open, 1);
        // Nor does what another camera saw.
        auto other = setOf(2, 1, down, plain);
        other.seenFrom[0].bodyShare = 0.4;
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
                const CueAnswer a = answerTo(cue, {before}, after, {}, standard);
                std::vector<double> values;
                for (const auto& r : before) values.push_back(r.find(depth)->value);
                double mean = 0, sum = 0;
                for (double v : values) mean += v / static_cast<double>(values.size());
                for (double v : values) sum += (v - mean) * (v - mean);
                const double noise = std::sqrt(sum / static_cast<double>(values.size() - 1)), change = much * listens;
                if (listens == 0) {
                    ++unchanged;
                    quiet += a.effect == CueEffect::NoDifference;
                } else if (change > 6 * noise) {  // what one set before it can tell
                    ++large;
                    right += a.effect == CueEffect::Worked;
                    turned += a.effect == CueEffect::Worse;
                }
            }
        qInfo(
            "true change over six times the noise, one set before: right in %d of %d, the wrong way in %d; nothing "
            "changed: quiet in %d of "
            "%d",
            right, large, turned, quiet, unchanged);
        QVERIFY(large >= 25 && unchanged == 24);
        QVERIFY(right >= 0.95 * large);
        QCOMPARE(turned, 0);
        QVERIFY(quiet >= 0.87 * unchanged);  // nineteen of twenty over many: test_set_change.cpp
    }
};

ZEVO_SUITE(TestLedger, "ledger")
#include "test_ledger.moc"
