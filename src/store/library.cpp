#include "store/library.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>

#include "store/packing.h"
#include "store/schema.h"

namespace zevo::store {
namespace {

constexpr const char* kNotWritten = "This could not be saved. Is the disk full or the library folder read-only?";
constexpr const char* kNotRead = "The library could not be read.";

template <typename Id>
qint64 number(Id id) {
    return static_cast<qint64>(id);
}

QString now() {
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs);
}

}  // namespace

struct Library::Impl {
    QString folder, connection;
    QSqlDatabase db;

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
    Result<QSqlQuery> write(const QString& sql, const QVariantList& values = {}) const {
        return run(sql, values, kNotWritten);
    }

    /// Runs `work` (returning a Result) as one transaction.
    template <typename Work>
    auto transaction(Work work) -> decltype(work()) {
        if (!db.transaction()) return Error{kNotWritten, db.lastError().text().toStdString()};
        auto result = work();
        if (!result)
            db.rollback();
        else if (!db.commit())
            return Error{kNotWritten, db.lastError().text().toStdString()};
        return result;
    }

    Result<void> change(const QString& sql, const QVariantList& values) {
        if (auto q = write(sql, values); !q) return q.error();
        return {};
    }

    QString viewingCopy(const QByteArray& sha256) const {
        return QDir(folder).filePath("viewing/" + QString::fromLatin1(sha256.toHex().left(24)) + ".mp4");
    }

    /// Also takes along the clip entries that no set needs any more, their viewing copies, and what the log file
    /// still holds of deleted rows.
    Result<void> deleteThen(const QString& sql, qint64 id) {
        QStringList copies;
        auto done = transaction([&]() -> Result<void> {
            if (auto r = change(sql, {id}); !r) return r;
            const QString unused =
                " FROM clips WHERE id NOT IN (SELECT clip_id FROM sets UNION SELECT clip_id FROM second_views)";
            auto orphans = read("SELECT sha256" + unused);
            if (!orphans) return orphans.error();
            while (orphans->next()) copies.append(viewingCopy(orphans->value(0).toByteArray()));
            return change("DELETE" + unused, {});
        });
        if (!done) return done;
        for (const QString& copy : copies) QFile::remove(copy);
        QSqlQuery(db).exec("PRAGMA wal_checkpoint(TRUNCATE)");
        return done;
    }

    /// The entry of a clip by its content, made if there is none.
    Result<qint64> clipEntry(const Clip& clip) {
        const ClipFacts& f = clip.facts;
        auto row = write(
            "INSERT INTO clips (sha256, path, bytes, frames, duration_s, width, height, rotation_deg) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET path = excluded.path",
            {clip.sha256, clip.path, clip.bytes, qlonglong(f.frames), f.durationS, f.width, f.height, f.rotationDeg});
        if (!row) return row.error();
        auto found = read("SELECT id FROM clips WHERE sha256 = ?", {clip.sha256});
        if (!found) return found.error();
        found->next();
        return found->value(0).toLongLong();
    }

    /// Columns of clips as clipFrom() wants them.
    static constexpr const char* kClipColumns =
        "c.id, c.sha256, c.path, c.bytes, c.frames, c.duration_s, c.width, c.height, c.rotation_deg";
    static Clip clipFrom(const QSqlQuery& q, int at) {
        return {ClipId(q.value(at).toLongLong()),
                q.value(at + 1).toByteArray(),
                q.value(at + 2).toString(),
                q.value(at + 3).toLongLong(),
                {q.value(at + 4).toLongLong(), q.value(at + 5).toDouble(), q.value(at + 6).toInt(),
                 q.value(at + 7).toInt(), q.value(at + 8).toInt()}};
    }

    Result<void> writeContext(qint64 id, const SetContext& c) {
        auto optional = [](const auto& v) { return v ? QVariant(*v) : QVariant(); };
        QStringList flags;
        for (const auto& f : c.pain.redFlags) flags.append(QString::fromStdString(f));
        return change(
            "UPDATE sets SET movement = ?, variation = ?, view = ?, load_share = ?, wedge_deg = ?, "
            "ankle_limit_deg = ?, pain_before = ?, pain_after = ?, pain_sharp = ?, red_flags = ?, tempo = ? WHERE id = "
            "?",
            {QString::fromStdString(c.movement.id), QString::fromStdString(c.variation),
             QString::fromStdString(c.context.view), c.loadShare, c.wedgeDeg, optional(c.ankleLimitDeg),
             optional(c.pain.before), optional(c.pain.after), c.pain.sharp,
             flags.isEmpty() ? QString("") : flags.join(' '),
             c.tempo ? QString::fromStdString(tempoText(*c.tempo)) : QString(""), id});
    }

    static QString joined(const std::vector<std::string>& notes) {
        QStringList out;
        for (const auto& n : notes) out.append(QString::fromStdString(n));
        return out.isEmpty() ? QString("") : out.join('\n');
    }
    static std::vector<std::string> split(const QString& notes) {
        std::vector<std::string> out;
        for (const QString& n : notes.split('\n', Qt::SkipEmptyParts)) out.push_back(n.toStdString());
        return out;
    }

    static Client clientFrom(const QSqlQuery& q, int at = 0) {
        Client c{ClientId(q.value(at).toLongLong()),
                 q.value(at + 1).toString(),
                 q.value(at + 2).toDouble(),
                 q.value(at + 3).toString(),
                 {}};
        if (!q.value(at + 4).isNull()) c.consent = QDate::fromString(q.value(at + 4).toString(), Qt::ISODate);
        return c;
    }
    static QVariant consentValue(const Client& c) {
        return c.consent ? QVariant(c.consent->toString(Qt::ISODate)) : QVariant();
    }
};

Library::Library(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
Library::Library(Library&&) noexcept = default;
Library& Library::operator=(Library&&) noexcept = default;
Library::~Library() = default;

QString Library::folder() const {
    return m_impl->folder;
}
QString Library::viewingCopy(const QByteArray& sha256) const {
    return m_impl->viewingCopy(sha256);
}
int Library::newestSchema() {
    return newestSchemaVersion();
}

Result<Library> Library::open(const QString& folder) {
    if (!QDir().mkpath(folder))
        return Error{"The library folder cannot be made there. Choose another place.", folder.toStdString()};
    auto impl = std::make_unique<Impl>();
    impl->folder = folder;
    impl->connection = QUuid::createUuid().toString();
    impl->db = QSqlDatabase::addDatabase("QSQLITE", impl->connection);
    impl->db.setDatabaseName(QDir(folder).filePath("library.sqlite"));
    impl->db.setConnectOptions("QSQLITE_BUSY_TIMEOUT=5000");
    if (!impl->db.open())
        return Error{"The library in this folder cannot be opened. Is the folder writable?",
                     impl->db.lastError().text().toStdString()};
    for (const char* pragma : {"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL", "PRAGMA foreign_keys = ON",
                               "PRAGMA secure_delete = ON"}) {
        QSqlQuery q(impl->db);
        if (!q.exec(pragma))
            return Error{"The library file is damaged or not a Zevo library.", q.lastError().text().toStdString()};
    }
    if (auto done = migrate(impl->db); !done) return done.error();
    return Library(std::move(impl));
}

Result<std::vector<Client>> Library::clients() const {
    auto q =
        m_impl->read("SELECT id, name, stature_cm, note, consent_on FROM clients ORDER BY name COLLATE NOCASE, id");
    if (!q) return q.error();
    std::vector<Client> out;
    while (q->next()) out.push_back(Impl::clientFrom(*q));
    return out;
}

Result<Client> Library::client(ClientId id) const {
    auto q = m_impl->read("SELECT id, name, stature_cm, note, consent_on FROM clients WHERE id = ?", {number(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{"This client is not in the library any more.", std::to_string(number(id))};
    return Impl::clientFrom(*q);
}

Result<ClientId> Library::addClient(const Client& c) {
    auto q = m_impl->write("INSERT INTO clients (name, stature_cm, note, consent_on, made_at) VALUES (?, ?, ?, ?, ?)",
                           {c.name, c.statureCm, c.note.isNull() ? QString("") : c.note, Impl::consentValue(c), now()});
    if (!q) return q.error();
    return ClientId(q->lastInsertId().toLongLong());
}

Result<void> Library::updateClient(const Client& c) {
    return m_impl->change(
        "UPDATE clients SET name = ?, stature_cm = ?, note = ?, consent_on = ? WHERE id = ?",
        {c.name, c.statureCm, c.note.isNull() ? QString("") : c.note, Impl::consentValue(c), number(c.id)});
}

Result<void> Library::deleteClient(ClientId id) {
    return m_impl->deleteThen("DELETE FROM clients WHERE id = ?", number(id));
}
Result<void> Library::deleteSet(SetId id) {
    return m_impl->deleteThen("DELETE FROM sets WHERE id = ?", number(id));
}

Result<SetId> Library::addSet(const NewSet& set) {
    return m_impl->transaction([&]() -> Result<SetId> {
        const QString day = set.heldOn.toString(Qt::ISODate);
        if (auto r = m_impl->write("INSERT OR IGNORE INTO sessions (client_id, held_on) VALUES (?, ?)",
                                   {number(set.client), day});
            !r)
            return r.error();
        auto session =
            m_impl->read("SELECT id FROM sessions WHERE client_id = ? AND held_on = ?", {number(set.client), day});
        if (!session) return session.error();
        if (!session->next())
            return Error{"This client is not in the library any more.", std::to_string(number(set.client))};
        auto clip = m_impl->clipEntry(set.clip);
        if (!clip) return clip.error();
        auto row =
            m_impl->write("INSERT INTO sets (session_id, clip_id, movement, standard, made_at) VALUES (?, ?, '', ?, ?)",
                          {session->value(0), *clip, set.standard, now()});
        if (!row) return row.error();
        const qint64 id = row->lastInsertId().toLongLong();
        if (auto r = m_impl->writeContext(id, set.context); !r) return r.error();
        if (auto r = m_impl->write("INSERT INTO results (set_id, model, reps, headline, json, poses, outlines, "
                                   "reading_notes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                                   {id, QString::fromStdString(set.context.model), set.reps,
                                    set.headline.isNull() ? QString("") : set.headline, set.resultJson,
                                    packPoses(set.poses), packOutlines(set.outlines), Impl::joined(set.readingNotes)});
            !r)
            return r.error();
        return SetId(id);
    });
}

Result<std::vector<SetSummary>> Library::sets(ClientId client) const {
    auto q = m_impl->read(
        "SELECT s.id, e.held_on, s.made_at, s.movement, s.standard, r.headline, r.reps, r.outlines FROM sets s JOIN "
        "sessions e ON e.id = s.session_id"
        " JOIN results r ON r.set_id = s.id WHERE e.client_id = ? ORDER BY e.held_on DESC, s.id DESC",
        {number(client)});
    if (!q) return q.error();
    std::vector<SetSummary> out;
    while (q->next()) {
        // A damaged picture is no reason to hide the set.
        auto outlines = unpackOutlines(q->value(7).toByteArray());
        out.push_back({SetId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       QDateTime::fromString(q->value(2).toString(), Qt::ISODateWithMs), q->value(3).toString(),
                       q->value(4).toString(), q->value(5).toString(), q->value(6).toInt(),
                       outlines ? std::move(*outlines) : std::vector<Outline>()});
    }
    return out;
}

Result<StoredSet> Library::loadSet(SetId id) const {
    auto q = m_impl->read(
        QString("SELECT k.id, k.name, k.stature_cm, k.note, k.consent_on, e.held_on, %1, s.movement, s.variation, "
                "s.view, s.standard, r.model, r.poses, r.outlines, r.reading_notes, s.load_share, s.wedge_deg, "
                "s.ankle_limit_deg, s.pain_before, s.pain_after, s.pain_sharp, s.red_flags, s.tempo"
                " FROM sets s JOIN sessions e ON e.id = s.session_id JOIN clients k ON k.id = e.client_id"
                " JOIN clips c ON c.id = s.clip_id JOIN results r ON r.set_id = s.id WHERE s.id = ?")
            .arg(Impl::kClipColumns),
        {number(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{"This set is not in the library any more.", std::to_string(number(id))};
    StoredSet out;
    out.id = id;
    out.client = Impl::clientFrom(*q);
    out.heldOn = QDate::fromString(q->value(5).toString(), Qt::ISODate);
    out.clip = Impl::clipFrom(*q, 6);
    SetContext& context = out.context;
    context.movement.id = q->value(15).toString().toStdString();
    context.variation = q->value(16).toString().toStdString();
    context.context.statureCm = out.client.statureCm;
    context.context.view = q->value(17).toString().toStdString();
    out.standard = q->value(18).toString();
    context.model = q->value(19).toString().toStdString();
    auto poses = unpackPoses(q->value(20).toByteArray());
    if (!poses) return poses.error();
    out.poses = std::move(*poses);
    auto outlines = unpackOutlines(q->value(21).toByteArray());
    if (!outlines) return outlines.error();
    out.outlines = std::move(*outlines);
    out.readingNotes = Impl::split(q->value(22).toString());
    context.loadShare = q->value(23).toDouble();
    context.wedgeDeg = q->value(24).toDouble();
    if (!q->value(25).isNull()) context.ankleLimitDeg = q->value(25).toDouble();
    if (!q->value(26).isNull()) context.pain.before = q->value(26).toInt();
    if (!q->value(27).isNull()) context.pain.after = q->value(27).toInt();
    context.pain.sharp = q->value(28).toBool();
    for (const QString& f : q->value(29).toString().split(' ', Qt::SkipEmptyParts))
        context.pain.redFlags.push_back(f.toStdString());
    if (const auto tempo = parseTempo(q->value(30).toString().toStdString()); tempo) context.tempo = *tempo;
    auto second = m_impl->read(QString("SELECT %1, v.together, v.nudge_s, v.poses, v.reading_notes FROM second_views v "
                                       "JOIN clips c ON c.id = v.clip_id WHERE v.set_id = ?")
                                   .arg(Impl::kClipColumns),
                               {number(id)});
    if (!second) return second.error();
    if (second->next()) {
        auto theirs = unpackPoses(second->value(11).toByteArray());
        if (!theirs) return theirs.error();
        out.second = SecondClip{Impl::clipFrom(*second, 0), std::move(*theirs), second->value(9).toBool(),
                                second->value(10).toDouble(), Impl::split(second->value(12).toString())};
    }
    auto c = m_impl->read("SELECT id, kind, rep FROM corrections WHERE set_id = ? ORDER BY id", {number(id)});
    if (!c) return c.error();
    while (c->next())
        out.corrections.push_back(
            {CorrectionId(c->value(0).toLongLong()), c->value(1).toString(), c->value(2).toInt()});
    return out;
}

Result<void> Library::updateJudgement(SetId id, const QString& standard, int reps, const QString& headline,
                                      const QByteArray& resultJson) {
    return m_impl->transaction([&]() -> Result<void> {
        if (auto r = m_impl->change("UPDATE sets SET standard = ? WHERE id = ?", {standard, number(id)}); !r) return r;
        return m_impl->change("UPDATE results SET reps = ?, headline = ?, json = ? WHERE set_id = ?",
                              {reps, headline.isNull() ? QString("") : headline, resultJson, number(id)});
    });
}

Result<void> Library::updateContext(SetId id, const SetContext& context) {
    return m_impl->writeContext(number(id), context);
}

Result<void> Library::setSecondClip(SetId id, const std::optional<SecondClip>& second) {
    if (!second) return m_impl->deleteThen("DELETE FROM second_views WHERE set_id = ?", number(id));
    return m_impl->transaction([&]() -> Result<void> {
        auto clip = m_impl->clipEntry(second->clip);
        if (!clip) return clip.error();
        return m_impl->change(
            "INSERT OR REPLACE INTO second_views (set_id, clip_id, together, nudge_s, poses, reading_notes) VALUES (?, "
            "?, ?, ?, ?, ?)",
            {number(id), *clip, second->together, second->nudgeS, packPoses(second->poses),
             Impl::joined(second->readingNotes)});
    });
}

Result<void> Library::moveClip(ClipId id, const QString& path) {
    return m_impl->change("UPDATE clips SET path = ? WHERE id = ?", {path, number(id)});
}

Result<CorrectionId> Library::addCorrection(SetId set, const Correction& c) {
    auto q = m_impl->write("INSERT INTO corrections (set_id, kind, rep, made_at) VALUES (?, ?, ?, ?)",
                           {number(set), c.kind, c.rep, now()});
    if (!q) return q.error();
    return CorrectionId(q->lastInsertId().toLongLong());
}

Result<void> Library::removeCorrection(CorrectionId id) {
    return m_impl->change("DELETE FROM corrections WHERE id = ?", {number(id)});
}

Result<QByteArray> hashFile(const QString& path) {
    QFile file(path);
    QCryptographicHash hash(QCryptographicHash::Sha256);
    if (!file.open(QIODevice::ReadOnly) || !hash.addData(&file))
        return Error{"The file “" + path.section('/', -1).toStdString() + "” cannot be read.",
                     file.errorString().toStdString()};
    return hash.result();
}

}  // namespace zevo::store
