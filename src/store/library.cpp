#include "store/library.h"

#include <QCryptographicHash>
#include <QFileInfo>
#include <QUrl>

#include "store/library_impl.h"

namespace zevo::store {

Library::Library(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
Library::Library(Library&&) noexcept = default;
Library& Library::operator=(Library&&) noexcept = default;
Library::~Library() = default;

QString Library::folder() const {
    return m_impl->folder;
}
bool Library::isReadOnly() const {
    return m_impl->readOnly;
}
QString Library::recordings() const {
    return QDir(m_impl->folder).filePath("recordings");
}
QString Library::viewingCopy(const QByteArray& sha256) const {
    return m_impl->viewingCopy(sha256);
}
int Library::newestSchema() {
    return newestSchemaVersion();
}

Result<Library> Library::open(const QString& folder, Access access) {
    const bool reads = access == Access::Read;
    if (!reads && !QDir().mkpath(folder))
        return Error{"The library folder cannot be made there. Choose another place.", folder.toStdString()};
    auto impl = std::make_unique<Impl>();
    impl->folder = folder;
    impl->connection = QUuid::createUuid().toString();
    impl->db = QSqlDatabase::addDatabase("QSQLITE", impl->connection);
    impl->db.setDatabaseName(impl->databaseFile());
    impl->readOnly = reads;
    QString options = "QSQLITE_BUSY_TIMEOUT=5000";
    if (reads) {
        options += ";QSQLITE_OPEN_READONLY;QSQLITE_OPEN_URI";
        // Where not even the log's index may be made, nobody else can be writing either.
        const bool fixed = !QFileInfo(folder).isWritable();
        impl->db.setDatabaseName(QUrl::fromLocalFile(impl->databaseFile()).toString(QUrl::FullyEncoded) +
                                 (fixed ? "?immutable=1" : ""));
    }
    impl->db.setConnectOptions(options);
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
    if (reads) {
        QSqlQuery version(impl->db);
        if (!version.exec("PRAGMA user_version") || !version.next())
            return Error{"The library file is damaged or not a Zevo library.",
                         version.lastError().text().toStdString()};
        if (version.value(0).toInt() != newestSchemaVersion())
            return Error{
                "This library is from another version of Zevo and cannot be brought up to date where nothing "
                "may be written.",
                version.value(0).toString().toStdString()};
        return Library(std::move(impl));
    }
    if (auto done = pragmas({"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL", "PRAGMA secure_delete = ON",
                             "PRAGMA foreign_keys = OFF"});
        !done)
        return done.error();
    if (auto done = migrate(impl->db); !done) return done.error();
    if (auto done = pragmas({"PRAGMA foreign_keys = ON"}); !done) return done.error();
    return Library(std::move(impl));
}

Result<void> Library::beginSitting() {
    if (isReadOnly()) return {};
    if (auto done = deleteHidden(); !done) return done;
    if (auto done = sweepSets(); !done) return done;
    if (copiesBeforeMigration(m_impl->databaseFile()).isEmpty()) return purgeLog();
    constexpr int kSittingsKept = 2;
    auto counted = m_impl->read("SELECT value FROM state WHERE key = 'opened_since_migration'");
    if (!counted) return counted.error();
    const int opened = (counted->next() ? counted->value(0).toInt() : 0) + 1;
    counted->finish();
    if (opened >= kSittingsKept) {
        m_impl->removeCopies();
        return m_impl->change("DELETE FROM state WHERE key = 'opened_since_migration'");
    }
    return m_impl->change(
        "INSERT INTO state VALUES ('opened_since_migration', ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
        {opened});
}

Result<std::vector<Client>> Library::clients() const {
    auto q = m_impl->read(
        QString("SELECT %1 FROM clients k ORDER BY lower(k.name), k.name, k.id").arg(Impl::kClientColumns));
    if (!q) return q.error();
    std::vector<Client> out;
    while (q->next()) out.push_back(Impl::clientFrom(*q));
    for (Client& c : out)
        if (auto read = m_impl->readFlags(c); !read) return read.error();
    return out;
}

Result<Client> Library::client(ClientId id) const {
    auto q = m_impl->read(QString("SELECT %1 FROM clients k WHERE k.id = ?").arg(Impl::kClientColumns), {key(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{kNoSuchClient, id.key()};
    Client c = Impl::clientFrom(*q);
    if (auto read = m_impl->readFlags(c); !read) return read.error();
    return c;
}

Result<ClientId> Library::addClient(const Client& c) {
    Client added = c;
    if (added.id.isNull()) added.id = ClientId::fresh();
    auto done = m_impl->transaction([&]() -> Result<void> {
        if (auto r = m_impl->change("INSERT INTO clients (id, name, made_at) VALUES (?, ?, ?)",
                                    {key(added.id), c.name, now()});
            !r)
            return r;
        return m_impl->writeClient(added);
    });
    if (!done) return done.error();
    return added.id;
}

Result<void> Library::updateClient(const Client& c) {
    return m_impl->transaction([&] { return m_impl->writeClient(c); });
}

PainCheck painOf(const Client& client, const QDate& day) {
    PainCheck p;
    for (const ClientFlag& f : client.flags) {
        if (f.stands(day)) p.redFlags.push_back(f.flag.toStdString());
        if (!f.cleared(day)) continue;
        p.cleared.push_back(f.flag.toStdString());
        if (!f.limits.isEmpty()) p.limits.push_back(f.limits.toStdString());
    }
    p.spots = client.complaint.spots;
    if (client.complaint.askedOn == day) p.before = client.complaint.score, p.sharp = client.complaint.sharp;
    return p;
}

Result<void> Library::deleteClient(ClientId id) {
    return m_impl->deleteThen([&]() -> Result<void> {
        // A recording that no set knows yet is the client's as well; that something was exported is not remembered.
        if (auto r = m_impl->change("DELETE FROM files WHERE client_id = ? AND kind = 'export'", {key(id)}); !r)
            return r;
        if (auto r = m_impl->change(
                "UPDATE files SET state = 'retired', plan = '' WHERE client_id = ? AND state = 'growing'", {key(id)});
            !r)
            return r;
        return m_impl->change("DELETE FROM clients WHERE id = ?", {key(id)});
    });
}
Result<void> Library::purgeLog() {
    return isReadOnly() ? Result<void>() : m_impl->emptyLog();
}
Result<void> Library::deleteSet(SetId id) {
    return m_impl->deleteThen([&] { return m_impl->change("DELETE FROM sets WHERE id = ?", {key(id)}); });
}
Result<void> Library::hideSet(SetId id, bool hidden) {
    return m_impl->change("UPDATE sets SET hidden = ? WHERE id = ?", {hidden, key(id)});
}
Result<void> Library::deleteHidden() {
    auto any = m_impl->read("SELECT 1 FROM sets WHERE hidden LIMIT 1");
    if (!any) return any.error();
    if (!any->next()) return {};
    any->finish();
    return m_impl->deleteThen([&] { return m_impl->change("DELETE FROM sets WHERE hidden"); });
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
