#include "store/schema_9.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSqlError>
#include <QSqlQuery>
#include <QVariant>

#include "store/ids.h"

namespace zevo::store {

// Statements that any SQL database understands: another engine has the same tables.
const QStringList kToSchema9{
    "CREATE TABLE clients_9 (id BLOB PRIMARY KEY NOT NULL, name TEXT NOT NULL, stature_cm REAL NOT NULL DEFAULT 0 "
    "CHECK "
    "(stature_cm >= 0), note TEXT NOT NULL DEFAULT '', consent_on TEXT, made_at TEXT NOT NULL, pain_score INTEGER, "
    "pain_place TEXT NOT NULL DEFAULT '', pain_sharp INTEGER NOT NULL DEFAULT 0, pain_on TEXT, choices TEXT NOT NULL "
    "DEFAULT '{}', consent_for TEXT NOT NULL DEFAULT '', mass_kg REAL NOT NULL DEFAULT 0, goals TEXT NOT NULL DEFAULT "
    "'', emphasis TEXT NOT NULL DEFAULT '', equipment TEXT NOT NULL DEFAULT '', build TEXT NOT NULL DEFAULT '{}', "
    "targets TEXT NOT NULL DEFAULT '[]', archived INTEGER NOT NULL DEFAULT 0)",
    "CREATE TABLE sessions_9 (id BLOB PRIMARY KEY NOT NULL, client_id BLOB NOT NULL REFERENCES clients(id) ON DELETE "
    "CASCADE, held_on TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', UNIQUE (client_id, held_on))",
    "CREATE TABLE clips_9 (id BLOB PRIMARY KEY NOT NULL, sha256 BLOB NOT NULL UNIQUE, path TEXT NOT NULL, bytes "
    "INTEGER "
    "NOT NULL, frames INTEGER NOT NULL, duration_s REAL NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, "
    "rotation_deg INTEGER NOT NULL, filmed INTEGER NOT NULL DEFAULT 0)",
    "CREATE TABLE sets_9 (id BLOB PRIMARY KEY NOT NULL, session_id BLOB NOT NULL REFERENCES sessions(id) ON DELETE "
    "CASCADE, movement TEXT NOT NULL, variation TEXT NOT NULL DEFAULT '', standard TEXT NOT NULL, reps INTEGER NOT "
    "NULL, headline TEXT NOT NULL, engine INTEGER NOT NULL, hidden INTEGER NOT NULL DEFAULT 0, made_at TEXT NOT NULL, "
    "position REAL NOT NULL, revision INTEGER NOT NULL DEFAULT 0)",
    "CREATE TABLE observations_9 (id BLOB PRIMARY KEY NOT NULL, set_id BLOB NOT NULL REFERENCES sets(id) ON DELETE "
    "CASCADE, position INTEGER NOT NULL, clip_id BLOB NOT NULL REFERENCES clips(id), engine INTEGER NOT NULL, model "
    "TEXT NOT NULL, network TEXT NOT NULL, poses BLOB NOT NULL, outlines BLOB NOT NULL, notices TEXT NOT NULL, "
    "opinions "
    "BLOB NOT NULL, contours BLOB NOT NULL, UNIQUE (set_id, position))",
    "CREATE TABLE edits_9 (id BLOB PRIMARY KEY NOT NULL, set_id BLOB NOT NULL REFERENCES sets(id) ON DELETE CASCADE, "
    "position INTEGER NOT NULL, author TEXT NOT NULL, made_at TEXT NOT NULL, kind TEXT NOT NULL, payload TEXT NOT "
    "NULL, "
    "takes_back BLOB, UNIQUE (set_id, position))",
    "CREATE TABLE series (id BLOB PRIMARY KEY NOT NULL, set_id BLOB NOT NULL REFERENCES sets(id) ON DELETE CASCADE, "
    "kind TEXT NOT NULL, data BLOB NOT NULL)",
    "CREATE TABLE repetitions_9 (set_id BLOB NOT NULL REFERENCES sets(id) ON DELETE CASCADE, second INTEGER NOT NULL, "
    "number INTEGER NOT NULL, kind TEXT NOT NULL, start_s REAL NOT NULL, arrive_s REAL NOT NULL, bottom_s REAL NOT "
    "NULL, leave_s REAL NOT NULL, end_s REAL NOT NULL, leg TEXT, PRIMARY KEY (set_id, second, number))",
    "CREATE TABLE measurements_9 (set_id BLOB NOT NULL REFERENCES sets(id) ON DELETE CASCADE, view INTEGER NOT NULL, "
    "number INTEGER NOT NULL, measure TEXT NOT NULL, value REAL NOT NULL, pm90 REAL NOT NULL, confidence REAL NOT "
    "NULL, "
    "at_s REAL NOT NULL, second INTEGER NOT NULL, engine INTEGER NOT NULL, as_seen REAL)",
    "CREATE TABLE client_flags_9 (client_id BLOB NOT NULL REFERENCES clients(id) ON DELETE CASCADE, position INTEGER "
    "NOT NULL, flag TEXT NOT NULL, since TEXT NOT NULL, cleared_on TEXT, cleared_by TEXT NOT NULL DEFAULT '', PRIMARY "
    "KEY (client_id, position))",
    "CREATE TABLE complaints_9 (client_id BLOB NOT NULL REFERENCES clients(id) ON DELETE CASCADE, asked_on TEXT NOT "
    "NULL, score INTEGER NOT NULL, place TEXT NOT NULL DEFAULT '', sharp INTEGER NOT NULL DEFAULT 0, PRIMARY KEY "
    "(client_id, asked_on))",
    "CREATE TABLE files (path TEXT PRIMARY KEY NOT NULL, kind TEXT NOT NULL, state TEXT NOT NULL, client_id BLOB, "
    "sha256 BLOB, plan TEXT NOT NULL DEFAULT '', since TEXT NOT NULL)",
    "CREATE TABLE new_ids (of TEXT NOT NULL, old INTEGER NOT NULL, id BLOB NOT NULL, PRIMARY KEY (of, old))",
};

const QStringList kAfterSchema9{
    "DROP TABLE new_ids",
    "DROP TABLE measurements",
    "DROP TABLE repetitions",
    "DROP TABLE edits",
    "DROP TABLE observations",
    "DROP TABLE sets",
    "DROP TABLE clips",
    "DROP TABLE sessions",
    "DROP TABLE client_flags",
    "DROP TABLE complaints",
    "DROP TABLE clients",
    "ALTER TABLE clients_9 RENAME TO clients",
    "ALTER TABLE sessions_9 RENAME TO sessions",
    "ALTER TABLE clips_9 RENAME TO clips",
    "ALTER TABLE sets_9 RENAME TO sets",
    "ALTER TABLE observations_9 RENAME TO observations",
    "ALTER TABLE edits_9 RENAME TO edits",
    "ALTER TABLE repetitions_9 RENAME TO repetitions",
    "ALTER TABLE measurements_9 RENAME TO measurements",
    "ALTER TABLE client_flags_9 RENAME TO client_flags",
    "ALTER TABLE complaints_9 RENAME TO complaints",
    "CREATE INDEX sets_by_session ON sets(session_id)",
    "CREATE INDEX observations_by_clip ON observations(clip_id)",
    "CREATE INDEX series_by_set ON series(set_id)",
    "CREATE INDEX measurements_by_set ON measurements(set_id)",
    "CREATE INDEX measurements_by_measure ON measurements(measure, set_id)",
    "CREATE INDEX files_by_sum ON files(sha256)",
};

namespace {

Error failed(const QSqlQuery& q) {
    return Error{"The library could not be brought up to date; it was left as it was.",
                 (q.lastQuery() + ": " + q.lastError().text()).toStdString()};
}

class Carrying {
  public:
    explicit Carrying(QSqlDatabase db) : m_db(std::move(db)) {}

    Result<void> run(const QString& sql, const QVariantList& values = {}) {
        QSqlQuery q(m_db);
        bool good = q.prepare(sql);
        for (const auto& v : values) q.addBindValue(v);
        if (!good || !q.exec()) return failed(q);
        return {};
    }

    Result<void> giveIds(const QString& table) {
        QSqlQuery rows(m_db);
        if (!rows.exec("SELECT id FROM " + table)) return failed(rows);
        while (rows.next())
            if (auto done = run("INSERT INTO new_ids VALUES (?, ?, ?)",
                                {table, rows.value(0), QUuid::createUuid().toRfc4122()});
                !done)
                return done;
        return {};
    }

    Result<void> all(const QStringList& statements) {
        for (const QString& s : statements)
            if (auto done = run(s); !done) return done;
        return {};
    }

    /// Every edit becomes an entry, made when its set was; what was followed moves apart.
    Result<void> carryEdits() {
        QSqlQuery rows(m_db);
        if (!rows.exec("SELECT n.id, d.position, s.made_at, d.kind, d.payload FROM edits d JOIN sets s ON s.id = "
                       "d.set_id JOIN new_ids n ON n.of = 'sets' AND n.old = d.set_id"))
            return failed(rows);
        while (rows.next()) {
            const QByteArray set = rows.value(0).toByteArray();
            const QString kind = rows.value(3).toString();
            QString payload = rows.value(4).toString();
            if (kind == "mark") {
                QJsonObject what = QJsonDocument::fromJson(payload.toUtf8()).object();
                const QJsonValue path = what.take("path");
                if (path.isObject()) {
                    const QByteArray made = QJsonDocument(path.toObject()).toJson(QJsonDocument::Compact);
                    QCryptographicHash sum(QCryptographicHash::Sha256);
                    sum.addData(set);
                    sum.addData(QJsonDocument(what).toJson(QJsonDocument::Compact));
                    sum.addData(made);
                    const QByteArray id = sum.result();
                    if (auto done = run("INSERT INTO series VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING",
                                        {id, set, kind, qCompress(made)});
                        !done)
                        return done;
                    what["series"] = QString::fromLatin1(id.toHex());
                    payload = QString::fromUtf8(QJsonDocument(what).toJson(QJsonDocument::Compact));
                }
            }
            if (auto done = run("INSERT INTO edits_9 VALUES (?, ?, ?, '', ?, ?, ?, NULL)",
                                {EntryId::fresh().bytes(), set, rows.value(1), rows.value(2), kind, payload});
                !done)
                return done;
        }
        return {};
    }

    /// Recordings that no set knew lay beside a note of whose they are: the client's number, then an edit a line.
    Result<void> noteBrokenOff() {
        const QDir recordings(QFileInfo(m_db.databaseName()).dir().filePath("recordings"));
        for (const QString& name : recordings.entryList({"*.note"}, QDir::Files)) {
            QFile file(recordings.filePath(name));
            if (!file.open(QIODevice::ReadOnly)) continue;
            const qlonglong client = file.readLine().trimmed().toLongLong();
            QJsonArray plan;
            while (!file.atEnd()) {
                const QString line = QString::fromUtf8(file.readLine().trimmed());
                if (const auto space = line.indexOf(' '); space > 0)
                    plan.append(QJsonObject{{"kind", line.left(space)}, {"what", line.mid(space + 1)}});
            }
            if (auto done =
                    run("INSERT INTO files SELECT ?, 'recording', 'growing', (SELECT id FROM new_ids WHERE of = "
                        "'clients' AND old = ?), NULL, ?, ? WHERE NOT EXISTS (SELECT 1 FROM files WHERE path = "
                        "?)",
                        {"recordings/" + name.chopped(5), client,
                         QString::fromUtf8(QJsonDocument(plan).toJson(QJsonDocument::Compact)),
                         QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs), "recordings/" + name.chopped(5)});
                !done)
                return done;
        }
        return {};
    }

    /// Recordings and viewing copies that belong to clips of the record.
    Result<void> noteFiles() {
        const QDir home = QFileInfo(m_db.databaseName()).dir();
        QSqlQuery rows(m_db);
        if (!rows.exec("SELECT sha256, path, filmed FROM clips_9")) return failed(rows);
        while (rows.next()) {
            const QByteArray sum = rows.value(0).toByteArray();
            const QString path = rows.value(1).toString();
            auto note = [&](const QString& inside, const char* kind) {
                return run("INSERT INTO files VALUES (?, ?, 'kept', NULL, ?, '', ?) ON CONFLICT (path) DO NOTHING",
                           {inside, kind, sum, QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs)});
            };
            if (rows.value(2).toBool() && QFileInfo(path).dir() == QDir(home.filePath("recordings")))
                if (auto done = note("recordings/" + QFileInfo(path).fileName(), "recording"); !done) return done;
            const QString copy = "viewing/" + QString::fromLatin1(sum.toHex().left(24)) + ".mp4";
            if (QFileInfo::exists(home.filePath(copy)))
                if (auto done = note(copy, "viewing"); !done) return done;
        }
        return {};
    }

  private:
    QSqlDatabase m_db;
};

}  // namespace

Result<void> convertToSchema9(QSqlDatabase db) {
    Carrying carry(std::move(db));
    for (const char* table : {"clients", "sessions", "clips", "sets", "observations"})
        if (auto done = carry.giveIds(table); !done) return done;
    const QString newId = "(SELECT n.id FROM new_ids n WHERE n.of = '%1' AND n.old = %2)";
    auto idOf = [&](const char* table, const char* column) { return newId.arg(table, column); };
    auto done = carry.all({
        "INSERT INTO clients_9 SELECT " + idOf("clients", "c.id") +
            ", name, stature_cm, note, consent_on, made_at, pain_score, pain_place, pain_sharp, pain_on, choices, "
            "consent_for, mass_kg, goals, emphasis, equipment, build, targets, archived FROM clients c",
        "INSERT INTO sessions_9 SELECT " + idOf("sessions", "c.id") + ", " + idOf("clients", "c.client_id") +
            ", held_on, note FROM sessions c",
        "INSERT INTO clips_9 SELECT " + idOf("clips", "c.id") +
            ", sha256, path, bytes, frames, duration_s, width, height, rotation_deg, filmed FROM clips c",
        "INSERT INTO sets_9 SELECT " + idOf("sets", "c.id") + ", " + idOf("sessions", "c.session_id") +
            ", movement, variation, standard, reps, headline, engine, hidden, made_at, coalesce(position, c.id), 0 "
            "FROM "
            "sets c",
        "INSERT INTO observations_9 SELECT " + idOf("observations", "c.id") + ", " + idOf("sets", "c.set_id") +
            ", position, " + idOf("clips", "c.clip_id") +
            ", engine, model, network, poses, outlines, notices, opinions, contours FROM observations c",
        "INSERT INTO repetitions_9 SELECT " + idOf("sets", "c.set_id") +
            ", second, number, kind, start_s, arrive_s, bottom_s, leave_s, end_s, leg FROM repetitions c",
        "INSERT INTO measurements_9 SELECT " + idOf("sets", "c.set_id") +
            ", view, (SELECT min(r.number) FROM repetitions r WHERE r.set_id = c.set_id AND r.second = c.view AND "
            "r.bottom_s = c.rep_s), measure, value, pm90, confidence, at_s, second, engine, as_seen FROM measurements "
            "c "
            "WHERE EXISTS (SELECT 1 FROM repetitions r WHERE r.set_id = c.set_id AND r.second = c.view AND r.bottom_s "
            "= "
            "c.rep_s)",
        "INSERT INTO client_flags_9 SELECT " + idOf("clients", "c.client_id") +
            ", position, flag, since, cleared_on, cleared_by FROM client_flags c",
        "INSERT INTO complaints_9 SELECT " + idOf("clients", "c.client_id") +
            ", asked_on, score, place, sharp FROM complaints c",
    });
    if (!done) return done;
    if (done = carry.carryEdits(); !done) return done;
    if (done = carry.noteFiles(); !done) return done;
    return carry.noteBrokenOff();
}

}  // namespace zevo::store
