// A tempo of the coach's own: how it is written, what it does to a standard, and to a set judged by it.

#include <locale>
#include <nlohmann/json.hpp>

#include "core/serial/result_json.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

const Band* only(const Standard& s, const std::string& measure) {
    const Band* found = nullptr;
    for (const Band& b : s.bands)
        if (b.measure.name() == measure) {
            if (found) qFatal("%s is judged twice", measure.c_str());
            found = &b;
        }
    return found;
}

MeasuredSet judgedSet(double lowerS, double pauseS, std::optional<Tempo> tempo) {
    auto spec = made::spec(3);
    for (auto& r : spec.motion.reps) r.lowerS = lowerS, r.pauseS = pauseS;
    auto set = made::measured(spec);
    if (!set) qFatal("%s", made::words(set.error()));
    set->result.context.tempo = tempo;
    judgeSet(set->result, made::standard("whole-foot"));
    return std::move(*set);
}

SetResult judgedAt(double lowerS, double pauseS, std::optional<Tempo> tempo) {
    return judgedSet(lowerS, pauseS, tempo).result;
}

const Finding* found(const SetResult& r, const std::string& fault) {
    for (const auto& f : r.findings)
        if (f.fault == fault) return &f;
    return nullptr;
}

}  // namespace

class TestTempo : public QObject {
    Q_OBJECT
  private slots:
    void itIsReadAndWritten() {
        const auto t = parseTempo("4-1-1");
        QVERIFY(bool(t));
        QCOMPARE(t->lowerS, 4.0);
        QCOMPARE(t->pauseS, 1.0);
        QCOMPARE(t->liftS, 1.0);
        for (const char* text : {"4-1-1", "2.5-0-1", "10-3-0.5"}) QCOMPARE(tempoText(*parseTempo(text)), text);
    }

    void whatIsNoTempoIsRefusedWithItsText_data() {
        QTest::addColumn<QString>("text");
        for (const char* text : {"", "4", "4-1", "4-1-1-0", "four-1-1", "4 1 1", "-1-1-1", "0-1-1", "4-1-0", "99-1-1",
                                 "4-1-1x", "nan-1-1"})
            QTest::newRow(qPrintable("“" + QString(text) + "”")) << text;
    }
    void whatIsNoTempoIsRefusedWithItsText() {
        QFETCH(QString, text);
        const auto t = parseTempo(text.toStdString());
        QVERIFY(!t);
        QVERIFY2(t.error().message.find("“" + text.toStdString() + "”") != std::string::npos, made::words(t.error()));
        QVERIFY(t.error().message.find("4-1-1") != std::string::npos);  // and shows how it is done
    }

    void itTakesTheStandardsPlace() {
        const Standard whole = made::standard("whole-foot"), paced = withTempo(whole, {4, 1, 1}, Drive::Sinking);
        const Band *down = only(paced, "lowering_s"), *pause = only(paced, "pause_s"), *up = only(paced, "lifting_s");
        QVERIFY(down && pause && up);
        NEAR(*down->min, 3, 1e-9);  // a quarter
        NEAR(*down->max, 5, 1e-9);
        NEAR(*pause->min, 0.5, 1e-9);  // at least half a second
        QCOMPARE(down->faultBelow, "lowering_fast");
        QCOMPARE(pause->faultBelow, "pause_short");
        QVERIFY(down->faultAbove.empty() && up->faultBelow.empty() && up->faultAbove.empty());
        // All else stays.
        QCOMPARE(*paced.bandFor("thigh_angle")->max, *whole.bandFor("thigh_angle")->max);
        QCOMPARE(*only(whole, "lowering_s")->min, 1.5);
    }

    /// Where a comma is the point, a tempo is still kept and read as "2.5-0-1".
    void aDecimalCommaLosesNothing() {
        struct Comma : std::numpunct<char> {
            char do_decimal_point() const override { return ','; }
        };
        const std::locale before = std::locale::global(std::locale(std::locale::classic(), new Comma));
        const auto kept = parseTempo("2.5-0-1"), typed = parseTempo("2,5-0-1,25");
        const std::string text = tempoText({2.5, 0, 1.25});
        std::locale::global(before);
        QVERIFY(kept && kept->lowerS == 2.5);
        QVERIFY(typed && typed->lowerS == 2.5 && typed->liftS == 1.25);
        QCOMPARE(text, std::string("2.5-0-1.25"));
        QVERIFY(!parseTempo("2..5-0-1") && !parseTempo("1e1-0-1") && !parseTempo("-1-0-1"));
    }

    void bridgesHoldAndLowerByTheirOwnNames() {
        const Standard paced = withTempo(made::standard("neutral"), {2, 3, 1}, Drive::HipRise);
        QCOMPARE(only(paced, "lowering_s")->faultBelow, "dropped");
        QCOMPARE(only(paced, "pause_s")->faultBelow, "hold_missing");
        NEAR(*only(paced, "pause_s")->min, 2.25, 1e-9);
    }

    void noPauseAskedForIsNoneToMiss() {
        const Standard paced = withTempo(made::standard("whole-foot"), {3, 0, 1}, Drive::Sinking);
        QVERIFY(!only(paced, "pause_s")->min);
        NEAR(*only(paced, "pause_s")->max, 0.5, 1e-9);
    }

    void aSetIsJudgedByIt() {
        // Slow enough for the standard, not for the tempo.
        QVERIFY(!found(judgedAt(2.2, 0.4, {}), "lowering_fast"));
        const SetResult quick = judgedAt(2.2, 1.2, Tempo{4, 1, 1});
        QVERIFY(found(quick, "lowering_fast"));
        NEAR(found(quick, "lowering_fast")->edge, 3, 1e-9);
        QVERIFY(!found(quick, "pause_short"));
        // No pause where two seconds are asked for.
        QVERIFY(found(judgedAt(4, 0.1, Tempo{4, 2, 1}), "pause_short"));
        const SetResult right = judgedAt(4, 1.2, Tempo{4, 1, 1});
        QVERIFY(!found(right, "lowering_fast") && !found(right, "pause_short"));
        // A quick tempo asked for is no fault of the client.
        QVERIFY(found(judgedAt(0.8, 0.3, {}), "lowering_fast"));
        QVERIFY(!found(judgedAt(0.8, 0.3, Tempo{1, 0, 1}), "lowering_fast"));
    }

    void theOpenFileNamesIt() {
        QVERIFY(toJson(judgedSet(2, 0.4, Tempo{2.5, 0, 1}), present::resultWords()).find("\"tempo\": \"2.5-0-1\"") !=
                std::string::npos);
        const auto free = nlohmann::json::parse(toJson(judgedSet(2, 0.4, {}), present::resultWords()));
        QVERIFY(!free.contains("tempo") && free["choices"]["tempo"] == "free");
    }
};

ZEVO_SUITE(TestTempo, "tempo")
#include "test_tempo.moc"
