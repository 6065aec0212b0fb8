// Files Zevo made, as the record knows them.
#include <array>

#include "store/library_impl.h"

namespace zevo::store {
namespace {

/// In the order of ShelfFile::Kind and ShelfFile::State. Names stay: records hold them.
constexpr std::array kKinds{"recording", "viewing", "export"};
constexpr std::array kStates{"growing", "kept", "retired"};

template <typename Enum, std::size_t N>
Enum named(const std::array<const char*, N>& names, const QString& name) {
    for (std::size_t i = 0; i < N; ++i)
        if (name == names[i]) return static_cast<Enum>(i);
    return static_cast<Enum>(0);
}

QString planText(const Edits& plan) {
    QJsonArray out;
    for (const Edit& e : plan) {
        const auto [kind, what] = writeEdit(e);
        out.append(QJsonObject{{"kind", text(kind)}, {"what", text(what)}});
    }
    return out.isEmpty() ? QString("") : QString::fromUtf8(QJsonDocument(out).toJson(QJsonDocument::Compact));
}

Edits planFrom(const QString& plan) {
    Edits out;
    for (const auto& v : QJsonDocument::fromJson(plan.toUtf8()).array()) {
        const QJsonObject o = v.toObject();
        if (auto edit = readEdit(o["kind"].toString().toStdString(), o["what"].toString().toStdString()))
            out.push_back(std::move(*edit));
    }
    return out;
}

}  // namespace

Result<std::vector<ShelfFile>> Library::files() const {
    auto q = m_impl->read("SELECT path, kind, state, client_id, sha256, plan, since FROM files ORDER BY since, path");
    if (!q) return q.error();
    std::vector<ShelfFile> out;
    while (q->next())
        out.push_back(
            {m_impl->fromShelf(q->value(0).toString()), named<ShelfFile::Kind>(kKinds, q->value(1).toString()),
             named<ShelfFile::State>(kStates, q->value(2).toString()), ClientId::fromBytes(q->value(3).toByteArray()),
             q->value(4).toByteArray(), planFrom(q->value(5).toString()),
             QDateTime::fromString(q->value(6).toString(), Qt::ISODateWithMs)});
    return out;
}

Result<void> Library::putFile(const ShelfFile& f) {
    return m_impl->change(
        "INSERT INTO files (path, kind, state, client_id, sha256, plan, since) VALUES (?, ?, ?, ?, ?, ?, ?) ON "
        "CONFLICT "
        "(path) DO UPDATE SET kind = excluded.kind, state = excluded.state, client_id = excluded.client_id, sha256 = "
        "excluded.sha256, plan = excluded.plan",
        {m_impl->onShelf(f.path), kKinds[static_cast<std::size_t>(f.kind)], kStates[static_cast<std::size_t>(f.state)],
         f.client.isNull() ? QVariant() : key(f.client), f.sha256.isEmpty() ? QVariant() : QVariant(f.sha256),
         planText(f.plan), f.since.isValid() ? f.since.toUTC().toString(Qt::ISODateWithMs) : now()});
}

Result<void> Library::forgetFile(const QString& path) {
    return m_impl->change("DELETE FROM files WHERE path = ?", {m_impl->onShelf(path)});
}

Result<bool> Library::knowsClip(const QByteArray& sha256) const {
    auto q = m_impl->read("SELECT 1 FROM clips WHERE sha256 = ?", {sha256});
    if (!q) return q.error();
    return q->next();
}

Result<QStringList> Library::check() const {
    QStringList out;
    auto whole = m_impl->read("PRAGMA integrity_check");
    if (!whole) return whole.error();
    while (whole->next())
        if (const QString line = whole->value(0).toString(); line != "ok") out.append(line);
    auto dangling = m_impl->read("PRAGMA foreign_key_check");
    if (!dangling) return dangling.error();
    while (dangling->next()) out.append(QString("a row of %1 belongs to nothing").arg(dangling->value(0).toString()));
    return out;
}

Result<std::vector<SetId>> Library::setsOfClip(const QString& path) const {
    auto q = m_impl->read(
        "SELECT s.id FROM sets s JOIN observations o ON o.set_id = s.id AND o.position = 0 JOIN clips c ON c.id = "
        "o.clip_id WHERE c.path = ? AND NOT s.hidden ORDER BY s.position",
        {path});
    if (!q) return q.error();
    std::vector<SetId> out;
    while (q->next()) out.push_back(SetId::fromBytes(q->value(0).toByteArray()));
    return out;
}

}  // namespace zevo::store
