// Advice that is followed: the virtual client shows every fault, takes every change that is offered for it, does what
// it asks, and is judged again. They are not faulted for what was asked of them, for nothing they did right before,
// and what was out does not get further out.
#include <cstdio>
#include <map>
#include <set>

#include "core/advice/reasoning.h"
#include "core/judge/choices.h"
#include "tests/support/perfect_client.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

using R = sim::RepSpec;

/// A fault as the virtual client shows it, plain to see.
struct Shown {
    const char* fault;
    const char* families;  ///< or movements, or movement/variation; parted by spaces
    bool front;
    void (*turn)(sim::MotionSpec&);
};
template <double R::*dial, int value, int per = 1>
void turned(sim::MotionSpec& m) {
    for (R& r : m.reps) r.*dial = double(value) / per;
}
const Shown kShown[] = {
    {"depth_short", "squat", false, turned<&R::thighBottomDeg, 28>},
    {"heels_rise", "squat lunge", false, turned<&R::heelRiseCm, 5>},
    {"toes_rise", "squat", false, turned<&R::toeRiseCm, 6>},
    {"knees_first", "squat", false, turned<&R::kneesFirst, 1>},
    {"knee_past_toes", "squat", false,
     [](auto& m) {
         for (R& r : m.reps) r.shinBottomDeg = 46, r.thighBottomDeg = 2;
     }},
    {"weight_on_toes", "squat", false, turned<&R::balanceShift, 34, 100>},
    {"weight_on_heels", "squat", false, turned<&R::balanceShift, -42, 100>},
    {"forward_lean", "squat", false, turned<&R::extraLeanDeg, 26>},
    {"chin_up", "squat", false, turned<&R::neckDeg, 42>},
    {"chin_down", "squat", false, turned<&R::neckDeg, -54>},
    {"lowering_fast", "squat hinge", false, turned<&R::lowerS, 6, 10>},
    {"bottom_bounced", "squat", false,
     [](auto& m) {
         for (R& r : m.reps) r.bounce = 1, r.pauseS = 0.05, r.lowerS = 1.6, r.liftS = 0.9;
     }},
    {"leans_back", "squat hinge", false,
     [](auto& m) {
         for (R& r : m.reps) r.lockoutLeanDeg = 16, r.topS = 1.2;
     }},
    {"depth_beyond_control", "squat", false,
     [](auto& m) {
         for (R& r : m.reps) r.heelRiseCm = 6, r.thighBottomDeg = -34, r.heelFrom = 0.68;
     }},
    {"knees_cave", "squat", true, turned<&R::kneeInLeftCm, 11>},
    {"knees_cave", "lunge", true, turned<&R::kneeInRightCm, 11>},
    {"knees_bow", "squat", true, turned<&R::kneeInRightCm, -14>},
    {"knee_wobble", "squat", true, turned<&R::kneeWobbleCm, 4>},
    {"weight_shift", "squat", true, turned<&R::shiftCm, 7>},
    {"hip_drops", "squat", true, turned<&R::hipDropDeg, 14>},
    {"stance_narrow", "squat", true, [](auto& m) { m.stanceShare = 0.06; }},
    {"stance_wide", "squat", true, [](auto& m) { m.stanceShare = 0.55; }},
    {"front_knee_open", "lunge", false, turned<&R::frontKneeDeg, 58>},
    {"front_knee_tight", "lunge", false, turned<&R::frontKneeDeg, 126>},
    {"rear_knee_ahead", "lunge", false, turned<&R::rearThighDeg, -34>},
    {"rear_knee_behind", "lunge", false, turned<&R::rearThighDeg, 34>},
    {"rear_knee_lands", "lunge", false,
     [](auto& m) {
         for (R& r : m.reps) r.bounce = 1, r.pauseS = 0.05, r.lowerS = 0.6;
     }},
    {"trunk_low", "lunge", false, turned<&R::lungeLeanDeg, 44>},
    {"trunk_upright", "lunge", false, turned<&R::lungeLeanDeg, -14>},
    {"knee_past_toes", "lunge", false, turned<&R::frontShinDeg, 48>},
    {"hips_rise_first", "lunge", false, turned<&R::hipsShootUp, 1>},
    {"hips_turn", "lunge", false, turned<&R::hipTurnDeg, 60>},
    {"nose_short", "lateral-lunge", true, turned<&R::noseOffCm, 34>},
    {"nose_past", "lateral-lunge", true, turned<&R::noseOffCm, -30>},
    {"trailing_leg_bent", "lateral-lunge", false, turned<&R::trailingKneeDeg, 40>},
    {"hinge_squatted", "hinge", false,
     [](auto& m) {
         for (R& r : m.reps) r.kneeBendDeg = 62, r.hingeLeanDeg = 45;
     }},
    {"back_leads", "hinge", false, turned<&R::balanceShift, 45, 100>},
    {"chin_up", "hinge", false, turned<&R::neckDeg, 32>},
    {"load_drifts", "hinge", false, turned<&R::loadDriftCm, 24>},
    {"hinge_shallow", "hinge", false, turned<&R::hingeLeanDeg, 18>},
    {"hinge_too_deep", "hinge", false, turned<&R::hingeLeanDeg, 104>},
    {"hips_shoot_first", "hinge", false, turned<&R::hipsShootUp, 1>},
    {"bridge_low", "bridge", false, turned<&R::topAngleDeg, 145>},
    {"bridge_overarched", "bridge", false, turned<&R::topAngleDeg, 202>},
    {"feet_far", "bridge", false, [](auto& m) { m.feetFarCm = 26; }},
    {"feet_near", "bridge", false, [](auto& m) { m.feetFarCm = -24; }},
    {"hold_missing", "bridge", false, turned<&R::pauseS, 1, 10>},
    {"dropped", "bridge", false, turned<&R::lowerS, 5, 10>},
};

bool isFor(const Shown& s, const Movement& m) {
    const std::string all = std::string(" ") + s.families + " ";
    return all.find(" " + m.id + " ") != std::string::npos ||
           all.find(" " + familyName(m.family) + " ") != std::string::npos;
}

/// What gives way on the way down gives way less where the way is shorter.
void shorter(R& r, double share) {
    for (double R::*late : {&R::heelRiseCm, &R::toeRiseCm, &R::tuckDeg, &R::roundDeg}) r.*late *= share * share;
}

/// The client does what is asked of them, and everything else as before.
void take(sim::ClipSpec& s, const Ask& ask, const AskRung& rung, const Movement& m) {
    const std::string family = familyName(m.family);
    const double amount = amountOf(ask, rung).value_or(0);
    for (R& r : s.motion.reps) {
        if (ask.kind == "depth" && family == "squat") {
            // Hip centre a hand above the box, knee at a shank's height (shares of stature as the figure has them).
            const double h = s.motion.body.statureCm, over = amount + 10 - (0.246 * h * 0.94 + 0.07 * 100);
            const double box = std::asin(std::clamp(over / (0.245 * h), -0.5, 0.9)) * kDegreesPerRadian;
            r.thighBottomDeg = std::max(r.thighBottomDeg, ask.rung == "box" ? box : 20.0);
            if (ask.rung == "box")
                r.kneesFirst = 0, r.shinBottomDeg = std::min(r.shinBottomDeg, 26.0);  // they reach for it
            shorter(r, 0.5);
        }
        if (ask.kind == "depth" && family == "lunge") {
            r.frontKneeDeg = std::min(r.frontKneeDeg, ask.rung == "mat" ? 74.0 : 58.0);
            shorter(r, 0.5);
        }
        if (ask.kind == "depth" && family == "hinge") r.hingeLeanDeg = std::min(r.hingeLeanDeg, 44.0), shorter(r, 0.5);
        if (ask.kind == "depth" && family == "bridge") r.topAngleDeg = std::min(r.topAngleDeg, 158.0);
        if (ask.kind == "tempo") r.lowerS = amount * (m.steps ? 2.2 : 1);  // counted from where the foot is down
        if (ask.kind == "hold") r.pauseS = amount, r.bounce = 0;
        if (ask.kind == "stance" && family == "lunge") {
            const double way = ask.rung == "nearer" ? -1 : 1;
            r.rearThighDeg += 14 * way;
            r.frontShinDeg -= 8 * way;
            r.frontKneeDeg -= 6 * way;
        }
        if (ask.kind == "trunk") r.lungeLeanDeg = 20;
        if (ask.kind == "wedge") r.heelRiseCm *= 0.2, r.shinBottomDeg += amount;  // it tips the lower leg
    }
    if (ask.kind == "stance" && family == "squat") s.motion.stanceShare *= ask.rung == "narrower" ? 0.7 : 1.35;
}

/// How far past its edge the worst repetition of a fault lies, and how surely that is known.
struct Beyond {
    double by = 0, pm = 0;
};
/// The faults of a set that are more than a doubt.
std::map<std::string, Beyond> faultsOf(const SetState& state) {
    std::map<std::string, Beyond> out;
    for (const Finding& f : state.set.result.findings)
        if (const double by = std::abs(f.value - f.edge); f.severity != Severity::Unsure && by >= out[f.fault].by)
            out[f.fault] = {by, f.pm90};
    std::erase_if(out, [](const auto& f) { return f.second.pm <= 0; });
    return out;
}

/// A set as it was filmed and judged, in which a fault shows.
struct Faulted {
    std::string name;  ///< of movement, variation, school and fault
    const Movement& movement;
    const Standard& school;
    std::string fault;
    sim::ClipSpec spec;
    std::map<std::string, Beyond> faults;
};

/// The facts of a set of which the client may be told everything, or which is held to what is safe: something else
/// hurts a little, or something was cleared within limits.
SetFacts factsAt(const std::string& level, const std::string& variation, const sim::ClipSpec& spec) {
    SetFacts f = made::factsOf(spec);
    f.variation = variation;
    if (level == "lighten") f.pain.before = 3, f.pain.spots = {{"shoulder"}};
    if (level == "care") f.pain.cleared = {"surgery"}, f.pain.limits = {"to a box"};
    return f;
}

/// Fault, advice, ask, next set; over and over.
class Walk {
  public:
    int shownFaults = 0, sets = 0, taken = 0, gone = 0, less = 0, same = 0;
    std::map<std::string, std::pair<int, int>> perRung;  ///< taken, of which the fault went
    QStringList wrong, notShown;

    void through(const Movement& m, const std::string& variation, const Standard& school, const Shown& shown) {
        Faulted at{m.id + "/" + variation + "/" + school.id + "/" + shown.fault, m, school, shown.fault, {}, {}};
        at.spec = made::perfectClient(m, variation, school, {}, shown.front);
        at.spec.motion.reps.resize(2);
        at.spec.motion.leadInS = 0.8;
        shown.turn(at.spec.motion);
        m_seen.clear();
        const auto seen = filmed(at.spec, "");
        const auto free = judged(school, factsAt("free", variation, at.spec), seen);
        if (free) at.faults = faultsOf(*free);
        if (!at.faults.count(at.fault)) {  // another variation or school asks nothing there
            notShown.append(QString::fromStdString(at.name));
            return;
        }
        ++shownFaults;
        for (const std::string level : {"free", "lighten", "care"}) {
            const SetFacts facts = factsAt(level, variation, at.spec);
            const auto state = level == "free" ? free : judged(school, facts, seen, &*free);
            std::set<std::string> tried;
            for (const Finding& f : state->set.result.findings) {
                if (f.fault != at.fault || f.severity == Severity::Unsure) continue;
                for (const Change& c : counselFor(f, state->set.result, made::catalogue()->advice).advice.change)
                    if (c.ask && tried.insert(c.text).second) follow(at, level, facts, c);
            }
        }
    }

  private:
    std::map<std::string, std::shared_ptr<const Observation>> m_seen;  ///< a set is filmed once for all levels

    std::shared_ptr<const Observation> filmed(const sim::ClipSpec& spec, const std::string& name) {
        auto& o = m_seen[name];
        if (!o) o = made::observation(spec), ++sets;
        return o;
    }

    static std::optional<SetState> judged(const Standard& school, const SetFacts& facts,
                                          const std::shared_ptr<const Observation>& seen,
                                          const SetState* before = nullptr) {
        auto s = recompute({seen}, {FactsSet{facts}, StandardChosen{school.id}}, *made::catalogue(), before);
        return s ? std::optional(std::move(*s)) : std::nullopt;
    }

    /// The change is taken, the client does it, and the next set is judged by what was asked of it.
    void follow(const Faulted& at, const std::string& level, const SetFacts& facts, const Change& change) {
        const Catalogue& all = *made::catalogue();
        Ask ask = *change.ask;
        const AskRung* rung = rungOf(ask, all.asks, at.movement);
        if (!rung) return;
        ++taken;
        ask.movement = at.movement.id, ask.why = at.fault;
        const SetFacts next = factsAfter(fold({FactsSet{facts}, askTaken(ask)}), all);
        sim::ClipSpec then = at.spec;
        if (next.variation != facts.variation) then.motion.variation = next.variation;
        take(then, ask, *rung, at.movement);
        if (std::find(change.claims.begin(), change.claims.end(), "slower") != change.claims.end())
            for (R& r : then.motion.reps) r.lowerS = std::max(r.lowerS, 2.4);
        const std::string said = at.name + " (" + level + "): “" + change.text + "”";
        const auto after = judged(at.school, next, filmed(then, change.text));
        if (!after) return complain(said + " → not measured");
        const auto is = faultsOf(*after);
        for (const auto& [fault, beyond] : is)
            if (!at.faults.count(fault)) complain(said + " → " + fault);
        auto& count = perRung[ask.kind + " " + ask.rung];
        ++count.first;
        const auto still = is.find(at.fault);
        if (still == is.end()) {
            ++gone, ++count.second;
            return;
        }
        const double was = at.faults.at(at.fault).by, by = still->second.by;
        if (by > was + std::max(0.1 * was, 0.5 * still->second.pm))
            complain(said + " → further out: " + std::to_string(was) + " → " + std::to_string(by));
        ++(by < 0.9 * was ? less : same);
    }

    void complain(const std::string& what) {
        wrong.append(QString::fromStdString(what));
        qInfo("%s", what.c_str());
    }
};

}  // namespace

class TestClosedLoop : public QObject {
    Q_OBJECT
  private slots:
    void whatWasAdvisedAndDoneIsNoFault() {
        Walk walk;
        for (const Movement& m : made::catalogue()->movements)
            for (const std::string& variation : sim::movements().at(m.id))
                for (const Standard& school : made::catalogue()->standardsFor(m))
                    for (const Shown& shown : kShown)
                        if (isFor(shown, m)) walk.through(m, variation, school, shown);
        std::printf("%d faults shown, %d sets filmed, %d changes taken: the fault gone %d, less %d, the same %d\n",
                    walk.shownFaults, walk.sets, walk.taken, walk.gone, walk.less, walk.same);
        for (const auto& [rung, n] : walk.perRung)
            std::printf("  %-20s taken %4d, the fault gone %4d\n", rung.c_str(), n.first, n.second);
        std::printf("asked for by no school there, or not seen: %d\n", int(walk.notShown.size()));
        QVERIFY2(walk.wrong.isEmpty(), qPrintable(walk.wrong.join("\n")));
        QVERIFY(walk.taken > 1000 && 3 * walk.gone > walk.taken);
    }
};

ZEVO_SUITE(TestClosedLoop, "closed_loop")
#include "test_closed_loop.moc"
