// What a coach asked replaces the edge it contradicts, and nothing else; it goes on to the next set until it is lifted.
#include <QDate>
#include <nlohmann/json.hpp>
#include <set>

#include "core/advice/reasoning.h"
#include "core/session/cue_ledger.h"
#include "present/film_words.h"
#include "present/log_words.h"
#include "present/review_presenter.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using made::found;

namespace {

const AskBook& book() {
    return made::catalogue()->asks;
}

/// A set that stops where a chair would be.
sim::ClipSpec shallow() {
    auto spec = made::spec(4);
    for (auto& r : spec.motion.reps) r.thighBottomDeg = 22, r.shinBottomDeg = 22;
    return spec;
}

SetState stateOf(const sim::ClipSpec& spec, const Asks& asks) {
    SetFacts facts = made::factsOf(spec);
    facts.asks = asks;
    return made::judged(spec, facts);
}

}  // namespace

class TestAsks : public QObject {
    Q_OBJECT
  private slots:
    /// Who was told to sit to a box is not told that the box is too high.
    void theBoxThatWasAskedForIsNoFault() {
        QVERIFY(found(stateOf(shallow(), {}), "depth_short"));
        // As the set after is set up: to the box, which also takes the lean off the client.
        EditedSet before =
            fold({FactsSet{made::factsOf(shallow())}, askTaken({"depth", "box", 42, "", "", "depth_short", "squat"})});
        const SetState asked = made::judged(shallow(), factsAfter(before, *made::catalogue()));
        QVERIFY(!found(asked, "depth_short"));
        QVERIFY(asked.set.result.clean());
        QVERIFY(asked.standard.bandFor("thigh_angle")->faultAbove.empty());
        QCOMPARE(*asked.standard.bandFor("heel_rise")->max, 1.5);  // the rest of the school stays
    }

    void onlyTheEdgeThatContradictsMakesWay() {
        const Movement squat = made::movement("squat"), bridge = made::movement("bridge");
        const Standard school = made::standard("whole-foot").forSet("squat", "");
        const Standard asked = withAsks(school, book(), {{"depth", "painless"}}, squat);
        QCOMPARE(asked.bands.size(), school.bands.size());
        for (std::size_t i = 0; i < school.bands.size(); ++i) {
            const Band &was = school.bands[i], &is = asked.bands[i];
            const bool depth = std::string(was.measure.name()) == "thigh_angle";
            QCOMPARE(is.max == was.max && is.faultAbove == was.faultAbove, !depth);
            QCOMPARE(is.min, was.min);
        }
        // A lower top is not asked for, and one past the line still is a fault.
        const Standard low =
            withAsks(made::standard("neutral").forSet("bridge", ""), book(), {{"depth", "low"}}, bridge);
        QVERIFY(!low.bandFor("bridge_line")->min);
        QCOMPARE(low.bandFor("bridge_line")->faultAbove, std::string("bridge_overarched"));
        // What is asked of squats is nothing to a bridge.
        QVERIFY(!rungOf({"wedge", "wedge"}, book(), bridge));
        QVERIFY(rungOf({"wedge", "wedge"}, book(), squat));
    }

    void anAmountIsTheEdge() {
        const Movement squat = made::movement("squat");
        const Standard school = made::standard("whole-foot").forSet("squat", "");
        auto edge = [&](std::optional<double> amount) {
            return *withAsks(school, book(), {{"tempo", "slow", amount}}, squat).bandFor("lowering_s")->min;
        };
        QCOMPARE(edge(4), 3.0);
        QCOMPARE(edge(std::nullopt), 2.25);  // the usual three seconds
        QCOMPARE(edge(99), 4.5);             // never more than the rung allows
        auto fast = made::spec(4);
        for (auto& r : fast.motion.reps) r.lowerS = 1.7;
        QVERIFY(!found(stateOf(fast, {}), "lowering_fast"));
        QVERIFY(found(stateOf(fast, {{"tempo", "slow", 3}}), "lowering_fast"));
        // The school asks nothing of the pause: the ask makes the edge and names the fault.
        auto hold = withAsks(school, book(), {{"hold", "below", 2}}, squat);
        QCOMPARE(*hold.bandFor("pause_s")->min, 1.0);
        QCOMPARE(hold.bandFor("pause_s")->faultBelow, std::string("pause_short"));
    }

    void oneOfAKindStands() {
        Asks asks = with(with(Asks{}, Ask{"depth", "box", 45}), Ask{"tempo", "slow"});
        asks = with(std::move(asks), Ask{"depth", "flat"});
        QCOMPARE(asks.size(), std::size_t(2));
        QCOMPARE(asks.back().rung, std::string("flat"));
        QCOMPARE(without(asks, "", "depth").size(), std::size_t(1));
        // Of another movement another one stands, and this one asks nothing of it.
        asks = with(std::move(asks), Ask{"depth", "high", {}, "", "", "", "hinge"});
        QCOMPARE(asks.size(), std::size_t(3));
        QVERIFY(!rungOf(asks.back(), book(), made::movement("squat")) &&
                rungOf(asks.back(), book(), made::movement("hinge")));
    }

    void easierAndHarderGoRungByRung() {
        const AskKind* depth = kindOf({"depth", "box", 45}, book(), made::movement("squat"));
        QVERIFY(depth);
        QCOMPARE(*nextRung({"depth", "box", 45}, *depth, true)->amount, 40.0);  // a lower box
        QCOMPARE(*nextRung({"depth", "box", 45}, *depth, false)->amount, 50.0);
        QCOMPARE(nextRung({"depth", "box", 25}, *depth, true)->rung, std::string("back"));
        const auto easier = nextRung({"depth", "box", 75}, *depth, false);
        QCOMPARE(easier->rung, std::string("painless"));
        QVERIFY(!easier->amount);
        const auto back = nextRung(*easier, *depth, true);
        QCOMPARE(*back->amount, 75.0);  // the easiest box first
        QVERIFY(!nextRung(*easier, *depth, false));
        // From any rung the hardest and the easiest are reached, and nothing is asked twice on the way.
        for (const AskKind& k : book())
            for (const bool harder : {true, false}) {
                std::optional<Ask> at = Ask{k.id, (harder ? k.rungs.front() : k.rungs.back()).id};
                std::set<std::pair<std::string, double>> seen;
                while (at) {
                    QVERIFY2(seen.insert({at->rung, at->amount.value_or(0)}).second, at->rung.c_str());
                    QVERIFY(seen.size() < 100);
                    at = nextRung(*at, k, harder);
                }
            }
    }

    /// Taken after one set, it stands in the next, which is set up for it; lifted, all is as it was.
    void anAskGoesOnUntilItIsLifted() {
        const Ask box{"depth", "box", 40, "Wenna", "2026-12-01", "low-back", "squat"};
        EditedSet set = fold({FactsSet{SetFacts{}}, askTaken(box)});
        QVERIFY(set.facts.asks.empty());  // the set itself was not asked it
        SetFacts next = factsAfter(set, *made::catalogue());
        QCOMPARE(next.asks.size(), std::size_t(1));
        QCOMPARE(next.asks.front().by, std::string("Wenna"));
        QCOMPARE(next.variation, std::string("box"));
        QCOMPARE(next.log.boxCm, 40.0);
        const SetFacts third = factsAfter(fold({FactsSet{next}}), *made::catalogue());
        QCOMPARE(third.asks, next.asks);
        QCOMPARE(third.log.boxCm, 40.0);
        const SetFacts harder = factsAfter(fold({FactsSet{third}, askTaken({"depth", "box", 35, "", "", "", "squat"})}),
                                           *made::catalogue());
        QCOMPARE(harder.log.boxCm, 35.0);
        QCOMPARE(harder.variation, std::string("box"));
        const SetFacts lifted = factsAfter(fold({FactsSet{third}, askLifted(box)}), *made::catalogue());
        QVERIFY(lifted.asks.empty());
        QCOMPARE(lifted.variation, std::string());
        QCOMPARE(lifted.log.boxCm, 0.0);
        // With a weight at the chest the box is added and the weight stays.
        SetFacts goblet;
        goblet.variation = "goblet";
        QCOMPARE(factsAfter(fold({FactsSet{goblet}, askTaken({"depth", "box", {}, "", "", "", "squat"})}),
                            *made::catalogue())
                     .variation,
                 std::string("goblet"));
    }

    void liftingAndTakingAgainAreOneStep() {
        Edits edits{FactsSet{SetFacts{}}};
        edits = with(std::move(edits), askTaken({"depth", "box", 40, "", "", "", "squat"}));
        edits = with(std::move(edits), askTaken({"tempo", "slow", {}, "", "", "", "squat"}));
        edits = with(std::move(edits), AskSet{"hinge", "depth", std::nullopt});
        QCOMPARE(edits.size(), std::size_t(4));  // of another movement
        edits = with(std::move(edits), AskSet{"squat", "depth", std::nullopt});
        QCOMPARE(edits.size(), std::size_t(4));
        QCOMPARE(asksAfter(fold(edits)).size(), std::size_t(1));
        QVERIFY(leavesValues(edits.back()) && !needsSecondView(edits.back()));
    }

    void factsKeepWhatWasAsked() {
        SetFacts facts;
        facts.asks = {{"depth", "box", 42.5, "Wenna", "2026-12-01", "knee-front", "squat"}, {"tempo", "slow"}};
        QVERIFY(readFacts(writeFacts(facts)) == facts);
        QVERIFY(readFacts({{"movement", "squat"}}).asks.empty());  // as they were kept before
    }

    void anotherAskIsAnotherSetUp() {
        SetFacts plain, box;
        box.asks = {{"depth", "box", 40, "Wenna"}};
        QCOMPARE(setUpChanges(plain, box).size(), std::size_t(1));
        SetFacts same = box;
        same.asks.front().by = "Ruta";  // who asked changes nothing
        QVERIFY(setUpChanges(box, same).empty());
        const QString said = present::changeText(setUpChanges(plain, box).front(), *made::catalogue(), "squat",
                                                 present::Lengths::Metric);
        QVERIFY2(said.contains("to the box, 40") && said.contains("nothing"), qPrintable(said));
    }

    /// Every ask of a card is one that its movements know, and a set asked it is not told the same again.
    void everyAskOfACardIsInTheBook() {
        int asks = 0;
        for (const Card& card : made::catalogue()->advice.cards)
            for (const Change& change : card.change) {
                if (!change.ask) continue;
                ++asks;
                int known = 0;
                for (const Movement& m : made::catalogue()->movements) {
                    const AskRung* rung = rungOf(*change.ask, book(), m);
                    if (!rung) continue;
                    ++known;
                    if (change.ask->amount) QCOMPARE(*amountOf(*change.ask, *rung), *change.ask->amount);
                }
                QVERIFY2(known > 0, (card.fault + ": " + change.text).c_str());
            }
        QVERIFY(asks > 80);
        const SetState asked = stateOf(shallow(), {{"depth", "box"}});
        Situation s = situationOf(asked.set.result);
        auto offers = [&](const char* text) {
            const auto changes = adviceFor("knees_first", s, made::catalogue()->advice).change;
            return std::any_of(changes.begin(), changes.end(), [&](const Change& c) { return c.text == text; });
        };
        QVERIFY(!offers("Sit to a box."));
        s.asks.clear();
        s.school = "hips-back", s.choices["start"] = "hips-first";
        QVERIFY(offers("Sit to a box."));
    }

    /// A set that does what a change asks is not faulted for the edge the change moves, whichever change it is.
    void whatWasAdvisedIsNoFaultNext() {
        int asked = 0;
        for (const Movement& m : made::catalogue()->movements)
            for (const Standard& whole : made::catalogue()->standardsFor(m))
                for (const AskKind& kind : book())
                    for (const AskRung& rung : kind.rungs) {
                        if (!kind.isFor(m)) continue;
                        const Standard school = whole.forSet(m.id, "");
                        const Standard is = withAsks(school, book(), {{kind.id, rung.id}}, m);
                        for (const AskedEdge& e : rung.edges) {
                            if (e.to || e.toAmount) continue;
                            const Band* b = is.bandFor(e.measure);
                            if (!b) continue;
                            ++asked;
                            QVERIFY2(!(e.above ? b->max : b->min) && (e.above ? b->faultAbove : b->faultBelow).empty(),
                                     (m.id + " " + whole.id + " " + rung.id + " " + e.measure.name()).c_str());
                        }
                    }
        QVERIFY(asked > 50);
    }

    /// Cards speak to a family; what a movement of it cannot be asked has no button there.
    void onlyWhatTheMovementKnowsCanBeAsked() {
        auto asks = [](const char* movement) {
            auto spec = made::spec(3);
            spec.motion.movement = movement;
            SetFacts facts = made::factsOf(spec);
            facts.pain.before = 3, facts.pain.spots = {{"knee-front"}};
            const present::ReviewPresenter shown(made::judged(spec, facts), made::catalogue());
            const auto saying = shown.saying();
            if (!saying.lead || saying.change.size() != static_cast<qsizetype>(saying.changeAsks.size())) return -1L;
            return static_cast<long>(std::count_if(saying.changeAsks.begin(), saying.changeAsks.end(),
                                                   [](const auto& ask) { return ask.has_value(); }));
        };
        QVERIFY(asks("split-squat") > 0);
        QCOMPARE(asks("lateral-lunge"), 0L);
    }

    /// What is done instead of what hurts exists, can be asked what it is to be asked, and is another one; the swing
    /// with a sore back is never among it.
    void whatIsDoneInsteadIsThere() {
        int instead = 0;
        for (const Card& card : made::catalogue()->advice.cards)
            for (const Change& c : card.change) {
                if (!c.instead) continue;
                ++instead;
                const Movement* m = made::catalogue()->movement(c.instead->movement);
                QVERIFY2(m && (c.instead->variation.empty() || m->variation(c.instead->variation)), c.text.c_str());
                QVERIFY2(!c.ask || rungOf(*c.ask, book(), *m), c.text.c_str());
                QVERIFY2(c.instead->variation != "swing", c.text.c_str());
                QCOMPARE(card.fault, std::string(kPainCard));
            }
        QVERIFY(instead > 10);
        auto offered = [](const char* movement, const char* variation, const char* place) {
            SetResult r;
            r.context.movement = made::movement(movement);
            r.context.variation = variation;
            r.choices = made::standard(r.context.movement.standards.front()).choices;
            r.context.pain.spots = {{place}};
            return adviceWithoutFinding(kPainCard, r, made::catalogue()->advice);
        };
        const Advice swing = offered("hinge", "swing", "low-back");
        QCOMPARE(swing.say.front().text, std::string("No swings today. Let's hinge, slowly."));
        QVERIFY(swing.change.front().instead == (Instead{"hinge", ""}) && swing.change.front().ask->rung == "high");
        // What is being done already is not offered.
        for (const Change& c : offered("hinge", "split-stance", "low-back").change)
            QVERIFY(!c.instead || c.instead->variation != "split-stance");
        QVERIFY(offered("forward-lunge", "", "knee-front").change.front().instead == (Instead{"reverse-lunge", ""}));
    }

    /// Another movement takes what was set up for the first with it, keeps what is asked of itself, and ends a
    /// substitute; another variation does not.
    void anotherMovementIsSetUpAnew() {
        const auto& all = *made::catalogue();
        SetFacts f;
        f = askedAnew(std::move(f),
                      {{"depth", "box", 40, "", "", "", "squat"}, {"depth", "low", {}, "", "", "", "bridge"}}, all);
        QVERIFY(f.log.boxCm == 40 && f.variation == "box");
        f.substitute = Substitute{"walking-lunge", "", "knee-front", 4, "", ""};
        QVERIFY(atMovement(f, "squat", "goblet", all).substitute.has_value());
        const SetFacts bridge = atMovement(f, "bridge", "", all);
        QVERIFY(bridge.movement == "bridge" && bridge.log.boxCm == 0 && !bridge.substitute);
        QCOMPARE(bridge.asks.size(), std::size_t{2});
        QCOMPARE(atMovement(bridge, "squat", "", all).log.boxCm, 40.0);
    }

    /// The same test again: what hurt when it was asked for, and after the set that was done so.
    void whatWasTriedForPainIsHeldAgainstIt() {
        auto shown = [](int before, int after) {
            const auto spec = made::spec(3);
            SetFacts facts = made::factsOf(spec);
            facts.pain.spots = {{"knee-front", BodySide::Left}};
            facts.pain.before = before, facts.pain.after = after;
            facts.asks = {{"stance", "wider", {}, "", "", "knee-front", "squat", before},
                          {"depth", "box", 45, "", "", "knee-front", "squat", before}};
            return present::ReviewPresenter(made::judged(spec, facts), made::catalogue());
        };
        const auto better = shown(3, 1).saying();
        QCOMPARE(better.title, QString("Pain 3 → 1: to the box, 45 cm"));
        QVERIFY(better.lead && better.change.front().contains("two weeks"));
        const auto same = shown(3, 3).saying();
        QVERIFY2(same.lead && same.why.contains("Pain 3 → 3") && same.why.contains("the next one"),
                 qPrintable(same.why));
        for (const QString& text : same.change) QVERIFY(!text.startsWith("Box squat"));
        QVERIFY(!shown(2, 2).saying().lead);
        QCOMPARE(int(substituteAnswer(4, 2)), int(SubstituteAnswer::Keep));
        QCOMPARE(int(substituteAnswer(5, 3)), int(SubstituteAnswer::Next));
        QCOMPARE(int(substituteAnswer(0, 0)), int(SubstituteAnswer::Next));
    }

    /// What was asked first, then how it is set up, then what the school tells; where the camera goes is said apart.
    void beforeTheFirstRepItIsSaidLineByLine() {
        SetFacts facts;
        facts.asks = {{"depth", "box", 45, "", "", "", "squat"}};
        facts.variation = "box";
        const auto& all = *made::catalogue();
        const Choices& school = made::standard("whole-foot").choices;
        const QStringList lines = present::beforeFirstRep(facts, school, all, present::Lengths::Metric);
        QCOMPARE(lines.front(), QString("Asked: to the box, 45 cm."));
        QVERIFY(lines.join(' ').contains("height is the depth asked for"));
        QVERIFY(lines.last().startsWith("Breathe") || lines.join(' ').contains("reath"));
        for (const Movement& m : all.movements)
            for (const auto& standard : all.standardsFor(m)) {
                facts = {};
                facts.movement = m.id;
                for (const QString& l : present::beforeFirstRep(facts, standard.choices, all, present::Lengths::Metric))
                    QVERIFY2(!l.contains("amera") && l.size() > 10, qPrintable(l));
                QVERIFY(!m.camera.empty());
            }
    }

    void wordsInTheReadersUnits() {
        const Movement squat = made::movement("squat");
        using present::Lengths;
        QCOMPARE(present::askText({"depth", "box", 40}, book(), squat, Lengths::Metric), QString("to the box, 40 cm"));
        QVERIFY(present::askText({"depth", "box", 40}, book(), squat, Lengths::Us).endsWith("15.5 in"));
        QCOMPARE(present::askText({"tempo", "slow"}, book(), squat, Lengths::Metric), QString("slowly down, 3 s"));
        QCOMPARE(present::askText({"depth", "painless"}, book(), squat, Lengths::Metric),
                 QString("only as deep as is free of pain"));
        QVERIFY(present::askText({"depth", "gone"}, book(), squat, Lengths::Metric).isEmpty());
        const QString origin =
            present::askOrigin({"depth", "box", 40, "Wenna", "2026-12-03", "depth_short"}, made::catalogue()->advice);
        QVERIFY2(origin.contains("by Wenna") && origin.contains("3 Dec"), qPrintable(origin));
        // What was asked because something hurts is tried without after two weeks; what was asked for a fault is not.
        auto old = [](const char* why) {
            const QString day = QDate::currentDate().addDays(-15).toString(Qt::ISODate);
            return present::askOrigin({"depth", "box", 40, "", day.toStdString(), why}, made::catalogue()->advice);
        };
        QVERIFY(old("knee-front").contains("without it") && !old("depth_short").contains("without it"));
    }

    void brokenFilesAreRefusedByName() {
        auto refused = [](const char* rung) {
            const std::string text =
                std::string(R"({"schema": "zevo-asks-1", "asks": [{"id": "a", "for": ["squat"], "rungs": [)") + rung +
                "]}]}";
            const auto read = parseAsks(text, "asks.json");
            return read ? QString("taken") : present::sentence(read.error());
        };
        QCOMPARE(refused(R"({"id": "x", "asked": "so"})"), QString("taken"));
        QVERIFY(refused("").contains("at least one"));
        QVERIFY(refused(R"({"asked": "so"})").contains("id"));
        QVERIFY(refused(R"({"id": "x", "asked": "so", "sets": "hat"})").contains("hat"));
        QVERIFY(
            refused(R"({"id": "x", "asked": "so", "edges": [{"measure": "girth", "edge": "max"}]})").contains("girth"));
        QVERIFY(
            refused(R"({"id": "x", "asked": "so", "edges": [{"measure": "stance", "edge": "up"}]})").contains("up"));
        QVERIFY(
            refused(R"({"id": "x", "asked": "so", "edges": [{"measure": "stance", "edge": "max", "to_amount": true}]})")
                .contains("needs an amount"));
        QVERIFY(
            refused(
                R"({"id": "x", "asked": "so", "amount": {"unit": "cm", "least": 9, "most": 5, "step": 1, "usual": 7}})")
                .contains("usual"));
        QVERIFY(refused(R"({"id": "x", "asked": "so"}, {"id": "x", "asked": "so"})").contains("twice"));
    }
};

ZEVO_SUITE(TestAsks, "asks")
#include "test_asks.moc"
