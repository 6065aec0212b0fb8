#include "store/schema.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlError>
#include <QSqlQuery>
#include <QVariant>
#include <vector>

#include "store/schema_4.h"
#include "store/schema_9.h"
#include "store/transaction.h"

namespace zevo::store {
namespace {

/// What leads from version i to i + 1: statements, and code where statements do not reach. Never edit a step that has
/// shipped: add the next one.
struct Step {
    QStringList statements;
    Result<void> (*code)(QSqlDatabase) = nullptr;
    QStringList after = {};
};

const std::vector<Step>& steps() {
    static const std::vector<Step> all{
        {{
            "CREATE TABLE clients (id INTEGER PRIMARY KEY, name TEXT NOT NULL, stature_cm REAL NOT NULL DEFAULT 0 "
            "CHECK (stature_cm >= 0),"
            " note TEXT NOT NULL DEFAULT '', consent_on TEXT, made_at TEXT NOT NULL)",
            "CREATE TABLE sessions (id INTEGER PRIMARY KEY, client_id INTEGER NOT NULL REFERENCES clients(id) ON "
            "DELETE CASCADE,"
            " held_on TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', UNIQUE (client_id, held_on))",
            "CREATE TABLE clips (id INTEGER PRIMARY KEY, sha256 BLOB NOT NULL UNIQUE, path TEXT NOT NULL, bytes "
            "INTEGER NOT NULL,"
            " frames INTEGER NOT NULL, duration_s REAL NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, "
            "rotation_deg INTEGER NOT NULL)",
            "CREATE TABLE sets (id INTEGER PRIMARY KEY, session_id INTEGER NOT NULL REFERENCES sessions(id) ON DELETE "
            "CASCADE,"
            " clip_id INTEGER NOT NULL REFERENCES clips(id), movement TEXT NOT NULL, variation TEXT NOT NULL DEFAULT "
            "'',"
            " view TEXT NOT NULL DEFAULT 'auto', standard TEXT NOT NULL, made_at TEXT NOT NULL)",
            "CREATE INDEX sets_by_session ON sets(session_id)",
            "CREATE TABLE results (set_id INTEGER PRIMARY KEY REFERENCES sets(id) ON DELETE CASCADE, model TEXT NOT "
            "NULL, reps INTEGER NOT NULL,"
            " headline TEXT NOT NULL, json BLOB NOT NULL, poses BLOB NOT NULL, outlines BLOB NOT NULL, reading_notes "
            "TEXT NOT NULL DEFAULT '')",
            "CREATE TABLE corrections (id INTEGER PRIMARY KEY, set_id INTEGER NOT NULL REFERENCES sets(id) ON DELETE "
            "CASCADE,"
            " kind TEXT NOT NULL, rep INTEGER NOT NULL, made_at TEXT NOT NULL)",
        }},
        {{
            "CREATE TABLE second_views (set_id INTEGER PRIMARY KEY REFERENCES sets(id) ON DELETE CASCADE,"
            " clip_id INTEGER NOT NULL REFERENCES clips(id), together INTEGER NOT NULL, nudge_s REAL NOT NULL DEFAULT "
            "0,"
            " poses BLOB NOT NULL, reading_notes TEXT NOT NULL DEFAULT '')",
            "ALTER TABLE sets ADD COLUMN load_share REAL NOT NULL DEFAULT 0",
            "ALTER TABLE sets ADD COLUMN wedge_deg REAL NOT NULL DEFAULT 0",
            "ALTER TABLE sets ADD COLUMN ankle_limit_deg REAL",
            "ALTER TABLE sets ADD COLUMN pain_before INTEGER",
            "ALTER TABLE sets ADD COLUMN pain_after INTEGER",
            "ALTER TABLE sets ADD COLUMN pain_sharp INTEGER NOT NULL DEFAULT 0",
            "ALTER TABLE sets ADD COLUMN red_flags TEXT NOT NULL DEFAULT ''",
        }},
        {{"ALTER TABLE sets ADD COLUMN tempo TEXT NOT NULL DEFAULT ''"}},
        {kToSchema4, convertToSchema4, kAfterSchema4},
        {{"ALTER TABLE clients ADD COLUMN pain_score INTEGER",
          "ALTER TABLE clients ADD COLUMN pain_place TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE clients ADD COLUMN pain_sharp INTEGER NOT NULL DEFAULT 0",
          "ALTER TABLE clients ADD COLUMN pain_on TEXT",
          "ALTER TABLE clients ADD COLUMN choices TEXT NOT NULL DEFAULT '{}'",
          "ALTER TABLE observations ADD COLUMN opinions BLOB NOT NULL DEFAULT x''",
          "CREATE TABLE client_flags (client_id INTEGER NOT NULL REFERENCES clients(id) ON DELETE CASCADE,"
          " position INTEGER NOT NULL, flag TEXT NOT NULL, since TEXT NOT NULL, cleared_on TEXT,"
          " cleared_by TEXT NOT NULL DEFAULT '', PRIMARY KEY (client_id, position))"}},
        {{"ALTER TABLE clients ADD COLUMN consent_for TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE clips ADD COLUMN filmed INTEGER NOT NULL DEFAULT 0"}},
        {{"ALTER TABLE clients ADD COLUMN mass_kg REAL NOT NULL DEFAULT 0",
          "ALTER TABLE clients ADD COLUMN goals TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE clients ADD COLUMN emphasis TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE clients ADD COLUMN equipment TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE clients ADD COLUMN build TEXT NOT NULL DEFAULT '{}'",
          "ALTER TABLE clients ADD COLUMN targets TEXT NOT NULL DEFAULT '[]'",
          "ALTER TABLE clients ADD COLUMN archived INTEGER NOT NULL DEFAULT 0",
          "CREATE TABLE complaints (client_id INTEGER NOT NULL REFERENCES clients(id) ON DELETE CASCADE,"
          " asked_on TEXT NOT NULL, score INTEGER NOT NULL, place TEXT NOT NULL DEFAULT '',"
          " sharp INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (client_id, asked_on)) WITHOUT ROWID",
          "INSERT INTO complaints SELECT id, pain_on, pain_score, pain_place, pain_sharp FROM clients "
          "WHERE pain_on IS NOT NULL AND pain_score IS NOT NULL",
          "ALTER TABLE sets ADD COLUMN position REAL", "UPDATE sets SET position = id",
          "ALTER TABLE measurements ADD COLUMN as_seen REAL"}},
        {{"ALTER TABLE observations ADD COLUMN contours BLOB NOT NULL DEFAULT x''"}},
        {kToSchema9, convertToSchema9, kAfterSchema9},
        {{"ALTER TABLE sets ADD COLUMN seen_from TEXT NOT NULL DEFAULT ''"}},
        {{"ALTER TABLE observations ADD COLUMN camera_hold TEXT NOT NULL DEFAULT 'null'"}},
        {{"ALTER TABLE client_flags ADD COLUMN limits TEXT NOT NULL DEFAULT ''",
          "ALTER TABLE client_flags ADD COLUMN cleared_until TEXT", "ALTER TABLE client_flags ADD COLUMN over_on TEXT",
          "ALTER TABLE client_flags ADD COLUMN over_by TEXT NOT NULL DEFAULT ''"}},
    };
    return all;
}

int versionOf(const QSqlDatabase& db) {
    QSqlQuery q(db);
    return q.exec("PRAGMA user_version") && q.next() ? q.value(0).toInt() : -1;
}

Result<void> runAll(const QSqlDatabase& db, const QStringList& statements) {
    for (const QString& statement : statements) {
        QSqlQuery q(db);
        if (!q.exec(statement))
            return Error{"The library could not be brought up to date; it was left as it was.",
                         (statement + ": " + q.lastError().text()).toStdString()};
    }
    return {};
}

Result<void> take(const QSqlDatabase& db, int version) {
    const Step& step = steps()[static_cast<std::size_t>(version)];
    Transaction change(db);
    if (auto begun = change.begun(); !begun) return begun;
    if (auto done = runAll(db, step.statements); !done) return done;
    if (step.code)
        if (auto done = step.code(db); !done) return done;
    if (auto done = runAll(db, step.after + QStringList{QString("PRAGMA user_version = %1").arg(version + 1)}); !done)
        return done;
    return change.commit();
}

/// A whole copy under another name, by SQLite itself, so that what is still in the write-ahead log is in it.
Result<void> keepCopy(const QSqlDatabase& db, int version) {
    const QString copy = db.databaseName() + QString(".schema-%1").arg(version);
    QFile::remove(copy);  // of an earlier try that did not get further
    QSqlQuery q(db);
    q.prepare("VACUUM INTO ?");
    q.addBindValue(copy);
    if (!q.exec())
        return Error{"The library could not be brought up to date: there is no room for a copy of it.",
                     q.lastError().text().toStdString()};
    return {};
}

}  // namespace

int newestSchemaVersion() {
    return static_cast<int>(steps().size());
}

QStringList copiesBeforeMigration(const QString& databaseFile) {
    const QFileInfo file(databaseFile);
    QStringList out;
    for (const QString& name : file.dir().entryList({file.fileName() + ".schema-*"}, QDir::Files))
        out.append(file.dir().filePath(name));
    return out;
}

Result<void> migrate(QSqlDatabase db) {
    const int from = versionOf(db);
    if (from < 0)
        return Error{"The library file is damaged or not a Zevo library.", db.lastError().text().toStdString()};
    if (from > newestSchemaVersion())
        return Error{"This library was made by a newer Zevo. Update Zevo to open it; nothing was changed.",
                     "schema " + std::to_string(from)};
    if (from > 0 && from < newestSchemaVersion())
        if (auto kept = keepCopy(db, from); !kept) return kept;
    for (int v = from; v < newestSchemaVersion(); ++v)
        if (auto done = take(db, v); !done) return done;
    return {};
}

}  // namespace zevo::store
