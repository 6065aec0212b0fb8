#pragma once

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

// The inside of Library, shared by its two source files; not for use outside them.

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QHash>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>
#include <functional>
#include <map>

#include "core/record/edit_json.h"
#include "store/blocks.h"
#include "store/library.h"
#include "store/schema.h"
#include "store/transaction.h"

namespace zevo::store {

inline constexpr const char* kReadOnly =
    "This library is open for reading only: another Zevo has it, or its folder cannot be written to.";
inline constexpr const char* kNotRead = "The library could not be read.";

template <typename Id>
qint64 number(Id id) {
    return static_cast<qint64>(id);
}
inline QString text(const std::string& s) {
    return s.empty() ? QString("") : QString::fromStdString(s);
}
inline QString notNull(const QString& s) {
    return s.isNull() ? QString("") : s;
}
inline QString now() {
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs);
}

inline constexpr const char* kInsertMeasurement = "INSERT INTO measurements VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)";

struct Library::Impl {
    QString folder, connection;
    QSqlDatabase db;
    bool readOnly = false;

    ~Impl() {
        db.close();
        db = {};
        if (!connection.isEmpty()) QSqlDatabase::removeDatabase(connection);
    }

    Result<QSqlQuery> run(const QString& sql, const QVariantList& values, const char* message) const {
        QSqlQuery q(db);
        bool good = q.prepare(sql);
        for (const auto& v : values) q.addBindValue(v);
        good = good && q.exec();
        if (!good) return Error{message, (sql + ": " + q.lastError().text()).toStdString()};
        return q;
    }
    Result<QSqlQuery> read(const QString& sql, const QVariantList& values = {}) const {
        return run(sql, values, kNotRead);
    }
    Result<void> change(const QString& sql, const QVariantList& values = {}) const {
        if (readOnly) return Error{kReadOnly, "read only"};
        if (auto q = run(sql, values, kNotWritten); !q) return q.error();
        return {};
    }
    /// Row number of what an INSERT made.
    Result<qint64> insert(const QString& sql, const QVariantList& values) const {
        auto q = run(sql, values, kNotWritten);
        if (!q) return q.error();
        return q->lastInsertId().toLongLong();
    }

    /// Runs `work` (returning a Result) as one transaction.
    template <typename Work>
    auto transaction(Work work) -> decltype(work()) {
        if (readOnly) return Error{kReadOnly, "read only"};
        Transaction t(db);
        if (auto begun = t.begun(); !begun) return begun.error();
        auto result = work();
        if (!result) return result;
        if (auto committed = t.commit(); !committed) return committed.error();
        return result;
    }

    QString databaseFile() const { return QDir(folder).filePath("library.sqlite"); }
    QString viewingCopy(const QByteArray& sha256) const {
        return QDir(folder).filePath("viewing/" + QString::fromLatin1(sha256.toHex().left(24)) + ".mp4");
    }
    QDir recordingsFolder() const { return QDir(QDir(folder).filePath("recordings")); }
    void removeCopies() const {
        for (const QString& copy : copiesBeforeMigration(databaseFile())) QFile::remove(copy);
    }

    /// Deletes, and with it the clip entries that no set needs any more, their viewing copies, the copies of the
    /// library from before a migration, and what the write-ahead log still holds of deleted rows.
    Result<void> deleteThen(const std::function<Result<void>()>& remove) {
        QStringList copies;
        auto done = transaction([&]() -> Result<void> {
            if (auto r = remove(); !r) return r;
            const QString unused = " FROM clips WHERE id NOT IN (SELECT clip_id FROM observations)";
            auto orphans = read("SELECT sha256, path, filmed" + unused);
            if (!orphans) return orphans.error();
            while (orphans->next()) {
                copies.append(viewingCopy(orphans->value(0).toByteArray()));
                // What Zevo filmed is its own to delete, where it put it.
                if (orphans->value(2).toBool() && QFileInfo(orphans->value(1).toString()).dir() == recordingsFolder())
                    copies.append(orphans->value(1).toString());
            }
            return change("DELETE" + unused);
        });
        if (!done) return done;
        for (const QString& copy : copies) QFile::remove(copy);
        removeCopies();
        QSqlQuery(db).exec("PRAGMA wal_checkpoint(TRUNCATE)");
        return done;
    }

    /// The entry of a clip by its content, made if there is none.
    Result<qint64> clipEntry(const Clip& clip, const ClipFacts& f) const {
        if (auto r = change(
                "INSERT INTO clips (sha256, path, bytes, frames, duration_s, width, height, rotation_deg, "
                "filmed) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET path = excluded.path",
                {clip.sha256, clip.path, clip.bytes, qlonglong(f.frames), f.durationS, f.width, f.height, f.rotationDeg,
                 clip.filmed});
            !r)
            return r.error();
        auto found = read("SELECT id FROM clips WHERE sha256 = ?", {clip.sha256});
        if (!found) return found.error();
        found->next();
        return found->value(0).toLongLong();
    }

    Result<qint64> session(ClientId client, const QDate& heldOn) const {
        const QString day = heldOn.toString(Qt::ISODate);
        if (auto r = change("INSERT OR IGNORE INTO sessions (client_id, held_on) VALUES (?, ?)", {number(client), day});
            !r)
            return r.error();
        auto found = read("SELECT id FROM sessions WHERE client_id = ? AND held_on = ?", {number(client), day});
        if (!found) return found.error();
        if (!found->next()) return Error{"This client is not in the library any more.", std::to_string(number(client))};
        return found->value(0).toLongLong();
    }

    Result<void> writeObservation(qint64 set, int position, const Seen& seen) const {
        auto clip = clipEntry(seen.clip, seen.observation->clip);
        if (!clip) return clip.error();
        const Observation& o = *seen.observation;
        return change(
            "INSERT INTO observations (set_id, position, clip_id, engine, model, network, poses, outlines, notices, "
            "opinions, contours) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            {set, position, *clip, o.engine, text(o.model), text(o.network), packed(writePoses(o.poses)),
             packed(writeOutlines(o.outlines)), text(writeNotices(o.notices)),
             o.opinions.empty() ? QByteArray("") : packed(writeOpinions(o.opinions)),
             o.contours.empty() ? QByteArray("") : packed(writeOutlines(o.contours))});
    }

    Result<void> writeEdits(qint64 set, const Edits& edits) const {
        if (auto r = change("DELETE FROM edits WHERE set_id = ?", {set}); !r) return r;
        for (std::size_t i = 0; i < edits.size(); ++i) {
            const auto [kind, payload] = writeEdit(edits[i]);
            if (auto r = change("INSERT INTO edits VALUES (?, ?, ?, ?)",
                                {set, static_cast<qlonglong>(i), text(kind), text(payload)});
                !r)
                return r;
        }
        return {};
    }

    Result<void> writeReps(qint64 set, const std::vector<MeasuredRep>& reps, bool second, int engine) const {
        QSqlQuery values(db);
        values.prepare(kInsertMeasurement);
        for (const auto& r : reps) {
            if (auto done = change("INSERT INTO repetitions VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                                   {set, second, r.index, text(repKindName(r.kind)), r.startS, r.arriveS, r.bottomS,
                                    r.leaveS, r.endS, r.leg ? QVariant(text(sideName(*r.leg))) : QVariant()});
                !done)
                return done;
            for (const auto& m : r.measures) {
                for (const QVariant& v :
                     QVariantList{set, second, r.bottomS, text(m.measure.name()), m.value, m.pm90, m.confidence, m.atS,
                                  m.second, engine, m.asSeen ? QVariant(*m.asSeen) : QVariant()})
                    values.addBindValue(v);
                if (!values.exec()) return Error{kNotWritten, values.lastError().text().toStdString()};
            }
        }
        return {};
    }

    Result<void> writeOutcome(qint64 set, const Outcome& o) const {
        if (auto r =
                change("UPDATE sets SET movement = ?, variation = ?, standard = ?, reps = ?, headline = ?, engine = "
                       "? WHERE id = ?",
                       {notNull(o.movement), notNull(o.variation), notNull(o.standard), o.reps, notNull(o.headline),
                        o.engine, set});
            !r)
            return r;
        for (const char* table : {"repetitions", "measurements"})
            if (auto r = change(QString("DELETE FROM %1 WHERE set_id = ?").arg(table), {set}); !r) return r;
        if (auto r = writeReps(set, o.measured, false, o.engine); !r) return r;
        return writeReps(set, o.second, true, o.engine);
    }

    /// Repetitions with their values, by the number of their set.
    Result<std::map<qint64, std::vector<MeasuredRep>>> readReps(const std::vector<qint64>& sets, bool second) const {
        QStringList numbers;
        for (qint64 set : sets) numbers.append(QString::number(set));
        const QString among = " IN (" + numbers.join(',') + ")";
        auto q = read(
            "SELECT set_id, number, kind, start_s, arrive_s, bottom_s, leave_s, end_s, leg FROM repetitions "
            "WHERE set_id" +
                among + " AND second = ? ORDER BY set_id, number",
            {second});
        if (!q) return q.error();
        std::map<qint64, std::vector<MeasuredRep>> out;
        while (q->next()) {
            MeasuredRep r;
            r.index = q->value(1).toInt();
            const QString kind = q->value(2).toString();
            r.kind = kind == "partial" ? RepKind::Partial : kind == "double" ? RepKind::Double : RepKind::Full;
            r.startS = q->value(3).toDouble(), r.arriveS = q->value(4).toDouble(), r.bottomS = q->value(5).toDouble();
            r.leaveS = q->value(6).toDouble(), r.endS = q->value(7).toDouble();
            if (!q->value(8).isNull()) r.leg = q->value(8).toString() == "left" ? Side::Left : Side::Right;
            out[q->value(0).toLongLong()].push_back(std::move(r));
        }
        auto values = read(
            "SELECT set_id, rep_s, measure, value, pm90, confidence, at_s, second, as_seen FROM "
            "measurements WHERE set_id" +
                among + " AND view = ?",
            {second});
        if (!values) return values.error();
        QHash<QString, MeasureId> known;
        while (values->next()) {
            // A measure that this Zevo does not know any more is not shown.
            const QString name = values->value(2).toString();
            auto id = known.find(name);
            if (id == known.end()) id = known.insert(name, MeasureId::named(name.toStdString()));
            if (!*id) continue;
            for (MeasuredRep& r : out[values->value(0).toLongLong()])
                if (r.bottomS == values->value(1).toDouble())
                    r.measures.push_back(
                        {*id, values->value(3).toDouble(), values->value(4).toDouble(), values->value(5).toDouble(),
                         values->value(6).toDouble(), values->value(7).toBool(),
                         values->value(8).isNull() ? std::nullopt : std::optional(values->value(8).toDouble())});
        }
        for (auto& [set, reps] : out)
            for (MeasuredRep& r : reps)
                std::sort(r.measures.begin(), r.measures.end(),
                          [](const Measurement& a, const Measurement& b) { return a.measure < b.measure; });
        return out;
    }

    /// Columns of a client, as clientFrom() reads them; flags are read apart.
    static constexpr const char* kClientColumns =
        "k.id, k.name, k.stature_cm, k.note, k.consent_on, k.pain_score, k.pain_place, k.pain_sharp, k.pain_on, "
        "k.choices, k.consent_for, k.mass_kg, k.goals, k.emphasis, k.equipment, k.build, k.targets, k.archived";
    static constexpr int kClientColumnCount = 18;
    static Client clientFrom(const QSqlQuery& q) {
        auto day = [&](int at) {
            return q.value(at).isNull() ? std::nullopt
                                        : std::optional(QDate::fromString(q.value(at).toString(), Qt::ISODate));
        };
        Client c{ClientId(q.value(0).toLongLong()), q.value(1).toString(), q.value(2).toDouble(), q.value(3).toString(),
                 day(4)};
        if (!q.value(5).isNull()) c.complaint.score = q.value(5).toInt();
        c.complaint.place = q.value(6).toString();
        c.complaint.sharp = q.value(7).toBool();
        c.complaint.askedOn = day(8);
        const QJsonObject choices = QJsonDocument::fromJson(q.value(9).toByteArray()).object();
        for (auto at = choices.begin(); at != choices.end(); ++at)
            c.choices[at.key().toStdString()] = at.value().toString().toStdString();
        c.consentFor = q.value(10).toString();
        c.massKg = q.value(11).toDouble();
        c.goals = q.value(12).toString(), c.emphasis = q.value(13).toString(), c.equipment = q.value(14).toString();
        const QJsonObject build = QJsonDocument::fromJson(q.value(15).toByteArray()).object();
        for (auto at = build.begin(); at != build.end(); ++at) c.build[at.key()] = at.value().toDouble();
        for (const auto& t : QJsonDocument::fromJson(q.value(16).toByteArray()).array()) {
            const QJsonObject o = t.toObject();
            c.targets.push_back({o["movement"].toString(), o["measure"].toString(), o["value"].toDouble(),
                                 QDate::fromString(o["on"].toString(), Qt::ISODate)});
        }
        c.archived = q.value(17).toBool();
        return c;
    }
    Result<void> readFlags(Client& c) const {
        auto q =
            read("SELECT flag, since, cleared_on, cleared_by FROM client_flags WHERE client_id = ? ORDER BY position",
                 {number(c.id)});
        if (!q) return q.error();
        while (q->next()) {
            ClientFlag f{q->value(0).toString(), QDate::fromString(q->value(1).toString(), Qt::ISODate)};
            if (!q->value(2).isNull()) f.clearedOn = QDate::fromString(q->value(2).toString(), Qt::ISODate);
            f.clearedBy = q->value(3).toString();
            c.flags.push_back(f);
        }
        return {};
    }
    static QVariant dayValue(const std::optional<QDate>& day) {
        return day ? QVariant(day->toString(Qt::ISODate)) : QVariant();
    }
    /// All that is kept of a client beside his number.
    Result<void> writeClient(const Client& c) {
        QJsonObject choices;
        for (const auto& [choice, option] : c.choices)
            choices[QString::fromStdString(choice)] = QString::fromStdString(option);
        QJsonObject build;
        for (const auto& [part, cm] : c.build) build[part] = cm;
        QJsonArray targets;
        for (const Target& t : c.targets)
            targets.append(QJsonObject{{"movement", t.movement},
                                       {"measure", t.measure},
                                       {"value", t.value},
                                       {"on", t.on.toString(Qt::ISODate)}});
        auto compact = [](const auto& json) {
            return QString::fromUtf8(QJsonDocument(json).toJson(QJsonDocument::Compact));
        };
        if (auto done = change("UPDATE clients SET mass_kg = ?, goals = ?, emphasis = ?, equipment = ?, build = ?, "
                               "targets = ?, archived = ? WHERE id = ?",
                               {c.massKg, notNull(c.goals), notNull(c.emphasis), notNull(c.equipment), compact(build),
                                compact(targets), c.archived, number(c.id)});
            !done)
            return done;
        if (c.complaint.askedOn && c.complaint.score)
            if (auto done = change("INSERT OR REPLACE INTO complaints VALUES (?, ?, ?, ?, ?)",
                                   {number(c.id), c.complaint.askedOn->toString(Qt::ISODate), *c.complaint.score,
                                    notNull(c.complaint.place), c.complaint.sharp});
                !done)
                return done;
        if (auto done = change("UPDATE clients SET name = ?, stature_cm = ?, note = ?, consent_on = ?, pain_score = ?, "
                               "pain_place = ?, pain_sharp = ?, pain_on = ?, choices = ?, consent_for = ? WHERE id = ?",
                               {c.name, c.statureCm, notNull(c.note), dayValue(c.consent),
                                c.complaint.score ? QVariant(*c.complaint.score) : QVariant(),
                                notNull(c.complaint.place), c.complaint.sharp, dayValue(c.complaint.askedOn),
                                compact(choices), notNull(c.consentFor), number(c.id)});
            !done)
            return done;
        if (auto done = change("DELETE FROM client_flags WHERE client_id = ?", {number(c.id)}); !done) return done;
        for (std::size_t i = 0; i < c.flags.size(); ++i)
            if (auto done =
                    change("INSERT INTO client_flags VALUES (?, ?, ?, ?, ?, ?)",
                           {number(c.id), static_cast<int>(i), c.flags[i].flag, c.flags[i].since.toString(Qt::ISODate),
                            dayValue(c.flags[i].clearedOn), notNull(c.flags[i].clearedBy)});
                !done)
                return done;
        return {};
    }
};

}  // namespace zevo::store
