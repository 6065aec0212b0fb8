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
    if (!p.waitForFinished(-1)) return {};
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

    /// A coach's library from the command line, the same record as the window's.
    void aLibraryIsFilledExportedAndVerified() {
        QTemporaryDir dir;
        const QString library = dir.filePath("library");
        const Run none = zevoCli({"library", "list", library});
        QVERIFY(none.code == 3 && none.err.contains("no Zevo library") && !QFile::exists(library));
        QCOMPARE(zevoCli({"library", "add", library, "--client", "Tamsel Orrick", "--stature", "170"}).code, 0);
        const Run twice = zevoCli({"library", "add", library, "--client", "Tamsel Orrick"});
        QVERIFY(twice.code == 3 && twice.err.contains("already"));
        const Run nobody = zevoCli({"library", "analyse", library, fixture("side"), "--client", "Nobody"});
        QVERIFY(nobody.code == 3 && nobody.err.contains("no client"));
        const Run set = zevoCli({"library", "analyse", library, fixture("side"), "--client", "Tamsel Orrick",
                                 "--standard", "whole-foot", "--model", "lite"});
        QVERIFY2(set.code == 0, qPrintable(set.err));
        const json made = resultOf(set);
        const json listed = resultOf(zevoCli({"library", "list", library}));
        QCOMPARE(listed["client"].get<std::string>(), std::string("Tamsel Orrick"));
        QCOMPARE(listed["sets"].size(), std::size_t{1});
        QVERIFY(listed["sets"][0]["id"] == made["set"]);
        QCOMPARE(listed["sets"][0]["reps"].get<int>(), 3);
        QCOMPARE(zevoCli({"library", "list", library, "--client", "Nobody"}).code, 3);
        const Run exported =
            zevoCli({"library", "export", library, "--client", "Tamsel Orrick", "--out", dir.filePath("out")});
        QVERIFY2(exported.code == 0, qPrintable(exported.err));
        QVERIFY(QFile::exists(exported.out.trimmed() + "/client.json"));
        const Run well = zevoCli({"library", "verify", library});
        QVERIFY2(well.code == 0, qPrintable(well.out + well.err));
        QCOMPARE(resultOf(well)["sets"].get<int>(), 1);
        // Bytes turned over in the middle of the database are found, or it does not open.
        QFile file(library + "/library.sqlite");
        QVERIFY(file.open(QFile::ReadWrite) && file.seek(file.size() / 2));
        file.write(QByteArray(8192, '\x5a'));
        file.close();
        const Run broken = zevoCli({"library", "verify", library});
        QVERIFY2(broken.code == 3, qPrintable(broken.out));
        for (const QStringList& wrong : {QStringList{"library"},
                                         {"library", "sing", library},
                                         {"library", "list"},
                                         {"library", "add", library},
                                         {"library", "add", library, "--client", "A", "--stature", "tall"},
                                         {"library", "list", library, "--colour", "red"}}) {
            const Run run = zevoCli(wrong);
            QVERIFY2(run.code == 2 && run.err.contains("zevo-cli library"), qPrintable(wrong.join(' ')));
        }
    }

    static json resultOf(const Run& run) { return json::parse(run.out.toStdString(), nullptr, false); }

    static const json* found(const json& r, const char* fault) {
        for (const auto& f : r["findings"])
            if (f["fault"] == fault) return &f;
        return nullptr;
    }

    void twoViewsAreJoined() {
        const Run run =
            zevoCli({"analyse", fixture("side"), "--front", fixture("front"), "--stature", "170", "--model", "lite"});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        const json r = resultOf(run);
        QCOMPARE(r["second"]["view"].get<std::string>(), std::string("front"));
        QVERIFY(std::abs(r["second"]["lag_s"].get<double>() + 0.4) < 0.04);
        const json* knees = found(r, "knees_cave");
        QVERIFY(knees && (*knees)["side"] == "left" && (*knees)["view"] == "front");
        QVERIFY((*knees)["advice"]["say"].size() >= 2);
        const json* heels = found(r, "heels_rise");
        QVERIFY(heels && !heels->contains("side") && (*heels)["view"] == "side");
        QCOMPARE(r["reps"][0]["measures"]["knee_inside_left"]["view"].get<std::string>(), std::string("front"));
    }

    void theBackIsReadWhereTheShirtIsSaid() {
        const QStringList call{"analyse", fixture("side"), "--stature", "170", "--model", "lite"};
        const Run unsaid = zevoCli(call), loose = zevoCli(call + QStringList{"--shirt", "loose"}),
                  tight = zevoCli(call + QStringList{"--shirt", "tight"}),
                  silk = zevoCli(call + QStringList{"--shirt", "silk"});
        QVERIFY2(loose.code == 0 && tight.code == 0, qPrintable(loose.err + tight.err));
        QVERIFY(unsaid.out.contains("is the shirt tucked in or tight?"));
        QVERIFY2(loose.out.contains("a loose shirt hides it"), qPrintable(loose.out.left(2000)));
        QVERIFY(tight.out.contains("too small in the picture"));
        QVERIFY(silk.code != 0 && silk.err.contains("loose"));
    }

    /// The end of a shoe, as anything that has an edge, is followed from where it is clicked.
    void aMarkedPointIsFollowed() {
        QFile truth(QString(ZEVO_FIXTURE_DIR) + "/side/truth.json");
        QVERIFY(truth.open(QIODevice::ReadOnly));
        const json frame = json::parse(truth.readAll().toStdString())["frames"][20];
        const QString at = QString("%1,%2,%3")
                               .arg(frame["t_s"].get<double>())
                               .arg(frame["toe"][3].get<double>())
                               .arg(frame["toe"][4].get<double>());
        const QStringList call{"analyse", fixture("side"), "--stature", "170", "--model", "lite", "--mark"};
        const Run run = zevoCli(call + QStringList{"bell@" + at});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        const json r = resultOf(run);
        for (const auto& rep : r["reps"]) {
            QVERIFY(rep["measures"].contains("load_sway"));
            QVERIFY(rep["measures"]["load_sway"]["value"].get<double>() < 3);  // a toe that stays where it is
            QVERIFY(!rep["measures"].contains("load_speed"));                  // and is lifted nowhere
        }
        const Run wrong = zevoCli(call + QStringList{"elbow@" + at}), torn = zevoCli(call + QStringList{"bell@1,2"}),
                  wall = zevoCli(call + QStringList{"bell@1.0,20,20"});
        QVERIFY(wrong.code == 2 && wrong.err.contains("hip_left"));
        QCOMPARE(torn.code, 2);
        QVERIFY(wall.code == 3 && wall.err.contains("cannot be followed"));
    }

    void aFrontViewAloneIsJudgedForWhatItShows() {
        const Run run = zevoCli({"analyse", fixture("front"), "--stature", "170", "--model", "lite"});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        const json r = resultOf(run);
        QVERIFY(found(r, "knees_cave"));
        QVERIFY(!r["reps"][0]["measures"].contains("trunk_lean"));
        QVERIFY(QString::fromStdString(r["warnings"][0]).contains("need a side view"));
    }

    void lungesNameTheLeg() {
        const Run run = zevoCli({"analyse", fixture("lunge"), "--movement", "reverse-lunge", "--standard", "tall",
                                 "--stature", "175", "--model", "lite"});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        const json r = resultOf(run);
        QCOMPARE(r["reps"].size(), std::size_t{2});
        QCOMPARE(r["reps"][0]["leg"].get<std::string>(), std::string("left"));
        QCOMPARE(r["reps"][1]["leg"].get<std::string>(), std::string("right"));
        QVERIFY(found(r, "trunk_low"));
        // Taken for a squat it says what it looks like.
        const Run wrong = zevoCli({"analyse", fixture("lunge"), "--stature", "175", "--model", "lite"});
        QCOMPARE(resultOf(wrong)["looks_like"].get<std::string>(), std::string("lunge"));
    }

    void painStopsScoring() {
        const Run run =
            zevoCli({"analyse", fixture("side"), "--stature", "170", "--model", "lite", "--red-flag", "numbness"});
        QVERIFY2(run.code == 0, qPrintable(run.err));
        const json r = resultOf(run);
        QVERIFY(r["findings"].empty());
        QCOMPARE(r["stop"]["scored"].get<bool>(), false);
        QVERIFY(QString::fromStdString(r["stop"]["text"]).contains("clinician"));
    }

    void aStraightStandNarrowsTheKneesAtTheTop() {
        auto top = [&](const char* stood) {
            const Run run =
                zevoCli({"analyse", fixture("side"), "--stature", "170", "--model", "lite", "--stood-straight", stood});
            return run.code == 0 ? resultOf(run)["reps"][0]["measures"]["top_knee_flexion"]["pm90"].get<double>() : 0.0;
        };
        const double yes = top("yes"), no = top("no");
        QVERIFY2(yes > 0 && yes < no, qPrintable(QString("%1 %2").arg(yes).arg(no)));
    }

    void movementsAreListed() {
        const Run run = zevoCli({"movements"});
        QCOMPARE(run.code, 0);
        for (const char* word : {"rear-foot-raised", "wide-floor", "full-squeeze", "one-leg-biased", "slight-bow"})
            QVERIFY2(run.out.contains(word), word);
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
        QTest::newRow("unknown option") << QStringList{"analyse", clip, "--colour", "red"} << "Unknown option 'colour'";
        QTest::newRow("value missing") << QStringList{"analyse", clip, "--out"} << "Missing value after '--out'";
        QTest::newRow("movement") << QStringList{"analyse", clip, "--movement", "juggling"} << "juggling";
        QTest::newRow("standard") << QStringList{"analyse", clip, "--standard", "tiptoe"} << "tiptoe";
        QTest::newRow("stature") << QStringList{"analyse", clip, "--stature", "17"} << "between 80 and 250";
        QTest::newRow("stature no number") << QStringList{"analyse", clip, "--stature", "tall"} << "between 80 and 250";
        QTest::newRow("variation") << QStringList{"analyse", clip, "--variation", "moonwalk"} << "Known: box, wide";
        QTest::newRow("standard of another movement")
            << QStringList{"analyse", clip, "--standard", "tall"} << "is for lunge, not for squat";
        QTest::newRow("pain") << QStringList{"analyse", clip, "--pain", "11"} << "between 0 and 10";
        QTest::newRow("red flag") << QStringList{"analyse", clip, "--red-flag", "hunger"} << "one of chest";
        QTest::newRow("load without weight") << QStringList{"analyse", clip, "--load", "20"} << "--weight";
        QTest::newRow("stand") << QStringList{"analyse", clip, "--stood-straight", "often"} << "yes or no";
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
        QVERIFY(run.err.contains("zevo-cli analyse CLIP") || run.err.contains("zevo-cli simulate"));  // how it is used
    }

    void clipsThatCannotBeJudged_data() {
        QTest::addColumn<QString>("clip");
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

    /// The page is the table as the code has it.
    void thePageOfCalibratedNumbersIsTheTable() {
        const Run run = zevoCli({"calibration"});
        QCOMPARE(run.code, 0);
        QFile page(ZEVO_DATA_DIR "/../docs/calibration.md");
        QVERIFY(page.open(QIODevice::ReadOnly));
        QVERIFY2(run.out == QString::fromUtf8(page.readAll()), "zevo-cli calibration > docs/calibration.md");
        QVERIFY(run.out.contains("| `squat.knee.deep` |"));
    }

    void helpIsThere() {
        const Run run = zevoCli({"--help"});
        QCOMPARE(run.code, 0);
        QVERIFY(run.out.contains("Exit code"));
        for (const char* command : {"analyse", "simulate", "movements", "demo-clips", "library", "calibration"})
            QVERIFY2(run.out.contains("zevo-cli " + QString(command)), command);
        QVERIFY(!run.out.contains("--stature <"));  // options stand with their command
        const Run one = zevoCli({"analyse", "--help"});
        QCOMPARE(one.code, 0);
        QVERIFY(one.out.contains("--stature <cm>") && one.out.contains("Otherwise squat"));
    }
};

QTEST_GUILESS_MAIN(TestCli)
#include "test_cli.moc"
