#include "store/library.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>

#include "core/record/edit_json.h"
#include "store/blocks.h"
#include "store/schema.h"
#include "store/transaction.h"

namespace zevo::store {
namespace {

constexpr const char* kNotRead = "The library could not be read.";

template <typename Id>
qint64 number(Id id) {
    return static_cast<qint64>(id);
}
QString text(const std::string& s) {
    return s.empty() ? QString("") : QString::fromStdString(s);
}
QString notNull(const QString& s) {
    return s.isNull() ? QString("") : s;
}
QString now() {
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs);
}

constexpr const char* kMany = "INSERT INTO measurements VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)";

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
    Result<void> change(const QString& sql, const QVariantList& values = {}) const {
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

    /// Deletes, and with it the clip entries that no set needs any more, their viewing copies, the copies of the
    /// library from before a migration, and what the write-ahead log still holds of deleted rows.
    Result<void> deleteThen(const std::function<Result<void>()>& remove) {
        QStringList copies;
        auto done = transaction([&]() -> Result<void> {
            if (auto r = remove(); !r) return r;
            const QString unused = " FROM clips WHERE id NOT IN (SELECT clip_id FROM observations)";
            auto orphans = read("SELECT sha256" + unused);
            if (!orphans) return orphans.error();
            while (orphans->next()) copies.append(viewingCopy(orphans->value(0).toByteArray()));
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
        if (auto r = change("INSERT INTO clips (sha256, path, bytes, frames, duration_s, width, height, rotation_deg) "
                            "VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET path = excluded.path",
                            {clip.sha256, clip.path, clip.bytes, qlonglong(f.frames), f.durationS, f.width, f.height,
                             f.rotationDeg});
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
            "INSERT INTO observations (set_id, position, clip_id, engine, model, network, poses, outlines, notices) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            {set, position, *clip, o.engine, text(o.model), text(o.network), packed(writePoses(o.poses)),
             packed(writeOutlines(o.outlines)), text(writeNotices(o.notices))});
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
        values.prepare(kMany);
        for (const auto& r : reps) {
            if (auto done = change("INSERT INTO repetitions VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                                   {set, second, r.index, text(repKindName(r.kind)), r.startS, r.arriveS, r.bottomS,
                                    r.leaveS, r.endS, r.leg ? QVariant(text(sideName(*r.leg))) : QVariant()});
                !done)
                return done;
            for (const auto& m : r.measures) {
                for (const QVariant& v : QVariantList{set, second, r.bottomS, text(m.measure.name()), m.value, m.pm90,
                                                      m.confidence, m.atS, m.second, engine})
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

    Result<std::vector<MeasuredRep>> readReps(qint64 set, bool second) const {
        auto q = read(
            "SELECT number, kind, start_s, arrive_s, bottom_s, leave_s, end_s, leg FROM repetitions WHERE "
            "set_id = ? AND second = ? ORDER BY number",
            {set, second});
        if (!q) return q.error();
        std::vector<MeasuredRep> out;
        while (q->next()) {
            MeasuredRep r;
            r.index = q->value(0).toInt();
            const QString kind = q->value(1).toString();
            r.kind = kind == "partial" ? RepKind::Partial : kind == "double" ? RepKind::Double : RepKind::Full;
            r.startS = q->value(2).toDouble(), r.arriveS = q->value(3).toDouble(), r.bottomS = q->value(4).toDouble();
            r.leaveS = q->value(5).toDouble(), r.endS = q->value(6).toDouble();
            if (!q->value(7).isNull()) r.leg = q->value(7).toString() == "left" ? Side::Left : Side::Right;
            out.push_back(std::move(r));
        }
        auto values = read(
            "SELECT rep_s, measure, value, pm90, confidence, at_s, second FROM measurements WHERE set_id "
            "= ? AND view = ?",
            {set, second});
        if (!values) return values.error();
        while (values->next()) {
            // A measure that this Zevo does not know any more is not shown.
            const MeasureId id = MeasureId::named(values->value(1).toString().toStdString());
            for (MeasuredRep& r : out)
                if (id && r.bottomS == values->value(0).toDouble())
                    r.measures.push_back({id, values->value(2).toDouble(), values->value(3).toDouble(),
                                          values->value(4).toDouble(), values->value(5).toDouble(),
                                          values->value(6).toBool()});
        }
        for (MeasuredRep& r : out)
            std::sort(r.measures.begin(), r.measures.end(),
                      [](const Measurement& a, const Measurement& b) { return a.measure < b.measure; });
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
    impl->db.setDatabaseName(impl->databaseFile());
    impl->db.setConnectOptions("QSQLITE_BUSY_TIMEOUT=5000");
    if (!impl->db.open())
        return Error{"The library in this folder cannot be opened. Is the folder writable?",
                     impl->db.lastError().text().toStdString()};
    auto pragmas = [&](std::initializer_list<const char*> all) -> Result<void> {
        for (const char* pragma : all) {
            QSqlQuery q(impl->db);
            if (!q.exec(pragma))
                return Error{"The library file is damaged or not a Zevo library.", q.lastError().text().toStdString()};
        }
        return {};
    };
    if (auto done = pragmas({"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL", "PRAGMA secure_delete = ON",
                             "PRAGMA foreign_keys = OFF"});
        !done)
        return done.error();
    if (auto done = migrate(impl->db); !done) return done.error();
    if (auto done = pragmas({"PRAGMA foreign_keys = ON"}); !done) return done.error();
    return Library(std::move(impl));
}

Result<void> Library::beginSitting() {
    if (auto done = deleteHidden(); !done) return done;
    if (copiesBeforeMigration(m_impl->databaseFile()).isEmpty()) return {};
    constexpr int kSittingsKept = 2;
    auto counted = m_impl->read("SELECT value FROM state WHERE key = 'opened_since_migration'");
    if (!counted) return counted.error();
    const int opened = (counted->next() ? counted->value(0).toInt() : 0) + 1;
    counted->finish();
    if (opened >= kSittingsKept) {
        m_impl->removeCopies();
        return m_impl->change("DELETE FROM state WHERE key = 'opened_since_migration'");
    }
    return m_impl->change("INSERT OR REPLACE INTO state VALUES ('opened_since_migration', ?)", {opened});
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
    auto id = m_impl->insert("INSERT INTO clients (name, stature_cm, note, consent_on, made_at) VALUES (?, ?, ?, ?, ?)",
                             {c.name, c.statureCm, notNull(c.note), Impl::consentValue(c), now()});
    if (!id) return id.error();
    return ClientId(*id);
}

Result<void> Library::updateClient(const Client& c) {
    return m_impl->change("UPDATE clients SET name = ?, stature_cm = ?, note = ?, consent_on = ? WHERE id = ?",
                          {c.name, c.statureCm, notNull(c.note), Impl::consentValue(c), number(c.id)});
}

Result<void> Library::deleteClient(ClientId id) {
    return m_impl->deleteThen([&] { return m_impl->change("DELETE FROM clients WHERE id = ?", {number(id)}); });
}
Result<void> Library::deleteSet(SetId id) {
    return m_impl->deleteThen([&] { return m_impl->change("DELETE FROM sets WHERE id = ?", {number(id)}); });
}
Result<void> Library::hideSet(SetId id, bool hidden) {
    return m_impl->change("UPDATE sets SET hidden = ? WHERE id = ?", {hidden, number(id)});
}
Result<void> Library::deleteHidden() {
    auto any = m_impl->read("SELECT 1 FROM sets WHERE hidden LIMIT 1");
    if (!any) return any.error();
    if (!any->next()) return {};
    any->finish();
    return m_impl->deleteThen([&] { return m_impl->change("DELETE FROM sets WHERE hidden"); });
}

Result<SetId> Library::addSet(const NewSet& set) {
    return m_impl->transaction([&]() -> Result<SetId> {
        auto session = m_impl->session(set.client, set.heldOn);
        if (!session) return session.error();
        auto id = m_impl->insert(
            "INSERT INTO sets (session_id, movement, standard, reps, headline, engine, made_at) "
            "VALUES (?, '', '', 0, '', 0, ?)",
            {*session, now()});
        if (!id) return id.error();
        for (std::size_t i = 0; i < set.seen.size(); ++i)
            if (auto r = m_impl->writeObservation(*id, static_cast<int>(i), set.seen[i]); !r) return r.error();
        if (auto r = m_impl->writeEdits(*id, set.edits); !r) return r.error();
        if (auto r = m_impl->writeOutcome(*id, set.outcome); !r) return r.error();
        return SetId(*id);
    });
}

Result<void> Library::keepSet(SetId id, const Edits& edits, const std::vector<Seen>& seen, const Outcome& outcome) {
    const qint64 set = number(id);
    bool removes = false;
    auto change = [&]() -> Result<void> {
        if (auto r = m_impl->writeEdits(set, edits); !r) return r;
        // Observations never change: one that is there is as it was. Those no edit speaks of any more go.
        QStringList wanted;
        for (std::size_t i = 0; i < seen.size(); ++i) {
            if (!seen[i].observation) continue;
            wanted.append(QString::number(i));
            auto there = m_impl->read("SELECT 1 FROM observations WHERE set_id = ? AND position = ?",
                                      {set, static_cast<int>(i)});
            if (!there) return there.error();
            if (there->next()) continue;
            if (auto r = m_impl->writeObservation(set, static_cast<int>(i), seen[i]); !r) return r;
        }
        if (removes)
            if (auto r = m_impl->change(
                    "DELETE FROM observations WHERE set_id = ? AND position NOT IN (" + wanted.join(',') + ")", {set});
                !r)
                return r;
        return m_impl->writeOutcome(set, outcome);
    };
    auto kept = m_impl->read("SELECT position FROM observations WHERE set_id = ?", {set});
    if (!kept) return kept.error();
    while (kept->next()) {
        const auto position = static_cast<std::size_t>(kept->value(0).toInt());
        removes |= position >= seen.size() || !seen[position].observation;
    }
    kept->finish();
    return removes ? m_impl->deleteThen(change) : m_impl->transaction(change);
}

Result<std::vector<SetSummary>> Library::sets(ClientId client) const {
    auto q = m_impl->read(
        "SELECT s.id, e.held_on, s.made_at, s.movement, s.standard, s.headline, s.reps FROM sets s JOIN sessions e ON "
        "e.id = s.session_id WHERE e.client_id = ? AND NOT s.hidden ORDER BY e.held_on DESC, s.id DESC",
        {number(client)});
    if (!q) return q.error();
    std::vector<SetSummary> out;
    while (q->next())
        out.push_back({SetId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       QDateTime::fromString(q->value(2).toString(), Qt::ISODateWithMs), q->value(3).toString(),
                       q->value(4).toString(), q->value(5).toString(), q->value(6).toInt()});
    return out;
}

Result<std::vector<Outline>> Library::outlines(SetId id) const {
    auto q = m_impl->read("SELECT outlines FROM observations WHERE set_id = ? AND position = 0", {number(id)});
    if (!q) return q.error();
    if (!q->next()) return std::vector<Outline>();
    const QByteArray raw = unpacked(q->value(0).toByteArray());
    return readOutlines(bytesOf(raw));
}

Result<StoredSet> Library::loadSet(SetId id) const {
    const qint64 set = number(id);
    auto q = m_impl->read(
        "SELECT k.id, k.name, k.stature_cm, k.note, k.consent_on, e.held_on, s.engine FROM sets s JOIN "
        "sessions e ON e.id = s.session_id JOIN clients k ON k.id = e.client_id WHERE s.id = ?",
        {set});
    if (!q) return q.error();
    if (!q->next()) return Error{"This set is not in the library any more.", std::to_string(set)};
    StoredSet out;
    out.id = id;
    out.client = Impl::clientFrom(*q);
    out.heldOn = QDate::fromString(q->value(5).toString(), Qt::ISODate);
    out.kept.engine = q->value(6).toInt();

    auto seen = m_impl->read(
        "SELECT o.position, c.id, c.sha256, c.path, c.bytes, c.frames, c.duration_s, c.width, c.height, "
        "c.rotation_deg, "
        "o.engine, o.model, o.network, o.poses, o.outlines, o.notices FROM observations o JOIN clips c ON c.id = "
        "o.clip_id WHERE o.set_id = ? ORDER BY o.position",
        {set});
    if (!seen) return seen.error();
    while (seen->next()) {
        const auto position = static_cast<std::size_t>(seen->value(0).toInt());
        if (position >= out.seen.size()) out.seen.resize(position + 1);
        Observation o;
        o.clip = {seen->value(5).toLongLong(), seen->value(6).toDouble(), seen->value(7).toInt(),
                  seen->value(8).toInt(), seen->value(9).toInt()};
        o.engine = seen->value(10).toInt();
        o.model = seen->value(11).toString().toStdString();
        o.network = seen->value(12).toString().toStdString();
        const QByteArray poses = unpacked(seen->value(13).toByteArray());
        auto frames = readPoses(bytesOf(poses));
        if (!frames) return frames.error();
        o.poses = std::move(*frames);
        // A damaged picture is no reason to hide the set.
        const QByteArray lines = unpacked(seen->value(14).toByteArray());
        if (auto outlines = readOutlines(bytesOf(lines))) o.outlines = std::move(*outlines);
        o.notices = readNotices(seen->value(15).toString().toStdString());
        out.seen[position] = {{ClipId(seen->value(1).toLongLong()), seen->value(2).toByteArray(),
                               seen->value(3).toString(), seen->value(4).toLongLong()},
                              std::make_shared<const Observation>(std::move(o))};
    }
    if (out.seen.empty() || !out.seen.front().observation)
        return Error{"The record of this set is damaged. Open its clip again to measure it anew.",
                     "no observation of set " + std::to_string(set)};

    auto edits = m_impl->read("SELECT kind, payload FROM edits WHERE set_id = ? ORDER BY position", {set});
    if (!edits) return edits.error();
    while (edits->next()) {
        auto edit = readEdit(edits->value(0).toString().toStdString(), edits->value(1).toString().toStdString());
        if (!edit) return edit.error();
        out.edits.push_back(std::move(*edit));
    }
    for (bool second : {false, true}) {
        auto reps = m_impl->readReps(set, second);
        if (!reps) return reps.error();
        (second ? out.kept.secondReps : out.kept.reps) = std::move(*reps);
    }
    return out;
}

Result<void> Library::setHeldOn(SetId id, const QDate& day) {
    return m_impl->transaction([&]() -> Result<void> {
        auto owner = m_impl->read(
            "SELECT e.client_id FROM sets s JOIN sessions e ON e.id = s.session_id WHERE s.id = ?", {number(id)});
        if (!owner) return owner.error();
        if (!owner->next()) return Error{"This set is not in the library any more.", std::to_string(number(id))};
        auto session = m_impl->session(ClientId(owner->value(0).toLongLong()), day);
        if (!session) return session.error();
        return m_impl->change("UPDATE sets SET session_id = ? WHERE id = ?", {*session, number(id)});
    });
}

Result<void> Library::moveClip(ClipId id, const QString& path) {
    return m_impl->change("UPDATE clips SET path = ? WHERE id = ?", {path, number(id)});
}

Result<std::vector<HistoryValue>> Library::history(ClientId client, const QString& measure) const {
    auto q = m_impl->read(
        "SELECT m.set_id, e.held_on, m.rep_s, m.value, m.pm90, m.confidence, m.view, m.engine FROM measurements m JOIN "
        "sets s ON s.id = m.set_id JOIN sessions e ON e.id = s.session_id WHERE e.client_id = ? AND m.measure = ? AND "
        "NOT s.hidden ORDER BY e.held_on, s.id, m.rep_s",
        {number(client), measure});
    if (!q) return q.error();
    std::vector<HistoryValue> out;
    while (q->next())
        out.push_back({SetId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       q->value(2).toDouble(), q->value(3).toDouble(), q->value(4).toDouble(), q->value(5).toDouble(),
                       q->value(6).toBool(), q->value(7).toInt()});
    return out;
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
