// From finding to advice: limiters with their trace, drift, pain and stop rules.
#include <nlohmann/json.hpp>

#include "core/advice/reasoning.h"
#include "core/statistics/trend.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

/// A set of plain reps with one measure each.
SetResult setOf(int reps) {
    SetResult r;
    r.standard = "whole-foot";
    r.choices = made::standard("whole-foot").choices;
    for (int i = 1; i <= reps; ++i) {
        MeasuredRep rep;
        rep.index = i;
        rep.startS = 4.0 * i, rep.bottomS = 4.0 * i + 1.5, rep.endS = 4.0 * i + 3;
        r.reps.push_back(rep);
    }
    return r;
}

Finding finding(const std::string& fault, std::vector<int> reps, std::optional<Side> side = std::nullopt) {
    Finding f;
    f.fault = fault;
    f.severity = Severity::Clear;
    f.reps = std::move(reps);
    f.side = side;
    if (side) f.measure = MeasureId::named(*side == Side::Left ? "knee_inside_left" : "knee_inside_right");
    return f;
}

const AdviceBook& book() {
    return made::catalogue()->advice;
}

QString traceOf(SetResult& set, const Finding& f) {
    set.findings.insert(set.findings.begin(), f);
    return present::traceText(counselFor(f, set, book()));
}

}  // namespace

class TestReasoning : public QObject {
    Q_OBJECT
  private slots:
    void kneesThatCaveLateAreTired() {
        auto set = setOf(8);
        const Finding f = finding("knees_cave", {6, 7, 8}, Side::Left);
        set.findings = {f};
        const Counsel c = counselFor(f, set, book());
        QCOMPARE(c.limiter, std::string("tires"));
        QVERIFY(present::traceText(c).startsWith("only in reps 6–8 of 8 → tires"));
        QVERIFY(c.advice.say.front().text.find("then rest") != std::string::npos);
        QVERIFY(c.advice.prepare.front().text.find("clamshells") != std::string::npos);
    }

    void fromTheFirstRepWithoutLoadItIsSkill() {
        auto set = setOf(6);
        const Finding left = finding("knees_cave", {1, 2, 3, 4, 5, 6}, Side::Left),
                      right = finding("knees_cave", {1, 2, 4}, Side::Right);
        set.findings = {left, right};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("skill"));
        // One side alone is another matter, but only when the other one worked and was seen.
        set.findings = {left};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("skill"));
        for (auto& rep : set.reps) rep.measures.push_back({MeasureId::named("knee_inside_right"), -0.02, 0.02, 1, 0});
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("one-side"));
        Finding perhaps = right;
        perhaps.severity = Severity::Unsure;
        set.findings = {left, perhaps};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("skill"));
        for (auto& rep : set.reps) rep.leg = Side::Left;
        set.findings = {left};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("skill"));
        for (auto& rep : set.reps) rep.leg.reset(), rep.measures.clear();
        // And so is a weight.
        set.findings = {left, right};
        set.context.movement = made::movement("squat");
        set.context.variation = "back-bar";
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("load"));
    }

    void otherFaultsPointToTheLimiter() {
        auto set = setOf(5);
        const Finding lean = finding("forward_lean", {1, 2, 3, 4, 5});
        set.findings = {lean, finding("heels_rise", {2, 3, 4})};
        QCOMPARE(counselFor(lean, set, book()).limiter, std::string("ankles"));
        set.findings = {lean};
        const Counsel alone = counselFor(lean, set, book());
        QCOMPARE(alone.limiter, std::string("technique"));
        QVERIFY(present::traceText(alone).contains("in reps 1–5 of 5"));
    }

    /// Most evidence wins, not the first of the file; and what an aid in use rules out is said.
    void evidenceIsWeighed() {
        auto set = setOf(8);
        const Finding lean = finding("forward_lean", {6, 7, 8});
        set.findings = {lean};
        QCOMPARE(counselFor(lean, set, book()).limiter, std::string("tires"));
        set.context.felt = {"mid-back"};
        QCOMPARE(counselFor(lean, set, book()).limiter, std::string("mid-back"));
        set.context.felt.clear();
        const Finding always = finding("forward_lean", {1, 2, 3, 4, 5, 6, 7, 8});
        set.findings = {always, finding("heels_rise", {2, 3, 4})};
        QCOMPARE(counselFor(always, set, book()).limiter, std::string("ankles"));
        set.context.movement = made::movement("squat");
        set.context.wedgeDeg = 10;
        const Counsel onWedge = counselFor(always, set, book());
        QVERIFY(onWedge.limiter != "ankles");
        QVERIFY2(present::traceText(onWedge).contains("not the ankles"), qPrintable(present::traceText(onWedge)));
    }

    void leftOutAndPartialRepsDoNotCount() {
        auto set = setOf(9);
        set.leftOut = {Span{set.reps[7].startS, set.reps[8].endS}};
        set.reps[0].kind = RepKind::Partial;
        // Of reps 2–7 the late half is 5 to 7, with three clean ones before.
        QVERIFY(traceOf(set, finding("heels_rise", {5, 7})).startsWith("only in reps 5, 7 of 6"));
    }

    void nobodyIsTiredBeforeThreeCleanReps() {
        auto set = setOf(4);
        set.findings = {finding("heels_rise", {3, 4})};
        QVERIFY(counselFor(set.findings[0], set, book()).limiter.empty());
        set = setOf(6);
        set.findings = {finding("heels_rise", {4, 5})};
        QCOMPARE(counselFor(set.findings[0], set, book()).limiter, std::string("tires"));
    }

    void aFootThatRollsIsNoCueProblem() {
        auto set = setOf(6);
        set.findings = {finding("knees_cave", {1, 2, 3}, Side::Left), finding("knees_cave", {1, 2}, Side::Right)};
        set.context.felt = {"foot-rolls"};
        const Counsel c = counselFor(set.findings[0], set, book());
        QCOMPARE(c.limiter, std::string("outer-hamstring"));
        QVERIFY(c.advice.change.front().text.find("outer hamstring") != std::string::npos);
        QVERIFY(present::traceText(c).contains("by where it was felt"));
    }

    void whatStandsAndWhatIsHeldChooseTheWords() {
        auto set = setOf(5);
        set.context.movement = made::movement("squat");
        const Finding f = finding("forward_lean", {1, 2, 3});
        set.findings = {f, finding("heels_rise", {1})};
        auto change = [&] { return counselFor(f, set, book()).advice.change; };
        set.findings = {f};
        QVERIFY(change().front().text.find("weight at the chest") != std::string::npos);
        set.context.variation = "back-bar";
        for (const auto& c : change()) QVERIFY2(c.text.find("at the chest") == std::string::npos, c.text.c_str());
        const auto loaded = change();
        QVERIFY(std::any_of(loaded.begin(), loaded.end(), [](const auto& c) { return c.text.find("Lighter") == 0; }));
    }

    void shortSetsAreNotCalledTired() {
        auto set = setOf(3);
        const Finding f = finding("lowering_fast", {3});
        set.findings = {f};
        QVERIFY(counselFor(f, set, book()).limiter.empty());
    }

    void unsureFindingsGetNoLimiter() {
        auto set = setOf(8);
        Finding f = finding("knees_cave", {6, 7, 8}, Side::Left);
        f.severity = Severity::Unsure;
        set.findings = {f};
        const Counsel c = counselFor(f, set, book());
        QVERIFY(c.limiter.empty() && present::traceText(c).isEmpty() && !book().fault(f.fault)->unsure.empty());
        QVERIFY(counselFor(finding("no_such_fault", {1}), set, book()).advice.say.empty());
    }

    void driftIsTestedAndNotJustDrawn() {
        // Five in order: 2 of the 120 orders are as one-sided.
        const Trend up = trendOf(std::vector<double>{1, 2, 3, 4, 5});
        NEAR(up.p, 2.0 / 120, 1e-12);
        NEAR(up.change, 4, 1e-12);
        const Trend down = trendOf(std::vector<double>{5, 4, 3, 2, 1});
        NEAR(down.p, 2.0 / 120, 1e-12);
        QVERIFY(trendOf(std::vector<double>{1, 2, 3, 4}).p == 1);
        QVERIFY(trendOf(std::vector<double>{3, 1, 2, 3, 1, 2}).p > 0.5);
        QVERIFY(trendOf(std::vector<double>{2, 2, 2, 2, 2, 2}).p > 0.5);
        QVERIFY(trendOf({}).p == 1);
    }

    void aTiringSetDriftsAndASteadyOneDoesNot() {
        auto spec = made::spec(8);
        for (std::size_t i = 0; i < 8; ++i) spec.motion.reps[i].lowerS = 2.4 - 0.15 * static_cast<double>(i);
        auto tiring = made::measured(spec), steady = made::measured(made::spec(8));
        judgeSet(tiring->result, made::standard("whole-foot"));
        judgeSet(steady->result, made::standard("whole-foot"));
        const auto& drifts = tiring->result.drifts;
        const auto lowering =
            std::find_if(drifts.begin(), drifts.end(), [](const Drift& d) { return d.measure.name() == "lowering_s"; });
        QVERIFY(lowering != drifts.end() && lowering->moreThanNoise);
        NEAR(lowering->trend.change, -0.9, 0.2);
        QVERIFY(!steady->result.drifts.empty() && !steady->result.drifts.front().moreThanNoise);
    }

    void sidesAreComparedWithinTheirError() {
        const std::vector<double> left{90, 92, 91}, right{80, 81, 79};
        const Comparison c = compareSides(left, right, 4);
        NEAR(c.difference, -11, 1e-9);
        QVERIFY(c.moreThanNoise && c.differencePm > 5);
        NEAR(c.index, 100 * 80 / 91.0, 1e-9);
        QVERIFY(!compareSides(left, right, 9).moreThanNoise);
        QVERIFY(compareSides(std::vector<double>{1}, std::vector<double>{-1}, 0.1).index == 0);  // no ratio over zero
        QVERIFY(compareSides({}, right, 4).differencePm == 0);
    }

    void painComesBeforeAdvice_data() {
        QTest::addColumn<int>("before");
        QTest::addColumn<int>("after");
        QTest::addColumn<bool>("sharp");
        QTest::addColumn<int>("level");
        using L = StopAnswer::Level;
        QTest::newRow("none") << 0 << 0 << false << int(L::GoOn);
        QTest::newRow("two") << 2 << 2 << false << int(L::GoOn);
        QTest::newRow("three") << 3 << 3 << false << int(L::Lighten);
        QTest::newRow("four") << 4 << 4 << false << int(L::Lighten);
        QTest::newRow("five") << 5 << 2 << false << int(L::Stop);
        QTest::newRow("rising by three") << 1 << 4 << false << int(L::Stop);
        QTest::newRow("rising to three") << 1 << 3 << false << int(L::Lighten);
        QTest::newRow("rising by one") << 3 << 4 << false << int(L::Lighten);
        QTest::newRow("rising but low") << 0 << 2 << false << int(L::GoOn);
        QTest::newRow("falling") << 4 << 3 << false << int(L::Lighten);
        QTest::newRow("sharp") << 1 << 1 << true << int(L::Stop);
    }
    void painComesBeforeAdvice() {
        QFETCH(int, before);
        QFETCH(int, after);
        QFETCH(bool, sharp);
        QFETCH(int, level);
        const StopAnswer a = stopAnswer({before, after, sharp, {}, {}, {}, {}});
        QCOMPARE(int(a.level), level);
        // What rose before on that day stops when it rises again.
        PainCheck again{before, after, sharp, {}, {}, {}, {}, true};
        const bool second = after > before && after >= 3;
        QCOMPARE(int(stopAnswer(again).level), second ? int(StopAnswer::Level::Stop) : level);
        QCOMPARE(present::stopWords(a).title.isEmpty(), a.level == StopAnswer::Level::GoOn);
    }

    void aRedFlagStopsScoring() {
        auto spec = made::spec(4);
        for (auto& r : spec.motion.reps) r.heelRiseCm = 6;
        auto set = made::measured(spec);
        judgeSet(set->result, made::standard("whole-foot"));
        QVERIFY(!set->result.findings.empty());
        for (const auto& flag : redFlags()) {
            set->result.context.pain = {0, 0, false, {}, {flag.id}, {}, {}};
            judgeSet(set->result, made::standard("whole-foot"));
            QVERIFY(set->result.findings.empty());
            QVERIFY(set->result.stop.refer);
            const auto said = present::stopWords(set->result.stop);
            QVERIFY(said.text.contains(flag.level == FlagLevel::HelpNow ? "medical help" : "clinician"));
            QVERIFY(said.text.contains(present::redFlagTitle(flag.id)) && said.text.contains("local rules"));
            QVERIFY(present::redFlagTitle(flag.id) != flag.id);
            QCOMPARE(set->result.stop.level == StopAnswer::Level::HelpNow, flag.level == FlagLevel::HelpNow);
        }
        const auto json = nlohmann::json::parse(toJson(*set, present::resultWords()));
        QCOMPARE(json["stop"]["scored"].get<bool>(), false);
        set->result.context.pain = {};
        judgeSet(set->result, made::standard("whole-foot"));
        QVERIFY(!set->result.findings.empty());
    }

    void painHasPlacesAndSides() {
        const PainSpots spots{{"knee-front", BodySide::Left}, {"low-back"}, {"hip-outer", BodySide::Both}};
        QCOMPARE(painSpotsText(spots), std::string("knee-front:left low-back hip-outer:both"));
        QCOMPARE(painSpotsFrom(painSpotsText(spots)), spots);
        QCOMPARE(painSpotsFrom("knee-front"), (PainSpots{{"knee-front"}}));  // as it was kept before there were sides
        QVERIFY(painSpotsFrom("").empty());
        // What no place is called, a side where there is none, a fourth.
        QCOMPARE(painSpotsFrom("tail low-back:left knee-front:upper ankle wrist"),
                 (PainSpots{{"low-back"}, {"knee-front"}, {"ankle"}}));
        QCOMPARE(present::painSpotsWords(spots), QString("Knee, front, left · Low back · Hip, outer side, both sides"));
        // A card for any of the places that hurt.
        Situation s;
        s.complaints = {"neck", "low-back"};
        When w;
        w.complaints = {"low-back"};
        QVERIFY(w.holds(s));
        w.complaints = {"wrist"};
        QVERIFY(!w.holds(s));
    }

    /// Cleared by a clinician: scored again, with care; what is not for clearing is not cleared by a tick.
    void whatWasClearedIsScoredWithCare() {
        auto set = made::measured(made::spec(3));
        set->result.context.pain.cleared = {"surgery"};
        judgeSet(set->result, made::standard("whole-foot"));
        QCOMPARE(int(set->result.stop.level), int(StopAnswer::Level::Care));
        QVERIFY(set->result.stop.scored() && !set->result.stop.mayGoOnAlike() && !set->result.clean());
        QVERIFY(present::stopWords(set->result.stop).text.contains("gentler"));
        // Limits that were written down hold whatever the flag was, and are said beside what hurts.
        PainCheck limited;
        limited.cleared = {"fall"};
        QCOMPARE(int(stopAnswer(limited).level), int(StopAnswer::Level::GoOn));
        limited.limits = {"bodyweight, to a box"};
        QCOMPARE(int(stopAnswer(limited).level), int(StopAnswer::Level::Care));
        QVERIFY(present::stopWords(stopAnswer(limited)).text.contains("bodyweight, to a box"));
        limited.before = 3;
        QCOMPARE(int(stopAnswer(limited).level), int(StopAnswer::Level::Lighten));
        QVERIFY(present::stopWords(stopAnswer(limited)).text.contains("bodyweight, to a box"));
        set->result.context.pain.redFlags = {"chest"};
        judgeSet(set->result, made::standard("whole-foot"));
        QCOMPARE(int(set->result.stop.level), int(StopAnswer::Level::HelpNow));
        for (const auto& place : painPlaces()) QVERIFY(present::painPlaceTitle(place) != QString::fromStdString(place));
        for (const auto& place : feltPlaces()) QVERIFY(present::feltTitle(place) != QString::fromStdString(place));
    }

    void theOpenResultCarriesWhatToSay() {
        auto spec = made::spec(6);
        spec.motion.reps[4].heelRiseCm = spec.motion.reps[5].heelRiseCm = 6;
        auto set = made::measured(spec);
        judgeSet(set->result, made::standard("whole-foot"));
        const auto json = nlohmann::json::parse(toJson(*set, present::resultWords(), &book()));
        const auto& f = json["findings"][0];
        QCOMPARE(f["fault"].get<std::string>(), std::string("heels_rise"));
        QVERIFY(f["advice"]["say"].size() >= 2 && f["advice"]["prepare"][0].contains("dose"));
        QCOMPARE(f["advice"]["limiter"]["id"].get<std::string>(), std::string("tires"));
        QVERIFY(json["drifts"].is_array() && json["legs"].is_array());
    }
};

ZEVO_SUITE(TestReasoning, "reasoning")
#include "test_reasoning.moc"
