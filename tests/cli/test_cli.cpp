// zevo-cli as a user calls it: exit codes, the sentence on standard error, the result file.
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <nlohmann/json.hpp>

using nlohmann::json;

namespace {

struct Run {
    int code = -1;
    QString out, err;
};

Run zevoCli(const QStringList& arguments) {
    QProcess p;
    p.start(ZEVO_CLI, arguments);
    if (!p.waitForFinished(120000)) return {};
    return {p.exitCode(), QString::fromUtf8(p.readAllStandardOutput()), QString::fromUtf8(p.readAllStandardError())};
}

QString fixture(const char* name) {
    return QString(ZEVO_FIXTURE_DIR "/") + name + "/clip.mp4";
}

}  // namespace

class TestCli : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;

  private slots:
    void aResultIsWritten() {
        const QString file = m_dir.filePath("result.json");
        const Run run = zevoCli({"analyse", fixture("side"), "--movement", "squat", "--standard", "whole-foot",
                                 "--stature", "170", "--view", "auto", "--model", "lite", "--out", file});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        QVERIFY(run.out.isEmpty());
        QFile f(file);
        QVERIFY(f.open(QIODevice::ReadOnly));
        const json r = json::parse(f.readAll().toStdString());
        QCOMPARE(r["reps"].size(), std::size_t{3});
        QCOMPARE(r["model"].get<std::string>(), std::string("lite"));
        QCOMPARE(r["clip"]["frames"].get<int>(), 377);
        QVERIFY(r["tracked_share"] > 0.98);
    }

    void withoutAFileItGoesToStandardOutput() {
        const Run run = zevoCli({"analyse", fixture("side"), "--model", "lite"});
        QCOMPARE(run.code, 0);
        const json r = json::parse(run.out.toStdString());
        QCOMPARE(r["standard"].get<std::string>(), std::string("whole-foot"));  // the default
        QVERIFY(!r["reps"][0]["measures"].contains("heel_rise"));               // no stature, no centimetres
        QVERIFY(!r["warnings"].empty());
    }

    void badUsage_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("says");
        const QString clip = fixture("side");
        QTest::newRow("nothing") << QStringList{} << "Name a command";
        QTest::newRow("unknown command") << QStringList{"dance"} << "no command dance";
        QTest::newRow("no clip") << QStringList{"analyse"} << "Name one clip";
        QTest::newRow("two clips") << QStringList{"analyse", clip, clip} << "Name one clip";
        QTest::newRow("unknown option") << QStringList{"analyse", clip, "--colour", "red"} << "no option --colour";
        QTest::newRow("value missing") << QStringList{"analyse", clip, "--out"} << "needs a value";
        QTest::newRow("movement") << QStringList{"analyse", clip, "--movement", "juggling"} << "juggling";
        QTest::newRow("standard") << QStringList{"analyse", clip, "--standard", "tiptoe"} << "tiptoe";
        QTest::newRow("stature") << QStringList{"analyse", clip, "--stature", "17"} << "between 80 and 250";
        QTest::newRow("stature no number") << QStringList{"analyse", clip, "--stature", "tall"} << "between 80 and 250";
        QTest::newRow("view") << QStringList{"analyse", clip, "--view", "above"} << "view";
        QTest::newRow("model") << QStringList{"analyse", clip, "--model", "giant"} << "giant";
        QTest::newRow("spec missing") << QStringList{"simulate", "--out", "/tmp/x"} << "simulate needs";
        QTest::newRow("spec unreadable") << QStringList{"simulate", "--spec", "/nowhere.json", "--out", "/tmp/x"}
                                         << "cannot be read";
    }
    void badUsage() {
        QFETCH(QStringList, arguments);
        QFETCH(QString, says);
        const Run run = zevoCli(arguments);
        QCOMPARE(run.code, 2);
        QVERIFY2(run.err.contains(says), qPrintable(run.err));
        QVERIFY(run.err.contains("zevo-cli analyse CLIP"));  // how it is used
    }

    void clipsThatCannotBeJudged_data() {
        QTest::addColumn<QString>("clip");
        QTest::newRow("front view") << fixture("front");
        QTest::newRow("nobody") << fixture("empty_room");
        QTest::newRow("no rep") << fixture("standing");
        QTest::newRow("no file") << QString("/nowhere.mp4");
        QTest::newRow("no video") << QString(ZEVO_TEST_DIR "/CMakeLists.txt");
    }
    void clipsThatCannotBeJudged() {
        QFETCH(QString, clip);
        const QString file = m_dir.filePath("none.json");
        const Run run = zevoCli({"analyse", clip, "--stature", "175", "--out", file});
        QCOMPARE(run.code, 3);
        QCOMPARE(run.err.count('\n'), 1);  // one plain sentence (or two) on one line
        QVERIFY(run.err.trimmed().endsWith('.'));
        QVERIFY(!QFile::exists(file));
    }

    void simulateMakesClipAndTruth() {
        QFile spec(m_dir.filePath("spec.json"));
        QVERIFY(spec.open(QIODevice::WriteOnly));
        spec.write(
            R"({"camera":{"width":128,"height":72},"reps":[{"lower_s":0.4,"lift_s":0.4,"top_s":0.2}],"planted":["lowering_fast"]})");
        spec.close();
        const QString out = m_dir.filePath("made");
        const Run run = zevoCli({"simulate", "--spec", spec.fileName(), "--out", out});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        QVERIFY(QFile::exists(out + "/clip.mp4"));
        QFile truth(out + "/truth.json");
        QVERIFY(truth.open(QIODevice::ReadOnly));
        QCOMPARE(json::parse(truth.readAll().toStdString())["planted"][0].get<std::string>(),
                 std::string("lowering_fast"));
        QCOMPARE(run.err.count("libx264"), 0);  // the encoder's chatter is not ours
    }

    void helpIsThere() {
        const Run run = zevoCli({"--help"});
        QCOMPARE(run.code, 0);
        QVERIFY(run.out.contains("Exit code"));
    }
};

QTEST_GUILESS_MAIN(TestCli)
#include "test_cli.moc"
