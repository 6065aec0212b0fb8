// Depth of a squat told from the front (core/series/front_depth.h), from true landmarks.

#include <array>
#include <cmath>

#include "core/series/front_depth.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

sim::ClipSpec fromFront(double heightM = 0.95) {
    sim::ClipSpec s;
    s.motion.movement = "squat";
    s.motion.reps.resize(3);
    s.scene.camera.azimuthDeg = 0;
    s.scene.camera.heightM = heightM;
    return s;
}

}  // namespace

class TestFrontDepth : public QObject {
    Q_OBJECT
  private slots:
    /// Cameras lower and higher than the hips, each looking at them; how far they look down is told or is not known.
    void depthsAreWhatTheyAre_data() {
        QTest::addColumn<double>("heightM");
        QTest::addColumn<double>("stance");
        for (double height : {0.5, 0.95, 1.5})
            for (double stance : {0.14, 0.19, 0.30}) QTest::addRow("%.2f m, %.2f", height, stance) << height << stance;
    }
    void depthsAreWhatTheyAre() {
        QFETCH(double, heightM);
        QFETCH(double, stance);
        auto spec = fromFront(heightM);
        spec.motion.stanceShare = stance, spec.motion.toeOutDeg = 100 * (stance - 0.05);
        // Far below level a thigh that goes out shows its angle from the side much larger: nobody squats so wide so
        // deep.
        const std::array<double, 3> thigh{stance > 0.25 ? -5.0 : -22.0, 0, 30}, shin{36, 30, 24};
        for (std::size_t i = 0; i < 3; ++i)
            spec.motion.reps[i].thighBottomDeg = thigh[i], spec.motion.reps[i].shinBottomDeg = shin[i];
        const sim::SpecMotion motion(spec.motion);
        for (const ClipFacts& clip : {made::heldFacts(spec), made::facts(spec)}) {
            const auto set = measureSet(sim::truePoses(spec), clip, made::contextOf(spec));
            QVERIFY2(bool(set), set ? "" : made::words(set.error()));
            QCOMPARE(set->track().view, ViewKind::Front);
            QCOMPARE(set->result.reps.size(), std::size_t{3});
            for (std::size_t k = 0; k < 3; ++k) {
                const auto truth = sim::trueAngles(motion.at(motion.reps()[k].bottomS), 0);
                const auto& rep = set->result.reps[k];
                const Measurement *depth = rep.find("thigh_angle"), *lean = rep.find("shin_angle"),
                                  *bend = rep.find("knee_flexion");
                QVERIFY(depth && lean && bend);
                NEAR(bend->value, truth.kneeFlexion, 5);    // a shin that leans little hardly shows how far
                if (!clip.hold && heightM > 1.2) continue;  // looks down by more than nine cameras of ten
                QVERIFY(std::abs(depth->value - truth.thighAngle) < depth->pm90);
                QVERIFY(std::abs(lean->value - truth.shinAngle) < lean->pm90);
                if (!clip.hold) continue;
                NEAR(depth->value, truth.thighAngle, 2.5);
                NEAR(lean->value, truth.shinAngle, 5);
            }
        }
    }

    /// A pitch that is not known turns what is held against gravity by as much, and the knee not at all.
    void aPitchNobodyToldWidensWhatIsHeldAgainstGravity() {
        const auto spec = fromFront();
        const auto known = measureSet(sim::truePoses(spec), made::heldFacts(spec), made::contextOf(spec)),
                   unknown = measureSet(sim::truePoses(spec), made::facts(spec), made::contextOf(spec));
        QVERIFY(known && unknown);
        const auto &a = known->result.reps[0], &b = unknown->result.reps[0];
        for (const char* id : {"thigh_angle", "shin_angle"}) QVERIFY2(b.find(id)->pm90 > a.find(id)->pm90 + 2, id);
        NEAR(b.find("knee_flexion")->pm90, a.find("knee_flexion")->pm90, 0.3);
    }

    void whatDoesNotShowIsNotTold() {
        auto behind = fromFront();
        behind.scene.camera.azimuthDeg = 180;
        auto lunge = fromFront();
        lunge.motion.movement = "split-squat";
        for (const auto& spec : {behind, lunge}) {
            const auto set = made::measured(spec);
            QVERIFY2(bool(set), set ? "" : made::words(set.error()));
            QVERIFY(isFrontal(set->track().view));
            QVERIFY(legsInSpace(set->track()).weighed[0].thighAngle.empty());
            for (const auto& rep : set->result.reps) QVERIFY(!rep.find("thigh_angle"));
            // What shows the depth there is the knees, as before.
            const auto curve = curveOf(MeasureId::named("thigh_angle"), *set->first.series, Side::Right);
            QCOMPARE(curve.measure.name(), std::string("knee_ratio"));
        }
        // A leg that is hidden leaves nothing to take the middle of.
        const auto spec = fromFront();
        auto poses = sim::truePoses(spec);
        for (auto& f : poses) f.at(Landmark::LeftKnee).visibility = 0.1F;
        const auto hidden = made::measured(spec, poses);
        QVERIFY(bool(hidden));
        for (const auto& rep : hidden->result.reps) QVERIFY(!rep.find("thigh_angle"));
    }

    /// Legs that tell two depths are not known better than they differ.
    void legsThatDifferWidenTheDoubt() {
        const auto spec = fromFront();
        auto poses = sim::truePoses(spec);
        const auto before = measureSet(poses, made::heldFacts(spec), made::contextOf(spec));
        for (auto& f : poses) f.at(Landmark::LeftHip).y += 12;
        const auto after = measureSet(poses, made::heldFacts(spec), made::contextOf(spec));
        QVERIFY(before && after);
        QVERIFY(after->result.reps[0].find("thigh_angle")->pm90 >
                before->result.reps[0].find("thigh_angle")->pm90 + 0.5);
    }

    /// A knee the coach put in its place is not weighed against what shins usually do.
    void aKneeThatTheCoachPutStays() {
        const auto spec = fromFront();
        const auto poses = sim::truePoses(spec);
        const auto cleaned =
            cleanPoses(poses, spec.scene.camera.width, spec.scene.camera.height, made::heldFacts(spec).hold);
        QVERIFY(bool(cleaned));
        const Context context{175, "auto"};
        const auto before = finishTrack(*cleaned, poses, context);
        QVERIFY(bool(before));
        const std::size_t at = before->sampleAt(sim::SpecMotion(spec.motion).reps()[1].bottomS);
        Corrections hand;
        for (const Landmark knee : {Landmark::LeftKnee, Landmark::RightKnee}) {
            const Vec2 place = before->toPicture(before->at(knee, at));
            hand.moved.push_back({before->timesS[at], knee, place.x(), place.y() - 0.03 * before->bodyPx});
        }
        const auto after = finishTrack(*cleaned, poses, context, hand);
        QVERIFY(bool(after));
        const auto was = legsInSpace(*before), is = legsInSpace(*after);
        for (std::size_t side : {0U, 1U}) {
            const double thigh = is.weighed[side].thighAngle[at];
            NEAR(thigh, is.asDrawn[side].thighAngle[at], 1.5);
            QVERIFY2(thigh < was.weighed[side].thighAngle[at] - 5, qPrintable(QString::number(thigh)));
        }
    }

    /// The larger network moves nothing from the front; where it has the hips elsewhere, what is read is unsure.
    void hipsThatTheLargerNetworkHasElsewhereAreDoubted() {
        const auto spec = fromFront();
        const auto poses = sim::truePoses(spec);
        auto askedWith = [&](double lowerByStatures) {
            const auto plain = measureSet(poses, made::heldFacts(spec), made::contextOf(spec));
            std::vector<SecondEstimate> larger;
            for (const PoseFrame& f : poses) {
                if (!plain || std::abs(f.timeS - plain->result.reps[1].bottomS) > 0.1) continue;
                SecondEstimate e{f.timeS, "heavy", {}};
                e.points = f.points;
                for (const Landmark hip : {Landmark::LeftHip, Landmark::RightHip})
                    e.points[static_cast<std::size_t>(hip)].y +=
                        static_cast<float>(lowerByStatures * plain->track().bodyPx);
                larger.push_back(e);
            }
            return measureSet(poses, made::heldFacts(spec), made::contextOf(spec), larger);
        };
        const auto alike = askedWith(0.012), apart = askedWith(0.03);
        QVERIFY(alike && apart);
        QVERIFY(!made::says(alike->result.notices, NoticeKind::HipsDoubted));
        QVERIFY(made::says(apart->result.notices, NoticeKind::HipsDoubted));
        for (std::size_t k = 0; k < 3; ++k) {
            const auto *sure = alike->result.reps[k].find("thigh_angle"),
                       *doubted = apart->result.reps[k].find("thigh_angle");
            QVERIFY(sure && doubted);
            QCOMPARE(doubted->value, sure->value);
            QCOMPARE(doubted->confidence < 0.5, k == 1);
            if (k == 1) QVERIFY(doubted->pm90 > sure->pm90 + 0.5);
        }
    }

    /// Shins that hardly lean are drawn towards those of others, and known less for it.
    void aShinThatIsNotLikeOthersIsKnownLess() {
        auto usual = fromFront(), upright = usual;
        for (auto& r : usual.motion.reps) r.thighBottomDeg = 5, r.shinBottomDeg = 25;
        for (auto& r : upright.motion.reps) r.thighBottomDeg = 5, r.shinBottomDeg = 8;
        auto shin = [](const sim::ClipSpec& spec) {
            const auto set = measureSet(sim::truePoses(spec), made::heldFacts(spec), made::contextOf(spec));
            return *set->result.reps[1].find("shin_angle");
        };
        const Measurement like = shin(usual), unlike = shin(upright);
        QVERIFY2(unlike.pm90 > like.pm90 + 1, qPrintable(QString("%1 %2").arg(like.pm90).arg(unlike.pm90)));
        QVERIFY(std::abs(unlike.value - 8) < unlike.pm90);
    }

    /// A clip from the side knows it better, whichever was filmed first.
    void theSideCounts() {
        auto front = fromFront(), side = front;
        side.scene.camera.azimuthDeg = 90;
        const auto context = made::contextOf(front);
        for (const bool frontFirst : {true, false}) {
            const auto &first = frontFirst ? front : side, &second = frontFirst ? side : front;
            auto set = measureSet(sim::truePoses(first), made::heldFacts(first), context);
            QVERIFY2(bool(set), set ? "" : made::words(set.error()));
            QVERIFY(bool(joinSecondView(*set, sim::truePoses(second), made::heldFacts(second))));
            const auto alone = measureSet(sim::truePoses(side), made::heldFacts(side), context);
            for (std::size_t k = 0; k < 3; ++k)
                for (const char* id : {"thigh_angle", "shin_angle", "knee_flexion"}) {
                    const Measurement* m = set->result.reps[k].find(id);
                    QVERIFY2(m, id);
                    QCOMPARE(m->second, frontFirst);
                    QCOMPARE(m->value, alone->result.reps[k].find(id)->value);
                }
        }
    }

    /// Judged like any other depth: far above the line is told, a sound one is not, one about the line stays open.
    void aSquatThatStopsShortIsTold() {
        const Standard standard = made::standard("whole-foot");
        for (double thigh : {24.0, 3.0, -16.0}) {
            auto spec = fromFront();
            for (auto& r : spec.motion.reps) r.thighBottomDeg = thigh;
            const auto set = measureSet(sim::truePoses(spec), made::heldFacts(spec), made::contextOf(spec));
            QVERIFY(bool(set));
            const auto found = findFaults(set->result.reps, standard);
            const auto shortOf =
                std::find_if(found.begin(), found.end(), [](const Finding& f) { return f.fault == "depth_short"; });
            if (thigh > 20) QVERIFY(shortOf != found.end() && shortOf->severity == Severity::Clear);
            if (thigh < -10) QVERIFY(shortOf == found.end());
            if (std::abs(thigh) < 10) QVERIFY(shortOf == found.end() || shortOf->severity == Severity::Unsure);
        }
    }
};

ZEVO_SUITE(TestFrontDepth, "front_depth")
#include "test_front_depth.moc"
