// Two sets lined up by phase: what stands in the table and in the sentences, the other figure over the picture; the
// words of the log and of verdicts.
#include "present/compare_presenter.h"
#include "present/film_words.h"
#include "present/review_presenter.h"
#include "tests/support/outlined_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::present;

namespace {

sim::ClipSpec heels(double cm, int reps = 4) {
    auto s = made::spec(reps);
    for (std::size_t i = 0; i < s.motion.reps.size(); ++i) {
        s.motion.reps[i].heelRiseCm = cm > 0 ? cm + 0.2 * static_cast<double>(i) : 0;
        s.motion.reps[i].thighBottomDeg += 0.7 * static_cast<double>(i % 3);
    }
    return s;
}

SetState stateOf(const sim::ClipSpec& s, double jitter = 0.5, unsigned seed = 1) {
    auto state = recompute({made::observation(s, made::jittered(sim::truePoses(s), jitter, seed))},
                           {FactsSet{made::factsOf(s)}, StandardChosen{"whole-foot"}}, *made::catalogue());
    if (!state) qFatal("%s", made::words(state.error()));
    return std::move(*state);
}

const ComparePresenter::Row& row(const std::vector<ComparePresenter::Row>& rows, const char* id) {
    for (const auto& r : rows)
        if (r.measure == MeasureId::named(id)) return r;
    qFatal("no row %s", id);
}

}  // namespace

class TestCompare : public QObject {
    Q_OBJECT

  private slots:
    void moreThanNoiseComesFirst() {
        ComparePresenter p({stateOf(heels(6)), "before", {}, {}}, {stateOf(heels(0), 0.5, 2), "after", {}, {}},
                           made::catalogue());
        const auto rows = p.rows();
        const auto& heel = row(rows, "heel_rise");
        QVERIFY2(heel.significant && heel.better && heel.change.contains("less, better"), qPrintable(heel.change));
        QVERIFY(heel.before.contains("±") && heel.after.contains("±"));
        QVERIFY(!row(rows, "knee_flexion").significant);
        QCOMPARE(row(rows, "knee_flexion").change, QString("within noise"));
        bool within = false;
        for (const auto& r : rows) {
            QVERIFY(!(within && r.significant));
            within |= !r.significant;
            QVERIFY(r.spoken.contains(r.title) && r.spoken.contains(r.change));
        }
        QVERIFY(p.sentences().join(". ").contains("Heel off the floor"));
        QVERIFY(p.sentences().last().startsWith("Within noise"));
        QVERIFY(p.warnings().isEmpty());
        p.swap();
        QVERIFY(row(p.rows(), "heel_rise").change.contains("more, worse"));
    }

    void theSameSetTwiceDiffersInNothing() {
        const SetState s = stateOf(heels(6));
        const ComparePresenter p({s, "a", {}, {}}, {s, "b", {}, {}}, made::catalogue());
        for (const auto& r : p.rows()) QVERIFY2(!r.significant, qPrintable(r.spoken));
        QCOMPARE(p.sentences().front(), QString("Nothing differs by more than noise"));
    }

    void bothPicturesShowTheSamePhase() {
        auto slow = heels(0);
        for (auto& r : slow.motion.reps) r.lowerS *= 1.6;
        ComparePresenter p({stateOf(heels(0)), "a", 1, {}}, {stateOf(slow), "b", 1, {}}, made::catalogue());
        const auto &a = p.shownRep(false), &b = p.shownRep(true);
        QVERIFY(b.arriveS - b.startS > 1.3 * (a.arriveS - a.startS));
        for (double phase : {0.0, 0.5, 1.5, 2.6}) {
            p.setPhase(phase);
            NEAR(phaseOf(a, p.timeS(false)), phase, 1e-6);
            NEAR(phaseOf(b, p.timeS(true)), phase, 1e-6);
        }
        p.setPhase(9);
        QCOMPARE(p.phase(), 3.0);
        const auto curve = p.curve();
        QVERIFY(curve.before.size() > 80 && curve.after.size() == curve.before.size());
        QCOMPARE(curve.phases.size(), 3);
    }

    /// The other figure stands with its hip on this hip, as large as this client, whichever way it was filmed.
    void theOtherFigureLiesOverThisOne() {
        auto left = heels(0);
        left.scene.camera.azimuthDeg = -90;
        left.scene.camera.distanceM *= 1.3;
        const SetState here = stateOf(heels(0), 0), there = stateOf(left, 0);
        const Track &t = here.set.track(), &o = there.set.track();
        const double at = here.set.result.reps[1].bottomS, other = there.set.result.reps[1].bottomS;
        const Overlay own = skeletonOverlay(t, t.sampleAt(at)),
                      over = figureOver(t, t.sampleAt(at), o, o.sampleAt(other));
        QCOMPARE(own.lines.size(), over.lines.size());
        double worst = 0;
        for (std::size_t i = 0; i < own.lines.size(); ++i)
            worst = std::max({worst, QLineF(own.lines[i].p1(), over.lines[i].p1()).length(),
                              QLineF(own.lines[i].p2(), over.lines[i].p2()).length()});
        // The same client twice: the figures fall together, but for the perspective of the nearer arm.
        QVERIFY2(worst < 0.08 * t.bodyPx, qPrintable(QString::number(worst / t.bodyPx)));
    }

    /// Where the body's outline was read beside the repetitions, it lies over the other picture with the figure.
    void theOtherOutlineLiesOverThisPicture() {
        const auto spec = heels(0);
        const SetState bare = stateOf(spec), outlined = made::stateOf(spec);
        const ComparePresenter without({bare, "a", {}, {}}, {bare, "b", {}, {}}, made::catalogue());
        const ComparePresenter with({outlined, "a", {}, {}}, {bare, "b", {}, {}}, made::catalogue());
        const auto plain = without.otherFigure(true).ghosts, both = with.otherFigure(true).ghosts;
        QVERIFY(both.size() > plain.size() + 100);
        QCOMPARE(with.otherFigure(false).ghosts.size(), plain.size());
        // And the tiles of the repetitions, where nothing was read at the turning points alone.
        const ReviewPresenter drawn(outlined, made::catalogue()), sketched(bare, made::catalogue());
        QVERIFY(!drawn.tiles()[0].outline.isEmpty() && sketched.tiles()[0].outline.isEmpty());
        // The same client twice: their outline lies around their own figure.
        const Track& t = bare.set.track();
        const QRectF body = bodyOver(t, t.sampleAt(with.timeS(true)), t.sampleAt(with.timeS(true)));
        QRectF around;
        for (const QLineF& l : both) around |= QRectF(l.p1(), l.p2()).normalized();
        const double air = 0.1 * t.bodyPx;
        QVERIFY(around.height() > 0.9 * body.height() && body.adjusted(-air, -air, air, air).contains(around));
    }

    void setsThatWereNotSeenAlikeAreSaidToBe() {
        auto far = heels(0);
        far.scene.camera.distanceM *= 1.5;
        ComparePresenter p({stateOf(far), "a", {}, {}}, {stateOf(heels(6)), "b", {}, {}}, made::catalogue());
        QVERIFY2(p.warnings().join(" ").contains("larger"), qPrintable(p.warnings().join(" ")));
        const auto wide = row(p.rows(), "heel_rise").after;
        ComparePresenter same({stateOf(heels(0)), "a", {}, {}}, {stateOf(heels(6)), "b", {}, {}}, made::catalogue());
        QVERIFY(same.warnings().isEmpty());
        QVERIFY(wide != row(same.rows(), "heel_rise").after);
        QVERIFY(!comparabilityText(ComparabilityIssue::View).isEmpty() &&
                !comparabilityText(ComparabilityIssue::Unknown).isEmpty());
    }

    void legsOfOneSetAreCompared() {
        auto s = made::spec(6);
        s.motion.movement = "reverse-lunge";
        const auto found = stateOf(s);
        // Legs the coach named, one after the other.
        Edits named{FactsSet{made::factsOf(s)}};
        for (std::size_t i = 0; i < 6; ++i)
            named.push_back(LegNamed{false, {found.set.result.reps[i].bottomS, i % 2 ? Side::Left : Side::Right}});
        const SetState state = std::move(*recompute({found.first}, named, *made::catalogue()));
        ComparePresenter p({state, "set", {}, Side::Left}, {state, "set", {}, Side::Right}, made::catalogue());
        QVERIFY(p.repCount(false) > 0 && p.repCount(true) > 0);
        QCOMPARE(p.repCount(false) + p.repCount(true), 6);
        QVERIFY(p.sideText(false).contains("left leg"));
    }

    void measuresAreSteppedThrough() {
        ComparePresenter p({stateOf(heels(6)), "a", {}, {}}, {stateOf(heels(0)), "b", {}, {}}, made::catalogue());
        const MeasureId first = p.measure();
        QVERIFY(bool(first));
        p.nextMeasure();
        QVERIFY(p.measure() != first);
        for (std::size_t i = 1; i < p.rows().size(); ++i) p.nextMeasure();
        QCOMPARE(p.measure(), first);
    }

    void loadsAndAidsInWords() {
        QCOMPARE(massText(24, Lengths::Metric), QString("24 kg"));
        QCOMPARE(massText(24, Lengths::Us), QString("53 lb"));
        NEAR(toKg(fromKg(24, Lengths::Us), Lengths::Us), 24, 1e-9);
        QCOMPARE(loadText({"pair", 16, 0}, Lengths::Metric), QString("2 × 16 kg = 32 kg"));
        QCOMPARE(loadText({"bar", 40, 20}, Lengths::Metric), QString("bar 20 kg + 40 kg"));
        QVERIFY(loadText({}, Lengths::Metric).isEmpty());
        SetFacts f;
        f.wedgeDeg = 10, f.log.boxCm = 40, f.log.belt = true;
        QCOMPARE(aidsText(f, Lengths::Metric), QString("wedge 10°, box 40.0 cm, lifting belt"));
        QCOMPARE(changeText({SetUpChange::What::Wedge, "0", "10"}, *made::catalogue(), "squat", Lengths::Metric),
                 QString("heel wedge: 10° (before: none)"));
        QCOMPARE(changeText({SetUpChange::What::Stance, "", "wide"}, *made::catalogue(), "squat", Lengths::Metric),
                 QString("stance: wide (before: as the school says)"));
        for (int w = 0; w <= static_cast<int>(SetUpChange::What::Load); ++w)
            QVERIFY(!changeText({static_cast<SetUpChange::What>(w), "0", "1"}, *made::catalogue(), "squat", Lengths::Us)
                         .contains('%'));
        for (const auto& [id, title] : shoesNamed()) QVERIFY(!title.isEmpty());
    }

    void verdictsSayHowTheyCameAbout() {
        CueAnswer a;
        a.cue = {"heels_rise", "Press the floor away."};
        a.effect = CueEffect::Worked, a.gone = true, a.p = 0.008;
        a.measure = MeasureId::named("heel_rise");
        a.before = 5.5, a.after = 0.6, a.beforePm = 0.4, a.afterPm = 0.2;
        a.newFaults = {"depth_short"};
        CueWords w = cueWords(a, made::catalogue()->advice, Lengths::Metric);
        QCOMPARE(w.answer, QString("Worked, and it is gone. Heel off the floor: 5.5 ±0.4 cm → 0.6 ±0.2 cm"));
        QVERIFY(w.how.contains("0.8 %"));
        QVERIFY(w.brought.startsWith("But now:"));
        QVERIFY(w.rule.contains("Satterthwaite") && w.rule.contains("Holm"));
        a.effect = CueEffect::NoDifference, a.newFaults.clear();
        QVERIFY(
            cueWords(a, made::catalogue()->advice, Lengths::Metric).answer.startsWith("No difference beyond noise"));
        a.effect = CueEffect::Worse;
        QVERIFY(cueWords(a, made::catalogue()->advice, Lengths::Metric).answer.startsWith("Worse"));
        // Filmed otherwise: both values, and no word of what it did.
        a.effect = CueEffect::Worked, a.newFaults = {"depth_short"};
        w = cueWords(a, made::catalogue()->advice, Lengths::Metric, false);
        QVERIFY(w.answer.contains("left open") && !w.answer.contains("orked") && w.brought.isEmpty());
        QCOMPARE(w.how, QString("Heel off the floor: 5.5 ±0.4 cm → 0.6 ±0.2 cm"));
        // What cannot be said while the careful reading is to come is not said yet; what can be is.
        QVERIFY(cueWordsSoFar(a, made::catalogue()->advice, Lengths::Metric, true).answer.startsWith("Worked"));
        a.effect = CueEffect::CannotSay;
        QVERIFY(cueWordsSoFar(a, made::catalogue()->advice, Lengths::Metric, true).answer.endsWith("not known yet"));
        QVERIFY(cueWords(a, made::catalogue()->advice, Lengths::Metric).answer.endsWith("cannot be said"));
        MeasureDifference d{a.measure, 5.5, 0.6, 0.4, 0.2, true, 0.01, true};
        w = trialWords({{SetUpChange::What::Wedge, "0", "10"}}, {d}, *made::catalogue(), "squat", Lengths::Metric);
        QVERIFY(w.answer.contains("4.9 cm less") && w.said.contains("heel wedge"));
        QVERIFY(trialWords({{SetUpChange::What::Wedge, "0", "10"}}, {d}, *made::catalogue(), "squat", Lengths::Metric,
                           false)
                    .answer.contains("left open"));
        d.significant = false;
        QVERIFY(trialWords({{SetUpChange::What::Wedge, "0", "10"}}, {d}, *made::catalogue(), "squat", Lengths::Metric)
                    .answer.startsWith("No difference"));
    }

    void whatWorkedIsOfferedFirst() {
        ReviewPresenter p(stateOf(heels(6)), made::catalogue());
        while (p.saying().fault != "heels_rise" && p.finding() + 1 < p.findingCount()) p.selectFinding(p.finding() + 1);
        const auto plain = p.saying();
        QVERIFY(plain.fault == "heels_rise" && plain.say.size() >= 2 && plain.scores.isEmpty());
        const std::string first = plain.say[0].toStdString(), last = plain.say.last().toStdString();
        p.setScores({{"heels_rise", last, 2, 0, 0, 0},
                     {"heels_rise", first, 0, 2, 0, 0},
                     {"heels_rise", "Grow roots.", 1, 0, 0, 0}});
        const auto s = p.saying();
        QCOMPARE(s.say[0].toStdString(), last);
        QCOMPARE(s.scores[0], QString("worked 2 of 2"));
        QCOMPARE(s.say[1], QString("Grow roots."));  // the coach's own words, which worked
        QCOMPARE(s.sayKinds[1], QString("own"));
        QCOMPARE(s.say.last().toStdString(), first);
        QCOMPARE(s.scores.last(), QString("did nothing 2 ×"));
        QCOMPARE(s.say.size(), plain.say.size() + 1);
    }

    /// While it hurts, words that worked once are not brought back: nobody knows what they ask for.
    void whatWorkedIsNotBroughtBackWhileItHurts() {
        SetFacts facts = made::factsOf(heels(6));
        facts.pain.before = 3, facts.pain.spots = {{"knee-front"}};
        ReviewPresenter p(made::judged(heels(6), facts), made::catalogue());
        while (p.saying().fault != "heels_rise" && p.finding() + 1 < p.findingCount()) p.selectFinding(p.finding() + 1);
        const auto plain = p.saying();
        QVERIFY(plain.fault == "heels_rise" && !plain.say.isEmpty());
        p.setScores({{"heels_rise", "Go deeper with the heels down.", 3, 0, 0, 0}});
        QCOMPARE(p.saying().say, plain.say);
    }

    /// An outline that lost the feet is not shown as the body: its points are.
    void anOutlineWithoutFeetIsDrawnByItsPoints() {
        const auto spec = made::spec(1);
        Observation o = *made::observation(spec);
        const auto state = made::state(spec);
        const double at = state->set.result.reps[0].bottomS;
        const Track& t = state->set.track();
        std::vector<std::pair<float, float>> box;
        double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
        for (std::size_t id = 0; id < kLandmarkCount; ++id) {
            const Vec2 p = t.toPicture(t.points[id][t.sampleAt(at)]);
            left = std::min(left, p.x()), right = std::max(right, p.x()), top = std::min(top, p.y()),
            bottom = std::max(bottom, p.y());
        }
        auto outline = [&](double to) {
            return Outline{at,
                           {{float(left - 5), float(top - 5)},
                            {float(right + 5), float(top - 5)},
                            {float(right + 5), float(to)},
                            {float(left - 5), float(to)}}};
        };
        for (bool whole : {true, false}) {
            o.outlines = {outline(whole ? bottom + 5 : top + 0.5 * (bottom - top))};
            auto again = recompute({std::make_shared<const Observation>(o)}, {FactsSet{made::factsOf(spec)}},
                                   *made::catalogue());
            const ReviewPresenter p(std::move(*again), made::catalogue());
            QCOMPARE(p.tiles()[0].outline.isEmpty(), !whole);
            QCOMPARE(p.tiles()[0].limbs.empty(), whole);
        }
    }
};

ZEVO_SUITE(TestCompare, "compare")
#include "test_compare.moc"
