// Sentences: every kind of notice has one, numbers are written as the country does, files never are.
#include <QLocale>
#include <set>

#include "core/serial/edit_json.h"
#include "present/words.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::present;

class TestWords : public QObject {
    Q_OBJECT
  private slots:
    void cleanup() { QLocale::setDefault(QLocale::c()); }

    void everyKindHasASentenceAndAName() {
        std::set<std::string> names;
        for (int k = 0; k <= static_cast<int>(NoticeKind::FreeText); ++k) {
            const auto kind = static_cast<NoticeKind>(k);
            QVERIFY(names.insert(noticeName(kind)).second);
            QCOMPARE(*noticeFromName(noticeName(kind)), kind);
            const Notice n{kind, {std::string("squat"), std::string("lunge")}};
            const QString said = sentence(n);
            QVERIFY2(!said.isEmpty() && !said.contains('%' + QString::number(1)), qPrintable(said));
            if (kind == NoticeKind::FreeText) continue;
            QVERIFY2(said.endsWith('.') || said.endsWith(')'), qPrintable(said));
            QVERIFY(!said.contains("error", Qt::CaseInsensitive));
        }
        QVERIFY(!noticeFromName("no-such-kind"));
        QCOMPARE(sentence({NoticeKind::OffSquare, {17.0}}),
                 QString("The camera stands about 17° off a square side view; angles are less sure."));
        QVERIFY(sentence({NoticeKind::NobodyFound, {}, true}).startsWith("The second clip: Nobody"));
    }

    void errorsSpeakForThemselvesOrByTheirKind() {
        QCOMPARE(sentence(Error{"The disk is full.", "28"}), QString("The disk is full."));
        QCOMPARE(sentence(refusal(NoticeKind::Stopped)), QString("Stopped. Nothing was kept."));
        QVERIFY(wasStopped(refusal(NoticeKind::Stopped)) && !wasStopped(Error{"x", ""}));
    }

    void numbersAreWrittenAsTheCountryDoes() {
        QLocale::setDefault(QLocale(QLocale::German, QLocale::Germany));
        QCOMPARE(valueText(4.82, Unit::Centimetres, Lengths::Metric), QString("4,8 cm"));
        QCOMPARE(valueWithPm(-1.5, 0.42, Unit::Seconds, Lengths::Metric), QString("−1,5 ±0,5 s"));
        // 0° → 2° is 2° more to whoever reads it, though it is 1.2; what rounding hides altogether is said all the
        // same.
        QCOMPARE(changeText(0.4, 1.6, Unit::Degrees, Lengths::Metric), QString("2°"));
        QCOMPARE(changeText(-3.4, 1.2, Unit::Degrees, Lengths::Metric), QString("4°"));
        QCOMPARE(changeText(1.96, 2.04, Unit::Centimetres, Lengths::Metric), QString("0,1 cm"));
        QCOMPARE(tempoWords({2.5, 0, 1}), QString("2,5-0-1"));
        // What is shown can be typed in again, and a file holds the point.
        QCOMPARE(parseTempo(tempoWords({2.5, 0, 1}).toStdString())->lowerS, 2.5);
        QCOMPARE(tempoText({2.5, 0, 1}), std::string("2.5-0-1"));
        SetFacts f;
        f.tempo = Tempo{2.5, 0, 1};
        f.loadShare = 0.25;
        const auto [kind, payload] = writeEdit(FactsSet{f});
        QVERIFY(payload.find("2.5-0-1") != std::string::npos && payload.find("0.25") != std::string::npos);
        const auto back = readEdit(kind, payload);
        QVERIFY(back && std::get<FactsSet>(*back).facts == f);
        auto set = made::measured(made::spec(1));
        QVERIFY(toJson(*set, resultWords()).find(",5,") == std::string::npos);
    }

    void whatIsNoNumberIsADash() {
        for (double v : {std::nan(""), HUGE_VAL, -HUGE_VAL}) {
            QCOMPARE(figures(v, 1), QString("—"));
            QCOMPARE(valueText(v, Unit::Degrees, Lengths::Metric), QString("—°"));
        }
        QCOMPARE(figures(-0.04, 1), QString("0.0"));
    }

    void differencesAreSaidLargestFirst() {
        Differences d;
        QCOMPARE(differenceLines(d, {}, Lengths::Metric), QStringList{"Nothing changes."});
        d.repsBefore = 4, d.repsAfter = 5;
        for (int i = 1; i <= 9; ++i) d.values.push_back({i, MeasureId::named("trunk_lean"), 30, 30.0 + i, 4});
        const QStringList lines = differenceLines(d, {}, Lengths::Metric);
        QCOMPARE(lines.front(), QString("4 reps before, 5 reps now."));
        QVERIFY(lines[1].contains("rep 1: 30° before, 31° ±4 now"));
        QCOMPARE(lines.back(), QString("3 smaller differences."));
    }
};

ZEVO_SUITE(TestWords, "words")
#include "test_words.moc"
