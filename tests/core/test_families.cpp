// Lunges, hinges and bridges; which leg works; front and side joined; what a set looks like. From true landmarks.

#include "core/series/front_series.h"
#include "core/series/sinking.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

sim::ClipSpec filmed(const std::string& movement, const std::string& variation = {}, double azimuth = 90,
                     int reps = 4) {
    sim::ClipSpec s;
    s.motion.movement = movement;
    s.motion.variation = variation;
    s.motion.reps.resize(static_cast<std::size_t>(reps));
    s.scene.camera.azimuthDeg = azimuth;
    s.scene.camera.distanceM = 4;
    if (movement == "bridge") s.scene.camera.heightM = 0.5, s.scene.camera.aimHeightM = 0.42;
    return s;
}

MeasuredSet measured(const sim::ClipSpec& spec, const PoseFrames& poses) {
    auto set = made::measured(spec, poses);
    if (!set) qFatal("%s", made::words(set.error()));
    return std::move(*set);
}

MeasuredSet measured(const sim::ClipSpec& spec) {
    return measured(spec, sim::truePoses(spec));
}

MeasuredSet judged(const sim::ClipSpec& spec, const std::string& standard) {
    auto set = measured(spec);
    judgeSet(set.result, made::standard(standard));
    return set;
}

const Finding* found(const MeasuredSet& set, const std::string& fault) {
    for (const auto& f : set.result.findings)
        if (f.fault == fault) return &f;
    return nullptr;
}

}  // namespace

class TestFamilies : public QObject {
    Q_OBJECT
  private slots:
    void theWorkingLegIsNamed_data() {
        QTest::addColumn<QString>("movement");
        QTest::addColumn<double>("azimuth");
        for (const char* m : {"reverse-lunge", "forward-lunge", "walking-lunge", "lateral-lunge"})
            for (double a : {90.0, -90.0, 0.0}) {
                // Who steps or walks towards the camera grows in its picture: not a view for these.
                if ((QString(m) == "walking-lunge" || QString(m) == "forward-lunge") && a == 0) continue;
                QTest::newRow(qPrintable(QString("%1 from %2").arg(m).arg(a))) << m << a;
            }
    }
    void theWorkingLegIsNamed() {
        QFETCH(QString, movement);
        QFETCH(double, azimuth);
        auto spec = filmed(movement.toStdString(), "", azimuth);
        spec.motion.alternate = true;
        spec.motion.workingLeg = 0;
        const auto set = measured(spec);
        QCOMPARE(set.result.reps.size(), std::size_t{4});
        for (std::size_t i = 0; i < 4; ++i) {
            QCOMPARE(set.result.reps[i].leg, std::optional(i % 2 ? Side::Right : Side::Left));
            QCOMPARE(set.result.reps[i].kind, RepKind::Full);
        }
    }

    void aSplitSquatHasOneLegForTheWholeSet() {
        for (int leg : {0, 1}) {
            auto spec = filmed("split-squat");
            spec.motion.workingLeg = leg;
            for (const auto& rep : measured(spec).result.reps)
                QCOMPARE(rep.leg, std::optional(leg ? Side::Right : Side::Left));
        }
        QVERIFY(!measured(filmed("hinge")).result.reps[0].leg);
    }

    void anglesAreThoseOfTheWorkingLeg() {
        auto spec = filmed("reverse-lunge");
        spec.motion.alternate = true;
        for (auto& r : spec.motion.reps) r.frontKneeDeg = 95, r.frontShinDeg = 14;
        const auto set = measured(spec);
        for (int rep = 0; rep < 4; ++rep) {
            NEAR(made::value(set, rep, "knee_flexion"), 95, 1.5);
            NEAR(made::value(set, rep, "shin_angle"), 14, 2);
        }
    }

    /// A lunge is timed by the sinking: the leg that steps bends in the air before that.
    void lungesAreTimedByTheirSinking() {
        auto spec = filmed("split-squat");
        for (auto& r : spec.motion.reps) r.lowerS = 2, r.pauseS = 0.5, r.liftS = 1.5;
        const auto set = measured(spec);
        for (int rep = 0; rep < 4; ++rep) {
            NEAR(made::value(set, rep, "lowering_s"), 2.0, 0.3);
            NEAR(made::value(set, rep, "lifting_s"), 1.5, 0.3);
        }
    }

    void aFaultOfOneLegIsThatLegs() {
        auto spec = filmed("reverse-lunge", "", 90, 6);
        spec.motion.alternate = true;
        for (std::size_t i = 0; i < 6; i += 2) spec.motion.reps[i].frontKneeDeg = 70;  // the right leg's reps
        const auto set = judged(spec, "tall");
        const Finding* f = found(set, "front_knee_open");
        QVERIFY(f && f->side == Side::Right);
        QCOMPARE(f->reps, (std::vector<int>{1, 3, 5}));
        QCOMPARE(f->severity, Severity::Clear);
    }

    void legsAreComparedWithTheirError() {
        auto spec = filmed("reverse-lunge", "", 90, 6);
        spec.motion.alternate = true;
        for (std::size_t i = 0; i < 6; i += 2) spec.motion.reps[i].frontKneeDeg = 70;
        const auto set = judged(spec, "tall");
        const auto& legs = set.result.legs;
        const auto knee =
            std::find_if(legs.begin(), legs.end(), [](const auto& l) { return l.measure.name() == "knee_flexion"; });
        QVERIFY(knee != legs.end());
        NEAR(knee->comparison.difference, -20, 3);
        QVERIFY(knee->comparison.moreThanNoise);
        NEAR(knee->comparison.index, 100 * 70 / 90.0, 4);
        const auto tempo =
            std::find_if(legs.begin(), legs.end(), [](const auto& l) { return l.measure.name() == "tension_s"; });
        QVERIFY(tempo != legs.end() && !tempo->comparison.moreThanNoise);
    }

    void aHeelIsOnlyReadOnTheFootThatIsFollowed() {
        auto spec = filmed("split-squat");
        spec.motion.workingLeg = 1;  // near the camera
        QVERIFY(measured(spec).result.reps[0].find("heel_rise"));
        spec.motion.workingLeg = 0;
        QVERIFY(!measured(spec).result.reps[0].find("heel_rise"));
    }

    void hingesAreReadByHipsKneesAndHands() {
        auto spec = filmed("hinge", "romanian");
        spec.motion.reps[1].loadDriftCm = 20;
        spec.motion.reps[2].kneeBendDeg = 60, spec.motion.reps[2].hingeLeanDeg = 45;
        spec.motion.reps[3].hingeLeanDeg = 100;
        const auto set = measured(spec);
        QVERIFY(made::value(set, 0, "hip_per_knee") > 3 && made::value(set, 2, "hip_per_knee") < 2);
        NEAR(made::value(set, 1, "load_ahead") - made::value(set, 0, "load_ahead"), 20, 4);
        QVERIFY(made::value(set, 0, "hip_travel") > 0.1);
        QVERIFY(made::value(set, 3, "hands_height") < made::value(set, 0, "hands_height") - 0.3);
        NEAR(made::value(set, 0, "trunk_lean"), 62, 2);
    }

    /// Hands that hold a stick on the back are no place of a load.
    void handsOnAStickTellNothingOfALoad() {
        const auto set = measured(filmed("hinge", "dowel"));
        for (const char* id : {"load_ahead", "hands_height", "knees_early"}) QVERIFY2(!set.result.reps[0].find(id), id);
        QVERIFY(set.result.reps[0].find("hip_travel"));
        QVERIFY(measured(filmed("hinge")).result.reps[0].find("hands_height"));
    }

    void aBridgeLiftsFirst() {
        auto spec = filmed("bridge");
        for (auto& r : spec.motion.reps) r.liftS = 1, r.pauseS = 1.5, r.lowerS = 2.5;
        const auto set = measured(spec);
        NEAR(made::value(set, 1, "lifting_s"), 1.0, 0.3);
        NEAR(made::value(set, 1, "lowering_s"), 2.5, 0.4);
        NEAR(made::value(set, 1, "bridge_line"), 176, 1.5);
    }

    void onlyMeasuresOfTheViewAndMovementAreRead() {
        const auto front = measured(filmed("squat", "", 0));
        QVERIFY(front.result.reps[0].find("knee_in_left") && !front.result.reps[0].find("trunk_lean"));
        const auto side = measured(filmed("squat"));
        QVERIFY(!side.result.reps[0].find("knee_in_left") && side.result.reps[0].find("thigh_angle"));
        const auto angle = measured(filmed("squat", "", 45));
        QCOMPARE(angle.result.view, ViewKind::Oblique);
        QVERIFY(angle.result.reps[0].find("lowering_s") && !angle.result.reps[0].find("thigh_angle"));
        QCOMPARE(angle.result.notices.front().kind, NoticeKind::SeenObliquely);
        QVERIFY(!measured(filmed("bridge")).result.reps[0].find("heel_rise"));
    }

    /// Knee over the line from the ankle over the toe: a clean knee reads 0, one 9 cm inside it 9 of a shank's 43 cm.
    void kneesAreReadAgainstTheirToes() {
        auto spec = filmed("squat", "", 0);
        spec.motion.reps[1].kneeInLeftCm = 9;
        spec.motion.reps[2].kneeInRightCm = -9;
        const auto set = measured(spec);
        NEAR(made::value(set, 0, "knee_in_left"), 0, 0.04);
        NEAR(made::value(set, 1, "knee_in_left"), 0.21, 0.05);
        NEAR(made::value(set, 1, "knee_in_right"), 0, 0.04);
        NEAR(made::value(set, 2, "knee_in_right"), -0.21, 0.05);
        // Inside its ankle a knee stands by 9 cm less what turned-out toes put it outside (about 4).
        NEAR(made::value(set, 1, "knee_inside_left") - made::value(set, 0, "knee_inside_left"), 0.19, 0.06);
    }

    /// Knock knees stand inside their ankles in every frame and come no further in; a knee that comes in is seen on top
    /// of them.
    void knockKneesAreABuild() {
        auto knees = [](double everywhereShare, double atBottomCm) {
            auto spec = filmed("squat", "", 0);
            for (auto& r : spec.motion.reps) r.kneeInLeftCm = atBottomCm;
            auto poses = sim::truePoses(spec);
            for (auto& f : poses)
                for (auto [knee, ankle] : {std::pair{Landmark::LeftKnee, Landmark::LeftAnkle},
                                           std::pair{Landmark::RightKnee, Landmark::RightAnkle}}) {
                    auto& k = f.points[static_cast<std::size_t>(knee)];
                    const auto& a = f.points[static_cast<std::size_t>(ankle)];
                    const auto& other = f.points[static_cast<std::size_t>(
                        knee == Landmark::LeftKnee ? Landmark::RightKnee : Landmark::LeftKnee)];
                    k.x += static_cast<float>(everywhereShare * std::hypot(k.x - a.x, k.y - a.y) *
                                              (other.x > k.x ? 1 : -1));
                }
            SetContext context = made::context();
            context.movement = made::movement("squat");
            auto set = measureSet(poses, made::facts(spec), context);
            if (!set) qFatal("%s", made::words(set.error()));
            judgeSet(set->result, made::standard("whole-foot"));
            return std::move(*set);
        };
        const auto clean = knees(0, 0), build = knees(0.14, 0), fault = knees(0, 9), both = knees(0.08, 9);
        NEAR(made::value(build, 1, "knee_inside_left") - made::value(clean, 1, "knee_inside_left"), 0.14, 0.04);
        NEAR(made::value(build, 1, "knee_moved_in_left"), made::value(clean, 1, "knee_moved_in_left"), 0.04);
        NEAR(made::value(build, 1, "knee_in_left"), made::value(clean, 1, "knee_in_left"), 0.04);
        NEAR(made::value(fault, 1, "knee_moved_in_left") - made::value(clean, 1, "knee_moved_in_left"), 0.19, 0.05);
        QVERIFY(!found(clean, "knees_cave"));
        const Finding* stands = found(build, "knees_cave");
        QVERIFY(!stands || stands->severity == Severity::Unsure);
        for (const auto* set : {&fault, &both}) {
            const Finding* f = found(*set, "knees_cave");
            QVERIFY(f && f->severity == Severity::Clear && f->side == Side::Left);
        }
    }

    /// The front foot against the rear one, a metre further from the camera; wherever in the picture the client stands.
    void feetStandOnTwoRails() {
        auto rails = [](const char* movement, double cm, double aside, double azimuth = 0) {
            auto spec = filmed(movement, "", azimuth);
            spec.motion.railsCm = cm;
            spec.scene.camera.aimSideM = aside;
            return judged(spec, "tall");
        };
        for (const char* movement : {"split-squat", "reverse-lunge"})
            for (double aside : {0.0, 0.5, -0.5}) {
                const auto clean = rails(movement, 0, aside), line = rails(movement, -25, aside),
                           wide = rails(movement, 25, aside);
                const double now = made::value(clean, 0, "feet_on_rails");
                // 25 of about 38 cm between the shoulders.
                NEAR(made::value(line, 0, "feet_on_rails") - now, -0.66, 0.12);
                NEAR(made::value(wide, 0, "feet_on_rails") - now, 0.66, 0.12);
                QVERIFY(!found(clean, "feet_in_line") && !found(clean, "feet_far_apart"));
                QVERIFY(found(line, "feet_in_line") && !found(line, "feet_far_apart"));
                QVERIFY(found(wide, "feet_far_apart") && !found(wide, "feet_in_line"));
            }
        NEAR(made::value(rails("split-squat", -25, 0, 180), 0, "feet_on_rails"),
             made::value(rails("split-squat", -25, 0), 0, "feet_on_rails"), 0.12);  // and from behind
    }

    /// Feet that cross are drawn side by side by the network that is followed: the one that was trained elsewhere tells
    /// them, and what the two differ by is in the ±.
    void crossedFeetAreToldByTheOtherNetwork() {
        auto spec = filmed("split-squat", "", 0);
        spec.motion.railsCm = -38;
        const auto truth = sim::truePoses(spec);
        auto followed = truth;
        std::vector<SecondEstimate> others;
        const auto perfect = measured(spec);
        for (auto& f : followed) {
            for (const auto& rep : perfect.result.reps)
                if (std::abs(f.timeS - rep.bottomS) < 0.07) {
                    SecondEstimate o{f.timeS, "second", f.points};
                    for (auto& p : o.points) p.presence = 1;
                    others.push_back(o);
                }
            std::swap(f.at(Landmark::LeftKnee), f.at(Landmark::RightKnee));
            std::swap(f.at(Landmark::LeftAnkle), f.at(Landmark::RightAnkle));
        }
        const auto alone = measureSet(followed, made::facts(spec), made::contextOf(spec)),
                   both = measureSet(followed, made::facts(spec), made::contextOf(spec), others);
        QVERIFY(alone && both);
        const double truly = made::value(perfect, 0, "feet_on_rails");
        QVERIFY(truly < -0.3 && made::value(*alone, 0, "feet_on_rails") > 0.3);
        NEAR(made::value(*both, 0, "feet_on_rails"), truly, 0.05);
        QVERIFY(both->result.reps[0].find("feet_on_rails")->pm90 > alone->result.reps[0].find("feet_on_rails")->pm90);
        // Where a squat's knees are, or those of a lateral lunge, nobody is asked.
        for (const char* movement : {"squat", "lateral-lunge"}) {
            auto wide = filmed(movement, "", 0);
            const auto plain = measured(wide);
            std::vector<SecondEstimate> off;
            for (const auto& f : sim::truePoses(wide))
                if (std::abs(f.timeS - plain.result.reps[0].bottomS) < 0.07) {
                    off.push_back({f.timeS, "second", f.points});
                    for (auto& p : off.back().points) p.presence = 1, p.x += 15;
                }
            QCOMPARE(measureSet(sim::truePoses(wide), made::facts(wide), made::contextOf(wide), off)->result.reps,
                     plain.result.reps);
        }
    }

    void stanceFeetHipsAndShouldersFromTheFront() {
        auto spec = filmed("squat", "", 0);
        spec.motion.toeOutDeg = 14, spec.motion.toeOutUnevenDeg = 12;
        spec.motion.reps[1].shiftCm = 6, spec.motion.reps[2].shoulderTipDeg = 10, spec.motion.reps[3].kneeWobbleCm = 3;
        const auto set = measured(spec);
        NEAR(made::value(set, 0, "toe_out_left"), 14, 3);
        NEAR(made::value(set, 0, "toe_out_right"), 26, 4);
        NEAR(made::value(set, 0, "toe_out_uneven"), 12, 3);
        NEAR(made::value(set, 1, "trunk_shift"), 0.18, 0.03);  // 6 of 33 cm
        NEAR(made::value(set, 2, "shoulder_tilt"), 10, 4);
        QVERIFY(made::value(set, 3, "wobble_left") > 1.2 && made::value(set, 0, "wobble_left") < 0.4);
    }

    /// Two cameras, the second switched on 0.44 s later and running at another rate.
    void twoClipsOfOneSetAreJoined() {
        auto side = filmed("squat");
        side.motion.reps[2].kneeInLeftCm = side.motion.reps[3].kneeInLeftCm = 11;
        side.motion.reps[1].heelRiseCm = 5;
        auto front = side;
        front.scene.camera.azimuthDeg = 0;
        front.startS = 0.44;
        front.frameRate = 50;
        auto set = measured(side);
        const auto joined = joinSecondView(set, sim::truePoses(front), made::facts(front));
        QVERIFY2(bool(joined), joined ? "" : made::words(joined.error()));
        NEAR(set.result.second->lagS(), -0.44, 0.015);  // half a frame
        QVERIFY(set.result.second->alignment.agreement > 0.99);
        const Measurement* knee = set.result.reps[2].find("knee_in_left");
        QVERIFY(knee && knee->second);
        NEAR(knee->atS, set.result.reps[2].bottomS - 0.44, 1.0);  // by the second clip's clock
        // What the front view cannot tell stays said, what the side view tells does not.
        const auto& notices = set.result.notices;
        QVERIFY(made::says(notices, NoticeKind::HipLineUnread) && !made::says(notices, NoticeKind::SeenFromFront));
        judgeSet(set.result, made::standard("whole-foot"));
        QVERIFY(found(set, "heels_rise") && !found(set, "heels_rise")->second);
        const Finding* f = found(set, "knees_cave");
        QVERIFY(f && f->second && f->side == Side::Left);
        QCOMPARE(f->reps, (std::vector<int>{3, 4}));
    }

    void clipsFilmedOneAfterTheOtherAreJudgedByThemselves() {
        auto side = filmed("squat", "", 90, 5), front = filmed("squat", "", 0, 3);
        for (auto& r : front.motion.reps) r.kneeInRightCm = 11, r.lowerS = 3.1;
        auto set = measured(side);
        QVERIFY(bool(joinSecondView(set, sim::truePoses(front), made::facts(front), false)));
        QVERIFY(!set.result.reps[0].find("knee_in_right"));
        judgeSet(set.result, made::standard("whole-foot"));
        const Finding* f = found(set, "knees_cave");
        QVERIFY(f && f->second);
        QCOMPARE(f->reps, (std::vector<int>{1, 2, 3}));
    }

    void twoClipsOfTheSameSideAreRefused() {
        auto set = measured(filmed("squat"));
        const auto other = filmed("squat", "", -90);
        const auto joined = joinSecondView(set, sim::truePoses(other), made::facts(other));
        QVERIFY(!joined && joined.error().notice->kind == NoticeKind::SameView);
        QVERIFY(!set.result.second && !set.other);
        const auto front = filmed("squat", "", 0);
        QVERIFY(bool(joinSecondView(set, sim::truePoses(front), made::facts(front), true, 0.1)));
        NEAR(set.result.second->lagS() - set.result.second->alignment.lagS, 0.1, 1e-9);
    }

    void hingesAlignByTheirShoulders() {
        const auto side = filmed("hinge");
        auto front = side;
        front.scene.camera.azimuthDeg = 0, front.startS = 0.3;
        auto set = measured(side);
        QVERIFY(bool(joinSecondView(set, sim::truePoses(front), made::facts(front))));
        NEAR(set.result.second->lagS(), -0.3, 0.034);
    }

    void whatASetLooksLike() {
        for (const auto& [movement, family] : {std::pair{"squat", "squat"}, std::pair{"split-squat", "lunge"},
                                               std::pair{"hinge", "hinge"}, std::pair{"bridge", "bridge"}}) {
            auto spec = filmed(movement);
            QCOMPARE(measured(spec).result.looksLike, std::string());  // as chosen
            auto context = made::contextOf(spec);
            context.movement = made::movement(std::string(movement) == "squat" ? "hinge" : "squat");
            const auto wrong = measureSet(sim::truePoses(spec), made::facts(spec), context);
            // Where the wrong movement finds no repetition at all, the refusal says what it looks like.
            const std::string said = wrong ? wrong->result.looksLike : present::sentence(wrong.error()).toStdString();
            QVERIFY2(said.find(family) != std::string::npos, said.c_str());
        }
    }

    void theFootEndIsOnlyBelievedWhenTheLegsHold() {
        auto spec = filmed("bridge", "", 0);
        spec.scene.camera.distanceM = 1.9, spec.scene.camera.heightM = 0.6;
        auto poses = sim::truePoses(spec);
        for (std::size_t i = poses.size() / 2; i < poses.size(); ++i)  // legs taken for each other from there on
            std::swap(poses[i].at(Landmark::LeftAnkle), poses[i].at(Landmark::RightAnkle));
        const auto swapped = made::measured(spec, poses);
        QVERIFY(!swapped);
        QCOMPARE(swapped.error().notice->kind, NoticeKind::LegsNotToldApart);
    }

    /// A heel that could not be read has not stayed down: no depth is called usable, and no curve is drawn through it.
    void usableDepthIsNotSaidOfAHeelThatWasNotSeen() {
        const auto spec = filmed("squat");
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            for (auto& s : f.shoes) s.state = ShoeReading::State::Unclear;
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        for (const char* id : {"heel_rise", "usable_depth", "depth_past_control"})
            QVERIFY2(!set->result.reps[0].find(id), id);
        for (double rise : set->series().heelRise) QVERIFY(std::isnan(rise));
        QVERIFY(set->result.reps[0].find("thigh_angle"));
    }

    /// What no shoe does is no reading: a heel up from the first moment to the last, one behind what a hinge lowers
    /// before it; toes that are up under the mass centre, or by no more than their strip errs by, are open.
    void shoesThatCannotBeSoAreNotBelieved() {
        auto measuredWith = [](const sim::ClipSpec& spec, auto heelPx, auto toePx) {
            auto poses = sim::truePoses(spec);
            const auto track = buildTrack(poses, spec.scene.camera.width, spec.scene.camera.height, {175, "auto"});
            if (!track) qFatal("%s", made::words(track.error()));
            const auto depth = computeSeries(*track).depth;
            for (std::size_t i = 0; i < poses.size(); i += 3) {
                const double share = depth[track->sampleAt(poses[i].timeS)] / 0.5;
                auto reading = [](double px) {
                    return ShoeReading{ShoeReading::State::Read, static_cast<float>(px), 0.1F, 0.1F, 1.0F};
                };
                poses[i].shoes[1] = reading(heelPx(share)), poses[i].shoes[3] = reading(toePx(share));
            }
            return measured(spec, poses);
        };
        auto none = [](double) { return 0.0; };
        auto deep = [](double share) { return share > 0.4 ? 14.0 : 0.0; };
        auto always = [](double) { return 14.0; };
        const auto squat = filmed("squat");
        auto heel = measuredWith(squat, deep, none);
        QVERIFY(heel.result.reps[0].find("heel_rise")->value > 3);
        QVERIFY(heel.result.reps[0].find("usable_depth"));
        heel = measuredWith(squat, always, none);
        QVERIFY(!heel.result.reps[0].find("heel_rise") && !heel.result.reps[0].find("usable_depth"));

        auto toes = *measuredWith(squat, none, deep).result.reps[0].find("toe_rise");
        QVERIFY(toes.value > 3 && toes.pm90 >= 1.0 && toes.pm90 < toes.value - 1.5);
        auto forward = squat;
        for (auto& r : forward.motion.reps) r.balanceShift = 0.38, r.shinBottomDeg = 42;
        toes = *measuredWith(forward, none, deep).result.reps[0].find("toe_rise");
        QVERIFY(toes.pm90 >= toes.value);

        auto hinge = filmed("hinge", "romanian");
        for (auto& r : hinge.motion.reps) r.hingeLeanDeg = 55;
        QVERIFY(measuredWith(hinge, none, none).result.reps[0].find("heel_rise"));
        for (auto& r : hinge.motion.reps) r.hingeLeanDeg = 104;
        QVERIFY(!measuredWith(hinge, none, none).result.reps[0].find("heel_rise"));
    }

    /// One shin that is misread, behind a bell, lends nobody an ankle they do not have.
    void oneMisreadShinMakesNoAnkle() {
        const auto spec = filmed("squat");
        const auto clean = measured(spec);
        auto poses = sim::truePoses(spec);
        for (auto& f : poses)
            if (std::abs(f.timeS - clean.result.reps[1].bottomS) < 0.4)
                for (auto knee : {Landmark::LeftKnee, Landmark::RightKnee}) f.at(knee).x += 25;
        const auto seen = measured(spec, poses);
        QVERIFY(made::value(seen, 1, "shin_angle") > made::value(clean, 1, "shin_angle") + 8);
        for (int rep : {0, 2, 3})
            NEAR(made::value(seen, rep, "needed_lean"), made::value(clean, rep, "needed_lean"), 2);
    }

    void usableDepthEndsWhereTheHeelRises() {
        auto spec = filmed("squat");
        for (auto& r : spec.motion.reps) r.thighBottomDeg = -32, r.heelFrom = 0.66;
        spec.motion.reps[2].heelRiseCm = spec.motion.reps[3].heelRiseCm = 6;
        const auto set = judged(spec, "whole-foot");
        NEAR(made::value(set, 0, "usable_depth"), made::value(set, 0, "thigh_angle"), 2);
        QVERIFY(made::value(set, 2, "usable_depth") > made::value(set, 2, "thigh_angle") + 15);
        QVERIFY(found(set, "depth_beyond_control"));
        // A heel that is up by no more than the reading leaves open may have stayed down.
        spec.motion.reps[2].heelRiseCm = spec.motion.reps[3].heelRiseCm = 1.9;
        const auto little = judged(spec, "whole-foot");
        const Finding* open = found(little, "depth_beyond_control");
        QVERIFY(!open || open->severity == Severity::Unsure);
        QVERIFY(little.result.reps[2].find("usable_depth")->pm90 > 12);
        spec.motion.reps[2].heelRiseCm = spec.motion.reps[3].heelRiseCm = 6;
        // Heels that rise long before level are the fault themselves, not the depth.
        for (auto& r : spec.motion.reps) r.heelFrom = 0.35;
        const auto early = judged(spec, "whole-foot");
        QVERIFY(found(early, "heels_rise") && !found(early, "depth_beyond_control"));
    }
};

ZEVO_SUITE(TestFamilies, "families")
#include "test_families.moc"
