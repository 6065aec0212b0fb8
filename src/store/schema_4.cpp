#include "store/schema_4.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSqlError>
#include <QSqlQuery>
#include <QVariant>

#include "core/serial/edit_json.h"
#include "store/blocks.h"
#include "store/old_packing.h"

namespace zevo::store {

const QStringList kToSchema4{
    "CREATE TABLE sets_4 (id INTEGER PRIMARY KEY, session_id INTEGER NOT NULL REFERENCES sessions(id) ON DELETE "
    "CASCADE,"
    " movement TEXT NOT NULL, variation TEXT NOT NULL DEFAULT '', standard TEXT NOT NULL, reps INTEGER NOT NULL,"
    " headline TEXT NOT NULL, engine INTEGER NOT NULL, hidden INTEGER NOT NULL DEFAULT 0, made_at TEXT NOT NULL)",
    "CREATE TABLE observations (id INTEGER PRIMARY KEY, set_id INTEGER NOT NULL REFERENCES sets(id) ON DELETE CASCADE,"
    " position INTEGER NOT NULL, clip_id INTEGER NOT NULL REFERENCES clips(id), engine INTEGER NOT NULL,"
    " model TEXT NOT NULL, network TEXT NOT NULL, poses BLOB NOT NULL, outlines BLOB NOT NULL, notices TEXT NOT NULL,"
    " UNIQUE (set_id, position))",
    "CREATE TABLE edits (set_id INTEGER NOT NULL REFERENCES sets(id) ON DELETE CASCADE, position INTEGER NOT NULL,"
    " kind TEXT NOT NULL, payload TEXT NOT NULL, PRIMARY KEY (set_id, position)) WITHOUT ROWID",
    "CREATE TABLE repetitions (set_id INTEGER NOT NULL REFERENCES sets(id) ON DELETE CASCADE, second INTEGER NOT NULL,"
    " number INTEGER NOT NULL, kind TEXT NOT NULL, start_s REAL NOT NULL, arrive_s REAL NOT NULL, bottom_s REAL NOT "
    "NULL,"
    " leave_s REAL NOT NULL, end_s REAL NOT NULL, leg TEXT, PRIMARY KEY (set_id, second, number)) WITHOUT ROWID",
    "CREATE TABLE measurements (set_id INTEGER NOT NULL REFERENCES sets(id) ON DELETE CASCADE, view INTEGER NOT NULL,"
    " rep_s REAL NOT NULL, measure TEXT NOT NULL, value REAL NOT NULL, pm90 REAL NOT NULL, confidence REAL NOT NULL,"
    " at_s REAL NOT NULL, second INTEGER NOT NULL, engine INTEGER NOT NULL,"
    " PRIMARY KEY (set_id, view, rep_s, measure)) WITHOUT ROWID",
    "CREATE INDEX measurements_by_measure ON measurements(measure, set_id)",
    "CREATE TABLE state (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID",
};

const QStringList kAfterSchema4{
    "DROP TABLE corrections",
    "DROP TABLE second_views",
    "DROP TABLE results",
    "DROP TABLE sets",
    "ALTER TABLE sets_4 RENAME TO sets",
    "CREATE INDEX sets_by_session ON sets(session_id)",
    "CREATE INDEX observations_by_clip ON observations(clip_id)",
};

namespace {

Error failed(const QSqlQuery& q) {
    return Error{"The library could not be brought up to date; it was left as it was.",
                 q.lastError().text().toStdString()};
}

Result<void> write(const QSqlDatabase& db, const QString& sql, const QVariantList& values) {
    QSqlQuery q(db);
    bool good = q.prepare(sql);
    for (const auto& v : values) q.addBindValue(v);
    if (!good || !q.exec()) return failed(q);
    return {};
}

std::vector<Notice> asNotices(const QString& lines) {
    std::vector<Notice> out;
    for (const QString& line : lines.split('\n', Qt::SkipEmptyParts))
        out.push_back({NoticeKind::FreeText, {line.toStdString()}});
    return out;
}

/// A damaged block becomes an empty one: the set is then said to be damaged when it is opened, as it was before.
QByteArray newPoses(const QByteArray& old) {
    const auto poses = unpackOldPoses(old);
    return poses ? packed(writePoses(*poses)) : QByteArray("");
}
QByteArray newOutlines(const QByteArray& old) {
    const auto outlines = unpackOldOutlines(old);
    return packed(writeOutlines(outlines ? *outlines : std::vector<Outline>()));
}

Result<void> convertReps(const QSqlDatabase& db, qint64 set, const QJsonArray& reps, bool second,
                         const QString& firstView) {
    for (const QJsonValue& value : reps) {
        const QJsonObject rep = value.toObject();
        const double bottom = rep["bottom_s"].toDouble();
        if (auto done = write(
                db, "INSERT OR IGNORE INTO repetitions VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                {set, second, rep["index"].toInt(), rep["kind"].toString(), rep["start_s"].toDouble(), bottom, bottom,
                 bottom, rep["end_s"].toDouble(), rep.contains("leg") ? QVariant(rep["leg"].toString()) : QVariant()});
            !done)
            return done;
        const QJsonObject measures = rep["measures"].toObject();
        for (auto m = measures.begin(); m != measures.end(); ++m) {
            const QJsonObject o = m->toObject();
            if (!o["value"].isDouble()) continue;
            const bool seenInSecond = second || (o.contains("view") && o["view"].toString() != firstView);
            if (auto done = write(db, "INSERT OR IGNORE INTO measurements VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, 0)",
                                  {set, second, bottom, m.key(), o["value"].toDouble(), o["pm90"].toDouble(),
                                   o["confidence"].toDouble(), o["at_s"].toDouble(), seenInSecond});
                !done)
                return done;
        }
    }
    return {};
}

Result<void> convertSet(const QSqlDatabase& db, const QSqlQuery& row) {
    auto at = [&](const char* name) { return row.value(QString(name)); };
    const qint64 id = at("id").toLongLong();
    const QJsonObject result = QJsonDocument::fromJson(at("json").toByteArray()).object();
    SetFacts facts;
    facts.movement = at("movement").toString().toStdString();
    facts.variation = at("variation").toString().toStdString();
    // A movement that could not be measured used to lock its set: the last one that could be is taken back.
    if (const QString measured = result["movement"].toString();
        !measured.isEmpty() && measured.toStdString() != facts.movement) {
        facts.movement = measured.toStdString();
        facts.variation = result["variation"].toString().toStdString();
    }
    facts.view = at("view").toString().toStdString();
    facts.statureCm = at("stature_cm").toDouble();
    facts.loadShare = at("load_share").toDouble();
    facts.wedgeDeg = at("wedge_deg").toDouble();
    if (!at("ankle_limit_deg").isNull()) facts.ankleLimitDeg = at("ankle_limit_deg").toDouble();
    if (const auto tempo = parseTempo(at("tempo").toString().toStdString())) facts.tempo = *tempo;
    if (!at("pain_before").isNull()) facts.pain.before = at("pain_before").toInt();
    if (!at("pain_after").isNull()) facts.pain.after = at("pain_after").toInt();
    facts.pain.sharp = at("pain_sharp").toBool();
    for (const QString& f : at("red_flags").toString().split(' ', Qt::SkipEmptyParts))
        facts.pain.redFlags.push_back(f.toStdString());

    if (auto done =
            write(db,
                  "INSERT INTO sets_4 (id, session_id, movement, variation, standard, reps, headline, engine, "
                  "made_at) VALUES (?, ?, ?, ?, ?, ?, ?, 0, ?)",
                  {id, at("session_id"), QString::fromStdString(facts.movement),
                   QString::fromStdString(facts.variation), at("standard"), at("reps"), at("headline"), at("made_at")});
        !done)
        return done;
    auto observation = [&](int position, const QVariant& clip, const QByteArray& poses, const QByteArray& outlines,
                           const QString& notes) {
        return write(db,
                     "INSERT INTO observations (set_id, position, clip_id, engine, model, network, poses, outlines, "
                     "notices) VALUES (?, ?, ?, 0, ?, '', ?, ?, ?)",
                     {id, position, clip, at("model"), newPoses(poses), newOutlines(outlines),
                      QString::fromStdString(writeNotices(asNotices(notes)))});
    };
    if (auto done = observation(0, at("clip_id"), at("poses").toByteArray(), at("outlines").toByteArray(),
                                at("reading_notes").toString());
        !done)
        return done;

    Edits edits{FactsSet{facts}, StandardChosen{at("standard").toString().toStdString()}};
    QSqlQuery second(db);
    second.prepare("SELECT clip_id, together, nudge_s, poses, reading_notes FROM second_views WHERE set_id = ?");
    second.addBindValue(id);
    if (!second.exec()) return failed(second);
    if (second.next()) {
        if (auto done = observation(1, second.value(0), second.value(3).toByteArray(), {}, second.value(4).toString());
            !done)
            return done;
        edits = with(edits, SecondAdded{1, second.value(1).toBool()});
        if (second.value(2).toDouble() != 0) edits = with(edits, SecondNudged{second.value(2).toDouble()});
    }
    // What was left out by number is from now on left out by the time it lies at.
    QSqlQuery corrections(db);
    corrections.prepare("SELECT rep FROM corrections WHERE set_id = ? AND kind = 'leave_out' ORDER BY id");
    corrections.addBindValue(id);
    if (!corrections.exec()) return failed(corrections);
    const QJsonArray reps = result["reps"].toArray();
    while (corrections.next())
        for (const QJsonValue& rep : reps)
            if (rep["index"].toInt() == corrections.value(0).toInt())
                edits = with(edits, SpanLeftOut{{rep["start_s"].toDouble(), rep["end_s"].toDouble()}, true});
    for (std::size_t i = 0; i < edits.size(); ++i) {
        const auto [kind, payload] = writeEdit(edits[i]);
        if (auto done =
                write(db, "INSERT INTO edits VALUES (?, ?, ?, ?)",
                      {id, static_cast<qlonglong>(i), QString::fromStdString(kind), QString::fromStdString(payload)});
            !done)
            return done;
    }
    const QString view = result["view"]["kind"].toString();
    if (auto done = convertReps(db, id, reps, false, view); !done) return done;
    return convertReps(db, id, result["second"]["reps"].toArray(), true, view);
}

}  // namespace

Result<void> convertToSchema4(QSqlDatabase db) {
    QSqlQuery q(db);
    if (!q.exec("SELECT s.*, r.model, r.reps, r.headline, r.json, r.poses, r.outlines, r.reading_notes, k.stature_cm "
                "FROM sets s JOIN results r ON r.set_id = s.id JOIN sessions e ON e.id = s.session_id "
                "JOIN clients k ON k.id = e.client_id ORDER BY s.id"))
        return failed(q);
    while (q.next())
        if (auto done = convertSet(db, q); !done) return done;
    return {};
}

}  // namespace zevo::store
