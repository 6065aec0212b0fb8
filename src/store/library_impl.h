#pragma once

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

// The inside of Library, shared by its two source files; not for use outside them.

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QHash>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QThread>
#include <QUuid>
#include <QVariant>
#include <functional>
#include <map>

#include "core/serial/camera_hold_json.h"
#include "core/serial/edit_json.h"
#include "core/serial/seen_from_json.h"
#include "store/blocks.h"
#include "store/library.h"
#include "store/schema.h"
#include "store/transaction.h"

namespace zevo::store {

inline constexpr const char* kReadOnly =
    "This library is open for reading only: another Zevo has it, or its folder cannot be written to.";
inline constexpr const char* kNotRead = "The library could not be read.";

/// As an id stands in a column.
template <typename Of>
QVariant key(const Id<Of>& id) {
    return id.bytes();
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
inline constexpr const char* kNoSuchSet = "This set is not in the library any more.";
inline constexpr const char* kNoSuchClient = "This client is not in the library any more.";

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
    void removeCopies() const {
        for (const QString& copy : copiesBeforeMigration(databaseFile())) QFile::remove(copy);
    }

    /// Deletes, and with it the clip entries that no set needs any more; files made of them are retired. Nothing of it
    /// is left in copies of the library from before a migration, nor in the write-ahead log.
    Result<void> deleteThen(const std::function<Result<void>()>& remove) {
        auto done = transaction([&]() -> Result<void> {
            if (auto r = remove(); !r) return r;
            const QString unused = "(SELECT sha256 FROM clips WHERE id NOT IN (SELECT clip_id FROM observations))";
            if (auto r = change("UPDATE files SET state = 'retired' WHERE kind <> 'export' AND sha256 IN " + unused);
                !r)
                return r;
            return change("DELETE FROM clips WHERE id NOT IN (SELECT clip_id FROM observations)");
        });
        if (!done) return done;
        removeCopies();
        return emptyLog();
    }

    Result<void> emptyLog() const {
        QSqlQuery q(db);
        constexpr int kTries = 50, kBetweenMs = 100;
        for (int i = 0; i < kTries; ++i) {
            if (q.exec("PRAGMA wal_checkpoint(TRUNCATE)") && q.next() && q.value(0).toInt() == 0) return {};
            q.finish();
            QThread::msleep(kBetweenMs);
        }
        return Error{"It is deleted, and traces of it stay in the library's log until Zevo is started again.",
                     "checkpoint: " + q.lastError().text().toStdString()};
    }

    /// The entry of a clip by its content, made if there is none. Where a recording lies is the shelf's to know: a copy
    /// of it that was opened elsewhere does not move it.
    Result<QByteArray> clipEntry(const Clip& clip, const ClipFacts& f) const {
        if (auto r = change(
                "INSERT INTO clips (id, sha256, path, bytes, frames, duration_s, width, height, rotation_deg, "
                "filmed) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET path = CASE WHEN "
                "clips.filmed THEN clips.path ELSE excluded.path END",
                {key(ClipId::fresh()), clip.sha256, clip.path, clip.bytes, qlonglong(f.frames), f.durationS, f.width,
                 f.height, f.rotationDeg, clip.filmed});
            !r)
            return r.error();
        // What Zevo made of it is needed from now on.
        if (clip.filmed && QFileInfo(clip.path).dir() == QDir(QDir(folder).filePath("recordings")))
            if (auto r = change("INSERT INTO files (path, kind, state, sha256, since) VALUES (?, 'recording', 'kept', "
                                "?, ?) ON CONFLICT (path) DO UPDATE SET state = 'kept', sha256 = excluded.sha256, plan "
                                "= ''",
                                {onShelf(clip.path), clip.sha256, now()});
                !r)
                return r.error();
        if (auto r = change("UPDATE files SET state = 'kept' WHERE sha256 = ? AND kind <> 'export'", {clip.sha256}); !r)
            return r.error();
        auto found = read("SELECT id FROM clips WHERE sha256 = ?", {clip.sha256});
        if (!found) return found.error();
        found->next();
        return found->value(0).toByteArray();
    }

    /// Files in the library's folder stand in the record by their way from there, so that the folder can be moved.
    QString onShelf(const QString& path) const {
        const QDir home(folder);
        const QString inside = home.relativeFilePath(path);
        return inside.startsWith("..") || QDir::isAbsolutePath(inside) ? path : inside;
    }
    QString fromShelf(const QString& path) const { return QDir(folder).filePath(path); }

    Result<QByteArray> session(ClientId client, const QDate& heldOn) const {
        const QString day = heldOn.toString(Qt::ISODate);
        if (auto r = change("INSERT INTO sessions (id, client_id, held_on) VALUES (?, ?, ?) ON CONFLICT (client_id, "
                            "held_on) DO NOTHING",
                            {key(SessionId::fresh()), key(client), day});
            !r)
            return r.error();
        auto found = read("SELECT id FROM sessions WHERE client_id = ? AND held_on = ?", {key(client), day});
        if (!found) return found.error();
        if (!found->next()) return Error{kNoSuchClient, client.key()};
        return found->value(0).toByteArray();
    }

    Result<void> writeObservation(SetId set, int position, const Seen& seen) const {
        auto clip = clipEntry(seen.clip, seen.observation->clip);
        if (!clip) return clip.error();
        const Observation& o = *seen.observation;
        return change(
            "INSERT INTO observations (id, set_id, position, clip_id, engine, model, network, poses, outlines, "
            "notices, opinions, contours, camera_hold) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            {key(seen.id.isNull() ? ObservationId::fresh() : seen.id), key(set), position, *clip, o.engine,
             text(o.model), text(o.network), packed(writePoses(o.poses)), packed(writeOutlines(o.outlines)),
             text(writeNotices(o.notices)),
             o.secondEstimates.empty() ? QByteArray("") : packed(writeSecondEstimates(o.secondEstimates)),
             o.contours.empty() ? QByteArray("") : packed(writeOutlines(o.contours)), text(writeHold(o.clip.hold))});
    }

    /// Adds entries behind those that are there.
    Result<void> writeEntries(SetId set, const EditEntries& entries) const {
        auto last = read("SELECT coalesce(max(position), -1) FROM edits WHERE set_id = ?", {key(set)});
        if (!last) return last.error();
        last->next();
        int position = last->value(0).toInt();
        for (const EditEntry& e : entries) {
            QString kind = "take_back", payload = "{}";
            if (e.edit) {
                const auto [name, what] = writeEdit(*e.edit);
                kind = text(name);
                auto apart = seriesApart(set, kind, text(what));
                if (!apart) return apart.error();
                payload = *apart;
            }
            if (auto r = change(
                    "INSERT INTO edits (id, set_id, position, author, made_at, kind, payload, takes_back) "
                    "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                    {key(e.id), key(set), ++position, notNull(e.author), e.madeAt.toUTC().toString(Qt::ISODateWithMs),
                     kind, payload, e.isTakingBack() ? key(e.takesBack) : QVariant()});
                !r)
                return r;
        }
        return {};
    }

    /// What was followed through a clip is long, and follows from the clip and what was clicked: it is kept once, under
    /// the sum of what it was made from, and the edit names that.
    Result<QString> seriesApart(SetId set, const QString& kind, const QString& payload) const {
        if (kind != "mark") return payload;
        QJsonObject what = QJsonDocument::fromJson(payload.toUtf8()).object();
        const QJsonValue path = what.take("path");
        if (!path.isObject()) return payload;
        const QByteArray made = QJsonDocument(path.toObject()).toJson(QJsonDocument::Compact);
        QCryptographicHash sum(QCryptographicHash::Sha256);
        sum.addData(set.bytes());
        sum.addData(QJsonDocument(what).toJson(QJsonDocument::Compact));
        sum.addData(made);
        const QByteArray id = sum.result();
        if (auto r =
                change("INSERT INTO series (id, set_id, kind, data) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING",
                       {id, key(set), kind, qCompress(made)});
            !r)
            return r.error();
        what["series"] = QString::fromLatin1(id.toHex());
        return QString::fromUtf8(QJsonDocument(what).toJson(QJsonDocument::Compact));
    }
    /// An edit's payload with its series in place again; without it where it is lost: what was clicked stays.
    QString withSeries(const QString& payload, const QHash<QByteArray, QByteArray>& series) const {
        QJsonObject what = QJsonDocument::fromJson(payload.toUtf8()).object();
        const QByteArray id = QByteArray::fromHex(what.take("series").toString().toLatin1());
        if (id.isEmpty()) return payload;
        const auto found = series.find(id);
        if (found != series.end()) what["path"] = QJsonDocument::fromJson(qUncompress(*found)).object();
        return QString::fromUtf8(QJsonDocument(what).toJson(QJsonDocument::Compact));
    }

    /// Entries of sets, in their order. `which`: what stands behind FROM edits d; it has to name the sets.
    Result<std::map<SetId, EditEntries>> readEntries(const QString& which, const QVariantList& values,
                                                     bool withPaths) const {
        QHash<QByteArray, QByteArray> series;
        if (withPaths) {
            auto rows =
                read("SELECT r.id, r.data FROM series r WHERE r.set_id IN (SELECT d.set_id FROM edits d " + which + ")",
                     values);
            if (!rows) return rows.error();
            while (rows->next()) series.insert(rows->value(0).toByteArray(), rows->value(1).toByteArray());
        }
        auto rows = read("SELECT d.set_id, d.id, d.author, d.made_at, d.kind, d.payload, d.takes_back FROM edits d " +
                             which + " ORDER BY d.set_id, d.position",
                         values);
        if (!rows) return rows.error();
        std::map<SetId, EditEntries> out;
        while (rows->next()) {
            EditEntry e{EntryId::fromBytes(rows->value(1).toByteArray()), rows->value(2).toString(),
                        QDateTime::fromString(rows->value(3).toString(), Qt::ISODateWithMs)};
            if (!rows->value(6).isNull()) {
                e.takesBack = EntryId::fromBytes(rows->value(6).toByteArray());
            } else {
                const QString kind = rows->value(4).toString();
                const QString payload = rows->value(5).toString();
                auto edit = readEdit(kind.toStdString(),
                                     (kind == "mark" ? withSeries(payload, series) : payload).toStdString());
                if (edit) e.edit = std::move(*edit);  // else it stays, unread
            }
            out[SetId::fromBytes(rows->value(0).toByteArray())].push_back(std::move(e));
        }
        return out;
    }

    /// What was seen of a set. Error: the first view is damaged.
    Result<void> readSeen(StoredSet& set) const;

    // What a set comes to (library_outcomes.cpp).
    Result<void> writeReps(SetId set, const std::vector<MeasuredRep>& reps, bool second, int engine) const;
    Result<void> writeOutcome(SetId set, const Outcome& o) const;
    /// Repetitions with their values, by their set. Values belong to a repetition by its number: two may share a
    /// turning point.
    Result<std::map<SetId, std::vector<MeasuredRep>>> readReps(const std::vector<SetId>& sets, bool second) const;
    Result<void> readSomeReps(const std::vector<SetId>& sets, bool second,
                              std::map<SetId, std::vector<MeasuredRep>>& out) const;

    /// Columns of a client, as clientFrom() reads them; flags are read apart.
    static constexpr const char* kClientColumns =
        "k.id, k.name, k.stature_cm, k.note, k.consent_on, k.pain_score, k.pain_place, k.pain_sharp, k.pain_on, "
        "k.choices, k.consent_for, k.mass_kg, k.goals, k.emphasis, k.equipment, k.build, k.targets, k.archived";
    static constexpr int kClientColumnCount = 18;
    static std::optional<QDate> dayAt(const QSqlQuery& q, int column) {
        const QVariant value = q.value(column);
        return value.isNull() ? std::nullopt : std::optional(QDate::fromString(value.toString(), Qt::ISODate));
    }
    static Client clientFrom(const QSqlQuery& q) {
        Client c{ClientId::fromBytes(q.value(0).toByteArray()), q.value(1).toString(), q.value(2).toDouble(),
                 q.value(3).toString(), dayAt(q, 4)};
        if (!q.value(5).isNull()) c.complaint.score = q.value(5).toInt();
        c.complaint.spots = painSpotsFrom(q.value(6).toString().toStdString());
        c.complaint.sharp = q.value(7).toBool();
        c.complaint.askedOn = dayAt(q, 8);
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
    // What a client's flags are (library_clients.cpp).
    Result<void> readFlags(Client& c) const;
    Result<void> writeFlags(const Client& c) const;
    static QVariant dayValue(const std::optional<QDate>& day) {
        return day ? QVariant(day->toString(Qt::ISODate)) : QVariant();
    }
    /// All that is kept of a client beside their id.
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
                                compact(targets), c.archived, key(c.id)});
            !done)
            return done;
        const QString spotsText = notNull(QString::fromStdString(painSpotsText(c.complaint.spots)));
        if (c.complaint.askedOn && c.complaint.score)
            if (auto done = change("INSERT INTO complaints VALUES (?, ?, ?, ?, ?) ON CONFLICT (client_id, asked_on) DO "
                                   "UPDATE SET score = excluded.score, place = excluded.place, sharp = excluded.sharp",
                                   {key(c.id), c.complaint.askedOn->toString(Qt::ISODate), *c.complaint.score,
                                    spotsText, c.complaint.sharp});
                !done)
                return done;
        if (auto done =
                change("UPDATE clients SET name = ?, stature_cm = ?, note = ?, consent_on = ?, pain_score = ?, "
                       "pain_place = ?, pain_sharp = ?, pain_on = ?, choices = ?, consent_for = ? WHERE id = ?",
                       {c.name, c.statureCm, notNull(c.note), dayValue(c.consent),
                        c.complaint.score ? QVariant(*c.complaint.score) : QVariant(), spotsText, c.complaint.sharp,
                        dayValue(c.complaint.askedOn), compact(choices), notNull(c.consentFor), key(c.id)});
            !done)
            return done;
        return writeFlags(c);
    }
};

}  // namespace zevo::store
