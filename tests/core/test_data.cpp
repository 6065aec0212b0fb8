// The shipped data files, and what is said about damaged ones.
#include <QDir>
#include <QRegularExpression>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "catalog/data_files.h"
#include "core/judge/choices.h"
#include "sim/clip_maker.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using nlohmann::json;

namespace {

/// The shipped file with one value replaced (or removed, when `value` is discarded).
QString refusal(const char* pointer, const json& value) {
    json root = json::parse(standardJson(made::standard("whole-foot")));
    if (value.is_discarded()) {
        const json::json_pointer p(pointer);
        root[p.parent_pointer()].erase(p.back());
    } else {
        root[json::json_pointer(pointer)] = value;
    }
    const auto parsed = parseStandard(root.dump(), "mine.json");
    return parsed ? QString() : QString::fromStdString(parsed.error().message);
}

}  // namespace

class TestData : public QObject {
    Q_OBJECT
  private slots:
    /// Every movement with its standards; that their faults have advice is tested where advice is (test_advice).
    void movementsAndStandardsAreWhole() {
        const auto ids = catalog::movementIds();
        QCOMPARE(ids.size(), std::size_t{9});
        QCOMPARE(ids.front(), std::string("squat"));
        for (const auto& id : ids) {
            const auto movement = catalog::loadMovement(id);
            QVERIFY2(movement && movement->id == id, id.c_str());
            QVERIFY(!movement->setUp.empty() && !movement->camera.empty() && movement->phases.size() == 4);
            for (const auto& v : movement->variations)
                QVERIFY(movement->setUpOf(v.id).size() == movement->setUp.size() + v.setUp.size());
            for (const auto& m : movement->measures) QVERIFY2(MeasureId::named(m), m.c_str());
            const auto standards = catalog::loadStandards(*movement);
            QVERIFY2(bool(standards), standards ? "" : made::words(standards.error()));
            QCOMPARE(standards->front().id, movement->standards.front());
            std::vector<std::string> variations{""};
            for (const auto& v : movement->variations) variations.push_back(v.id);
            for (const auto& s : *standards) {
                QVERIFY(QString::fromStdString(s.reason).count('.') >= 2);  // its reasons in two sentences
                QVERIFY(!s.differs.empty());
                QVERIFY(judges(s, *movement));
                for (const auto& v : variations) {
                    std::set<MeasureId> judged;
                    for (const auto& b : s.forSet(id, v).bands) {
                        QVERIFY2(judged.insert(b.measure).second, b.measure.name().c_str());  // one band a measure
                        QVERIFY(b.measure->scale.from < b.measure->scale.to);
                    }
                }
            }
        }
    }

    void variationsHaveBandsOfTheirOwn() {
        const Standard s = made::standard("soft-finish");
        QVERIFY(s.forSet("hinge", "").bandFor("knee_flexion")->max.has_value());
        QVERIFY(!s.forSet("hinge", "wide-floor").bandFor("knee_flexion")->max.has_value());
        QVERIFY(!s.forSet("hinge", "").bandFor("load_ahead") && s.forSet("hinge", "romanian").bandFor("load_ahead"));
        const Standard tall = made::standard("tall");
        const Standard squeeze = made::standard("full-squeeze");
        // Stiff legs bend less and go lower; the swing has its own stance and finish.
        QVERIFY(*squeeze.forSet("hinge", "stiff-leg").bandFor("hands_height")->min <
                *squeeze.forSet("hinge", "romanian").bandFor("hands_height")->min);
        QVERIFY(*squeeze.forSet("hinge", "stiff-leg").bandFor("knee_flexion")->max <
                *squeeze.forSet("hinge", "romanian").bandFor("knee_flexion")->max);
        QVERIFY(*s.forSet("hinge", "swing").bandFor("stance")->max > *s.forSet("hinge", "").bandFor("stance")->max);
        QVERIFY(*s.forSet("hinge", "swing").bandFor("top_trunk_lean")->min <
                *s.forSet("hinge", "").bandFor("top_trunk_lean")->min);
        QVERIFY(squeeze.forSet("hinge", "").bandFor("top_trunk_lean")->faultAbove == "top_not_reached");
        QVERIFY(s.forSet("hinge", "").bandFor("top_trunk_lean")->faultAbove.empty());
        for (const auto& [movement, variation] :
             {std::pair("hinge", "swing"), {"hinge", "split-stance"}, {"bridge", "thrust"}})
            QVERIFY2(!made::movement(movement).variation(variation)->setUp.empty(), variation);
        QVERIFY(tall.forSet("split-squat", "").bandFor("rear_knee_height"));
        QVERIFY(!tall.forSet("rear-foot-raised", "").bandFor("rear_knee_height"));
    }

    void exportedStandardsAreReadAgainTheSame() {
        for (const char* id : {"whole-foot", "soft-finish", "tall", "neutral"}) {
            const Standard s = made::standard(id);
            const auto again = parseStandard(standardJson(s), "again.json");
            QVERIFY2(bool(again), again ? "" : made::words(again.error()));
            QCOMPARE(standardJson(*again), standardJson(s));
            QCOMPARE(again->bands.size(), s.bands.size());
        }
    }

    void aCoachsOwnStandardIsTakenInOrRefusedWithItsValue() {
        QTemporaryDir dir;
        const std::string own = dir.filePath("own").toStdString(), file = dir.filePath("mine.json").toStdString();
        auto write = [&](auto change) {
            Standard s = made::standard("tall");
            s.id = "my-tall", s.title = "My tall";
            change(s);
            (void)catalog::writeTextFile(file, standardJson(s));
            return catalog::importStandard(file, own);
        };
        QVERIFY(bool(write([](Standard&) {})));
        const auto all = catalog::loadStandards(made::movement("split-squat"), own);
        QCOMPARE(all->back().id, std::string("my-tall"));
        QVERIFY(all->size() == 3 && catalog::loadStandard("my-tall", own));
        QCOMPARE(catalog::loadStandards(made::movement("squat"), own)->size(), std::size_t{3});  // not for squats
        auto message = [](const auto& result) {
            return result ? QString() : QString::fromStdString(result.error().message);
        };
        QVERIFY(message(write([](Standard& s) { s.id = "tall"; })).contains("comes with Zevo"));
        QVERIFY(message(write([](Standard& s) { s.id = "../evil"; })).contains("“../evil”"));
        QVERIFY(message(write([](Standard& s) { s.movement = "juggling"; })).contains("/movement “juggling”"));
        QVERIFY(message(write([](Standard& s) { s.bands[1].min = 200; })).contains("/bands/1/min 200"));
        // A file that was damaged later is named, and the others still serve.
        (void)catalog::writeTextFile(own + "/broken.json", "{");
        std::vector<Error> refused;
        QCOMPARE(catalog::loadStandards(made::movement("split-squat"), own, &refused)->size(), std::size_t{3});
        QVERIFY(refused.size() == 1 && refused[0].message.find("broken.json") != std::string::npos);
    }

    void damagedMovementsAreRefused() {
        auto text = *catalog::readTextFile(std::string(ZEVO_DATA_DIR) + "/movements/hinge.json");
        QVERIFY(bool(parseMovement(text, "hinge.json")));
        auto refusedWith = [&](const char* pointer, const json& value) {
            json root = json::parse(text);
            root[json::json_pointer(pointer)] = value;
            const auto m = parseMovement(root.dump(), "mine.json");
            return m ? QString() : QString::fromStdString(m.error().message);
        };
        QVERIFY(refusedWith("/drive", "spinning").contains("/drive “spinning” is not one of folding"));
        QVERIFY(refusedWith("/family", "jump").contains("/family “jump”"));
        QVERIFY(refusedWith("/variations/0/load", "ears").contains("/variations/0/load “ears”"));
        QVERIFY(refusedWith("/standards", json::array()).contains("/standards"));
        QVERIFY(refusedWith("/measures", 7).contains("/measures must be a list, not 7"));
    }

    void damagedStandardsAreRefusedWithPathAndValue_data() {
        QTest::addColumn<QString>("pointer");
        QTest::addColumn<QString>("value");
        QTest::addColumn<QString>("says");
        QTest::newRow("not a number") << "/bands/4/max"
                                      << "\"five\""
                                      << "/bands/4/max must be a number, not \"five\"";
        QTest::newRow("unknown measure") << "/bands/0/measure"
                                         << "\"heel_colour\""
                                         << "“heel_colour” is not a measure";
        QTest::newRow("empty band") << "/bands/1/min"
                                    << "19"
                                    << "/bands/1/min 19 is larger than max";
        QTest::newRow("wrong schema") << "/schema"
                                      << "\"zevo-standard-9\""
                                      << "/schema must be zevo-standard-1";
        QTest::newRow("bands no list") << "/bands"
                                       << "3"
                                       << "/bands must be a list";
        QTest::newRow("a band no object") << "/bands/1"
                                          << "7"
                                          << "/bands/1 must be an object";
        QTest::newRow("twice") << "/bands/1/measure"
                               << "\"heel_rise\""
                               << "judges “heel_rise” a second time";
        QTest::newRow("measure") << "/bands/0/measure"
                                 << "\"heel_height\""
                                 << "/bands/0/measure “heel_height” is not a measure Zevo knows";
        QTest::newRow("careful") << "/bands/0/careful"
                                 << "1"
                                 << "must be true or false";
        QTest::newRow("title missing") << "/title"
                                       << ""
                                       << "/title is missing";
        QTest::newRow("edge without number") << "/bands/0/max"
                                             << ""
                                             << "/bands/0/max is missing but fault_above is given";
    }
    void damagedStandardsAreRefusedWithPathAndValue() {
        QFETCH(QString, pointer);
        QFETCH(QString, value);
        QFETCH(QString, says);
        const auto message = refusal(qPrintable(pointer), json::parse(value.toStdString(), nullptr, false));
        QVERIFY2(message.contains(says), qPrintable(message));
        QVERIFY(message.contains("mine.json"));
    }

    void textThatIsNoJsonIsRefused() {
        for (const char* text : {"", "{", "[]", "null", "\xff\xfe"}) {
            QVERIFY(!parseStandard(text, "x"));
            QVERIFY(!parseChoices(text, "x") && !parseBands(text, "x"));
        }
    }

    void unknownNamesAreAnsweredWithTheKnownOnes() {
        QVERIFY(QString::fromStdString(catalog::loadStandard("tiptoe").error().message).contains("whole-foot"));
        QVERIFY(!catalog::loadStandard("../standards/whole-foot"));
        QVERIFY(!catalog::loadStandard(""));
        QVERIFY(QString::fromStdString(catalog::loadMovement("juggling").error().message).contains("squat"));
    }

    void filesAreWrittenWholeOrNotAtAll() {
        QTemporaryDir dir;
        const std::string path = dir.filePath("a.json").toStdString();
        QVERIFY(bool(catalog::writeTextFile(path, "one")));
        QVERIFY(bool(catalog::writeTextFile(path, "two")));
        QCOMPARE(*catalog::readTextFile(path), std::string("two"));
        QCOMPARE(QDir(dir.path()).entryList(QDir::Files).size(), 1);  // no remains beside it
        QVERIFY(!catalog::writeTextFile("/nonexistent/folder/a.json", "x"));
        QVERIFY(!catalog::readTextFile("/nonexistent"));
    }
};

ZEVO_SUITE(TestData, "data")
#include "test_data.moc"
