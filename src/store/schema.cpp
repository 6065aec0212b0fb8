#include "store/schema.h"

#include <QFile>
#include <QSqlError>
#include <QSqlQuery>
#include <QStringList>
#include <QVariant>
#include <vector>

namespace zevo::store {
namespace {

/// Statements that lead from version i to i + 1. Never edit a step that has shipped: add the next one.
const std::vector<QStringList>& steps() {
    static const std::vector<QStringList> all{
        {
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
        },
        {
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
        },
        {"ALTER TABLE sets ADD COLUMN tempo TEXT NOT NULL DEFAULT ''"},
    };
    return all;
}

int versionOf(const QSqlDatabase& db) {
    QSqlQuery q(db);
    return q.exec("PRAGMA user_version") && q.next() ? q.value(0).toInt() : -1;
}

}  // namespace

int newestSchemaVersion() {
    return static_cast<int>(steps().size());
}

Result<void> migrate(QSqlDatabase db) {
    const int from = versionOf(db);
    if (from < 0)
        return Error{"The library file is damaged or not a Zevo library.", db.lastError().text().toStdString()};
    if (from > newestSchemaVersion())
        return Error{"This library was made by a newer Zevo. Update Zevo to open it; nothing was changed.",
                     "schema " + std::to_string(from)};
    if (from > 0 && from < newestSchemaVersion()) {
        const QString keep = db.databaseName() + QString(".schema-%1").arg(from);
        QSqlQuery(db).exec("PRAGMA wal_checkpoint(TRUNCATE)");
        if (!QFile::exists(keep) && !QFile::copy(db.databaseName(), keep))
            return Error{"The library could not be brought up to date: there is no room for a copy of it.",
                         keep.toStdString()};
    }
    for (int v = from; v < newestSchemaVersion(); ++v) {
        db.transaction();
        QStringList statements = steps()[static_cast<std::size_t>(v)];
        statements.append(QString("PRAGMA user_version = %1").arg(v + 1));
        for (const QString& statement : statements) {
            QSqlQuery q(db);
            if (q.exec(statement)) continue;
            const Error error{"The library could not be brought up to date; it was left as it was.",
                              q.lastError().text().toStdString()};
            db.rollback();
            return error;
        }
        if (!db.commit())
            return Error{"The library could not be written. Is the disk full?", db.lastError().text().toStdString()};
    }
    return {};
}

}  // namespace zevo::store
