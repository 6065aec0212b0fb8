// The shipped data files, and what is said about damaged ones.
#include <QDir>
#include <QRegularExpression>
#include <QTest>
#include <nlohmann/json.hpp>
#include <set>

#include "analysis/data_files.h"
#include "analysis/demo_maker.h"
#include "sim/clip_maker.h"
#include "tests/support/made_sets.h"

using namespace zevo;
using nlohmann::json;

namespace {

/// The shipped file with one value replaced (or removed, when `value` is discarded).
QString refusal(const char* pointer, const json& value) {
    auto text = analysis::readTextFile(std::string(ZEVO_DATA_DIR) + "/standards/whole-foot.json");
    json root = json::parse(*text);
    if (value.is_discarded()) {
        const json::json_pointer p(pointer);
        root[p.parent_pointer()].erase(p.back());
    } else {
        root[json::json_pointer(pointer)] = value;
    }
    const auto parsed = parseStandard(root.dump(), "mine.json");
    return parsed ? QString() : QString::fromStdString(parsed.error().message);
}

const std::set<std::string> kFaults{"depth_short",   "knees_first",      "knee_past_toes", "heels_rise",
                                    "toes_rise",     "balance_off_foot", "forward_lean",   "head_off_line",
                                    "lowering_fast", "bottom_bounced",   "lockout"};

}  // namespace

class TestData : public QObject {
    Q_OBJECT
  private slots:
    void standardsLoadAndCoverTheFaults() {
        const auto standards = analysis::loadStandards("squat");
        QVERIFY2(bool(standards), standards ? "" : standards.error().message.c_str());
        QCOMPARE(standards->size(), std::size_t{3});
        QCOMPARE(standards->front().id, std::string("whole-foot"));
        std::set<std::string> named;
        for (const auto& s : *standards) {
            QVERIFY(QString::fromStdString(s.reason).count('.') >= 2);  // its reasons in two sentences
            for (const auto& b : s.bands) {
                for (const auto& f : {b.faultAbove, b.faultBelow})
                    if (!f.empty()) named.insert(f);
                QVERIFY(b.scaleFrom < b.scaleTo);
            }
            QVERIFY(s.bandFor("thigh_angle") && s.bandFor("thigh_angle")->careful);
            QVERIFY(s.bandFor("nothing") == nullptr);
        }
        QCOMPARE(named, kFaults);
    }

    void everyFaultHasAdviceShortEnoughToBeSaid() {
        const auto book = analysis::loadAdvice("squat");
        QVERIFY2(bool(book), book ? "" : book.error().detail.c_str());
        for (const auto& fault : kFaults) {
            const auto found = book->find(fault);
            QVERIFY2(found != book->end(), fault.c_str());
            const Advice& a = found->second;
            QVERIFY(a.say.size() >= 2 && a.say.size() <= 4);
            for (const auto& c : a.say) {
                QVERIFY(c.kind == "external" || c.kind == "internal" || c.kind == "image");
                const auto words = QString::fromStdString(c.text).split(' ').size();
                QVERIFY2(words <= 10, c.text.c_str());  // between two reps
            }
            QCOMPARE(a.say.front().kind, std::string("external"));
            for (const auto& d : a.prepare) {
                QVERIFY(d.stage == "release" || d.stage == "activate" || d.stage == "integrate");
                QVERIFY2(QString::fromStdString(d.dose).contains(QRegularExpression("[0-9]")), d.dose.c_str());
            }
        }
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
        QTest::newRow("empty band") << "/bands/2/min"
                                    << "0.9"
                                    << "/bands/2/min is larger than max";
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
                               << "judges a measure a second time";
        QTest::newRow("scale") << "/bands/0/scale"
                               << "[5, 1]"
                               << "/bands/0/scale must run from the smaller";
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
            QVERIFY(!parseAdvice(text, "x"));
        }
        QVERIFY(!parseAdvice(R"({"schema":"zevo-advice-1","faults":{"heels_rise":{"title":"x"}}})", "x"));
    }

    void unknownNamesAreAnsweredWithTheKnownOnes() {
        QVERIFY(QString::fromStdString(analysis::loadStandard("tiptoe").error().message).contains("whole-foot"));
        QVERIFY(!analysis::loadStandard("../standards/whole-foot"));
        QVERIFY(!analysis::loadStandard(""));
        QVERIFY(QString::fromStdString(analysis::loadStandards("juggling").error().message).contains("squat"));
    }

    void theDemoScenarioCanBeMade() {
        const auto demo = analysis::loadDemo();
        QVERIFY(demo && !demo->empty());
        for (const auto& set : *demo) {
            const auto spec = sim::clipSpecFromJson(set.specJson);
            QVERIFY2(bool(spec), spec ? "" : spec.error().message.c_str());
            QVERIFY(!set.planted.empty());
            for (const auto& f : set.planted) QVERIFY(kFaults.count(f));
        }
    }

    void filesAreWrittenWholeOrNotAtAll() {
        QTemporaryDir dir;
        const std::string path = dir.filePath("a.json").toStdString();
        QVERIFY(bool(analysis::writeTextFile(path, "one")));
        QVERIFY(bool(analysis::writeTextFile(path, "two")));
        QCOMPARE(*analysis::readTextFile(path), std::string("two"));
        QCOMPARE(QDir(dir.path()).entryList(QDir::Files).size(), 1);  // no remains beside it
        QVERIFY(!analysis::writeTextFile("/nonexistent/folder/a.json", "x"));
        QVERIFY(!analysis::readTextFile("/nonexistent"));
    }
};

QTEST_GUILESS_MAIN(TestData)
#include "test_data.moc"
