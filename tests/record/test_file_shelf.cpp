// Files Zevo makes: each stands on the shelf before its first byte, goes when nothing needs it, and not before. Erasing
// a client leaves not a byte. Killed at any moment, nothing that was kept is missing and nothing is left over.
#include <QProcess>
#include <QTemporaryDir>
#include <cstdio>
#include <random>
#include <set>

#include "record/erasing.h"
#include "record/export_client.h"
#include "record/file_shelf.h"
#include "record/importing.h"
#include "record/readings.h"
#include "store/log.h"
#include "tests/support/libraries.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::record;
using store::ShelfFile;

namespace {

const std::atomic<bool> kGoOn{false};

store::Seen recorded(store::Library& library, const QByteArray& hash, const sim::ClipSpec& spec) {
    store::Seen seen = made::seen(hash, library.recordings() + "/" + hash + ".mkv", spec);
    seen.clip.filmed = true;
    return seen;
}

}  // namespace

class TestFileShelf : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> m_dir;
    std::unique_ptr<store::Library> m_library;
    store::ClientId m_client{};

    store::Library& library() { return *m_library; }
    FileShelf shelf() { return FileShelf(*m_library); }
    QString recording(const QString& name) { return m_library->recordings() + "/" + name; }
    /// Filmed, in the folder, and in the record.
    store::SetId filmed(const QByteArray& hash) {
        const QString path = recording(hash + ".mkv");
        if (!shelf().grow(path, m_client, {})) qFatal("not grown");
        made::fill(path);
        auto set = made::newSet(m_client, hash);
        set.seen = {recorded(*m_library, hash, made::spec(3))};
        auto id = m_library->addSet(set);
        if (!id) qFatal("%s", made::words(id.error()));
        return *id;
    }
    std::optional<ShelfFile::State> stateOf(const QString& path) {
        for (const auto& f : *m_library->files())
            if (f.path == path) return f.state;
        return std::nullopt;
    }

  private slots:
    void init() {
        m_dir = std::make_unique<QTemporaryDir>();
        m_library = std::make_unique<store::Library>(made::library(m_dir->path()));
        m_client = *m_library->addClient({{}, "Tamsel Orrick", 175, "", {}});
    }
    void cleanup() {
        m_library.reset();
        m_dir.reset();
    }

    void aRecordingGrowsIsKeptAndGoes() {
        const QString path = recording("a.mkv");
        SetFacts facts;
        facts.movement = "hinge";
        QVERIFY(bool(shelf().grow(path, m_client, {FactsSet{facts}, StandardChosen{"hips-back"}})));
        QVERIFY(shelf().orphans()->empty());  // nothing is on the disk yet
        made::fill(path + ".part");
        auto orphans = *shelf().orphans();
        QCOMPARE(orphans.size(), std::size_t{1});
        QVERIFY(orphans[0].partial && orphans[0].client == m_client);
        QCOMPARE(orphans[0].facts.movement, std::string("hinge"));
        QCOMPARE(orphans[0].standard, QString("hips-back"));
        QVERIFY(QFile::rename(path + ".part", path));
        QVERIFY(!shelf().orphans()->at(0).partial);
        // Put into the record: in the same breath it is no orphan any more.
        auto set = made::newSet(m_client, "a");
        set.seen = {recorded(library(), "a", made::spec(3))};
        const auto id = library().addSet(set);
        QVERIFY(bool(id));
        QVERIFY(shelf().orphans()->empty());
        QCOMPARE(*stateOf(path), ShelfFile::State::Kept);
        QVERIFY(bool(shelf().retire(path)));  // nobody throws away what a set needs
        QVERIFY(bool(shelf().sweep(true)) && QFile::exists(path));
        QVERIFY(bool(library().hideSet(*id, true)));
        QVERIFY(bool(shelf().sweep(false)) && QFile::exists(path));  // undo may still want it
        QVERIFY(bool(library().beginSitting()) && bool(shelf().sweep(true)));
        QVERIFY(!QFile::exists(path) && !stateOf(path));
    }

    /// A view that was filmed, taken away and brought back: its video is still there.
    void undoAlwaysFindsTheFile() {
        const auto id = filmed("side");
        const QString path = recording("front.mkv");
        QVERIFY(bool(shelf().grow(path, m_client, {})));
        made::fill(path);
        QVERIFY(bool(joinSeen(library(), id, recorded(library(), "front", made::frontSpec(3)), true, std::nullopt,
                              made::catalogue())));
        const auto both = *library().loadSet(id);
        const Edits gone = with(both.edits, SecondRemoved{});
        SetKeeper keeper(library(), made::catalogue());
        const auto away = keeper.commit(both, {both.edits, gone, both.seen});
        QVERIFY(away && shelf().sweep(false));
        QVERIFY(QFile::exists(path));
        QVERIFY(bool(keeper.commit(away->known, {gone, both.edits, both.seen})));
        QCOMPARE(library().loadSet(id)->seen[1].clip.path, path);
        // Taken away for good: with the end of the sitting it goes.
        const auto last = *library().loadSet(id);
        QVERIFY(bool(keeper.commit(last, {last.edits, gone, last.seen})));
        QVERIFY(library().sweepSets() && shelf().sweep(false));
        QVERIFY(!QFile::exists(path) && QFile::exists(recording("side.mkv")));
    }

    /// A recording that was copied away and opened from there is still Zevo's own where it lies, and goes with its
    /// client; the copy is the coach's.
    void aCopyOpenedElsewhereMovesNothing() {
        (void)filmed("own");
        QTemporaryDir elsewhere;
        made::fill(elsewhere.filePath("copy.mkv"));
        auto again = made::newSet(m_client, "own");
        again.seen[0].clip.path = elsewhere.filePath("copy.mkv");
        const auto id = library().addSet(again);
        QVERIFY(bool(id));
        QCOMPARE(library().loadSet(*id)->seen[0].clip.path, recording("own.mkv"));
        QCOMPARE(library().holdings(m_client)->filmed, QStringList{recording("own.mkv")});
        QVERIFY(bool(eraseClient(library(), m_client)));
        QVERIFY(!QFile::exists(recording("own.mkv")));
        QVERIFY(QFile::exists(elsewhere.filePath("copy.mkv")));
    }

    /// Viewing copies of clips that were refused, stopped, or never filed do not stay.
    void viewingCopiesOfWhatWasNotFiledGo() {
        const QByteArray stopped(32, 's'), dropped(32, 'd'), crashed(32, 'c'), filed(32, 'f');
        auto copyOf = [&](const QByteArray& sum) {
            const auto path = shelf().growViewing(sum);
            if (!path) qFatal("no copy");
            made::fill(*path);
            return *path;
        };
        const QString a = copyOf(stopped), b = copyOf(dropped), c = copyOf(crashed), d = copyOf(filed);
        QVERIFY(bool(shelf().retire(a)));
        auto set = made::newSet(m_client, "x");
        set.seen[0].clip.sha256 = dropped;
        dropMeasured(m_dir->path(), set);
        set.seen[0].clip.sha256 = filed;
        QVERIFY(bool(library().addSet(set)));
        // Of the filed clip a copy that is made once more is needed whatever comes of it.
        QCOMPARE(*shelf().growViewing(filed), d);
        QVERIFY(bool(shelf().retire(d)));
        made::fill(QFileInfo(d).path() + "/nobody-knows.mp4");
        QVERIFY(bool(shelf().sweep(false)));
        QVERIFY(!QFile::exists(a) && !QFile::exists(b) && QFile::exists(c) && QFile::exists(d));  // c may be under way
        QVERIFY(bool(shelf().sweep(true)));
        QVERIFY(!QFile::exists(c) && QFile::exists(d));
        QCOMPARE(QDir(QFileInfo(d).path()).entryList(QDir::Files), QStringList{QFileInfo(d).fileName()});
    }

    /// What older versions or a hand left in the folder is not thrown away: somebody is asked.
    void aRecordingNobodyKnowsIsTakenIn() {
        made::fill(recording("stray.mkv"));
        made::fill(recording("other.mkv.part"));
        QVERIFY(bool(shelf().sweep(true)));
        const auto orphans = *shelf().orphans();
        QCOMPARE(orphans.size(), std::size_t{2});
        QVERIFY(orphans[0].client.isNull() && QFile::exists(recording("stray.mkv")));
    }

    /// The library's folder can be moved, recordings and all.
    void theFolderCanBeMoved() {
        const auto id = filmed("own");
        m_library.reset();
        QTemporaryDir parent;
        const QString to = parent.filePath("elsewhere");
        QVERIFY(QDir().rename(m_dir->path(), to));
        auto moved = made::library(to);
        QCOMPARE(moved.loadSet(id)->seen[0].clip.path, to + "/recordings/own.mkv");
        QVERIFY(bool(FileShelf(moved).sweep(true)) && QFile::exists(to + "/recordings/own.mkv"));
        m_dir = std::make_unique<QTemporaryDir>();
    }

    /// After an erasure no byte of the client is in the folder: record, log, write-ahead log, recordings, viewing
    /// copies, copies from before a migration.
    void erasureLeavesNothing() {
        store::Client client = *library().client(m_client);
        client.name = "Secretname Verborgen", client.note = "private note", client.goals = "secret goal";
        client.flags = {{"pregnancy", QDate(2026, 5, 1)}};
        QVERIFY(bool(library().updateClient(client)));
        const auto id = filmed("secret-clip");
        const auto set = *library().loadSet(id);
        auto path = std::make_shared<std::vector<MarkStep>>(60, MarkStep{1, 300, 200});
        Edits edits = with(set.edits, NotePinned{false, 1, "secret word"});
        edits = with(edits, PointMarked{false, {MarkKind::Bell, 0, {{1, 300, 200}}, path}});
        QVERIFY(bool(SetKeeper(library(), made::catalogue(), "Ysolde").commit(set, {set.edits, edits})));
        made::fill(recording("unfinished.mkv.part"), "secret film");
        QVERIFY(bool(shelf().grow(recording("unfinished.mkv"), m_client, {FactsSet{fold(edits).facts}})));
        made::fill(*shelf().growViewing("secret-clip"), "secret copy");
        made::fill(m_dir->filePath("library.sqlite.schema-8"), "Secretname");
        store::Log(m_dir->path()).write("reading", Error{"Secretname", "Secretname"});
        const QByteArray before = made::allBytes(m_dir->path());
        const std::vector<QByteArray> words{"Secretname",     "private note", "secret goal", "pregnancy",
                                            "secret-clip",    "secret word",  "secret film", "secret copy",
                                            m_client.bytes(), id.bytes(),     "Ysolde"};
        for (const QByteArray& word : words) QVERIFY2(before.contains(word), word);
        // Somebody else stays, with everything.
        const auto other = *library().addClient({{}, "Perran Hask", 170, "", {}});
        const auto others = *library().addSet(made::newSet(other, "others"));
        const auto done = eraseClient(library(), m_client);
        QVERIFY2(bool(done), done ? "" : made::words(done.error()));
        const QByteArray left = made::allBytes(m_dir->path());
        for (const QByteArray& word : words) QVERIFY2(!left.contains(word), word);
        QVERIFY(left.contains("Perran Hask") && library().loadSet(others));
    }

    void anExportIsWholeAndListedBeforeAnErasure() {
        store::Client client = *library().client(m_client);
        client.name = "Jörg Müller-Äß / Ünal";
        QVERIFY(bool(library().updateClient(client)));
        const auto id = *library().addSet(made::newSet(m_client, "side"));
        auto front = made::seen("front", "/videos/front.mp4", made::frontSpec(3));
        auto said = std::make_shared<Observation>(*front.observation);
        said->notices = {{NoticeKind::MorePeople, {}}};
        said->secondEstimates = {SecondEstimate{}};
        front.observation = said;
        QVERIFY(bool(joinSeen(library(), id, front, true, std::nullopt, made::catalogue(), "Ysolde")));
        QTemporaryDir out;
        const auto where = exportClient(m_dir->path(), m_client, out.path(), made::catalogue(), kGoOn);
        QVERIFY2(bool(where), where ? "" : made::words(where.error()));
        QCOMPARE(QFileInfo(*where).fileName(), QString("Jörg-Müller-Äß-Ünal"));
        const QDir folder(*where);
        const QStringList files = folder.entryList(QDir::Files);
        QCOMPARE(files.filter("poses").size(), 2);
        QCOMPARE(files.filter("opinions").size(), 1);
        QFile file(folder.filePath(files.filter(QRegularExpression("^set-.*json$")).at(0)));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const auto o = nlohmann::json::parse(file.readAll().toStdString());
        QCOMPARE(o["schema"], "zevo-set-1");
        // One form of a result wherever it is written, second view and all.
        QCOMPARE(o["result"]["schema"], "zevo-result-1");
        QVERIFY(o["result"].contains("second") && o["result"]["reps"][0].contains("arrive_s"));
        QCOMPARE(o["clips"][1]["notices"][0]["kind"], "more-people");
        QCOMPARE(o["edits"].back()["author"], "Ysolde");
        QCOMPARE(o["edits"].back()["kind"], "second_added");
        QCOMPARE(library().holdings(m_client)->exports, QStringList{*where});
        QVERIFY(bool(eraseClient(library(), m_client)));
        QVERIFY(QFile::exists(*where) && library().files()->empty());
    }

    /// Killed two hundred times, at any moment of adding, changing, joining, refining, giving away, deleting and
    /// erasing, and of bringing an old library up to date: whatever was said to be done is done, and after the next
    /// start every file has its set and every set its file.
    void killedAtAnyMoment() {
        m_library.reset();
        std::mt19937 random(11);
        int said = 0, kills = 0;
        for (; kills < 200; ++kills) {
            QProcess child;
            child.start(QCoreApplication::applicationFilePath(), {"--role", "record-for-ever", m_dir->path()});
            QVERIFY(child.waitForStarted(-1));
            QVERIFY(child.waitForReadyRead(-1));
            QTest::qWait(static_cast<int>(random() % 160));
            child.kill();
            QVERIFY(child.waitForFinished(-1));
            const QStringList lines = QString::fromUtf8(child.readAllStandardOutput()).split('\n', Qt::SkipEmptyParts);
            auto record = store::Library::open(m_dir->path());
            QVERIFY2(bool(record), record ? "" : made::words(record.error()));
            QVERIFY(record->beginSitting() && FileShelf(*record).sweep(true));
            said += static_cast<int>(lines.size());
            std::set<QString> erased;
            for (const QString& line : lines)
                if (line.startsWith("erased ")) erased.insert(line.section(' ', 1));
            for (const QString& line : lines) {
                const QStringList words = line.split(' ');
                if (words.value(0) != "note" || erased.contains(words.value(1))) continue;
                // "note CLIENT SET NUMBER": that many notes of this set were committed.
                const auto edits = record->edits(store::SetId::fromText(words.value(2)));
                QVERIFY(bool(edits));
                const auto notes = static_cast<int>(fold(*edits).views[0].notes.size());
                if (record->placeOf(store::SetId::fromText(words.value(2))))
                    QVERIFY2(notes >= words.value(3).toInt(), qPrintable(line + QString(": %1").arg(notes)));
            }
            // Every file has its set, and every set its file.
            std::set<QString> needed;
            for (const auto& c : *record->clients())
                for (const auto& s : *record->sets(c.id)) {
                    const auto set = record->loadSet(s.id);
                    QVERIFY2(bool(set), set ? "" : made::words(set.error()));
                    for (const auto& seen : set->seen)
                        if (seen.observation) needed.insert(seen.clip.path);
                }
            for (const auto& o : *FileShelf(*record).orphans()) needed.insert(o.path + (o.partial ? ".part" : ""));
            std::set<QString> there;
            for (const auto& f : QDir(record->recordings()).entryInfoList(QDir::Files)) there.insert(f.filePath());
            QVERIFY2(
                there == needed,
                qPrintable(QString("%1 files, %2 needed, kill %3").arg(there.size()).arg(needed.size()).arg(kills)));
            for (const auto& o : *FileShelf(*record).orphans()) QVERIFY(bool(FileShelf(*record).retire(o.path)));
            QVERIFY(bool(FileShelf(*record).sweep(false)));
            // Small again, so that looking through it costs nothing.
            if (kills % 8 == 7)
                for (const auto& c : *record->clients()) QVERIFY(bool(eraseClient(*record, c.id)));
        }
        qInfo("%d kills: %d steps said to be done, all of them there", kills, said);
        QVERIFY(said > 400);
    }

    /// The same while an old library is brought up to date: it is the old one or the new one, never something between.
    void killedWhileMigrating() {
        m_library.reset();
        std::mt19937 random(5);
        int old = 0;
        for (int kill = 0; kill < 40; ++kill) {
            QTemporaryDir dir;
            QVERIFY(QFile::copy(ZEVO_TEST_DIR "/store/libraries/schema-8.sqlite", dir.filePath("library.sqlite")));
            QFile(dir.filePath("library.sqlite")).setPermissions(QFile::ReadOwner | QFile::WriteOwner);
            QProcess child;
            child.start(QCoreApplication::applicationFilePath(), {"--role", "migrate", dir.path()});
            QVERIFY(child.waitForStarted(-1) && child.waitForReadyRead(-1));
            std::this_thread::sleep_for(std::chrono::microseconds(random() % 30000));
            child.kill();
            QVERIFY(child.waitForFinished(-1));
            old += !child.readAllStandardOutput().contains("done");
            auto record = made::library(dir.path());
            const auto sets = *record.sets(record.clients()->at(0).id);
            QCOMPARE(sets.size(), std::size_t{2});
            for (const auto& s : sets) QVERIFY(bool(record.loadSet(s.id)));
        }
        qInfo("40 kills while migrating: %d before it was done", old);
    }
};

namespace {

void say(const QString& line) {
    std::printf("%s\n", qPrintable(line));
    std::fflush(stdout);
}

/// Everything that changes the record, over and over, each step said when it is done.
int recordForEver(const QString& folder) {
    auto library = made::library(folder);
    FileShelf shelf(library);
    const auto catalogue = made::catalogue();
    const store::NewSet side = made::newSet({}, "side", 1);
    const store::Seen front = made::seen("front", {}, made::frontSpec(1));
    auto filmed = [&](const QByteArray& hash, store::Seen seen) {
        seen.clip = {{}, hash, library.recordings() + "/" + hash + ".mkv", 8, true};
        seen.id = store::ObservationId::fresh();
        return seen;
    };
    say("begun");
    for (int n = 0;; ++n) {
        store::Client someone{{}, QString("client %1").arg(n), 170, "", {}};
        const auto client = library.addClient(someone);
        if (!client) return 1;
        const QByteArray hash = QUuid::createUuid().toRfc4122().toHex();
        const QString path = library.recordings() + "/" + hash + ".mkv";
        if (!shelf.grow(path, *client, {})) return 1;
        made::fill(path + ".part");
        QFile::rename(path + ".part", path);
        store::NewSet set = side;
        set.client = *client;
        set.seen = {filmed(hash, side.seen[0])};
        const auto id = library.addSet(set);
        if (!id) return 1;
        say("added");
        for (int i = 1; i <= 3; ++i) {
            const auto now = library.loadSet(*id);
            if (!now) return 1;
            const Edits to = with(now->edits, NotePinned{false, i * 0.7, "note"});
            if (!SetKeeper(library, catalogue, "x").commit(*now, {now->edits, to})) return 1;
            say(QString("note %1 %2 %3").arg(client->text(), id->text()).arg(i));
        }
        const QString other = library.recordings() + "/" + hash + "-front.mkv";
        if (!shelf.grow(other, *client, {})) return 1;
        made::fill(other);
        if (!joinSeen(library, *id, filmed(hash + "-front", front), true, std::nullopt, catalogue)) return 1;
        say("joined");
        const auto now = library.loadSet(*id);
        if (!now) return 1;
        if (!SetKeeper(library, catalogue).commit(*now, {now->edits, now->edits, {}, now->seen[0]})) return 1;
        say("refined");
        if (n % 3 == 1) {
            if (!library.hideSet(*id, true) || !library.deleteHidden() || !shelf.sweep(false)) return 1;
            say("deleted");
        }
        if (n % 3 == 2) {
            if (!eraseClient(library, *client)) return 1;
            say("erased " + client->text());
        }
    }
}

int migrateOnce(const QString& folder) {
    say("begun");
    (void)made::library(folder);
    say("done");
    for (;;) std::this_thread::sleep_for(std::chrono::seconds(1));
}

const suites::AddRole addRecordForEver("record-for-ever", recordForEver);
const suites::AddRole addMigrate("migrate", migrateOnce);

}  // namespace

ZEVO_SUITE(TestFileShelf, "file_shelf")
#include "test_file_shelf.moc"
