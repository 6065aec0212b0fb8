// The library: what is written comes back, what is deleted is gone from the file, old and damaged libraries.
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QTest>

#include "store/library.h"
#include "store/packing.h"
#include "tests/support/made_sets.h"

using namespace zevo;
using namespace zevo::store;

namespace {

Library open(const QString& folder) {
    auto library = Library::open(folder);
    if (!library) qFatal("%s (%s)", library.error().message.c_str(), library.error().detail.c_str());
    return std::move(*library);
}

NewSet newSet(ClientId client, const QByteArray& hash = "hash-1") {
    NewSet s;
    s.client = client;
    s.heldOn = QDate(2026, 5, 4);
    s.clip = {{}, hash, "/videos/a.mp4", 1234, {100, 4.0, 640, 360, 90}};
    s.context = made::context();
    s.standard = "whole-foot";
    s.poses = sim::truePoses(made::spec(1));
    s.readingNotes = {"one", "two"};
    s.outlines = {{1.5, {{1.F, 2.F}, {3.F, 4.F}}}, {2.5, {}}};
    s.resultJson = "{\"schema\":\"zevo-result-1\"}";
    s.reps = 3;
    s.headline = "Heels leave the floor";
    return s;
}

/// Everything the database files hold, as bytes.
QByteArray allBytes(const QString& folder) {
    QByteArray out;
    for (const auto& f : QDir(folder).entryInfoList(QDir::Files)) {
        QFile file(f.filePath());
        if (file.open(QIODevice::ReadOnly)) out += file.readAll();
    }
    return out;
}

void sql(const QString& folder, const QString& statement) {
    {
        auto db = QSqlDatabase::addDatabase("QSQLITE", "test");
        db.setDatabaseName(folder + "/library.sqlite");
        QVERIFY(db.open());
        QSqlQuery q(db);
        QVERIFY(q.exec(statement));
    }
    QSqlDatabase::removeDatabase("test");
}

}  // namespace

class TestStore : public QObject {
    Q_OBJECT
  private slots:
    void clientsComeBack() {
        QTemporaryDir dir;
        ClientId id{};
        {
            auto library = open(dir.path());
            QVERIFY(library.clients()->empty());
            id = *library.addClient({{}, "Ünal Örtwyn'; DROP TABLE clients; --", 171.5, "hip", QDate(2026, 1, 2)});
            (void)library.addClient({{}, "anders", 0, {}, {}});
        }
        auto library = open(dir.path());
        const auto clients = *library.clients();
        QCOMPARE(clients.size(), std::size_t{2});
        QCOMPARE(clients[0].name, QString("anders"));  // by name, whatever the case
        QVERIFY(!clients[0].consent);
        Client c = *library.client(id);
        QCOMPARE(c.name, QString("Ünal Örtwyn'; DROP TABLE clients; --"));
        NEAR(c.statureCm, 171.5, 0);
        QCOMPARE(*c.consent, QDate(2026, 1, 2));
        c.name = "Changed";
        c.consent.reset();
        QVERIFY(bool(library.updateClient(c)));
        QCOMPARE(library.client(id)->name, QString("Changed"));
        QVERIFY(!library.client(id)->consent);
        QVERIFY(!library.client(ClientId(99)));
    }

    void setsComeBackWhole() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto written = newSet(client);
        const auto id = library.addSet(written);
        QVERIFY2(bool(id), id ? "" : id.error().detail.c_str());
        const auto set = library.loadSet(*id);
        QVERIFY2(bool(set), set ? "" : set.error().message.c_str());
        QCOMPARE(set->clip.sha256, QByteArray("hash-1"));
        QCOMPARE(set->clip.facts.rotationDeg, 90);
        QCOMPARE(set->client.name, QString("A"));
        QCOMPARE(set->heldOn, QDate(2026, 5, 4));
        QCOMPARE(set->standard, QString("whole-foot"));
        QCOMPARE(set->context.model, std::string("full"));
        NEAR(set->context.context.statureCm, 175, 0);
        QCOMPARE(set->poses.size(), written.poses.size());
        QCOMPARE(set->readingNotes, written.readingNotes);
        QCOMPARE(set->outlines.size(), std::size_t{2});
        QCOMPARE(set->outlines[0].points, written.outlines[0].points);
        for (std::size_t i = 0; i < written.poses.size(); i += 17) {
            QCOMPARE(set->poses[i].timeS, written.poses[i].timeS);
            QCOMPARE(set->poses[i].at(Landmark::RightKnee).x, written.poses[i].at(Landmark::RightKnee).x);
            QCOMPARE(set->poses[i].feet[1].y, written.poses[i].feet[1].y);
            QCOMPARE(set->poses[i].feet[1].stretch, written.poses[i].feet[1].stretch);
        }
        const auto list = *library.sets(client);
        QCOMPARE(list.size(), std::size_t{1});
        QCOMPARE(list[0].headline, QString("Heels leave the floor"));
        QCOMPARE(list[0].reps, 3);
        QCOMPARE(list[0].outlines.size(), std::size_t{2});
    }

    void theOtherViewPainAndAidsComeBack() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        auto written = newSet(client);
        written.context.movement.id = "hinge";
        written.context.variation = "romanian";
        written.context.loadShare = 0.6, written.context.wedgeDeg = 5, written.context.ankleLimitDeg = 33;
        written.context.pain = {1, 4, true, {"numbness", "fall"}};
        written.context.tempo = Tempo{4, 1, 1.5};
        const auto id = *library.addSet(written);
        QVERIFY(!library.loadSet(id)->second);
        SecondClip second;
        second.clip = {{}, "hash-2", "/videos/front.mp4", 99, {50, 2.0, 320, 180, 0}};
        second.poses = sim::truePoses(made::spec(1));
        second.nudgeS = -0.04, second.together = true, second.readingNotes = {"damaged"};
        QVERIFY(bool(library.setSecondClip(id, second)));
        auto set = *library.loadSet(id);
        QCOMPARE(set.context.movement.id + "/" + set.context.variation, std::string("hinge/romanian"));
        QVERIFY(set.context.pain == written.context.pain);
        QVERIFY(set.context.tempo && tempoText(*set.context.tempo) == "4-1-1.5");
        NEAR(set.context.loadShare, 0.6, 1e-12);
        NEAR(*set.context.ankleLimitDeg, 33, 1e-12);
        QVERIFY(set.second && set.second->together && set.second->readingNotes == second.readingNotes);
        QCOMPARE(set.second->clip.path, QString("/videos/front.mp4"));
        QCOMPARE(set.second->poses.size(), second.poses.size());
        NEAR(set.second->nudgeS, -0.04, 1e-12);
        // Changed, and taken away again: then nothing of the second clip stays.
        set.context.pain = {}, set.context.ankleLimitDeg.reset(), set.context.movement.id = "squat";
        QVERIFY(bool(library.updateContext(id, set.context)));
        QVERIFY(library.loadSet(id)->context.pain == PainCheck{} && !library.loadSet(id)->context.ankleLimitDeg);
        QVERIFY(bool(library.setSecondClip(id, std::nullopt)));
        QVERIFY(!library.loadSet(id)->second);
        QVERIFY(!allBytes(dir.path()).contains("/videos/front.mp4"));
        // And with the client everything goes.
        QVERIFY(bool(library.setSecondClip(id, second)));
        QVERIFY(bool(library.deleteClient(client)));
        QVERIFY(!allBytes(dir.path()).contains("/videos/front.mp4"));
    }

    /// A library as the first version wrote it.
    void anOlderLibraryIsBroughtUpToDate() {
        QTemporaryDir dir;
        SetId id{};
        {
            auto library = open(dir.path());
            const auto client = *library.addClient({{}, "A", 175, "", {}});
            id = *library.addSet(newSet(client));
        }
        for (const char* statement :
             {"DROP TABLE second_views", "ALTER TABLE sets DROP COLUMN load_share",
              "ALTER TABLE sets DROP COLUMN wedge_deg", "ALTER TABLE sets DROP COLUMN ankle_limit_deg",
              "ALTER TABLE sets DROP COLUMN pain_before", "ALTER TABLE sets DROP COLUMN pain_after",
              "ALTER TABLE sets DROP COLUMN pain_sharp", "ALTER TABLE sets DROP COLUMN red_flags",
              "ALTER TABLE sets DROP COLUMN tempo", "PRAGMA user_version = 1"})
            sql(dir.path(), statement);
        auto library = open(dir.path());
        const auto set = library.loadSet(id);
        QVERIFY2(bool(set), set ? "" : set.error().message.c_str());
        QVERIFY(set->context.pain == PainCheck{} && !set->second && !set->context.tempo);
        QVERIFY(QFile::exists(dir.filePath("library.sqlite.schema-1")));  // the old file is kept beside it
    }

    void measuringAgainFromTheRecordGivesTheSame() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto spec = made::spec(1);
        const auto id = *library.addSet(newSet(client));
        const auto before = made::measured(spec), after = made::measured(spec, library.loadSet(id)->poses);
        for (const auto& m : before->result.reps[0].measures)
            NEAR(m.value, after->result.reps[0].find(m.id)->value, 1e-6);
    }

    void theSameClipIsKeptOnce() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto first = *library.addSet(newSet(client));
        auto again = newSet(client);
        again.clip.path = "/videos/moved.mp4";
        const auto second = *library.addSet(again);
        QCOMPARE(library.loadSet(first)->clip.id, library.loadSet(second)->clip.id);
        QCOMPARE(library.loadSet(first)->clip.path, QString("/videos/moved.mp4"));
        QVERIFY(bool(library.moveClip(library.loadSet(first)->clip.id, "/videos/third.mp4")));
        QCOMPARE(library.loadSet(second)->clip.path, QString("/videos/third.mp4"));
        QVERIFY(bool(library.deleteSet(first)));
        QVERIFY(bool(library.loadSet(second)));  // the clip stays as long as a set needs it
    }

    void aSetForNobodyIsNotWritten() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        QVERIFY(!library.addSet(newSet(ClientId(7))));
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        QVERIFY(library.sets(client)->empty());
    }

    void correctionsAndJudgementsAreKept() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto id = *library.addSet(newSet(client));
        const auto correction = *library.addCorrection(id, {{}, "leave_out", 2});
        (void)library.addCorrection(id, {{}, "leave_out", 3});
        QCOMPARE(library.loadSet(id)->corrections.size(), std::size_t{2});
        QVERIFY(bool(library.removeCorrection(correction)));
        QCOMPARE(library.loadSet(id)->corrections.at(0).rep, 3);
        QVERIFY(bool(library.updateJudgement(id, "upright", 2, "Clean", "{}")));
        QCOMPARE(library.loadSet(id)->standard, QString("upright"));
        QCOMPARE(library.sets(client)->at(0).headline, QString("Clean"));
        QVERIFY(!library.addCorrection(SetId(99), {{}, "leave_out", 1}));
    }

    void deletionIsComplete() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "Secretname Verborgen", 175, "private note", {}});
        auto set = newSet(client, QByteArray(32, 'x'));
        set.resultJson = "{\"secret\":\"result text of the set\"}";
        const auto id = *library.addSet(set);
        (void)library.addCorrection(id, {{}, "leave_out", 2});
        QDir(dir.path()).mkpath("viewing");
        QFile copy(library.viewingCopy(set.clip.sha256));
        QVERIFY(copy.open(QIODevice::WriteOnly));
        copy.close();
        QVERIFY(allBytes(dir.path()).contains("Secretname"));
        QVERIFY(bool(library.deleteClient(client)));
        const QByteArray left = allBytes(dir.path());
        for (const char* word :
             {"Secretname", "private note", "result text of the set", "xxxxxxxxxxxxxxxx", "/videos/a.mp4"})
            QVERIFY2(!left.contains(word), word);
        QVERIFY(!QFile::exists(library.viewingCopy(set.clip.sha256)));
        QVERIFY(!library.loadSet(id));
        QVERIFY(library.clients()->empty());
    }

    void twoLibrariesOnOneFolderSeeEachOther() {
        QTemporaryDir dir;
        auto a = open(dir.path()), b = open(dir.path());
        (void)a.addClient({{}, "A", 0, "", {}});
        QCOMPARE(b.clients()->size(), std::size_t{1});
        auto moved = std::move(b);
        (void)moved.addClient({{}, "B", 0, "", {}});
        QCOMPARE(a.clients()->size(), std::size_t{2});
    }

    void aNewerLibraryIsLeftAlone() {
        QTemporaryDir dir;
        { (void)open(dir.path()); }
        sql(dir.path(), "PRAGMA user_version = 99");
        const auto refused = Library::open(dir.path());
        QVERIFY(!refused);
        QVERIFY(QString::fromStdString(refused.error().message).contains("newer Zevo"));
    }

    void aDamagedLibraryIsRefused() {
        QTemporaryDir dir;
        QFile file(dir.filePath("library.sqlite"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(QByteArray("this is no database ").repeated(400));
        file.close();
        QVERIFY(!Library::open(dir.path()));
        QVERIFY(!Library::open("/proc/nowhere"));
    }

    void aSchemaIsMadeFromNothing() {
        QTemporaryDir dir;
        { (void)open(dir.path() + "/deep/er"); }
        QVERIFY(QFile::exists(dir.filePath("deep/er/library.sqlite")));
        { (void)open(dir.path() + "/deep/er"); }  // and opening again changes nothing
        QVERIFY(Library::newestSchema() >= 1);
    }

    /// A process that dies while writing costs at most what it was writing.
    void aKilledWriterLeavesAWholeLibrary() {
        QTemporaryDir dir;
        { (void)*open(dir.path()).addClient({{}, "A", 175, "", {}}); }
        QProcess writer;
        writer.start(QCoreApplication::applicationFilePath(), {"--write-forever", dir.path()});
        QVERIFY(writer.waitForStarted());
        QByteArray said;
        QTRY_VERIFY_WITH_TIMEOUT((said += writer.readAllStandardOutput()).contains("set 2"), 20000);
        QTest::qWait(150);
        writer.kill();
        writer.waitForFinished();
        auto library = open(dir.path());
        const auto sets = *library.sets(library.clients()->at(0).id);
        QVERIFY(!sets.empty());
        for (const auto& s : sets) QVERIFY(bool(library.loadSet(s.id)));
    }

    void damagedBlocksAreRefused() {
        const QByteArray block = packPoses(sim::truePoses(made::spec(1)));
        QVERIFY(bool(unpackPoses(block)));
        QVERIFY(!unpackPoses({}));
        QVERIFY(!unpackPoses(block.left(block.size() / 2)));
        QVERIFY(!unpackPoses(packOutlines({{1, {{1.F, 1.F}}}})));
        QVERIFY(!unpackOutlines(block));
        QVERIFY(unpackOutlines(packOutlines({}))->empty());
        std::mt19937 random(3);
        for (int i = 0; i < 40; ++i) {
            QByteArray bad = packOutlines({{1, {{1.F, 1.F}, {2.F, 2.F}}}, {2, {{3.F, 1.F}}}});
            bad[static_cast<int>(random() % static_cast<unsigned>(bad.size()))] = static_cast<char>(random());
            (void)unpackOutlines(bad);  // right or refused, never a crash
        }
    }

    void filesAreKnownByTheirContent() {
        QTemporaryDir dir;
        QFile file(dir.filePath("abc"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("abc");
        file.close();
        // FIPS 180-4's example for SHA-256 of "abc".
        QCOMPARE(hashFile(file.fileName())->toHex(),
                 QByteArray("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"));
        QVERIFY(!hashFile(dir.filePath("nothing")));
    }
};

int main(int argc, char** argv) {
    QCoreApplication application(argc, argv);
    if (argc == 3 && QByteArray(argv[1]) == "--write-forever") {
        auto library = open(argv[2]);
        const auto client = library.clients()->at(0).id;
        for (int i = 0;; ++i) {
            (void)library.addSet(newSet(client, QByteArray("hash-") + QByteArray::number(i)));
            std::printf("set %d\n", i);
            std::fflush(stdout);
        }
    }
    TestStore test;
    return QTest::qExec(&test, argc, argv);
}
#include "test_store.moc"
