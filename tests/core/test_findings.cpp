// Judging: verdicts at the edges of a band, severities, and the fault trial on perfect landmarks: each planted fault
// is found, alone, by each standard that minds it.
#include <set>

#include "catalog/data_files.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using Dial = void (*)(sim::RepSpec&);
Q_DECLARE_METATYPE(Dial)

namespace {

Standard standard(const char* id) {
    auto s = catalog::loadStandard(id);
    if (!s) qFatal("%s", made::words(s.error()));
    return *s;
}

Band band(std::optional<double> min, std::optional<double> max, bool careful = false) {
    Band b;
    b.measure = MeasureId::named("thigh_angle");
    b.min = min;
    b.max = max;
    b.faultAbove = "above";
    b.faultBelow = "below";
    b.careful = careful;
    return b;
}

Measurement reading(double value, double pm, double confidence = 1) {
    return {MeasureId::named("thigh_angle"), value, pm, confidence, 0};
}

std::set<std::string> faults(const SetResult& r, bool unsureToo = false) {
    std::set<std::string> out;
    for (const auto& f : r.findings)
        if (unsureToo || f.severity != Severity::Unsure) out.insert(f.fault);
    return out;
}

QString list(const std::set<std::string>& names) {
    QStringList out;
    for (const auto& n : names) out.append(QString::fromStdString(n));
    return out.join(' ');
}

std::vector<MeasuredRep> reps(const std::vector<double>& thighs) {
    std::vector<MeasuredRep> out;
    for (std::size_t i = 0; i < thighs.size(); ++i) {
        MeasuredRep r;
        r.index = static_cast<int>(i) + 1;
        r.measures = {reading(thighs[i], 2)};
        r.measures[0].atS = static_cast<double>(i);
        out.push_back(r);
    }
    return out;
}

}  // namespace

class TestFindings : public QObject {
    Q_OBJECT
  private slots:
    /// Of a hip line the networks see an eighth: within its ± it says nothing, and a notice says what does.
    void whatIsHardlySeenRaisesNoDoubt() {
        auto school = standard("whole-foot");
        auto with = [&](const char* measure, double value, double pm) {
            std::vector<MeasuredRep> out = reps({-12, -12, -12});
            for (auto& r : out) r.measures = {{MeasureId::named(measure), value, pm, 1, r.bottomS}};
            return findFaults(out, school.forSet("squat", ""));
        };
        QVERIFY(with("hip_tilt", -5, 14).empty());
        QCOMPARE(with("shoulder_tilt", 6, 8.5).size(), std::size_t{1});
        const auto far = with("hip_tilt", 20, 14);
        QVERIFY(far.size() == 1 && far[0].fault == "hip_drops" && far[0].severity == Severity::Clear);
    }

    void verdicts_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<bool>("careful");
        QTest::addColumn<double>("confidence");
        QTest::addColumn<int>("verdict");
        const int inside = static_cast<int>(Verdict::Inside), outside = static_cast<int>(Verdict::Outside),
                  unsure = static_cast<int>(Verdict::Unsure);
        // Band −10 … 5, ± 4.
        QTest::newRow("well inside") << 0.0 << false << 1.0 << inside;
        QTest::newRow("inside, a sliver of the ± over the edge") << 2.5 << false << 1.0 << inside;
        QTest::newRow("inside, a quarter of the ± over the edge") << 3.0 << false << 1.0 << unsure;
        QTest::newRow("the same where care is asked for") << 3.0 << true << 1.0 << unsure;
        QTest::newRow("just out") << 7.0 << false << 1.0 << unsure;
        QTest::newRow("clearly out above") << 9.5 << false << 1.0 << outside;
        QTest::newRow("clearly out below") << -15.0 << false << 1.0 << outside;
        QTest::newRow("clearly out but hardly seen") << 9.5 << false << 0.3 << unsure;
        QTest::newRow("inside and hardly seen") << 0.0 << false << 0.3 << inside;
    }
    void verdicts() {
        QFETCH(double, value);
        QFETCH(bool, careful);
        QFETCH(double, confidence);
        QFETCH(int, verdict);
        QCOMPARE(static_cast<int>(judge(reading(value, 4, confidence), band(-10, 5, careful), 0.5).verdict), verdict);
    }

    void sideOfTheMiss() {
        QVERIFY(judge(reading(20, 1), band(-10, 5), 0.5).above);
        QVERIFY(!judge(reading(-20, 1), band(-10, 5), 0.5).above);
        NEAR(judge(reading(20, 1), band({}, 5), 0.5).beyond, 15, 1e-9);
        QCOMPARE(judge(reading(1000, 1), band({}, {}), 0.5).verdict, Verdict::Inside);
    }

    void severities() {
        Standard s;
        s.bands = {band({}, 5)};
        auto severity = [&](const std::vector<double>& thighs) {
            const auto found = findFaults(reps(thighs), s);
            return found.empty() ? std::string("none") : severityName(found.front().severity);
        };
        QCOMPARE(severity({0, 0, 0}), std::string("none"));
        QCOMPARE(severity({0, 20, 20, 0, 0, 0, 0, 0}), std::string("clear"));  // twice
        QCOMPARE(severity({0, 20, 0}), std::string("clear"));                  // a third
        QCOMPARE(severity({0, 20, 0, 0}), std::string("watch"));               // once in a longer set
        QCOMPARE(severity({6, 6, 6, 0}), std::string("unsure"));
        QCOMPARE(severity({6, 0, 0, 0}), std::string("none"));  // one doubtful rep is no finding
    }

    /// A measure with a witness says "out" only where the witness is past its own edge, on the same side; "unsure"
    /// where it is not, or was not read.
    void aWitnessHasToSeeItToo() {
        const MeasureId shin = MeasureId::named("shin_angle");
        Standard s;
        s.bands = {band({}, 5), band({}, 20)};
        s.bands[0].witness = {shin};
        s.bands[1].measure = shin, s.bands[1].faultAbove = s.bands[1].faultBelow = "";
        auto said = [&](std::optional<double> witness, double value = 30) {
            auto list = reps({value, value, value});
            if (witness)
                for (auto& r : list) r.measures.push_back({shin, *witness, 10, 1, 0});
            const auto j = judge(list[0], s.bands[0], s);
            const auto found = findFaults(list, s);
            const bool unsure = j->because == Because::Contradicted;
            if (unsure != (!found.empty() && found[0].severity == Severity::Unsure)) return std::string("two answers");
            return found.empty() ? std::string("none") : severityName(found[0].severity);
        };
        QCOMPARE(said(25), std::string("clear"));  // by its value: its own ± need not settle it
        QCOMPARE(said(15), std::string("unsure"));
        QCOMPARE(said(std::nullopt), std::string("unsure"));
        QCOMPARE(said(25, 0), std::string("none"));  // a witness alone makes no fault
        // One that was hardly seen is not heard, for or against.
        auto hardly = reps({30, 4});
        for (auto& r : hardly) r.measures.push_back({shin, r.index == 1 ? 25.0 : 0.0, 10, 0.3, 0});
        QCOMPARE(judge(hardly[0], s.bands[0], s)->because, Because::Contradicted);
        QCOMPARE(judge(hardly[1], s.bands[0], s)->because, Because::NearEdge);
        s.bands[1].min = 0, s.bands[1].faultBelow = "";
        QCOMPARE(said(-5), std::string("unsure"));  // past the other edge is no witness
        QVERIFY(!judge(reps({0})[0], s.bands[1], s));
    }

    /// The lean this build needs and the plain rule, trunk against shin, have to agree: long thighs that ask for a far
    /// lean are no fault by the plain rule alone, and a far lean on short thighs is clear.
    void leanIsClearWhereBothRulesSeeIt() {
        const Standard school = standard("whole-foot");
        auto lean = [&](double overNeeded, double overShin) {
            auto list = reps({0, 0, 0});
            for (auto& r : list) {
                r.measures.push_back({MeasureId::named("lean_over_needed"), overNeeded, 11, 1, 0});
                r.measures.push_back({MeasureId::named("lean_over_shin"), overShin, 6, 1, 0});
            }
            for (const Finding& f : findFaults(list, school))
                if (f.fault == "forward_lean") return severityName(f.severity);
            return std::string("none");
        };
        QCOMPARE(lean(0, 10), std::string("none"));
        QCOMPARE(lean(12, 30), std::string("clear"));   // ±11 alone would leave it open
        QCOMPARE(lean(2, 30), std::string("unsure"));   // this build needs it, as far as can be told
        QCOMPARE(lean(25, 12), std::string("unsure"));  // the shins lean as far
        QCOMPARE(lean(25, 23), std::string("clear"));
        // A ± that reaches over the edge is no doubt where the other rule is inside.
        auto settled = [&](double overNeeded, double overShin) {
            auto list = reps({0});
            list[0].measures.push_back({MeasureId::named("lean_over_needed"), overNeeded, 11, 1, 0});
            list[0].measures.push_back({MeasureId::named("lean_over_shin"), overShin, 6, 1, 0});
            return judge(list[0], *school.bandFor("lean_over_shin"), school)->settled();
        };
        QVERIFY(settled(0, 18) && !settled(9, 18) && !settled(0, 22));
        QVERIFY(!settled(6, 18));  // inside, but not with its own ±
    }

    void theWorstMomentIsShown() {
        Standard s;
        s.bands = {band({}, 5)};
        const auto found = findFaults(reps({12, 25, 18}), s);
        QCOMPARE(found.size(), std::size_t{1});
        QCOMPARE(found[0].reps, (std::vector<int>{1, 2, 3}));
        NEAR(found[0].value, 25, 1e-9);
        NEAR(found[0].atS, 1, 1e-9);
        NEAR(found[0].edge, 5, 1e-9);
    }

    void partialRepsAreNotJudged() {
        Standard s;
        s.bands = {band({}, 5)};
        auto list = reps({0, 40, 0});
        list[1].kind = RepKind::Partial;
        QVERIFY(findFaults(list, s).empty());
    }

    void aPlusMinusThatReachesFarOverTheEdgeIsUnsure_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("pm");
        QTest::addColumn<int>("verdict");
        QTest::addColumn<int>("because");
        auto row = [](const char* name, double value, double pm, Verdict v, Because b) {
            QTest::newRow(name) << value << pm << int(v) << int(b);
        };
        row("far inside", -2, 1, Verdict::Inside, Because::ClearOfEdge);
        row("half of it out", 0.9, 3.6, Verdict::Unsure, Because::NearEdge);
        row("just a fifth out", 0.9, 1.0, Verdict::Inside, Because::ClearOfEdge);
        row("a little more than a fifth", 0.95, 1.0, Verdict::Unsure, Because::NearEdge);
        row("value out, its ± not", 2.0, 1.0, Verdict::Unsure, Because::PastEdge);
        row("all of it out", 3.0, 1.0, Verdict::Outside, Because::ClearOfEdge);
    }
    void aPlusMinusThatReachesFarOverTheEdgeIsUnsure() {
        QFETCH(double, value);
        QFETCH(double, pm);
        QFETCH(int, verdict);
        QFETCH(int, because);
        const Judgement j = judge(reading(value, pm), band({}, 1.5), 0.5);
        QCOMPARE(int(j.verdict), verdict);
        QCOMPARE(int(j.because), because);
    }

    void nothingAskedIsNothingSaid() {
        const Judgement j = judge(reading(3, 1), band({}, {}), 0.5);
        QCOMPARE(j.verdict, Verdict::Inside);
        QCOMPARE(j.because, Because::NoBand);
        QCOMPARE(j.beyond, 0.0);  // no large number that could reach a screen
        QCOMPARE(judge(reading(9, 1, 0.2), band({}, 1.5), 0.5).because, Because::PoorlySeen);
    }

    void aReadingNearTheEdgeIsDrawnAsUnsureButIsNoFinding() {
        Standard s;
        s.bands = {band({}, 5)};
        QVERIFY(findFaults(reps({4.9, 4.9, 4.9}), s).empty());
        // Over the edge by less than a twentieth of its ±, it is as likely inside; a little more is worth a look.
        QVERIFY(findFaults(reps({5.08, 5.08, 5.08}), s).empty());
        QCOMPARE(findFaults(reps({5.12, 5.12, 5.12}), s).size(), std::size_t{1});
        s.bands = {band({}, 5, true)};  // a careful band asks for it
        QCOMPARE(findFaults(reps({4.9, 4.9, 4.9}), s).size(), std::size_t{1});
    }

    void clearComesFirstThenTheStandardsOrder() {
        Standard s;
        Band late = band({}, 5), early = band({}, 5);
        late.rank = 50;
        early.measure = MeasureId::named("trunk_lean");
        early.faultAbove = "early";
        early.rank = 10;
        s.bands = {late, early};
        auto list = reps({20, 20});
        for (auto& r : list) {
            Measurement m = reading(20, 2);
            m.measure = MeasureId::named("trunk_lean");
            r.measures.push_back(m);
        }
        const auto found = findFaults(list, s);
        QCOMPARE(found.size(), std::size_t{2});
        QCOMPARE(found[0].fault, std::string("early"));
        list[0].measures[1].value = list[1].measures[1].value = 6;  // now only unsure
        QCOMPARE(findFaults(list, s)[0].fault, std::string("above"));
    }

    void leftOutRepsAreNotJudged() {
        auto spec = made::spec(3);
        spec.motion.reps[1].heelRiseCm = 6;
        auto set = *made::measured(spec);
        judgeSet(set.result, standard("whole-foot"));
        QVERIFY(faults(set.result).count("heels_rise"));
        set.result.leftOut = {Span{set.result.reps[1].startS, set.result.reps[1].endS}};
        judgeSet(set.result, standard("whole-foot"));
        QVERIFY(faults(set.result).empty());
    }

    void aCleanSetIsClean_data() {
        QTest::addColumn<double>("stature");
        QTest::addColumn<double>("legs");
        QTest::addColumn<double>("jitter");
        QTest::newRow("plain") << 175.0 << 1.0 << 0.0;
        QTest::newRow("short, jittering") << 158.0 << 0.98 << 1.0;
        QTest::newRow("tall, long legs") << 192.0 << 1.03 << 0.6;
    }
    void aCleanSetIsClean() {
        QFETCH(double, stature);
        QFETCH(double, legs);
        QFETCH(double, jitter);
        auto spec = made::spec(4);
        spec.motion.body.statureCm = stature;
        spec.motion.body.legShare = legs;
        auto set = made::measured(spec, made::jittered(sim::truePoses(spec), jitter));
        QVERIFY(bool(set));
        judgeSet(set->result, standard("whole-foot"));
        QVERIFY2(faults(set->result).empty(), qPrintable(list(faults(set->result))));
    }

    void plantedFaultsAreFoundAndNoOthers_data() {
        QTest::addColumn<QString>("standardId");
        QTest::addColumn<Dial>("dial");
        QTest::addColumn<QString>("expected");
        QTest::newRow("heels") << "whole-foot" << Dial([](sim::RepSpec& r) { r.heelRiseCm = 6; }) << "heels_rise";
        QTest::newRow("toes") << "whole-foot" << Dial([](sim::RepSpec& r) { r.toeRiseCm = 5; }) << "toes_rise";
        QTest::newRow("depth") << "whole-foot" << Dial([](sim::RepSpec& r) { r.thighBottomDeg = 22; }) << "depth_short";
        QTest::newRow("knees first") << "whole-foot" << Dial([](sim::RepSpec& r) { r.kneesFirst = 1; })
                                     << "knees_first";
        QTest::newRow("balance to the toes")
            << "whole-foot" << Dial([](sim::RepSpec& r) { r.balanceShift = 0.38, r.shinBottomDeg = 50; })
            << "weight_on_toes";  // they lean with their shins: no further than they allow
        QTest::newRow("balance to the heels")
            << "whole-foot" << Dial([](sim::RepSpec& r) { r.balanceShift = -0.42; }) << "weight_on_heels";
        QTest::newRow("drops") << "whole-foot" << Dial([](sim::RepSpec& r) { r.lowerS = 0.8; }) << "lowering_fast";
        QTest::newRow("chin up") << "whole-foot" << Dial([](sim::RepSpec& r) { r.neckDeg = 40; }) << "chin_up";
        QTest::newRow("chin down") << "whole-foot" << Dial([](sim::RepSpec& r) { r.neckDeg = -55; }) << "chin_down";
        QTest::newRow("thrown back at the top")
            << "whole-foot" << Dial([](sim::RepSpec& r) { r.lockoutLeanDeg = 14, r.topS = 1.2; }) << "leans_back";
        QTest::newRow("knees past toes, where that counts")
            << "hips-back" << Dial([](sim::RepSpec& r) { r.shinBottomDeg = 46, r.balanceShift = -0.15; })
            << "knee_past_toes";
        QTest::newRow("not low enough for upright") << "upright" << Dial([](sim::RepSpec& r) {
            r.thighBottomDeg = 10;
            r.shinBottomDeg = 36;
        }) << "depth_short";
    }
    void plantedFaultsAreFoundAndNoOthers() {
        QFETCH(QString, standardId);
        QFETCH(Dial, dial);
        QFETCH(QString, expected);
        auto spec = made::spec(4);
        for (auto& r : spec.motion.reps) dial(r);
        auto set = made::measured(spec);
        QVERIFY(bool(set));
        judgeSet(set->result, standard(qPrintable(standardId)));
        QCOMPARE(list(faults(set->result)), expected);
    }

    void foldingForwardIsFoundThoughItMovesTheBalanceToo() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.extraLeanDeg = 24;
        auto set = made::measured(spec);
        judgeSet(set->result, standard("whole-foot"));
        QVERIFY(faults(set->result).count("forward_lean"));
    }

    void aBounceIsFoundThoughItIsFastToo() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.bounce = 1, r.pauseS = 0, r.lowerS = 1.1, r.liftS = 0.9;
        auto set = made::measured(spec);
        judgeSet(set->result, standard("whole-foot"));
        QVERIFY2(faults(set->result).count("bottom_bounced"), qPrintable(list(faults(set->result, true))));
    }

    void anotherStandardNeedsNoVideo() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.thighBottomDeg = 1;
        auto set = *made::measured(spec);
        set.result.reps[0].measures[0].pm90 = set.result.reps[1].measures[0].pm90 =
            set.result.reps[2].measures[0].pm90 = 1;
        judgeSet(set.result, standard("whole-foot"));
        QVERIFY(!faults(set.result).count("depth_short"));
        judgeSet(set.result, standard("upright"));
        QVERIFY(faults(set.result).count("depth_short"));
        QCOMPARE(set.result.standard, std::string("upright"));
    }
};

ZEVO_SUITE(TestFindings, "findings")
#include "test_findings.moc"
