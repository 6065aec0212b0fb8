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
    return f;
}

const AdviceBook& book() {
    static const AdviceBook all = *catalog::loadAdvice(made::movement("squat"));
    return all;
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
        QVERIFY(c.advice.say.front().text.find("then done") != std::string::npos);
        QVERIFY(c.advice.prepare.front().text.find("clamshells") != std::string::npos);
    }

    void fromTheFirstRepWithoutLoadItIsSkill() {
        auto set = setOf(6);
        const Finding left = finding("knees_cave", {1, 2, 3, 4, 5, 6}, Side::Left),
                      right = finding("knees_cave", {1, 2, 4}, Side::Right);
        set.findings = {left, right};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("skill"));
        // One side alone is another matter.
        set.findings = {left};
        QCOMPARE(counselFor(left, set, book()).limiter, std::string("one-side"));
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

    void leftOutAndPartialRepsDoNotCount() {
        auto set = setOf(8);
        set.leftOut = {Span{set.reps[5].startS, set.reps[7].endS}};
        set.reps[0].kind = RepKind::Partial;
        // Of reps 2–5 the late half is 4 and 5.
        QVERIFY(traceOf(set, finding("heels_rise", {4, 5})).startsWith("only in reps 4, 5 of 4"));
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
        QVERIFY(c.limiter.empty() && present::traceText(c).isEmpty() && !c.advice.unsure.empty());
        QVERIFY(counselFor(finding("no_such_fault", {1}), set, book()).advice.title.empty());
    }

    void damagedLimitersAreRefusedWithTheirPath() {
        using nlohmann::json;
        auto text = *catalog::readTextFile(std::string(ZEVO_DATA_DIR) + "/advice/common.json");
        auto refusedWith = [&](const char* pointer, const json& value) {
            json root = json::parse(text);
            root[json::json_pointer(pointer)] = value;
            const auto read = parseAdvice(root.dump(), "mine.json");
            return read ? QString() : QString::fromStdString(read.error().message);
        };
        QVERIFY(refusedWith("/faults/knees_cave/limiters/0/when/reps", "early").contains("/when/reps “early”"));
        QVERIFY(refusedWith("/faults/knees_cave/say/0/kind", "shout").contains("/say/0/kind “shout”"));
        QVERIFY(refusedWith("/faults/knees_cave/prepare/0/stage", "nap").contains("/prepare/0/stage “nap”"));
        QVERIFY(refusedWith("/faults/knees_cave/limiters/1/why", 3).contains("/limiters/1/why must be text, not 3"));
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
        QTest::newRow("rising") << 1 << 3 << false << int(L::Stop);
        QTest::newRow("rising by one") << 3 << 4 << false << int(L::Stop);
        QTest::newRow("rising but low") << 0 << 2 << false << int(L::GoOn);
        QTest::newRow("falling") << 4 << 3 << false << int(L::Lighten);
        QTest::newRow("sharp") << 1 << 1 << true << int(L::Stop);
    }
    void painComesBeforeAdvice() {
        QFETCH(int, before);
        QFETCH(int, after);
        QFETCH(bool, sharp);
        QFETCH(int, level);
        const StopAnswer a = stopAnswer({before, after, sharp, {}});
        QCOMPARE(int(a.level), level);
        QCOMPARE(present::stopWords(a).title.isEmpty(), a.level == StopAnswer::Level::GoOn);
    }

    void aRedFlagStopsScoring() {
        auto spec = made::spec(4);
        for (auto& r : spec.motion.reps) r.heelRiseCm = 6;
        auto set = made::measured(spec);
        judgeSet(set->result, made::standard("whole-foot"));
        QVERIFY(!set->result.findings.empty());
        for (const auto& flag : redFlags()) {
            set->result.context.pain = {0, 0, false, {flag}};
            judgeSet(set->result, made::standard("whole-foot"));
            QVERIFY(set->result.findings.empty());
            QVERIFY(set->result.stop.refer);
            const auto said = present::stopWords(set->result.stop);
            QVERIFY(said.text.contains("clinician") && said.text.contains(present::redFlagTitle(flag)));
            QVERIFY(present::redFlagTitle(flag) != QString::fromStdString(flag));
        }
        const auto json = nlohmann::json::parse(toJson(*set, present::resultWords()));
        QCOMPARE(json["stop"]["scored"].get<bool>(), false);
        set->result.context.pain = {};
        judgeSet(set->result, made::standard("whole-foot"));
        QVERIFY(!set->result.findings.empty());
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
