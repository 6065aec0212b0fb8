// Choices apart from schools: a bundle sets bands, a client or a set overrides each.
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "core/judge/choices.h"
#include "core/serial/edit_json.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using made::found;
using nlohmann::json;

namespace {

const ChoiceBook& book() {
    return made::catalogue()->choices;
}

Standard with(const char* school, const Choices& overrides, const char* movement = "squat") {
    return withChoices(made::standard(school), book(), overrides, made::movement(movement));
}

/// The judged state of a set with overrides.
SetState stateOf(const sim::ClipSpec& spec, const Choices& choices, const std::string& school = {}) {
    SetFacts facts = made::factsOf(spec);
    facts.choices = choices;
    return made::judged(spec, facts, school);
}

}  // namespace

class TestChoices : public QObject {
    Q_OBJECT
  private slots:
    void everySchoolIsABundleOfKnownChoices() {
        QVERIFY(book().size() >= 15);
        for (const Standard& s : made::catalogue()->standards) {
            QVERIFY2(problemOf(s.choices, book()).empty(), problemOf(s.choices, book()).c_str());
            QVERIFY2(!s.choices.empty() && !s.leading.empty(), s.id.c_str());
            for (const MeasureId m : s.leading) {
                const Band* b = s.bandFor(m);
                QVERIFY2(b && !(b->faultAbove.empty() && b->faultBelow.empty()), (s.id + m.name()).c_str());
            }
        }
    }

    void aChoiceSetsItsBands() {
        const Standard back = made::standard("hips-back"), whole = made::standard("whole-foot");
        QCOMPARE(back.bandFor("knee_past_toe")->faultAbove, std::string("knee_past_toes"));
        QVERIFY(whole.bandFor("knee_past_toe")->faultAbove.empty());
        QCOMPARE(*back.bandFor("mass_over_foot")->min, 0.2);
        QCOMPARE(whole.bandFor("knee_lead")->faultBelow, std::string("hips_first"));
        QVERIFY(back.bandFor("knee_lead")->faultBelow.empty());
    }

    /// Breath, arms, and the way and the back of a hinge ask for no number: they are told before the first repetition.
    void whatIsNotMeasuredIsToldBefore() {
        for (const Choice& c : book())
            for (const ChoiceOption& o : c.options) {
                const bool told = c.id == "breath" || c.id == "arms" || c.id == "hinge_style" || c.id == "hinge_back";
                QVERIFY2(o.setUp.empty() != told, (c.id + " " + o.id).c_str());
                QVERIFY2(QString::fromStdString(o.setUp).split(' ').size() <= 14, o.setUp.c_str());
            }
        const Movement squat = made::movement("squat"), hinge = made::movement("hinge");
        auto told = [&](const char* school, const Movement& m, const Choices& otherwise, const char* variation = "") {
            QStringList out;
            for (const auto& s :
                 setUpOf(withChoices(made::standard(school), book(), otherwise, m).choices, book(), m, variation))
                out.append(QString::fromStdString(s));
            return out.join(' ');
        };
        QVERIFY(told("whole-foot", squat, {}).contains("out on the way up"));
        const QString braced = told("whole-foot", squat, {{"breath", "braced"}, {"arms", "held-in"}});
        QVERIFY(braced.contains("brace before each rep") && braced.contains("stay in") && !braced.contains("way up"));
        QVERIFY(told("whole-foot", squat, {}).contains("Arms reach"));
        QVERIFY(!told("whole-foot", squat, {}, "goblet").contains("Arms"));  // they hold the bell
        QVERIFY(told("whole-foot", squat, {{"arms", "pushed-away"}}, "goblet").contains("Push the weight away"));
        QVERIFY(told("soft-finish", hinge, {{"hinge_back", "arched"}}).contains("slight arch"));
        QVERIFY(!told("soft-finish", hinge, {}).contains("Arms"));  // of squats
    }

    void aSetOverridesOneChoiceAndNothingElse() {
        const Standard s = with("whole-foot", {{"foot", "toes-light"}, {"depth", "level"}, {"lunge_trunk", "bow"}});
        QCOMPARE(*s.bandFor("mass_over_foot")->min, 0.2);
        QCOMPARE(s.changed, std::vector<std::string>{"with toes light"});  // level is what the school asks anyway
        QCOMPARE(s.choices.at("foot"), std::string("toes-light"));
        const Standard plain = made::standard("whole-foot");
        QCOMPARE(s.bands.size(), plain.bands.size());
        QCOMPARE(*s.bandFor("heel_rise")->max, *plain.bandFor("heel_rise")->max);
    }

    void depthIsApartFromTheSchool() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.thighBottomDeg = 22, r.shinBottomDeg = 22;
        QVERIFY(found(stateOf(spec, {}), "depth_short"));
        QVERIFY(!found(stateOf(spec, {{"depth", "controlled"}}), "depth_short"));
        QVERIFY(!found(stateOf(spec, {{"depth", "own:30"}}), "depth_short"));
        QVERIFY(found(stateOf(spec, {{"depth", "own:5"}}), "depth_short"));
        const SetState right = stateOf(spec, {{"depth", "knee-90"}});
        QCOMPARE(right.standard.bandFor("knee_flexion")->faultBelow, std::string("depth_short"));
        QVERIFY(right.standard.bandFor("thigh_angle")->faultAbove.empty());
    }

    void armsMoveTheLeanAClientNeeds() {
        const auto spec = made::spec(2);
        auto needed = [&](const char* arms) {
            return made::value(stateOf(spec, {{"arms", arms}}).set, 0, "needed_lean");
        };
        QVERIFY(needed("held-in") > needed("reach") + 1);  // less in front to balance with
        QVERIFY(needed("behind-head") > needed("reach") + 1);
        // Another set of arms is measured anew from the measures on; so is another foot; another depth is only judged.
        const auto seen = made::observation(spec);
        SetFacts facts = made::factsOf(spec);
        const auto first = recompute({seen}, {FactsSet{facts}}, *made::catalogue());
        facts.choices = {{"foot", "toes-light"}};
        const auto foot = recompute({seen}, {FactsSet{facts}}, *made::catalogue(), &*first);
        QVERIFY(foot && foot->from == Stage::Measures);
        QVERIFY(made::value(foot->set, 0, "needed_lean") < made::value(first->set, 0, "needed_lean") - 4);
        facts.choices["depth"] = "controlled";
        const auto depth = recompute({seen}, {FactsSet{facts}}, *made::catalogue(), &*foot);
        QVERIFY(depth && depth->from == Stage::Judgement);
        facts.choices = {{"arms", "behind-head"}};
        const auto arms = recompute({seen}, {FactsSet{facts}}, *made::catalogue(), &*depth);
        QVERIFY(arms && arms->from == Stage::Measures);
    }

    void theResultSaysByWhatItWasJudged() {
        const auto s = stateOf(made::spec(2), {{"foot", "toes-light"}});
        QCOMPARE(s.set.result.changed, std::vector<std::string>{"with toes light"});
        const auto out = json::parse(toJson(s.set, present::resultWords()));
        QCOMPARE(out["choices"]["foot"].get<std::string>(), std::string("toes-light"));
        QVERIFY(out["not_judged"].is_array() && out.contains("clean"));
    }

    void choicesGoOutAndInWithAStandard() {
        QTemporaryDir dir;
        const std::string own = dir.filePath("own").toStdString(), file = dir.filePath("mine.json").toStdString();
        Standard mine = with("whole-foot", {{"foot", "toes-light"}});
        mine.id = "mine", mine.title = "Mine";
        QVERIFY(bool(catalog::writeTextFile(file, standardJson(mine))));
        const auto read = catalog::importStandard(file, own);
        QVERIFY2(bool(read), read ? "" : made::words(read.error()));
        QCOMPARE(read->choices, mine.choices);
        QCOMPARE(*read->bandFor("mass_over_foot")->min, 0.2);
        QCOMPARE(read->leading, mine.leading);
        auto refused = [&](const char* choice, const char* option) {
            Standard s = mine;
            s.choices[choice] = option;
            (void)catalog::writeTextFile(file, standardJson(s));
            const auto r = catalog::importStandard(file, own);
            return r ? QString() : QString::fromStdString(r.error().message);
        };
        QVERIFY(refused("foot", "tiptoe").contains("mine.json") && refused("foot", "tiptoe").contains("“tiptoe”"));
        QVERIFY(refused("hat", "on").contains("/choices/hat"));
        QVERIFY(refused("depth", "own").contains("must carry its number"));
        QVERIFY(refused("depth", "level:7").contains("not one of its options"));
    }

    void theFileOfChoicesIsRefusedWhenBroken() {
        const auto text = *catalog::readTextFile(std::string(ZEVO_DATA_DIR) + "/choices.json");
        auto refusedWith = [&](const char* pointer, const json& value) {
            json root = json::parse(text);
            root[json::json_pointer(pointer)] = value;
            const auto read = parseChoices(root.dump(), "mine.json");
            return read ? QString() : QString::fromStdString(read.error().message);
        };
        QVERIFY(refusedWith("/choices/0/title", 7).contains("/choices/0/title must be text, not 7"));
        QVERIFY(refusedWith("/choices/0/options/1/bands", json::array()).contains("/choices/0/options/1/bands"));
        QVERIFY(refusedWith("/choices/2/options", json::array()).contains("at least two"));
        QVERIFY(refusedWith("/choices/0/options/0/bands/0/measure", "x").contains("“x” is not a measure"));
    }

    /// What is not known any more, or for another movement, is passed over: old sets open.
    void unknownOverridesDoNoHarm() {
        const Standard plain = made::standard("whole-foot");
        for (const Choices& c :
             {Choices{{"hat", "on"}}, {{"foot", "tiptoe"}}, {{"depth", "own"}}, {{"depth", "own:x"}}})
            QCOMPARE(standardJson(with("whole-foot", c)), standardJson(plain));
        QVERIFY(!numberOf("own:") && !numberOf("own:1e9") && !numberOf("own:nan"));
        QCOMPARE(*numberOf("own:-12.5"), -12.5);
    }

    void editsKeepChoicesPainAndWhereItWasFelt() {
        SetFacts f;
        f.choices = {{"depth", "own:12"}, {"foot", "toes-light"}};
        f.pain.spots = {{"knee-front", BodySide::Left}, {"low-back"}}, f.pain.cleared = {"surgery"};
        f.pain.redFlags = {"fall"}, f.pain.limits = {"to a box"};
        f.substitute = Substitute{"hinge", "swing", "low-back", 3, "Perran", "2026-12-01"};
        f.asks = {{"depth", "low", {}, "Perran", "2026-12-01", "low-back", "bridge", 3}};
        f.felt = {"seat", "hamstring"};
        const auto [kind, text] = writeEdit(FactsSet{f});
        const auto read = readEdit(kind, text);
        QVERIFY(read && std::get<FactsSet>(*read).facts == f);
        QVERIFY(bool(readEdit("facts", R"({"movement":"squat"})")));  // from before there were any
    }
};

ZEVO_SUITE(TestChoices, "choices")
#include "test_choices.moc"
