// All four families of the virtual client's movements: bones keep their lengths, feet stay where they stand, dials do
// what their names say, and the clip's truth holds it all.
#include <nlohmann/json.hpp>
#include <set>

#include "core/base/angles.h"
#include "sim/poser.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::sim;

namespace {

MotionSpec motionOf(const QString& movement, const QString& variation = {}, int reps = 1) {
    MotionSpec m;
    m.movement = movement.toStdString();
    m.variation = variation.toStdString();
    m.reps.resize(static_cast<std::size_t>(reps));
    return m;
}

Skeleton atTurn(const MotionSpec& spec) {
    const SpecMotion motion(spec);
    return motion.at(motion.reps()[0].bottomS);
}

Skeleton turnWith(const QString& movement, double RepSpec::*dial, double value) {
    MotionSpec m = motionOf(movement);
    m.reps[0].*dial = value;
    return atTurn(m);
}

double degrees(const Vec3& v) {
    return std::atan2(v.x(), v.y()) / kRadiansPerDegree;
}

}  // namespace

class TestMotion : public QObject {
    Q_OBJECT

    static void everyMovement() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<QString>("variation");
        QCOMPARE(movements().size(), std::size_t{9});
        for (const auto& [movement, variations] : movements())
            for (const auto& v : variations)
                QTest::newRow((movement + " " + v).c_str())
                    << QString::fromStdString(movement) << QString::fromStdString(v);
    }

  private slots:
    /// The pelvis begins to tip where the dial says, and not before.
    void aTuckBeginsWhereItsDialSays() {
        MotionSpec spec = motionOf("squat");
        spec.reps[0].tuckDeg = 20;
        auto bendAt = [&](double from, double share) {
            spec.reps[0].tuckFrom = from;
            const SpecMotion motion(spec);
            const auto& rep = motion.reps()[0];
            for (double t = rep.startS; t < rep.bottomS; t += 0.01) {
                const Skeleton s = motion.at(t);
                if (s.depth < share) continue;
                return degrees(s.lumbarHigh - s.lumbarLow) - degrees(s.lumbarLow - s.midHip);
            }
            return std::nan("");
        };
        NEAR(bendAt(0.35, 0.30), 0, 0.1);
        QVERIFY(bendAt(0.35, 0.65) > 5);
        NEAR(bendAt(0.70, 0.65), 0, 0.1);
        NEAR(bendAt(0.70, 0.999), 1.2 * 20, 0.5);
    }

    void bonesKeepTheirLengths_data() { everyMovement(); }
    void bonesKeepTheirLengths() {
        QFETCH(QString, movement);
        QFETCH(QString, variation);
        MotionSpec spec = motionOf(movement, variation, 2);
        spec.reps[1].frontKneeDeg = 98;
        const Segments seg(spec.body);
        const SpecMotion motion(spec);
        for (double t = 0; t < motion.durationS(); t += 0.06) {
            const Skeleton s = motion.at(t);
            for (int i = 0; i < 2; ++i) {
                NEAR((s.hip[i] - s.knee[i]).norm(), seg.thigh, 2e-3);
                NEAR((s.knee[i] - s.ankle[i]).norm(), seg.shank, 2e-3);
                NEAR((s.shoulder[i] - s.elbow[i]).norm(), seg.upperArm, 1e-6);
                NEAR((s.elbow[i] - s.wrist[i]).norm(), seg.forearm, 1e-6);
                QVERIFY(s.ball[i].y() > 0.5 * seg.footPointHeight && s.heel[i].y() > 0.5 * seg.footPointHeight);
                QVERIFY(s.knee[i].y() > 0.03);  // nothing goes through the floor
            }
            // A spine that is rolled up is a little shorter from end to end.
            NEAR((s.midShoulder - s.midHip).norm(), seg.trunk, variation == "articulated" ? 11e-3 : 2e-3);
            QVERIFY(std::isfinite(s.massCentre.sum()));
        }
    }

    void itMovesSmoothly_data() { everyMovement(); }
    void itMovesSmoothly() {
        QFETCH(QString, movement);
        QFETCH(QString, variation);
        const SpecMotion motion(motionOf(movement, variation, 2));
        constexpr double kStep = 1 / 120.0;
        // Fastest legs: 3.3 m/s, a step back. Fastest hands: 4.4 m/s with two kettlebells at the chest, more than
        // anyone does; the arms are placed frame by frame.
        constexpr double kLegs = 3.6, kHands = 4.6;
        Skeleton last = motion.at(0);
        for (double t = kStep; t < motion.durationS(); t += kStep) {
            const Skeleton s = motion.at(t);
            for (int i = 0; i < 2; ++i)
                for (auto joint : {&Skeleton::hip, &Skeleton::knee, &Skeleton::ankle, &Skeleton::wrist}) {
                    const double speed = ((s.*joint)[i] - (last.*joint)[i]).norm() / kStep;
                    QVERIFY2(speed < (joint == &Skeleton::wrist ? kHands : kLegs),
                             qPrintable(QString("%1 m/s at %2 s").arg(speed).arg(t)));
                }
            last = s;
        }
    }

    void standingMovementsBalanceOverTheFoot_data() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<QString>("variation");
        for (const auto& [m, v] : QList<QPair<QString, QString>>{
                 {"squat", ""}, {"squat", "wide"}, {"squat", "goblet"}, {"hinge", ""}, {"hinge", "romanian"}})
            QTest::newRow(qPrintable(m + " " + v)) << m << v;
    }
    void standingMovementsBalanceOverTheFoot() {
        QFETCH(QString, movement);
        QFETCH(QString, variation);
        MotionSpec spec = motionOf(movement, variation);
        spec.loadShare = variation.isEmpty() ? 0 : 0.3;
        const Skeleton s = atTurn(spec);
        NEAR((s.massCentre.x() - s.heel[0].x()) / (s.toe[0].x() - s.heel[0].x()), 0.5, 0.05);
    }

    void theTurningPointIsAsAsked() {
        MotionSpec lunge = motionOf("reverse-lunge");
        lunge.reps[0].frontKneeDeg = 84;
        lunge.reps[0].frontShinDeg = 12;
        lunge.reps[0].lungeLeanDeg = 15;
        const TrueAngles a = trueAngles(atTurn(lunge), 1);
        NEAR(a.kneeFlexion, 84, 2);
        NEAR(a.shinAngle, 12, 2);
        NEAR(a.trunkLean, 15, 0.1);
        MotionSpec hinge = motionOf("hinge");
        hinge.reps[0].hingeLeanDeg = 55;
        hinge.reps[0].kneeBendDeg = 25;
        const TrueAngles h = trueAngles(atTurn(hinge), 0);
        NEAR(h.trunkLean, 55, 0.1);
        NEAR(h.kneeFlexion, 25, 2);
        for (double top : {160.0, 178.0, 190.0}) {
            MotionSpec bridge = motionOf("bridge");
            bridge.reps[0].topAngleDeg = top;
            NEAR(180 - trueAngles(atTurn(bridge), 1).hipFlexion, top, 1);
        }
        // The rear foot of a raised lunge is on the bench, the rear knee under the hip and off the floor.
        const Skeleton raised = atTurn(motionOf("rear-foot-raised"));
        QVERIFY(raised.ball[0].y() > 0.3 && raised.ball[1].y() < 0.03);
        QVERIFY(raised.knee[0].y() < raised.ankle[0].y());
    }

    void variationsLookTheirPart() {
        // Hands: at the shoulders, before them, over the head, at the pole.
        auto hands = [](const char* variation) {
            const Skeleton s = atTurn(motionOf("squat", variation));
            return Vec3((s.wrist[0] + s.wrist[1]) / 2 - s.midShoulder);
        };
        QVERIFY(hands("two-kettlebell-front").norm() < 0.25 && hands("front-bar").norm() < 0.25);
        QVERIFY(hands("overhead").y() > 0.45);
        QVERIFY(hands("supported").x() > 0.25);
        // One foot behind on its ball, the other flat and under the load.
        MotionSpec split = motionOf("hinge", "split-stance");
        split.workingLeg = 1;
        const Skeleton s = atTurn(split);
        QVERIFY(s.ankle[1].x() - s.ankle[0].x() > 0.15 && s.heel[0].y() - s.heel[1].y() > 0.05);
        NEAR((s.massCentre.x() - s.heel[1].x()) / (s.toe[1].x() - s.heel[1].x()), 0.5, 0.06);
        // One foot of the bridge further away.
        MotionSpec biased = motionOf("bridge", "one-leg-biased");
        biased.workingLeg = 0;
        const Skeleton b = atTurn(biased);
        QVERIFY(b.ankle[1].x() - b.ankle[0].x() > 0.1);
        // Rolled up on the way, straight at the top; a plain bridge is straight all the way.
        auto bend = [](const char* variation, double share) {
            const MotionSpec spec = motionOf("bridge", variation);
            const SpecMotion m(spec);
            const double t = spec.leadInS + share * spec.reps[0].liftS;
            const Skeleton k = m.at(t);
            const Vec3 low = (k.lumbarLow - k.midHip).normalized(), high = (k.midShoulder - k.lumbarHigh).normalized();
            return std::acos(std::min(1.0, low.dot(high))) / kRadiansPerDegree;
        };
        QVERIFY2(bend("articulated", 0.5) > 12, qPrintable(QString::number(bend("articulated", 0.5))));
        QVERIFY(bend("articulated", 1.1) < 3 && bend("", 0.5) < 3);
    }

    void dialsDoWhatTheySay() {
        NEAR(trueFront(turnWith("squat", &RepSpec::hipDropDeg, 6)).hipTiltDeg, 6, 0.2);
        NEAR(trueFront(turnWith("bridge", &RepSpec::hipDropDeg, -5)).hipTiltDeg, -5, 0.2);
        const double clean = turnWith("squat", &RepSpec::neckDeg, 0).knee[0].z();
        NEAR(turnWith("squat", &RepSpec::kneeInLeftCm, 4).knee[0].z() - clean, 0.04, 0.006);
        NEAR(turnWith("squat", &RepSpec::kneeInLeftCm, -4).knee[0].z() - clean, -0.04, 0.006);
        NEAR(turnWith("squat", &RepSpec::shiftCm, 5).midHip.z(), 0.05, 1e-3);
        NEAR(turnWith("split-squat", &RepSpec::shoulderTipDeg, 7).chestRight.y(), -std::sin(7 * kRadiansPerDegree),
             0.01);
        const Skeleton turned = turnWith("hinge", &RepSpec::hipTurnDeg, 10);
        QVERIFY(turned.hip[1].x() > turned.hip[0].x() + 0.02);
        const Skeleton round = turnWith("hinge", &RepSpec::roundDeg, 30);
        NEAR(degrees(round.midShoulder - round.lumbarHigh) - degrees(round.lumbarHigh - round.lumbarLow), 30, 0.5);
        const Skeleton tuck = turnWith("squat", &RepSpec::tuckDeg, 20);
        NEAR(degrees(tuck.lumbarHigh - tuck.lumbarLow) - degrees(tuck.lumbarLow - tuck.midHip), 24, 1);
        MotionSpec load = motionOf("hinge", "romanian");
        const double near = atTurn(load).wrist[0].x();
        load.reps[0].loadDriftCm = 10;
        NEAR(atTurn(load).wrist[0].x() - near, 0.10, 0.03);
        MotionSpec lunge = motionOf("reverse-lunge");
        lunge.reps[0].heelRiseCm = 4;
        NEAR(trueAngles(atTurn(lunge), 1).heelRiseCm, 4, 0.1);
    }

    void topDialsActAtTheTop() {
        MotionSpec spec = motionOf("squat");
        spec.reps[0].lockoutLeanDeg = 12;
        spec.reps[0].lockoutKneeDeg = 6;
        const SpecMotion motion(spec);
        const TrueAngles a = trueAngles(motion.at(motion.reps()[0].endS + spec.reps[0].topS / 2), 1);
        NEAR(a.trunkLean, -11, 1);
        NEAR(a.kneeFlexion, 1, 1);
    }

    void hipsShootUpAheadOfTheTrunk() {
        MotionSpec spec = motionOf("squat");
        const SpecMotion even(spec);
        spec.reps[0].hipsShootUp = 1;
        const SpecMotion shot(spec);
        const double t = even.reps()[0].bottomS + 0.2 + 0.5 * spec.reps[0].liftS;
        QVERIFY(shot.at(t).midHip.y() > even.at(t).midHip.y() + 0.03);
        QVERIFY(trueAngles(shot.at(t), 0).trunkLean > trueAngles(even.at(t), 0).trunkLean + 10);
    }

    void aOneAndAHalfComesHalfWayUp() {
        MotionSpec spec = motionOf("squat");
        spec.reps[0].oneAndHalf = 1;
        const SpecMotion motion(spec);
        double highest = 1;
        const RepTruth r = motion.reps()[0];
        for (double t = r.startS + spec.reps[0].lowerS; t < r.endS - spec.reps[0].liftS; t += 0.02)
            highest = std::min(highest, motion.at(t).depth);
        NEAR(highest, 0.5, 0.02);
        QCOMPARE(motion.reps().size(), std::size_t{1});
    }

    void steppingLungesStandWithFeetTogether() {
        for (const char* name : {"reverse-lunge", "forward-lunge"}) {
            const SpecMotion motion(motionOf(name));
            const Skeleton rest = motion.at(0.1), out = motion.at(motion.reps()[0].bottomS);
            NEAR(rest.ankle[0].x(), rest.ankle[1].x(), 0.01);
            QVERIFY(out.ankle[1].x() - out.ankle[0].x() > 0.4);
            // The standing foot does not slide.
            const int still = std::string(name) == "reverse-lunge" ? 1 : 0;
            NEAR((rest.ball[still] - out.ball[still]).norm(), 0, 0.02);
        }
        const SpecMotion side(motionOf("lateral-lunge"));
        const Skeleton out = side.at(side.reps()[0].bottomS);
        QVERIFY(out.ankle[1].z() - out.ankle[0].z() > 0.5);
        QVERIFY(trueAngles(out, 0).kneeFlexion < 12);  // the trailing leg is straight
    }

    void fatigueGrowsOverTheSet() {
        const auto spec = clipSpecFromJson(R"({"drift":{"knee_in_left_cm":6},"reps":[{},{},{"knee_in_left_cm":1}]})");
        QVERIFY(bool(spec));
        const auto& reps = spec->motion.reps;
        NEAR(reps[0].kneeInLeftCm, 0, 1e-9);
        NEAR(reps[1].kneeInLeftCm, 3, 1e-9);
        NEAR(reps[2].kneeInLeftCm, 7, 1e-9);
    }

    void unknownMovementsAreRefused() {
        const auto refusal = [](const char* text) {
            const auto spec = clipSpecFromJson(text);
            return spec ? QString() : QString::fromStdString(spec.error().message);
        };
        QVERIFY(refusal(R"({"movement":"cartwheel"})").contains("cartwheel"));
        QVERIFY(refusal(R"({"movement":"hinge","variation":"goblet"})").contains("goblet"));
        QVERIFY(refusal(R"({"in_front":"piano"})").contains("in_front"));
        QVERIFY(refusal(R"({"body":{"figure":"ghost"}})").contains("figure"));
    }

    void everyDialHasAName() {
        // A dial nobody can turn from a spec would be dead: the table covers the whole struct.
        QCOMPARE(dials().size() * sizeof(double), sizeof(RepSpec));
        std::set<std::string> names;
        for (const Dial& d : dials()) names.insert(d.name);
        QCOMPARE(names.size(), dials().size());
    }

    void theTruthNamesDialsAndBothLegs() {
        ClipSpec spec = made::spec(2);
        spec.motion.reps[1].kneeInRightCm = 5;
        const auto truth = nlohmann::json::parse(truthJson(spec));
        QVERIFY(!truth["reps"][0]["dials"].contains("knee_in_right_cm"));
        QCOMPARE(truth["reps"][1]["dials"]["knee_in_right_cm"].get<double>(), 5.0);
        const auto& frame = truth["frames"][100];
        for (const char* side : {"left", "right"})
            for (const char* joint :
                 {"hip", "knee", "ankle", "heel", "ball", "toe", "shoulder", "elbow", "wrist", "ear"})
                QCOMPARE(frame[side][joint].size(), std::size_t{5});
        QVERIFY(frame["mass_centre"].size() == 5 && frame["knee_separation"].is_number());
    }
};

ZEVO_SUITE(TestMotion, "motion")
#include "test_motion.moc"
