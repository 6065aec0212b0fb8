// The line of the back from true outlines and landmarks of the virtual client: what geometry comes to without a
// network.
#include <QSet>

#include "core/back/back_line.h"
#include "present/overlay.h"
#include "present/review_presenter.h"
#include "sim/figure.h"
#include "sim/loose_shirt.h"
#include "tests/support/outlined_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

BackProfile profile(const std::function<double(double)>& f) {
    BackProfile out;
    for (int k = 0; k < kBackStations; ++k) out[static_cast<std::size_t>(k)] = f(stationOf(k));
    return out;
}

sim::ClipSpec filmed(const std::string& movement, const std::string& variation, int reps) {
    sim::ClipSpec s = made::spec(reps);
    s.motion.movement = movement, s.motion.variation = variation;
    for (auto& r : s.motion.reps) r.lowerS = 1.8, r.liftS = 1.3;
    if (movement == "bridge") s.scene.camera.heightM = 0.45, s.scene.camera.aimHeightM = 0.42;
    return s;
}

using made::outlined, made::stateOf;

bool found(const SetState& s, const std::string& fault) {
    return std::any_of(s.set.result.findings.begin(), s.set.result.findings.end(),
                       [&](const Finding& f) { return f.fault == fault && f.severity != Severity::Unsure; });
}
std::string whyNot(const SetState& s) {
    for (const Notice& n : s.set.result.notices)
        if (n.kind == NoticeKind::BackNotRead) return n.word(0);
    return {};
}

}  // namespace

class TestBack : public QObject {
    Q_OBJECT

  private slots:
    /// The sagitta of an arc of a circle is r − √(r² − c²/4) (any handbook of geometry); of a straight line none,
    /// however it is turned; of a parabola a·(m − u0)(u1 − m).
    void sagittaIsThatOfKnownCurves() {
        const double r = 0.9, from = 0.06, to = 0.94, middle = 0.5;
        const auto circle = profile([&](double u) { return 0.3 + std::sqrt(r * r - (u - middle) * (u - middle)); });
        const double chord = to - from;
        NEAR(sagitta(circle, from, middle, to), r - std::sqrt(r * r - chord * chord / 4), 0.002);
        NEAR(sagitta(profile([](double u) { return 0.2 + 0.7 * u; }), 0.06, 0.30, 0.94), 0, 1e-12);
        const auto parabola = profile([](double u) { return 0.2 - 0.4 * u * u; });
        NEAR(sagitta(parabola, 0.22, 0.58, 0.94), 0.4 * (0.58 - 0.22) * (0.94 - 0.58), 0.002);
    }

    void aStraightEdgeRestsOnBothEnds() {
        // A hollow of 0.05 between two humps of 0.2, on a slope.
        const auto hollow = profile(
            [](double u) { return 0.15 + 0.1 * u + 0.05 * std::pow(std::cos(3.14159265 * (u - 0.1) / 0.7), 2); });
        const auto edge = edgeOver(stretchOf(hollow, -0.12, 0.30), stretchOf(hollow, 0.60, 0.98));
        QVERIFY(edge);
        NEAR(edge->slope(), 0.1, 0.01);
        NEAR(hollowUnder(hollow, -0.12, 0.30, 0.60, 0.98), 0.05 / std::sqrt(1.01), 0.002);
        auto unseen = hollow;
        for (int k = 0; k < 30; ++k) unseen[static_cast<std::size_t>(k)] = std::nan("");
        QVERIFY(std::isnan(hollowUnder(unseen, -0.12, 0.30, 0.60, 0.98)));
        QVERIFY(!edgeOver({}, stretchOf(hollow, 0.60, 0.98)));
        // It lies over all of both, and touches each: whatever they look like.
        std::mt19937 random(5);
        std::uniform_real_distribution<double> any(0, 1);
        for (int round = 0; round < 200; ++round) {
            std::vector<Vec2> before, after;
            for (int k = 0; k < 12; ++k) before.emplace_back(any(random), any(random));
            for (int k = 0; k < 9; ++k) after.emplace_back(1.01 + any(random), any(random));
            const auto over = edgeOver(before, after);
            QVERIFY(over && over->first.x() <= 1 && over->second.x() > 1);
            for (const auto* group : {&before, &after})
                for (const Vec2& place : *group) QVERIFY(over->gapTo(place) > -1e-9);
        }
    }

    /// A line turned, shifted and bent in one place is a back's; one with a step in it is not.
    void whatABackCannotDoIsLeftOver() {
        auto smooth = [](double u) { return 0.2 + 0.03 * std::sin(5 * u); };
        const auto own = profile(smooth);
        const auto bent = profile([&](double u) { return smooth(u) + 0.02 + 0.05 * u - 0.05 * std::abs(u - 0.22); });
        const auto stepped = profile([&](double u) { return smooth(u) + (u > 0.4 && u < 0.6 ? 0.06 : 0); });
        QVERIFY(unexplained(bent, own) < 0.003);
        QVERIFY(unexplained(stepped, own) > 0.012);
        auto unseen = bent;
        for (int k = 5; k < kBackStations; ++k) unseen[static_cast<std::size_t>(k)] = std::nan("");
        QCOMPARE(unexplained(unseen, own), 1.0);
    }

    void aTuckIsToldWithTheDepthWhereItBegins() {
        auto spec = filmed("squat", "", 3);
        spec.motion.reps[1].tuckDeg = 14, spec.motion.reps[1].tuckFrom = 0.65;
        const SetState s = stateOf(spec);
        const double clean = made::value(s.set, 0, "low_back_tuck"), tucked = made::value(s.set, 1, "low_back_tuck");
        QVERIFY2(std::abs(clean) < 0.6, (QByteArray::number(clean) + whyNot(s).c_str()).constData());
        QVERIFY2(std::abs(made::value(s.set, 2, "low_back_tuck")) < 0.6, "a clean back");
        QVERIFY2(tucked > clean + 0.8, qPrintable(QString::number(tucked)));
        QVERIFY(s.set.result.reps[1].find("tuck_start") && !s.set.result.reps[0].find("tuck_start"));
        // Where three degrees of the bend are there.
        const sim::SpecMotion motion(spec.motion);
        double begins = 90;
        for (double t = motion.reps()[1].startS; t < motion.reps()[1].bottomS; t += 0.01) {
            const auto k = motion.at(t);
            const Vec3 pelvis = (k.lumbarLow - k.midHip).normalized(), low = (k.lumbarHigh - k.lumbarLow).normalized();
            if (std::acos(std::min(1.0, pelvis.dot(low))) * 180 / 3.14159265 < 3) continue;
            begins = sim::trueAngles(k, 1).thighAngle;
            break;
        }
        NEAR(made::value(s.set, 1, "tuck_start"), begins, 8);
    }

    /// The first that gives way on the way down ends the usable depth, and is named: tail, heels or nothing.
    void whatEndsTheUsableDepthIsNamed() {
        auto spec = filmed("squat", "", 3);
        spec.motion.reps[1].tuckDeg = 16, spec.motion.reps[1].tuckFrom = 0.6;
        spec.motion.reps[2].heelRiseCm = 5;
        const SetState s = stateOf(spec);
        const auto& reps = s.set.result.reps;
        QVERIFY(depthLimit(reps[0]) == DepthLimit::None);
        QVERIFY(depthLimit(reps[1]) == DepthLimit::Tail);
        QCOMPARE(made::value(s.set, 1, "usable_depth"), made::value(s.set, 1, "tuck_start"));
        QVERIFY(depthLimit(reps[2]) == DepthLimit::Heels);
        QVERIFY(made::value(s.set, 1, "usable_depth") > made::value(s.set, 1, "thigh_angle") + 5);
        // A tuck is not a foot: how deep the feet stay down is another matter.
        NEAR(made::value(s.set, 1, "depth_past_control"), 0, 1);
        present::ReviewPresenter shown(s, made::catalogue());
        QStringList why;
        for (std::size_t i = 0; i < s.set.result.findings.size(); ++i) {
            shown.selectFinding(static_cast<int>(i));
            why.append(shown.saying().why);
        }
        QVERIFY2(why.join(' ').contains("from there on the heels leave the floor"), qPrintable(why.join('\n')));
    }

    /// Squats and lunges: the upper back rounds and the chest drops with it.
    void aChestThatDropsIsTold() {
        for (const char* movement : {"squat", "split-squat", "reverse-lunge"}) {
            auto spec = filmed(movement, "goblet", 3);
            spec.motion.reps[1].roundDeg = 30;
            const SetState s = stateOf(spec);
            QVERIFY2(whyNot(s).empty(), (std::string(movement) + " " + whyNot(s)).c_str());
            NEAR(made::value(s.set, 0, "chest_drop"), 0, 0.6);
            NEAR(made::value(s.set, 2, "chest_drop"), 0, 0.6);
            QVERIFY2(made::value(s.set, 1, "chest_drop") > 1.4,
                     qPrintable(QString::number(made::value(s.set, 1, "chest_drop"))));
            QVERIFY(found(s, "chest_drops"));
            // It raises the bulge of the low back as well: that is no tuck.
            QVERIFY(!found(s, "back_tucks") && !s.set.result.reps[1].find("tuck_start"));
        }
    }

    /// Standing against standing: the low back that is hollower after a hinge than before it.
    void aBackArchedAtTheTopIsTold() {
        auto spec = filmed("hinge", "romanian", 3);
        spec.motion.reps[1].lockoutArchDeg = 22;
        for (auto& r : spec.motion.reps) r.topS = 1.4;
        const SetState s = stateOf(spec);
        NEAR(made::value(s.set, 0, "top_hollow"), 0, 0.5);
        QVERIFY2(made::value(s.set, 1, "top_hollow") > made::value(s.set, 0, "top_hollow") + 0.8,
                 qPrintable(QString::number(made::value(s.set, 1, "top_hollow"))));
    }

    /// Where on the way the line breaks: the stick is lost later by a back that holds longer.
    void theLeanAtWhichTheStickIsLostIsTold() {
        auto spec = filmed("hinge", "romanian", 3);
        spec.motion.reps[1].neckDeg = -30;
        spec.motion.reps[2].neckDeg = -60;
        const SetState s = stateOf(spec);
        QVERIFY(!s.set.result.reps[0].find("stick_lost_lean"));
        QVERIFY(s.set.result.reps[1].find("stick_lost_lean") && s.set.result.reps[2].find("stick_lost_lean"));
        const double later = made::value(s.set, 1, "stick_lost_lean"), early = made::value(s.set, 2, "stick_lost_lean");
        QVERIFY2(later > early + 5 && later < made::value(s.set, 1, "trunk_lean") + 1,
                 qPrintable(QString("%1 %2").arg(later).arg(early)));
    }

    void aHingeTellsLowFromHigh() {
        auto spec = filmed("hinge", "romanian", 4);
        spec.motion.reps[1].tuckDeg = 16;
        spec.motion.reps[2].roundDeg = 24;
        spec.motion.reps[3].tuckDeg = -14;
        const SetState s = stateOf(spec);
        auto low = [&](int rep) { return made::value(s.set, rep, "low_back_round"); };
        auto high = [&](int rep) { return made::value(s.set, rep, "upper_back_round"); };
        QVERIFY2(std::abs(low(0)) < 0.6 && std::abs(high(0)) < 0.6, "a clean back");
        QVERIFY2(low(1) > 1 && low(1) > 2 * high(1), qPrintable(QString("%1 %2").arg(low(1)).arg(high(1))));
        QVERIFY2(high(2) > 1 && high(2) > 2 * low(2), qPrintable(QString("%1 %2").arg(low(2)).arg(high(2))));
        QVERIFY2(low(3) < -0.6, qPrintable(QString::number(low(3))));
        QVERIFY(found(s, "back_rounds_up"));
    }

    /// Nothing of the back is said in a shirt that may hang, and what would let it be said is.
    void aLooseShirtIsRefusedWithWhatToDo() {
        auto spec = filmed("squat", "", 3);
        spec.motion.reps[1].tuckDeg = 18;
        const Observation o = outlined(spec);
        for (const auto& [shirt, why] : {std::pair{Shirt::NotSaid, "ask"}, {Shirt::Loose, "loose"}}) {
            const SetState s = stateOf(spec, shirt, o);
            QVERIFY(!s.set.result.reps[1].find("low_back_tuck") && !found(s, "back_tucks"));
            QCOMPARE(whyNot(s), std::string(why));
        }
        QCOMPARE(whyNot(stateOf(spec, Shirt::Tight, o)), std::string());
        // Without outlines nothing is read either, and not looked at is not clean.
        Observation none = o;
        none.contours.clear();
        QCOMPARE(whyNot(stateOf(spec, Shirt::NotSaid, none)), std::string("ask"));
        QCOMPARE(whyNot(stateOf(spec, Shirt::Tight, none)), std::string("unread"));
    }

    void anArmBeforeTheBackIsRefused() {
        const SetState s = stateOf(filmed("hinge", "", 3));  // hands on the hips
        QVERIFY(!s.set.result.reps[0].find("low_back_round"));
        QCOMPARE(whyNot(s), std::string("arm"));
        // Not looked at is not clean: said before any praise.
        const present::ReviewPresenter shown(s, made::catalogue());
        QVERIFY(s.set.result.findings.empty());
        QVERIFY2(shown.saying().why.startsWith("The back was not judged."), qPrintable(shown.saying().why));
    }

    /// Edges as the picture showed them decide, not only where they lie.
    void aFaintEdgeIsRefused() {
        const auto spec = filmed("squat", "", 3);
        Observation o = outlined(spec);
        for (const auto& [edge, why] : {std::pair{Outline::Edge{60, 20}, ""},
                                        {Outline::Edge{4, 20}, "faint"},
                                        {Outline::Edge{60, 200}, "faint"}}) {
            for (Outline& line : o.contours) line.edges.assign(line.points.size(), edge);
            const SetState s = stateOf(spec, Shirt::Tight, o);
            QCOMPARE(whyNot(s), std::string(why));
            QCOMPARE(s.set.result.reps[0].find("low_back_tuck") == nullptr, *why != 0);
        }
    }

    void aSmallOrObliquePictureIsRefused() {
        auto small = filmed("squat", "", 3);
        small.scene.camera.width = 640, small.scene.camera.height = 360;
        QCOMPARE(whyNot(stateOf(small)), std::string("small"));
        auto oblique = filmed("squat", "", 3);
        oblique.scene.camera.azimuthDeg = 74;
        QCOMPARE(whyNot(stateOf(oblique)), std::string("off-square"));
    }

    /// Cloth hides where a back bends, not that it bends more than in the first repetition.
    void inALooseShirtOnlyTheDriftIsSaid() {
        auto spec = filmed("hinge", "romanian", 3);
        spec.motion.body.looseShirtCm = 4;
        spec.motion.reps[2].roundDeg = 26;
        const SetState s = stateOf(spec, Shirt::Loose);
        QVERIFY(!s.set.result.reps[2].find("upper_back_round"));
        QVERIFY(!s.set.result.reps[0].find("upper_back_drift"));
        QVERIFY(std::abs(made::value(s.set, 1, "upper_back_drift")) < 0.6);
        QVERIFY2(made::value(s.set, 2, "upper_back_drift") > 1,
                 qPrintable(QString::number(made::value(s.set, 2, "upper_back_drift"))));
        // Drawn where it hangs: the back of a loose shirt lies further out.
        sim::Mesh tight, loose;
        const auto still = sim::SpecMotion(spec.motion).at(0.2);
        sim::buildFigure(still, spec.motion.body, tight);
        loose = tight;
        sim::hangShirt(spec.motion.body, still, loose);
        double most = 0;
        for (std::size_t i = 0; i < tight.vertices.size(); ++i)
            most = std::max<double>(most, (loose.vertices[i].position - tight.vertices[i].position).norm());
        QVERIFY2(most > 0.015 && most < 0.06, qPrintable(QString::number(most)));
    }

    /// A rounded upper back of one's own: the head need not touch the stick.
    void theHeadIsWaivedByChoice() {
        auto spec = filmed("hinge", "romanian", 3);
        for (auto& r : spec.motion.reps) r.neckDeg = -34;
        const Observation o = outlined(spec);
        SetState s = stateOf(spec, Shirt::Tight, o);
        QVERIFY2(found(s, "stick_lost_head"), qPrintable(QString::number(made::value(s.set, 1, "stick_head"))));
        SetFacts facts = made::factsOf(spec);
        facts.shirt = Shirt::Tight, facts.choices["stick_head"] = "waived";
        auto waived = recompute({std::make_shared<const Observation>(o)}, {FactsSet{facts}}, *made::catalogue());
        QVERIFY(waived && !found(*waived, "stick_lost_head"));
    }

    void everyReasonHasItsWords() {
        QSet<QString> all;
        for (int d = 1; d <= static_cast<int>(BackDoubt::Unread); ++d) {
            const QString words = present::sentence(Notice{
                NoticeKind::BackNotRead, {std::string(backDoubtName(static_cast<BackDoubt>(d))), std::string("2")}});
            QVERIFY2(words.size() > 30 && !words.contains('%'), qPrintable(words));
            all.insert(words);
        }
        QCOMPARE(all.size(), static_cast<qsizetype>(BackDoubt::Unread));
    }

    void aBarOnTheBackIsRefused() {
        const SetState s = stateOf(filmed("squat", "back-bar", 2));
        QVERIFY(!s.set.result.reps[0].find("low_back_tuck"));
        QCOMPARE(whyNot(s), std::string("covered"));
    }

    /// In one piece or segment by segment, whatever the shirt does.
    void aBridgeShowsItsOrder() {
        const SetState plain = stateOf(filmed("bridge", "", 2), Shirt::Loose),
                       rolled = stateOf(filmed("bridge", "articulated", 2), Shirt::Loose);
        for (int rep : {0, 1}) {
            for (const char* way : {"bridge_order", "bridge_order_down"}) {
                constexpr double kInOnePiece = 0.05;  // what parts "in one piece" from piece by piece
                NEAR(made::value(plain.set, rep, way), 0, kInOnePiece);
                QVERIFY2(made::value(rolled.set, rep, way) > kInOnePiece,
                         qPrintable(way + QString(" %1").arg(made::value(rolled.set, rep, way))));
            }
        }
    }

    void thePictureShowsTheLineThatIsTalkedAbout() {
        const auto spec = filmed("squat", "", 3);
        const SetState s = stateOf(spec);
        const MeasuredView& view = s.set.first;
        const MeasureId tuck = MeasureId::named("low_back_tuck");
        const auto without = present::overlayFor(tuck, *view.track, view.reps[0].bottom, nullptr);
        const auto with =
            present::overlayFor(tuck, *view.track, view.reps[0].bottom, nullptr, std::nullopt, view.back.get());
        QCOMPARE(without.lines.size(), std::size_t{1});
        QVERIFY(with.lines.size() > 20 && with.ghosts.size() == 1);
        // It lies behind the line from hip to shoulder, on the side they do not face.
        const QPointF hip = without.lines[0].p1(), trunk = without.lines[0].p2() - hip;
        for (const QLineF& l : with.lines) {
            const QPointF v = l.p1() - hip;
            const double across = trunk.x() * v.y() - trunk.y() * v.x();
            QVERIFY(view.track->facesRight ? across < 0 : across > 0);
        }
    }
};

ZEVO_SUITE(TestBack, "back")
#include "test_back.moc"
