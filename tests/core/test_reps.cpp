// Repetitions: counted exactly, partial and one-and-a-half told apart, phases in time.

#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

class TestReps : public QObject {
    Q_OBJECT
  private slots:
    void everyRepIsCountedOnce_data() {
        QTest::addColumn<int>("reps");
        QTest::addColumn<double>("lower");
        QTest::addColumn<double>("pause");
        QTest::addColumn<double>("top");
        QTest::addColumn<double>("rate");
        QTest::newRow("one slow") << 1 << 4.0 << 1.0 << 1.0 << 30.0;
        QTest::newRow("five usual") << 5 << 2.4 << 0.4 << 0.9 << 30.0;
        QTest::newRow("twelve without rest") << 12 << 1.2 << 0.0 << 0.1 << 30.0;
        QTest::newRow("fast") << 6 << 0.7 << 0.0 << 0.2 << 60.0;
        QTest::newRow("long holds") << 3 << 2.0 << 5.0 << 0.5 << 24.0;
        QTest::newRow("120 a second") << 4 << 2.0 << 0.3 << 0.5 << 120.0;
    }
    void everyRepIsCountedOnce() {
        QFETCH(int, reps);
        QFETCH(double, lower);
        QFETCH(double, pause);
        QFETCH(double, top);
        QFETCH(double, rate);
        auto spec = made::spec(reps);
        spec.frameRate = rate;
        for (auto& r : spec.motion.reps) r.lowerS = lower, r.pauseS = pause, r.topS = top;
        for (double jitter : {0.0, 1.5}) {
            const auto set = made::measured(spec, made::jittered(sim::truePoses(spec), jitter));
            QVERIFY(bool(set));
            QCOMPARE(static_cast<int>(set->result.reps.size()), reps);
            for (const auto& r : set->result.reps) QCOMPARE(r.kind, RepKind::Full);
        }
    }

    /// From the side a wide and deep squat folds the hip flat and further; nothing comes apart by it.
    void aWideDeepSquatIsOneMovement() {
        auto spec = made::spec(3);
        spec.motion.stanceShare = 0.3, spec.motion.toeOutDeg = 20;
        for (auto& r : spec.motion.reps) r.thighBottomDeg = -8, r.shinBottomDeg = 30;
        const auto set = made::measured(spec);
        QVERIFY(bool(set));
        QCOMPARE(set->result.reps.size(), std::size_t(3));
        QVERIFY(made::value(*set, 0, "hip_flexion") > 150);
        for (const auto& r : set->result.reps) {
            // So little is made of the last of it that the middle of what is nearly deepest lies before its end.
            QVERIFY(r.startS < r.bottomS && r.bottomS < r.endS && r.startS < r.arriveS && r.leaveS < r.endS);
            NEAR(r.arriveS - r.startS, spec.motion.reps[0].lowerS, 0.3);
        }
    }

    void phasesLieWithinTwoFrames() {
        auto spec = made::spec(4);
        for (auto& r : spec.motion.reps) r.lowerS = 2.2, r.pauseS = 0.5, r.liftS = 1.3;
        const auto set = made::measured(spec);
        const auto truth = sim::SpecMotion(spec.motion).reps();
        for (std::size_t i = 0; i < truth.size(); ++i) {
            const auto& r = set->result.reps[i];
            NEAR(r.startS, truth[i].startS, 4 / 30.0);
            NEAR(r.endS, truth[i].endS, 4 / 30.0);
            NEAR(r.bottomS, truth[i].bottomS, 2 / 30.0);
            NEAR(r.arriveS - r.startS, 2.2, 0.2);
            NEAR(r.endS - r.leaveS, 1.3, 0.2);
            QVERIFY(r.startS < r.arriveS && r.arriveS <= r.bottomS && r.bottomS <= r.leaveS && r.leaveS < r.endS);
        }
    }

    /// A plate before the knee throws its point behind the leg for the last of the way down: it was bent just before.
    void aKneeLostAtTheBottomIsStillARep() {
        const auto spec = made::spec(3);
        const auto clean = made::measured(spec);
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            if (std::abs(f.timeS - clean->result.reps[1].bottomS) < 0.3)
                for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee}) {
                    const auto& ankle = f.at(knee == Landmark::LeftKnee ? Landmark::LeftAnkle : Landmark::RightAnkle);
                    f.at(knee).x = 2 * ankle.x - f.at(knee).x - 60;
                }
        const auto set = made::measured(spec, poses);
        QCOMPARE(set->result.reps.size(), std::size_t{3});
        QVERIFY(set->result.reps[1].find("knee_flexion")->value < 30);
        QCOMPARE(set->result.reps[1].kind, RepKind::Full);
    }

    /// A plate passes the thigh half-way down: the knee is held back there and leaps on, so that the middle of the way
    /// is the slowest of it. It was begun where it began, and is not called quick.
    void aKneeThatLeapsHalfWayDownIsNoQuickDescent() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.lowerS = 2.4;
        const auto clean = made::measured(spec);
        auto poses = sim::truePoses(spec);
        const auto& rep = clean->result.reps[1];
        const double from = rep.startS + 0.40 * (rep.arriveS - rep.startS),
                     to = rep.startS + 0.62 * (rep.arriveS - rep.startS);
        for (auto& f : poses)
            if (f.timeS > from && f.timeS < to)
                for (const bool right : {false, true}) {
                    auto& knee = f.at(right ? Landmark::RightKnee : Landmark::LeftKnee);
                    const auto &hip = f.at(right ? Landmark::RightHip : Landmark::LeftHip),
                               &ankle = f.at(right ? Landmark::RightAnkle : Landmark::LeftAnkle);
                    const auto back = static_cast<float>(0.8 * (f.timeS - from) / (to - from));
                    knee.x += back * (0.5F * (hip.x + ankle.x) - knee.x);
                    knee.y += back * (0.5F * (hip.y + ankle.y) - knee.y);
                }
        const auto set = made::measured(spec, poses);
        QCOMPARE(set->result.reps.size(), std::size_t{3});
        NEAR(set->result.reps[1].startS, rep.startS, 0.25);
        // Where it arrives is told by the leap; quick, under 1.5 s, it is not.
        QVERIFY(set->result.reps[1].find("lowering_s")->value > 1.6);
    }

    /// Where the points are lost for a moment near the start, the way down is still begun where it began.
    void aBumpOnTheWayIsPassedOver() {
        const auto spec = made::spec(2);
        const auto clean = made::measured(spec);
        const auto& rep = clean->result.reps[0];
        auto poses = sim::truePoses(spec);
        const double at = rep.startS + 0.55 * (rep.arriveS - rep.startS);
        for (auto& f : poses)
            if (std::abs(f.timeS - at) < 0.1)
                for (auto hip : {Landmark::LeftHip, Landmark::RightHip}) f.at(hip).y += 25;
        const auto set = made::measured(spec, poses);
        NEAR(set->result.reps[0].startS, rep.startS, 0.3);
    }

    void halfRepsAreTold() {
        auto spec = made::spec(4);
        spec.motion.reps[1].thighBottomDeg = 50;
        spec.motion.reps[1].shinBottomDeg = 14;
        const auto set = made::measured(spec);
        QCOMPARE(set->result.reps.size(), std::size_t{4});
        for (int i = 0; i < 4; ++i)
            QCOMPARE(set->result.reps[static_cast<std::size_t>(i)].kind, i == 1 ? RepKind::Partial : RepKind::Full);
    }

    void aSetOfQuarterSquatsIsAllPartial() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.thighBottomDeg = 52, r.shinBottomDeg = 12;
        const auto set = made::measured(spec);
        for (const auto& r : set->result.reps) QCOMPARE(r.kind, RepKind::Partial);
    }

    void shallowButHonestRepsAreFull() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.thighBottomDeg = 20;
        const auto set = made::measured(spec);
        for (const auto& r : set->result.reps) QCOMPARE(r.kind, RepKind::Full);
    }

    void oneAndAHalfIsOne() {
        // Down, half up, down, up: joined from the moments of two reps of the virtual client.
        auto spec = made::spec(2);
        const sim::SpecMotion motion(spec.motion);
        const sim::Camera camera(spec.scene.camera);
        const auto& events = motion.reps();
        const double turn = events[0].endS - 0.75 * spec.motion.reps[0].liftS;  // a quarter of the way up in time
        PoseFrames poses;
        double t = 0;
        auto play = [&](double from, double to) {
            const double direction = to > from ? 1 : -1;
            for (double at = from; direction * (to - at) > 0; at += direction / 30) {
                poses.push_back(sim::truePose(motion.at(at), camera, t));
                t += 1 / 30.0;
            }
        };
        play(0, turn);
        play(turn, events[0].bottomS);
        play(events[0].bottomS, events[1].startS + 0.5);
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        QCOMPARE(set->result.reps.size(), std::size_t{1});
        QCOMPARE(set->result.reps[0].kind, RepKind::Double);
    }

    /// Who steps far before they sink lands with their hips lower than at rest, one leg straight, and stands there: one
    /// repetition, and its way down is not only the last of it.
    void aStepIsNoRepetitionOfItsOwn() {
        for (const char* movement : {"reverse-lunge", "forward-lunge", "walking-lunge"})
            for (double sinkAfter : {0.25, 0.5, 0.65})
                for (double lower : {1.6, 3.2})
                    for (double jitter : {0.0, 1.5}) {
                        auto spec = made::spec(4);
                        spec.motion.movement = movement;
                        spec.scene.camera.distanceM = 4;
                        for (auto& r : spec.motion.reps) {
                            r = sim::RepSpec();
                            r.lowerS = lower, r.liftS = 0.8 * lower, r.pauseS = 0.4, r.topS = 0.7;
                            r.sinkAfter = sinkAfter, r.stepShare = std::min(0.55, sinkAfter + 0.02);
                        }
                        const auto set = made::measured(spec, made::jittered(sim::truePoses(spec), jitter));
                        QVERIFY(bool(set));
                        QCOMPARE(set->result.reps.size(), std::size_t{4});
                        for (const auto& r : set->result.reps) {
                            QCOMPARE(r.kind, RepKind::Full);
                            QVERIFY2(r.arriveS - r.startS > 0.5 * lower, movement);
                        }
                    }
    }

    /// For a second the network sees the client upside down: hips where the head was.
    void whoIsLostOnTheWayUpIsNoRepMore() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.liftS = 2.4;
        auto poses = sim::truePoses(spec);
        const auto turn = sim::SpecMotion(spec.motion).reps()[1].bottomS;
        for (auto& f : poses)
            if (f.timeS > turn + 0.6 && f.timeS < turn + 1.4)
                for (auto& p : f.points) p.y = 720 - p.y - 0.35F * 720;
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        QCOMPARE(set->result.reps.size(), std::size_t{3});
        for (const auto& r : set->result.reps) QCOMPARE(r.kind, RepKind::Full);
    }

    void repsCutOffByTheClipDoNotCount() {
        const auto spec = made::spec(3);
        auto poses = sim::truePoses(spec);
        const auto events = sim::SpecMotion(spec.motion).reps();
        std::erase_if(poses, [&](const auto& f) { return f.timeS < events[0].bottomS || f.timeS > events[2].bottomS; });
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        QCOMPARE(set->result.reps.size(), std::size_t{1});
    }

    void standingAboutIsNoRep() {
        auto spec = made::spec(1);
        spec.motion.reps[0].thighBottomDeg = 82;
        spec.motion.reps[0].shinBottomDeg = 4;
        const auto set = made::measured(spec, made::jittered(sim::truePoses(spec), 1.5));
        QVERIFY(!set);
        QCOMPARE(set.error().notice->kind, NoticeKind::NoRepetition);
    }
};

ZEVO_SUITE(TestReps, "reps")
#include "test_reps.moc"
