// What is decided while a client stands before the camera: whether the camera stands right, whether they stand still,
// how many repetitions there were, when filming begins and ends, and whether a cue helped. Perfect landmarks of the
// virtual client, so that what is tested is the geometry; the network's own reading is tested with drawn pictures
// (tests/pipeline/test_live_session.cpp).
#include <cmath>
#include <numbers>

#include "core/live/camera_check.h"
#include "core/live/filming_switch.h"
#include "core/live/live_set.h"
#include "core/live/one_euro.h"
#include "core/live/presence.h"
#include "core/session/cue_answer.h"
#include "present/film_words.h"
#include "present/live_lines.h"
#include "sim/simulated_camera.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

PictureFacts picture(const sim::ClientDials& d) {
    PictureFacts p;
    p.width = d.width;
    p.height = d.height;
    return p;
}

CheckedMovement about(const sim::ClientDials& d) {
    return checkedMovement(*made::catalogue()->movement(d.movement), d.variation);
}

PoseFrames atRest(const sim::ClientDials& d) {
    return sim::truePoses(sim::restOf(d));
}

CameraCheck checked(const sim::ClientDials& d) {
    return checkCamera(atRest(d), picture(d), about(d));
}

sim::ClientDials with(const std::function<void(sim::Placement&)>& place, bool front = false) {
    sim::ClientDials d;
    d.front = front;
    place(d.camera);
    return d;
}

bool has(const CameraCheck& c, CameraProblem problem, CameraMove move) {
    return std::any_of(c.problems.begin(), c.problems.end(),
                       [&](const CameraAdvice& a) { return a.problem == problem && a.move == move; });
}

const char* said(const CameraCheck& c) {
    static QByteArray text;
    text.clear();
    for (const auto& a : c.problems) text += present::cameraSentence(a, present::Lengths::Metric).toUtf8() + "; ";
    return text.constData();
}

FilmingSwitch::Seen still(double seconds, int reps = 0) {
    FilmingSwitch::Seen s;
    s.thereS = 100, s.stillS = seconds, s.reps = reps;
    return s;
}

}  // namespace

class TestLive : public QObject {
    Q_OBJECT
  private slots:
    void aCameraThatStandsRightIsLetBe_data() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<bool>("front");
        for (const char* m : {"squat", "hinge", "split-squat", "reverse-lunge", "lateral-lunge", "bridge"}) {
            QTest::addRow("%s, side", m) << QString(m) << false;
            if (QString(m) != "bridge" && QString(m) != "lateral-lunge")
                QTest::addRow("%s, front", m) << QString(m) << true;
        }
    }
    void aCameraThatStandsRightIsLetBe() {
        QFETCH(QString, movement);
        QFETCH(bool, front);
        sim::ClientDials d;
        d.movement = movement.toStdString();
        d.front = front;
        if (movement == "bridge") d.camera.heightM = 0.5;
        const auto c = checked(d);
        QVERIFY2(c.good(), said(c));
        QCOMPARE(c.view, front ? ViewKind::Front : ViewKind::Side);
    }

    /// One thing wrong at a time: it is named, with the move that mends it; and the move does mend it.
    void whatIsWrongIsNamedAndTheMoveMendsIt_data() {
        QTest::addColumn<sim::Placement>("place");
        QTest::addColumn<bool>("front");
        QTest::addColumn<int>("problem");
        QTest::addColumn<int>("move");
        auto row = [](const char* name, bool front, CameraProblem problem, CameraMove move, auto place) {
            sim::Placement p;
            place(p);
            QTest::addRow("%s", name) << p << front << static_cast<int>(problem) << static_cast<int>(move);
        };
        using P = sim::Placement;
        using C = CameraProblem;
        using M = CameraMove;
        for (bool front : {false, true}) {
            row(front ? "rolled right, front" : "rolled right", front, C::Rolled, M::LevelLeft,
                [](P& p) { p.rollDeg = 4; });
            row(front ? "rolled left, front" : "rolled left", front, C::Rolled, M::LevelRight,
                [](P& p) { p.rollDeg = -4; });
            row(front ? "too near, front" : "too near", front, C::TooNear, M::Back, [](P& p) { p.distanceM = 2; });
            row(front ? "too far, front" : "too far", front, C::TooFar, M::Nearer, [](P& p) { p.distanceM = 6.5; });
            row(front ? "aimed left, front" : "aimed left", front, C::CutOff, M::AimRight,
                [front](P& p) { p.aimDeg = front ? -34 : -31; });
            row(front ? "aimed right, front" : "aimed right", front, C::CutOff, M::AimLeft,
                [front](P& p) { p.aimDeg = front ? 34 : 31; });
            row(front ? "tipped down, front" : "tipped down", front, C::CutOff, M::AimUp,
                [](P& p) { p.tiltDeg = -11; });
            row(front ? "tipped up, front" : "tipped up", front, C::CutOff, M::AimDown, [](P& p) { p.tiltDeg = 11; });
            row(front ? "too far round to the front, front" : "too far to the front", front, C::OffSquare, M::WalkLeft,
                [](P& p) { p.turnDeg = 16; });
            row(front ? "too far round the other way, front" : "too far back", front, C::OffSquare, M::WalkRight,
                [](P& p) { p.turnDeg = -16; });
        }
        row("too low", false, C::TooLow, M::Up, [](P& p) { p.heightM = 0.3; });
        row("too high", false, C::TooHigh, M::Down, [](P& p) { p.heightM = 1.9; });
    }
    void whatIsWrongIsNamedAndTheMoveMendsIt() {
        QFETCH(sim::Placement, place);
        QFETCH(bool, front);
        QFETCH(int, problem);
        QFETCH(int, move);
        sim::ClientDials d;
        d.front = front;
        d.camera = place;
        auto c = checked(d);
        QVERIFY2(has(c, static_cast<CameraProblem>(problem), static_cast<CameraMove>(move)), said(c));
        // Doing what is said, worst first, ends well in few moves.
        int moves = 0;
        while (!c.good() && moves < 8) {
            const CameraAdvice a = c.problems.front();
            QVERIFY2(a.move != CameraMove::None, said(c));
            auto& p = d.camera;
            const double sign = a.move == CameraMove::Back || a.move == CameraMove::Up ||
                                        a.move == CameraMove::AimRight || a.move == CameraMove::AimUp ||
                                        a.move == CameraMove::WalkRight || a.move == CameraMove::LevelRight
                                    ? 1
                                    : -1;
            switch (a.move) {
                case CameraMove::Back:
                case CameraMove::Nearer: p.distanceM += sign * a.amount; break;
                case CameraMove::Up:
                case CameraMove::Down: p.heightM += sign * a.amount; break;
                case CameraMove::AimLeft:
                case CameraMove::AimRight: p.aimDeg += sign * a.amount; break;
                case CameraMove::AimUp:
                case CameraMove::AimDown: p.tiltDeg += sign * a.amount; break;
                case CameraMove::WalkLeft:
                case CameraMove::WalkRight: p.turnDeg += sign * a.amount; break;
                default: p.rollDeg += sign * a.amount; break;
            }
            c = checked(d);
            ++moves;
        }
        QVERIFY2(c.good(), said(c));
        QVERIFY(moves <= 4);
    }

    void rollAndTurnAreReadInDegrees() {
        for (double roll : {-6.0, -2.0, 3.0, 8.0})
            for (bool front : {false, true})
                NEAR(checked(with([&](auto& p) { p.rollDeg = roll; }, front)).rollDeg, -roll, 0.8);
        for (double turn : {-20.0, -10.0, 10.0, 20.0})
            for (bool front : {false, true}) {
                const double read = checked(with([&](auto& p) { p.turnDeg = turn; }, front)).offSquareDeg;
                QVERIFY2(std::abs(read - turn) < 6, qPrintable(QString("%1 read as %2").arg(turn).arg(read)));
            }
    }

    /// What the movement will need is at least what it takes: at the turning point the whole body is inside the room.
    void theRoomHoldsTheWholeMovement_data() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<bool>("front");
        for (const auto& [movement, variations] : sim::movements())
            for (bool front : {false, true})
                if (movement != "bridge" || !front)
                    QTest::addRow("%s%s", movement.c_str(), front ? ", front" : "")
                        << QString::fromStdString(movement) << front;
    }
    void theRoomHoldsTheWholeMovement() {
        QFETCH(QString, movement);
        QFETCH(bool, front);
        if (!made::catalogue()->movement(movement.toStdString())) return;
        sim::ClientDials d;
        d.movement = movement.toStdString();
        d.front = front;
        d.reps = 1;
        if (movement == "bridge") d.camera.heightM = 0.5;
        const auto c = checked(d);
        const double slack = 0.06 * c.body.height();
        for (const PoseFrame& f : sim::truePoses(sim::setOf(d)))
            for (const auto& p : f.points) {
                if (movement == "walking-lunge") continue;  // how far they go is not known before
                QVERIFY2(p.x > c.room.left - slack && p.x < c.room.right + slack,
                         qPrintable(QString("%1 outside %2…%3").arg(p.x).arg(c.room.left).arg(c.room.right)));
                QVERIFY(p.y > c.room.top - slack && p.y < c.room.bottom + slack);
            }
    }

    void whatThePicturesSayIsPassedOn() {
        sim::ClientDials d;
        auto facts = picture(d);
        const auto poses = atRest(d);
        auto first = [&] { return checkCamera(poses, facts, about(d)).problems; };
        facts.people = 2;
        QCOMPARE(first().at(0).problem, CameraProblem::SomebodyElse);
        facts.people = 1;
        facts.brightness = 30;
        QCOMPARE(first().at(0).problem, CameraProblem::Dark);
        facts.brightness = 120;
        facts.sharpness = 0.3;
        QCOMPARE(first().at(0).problem, CameraProblem::Blurred);
        facts.sharpness = 1;
        facts.frameRate = 14;
        QCOMPARE(first().at(0).problem, CameraProblem::FewFrames);
        facts.frameRate = 29;
        QVERIFY(first().empty());
        QCOMPARE(checkCamera({}, facts, about(d)).problems.at(0).problem, CameraProblem::Nobody);
        auto hidden = poses;
        for (auto& f : hidden)
            for (auto [left, seen] : {std::pair{Landmark::LeftKnee, 0.1F},
                                      {Landmark::LeftAnkle, 0.1F},
                                      {Landmark::LeftShoulder, 0.5F},
                                      {Landmark::RightKnee, 0.4F},
                                      {Landmark::RightAnkle, 0.4F}})
                f.at(left).visibility = seen;
        QCOMPARE(checkCamera(hidden, facts, about(d)).problems.at(0).problem, CameraProblem::ShinHidden);
    }

    void wordsSayWhichWayAndHowFar() {
        using present::cameraSentence;
        using present::Lengths;
        QCOMPARE(cameraSentence({CameraProblem::TooHigh, CameraMove::Down, 0.21}, Lengths::Metric),
                 QString("Lower the camera about 20 cm"));
        QCOMPARE(cameraSentence({CameraProblem::TooHigh, CameraMove::Down, 0.21}, Lengths::Us),
                 QString("Lower the camera about 8 in"));
        QCOMPARE(cameraSentence({CameraProblem::TooNear, CameraMove::Back, 0.7}, Lengths::Metric),
                 QString("Camera back: one step"));
        QCOMPARE(cameraSentence({CameraProblem::CutOff, CameraMove::AimRight, 8}, Lengths::Metric),
                 QString("Turn it to the right: a hand's width"));
        // Every problem has words and a reason, and none of them is long.
        for (int p = 0; p <= static_cast<int>(CameraProblem::FewFrames); ++p) {
            const auto problem = static_cast<CameraProblem>(p);
            QVERIFY(!present::cameraReason(problem).isEmpty());
            const QString s = cameraSentence({problem, CameraMove::None, 0}, Lengths::Metric);
            QVERIFY2(!s.isEmpty() && s.size() < 46, qPrintable(s));
        }
    }

    void standingStillIsToldFromMoving() {
        const auto poses = sim::truePoses(sim::setOf(sim::ClientDials()));
        const auto spec = sim::setOf(sim::ClientDials());
        const auto truth = sim::motionOf(spec)->reps();
        Presence presence;
        double longestMoving = 0;
        for (const PoseFrame& f : poses) {
            presence.add(f);
            const bool moving = f.timeS > truth.front().startS + 0.6 && f.timeS < truth.back().endS - 0.3;
            if (moving) longestMoving = std::max(longestMoving, presence.stillS());
        }
        QVERIFY2(longestMoving < 2, qPrintable(QString::number(longestMoving)));
        QVERIFY(presence.stillS() > 3);  // at the end they stand
        QVERIFY(presence.thereS() > 20);
        // One lost picture is no absence, half a second is.
        PoseFrame nobody;
        const double end = poses.back().timeS;
        nobody.timeS = end + 0.1;
        presence.add(nobody);
        QVERIFY(presence.thereS() > 20);
        nobody.timeS = end + 0.8;
        presence.add(nobody);
        QCOMPARE(presence.thereS(), 0.0);
        QVERIFY(presence.goneS() > 0.6);
    }

    void aRaisedHandIsOneHand() {
        PoseFrame p = atRest(sim::ClientDials()).front();
        Presence presence;
        auto for1s = [&](double from) {
            for (double t = from; t < from + 1; t += 0.05) {
                p.timeS = t;
                presence.add(p);
            }
            return presence.handUpS();
        };
        QCOMPARE(for1s(0), 0.0);
        const float up = p.at(Landmark::Nose).y - 80;
        p.at(Landmark::RightWrist).y = up;
        QVERIFY(for1s(1) > 0.9);
        p.at(Landmark::LeftWrist).y = up;  // a bar overhead
        QCOMPARE(for1s(2), 0.0);
    }

    void filmingBeginsAndEndsByItself() {
        using E = FilmingSwitch::Event;
        FilmingSwitch s;
        QCOMPARE(s.add(0, still(10)), E::None);  // not armed
        s.arm(true);
        QCOMPARE(s.add(1, still(1.9)), E::None);
        QCOMPARE(s.add(1.2, still(2.1)), E::CountingIn);
        NEAR(s.countInLeftS(2.2), 2, 1e-9);
        QCOMPARE(s.add(4.0, still(0)), E::None);
        QCOMPARE(s.add(4.3, still(0)), E::Begin);
        QCOMPARE(s.add(5, still(4)), E::None);  // stillness from before does not end it
        auto seen = still(3.5, 2);
        seen.atRest = false;
        QCOMPARE(s.add(20, seen), E::None);  // a pause below is no end
        QCOMPARE(s.add(21, still(3.1, 2)), E::End);
        QCOMPARE(s.reason(), FilmingSwitch::Reason::Still);
        // Who rests where they stood does not start the next set; who comes back does.
        s.arm(false);
        QCOMPARE(s.add(30, still(9)), E::None);
        QCOMPARE(s.add(31, still(0)), E::None);
        QCOMPARE(s.add(34, still(2.5)), E::CountingIn);
        // Called off by a key.
        QCOMPARE(s.pressed(35), E::Calling);
        QCOMPARE(s.add(36, still(3)), E::None);
        // By a key at any time, and ended by one.
        QCOMPARE(s.pressed(40), E::CountingIn);
        QCOMPARE(s.add(43.1, still(0)), E::Begin);
        QCOMPARE(s.pressed(45), E::End);
        QCOMPARE(s.reason(), FilmingSwitch::Reason::Key);
    }

    void otherWaysToBeginAndEnd() {
        using E = FilmingSwitch::Event;
        FilmingRules rules;
        rules.startStill = false;
        FilmingSwitch s(rules);
        s.arm(true);
        QCOMPARE(s.add(1, still(30)), E::None);
        auto hand = still(0);
        hand.handUpS = 0.9;
        QCOMPARE(s.add(2, still(0)), E::None);
        QCOMPARE(s.add(3, hand), E::CountingIn);
        QCOMPARE(s.add(6.1, hand), E::Begin);
        QCOMPARE(s.add(7, hand), E::None);  // the hand that began it is still up
        QCOMPARE(s.add(8, still(0)), E::None);
        QCOMPARE(s.add(9, hand), E::End);
        // Gone, and nothing at all.
        s.arm(true);
        (void)s.pressed(10), (void)s.add(13.1, still(0));
        auto gone = still(0, 3);
        gone.goneS = 2.1, gone.thereS = 0;
        QCOMPARE(s.add(20, gone), E::End);
        QCOMPARE(s.reason(), FilmingSwitch::Reason::Gone);
        s.arm(true);
        (void)s.pressed(30), (void)s.add(33.1, still(0));
        QCOMPARE(s.add(50, still(16)), E::None);
        QCOMPARE(s.add(60, still(26)), E::End);
        QCOMPARE(s.reason(), FilmingSwitch::Reason::Nothing);
        // While something is wrong with the camera nothing begins by itself.
        FilmingSwitch careful;
        careful.arm(true);
        auto wrong = still(5);
        wrong.ready = false;
        QCOMPARE(careful.add(1, wrong), E::None);
        QCOMPARE(careful.add(2, still(5)), E::CountingIn);
    }

    /// The live count is the count of the answer, for every movement, and also in a set that is looked at in pieces.
    void theLiveCountIsTheAnswersCount_data() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<int>("reps");
        for (const char* m : {"squat", "hinge", "split-squat", "bridge"}) QTest::addRow("%s", m) << QString(m) << 5;
        QTest::addRow("a long set") << QString("squat") << 24;
    }
    void theLiveCountIsTheAnswersCount() {
        QFETCH(QString, movement);
        QFETCH(int, reps);
        sim::ClientDials d;
        d.movement = movement.toStdString();
        d.reps = reps;
        if (movement == "bridge") d.camera.heightM = 0.5;
        const auto spec = sim::setOf(d);
        const auto poses = sim::truePoses(spec);
        SetFacts facts;
        facts.movement = d.movement;
        const SetContext context = contextOf(facts, *made::catalogue()->movement(d.movement));
        LiveSet live(context, d.width, d.height);
        const auto truth = sim::motionOf(spec)->reps();
        int before = 0;
        double slowest = 0;
        for (const PoseFrame& f : poses) {
            live.add(f);
            const int now = live.reading().reps;
            QVERIFY(now >= before);  // never counted back
            if (now > before) slowest = std::max(slowest, f.timeS - truth[static_cast<std::size_t>(now - 1)].endS);
            before = now;
        }
        live.update();
        QCOMPARE(live.reading().reps, reps);
        QVERIFY2(slowest < 0.8, qPrintable(QString("counted %1 s late").arg(slowest)));
        const auto answer = measureSet(poses, made::facts(spec), context);
        QVERIFY(bool(answer));
        QCOMPARE(static_cast<int>(answer->result.reps.size()), reps);
        double tension = 0;
        for (const auto& r : answer->result.reps) tension += r.endS - r.startS;
        NEAR(live.reading().tensionS, tension, 0.05 * tension);
        QVERIFY(live.reading().atRest);
        QCOMPARE(live.poses().size(), poses.size());
    }

    void theLineToReachIsTheStandards() {
        sim::ClientDials d;
        d.reps = 1;
        const auto* squat = made::catalogue()->movement("squat");
        const Standard whole = made::standard("whole-foot");
        bool reached = false;
        double deepest = 90;
        const auto poses = sim::truePoses(sim::setOf(d));
        for (const PoseFrame& f : poses) {
            const auto line = present::liveLine(f, *squat, whole);
            QVERIFY(line);
            const auto &hip = f.at(Landmark::RightHip), &knee = f.at(Landmark::RightKnee);
            const double thigh = std::atan2(knee.y - hip.y, std::abs(knee.x - hip.x)) * 180 / std::numbers::pi;
            deepest = std::min(deepest, thigh);
            QCOMPARE(line->reached, thigh <= *whole.bandFor("thigh_angle")->max + 1e-3);
            reached |= line->reached;
        }
        QVERIFY(reached && deepest < 0);
        QVERIFY(!present::liveLine(PoseFrame(), *squat, whole));
    }

    void theTempoTargetKeepsTime() {
        using present::tempoAt;
        QCOMPARE(tempoAt(-1, 4, 1, 1, 1).phase, 3);
        NEAR(tempoAt(2, 4, 1, 1, 1).share, 0.5, 1e-12);
        QCOMPARE(tempoAt(4.5, 4, 1, 1, 1).phase, 1);
        NEAR(tempoAt(4.5, 4, 1, 1, 1).share, 1, 1e-12);
        NEAR(tempoAt(5.25, 4, 1, 1, 1).share, 0.75, 1e-12);
        NEAR(tempoAt(5.25, 4, 1, 1, 1).leftS, 0.75, 1e-12);
        QCOMPARE(tempoAt(6.5, 4, 1, 1, 1).phase, 3);
        QCOMPARE(tempoAt(8, 4, 1, 1, 1).rep, 1);
        QCOMPARE(tempoAt(2.5, 2, 0, 2, 1).phase, 2);  // no pause
    }

    /// Casiez, Roussel and Vogel 2012: with no speed gain it is the plain first-order low-pass of their equations; at
    /// rest it smooths, and in a fast move it lags less than that low-pass.
    void theOneEuroFilterDoesWhatItsPaperSays() {
        OneEuro plain(1, 0), quick(1, 2);
        const double dt = 1.0 / 30, alpha = 1 / (1 + 1 / (2 * std::numbers::pi * dt));
        double expected = 0;
        (void)plain.filter(0, 0), (void)quick.filter(0, 0);
        double lagPlain = 0, lagQuick = 0;
        for (int i = 1; i <= 30; ++i) {
            const double x = i * 0.1;
            expected = alpha * x + (1 - alpha) * expected;
            const double a = plain.filter(x, i * dt), b = quick.filter(x, i * dt);
            NEAR(a, expected, 1e-12);
            lagPlain = x - a, lagQuick = x - b;
        }
        QVERIFY(lagQuick < 0.5 * lagPlain);
        OneEuro rest(1.5, 8);
        double in = 0, out = 0;
        std::mt19937 random(5);
        std::normal_distribution<double> noise(0, 0.001);
        for (int i = 0; i < 300; ++i) {
            const double x = noise(random), y = rest.filter(x, i * dt);
            if (i > 30) in += x * x, out += y * y;
        }
        QVERIFY(out < 0.5 * in);
        // A clock that stands still starts it afresh instead of dividing by nothing.
        QCOMPARE(rest.filter(7, 299 * dt), 7.0);
    }

    /// The client listens by so much: did the cue work? Small effects beside the scatter get no praise.
    void aCueIsJudgedByWhatSetsDifferByThemselves() {
        const Standard standard = made::standard("whole-foot");
        auto setWith = [&](double heelCm, int reps, unsigned seed) {
            auto spec = made::spec(reps);
            std::mt19937 random(seed);
            std::normal_distribution<double> scatter(0, 0.35);
            for (auto& r : spec.motion.reps) r.heelRiseCm = std::max(0.0, heelCm + scatter(random));
            auto set = made::measured(spec);
            if (!set) qFatal("%s", made::words(set.error()));
            return set->result.reps;
        };
        const CueGiven cue{"heels_rise", "Press the floor away with your heels."};
        const auto before = setWith(5, 5, 1);
        const auto listened = answerTo(cue, {before}, setWith(0, 5, 2), {}, standard);
        QCOMPARE(listened.effect, CueEffect::Worked);
        QVERIFY(listened.gone && listened.p < 0.02 && listened.after < listened.before);
        const auto half = answerTo(cue, {before}, setWith(2.5, 5, 3), {}, standard);
        QCOMPARE(half.effect, CueEffect::Worked);
        QVERIFY(!half.gone);
        QCOMPARE(answerTo(cue, {before}, setWith(5, 5, 4), {}, standard).effect, CueEffect::NoDifference);
        QCOMPARE(answerTo(cue, {setWith(2.5, 5, 5)}, setWith(5, 5, 6), {}, standard).effect, CueEffect::Worse);
        // Two repetitions say nothing.
        QCOMPARE(answerTo(cue, {setWith(5, 2, 7)}, setWith(0, 2, 8), {}, standard).effect, CueEffect::CannotSay);
        // What is new and clear is named beside it.
        auto spec = made::spec(5);
        for (auto& r : spec.motion.reps) r.thighBottomDeg = 24;
        auto shallow = made::measured(spec);
        QVERIFY(bool(shallow));
        const auto traded = answerTo(cue, {before}, shallow->result.reps, {}, standard);
        QVERIFY(std::count(traded.newFaults.begin(), traded.newFaults.end(), "depth_short") == 1);
        const auto words = present::cueWords(listened, made::catalogue()->advice, present::Lengths::Metric);
        QVERIFY2(words.answer.startsWith("Worked, and it is gone") && words.answer.contains("cm"),
                 qPrintable(words.answer));
    }
};

ZEVO_SUITE(TestLive, "live")
#include "test_live.moc"
