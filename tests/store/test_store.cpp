// The library: what is written comes back, what is deleted is gone from the file, old and damaged libraries.
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QTest>

#include "store/blocks.h"
#include "store/library.h"
#include "store/log.h"
#include "store/schema.h"
#include "store/transaction.h"
#include "tests/support/made_sets.h"

using namespace zevo;
using namespace zevo::store;

namespace {

Library open(const QString& folder) {
    auto library = Library::open(folder);
    if (!library) qFatal("%s (%s)", made::words(library.error()), library.error().detail.c_str());
    return std::move(*library);
}

Observation seen(const sim::ClipSpec& spec) {
    Observation o = *made::observation(spec);
    o.clip = {100, 4.0, 640, 360, 90, CameraHold{-2.25, 4.5, 0.3, 1.1}};
    o.notices = {{NoticeKind::ClipDamaged, {}}, {NoticeKind::OffSquare, {17.0}}};
    o.outlines = {{1.5, {{1.F, 2.F}, {3.F, 4.F}}}, {2.5, {}}};
    o.contours = {{0.1, {{1.F, 2.F}, {3.F, 4.F}}, {{20, 30}, {40, 50}}}, {0.2, {}}};
    o.network = "abc";
    return o;
}

Seen seenClip(const QByteArray& hash, const QString& path, const sim::ClipSpec& spec = made::spec(1)) {
    return {{{}, hash, path, 1234}, std::make_shared<const Observation>(seen(spec))};
}

Outcome outcome(const QString& headline = "Heels leave the floor") {
    Outcome o;
    o.movement = "squat";
    o.standard = "whole-foot";
    o.reps = 3;
    o.headline = headline;
    o.engine = kEngine;
    o.measured = made::measured(made::spec(2))->result.reps;
    return o;
}

NewSet newSet(ClientId client, const QByteArray& hash = "hash-1") {
    NewSet s;
    s.client = client;
    s.heldOn = QDate(2026, 5, 4);
    s.seen = {seenClip(hash, "/videos/a.mp4")};
    SetFacts facts = made::factsOf(made::spec(1));
    s.edits = {FactsSet{facts}, StandardChosen{"whole-foot"}};
    s.outcome = outcome();
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
    void consentKeepsItsPurpose() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        Client c{{}, "Merrin Colvard", 168, "", QDate(2026, 3, 4)};
        c.consentFor = "coaching, and to show to others";
        c.id = *library.addClient(c);
        QCOMPARE(library.client(c.id)->consentFor, c.consentFor);
        QCOMPARE(library.clients()->at(0), c);
        c.consent.reset(), c.consentFor.clear();
        QVERIFY(bool(library.updateClient(c)));
        QCOMPARE(*library.client(c.id), c);
    }

    /// What Zevo filmed goes with the last set that needs it; what the coach filmed never does, wherever it lies.
    void ownRecordingsGoWithTheirSets() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "Nance Treval", 170, {}, {}});
        QDir().mkpath(library.recordings());
        auto file = [&](const QString& path) {
            QFile f(path);
            if (!f.open(QIODevice::WriteOnly)) qFatal("no file");
            f.write("pictures");
            return path;
        };
        const QString own = file(library.recordings() + "/own.mkv"), coachs = file(dir.filePath("coachs.mp4"));
        // Marked as filmed, and not where Zevo films to: a path from another machine, or a mistake. Left alone.
        const QString elsewhere = file(dir.filePath("elsewhere.mkv"));
        auto add = [&](const QString& path, bool filmed) {
            auto s = newSet(client, path.toUtf8());
            s.seen[0].clip.path = path;
            s.seen[0].clip.filmed = filmed;
            return *library.addSet(s);
        };
        const auto a = add(own, true), b = add(own, true), c = add(coachs, false);
        (void)add(elsewhere, true);
        QVERIFY(library.loadSet(a)->seen[0].clip.filmed && !library.loadSet(c)->seen[0].clip.filmed);
        auto retired = [&] {
            QStringList out;
            for (const auto& f : *library.files())
                if (f.state == ShelfFile::State::Retired) out.append(f.path);
            return out;
        };
        QVERIFY(bool(library.deleteSet(a)));
        QVERIFY(retired().isEmpty());  // the other set still needs it
        QVERIFY(bool(library.hideSet(b, true)));
        QVERIFY(retired().isEmpty());  // it can be brought back
        QVERIFY(bool(library.deleteHidden()));
        QCOMPARE(retired(), QStringList{own});
        QVERIFY(bool(library.deleteClient(client)));
        QCOMPARE(retired(), QStringList{own});
    }

    /// The careful reading takes the quick one's place, whole or not at all; what the coach did stays.
    void aSetIsRefined() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "Osric Pellow", 170, {}, {}});
        auto quick = newSet(client);
        quick.edits.push_back(CueGiven{"heels_rise", "Press the floor away."});
        const auto id = *library.addSet(quick);
        auto careful = quick.seen[0];
        auto better = std::make_shared<Observation>(*careful.observation);
        better->notices.clear();
        better->model = "heavy";
        careful.observation = better;
        auto now = outcome("Nothing to correct");
        now.reps = 2;
        SetWrite write;
        write.refine = careful, write.outcome = now;
        QCOMPARE(**library.commit(id, 0, write), 1);
        QVERIFY(!*library.commit(id, 0, write));  // somebody has changed it since
        const auto stored = library.loadSet(id);
        QVERIFY(bool(stored));
        QCOMPARE(stored->seen.size(), std::size_t{1});
        QCOMPARE(stored->seen[0].observation->model, std::string("heavy"));
        QVERIFY(stored->edits == quick.edits && *library.edits(id) == quick.edits);
        QCOMPARE(library.sets(client)->at(0).headline, QString("Nothing to correct"));
        QCOMPARE(library.sets(client)->at(0).reps, 2);
        QVERIFY(!library.commit(SetId::fresh(), 0, write));
        QCOMPARE(library.loadSet(id)->seen[0].observation->model, std::string("heavy"));
    }

    void nothingCanBeChangedForReading() {
        QTemporaryDir dir;
        ClientId client{};
        SetId set{};
        {
            auto library = open(dir.path());
            client = *library.addClient({{}, "Perran Hask", 170, {}, {}});
            set = *library.addSet(newSet(client));
        }
        QVERIFY(!Library::open(dir.filePath("nothing here"), Access::Read));
        auto reading = Library::open(dir.path(), Access::Read);
        QVERIFY2(bool(reading), reading ? "" : reading.error().detail.c_str());
        QVERIFY(reading->isReadOnly() && !open(dir.path()).isReadOnly());
        QCOMPARE(reading->sets(client)->size(), std::size_t{1});
        QVERIFY(bool(reading->loadSet(set)));
        const auto refused = reading->addSet(newSet(client, "other"));
        QVERIFY(!refused);
        QVERIFY2(refused.error().message.find("reading only") != std::string::npos, refused.error().message.c_str());
        QVERIFY(!reading->hideSet(set, true) && !reading->deleteSet(set) &&
                !reading->setHeldOn(set, QDate(2026, 1, 1)));
        QVERIFY(!reading->commit(set, 0, {}) && !reading->updateClient(*reading->client(client)));
        QVERIFY(bool(reading->beginSitting()));
        // Another one writes meanwhile, and the reader sees it.
        (void)*open(dir.path()).addClient({{}, "Quenna Dray", 160, {}, {}});
        QCOMPARE(reading->clients()->size(), std::size_t{2});
        // One of an older schema is refused instead of being half understood.
        QTemporaryDir old;
        QVERIFY(QFile::copy(ZEVO_TEST_DIR "/store/libraries/schema-4.sqlite", old.filePath("library.sqlite")));
        const auto older = Library::open(old.path(), Access::Read);
        QVERIFY(!older);
        QVERIFY(QDir(old.path()).entryList({"*.schema-*"}, QDir::Files).isEmpty());
    }

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
        QVERIFY(!library.client(ClientId::fresh()));
    }

    void setsComeBackWhole() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto written = newSet(client);
        const auto id = library.addSet(written);
        QVERIFY2(bool(id), id ? "" : id.error().detail.c_str());
        const auto set = library.loadSet(*id);
        QVERIFY2(bool(set), set ? "" : made::words(set.error()));
        QCOMPARE(set->client.name, QString("A"));
        QCOMPARE(set->heldOn, QDate(2026, 5, 4));
        QCOMPARE(set->edits, written.edits);
        QCOMPARE(set->seen.size(), std::size_t{1});
        QCOMPARE(set->seen[0].clip.sha256, QByteArray("hash-1"));
        const Observation &was = *written.seen[0].observation, &is = *set->seen[0].observation;
        QVERIFY(is.clip == was.clip && is.notices == was.notices && is.model == was.model && is.network == was.network);
        QCOMPARE(is.engine, kEngine);
        QCOMPARE(is.outlines.size(), std::size_t{2});
        QCOMPARE(is.outlines[0].points, was.outlines[0].points);
        QCOMPARE(is.contours.size(), std::size_t{2});
        QCOMPARE(is.contours[0].points, was.contours[0].points);
        QCOMPARE(is.contours[0].edges.at(1).rival, was.contours[0].edges[1].rival);
        QVERIFY(is.contours[1].points.empty() && is.outlines[0].edges.empty());
        QCOMPARE(is.poses.size(), was.poses.size());
        for (std::size_t i = 0; i < was.poses.size(); i += 17) {
            QCOMPARE(is.poses[i].timeS, was.poses[i].timeS);
            QCOMPARE(is.poses[i].at(Landmark::RightKnee).x, was.poses[i].at(Landmark::RightKnee).x);
            QCOMPARE(is.poses[i].world[5][2], was.poses[i].world[5][2]);
            QCOMPARE(is.poses[i].feet[1].y, was.poses[i].feet[1].y);
            QCOMPARE(is.poses[i].feet[1].stretch, was.poses[i].feet[1].stretch);
        }
        // What it came to, value by value.
        QCOMPARE(set->kept.engine, kEngine);
        QCOMPARE(set->kept.reps, written.outcome.measured);
        const auto list = *library.sets(client);
        QCOMPARE(list.size(), std::size_t{1});
        QCOMPARE(list[0].headline, QString("Heels leave the floor"));
        QCOMPARE(list[0].reps, 3);
        QCOMPARE(library.outlines(*id)->size(), std::size_t{2});
    }

    void whatTheCoachMakesOfASetIsKept() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto written = newSet(client);
        const auto id = *library.addSet(written);
        SetFacts facts = made::factsOf(made::spec(1));
        facts.movement = "hinge", facts.variation = "romanian", facts.loadShare = 0.6, facts.ankleLimitDeg = 33;
        facts.pain = {1, 4, true, {{"ankle"}}, {"numbness", "fall"}, {}, {}};
        facts.tempo = Tempo{4, 1, 1.5};
        auto entry = [](Edit e) {
            return EditEntry{EntryId::fresh(), "Ysolde", QDateTime::currentDateTimeUtc(), {}, std::move(e)};
        };
        const auto stored = *library.loadSet(id);
        SetWrite write;
        write.entries = {entry(FactsSet{facts}), entry(SecondAdded{1, true}), entry(SecondNudged{-0.04})};
        write.entries.push_back(
            {EntryId::fresh(), "Ysolde", QDateTime::currentDateTimeUtc(), stored.entries[0].id, std::nullopt});
        write.add = {{1, seenClip("hash-2", "/videos/front.mp4")}};
        write.outcome = outcome("Clean");
        write.outcome->movement = "hinge";
        write.outcome->second = write.outcome->measured;
        QVERIFY(bool(library.commit(id, 0, write)));
        auto set = *library.loadSet(id);
        QCOMPARE(set.edits,
                 (Edits{StandardChosen{"whole-foot"}, FactsSet{facts}, SecondAdded{1, true}, SecondNudged{-0.04}}));
        QCOMPARE(set.revision, 1);
        QCOMPARE(set.entries.size(), std::size_t{6});  // what was taken back is still there
        QCOMPARE(set.entries[2].author, QString("Ysolde"));
        QCOMPARE(set.entries[2].id, write.entries[0].id);
        QCOMPARE(set.seen.size(), std::size_t{2});
        QCOMPARE(set.seen[1].clip.path, QString("/videos/front.mp4"));
        QCOMPARE(set.kept.secondReps, write.outcome->second);
        QCOMPARE(library.sets(client)->at(0).headline, QString("Clean"));
        // The second clip taken away: it stays until the sitting ends, so that undo finds it; then nothing of it does.
        write = {};
        write.entries = {{EntryId::fresh(), {}, QDateTime::currentDateTimeUtc(), set.entries[3].id, std::nullopt}};
        write.outcome = outcome();
        QVERIFY(bool(library.commit(id, 1, write)));
        QCOMPARE(library.loadSet(id)->seen.size(), std::size_t{2});
        QVERIFY(!fold(library.loadSet(id)->edits).second);
        QVERIFY(bool(library.sweepSets()));
        QCOMPARE(library.loadSet(id)->seen.size(), std::size_t{1});
        QVERIFY(!allBytes(dir.path()).contains("/videos/front.mp4"));
        QVERIFY(!library.commit(SetId::fresh(), 0, write));  // no such set
        QVERIFY(bool(library.deleteClient(client)));
        QVERIFY(!allBytes(dir.path()).contains("hash-1"));
    }

    /// What was followed through a clip is kept once, however many edits come after it.
    void aPathIsKeptOnce() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto id = *library.addSet(newSet(client));
        auto path = std::make_shared<std::vector<MarkStep>>();
        for (int i = 0; i < 900; ++i) path->push_back({i / 30.0, 100.25 + i, i % 7 == 3 ? std::nan("") : 7.5});
        const Mark mark{MarkKind::Bell, 0, {{0.0, 100.25, 7.5}}, path};
        auto add = [&](int revision, Edits edits) {
            SetWrite write;
            for (Edit& e : edits)
                write.entries.push_back({EntryId::fresh(), {}, QDateTime::currentDateTimeUtc(), {}, std::move(e)});
            QVERIFY(bool(library.commit(id, revision, write)));
        };
        add(0, {PointMarked{false, mark}});
        for (int i = 1; i < 20; ++i) add(i, {NotePinned{false, i * 1.0, "word"}});
        add(20, {PointMarked{true, mark}, PointMarked{false, mark}});
        const auto marks = fold(library.loadSet(id)->edits).views[0].marks;
        QCOMPARE(marks.size(), std::size_t{2});
        QCOMPARE(marks[0].path->size(), path->size());
        NEAR(marks[0].path->at(500).x, path->at(500).x, 0.005);
        QVERIFY(std::isnan(marks[0].path->at(3).y));
        int rows = 0;
        qint64 payload = 0;
        {
            auto db = QSqlDatabase::addDatabase("QSQLITE", "count");
            db.setDatabaseName(dir.path() + "/library.sqlite");
            QVERIFY(db.open());
            QSqlQuery q(db);
            QVERIFY(q.exec("SELECT (SELECT count(*) FROM series), (SELECT sum(length(payload)) FROM edits)") &&
                    q.next());
            rows = q.value(0).toInt(), payload = q.value(1).toLongLong();
        }
        QSqlDatabase::removeDatabase("count");
        QCOMPARE(rows, 2);  // one a view: the same clicks in another clip are another path
        QVERIFY2(payload < 6000, qPrintable(QString::number(payload)));
        // A history that is only listed needs no paths.
        QVERIFY(!fold(library.log(client)->at(0).edits).views[0].marks.at(0).path);
    }

    /// Two repetitions may share a turning point; each has its own values.
    void valuesBelongToARepetitionByItsNumber() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        auto set = newSet(client);
        set.outcome.measured[1].bottomS = set.outcome.measured[0].bottomS;
        set.outcome.measured[1].measures[0].value += 3;
        const auto id = library.addSet(set);
        QVERIFY2(bool(id), id ? "" : id.error().detail.c_str());
        QCOMPARE(library.loadSet(*id)->kept.reps, set.outcome.measured);
    }

    /// An entry of a newer Zevo hides nothing: it is counted and passed over, in the set and in the client's history,
    /// and stays as it is.
    void anUnreadableEditIsPassedOver() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto id = *library.addSet(newSet(client));
        (void)*library.addSet(newSet(client, "other"));
        sql(dir.path(), "UPDATE edits SET kind = 'from_tomorrow' WHERE kind = 'standard' AND set_id = x'" +
                            QString::fromLatin1(id.bytes().toHex()) + "'");
        const auto set = library.loadSet(id);
        QVERIFY(bool(set));
        QCOMPARE(set->unreadable, 1);
        QCOMPARE(set->edits.size(), std::size_t{1});
        const auto log = library.log(client);
        QVERIFY(log && log->size() == 2);
        QCOMPARE(log->at(0).unreadable + log->at(1).unreadable, 1);
        QVERIFY(bool(library.sweepSets()) && library.loadSet(id)->unreadable == 1);
    }

    void valuesCanBeAskedForOverWeeks() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}}),
                   other = *library.addClient({{}, "B", 0, "", {}});
        auto late = newSet(client, "h2"), early = newSet(client, "h1");
        early.heldOn = QDate(2026, 4, 1);
        const auto lateId = *library.addSet(late);
        (void)library.addSet(early);
        (void)library.addSet(newSet(other, "h3"));
        const auto values = *library.history(client, "thigh_angle");
        QCOMPARE(values.size(), std::size_t{4});  // two sets, two reps each, of this client only
        QCOMPARE(values.front().heldOn, QDate(2026, 4, 1));
        QCOMPARE(values.back().set, lateId);
        const Measurement* m = late.outcome.measured[1].find("thigh_angle");
        NEAR(values.back().value, m->value, 1e-12);
        NEAR(values.back().pm90, m->pm90, 1e-12);
        NEAR(values.back().repS, late.outcome.measured[1].bottomS, 1e-12);
        QCOMPARE(values.back().engine, kEngine);
        QVERIFY(library.history(client, "no_such")->empty());
        QVERIFY(bool(library.hideSet(lateId, true)));
        QCOMPARE(library.history(client, "thigh_angle")->size(), std::size_t{2});
    }

    /// Libraries as every earlier version wrote them.
    void olderLibrariesAreBroughtUpToDate_data() {
        QTest::addColumn<int>("version");
        for (int v = 1; v < Library::newestSchema(); ++v) QTest::addRow("schema %d", v) << v;
    }
    void olderLibrariesAreBroughtUpToDate() {
        QFETCH(int, version);
        QTemporaryDir dir;
        const QString file = QString(ZEVO_TEST_DIR "/store/libraries/schema-%1.sqlite").arg(version);
        QVERIFY2(QFile::copy(file, dir.filePath("library.sqlite")), "keep a library file of every version");
        QFile(dir.filePath("library.sqlite")).setPermissions(QFile::ReadOwner | QFile::WriteOwner);
        auto library = open(dir.path());
        const auto clients = *library.clients();
        QCOMPARE(clients.size(), std::size_t{1});
        QCOMPARE(clients[0].name, QString("Orrin Thackwell-Bray"));
        const auto sets = *library.sets(clients[0].id);
        QCOMPARE(sets.size(), std::size_t{2});
        const auto set = library.loadSet(sets.back().id);
        QVERIFY2(bool(set), set ? "" : made::words(set.error()));
        const EditedSet e = fold(set->edits);
        QCOMPARE(e.facts.movement, std::string("squat"));
        QCOMPARE(e.standard, std::string("hips-back"));
        NEAR(e.facts.statureCm, 175, 1e-9);
        if (version >= 2) {
            NEAR(e.facts.loadShare, 0.25, 1e-9);
            QVERIFY(e.second && set->seen.size() == 2);
            NEAR(e.second->nudgeS, 0.04, 1e-9);
        }
        if (version >= 3) QCOMPARE(e.facts.tempo->lowerS, 2.5);
        // The second repetition was left out by its number: it still is, by its time.
        QCOMPARE(set->kept.engine, 0);
        QCOMPARE(set->kept.reps.size(), std::size_t{3});
        QCOMPARE(e.leftOut.size(), std::size_t{1});
        QVERIFY(e.leftOut[0].holds(set->kept.reps[1].bottomS) && !e.leftOut[0].holds(set->kept.reps[0].bottomS));
        QVERIFY(set->seen[0].observation->poses.size() > 60);
        QCOMPARE(set->seen[0].observation->outlines.size(), std::size_t{3});
        QCOMPARE(set->seen[0].observation->notices.at(0).kind, NoticeKind::FreeText);
        // It opens with the values it had, and measured anew it gives nearly the same.
        Observations seen;
        for (const auto& s : set->seen) seen.push_back(s.observation);
        const auto old = recompute(seen, set->edits, *made::catalogue(), nullptr, &set->kept);
        QVERIFY2(bool(old), old ? "" : made::words(old.error()));
        QVERIFY(old->set.result.reps[0].find("knee_flexion"));
        const auto anew = recompute(seen, set->edits, *made::catalogue());
        QVERIFY2(bool(anew), anew ? "" : made::words(anew.error()));
        NEAR(anew->set.result.reps[0].find("knee_flexion")->value, old->set.result.reps[0].find("knee_flexion")->value,
             0.3);  // at 15 frames a second the means are over fewer samples now, and depths come from geometry
        if (version >= 2) QVERIFY(old->set.result.reps[0].find("knee_in_left")->second);
        // The set that a movement without repetitions had locked is open again.
        const auto locked = library.loadSet(sets.front().id);
        QCOMPARE(fold(locked->edits).facts.movement, std::string("squat"));
    }

    /// Copies from before a migration are no way around a deletion, and go when the new library has proved itself.
    void copiesFromBeforeAMigrationDoNotOutliveADeletion() {
        for (const bool deletes : {true, false}) {
            QTemporaryDir dir;
            QVERIFY(QFile::copy(ZEVO_TEST_DIR "/store/libraries/schema-2.sqlite", dir.filePath("library.sqlite")));
            QFile(dir.filePath("library.sqlite")).setPermissions(QFile::ReadOwner | QFile::WriteOwner);
            const QString copy = dir.filePath("library.sqlite.schema-2");
            auto library = open(dir.path());
            QVERIFY(QFile::exists(copy));
            {
                auto job = open(dir.path());  // what a job opens does not count
            }
            QVERIFY(bool(library.beginSitting()));
            QVERIFY(QFile::exists(copy));
            QVERIFY(allBytes(dir.path()).contains("Thackwell"));
            if (deletes)
                QVERIFY(bool(library.deleteClient(library.clients()->at(0).id)));
            else
                QVERIFY(bool(library.beginSitting()));
            QVERIFY(!QFile::exists(copy));
            QCOMPARE(allBytes(dir.path()).contains("Thackwell"), !deletes);
        }
    }

    void aMigrationThatFailsLeavesTheLibraryAsItWas() {
        QTemporaryDir dir;
        QVERIFY(QFile::copy(ZEVO_TEST_DIR "/store/libraries/schema-3.sqlite", dir.filePath("library.sqlite")));
        QFile(dir.filePath("library.sqlite")).setPermissions(QFile::ReadOwner | QFile::WriteOwner);
        sql(dir.path(), "CREATE TABLE edits (already INTEGER)");  // stands in the way
        QVERIFY(!Library::open(dir.path()));
        sql(dir.path(), "DROP TABLE edits");
        auto library = open(dir.path());
        QCOMPARE(library.sets(library.clients()->at(0).id)->size(), std::size_t{2});
    }

    void aDamagedRowIsSaidAndHidesNoOther() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto bad = *library.addSet(newSet(client, "h1")), good = *library.addSet(newSet(client, "h2"));
        sql(dir.path(), "UPDATE observations SET poses = x'00112233' WHERE set_id = x'" +
                            QString::fromLatin1(bad.bytes().toHex()) + "'");
        QVERIFY(!library.loadSet(bad));
        QVERIFY(QString(made::words(library.loadSet(bad).error())).contains("damaged"));
        QVERIFY(bool(library.loadSet(good)));
        QCOMPARE(library.sets(client)->size(), std::size_t{2});  // the list still has both
        sql(dir.path(), "UPDATE observations SET outlines = x'00' WHERE set_id = x'" +
                            QString::fromLatin1(good.bytes().toHex()) + "'");
        QVERIFY(bool(library.loadSet(good)) && library.loadSet(good)->seen[0].observation->outlines.empty());
    }

    void theSameClipIsKeptOnce() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto first = *library.addSet(newSet(client));
        auto again = newSet(client);
        again.seen[0].clip.path = "/videos/moved.mp4";
        const auto second = *library.addSet(again);
        QCOMPARE(library.loadSet(first)->seen[0].clip.id, library.loadSet(second)->seen[0].clip.id);
        QCOMPARE(library.loadSet(first)->seen[0].clip.path, QString("/videos/moved.mp4"));
        QVERIFY(bool(library.moveClip(library.loadSet(first)->seen[0].clip.id, "/videos/third.mp4")));
        QCOMPARE(library.loadSet(second)->seen[0].clip.path, QString("/videos/third.mp4"));
        QVERIFY(bool(library.deleteSet(first)));
        QVERIFY(bool(library.loadSet(second)));  // the clip stays as long as a set needs it
    }

    void aSetForNobodyIsNotWritten() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        QVERIFY(!library.addSet(newSet(ClientId::fresh())));
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        QVERIFY(library.sets(client)->empty());
    }

    void aSetMovesToAnotherDay() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto id = *library.addSet(newSet(client));
        QVERIFY(bool(library.setHeldOn(id, QDate(2026, 3, 2))));
        QCOMPARE(library.loadSet(id)->heldOn, QDate(2026, 3, 2));
        QVERIFY(!library.setHeldOn(SetId::fresh(), QDate(2026, 3, 2)));
    }

    void aSetIsHiddenThenGone() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "A", 175, "", {}});
        const auto id = *library.addSet(newSet(client, QByteArray(32, 'q')));
        QVERIFY(bool(library.hideSet(id, true)));
        QVERIFY(library.sets(client)->empty());
        QVERIFY(bool(library.hideSet(id, false)));  // undo
        QCOMPARE(library.sets(client)->size(), std::size_t{1});
        QVERIFY(bool(library.hideSet(id, true)));
        auto next = open(dir.path());
        QVERIFY(bool(next.loadSet(id)));  // a job of the same sitting does not end it
        QVERIFY(bool(next.beginSitting()));
        QVERIFY(!next.loadSet(id));
        QVERIFY(!allBytes(dir.path()).contains(QByteArray(32, 'q')));
    }

    void deletionIsComplete() {
        QTemporaryDir dir;
        auto library = open(dir.path());
        const auto client = *library.addClient({{}, "Secretname Verborgen", 175, "private note", {}});
        auto set = newSet(client, QByteArray(32, 'x'));
        set.outcome.headline = "result text of the set";
        const auto id = *library.addSet(set);
        QVERIFY(allBytes(dir.path()).contains("Secretname"));
        QVERIFY(bool(library.deleteClient(client)));
        const QByteArray left = allBytes(dir.path());
        for (const char* word :
             {"Secretname", "private note", "result text of the set", "xxxxxxxxxxxxxxxx", "/videos/a.mp4"})
            QVERIFY2(!left.contains(word), word);
        QVERIFY(!library.loadSet(id));
        QVERIFY(library.clients()->empty());
    }

    /// A commit that fails leaves no half-open transaction behind.
    void aFailingCommitRollsBack() {
        QTemporaryDir dir;
        {
            auto db = QSqlDatabase::addDatabase("QSQLITE", "commit");
            db.setDatabaseName(dir.filePath("x.sqlite"));
            QVERIFY(db.open());
            for (const char* statement : {"PRAGMA foreign_keys = ON", "CREATE TABLE a (id INTEGER PRIMARY KEY)",
                                          "CREATE TABLE b (a INTEGER REFERENCES a(id) DEFERRABLE INITIALLY DEFERRED)"})
                QVERIFY(QSqlQuery(db).exec(statement));
            {
                Transaction t(db);
                QVERIFY(bool(t.begun()));
                QVERIFY(QSqlQuery(db).exec("INSERT INTO b VALUES (7)"));  // nobody to belong to: seen at the end only
                QVERIFY(!t.commit());
            }
            {
                Transaction t(db);  // would not begin inside the other one
                QVERIFY(bool(t.begun()));
                QVERIFY(QSqlQuery(db).exec("INSERT INTO a VALUES (1)"));
                QVERIFY(bool(t.commit()));
            }
            {
                Transaction t(db);  // forgotten: nothing happened
                QVERIFY(QSqlQuery(db).exec("INSERT INTO a VALUES (2)"));
            }
            QSqlQuery q(db);
            QVERIFY(q.exec("SELECT (SELECT COUNT(*) FROM a), (SELECT COUNT(*) FROM b)") && q.next());
            QCOMPARE(q.value(0).toInt(), 1);
            QCOMPARE(q.value(1).toInt(), 0);
        }
        QSqlDatabase::removeDatabase("commit");
    }

    void theLogTellsWhatWentWrongAndTurns() {
        QTemporaryDir dir;
        const Log log(dir.path());
        QVERIFY(log.recent().isEmpty());
        log.write("measuring a clip", refusal(NoticeKind::NobodyFound));
        log.write("reading", Error{"The file “Tamsin hurts.mp4” cannot be read.",
                                   "/home/coach/Tamsin hurts.mp4: {\"pain_before\":7,\"note\":\"old fracture\"}"});
        const QStringList lines = log.recent().split('\n');
        QCOMPARE(lines.size(), 2);
        QVERIFY(lines[0].contains("measuring a clip: nobody-found"));
        // What went wrong and how much there was to say, and nothing of whom.
        QVERIFY2(lines[1].contains("reading: error: The file “…” cannot be read. (69 signs, file "),
                 qPrintable(lines[1]));
        for (const char* private_ : {"Tamsin", "coach", "pain", "fracture", "/home"})
            QVERIFY2(!log.recent().contains(private_), private_);
        log.clear();
        QVERIFY(log.recent().isEmpty());
        const Error big{"", std::string(4000, 'y')};
        for (int i = 0; i < 200; ++i) log.write("x", big);
        qint64 all = 0;
        for (const auto& f : QDir(dir.path()).entryInfoList(QDir::Files)) all += f.size();
        QVERIFY2(all < 700 * 1024, qPrintable(QString::number(all)));
        QCOMPARE(log.recent(3).split('\n').size(), 3);
    }

    void whatQtWarnsOfIsCountedAndNotRead() {
        QTemporaryDir dir;
        const Log log(dir.path());
        {
            const CaughtMessages caught(log);
            qWarning("cannot open /home/coach/Tamsin.mp4");
            qInfo("Tamsin opened");  // no warning
        }
        qWarning("Tamsin, when nobody listens any more");
        const QString said = log.recent();
        QCOMPARE(said.count('\n'), 0);
        QVERIFY2(said.contains("Qt: warning of default (34 signs, file ") && said.contains(".mp4)"), qPrintable(said));
        QVERIFY(!said.contains("Tamsin") && !said.contains("coach"));
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
        QVERIFY(writer.waitForStarted(-1));
        QByteArray said;
        QTRY_VERIFY_WITH_TIMEOUT((said += writer.readAllStandardOutput()).contains("set 2"), 600000);
        QTest::qWait(150);
        writer.kill();
        writer.waitForFinished(-1);
        auto library = open(dir.path());
        const auto sets = *library.sets(library.clients()->at(0).id);
        QVERIFY(!sets.empty());
        for (const auto& s : sets) QVERIFY(bool(library.loadSet(s.id)));
    }

    void damagedBlocksAreRefused() {
        const auto poses = sim::truePoses(made::spec(1));
        const auto block = writePoses(poses);
        const auto back = readPoses(block);
        QVERIFY(back && back->size() == poses.size());
        QVERIFY(back->back().head.read && back->back().head.turnDeg == poses.back().head.turnDeg);
        QVERIFY(!readPoses({}));
        QVERIFY(!readPoses(std::span(block).first(block.size() / 2)));
        QVERIFY(!readPoses(writeOutlines({{1, {{1.F, 1.F}}}})));
        QVERIFY(!readOutlines(block));
        QVERIFY(readOutlines(writeOutlines({}))->empty());
        std::mt19937 random(3);
        for (int i = 0; i < 400; ++i) {
            auto bad = writeOutlines({{1, {{1.F, 1.F}, {2.F, 2.F}}}, {2, {{3.F, 1.F}}}});
            bad[random() % bad.size()] = static_cast<std::uint8_t>(random());
            (void)readOutlines(bad);  // right or refused, never a crash
            auto frames = writePoses({poses[0], poses[1]});
            frames[random() % 120] = static_cast<std::uint8_t>(random());
            (void)readPoses(frames);
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
