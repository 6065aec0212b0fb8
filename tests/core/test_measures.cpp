// Measures read from perfect landmarks against the virtual client's true values.

#include <set>

#include "core/measures/measure.h"
#include "core/series/mass_centre.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

class TestMeasures : public QObject {
    Q_OBJECT
  private slots:
    void anglesAtTheBottom_data() {
        QTest::addColumn<double>("thigh");
        QTest::addColumn<double>("shin");
        QTest::addColumn<double>("stature");
        QTest::newRow("deep") << -18.0 << 34.0 << 175.0;
        QTest::newRow("level") << 0.0 << 32.0 << 160.0;
        QTest::newRow("high") << 25.0 << 24.0 << 192.0;
    }
    void anglesAtTheBottom() {
        QFETCH(double, thigh);
        QFETCH(double, shin);
        QFETCH(double, stature);
        auto spec = made::spec(2);
        spec.motion.body.statureCm = stature;
        for (auto& r : spec.motion.reps) r.thighBottomDeg = thigh, r.shinBottomDeg = shin;
        const auto set = made::measured(spec);
        QVERIFY(bool(set));
        const sim::SpecMotion motion(spec.motion);
        for (int i = 0; i < 2; ++i) {
            const auto truth = sim::trueAngles(motion.at(set->result.reps[static_cast<std::size_t>(i)].bottomS), 1);
            NEAR(made::value(*set, i, "knee_flexion"), truth.kneeFlexion, 0.5);
            NEAR(made::value(*set, i, "hip_flexion"), truth.hipFlexion, 0.5);
            NEAR(made::value(*set, i, "trunk_lean"), truth.trunkLean, 0.5);
            NEAR(made::value(*set, i, "shin_angle"), truth.shinAngle, 0.5);
            NEAR(made::value(*set, i, "thigh_angle"), truth.thighAngle, 0.5);
        }
    }

    void aNearCameraStaysWithinTheStatedError() {
        auto spec = made::spec(2);
        spec.scene.camera = {};
        const auto set = made::measured(spec);
        const sim::SpecMotion motion(spec.motion);
        const auto& rep = set->result.reps[0];
        const auto truth = sim::trueAngles(motion.at(rep.bottomS), 1);
        for (const auto& [id, value] :
             {std::pair("knee_flexion", truth.kneeFlexion), std::pair("hip_flexion", truth.hipFlexion),
              std::pair("thigh_angle", truth.thighAngle)}) {
            const Measurement* m = rep.find(id);
            NEAR(m->value, value, m->pm90);
        }
    }

    void footRises_data() {
        QTest::addColumn<double>("heel");
        QTest::addColumn<double>("toe");
        QTest::newRow("flat") << 0.0 << 0.0;
        QTest::newRow("heel 2 cm") << 2.0 << 0.0;
        QTest::newRow("heel 6 cm") << 6.0 << 0.0;
        QTest::newRow("toes 3 cm") << 0.0 << 3.0;
    }
    void footRises() {
        QFETCH(double, heel);
        QFETCH(double, toe);
        auto spec = made::spec(1);
        spec.motion.reps[0].heelRiseCm = heel;
        spec.motion.reps[0].toeRiseCm = toe;
        spec.motion.reps[0].pauseS = 0.6;
        const auto set = made::measured(spec);
        NEAR(std::max(0.0, made::value(*set, 0, "heel_rise")), heel, 0.15 + 0.12 * heel);
        NEAR(std::max(0.0, made::value(*set, 0, "toe_rise")), toe, 0.15 + 0.12 * toe);
    }

    void withoutStatureThereAreNoCentimetres() {
        const auto spec = made::spec(1);
        const auto set = measureSet(sim::truePoses(spec), made::facts(spec), made::context(0));
        QVERIFY(bool(set));
        for (const char* id : {"heel_rise", "toe_rise", "knee_past_toe", "bounce"})
            QVERIFY(set->result.reps[0].find(id) == nullptr);
        QVERIFY(set->result.reps[0].find("knee_flexion") != nullptr);
        QCOMPARE(set->result.notices.front().kind, NoticeKind::StatureUnknown);
    }

    void whoLeadsTheDescent() {
        auto together = made::spec(1), knees = made::spec(1);
        knees.motion.reps[0].kneesFirst = 1;
        const auto a = made::measured(together), b = made::measured(knees);
        const double none = made::value(*a, 0, "knee_lead"), lead = made::value(*b, 0, "knee_lead");
        // The hips lead when nothing is dialled; both stand clear of the 20 ms from which it is "knees first", by
        // their ±.
        QVERIFY2(none + 30 < 20, qPrintable(QString::number(none)));
        QVERIFY2(lead - 30 > 20, qPrintable(QString::number(lead)));
        QVERIFY2(lead - none > 150, qPrintable(QString("%1 → %2").arg(none).arg(lead)));
    }

    void balanceFollowsTheDial() {
        double last = -1;
        for (double shift : {-0.35, 0.0, 0.35}) {
            auto spec = made::spec(1);
            spec.motion.reps[0].balanceShift = shift;
            const double v = made::value(*made::measured(spec), 0, "mass_over_foot");
            QVERIFY2(v > last + 0.15, qPrintable(QString("%1 after %2").arg(v).arg(last)));
            last = v;
        }
        NEAR(made::value(*made::measured(made::spec(1)), 0, "mass_over_foot"), 0.5, 0.1);
    }

    void extraLeanShowsAgainstTheShins() {
        auto plain = made::spec(1), folded = made::spec(1);
        folded.motion.reps[0].extraLeanDeg = 25;
        NEAR(made::value(*made::measured(folded), 0, "lean_over_shin") -
                 made::value(*made::measured(plain), 0, "lean_over_shin"),
             25, 1.5);
    }

    void chinUpAndDownHaveSigns() {
        auto plain = made::spec(1), up = made::spec(1), down = made::spec(1);
        up.motion.reps[0].neckDeg = 25;
        down.motion.reps[0].neckDeg = -25;
        const double base = made::value(*made::measured(plain), 0, "neck_change");
        QVERIFY(made::value(*made::measured(up), 0, "neck_change") > base + 15);
        QVERIFY(made::value(*made::measured(down), 0, "neck_change") < base - 15);
    }

    /// Where the head was laid over its picture at rest, a nose drawn elsewhere does not count, unless a coach put it
    /// there; where the two heads are not alike, it does, with its wider ±.
    void theHeadsOwnPictureCountsBeforeItsLandmarks() {
        const auto spec = made::spec(2);
        const auto truly = made::measured(spec);
        const Measurement plain = *truly->result.reps[0].find("neck_change");
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            if (std::abs(f.timeS - truly->result.reps[0].bottomS) < 0.6)
                for (Landmark face : {Landmark::Nose, Landmark::LeftEye, Landmark::RightEye})
                    f.at(face).y += 0.03F * static_cast<float>(extentOf(f));
        auto read = [&](const PoseFrames& seen) {
            return *made::measured(spec, seen)->result.reps[0].find("neck_change");
        };
        const Measurement byPicture = read(poses);
        NEAR(byPicture.value, plain.value, 2);
        QVERIFY2(byPicture.pm90 < 10, qPrintable(QString::number(byPicture.pm90)));
        // Nor does one that leaps right after the only moment looked at.
        auto leaping = sim::truePoses(spec);
        for (auto& f : leaping) {
            const double afterS = f.timeS - truly->result.reps[0].bottomS;
            f.head.read = std::abs(afterS) < 0.5 / 30;
            if (afterS > 0.06 && afterS < 0.6)
                for (Landmark face : {Landmark::Nose, Landmark::LeftEye, Landmark::RightEye})
                    f.at(face).y += 0.08F * static_cast<float>(extentOf(f));
        }
        NEAR(read(leaping).value, plain.value, 2.5);
        auto unlike = poses, apart = poses;
        for (auto& f : unlike) f.head.likeness = 0.3F;
        for (auto& f : apart) f.head.apartDeg = 15;
        for (const auto& seen : {unlike, apart}) {
            const Measurement byNose = read(seen);
            QVERIFY2(byNose.value < plain.value - 8, qPrintable(QString::number(byNose.value)));
            QVERIFY2(byNose.pm90 > 11, qPrintable(QString::number(byNose.pm90)));
        }
        auto track = *buildTrack(poses, spec.scene.camera.width, spec.scene.camera.height, {});
        const std::size_t at = track.size() / 2;
        QVERIFY(track.headAt(at));
        track.manualPoints.push_back({track.timesS[at], Landmark::Nose, 0, 0});
        QVERIFY(!track.headAt(at));
    }

    /// A shoulder that goes away from an ear that is seen is misplaced; one that comes nearer may belong to a raised
    /// arm.
    void aShoulderFarFromTheEarIsDoubted() {
        auto lean = [](double upShare) {
            const auto spec = made::spec(2);
            const double bottom = made::measured(spec)->result.reps[0].bottomS;
            auto poses = sim::truePoses(spec);
            for (auto& f : poses)
                if (std::abs(f.timeS - bottom) < 0.6)
                    for (auto shoulder : {Landmark::LeftShoulder, Landmark::RightShoulder}) {
                        auto& s = f.at(shoulder);
                        const auto& ear =
                            f.at(shoulder == Landmark::LeftShoulder ? Landmark::LeftEar : Landmark::RightEar);
                        s.x += static_cast<float>(upShare * (ear.x - s.x));
                        s.y += static_cast<float>(upShare * (ear.y - s.y));
                    }
            const auto set = made::measured(spec, poses);
            return *set->result.reps[0].find("trunk_lean");
        };
        const Measurement plain = lean(0), away = lean(-0.5), nearer = lean(0.3);
        QVERIFY2(away.pm90 > plain.pm90 + 4, qPrintable(QString("%1 %2").arg(away.pm90).arg(plain.pm90)));
        NEAR(nearer.pm90, plain.pm90, 1);
    }

    /// Knees and ankles that are drawn too high in every frame, as behind a plate, look alike at rest and in the depth;
    /// no such leg belongs to that trunk.
    void legsNobodyHasAreDoubted() {
        const auto spec = made::spec(2);
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            for (auto ankle : {Landmark::LeftAnkle, Landmark::RightAnkle}) {
                auto& a = f.at(ankle);
                const auto& knee = f.at(ankle == Landmark::LeftAnkle ? Landmark::LeftKnee : Landmark::RightKnee);
                a.x += 0.45F * (knee.x - a.x), a.y += 0.45F * (knee.y - a.y);
            }
        const auto clean = made::measured(spec), seen = made::measured(spec, poses);
        for (const char* id : {"knee_flexion", "shin_angle", "top_knee_flexion"}) {
            const auto *was = clean->result.reps[0].find(id), *now = seen->result.reps[0].find(id);
            QVERIFY2(was->confidence > 0.5 && now->pm90 > was->pm90 + 3, id);
        }
    }

    /// A leg that is lost for a few frames on the way down makes the times unsure; what is read elsewhere stays.
    void aLegLostOnTheWayMakesTimesUnsure() {
        const auto spec = made::spec(2);
        const auto clean = made::measured(spec);
        const double way = clean->result.reps[0].startS + 1;
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            if (std::abs(f.timeS - way) < 0.25)
                for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee}) {
                    const auto& hip = f.at(knee == Landmark::LeftKnee ? Landmark::LeftHip : Landmark::RightHip);
                    f.at(knee).x = hip.x, f.at(knee).y = hip.y + 8;
                }
        const auto seen = made::measured(spec, poses);
        QVERIFY(clean->result.reps[0].find("lowering_s")->confidence > 0.5);
        QVERIFY(seen->result.reps[0].find("lowering_s")->confidence < 0.5);
        QVERIFY(seen->result.reps[1].find("lowering_s")->confidence > 0.5);
        QVERIFY(seen->result.reps[0].find("thigh_angle")->confidence > 0.5);
    }

    /// A network that draws all knees 9° too straight draws them so at rest as well: where the client is known to have
    /// stood straight, that is taken off.
    void kneesAtTheTopAreReadAgainstAStraightStand() {
        auto spec = made::spec(2);
        spec.motion.standingKneeDeg = 4;
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee})
                f.points[static_cast<std::size_t>(knee)].x -= 16;  // behind the leg's line
        SetContext context = made::context();
        context.movement = made::movement("squat");
        auto top = [&] {
            auto set = measureSet(poses, made::facts(spec), context);
            if (!set) qFatal("%s", made::words(set.error()));
            return *set->result.reps[0].find("top_knee_flexion");
        };
        const Measurement plain = top();
        context.stoodStraight = true;
        const Measurement against = top();
        QVERIFY2(plain.value < -3, qPrintable(QString::number(plain.value)));
        NEAR(against.value, 0, 1.5);
        QVERIFY(against.pm90 < plain.pm90);
    }

    /// Who stood straight before the first repetition and on bent knees between all of them did not stand straight
    /// there.
    void aStraightStandIsTheFirstOne() {
        auto spec = made::spec(3);
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            if (f.timeS > spec.motion.leadInS)
                for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee})
                    f.points[static_cast<std::size_t>(knee)].x += 16;  // ahead of the leg's line
        SetContext context = made::context();
        context.movement = made::movement("squat");
        context.stoodStraight = true;
        const auto set = measureSet(poses, made::facts(spec), context);
        QVERIFY(bool(set));
        for (int i = 0; i < 3; ++i) {
            const double bent = made::value(*set, i, "top_knee_flexion");
            QVERIFY2(bent > 5, qPrintable(QString::number(bent)));
        }
    }

    /// A knee that reads straight within its ± and is no straighter than it stood does not snap, and nothing is left
    /// open; one that goes past how it stood does not settle it.
    void kneesNoStraighterThanTheyStoodDoNotSnap() {
        auto spec = made::spec(2);
        auto seen = [&](double behindPx, bool onlyAfterwards) {
            auto poses = sim::truePoses(spec);
            for (auto& f : poses)
                if (!onlyAfterwards || f.timeS > spec.motion.leadInS)
                    for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee})
                        f.points[static_cast<std::size_t>(knee)].x -= static_cast<float>(behindPx);
            SetContext context = made::context();
            context.movement = made::movement("squat");
            auto set = measureSet(poses, made::facts(spec), context);
            if (!set) qFatal("%s", made::words(set.error()));
            return set->result.reps[0];
        };
        const Standard school = made::standard("whole-foot");
        const Band* band = school.bandFor(MeasureId::named("top_knee_flexion"));
        QVERIFY(band);
        auto verdict = [&](const MeasuredRep& rep) { return judge(rep, *band, school)->verdict; };
        const MeasuredRep drawnStraight = seen(7, false), snaps = seen(15, true);
        const double top = drawnStraight.find("top_knee_flexion")->value;
        QVERIFY2(top > 0 && top < 3, qPrintable(QString::number(top)));
        QCOMPARE(judge(*drawnStraight.find("top_knee_flexion"), *band, school.minConfidence).verdict, Verdict::Unsure);
        QCOMPARE(verdict(drawnStraight), Verdict::Inside);
        QVERIFY(snaps.find("top_knee_change")->value < -4);
        QVERIFY(verdict(snaps) != Verdict::Inside);
    }

    void theTopIsReadAfterTheLift() {
        auto spec = made::spec(2);
        for (auto& r : spec.motion.reps) r.lockoutLeanDeg = 12, r.topS = 1.2;
        const auto set = made::measured(spec);
        QVERIFY(made::value(*set, 0, "top_trunk_lean") < -8);
        QVERIFY(made::value(*made::measured(made::spec(2)), 0, "top_trunk_lean") > -3);
    }

    void aBounceIsHarderThanATurn() {
        auto smooth = made::spec(1), bounced = made::spec(1);
        for (auto* s : {&smooth, &bounced})
            s->motion.reps[0].lowerS = s->motion.reps[0].liftS = 1.6, s->motion.reps[0].pauseS = 0;
        bounced.motion.reps[0].bounce = 1;
        QVERIFY(made::value(*made::measured(bounced), 0, "bounce") >
                2 * made::value(*made::measured(smooth), 0, "bounce"));
    }

    void hiddenPointsLowerTheConfidence() {
        const auto spec = made::spec(1);
        auto poses = sim::truePoses(spec);
        for (auto& f : poses) f.at(Landmark::RightKnee).visibility = 0.2F;
        const auto set = made::measured(spec, poses);
        QVERIFY(set->result.reps[0].find("knee_flexion")->confidence < 0.25);
        QVERIFY(set->result.reps[0].find("trunk_lean")->confidence > 0.8);
    }

    /// The same picture, once from a camera that stands square and once from one that is 25° off, as far as the 3D
    /// estimate tells: the values are the same, their ± is not.
    void anOffSquareCameraWidensTheError() {
        const auto spec = made::spec(1);
        auto turned = sim::truePoses(spec);
        const float c = std::cos(25 * 3.14159265F / 180), n = std::sin(25 * 3.14159265F / 180);
        for (auto& f : turned)
            for (auto& w : f.world) w = {c * w[0] - n * w[2], w[1], n * w[0] + c * w[2]};
        const auto square = made::measured(spec), off = made::measured(spec, turned);
        QVERIFY(square && off && off->result.view == ViewKind::Side);
        NEAR(off->result.offSquareDeg - square->result.offSquareDeg, 25, 3);
        // A line that is level or upright stays so from wherever it is seen: the thigh at the bottom is left out.
        for (const char* id : {"trunk_lean", "shin_angle", "hip_flexion"}) {
            const auto *a = square->result.reps[0].find(id), *b = off->result.reps[0].find(id);
            QVERIFY2(b->pm90 > a->pm90 + 0.2, id);
            QVERIFY2(b->confidence < a->confidence, id);
        }
        QVERIFY(made::says(off->result.notices, NoticeKind::OffSquare));
        QVERIFY(!made::says(square->result.notices, NoticeKind::OffSquare));
    }

    void everyMeasureIsCompleteAndHasACurve() {
        const auto set = made::measured(made::spec(1));
        auto front = made::spec(1);
        front.scene.camera.azimuthDeg = 0;
        const auto seenFront = made::measured(front);
        std::set<std::string> names;
        for (const auto& def : allMeasures()) {
            QVERIFY(names.insert(def.id).second);
            QVERIFY(QString(def.title).size() > 3 && QString(def.term).size() > 3);
            QVERIFY2(!def.sketch.empty(), def.id);
            // Only what is read off marked points rests on no point of the network.
            const Draw first = def.sketch.front().draw;
            const bool marked = first == Draw::LoadPath || first == Draw::Tapes || first == Draw::TapedStick;
            QVERIFY2(marked || !def.reads.empty(), def.id);
            QVERIFY2(def.scale.from < def.scale.to, def.id);
            QVERIFY(MeasureId::named(def.id) == MeasureId(&def));
            QVERIFY(def.views != 0);
            // In either view there is a course to show, as long as that view's own clock.
            for (const auto* of : {&*set, &*seenFront}) {
                const auto curve = curveOf(MeasureId(&def), *of->first.series, Side::Right);
                QVERIFY2(curve.measure, def.id);
                QCOMPARE(curve.values.size(), of->track().size());
            }
            const auto& named = set->result.context.movement.measures;
            if (!(def.views & kSideView)) continue;
            if (first == Draw::Back || marked) continue;                                 // test_back, test_marks
            if (std::find(named.begin(), named.end(), def.id) == named.end()) continue;  // of another movement
            const Measurement* m = set->result.reps[0].find(def.id);
            QVERIFY2(m, def.id);
            QVERIFY(m->pm90 > 0 && m->confidence > 0.5);
            QVERIFY(m->atS >= 0 && m->atS <= set->track().timesS.back());
            QVERIFY(!unitName(m->measure->unit).empty());
        }
        QVERIFY(!MeasureId::named("no_such_measure"));
        QVERIFY(MeasureId().name().empty());
    }

    /// What the rear leg shows is as sure as the rear leg was seen, not as the front one.
    void confidenceComesFromThePointsThatAreRead() {
        auto spec = made::spec(3);
        spec.motion.movement = "split-squat";
        for (auto& r : spec.motion.reps) r.frontKneeDeg = 90;
        auto poses = sim::truePoses(spec);
        const auto seen = made::measured(spec, poses);
        QVERIFY2(bool(seen), seen ? "" : made::words(seen.error()));
        const Side front = *seen->result.reps[0].leg;
        for (auto& f : poses) f.at(ofSide(Landmark::LeftKnee, otherSide(front))).visibility = 0.1F;
        const auto hidden = made::measured(spec, poses);
        QVERIFY(bool(hidden));
        const auto &before = seen->result.reps[1], &after = hidden->result.reps[1];
        for (const char* id : {"rear_knee_flexion", "rear_knee_behind_hip", "rear_knee_height", "rear_knee_speed"}) {
            QVERIFY2(before.find(id)->confidence > 0.9, id);
            QVERIFY2(after.find(id)->confidence < 0.2, id);
        }
        NEAR(after.find("knee_flexion")->confidence, before.find("knee_flexion")->confidence, 1e-6);
    }

    void frontalMeasuresOfBothLegsNeedBoth() {
        auto spec = made::spec(3);
        spec.scene.camera.azimuthDeg = 0;
        auto poses = sim::truePoses(spec);
        for (auto& f : poses) f.at(Landmark::RightAnkle).visibility = 0.1F;
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        const auto& rep = set->result.reps[1];
        for (const char* id : {"knee_ratio", "stance", "trunk_shift", "toe_out_uneven", "knee_in_right"})
            QVERIFY2(rep.find(id)->confidence < 0.2, id);
        for (const char* id : {"knee_in_left", "shoulder_tilt"}) QVERIFY2(rep.find(id)->confidence > 0.9, id);
    }

    /// A window is a stretch of time: at 60 frames a second it holds twice the samples of 30.
    void windowsAreInSeconds() {
        auto spec = made::spec(1);
        std::vector<std::size_t> half;
        for (double rate : {30.0, 60.0, 120.0}) {
            spec.frameRate = rate;
            const auto set = made::measured(spec);
            QVERIFY(bool(set));
            const Movement movement;
            const MeasureInput in{set->track(), set->series(), nullptr, set->first.reps[0], nullptr, 0,
                                  movement,     nullptr};
            half.push_back(in.samples(2.0 / 30));
        }
        QCOMPARE(half, (std::vector<std::size_t>{2, 4, 8}));
    }

    void jitterIsSmoothedAlikeAtEveryRate() {
        // The same noise in time: what is left of it at the bottom may not grow with the frame rate.
        auto spread = [](double rate) {
            auto spec = made::spec(6);
            spec.frameRate = rate;
            const auto clean = made::measured(spec),
                       noisy = made::measured(spec, made::jittered(sim::truePoses(spec), 1.5));
            double sum = 0;
            for (int r = 0; r < 6; ++r)
                sum += std::abs(made::value(*clean, r, "trunk_lean") - made::value(*noisy, r, "trunk_lean"));
            return sum / 6;
        };
        const double slow = spread(30), fast = spread(120);
        QVERIFY2(fast < 1.2 * slow + 0.05, qPrintable(QString("%1 at 30, %2 at 120").arg(slow).arg(fast)));
    }

    void whatIsNoNumberIsNoReading() {
        auto spec = made::spec(2);
        spec.scene.camera.azimuthDeg = 0;
        auto poses = sim::truePoses(spec);
        // Feet in one point: directions and ratios have no value.
        for (auto& f : poses)
            for (int id = 27; id <= 32; ++id) f.points[static_cast<std::size_t>(id)] = f.points[27];
        const auto set = made::measured(spec, poses);
        QVERIFY2(bool(set), set ? "" : made::words(set.error()));
        for (const auto& rep : set->result.reps)
            for (const auto& m : rep.measures) {
                QVERIFY2(std::isfinite(m.value) && std::isfinite(m.pm90), m.measure->id);
                QVERIFY2(std::abs(m.value) < 1e6, m.measure->id);
            }
    }

    void massCentreOfThePoseIsThatOfTheBody() {
        const auto spec = made::spec(1);
        const auto set = made::measured(spec);
        const sim::SpecMotion motion(spec.motion);
        const sim::Camera camera(spec.scene.camera);
        for (double t : {0.5, set->result.reps[0].bottomS}) {
            double x = 0, y = 0;
            camera.project(motion.at(t).massCentre, x, y);
            const Vec2 seen =
                set->track().toPicture(massCentre(set->track(), set->track().sampleAt(t), PointSet::Seen));
            NEAR(seen.x(), x, 0.02 * 500);
            NEAR(seen.y(), y, 0.02 * 500);
        }
    }
};

ZEVO_SUITE(TestMeasures, "measures")
#include "test_measures.moc"
