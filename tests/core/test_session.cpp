// A set as a document: edits fold to what they say, states are made from the first part that changed, what cannot be
// measured is refused, older values stay until they are measured anew.
#include <random>

#include "core/reps/alignment.h"
#include "core/serial/edit_json.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

Result<SetState> again(const Observations& seen, const Edits& edits, const SetState& before) {
    return recompute(seen, edits, *made::catalogue(), &before);
}

sim::ClipSpec frontOf(sim::ClipSpec spec, double laterS = 0.4) {
    spec.scene.camera.azimuthDeg = 0;
    spec.startS = laterS;
    return spec;
}

}  // namespace

class TestSession : public QObject {
    Q_OBJECT
    sim::ClipSpec m_spec = made::spec(4);
    Observations m_seen;
    Edits m_edits;

  private slots:
    void initTestCase() {
        m_spec.motion.reps[1].heelRiseCm = m_spec.motion.reps[2].heelRiseCm = 6;
        m_seen = {made::observation(m_spec), made::observation(frontOf(m_spec))};
        m_edits = {FactsSet{made::factsOf(m_spec)}, StandardChosen{"whole-foot"}};
    }

    void editsFoldToWhatTheySay() {
        Edits e = m_edits;
        e = with(e, SpanLeftOut{{2, 4}, true});
        e = with(e, SpanLeftOut{{6, 8}, true});
        e = with(e, SpanLeftOut{{2, 4}, false});
        e = with(e, SecondAdded{1, true});
        e = with(e, SecondNudged{0.04});
        e = with(e, SecondNudged{0.08});
        e = with(e, PointPlaced{false, {3.0, Landmark::RightKnee, 10, 20, 0.3}});
        e = with(e, PointPlaced{false, {3.0, Landmark::RightKnee, 11, 21, 0.3}});
        const EditedSet s = fold(e);
        QCOMPARE(s.leftOut, (std::vector<Span>{{6, 8}}));
        QVERIFY(s.second && s.second->nudgeS == 0.08);
        QCOMPARE(s.views[0].corrections.moved.size(), std::size_t{1});
        QCOMPARE(s.views[0].corrections.moved[0].x, 11.0);
        QCOMPARE(e.size(), std::size_t{7});  // fiddling does not make the list grow
        QVERIFY(!fold(with(e, SecondRemoved{})).second);
    }

    void editsComeBackFromTheRecord() {
        SetFacts f = made::factsOf(m_spec);
        f.tempo = Tempo{2.5, 0, 1};
        f.pain = {1, 4, true, {{"low-back"}}, {"fall", "numbness"}, {"surgery"}, {"to a box"}};
        f.ankleLimitDeg = 33;
        f.stoodStraight = true;
        const Edits all{FactsSet{f},
                        StandardChosen{"upright"},
                        SpanLeftOut{{1.25, 3.5}, true},
                        SecondAdded{1, false},
                        SecondRemoved{},
                        SecondNudged{-0.04},
                        FilmedSeparately{true},
                        PointPlaced{true, {3.0, Landmark::LeftHeel, 10.5, 20.25, 0.3}},
                        Trimmed{false, {1, 9}},
                        RepetitionSet{false, {{2, 9}, {{2, 4}, {5, 8}}}},
                        PersonChosen{true, 1.5, 300, 200},
                        CueGiven{"heels_rise", "Press the floor away."},
                        CueRetracted{},
                        LegNamed{false, {2.5, Side::Right}},
                        RestPoseChosen{true, 0.5},
                        ReferenceLength{false, {10, 20, 30, 400, 91.5}},
                        NotePinned{false, 2.25, "looks down here"},
                        PointMarked{true, {MarkKind::KneeLeft, 12, {{0.5, 310.25, 402}}, nullptr}},
                        askTaken({"depth", "box", 42.5, "Wenna", "2026-12-01", "depth_short", "squat"})};
        QCOMPARE(all.size(), std::variant_size_v<Edit>);
        for (const Edit& e : all) {
            const auto [kind, payload] = writeEdit(e);
            const auto back = readEdit(kind, payload);
            QVERIFY2(back && *back == e, kind.c_str());
            QVERIFY(!readEdit(kind, "[1"));
        }
        QVERIFY(!readEdit("from_the_future", "{}"));
        QVERIFY(!readEdit("landmark_moved", R"({"at_s":1,"landmark":99,"x":1,"y":1,"reach_s":1})"));
        const std::vector<Notice> notices{{NoticeKind::OffSquare, {17.0}},
                                          {NoticeKind::FreeText, {std::string("x")}, true}};
        QCOMPARE(readNotices(writeNotices(notices)), notices);
        QVERIFY(readNotices("nonsense").empty());
    }

    void theLastCueGivenCounts() {
        Edits e = with(m_edits, CueGiven{"heels_rise", "Heels heavy."});
        e = with(e, CueGiven{"heels_rise", "Press the floor away."});
        QCOMPARE(e.size(), m_edits.size() + 1);
        QCOMPARE(fold(e).cue->wording, std::string("Press the floor away."));
        QVERIFY(!fold(with(e, CueRetracted{})).cue);
        SetFacts f = made::factsOf(m_spec);
        f.log.kind = SetKind::WarmUp;
        QVERIFY(fold(with(e, FactsSet{f})).facts.log.kind == SetKind::WarmUp && fold(with(e, FactsSet{f})).cue);
    }

    void onlyWhatChangedIsMadeAnew() {
        const auto whole = recompute(m_seen, m_edits, *made::catalogue());
        QVERIFY2(bool(whole), whole ? "" : made::words(whole.error()));
        QCOMPARE(whole->from, Stage::Clean);
        auto from = [&](const Edit& e) {
            const auto s = again(m_seen, with(m_edits, e), *whole);
            return s ? s->from : Stage::Nothing;
        };
        SetFacts f = made::factsOf(m_spec);
        QCOMPARE(from(StandardChosen{"upright"}), Stage::Judgement);
        QCOMPARE(from(SpanLeftOut{{0, 3}, true}), Stage::Judgement);
        f.pain.after = 6;
        QCOMPARE(from(FactsSet{f}), Stage::Judgement);
        f.wedgeDeg = 5;
        QCOMPARE(from(FactsSet{f}), Stage::Measures);
        f.wedgeDeg = 0, f.stoodStraight = true;
        QCOMPARE(from(FactsSet{f}), Stage::Measures);
        QCOMPARE(from(RepetitionSet{false, {{1, 4}, {{1, 4}}}}), Stage::Repetitions);
        QCOMPARE(from(PointPlaced{false, {3, Landmark::RightKnee, 400, 300, 0.3}}), Stage::Track);
        f.statureCm = 180;
        QCOMPARE(from(FactsSet{f}), Stage::Track);
        QCOMPARE(from(Trimmed{false, {0, 9}}), Stage::Clean);
        // What was not touched is the very same.
        const auto judged = again(m_seen, with(m_edits, StandardChosen{"upright"}), *whole);
        QCOMPARE(judged->set.first.track, whole->set.first.track);
        // A step at a time or all at once: the same set.
        const Edits both = with(with(m_edits, FactsSet{f}), StandardChosen{"hips-back"});
        const auto inOne = recompute(m_seen, both, *made::catalogue());
        const auto inSteps = again(m_seen, both, *again(m_seen, with(m_edits, FactsSet{f}), *whole));
        QCOMPARE(inOne->set.result.reps, inSteps->set.result.reps);
        QCOMPARE(inOne->set.result.findings.size(), inSteps->set.result.findings.size());
    }

    void aMovedPointCarriesItsNeighbours() {
        const auto before = recompute(m_seen, m_edits, *made::catalogue());
        const auto& rep = before->set.result.reps[0];
        const Track& t = before->set.track();
        const std::size_t at = t.sampleAt(rep.bottomS);
        const Vec2 knee = t.toPicture(t.at(Landmark::RightKnee, at));
        const PointPlaced moved{false, {rep.bottomS, Landmark::RightKnee, knee.x() + 20, knee.y(), 0.4}};
        const auto after = again(m_seen, with(m_edits, moved), *before);
        const Track& u = after->set.track();
        auto shift = [&](double s) {
            const std::size_t i = t.sampleAt(rep.bottomS + s);
            return (u.toPicture(u.at(Landmark::RightKnee, i)) - t.toPicture(t.at(Landmark::RightKnee, i))).x();
        };
        NEAR(shift(0), 20, 0.01);
        NEAR(shift(0.2), 10, 0.7);  // half of it half way
        NEAR(shift(0.5), 0, 1e-9);
        QVERIFY(after->set.result.reps[0].find("knee_flexion")->value != rep.find("knee_flexion")->value);
        QCOMPARE(after->set.result.reps[3].find("knee_flexion")->value,
                 before->set.result.reps[3].find("knee_flexion")->value);
    }

    void boundsSetByHandReplaceWhatWasFound() {
        const auto before = recompute(m_seen, m_edits, *made::catalogue());
        const auto& r = before->set.result.reps;
        const auto joined =
            again(m_seen, with(m_edits, RepetitionSet{false, {{r[0].startS, r[1].endS}, {{r[0].startS, r[1].endS}}}}),
                  *before);
        QCOMPARE(joined->set.result.reps.size(), r.size() - 1);
        NEAR(joined->set.result.reps[0].endS, r[1].endS, 0.05);
        const auto trimmed = again(m_seen, with(m_edits, Trimmed{false, {0, r[2].startS - 0.2}}), *before);
        QCOMPARE(trimmed->set.result.reps.size(), std::size_t{2});
    }

    void aMovementWithoutRepetitionsIsRefused() {
        const auto before = recompute(m_seen, m_edits, *made::catalogue());
        SetFacts bridge = made::factsOf(m_spec);
        bridge.movement = "bridge";
        const auto refused = again(m_seen, with(m_edits, FactsSet{bridge}), *before);
        QVERIFY(!refused && refused.error().notice);
        bridge.movement = "somersault";
        QCOMPARE(again(m_seen, with(m_edits, FactsSet{bridge}), *before).error().notice->kind,
                 NoticeKind::UnknownMovement);
    }

    /// A set of standing squats is no bridge and no walking lunge, whatever was chosen, and it is said what it looks
    /// like.
    void thePictureContradictsTheMovement_data() {
        QTest::addColumn<QString>("done");
        QTest::addColumn<QString>("chosen");
        QTest::addColumn<int>("kind");
        QTest::newRow("squats as bridge") << "squat"
                                          << "bridge" << int(NoticeKind::NobodyLies);
        QTest::newRow("squats as walking lunge") << "squat"
                                                 << "walking-lunge" << int(NoticeKind::FeetNeverPart);
        QTest::newRow("squats as split squat") << "squat"
                                               << "split-squat" << int(NoticeKind::FeetNeverPart);
        QTest::newRow("split squats as walking lunge") << "split-squat"
                                                       << "walking-lunge" << int(NoticeKind::NobodyWalks);
        QTest::newRow("bridges as squat") << "bridge"
                                          << "squat" << int(NoticeKind::SomebodyLies);
    }
    void thePictureContradictsTheMovement() {
        QFETCH(QString, done);
        QFETCH(QString, chosen);
        QFETCH(int, kind);
        auto spec = made::spec(3);
        spec.motion.movement = done.toStdString();
        if (done == "bridge") spec.scene.camera.heightM = 0.5, spec.scene.camera.aimHeightM = 0.42;
        auto context = made::contextOf(spec);
        QVERIFY(bool(measureSet(sim::truePoses(spec), made::facts(spec), context)));
        context.movement = made::movement(chosen.toStdString());
        const auto set = measureSet(sim::truePoses(spec), made::facts(spec), context);
        QVERIFY2(!set, "measured all the same");
        QCOMPARE(int(set.error().notice->kind), kind);
        QVERIFY(present::sentence(set.error()).contains("looks like"));
    }

    void whatIsDoneIsNotContradicted() {
        for (const char* id : {"squat", "split-squat", "reverse-lunge", "forward-lunge", "walking-lunge",
                               "lateral-lunge", "rear-foot-raised", "hinge"})
            for (double azimuth : {90.0, -90.0}) {
                auto spec = made::spec(3);
                spec.motion.movement = id;
                spec.scene.camera.azimuthDeg = azimuth;
                if (QString(id) == "walking-lunge") spec.scene.camera.distanceM = 4.4;
                const auto set = made::measured(spec);
                QVERIFY2(bool(set), set ? "" : (std::string(id) + made::words(set.error())).c_str());
            }
    }

    void aMissingSchoolIsSaidAndKept() {
        const Edits mine{FactsSet{made::factsOf(m_spec)}, StandardChosen{"yard-school"}};
        const auto s = recompute(m_seen, mine, *made::catalogue());
        QVERIFY(s->standardMissing && s->edited.standard == "yard-school");
        QCOMPARE(s->wholeStandard, std::string("whole-foot"));
        QVERIFY(made::says(s->set.result.notices, NoticeKind::StandardMissing));
        // One of another movement waits for its movement to come back.
        SetFacts hinge = made::factsOf(m_spec);
        hinge.movement = "split-squat";
        auto lunge = made::spec(3);
        lunge.motion.movement = "split-squat";
        const Observations seen{made::observation(lunge)};
        Edits e{FactsSet{hinge}, StandardChosen{"upright"}};
        const auto other = recompute(seen, e, *made::catalogue());
        QVERIFY(other && !other->standardMissing && other->wholeStandard == "tall");
        QCOMPARE(other->edited.standard, std::string("upright"));
    }

    /// The first clip from the front, the second from the side: every value has its own clip's clock and course.
    void theSecondViewMayBeTheSide() {
        const Observations seen{made::observation(frontOf(m_spec, 0)), made::observation(m_spec)};
        const auto s = recompute(seen, with(m_edits, SecondAdded{1, true}), *made::catalogue());
        QVERIFY2(s && s->set.other, s ? "" : made::words(s.error()));
        const auto& rep = s->set.result.reps[1];
        QVERIFY(rep.find("thigh_angle") && rep.find("thigh_angle")->second && !rep.find("knee_in_left")->second);
        const auto curve = curveOf(MeasureId::named("thigh_angle"), *s->set.view(true).series, Side::Right);
        QCOMPARE(curve.values.size(), s->set.view(true).track->size());
        const std::size_t at = s->set.view(true).track->sampleAt(rep.find("thigh_angle")->atS);
        NEAR(curve.values[at], rep.find("thigh_angle")->value, 1.0);
        QVERIFY(!made::says(s->set.result.notices, NoticeKind::SeenFromFront));
    }

    void aSecondViewThatDoesNotFitIsLeftOutOrRefused() {
        const Observations twice{made::observation(m_spec), made::observation(m_spec)};
        const Edits e = with(m_edits, SecondAdded{1, true});
        const auto opened = recompute(twice, e, *made::catalogue());
        QVERIFY(opened && opened->secondError && opened->secondError->notice->kind == NoticeKind::SameView);
        QVERIFY(!opened->set.other);
        QVERIFY(!recompute(twice, e, *made::catalogue(), nullptr, nullptr, true));
    }

    void olderValuesStayUntilMeasuredAnew() {
        const auto now = recompute(m_seen, m_edits, *made::catalogue());
        KeptValues kept{2, now->set.result.reps, {}};
        for (auto& rep : kept.reps)
            for (auto& m : rep.measures)
                if (m.measure.name() == "heel_rise") m.value = 0, m.pm90 = 0.2;
        const auto old = recompute(m_seen, m_edits, *made::catalogue(), nullptr, &kept);
        QVERIFY(old->kept);
        QCOMPARE(old->set.result.reps, kept.reps);
        QVERIFY(made::says(old->set.result.notices, NoticeKind::OlderEngine));
        QVERIFY(old->set.result.findings.empty());  // judged by what it says
        const Differences d = differencesBetween(old->set.result, now->set.result);
        QCOMPARE(d.faultsNew, (std::vector<std::string>{"heels_rise"}));
        QVERIFY(!d.values.empty() && d.values.front().measure.name() == "heel_rise");
        QVERIFY(differencesBetween(now->set.result, now->set.result).none());
        // Also where this engine would refuse: an old set opens.
        SetFacts bridge = made::factsOf(m_spec);
        bridge.movement = "bridge";
        QVERIFY(bool(recompute(m_seen, {FactsSet{bridge}}, *made::catalogue(), nullptr, &kept)));
    }

    void theBalanceIsKeptInTheSet() {
        const auto s = recompute(m_seen, m_edits, *made::catalogue());
        QVERIFY(s->set.first.balance && s->set.first.balance->thigh > 0.2);
    }

    /// Ten minutes of one course against another: found as surely as in half a minute.
    void longClipsAreLinedUp() {
        std::mt19937 random(4);
        std::uniform_real_distribution<double> pause(2.0, 6.0);
        std::vector<double> turns{3};
        while (turns.back() < 600) turns.push_back(turns.back() + pause(random));
        auto course = [&](double rate, double laterS, std::vector<double>& times) {
            std::vector<double> out;
            for (double t = 0; t < 600 - laterS; t += 1 / rate) {
                times.push_back(t);
                const auto next = std::lower_bound(turns.begin(), turns.end(), t + laterS - 1);
                const double far = std::abs(t + laterS - *next);
                out.push_back(far < 1 ? 0.25 * (1 + std::cos(3.14159265 * far)) : 0);
            }
            return out;
        };
        std::vector<double> ta, tb;
        const auto a = course(30, 0, ta), b = course(25, 7.3, tb);
        const Alignment found = alignCourses({ta, a}, {tb, b});
        NEAR(found.lagS, -7.3, 0.01);
        QVERIFY(found.agreement > 0.99);
    }
};

ZEVO_SUITE(TestSession, "session")
#include "test_session.moc"
