// Points the coach marked: as edits, as lines on the track's clock, and what is read from them, from true places of the
// virtual client.
#include "core/marks/marks.h"
#include "core/serial/edit_json.h"
#include "present/overlay.h"
#include "sim/tapes.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

sim::ClipSpec filmed(const std::string& movement, const std::string& variation, int reps = 3) {
    sim::ClipSpec s = made::spec(reps);
    s.motion.movement = movement, s.motion.variation = variation;
    return s;
}

using Paths = std::map<MarkKind, std::vector<MarkStep>>;
Paths pathsOf(sim::ClipSpec s) {
    s.scene.looks.tapes = true;
    auto paths = sim::trueMarks(s);
    if (!paths) qFatal("%s", made::words(paths.error()));
    return *paths;
}

PointMarked marked(const Paths& paths, MarkKind kind, double nearerCm = 0) {
    const auto& way = paths.at(kind);
    return {false,
            {kind, nearerCm, {{way[3].timeS, way[3].x, way[3].y}}, std::make_shared<const std::vector<MarkStep>>(way)}};
}

SetState stateOf(const sim::ClipSpec& s, const std::vector<PointMarked>& marks, const SetState* before = nullptr,
                 std::shared_ptr<const Observation> seen = nullptr) {
    Edits edits{FactsSet{made::factsOf(s)}};
    for (const auto& m : marks) edits = with(edits, m);
    auto state = recompute({seen ? seen : made::observation(s)}, edits, *made::catalogue(), before);
    if (!state) qFatal("%s", made::words(state.error()));
    return std::move(*state);
}

const Measurement* row(const SetState& s, int rep, const char* id) {
    return s.set.result.reps.at(static_cast<std::size_t>(rep)).find(MeasureId::named(id));
}
const Finding* found(const SetState& s, const std::string& fault) {
    for (const Finding& f : s.set.result.findings)
        if (f.fault == fault) return &f;
    return nullptr;
}

/// Half the length of the virtual client's bar, cm.
constexpr double kHalfBarCm = 75;

}  // namespace

class TestMarks : public QObject {
    Q_OBJECT

  private slots:
    void clicksAreKeptInOrderAndOneOfAMoment() {
        Mark mark{MarkKind::Bell, 0, {}, std::make_shared<const std::vector<MarkStep>>()};
        mark = mark.clicked({2.0, 10, 10}).clicked({1.0, 20, 20}).clicked({2.05, 30, 30});
        QCOMPARE(mark.clicks.size(), std::size_t{2});
        QCOMPARE(mark.clicks[0].atS, 1.0);
        QCOMPARE(mark.clicks[1].x, 30.0);
        QVERIFY(!mark.path);  // a path of other clicks says nothing
    }

    void aMarkTakesThePlaceOfItsKindOnly() {
        auto of = [](MarkKind kind, double x) { return PointMarked{false, {kind, 0, {{1, x, 5}}, nullptr}}; };
        Edits edits = with(with(with({}, of(MarkKind::Bell, 1)), of(MarkKind::StickTop, 2)), of(MarkKind::Bell, 3));
        QCOMPARE(edits.size(), std::size_t{2});
        edits = with(edits, PointMarked{true, {MarkKind::Bell, 0, {{1, 9, 9}}, nullptr}});
        const EditedSet folded = fold(edits);
        QCOMPARE(folded.views[0].marks.size(), std::size_t{2});
        QCOMPARE(folded.views[1].marks.size(), std::size_t{1});
        // With no click left it is off.
        QVERIFY(fold(with(edits, PointMarked{true, {MarkKind::Bell, 0, {}, nullptr}})).views[1].marks.empty());
    }

    void aMarkIsKeptWithItsPathAndItsGaps() {
        const double none = std::nan("");
        auto path = std::make_shared<const std::vector<MarkStep>>(
            std::vector<MarkStep>{{0, 640.126, 410}, {0.0333, none, none}, {0.0667, none, none}, {0.1, 641, 412.5}});
        const PointMarked mark{true, {MarkKind::BarEnd, 110, {{0.05, 640, 410}, {1.5, 650, 300}}, path}};
        const auto [kind, text] = writeEdit(mark);
        const auto read = readEdit(kind, text);
        QVERIFY(read && std::holds_alternative<PointMarked>(*read));
        const auto& back = std::get<PointMarked>(*read);
        QVERIFY(back.second && back.mark.kind == MarkKind::BarEnd && back.mark.nearerCm == 110);
        QCOMPARE(back.mark.clicks, mark.mark.clicks);
        QCOMPARE(back.mark.path->size(), std::size_t{4});
        NEAR(back.mark.path->front().x, 640.13, 1e-9);
        QVERIFY(!(*back.mark.path)[1].held());
        QCOMPARE(back.mark.gaps().size(), std::size_t{1});
        NEAR(back.mark.gaps()[0].second, 0.0667, 1e-9);
        QVERIFY(!readEdit(kind, R"({"point": "sacrum of another", "clicks": []})"));
        QVERIFY(!readEdit(kind, R"({"point": "bell"})"));
    }

    void marksAreReadFromText() {
        const auto marks = marksFromText("bar_end@0.7,682,372;hip_left@1,10,20;bar_end@3.5,690.5,400", 75);
        QVERIFY(marks && marks->size() == 2);
        QCOMPARE((*marks)[0].clicks.size(), std::size_t{2});
        QCOMPARE((*marks)[0].nearerCm, 75.0);
        QCOMPARE((*marks)[1].nearerCm, usuallyNearerCm(MarkKind::HipLeft));
        QVERIFY(marksFromText("") && marksFromText("")->empty());
        for (const char* wrong : {"bell", "bell@1,2", "bell@1,2,3,4", "elbow@1,2,3", "bell@1,2,x"}) {
            const auto read = marksFromText(wrong);
            QVERIFY2(!read && read.error().message.find("stick_top") != std::string::npos, wrong);
        }
    }

    /// A mark measures anew and nothing before it; without it the set is what it was.
    void aMarkChangesMeasuresAlone() {
        const auto s = filmed("hinge", "romanian");
        const auto seen = made::observation(s);
        const SetState bare = stateOf(s, {}, nullptr, seen);
        QVERIFY(!row(bare, 0, "load_sway"));
        const SetState with = stateOf(s, {marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm)}, &bare, seen);
        QVERIFY(with.from == Stage::Measures);
        QVERIFY(row(with, 0, "load_sway") && row(with, 0, "load_speed") && row(with, 1, "load_speed_loss"));
        QVERIFY(!row(with, 0, "load_speed_loss"));  // there is none before it to be slower than
        const SetState off = stateOf(s, {}, &with, seen);
        QVERIFY(off.set.result.reps == bare.set.result.reps);
    }

    /// Width and place of the bar's path as they are in the room, over two distances of its end from the client.
    void theLoadsWayIsThatOfTheRoom() {
        auto s = filmed("hinge", "romanian");
        s.motion.reps[1].loadDriftCm = 14;
        const auto state = stateOf(s, {marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm)});
        const auto motion = sim::motionOf(s);
        for (int rep : {0, 1}) {
            const MeasuredRep& r = state.set.result.reps[static_cast<std::size_t>(rep)];
            double least = 1e9, most = -1e9;
            for (double t = r.startS; t <= r.endS; t += 0.02) {
                const double x = sim::thingsMarked(motion->at(t), Vec3(0, 0, 1)).at(MarkKind::BarEnd).x();
                least = std::min(least, x), most = std::max(most, x);
            }
            NEAR(row(state, rep, "load_sway")->value, 100 * (most - least), 1.5);
        }
        QVERIFY(row(state, 1, "load_ahead_foot")->value > row(state, 0, "load_ahead_foot")->value + 6);
        QVERIFY(row(state, 1, "load_off_leg")->value > row(state, 0, "load_off_leg")->value + 5);
        // An end thought to lie in the client's plane looks longer by its part of the camera's distance.
        const auto flat = stateOf(s, {marked(pathsOf(s), MarkKind::BarEnd, 0)});
        QVERIFY(row(flat, 1, "load_sway")->value > 1.1 * row(state, 1, "load_sway")->value);
    }

    void aLiftsSpeedIsThatOfTheRoomAndItsLossOfTheSet() {
        auto s = filmed("hinge", "romanian");
        s.motion.reps[2].liftS *= 1.5;
        const auto state = stateOf(s, {marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm)});
        const auto motion = sim::motionOf(s);
        const MeasuredRep& r = state.set.result.reps[0];
        auto height = [&](double t) {
            return sim::thingsMarked(motion->at(t), Vec3(0, 0, 1)).at(MarkKind::BarEnd).y();
        };
        double low = 1e9, high = -1e9, lowS = 0;
        for (double t = r.startS; t <= r.endS; t += 0.005)
            if (height(t) < low) low = height(t), lowS = t;
        for (double t = lowS; t <= r.endS; t += 0.005) high = std::max(high, height(t));
        auto passes = [&](double share) {
            double t = lowS;
            while (height(t) < low + share * (high - low)) t += 0.002;
            return t;
        };
        const double truth = 0.9 * (high - low) / (passes(0.95) - passes(0.05));
        NEAR(row(state, 0, "load_speed")->value, truth, 0.06 * truth);
        NEAR(row(state, 2, "load_speed_loss")->value, 1 - 1 / 1.5, 0.05);
    }

    /// Where it was lost nothing is read, and it is said what to do.
    void aGapIsSaidAndNotRead() {
        const auto s = filmed("hinge", "romanian");
        auto mark = marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm);
        auto torn = *mark.mark.path;
        const double from = sim::motionOf(s)->reps()[1].bottomS;
        for (auto& step : torn)
            if (step.timeS > from && step.timeS < from + 0.6) step.x = step.y = std::nan("");
        mark.mark.path = std::make_shared<const std::vector<MarkStep>>(torn);
        const auto state = stateOf(s, {mark});
        QVERIFY(row(state, 0, "load_sway") && !row(state, 1, "load_sway") && row(state, 2, "load_sway"));
        const auto& notices = state.set.result.notices;
        const auto lost = std::find_if(notices.begin(), notices.end(),
                                       [](const Notice& n) { return n.kind == NoticeKind::MarkLost; });
        QVERIFY(lost != notices.end());
        QCOMPARE(lost->word(1), std::string("2"));
        QVERIFY(present::sentence(*lost).contains("end of the bar"));
    }

    /// Two tapes tell a hip line that the network does not, and the notice about it goes.
    void tapesTellTheHipLine() {
        for (const char* figure : {"drawn", "mesh"}) {
            auto s = filmed("squat", "");
            s.scene.camera.azimuthDeg = 0;
            s.motion.body.figure = figure;
            s.motion.reps[1].hipDropDeg = 11, s.motion.reps[2].hipDropDeg = -11;
            const auto paths = pathsOf(s);
            const auto state =
                stateOf(s, {marked(paths, MarkKind::HipLeft, 10), marked(paths, MarkKind::HipRight, 10)});
            const auto bare = stateOf(s, {});
            QVERIFY(made::says(bare.set.result.notices, NoticeKind::HipLineUnread));
            QVERIFY(!made::says(state.set.result.notices, NoticeKind::HipLineUnread));
            const auto motion = sim::motionOf(s);
            for (int rep : {0, 1, 2}) {
                const MeasuredRep& r = state.set.result.reps[static_cast<std::size_t>(rep)];
                auto tilt = [&](double t) { return sim::trueFront(motion->at(t)).hipTiltDeg; };
                NEAR(row(state, rep, "hip_line_tape")->value, tilt(r.bottomS) - tilt(r.startS), 1.5);
            }
            QVERIFY(found(state, "hip_drops"));
        }
    }

    /// Points that plates hide make the client too small in the picture, and every length with them: their trunk, which
    /// nothing hides, says so.
    void aSizeThatTheTrunkContradictsIsNotTrusted() {
        const auto s = filmed("hinge", "romanian");
        const auto bar = marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm);
        QVERIFY(row(stateOf(s, {bar}), 0, "load_speed"));
        auto poses = sim::truePoses(s);
        for (auto& f : poses)
            for (Landmark foot : {Landmark::LeftHeel, Landmark::LeftToe, Landmark::LeftAnkle})
                for (int side : {0, 1}) {
                    auto& p = f.points[static_cast<std::size_t>(foot) + static_cast<std::size_t>(side)];
                    p.y -= 0.2F * static_cast<float>(s.scene.camera.height);
                }
        const auto hidden = stateOf(s, {bar}, nullptr, made::observation(s, poses));
        QVERIFY(!row(hidden, 0, "load_speed") && !row(hidden, 0, "load_sway"));
    }

    /// A bell on loose arms rises by v² / 2g once the hips are straight; whoever lifts it with the arms takes it
    /// higher.
    void aBellRisesNoFurtherThanItIsThrown() {
        auto s = filmed("hinge", "swing");
        for (auto& r : s.motion.reps) r.lowerS = 0.7, r.liftS = 0.6, r.pauseS = 0.1, r.topS = 1.2;
        const auto bare = stateOf(s, {});
        const Track& t = bare.set.track();
        const auto& lean = bare.set.series().trunkLean;
        // The path of the hands up to the moment at which the hips are straight, then free flight upwards.
        auto thrown = [&](double share) {
            auto path = pathsOf(s).at(MarkKind::Bell);
            for (const Rep& rep : bare.set.first.reps) {
                double least = 1e9;
                for (std::size_t i = rep.bottom; i <= rep.end; ++i) least = std::min(least, lean[i]);
                std::size_t at = rep.bottom;
                while (at < rep.end && lean[at] > least + 0.1 * (lean[rep.bottom] - least)) ++at;
                const double t0 = t.timesS[at], speed = 260, pull = 981 / share;  // cm/s, cm/s²
                double x0 = 0, y0 = 0;
                for (const auto& step : path)
                    if (step.timeS <= t0) x0 = step.x, y0 = step.y;
                // A tenth of a second at even speed, then free flight up to its top and down again.
                for (auto& step : path) {
                    const double since = step.timeS - t0, flown = std::clamp(since, 0.0, 2 * speed / pull);
                    if (since < -0.12 || since > 1.1) continue;
                    const double risen = speed * (std::min(since, 0.0) + flown) - 0.5 * pull * flown * flown;
                    step.x = x0, step.y = y0 - risen / t.cmPerPixel;
                }
            }
            return PointMarked{
                false,
                {MarkKind::Bell, 0, {{0, path[0].x, path[0].y}}, std::make_shared<const std::vector<MarkStep>>(path)}};
        };
        const auto loose = stateOf(s, {thrown(1)}), lifted = stateOf(s, {thrown(2)});
        for (int rep : {0, 1}) {
            QVERIFY(row(loose, rep, "bell_lifted") && row(lifted, rep, "bell_lifted"));
            NEAR(row(loose, rep, "bell_lifted")->value, 1, 0.25);
            NEAR(row(lifted, rep, "bell_lifted")->value, 2, 0.4);
            // Within 10 cm of its top for 2 √(2 h / g).
            NEAR(row(loose, rep, "bell_float")->value, 2 * std::sqrt(0.2 / 9.81), row(loose, rep, "bell_float")->pm90);
            NEAR(row(lifted, rep, "bell_float")->value, 2 * std::sqrt(0.4 / 9.81), 0.05);
        }
        QVERIFY(!found(loose, "swing_lifted_by_arms"));
        QVERIFY(found(lifted, "swing_lifted_by_arms"));
        QVERIFY(row(loose, 0, "bell_height") && row(loose, 0, "bell_back"));
    }

    /// The ladder: a bell that lies still on the floor within a swing begins a new row of swings.
    void swingsAreCountedBetweenRestsOfTheBell() {
        auto s = filmed("hinge", "swing");
        for (auto& r : s.motion.reps) r.lowerS = 0.7, r.liftS = 0.6, r.pauseS = 0.1, r.topS = 1.0;
        const auto bare = stateOf(s, {});
        auto path = pathsOf(s).at(MarkKind::Bell);
        auto ladder = [&](const std::vector<MarkStep>& steps) {
            const auto state = stateOf(s, {PointMarked{false,
                                                       {MarkKind::Bell,
                                                        0,
                                                        {{0, steps[0].x, steps[0].y}},
                                                        std::make_shared<const std::vector<MarkStep>>(steps)}}});
            for (const Notice& n : state.set.result.notices)
                if (n.kind == NoticeKind::SwingLadder) return n.word(0);
            return std::string();
        };
        QCOMPARE(bare.set.result.reps.size(), std::size_t{3});
        QCOMPARE(ladder(path), std::string("3"));
        const double bottom = bare.set.result.reps[1].bottomS;
        double floor = 0;
        for (const auto& step : path) floor = std::max(floor, step.y);
        for (auto& step : path)
            if (std::abs(step.timeS - bottom) < 0.25) step.y = floor + 40, step.x = path[0].x;
        QCOMPARE(ladder(path), std::string("1, 2"));
    }

    /// Tapes under a marked stick: the gap opens when the back rounds away from it.
    void aTapeTellsWhetherTheStickIsLost() {
        auto s = filmed("hinge", "dowel");
        s.motion.reps[1].roundDeg = 26;
        const auto paths = pathsOf(s);
        const auto state = stateOf(s, {marked(paths, MarkKind::StickTop), marked(paths, MarkKind::StickLow),
                                       marked(paths, MarkKind::BackHigh), marked(paths, MarkKind::BackLow)});
        QVERIFY(row(state, 0, "stick_tape_high") && row(state, 0, "stick_tape_low"));
        QVERIFY(std::abs(row(state, 1, "stick_tape_high")->value - row(state, 0, "stick_tape_high")->value) > 1.0);
    }

    /// A floor pull that begins squatted, and one with straight legs.
    void aPullsStartIsBetweenKneeAndShoulder() {
        auto s = filmed("hinge", "floor");
        const auto clean = stateOf(s, {});
        QVERIFY(!found(clean, "start_hips_low") && !found(clean, "start_hips_high"));
        NEAR(row(clean, 0, "start_hips")->value, 0.45, 0.3);
        auto low = s, high = s;
        for (auto& r : low.motion.reps) r.kneeBendDeg = 105, r.hingeLeanDeg = 40;
        for (auto& r : high.motion.reps) r.kneeBendDeg = 12, r.hingeLeanDeg = 92;
        QVERIFY(row(stateOf(low, {}), 0, "start_hips")->value < row(clean, 0, "start_hips")->value - 0.15);
        QVERIFY(row(stateOf(high, {}), 0, "start_hips")->value > row(clean, 0, "start_hips")->value + 0.15);
        QVERIFY(found(stateOf(high, {}), "start_hips_high"));
    }

    void whatIsMarkedIsDrawn() {
        const auto s = filmed("hinge", "romanian");
        const auto state = stateOf(s, {marked(pathsOf(s), MarkKind::BarEnd, kHalfBarCm)});
        const auto& view = state.set.first;
        const std::size_t sample = view.reps[0].bottom;
        const auto drawn = present::overlayFor(MeasureId::named("load_sway"), *view.track, sample, nullptr,
                                               std::nullopt, nullptr, view.marks.get());
        QVERIFY(drawn.lines.size() > 20 && drawn.ghosts.size() == 1);
        // The way is where the bar's end is, over the whole repetition, not where the wrist is.
        const auto& way = pathsOf(s).at(MarkKind::BarEnd);
        double nearest = 1e9;
        for (const auto& step : way)
            nearest = std::min(nearest, QLineF(drawn.lines[10].p1(), {step.x, step.y}).length());
        QVERIFY(nearest < 3);
        QVERIFY(isMarkedIn(MarkKind::BarEnd, ViewKind::Side) && !isMarkedIn(MarkKind::BarEnd, ViewKind::Front));
        for (std::size_t k = 0; k < kMarkKinds; ++k)
            QVERIFY(markFromName(markName(static_cast<MarkKind>(k))) == static_cast<MarkKind>(k));
    }
};

ZEVO_SUITE(TestMarks, "marks")
#include "test_marks.moc"
