#include "record/file_shelf.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRegularExpression>
#include <QSet>

#include "core/serial/edit_json.h"

namespace zevo::record {
namespace {

using store::ShelfFile;

constexpr const char* kPart = ".part";

/// Names a file may have while it is made, and when it is done.
QStringList namesOf(const QString& path) {
    return {path, path + kPart, path + kPart + ".whole", path + ".whole"};
}

/// Beside recordings of older versions lay a note: the client's number, then an edit a line. Clients have other ids by
/// now, so that only what was meant can be read.
Edits editsOfOldNote(const QString& path) {
    QFile file(path + ".note");
    Edits out;
    if (!file.open(QIODevice::ReadOnly)) return out;
    file.readLine();
    while (!file.atEnd()) {
        const QByteArray line = file.readLine().trimmed();
        const auto space = line.indexOf(' ');
        if (space < 0) continue;
        if (auto edit = readEdit(line.left(space).toStdString(), line.mid(space + 1).toStdString()))
            out.push_back(std::move(*edit));
    }
    return out;
}

}  // namespace

Result<void> FileShelf::grow(const QString& path, store::ClientId client, const Edits& plan) {
    return m_library.putFile({path, ShelfFile::Kind::Recording, ShelfFile::State::Growing, client, {}, plan, {}});
}

Result<QString> FileShelf::growViewing(const QByteArray& sha256) {
    const QString path = m_library.viewingCopy(sha256);
    auto known = m_library.knowsClip(sha256);
    if (!known) return known.error();
    // A copy of a clip that is in the record is needed whatever comes of this one.
    const auto state = *known ? ShelfFile::State::Kept : ShelfFile::State::Growing;
    if (auto put = m_library.putFile({path, ShelfFile::Kind::Viewing, state, {}, sha256, {}, {}}); !put)
        return put.error();
    return path;
}

Result<void> FileShelf::noteExport(const QString& folder, store::ClientId client) {
    return m_library.putFile({folder, ShelfFile::Kind::Export, ShelfFile::State::Kept, client, {}, {}, {}});
}

Result<void> FileShelf::retire(const QString& path) {
    auto files = m_library.files();
    if (!files) return files.error();
    for (ShelfFile& f : *files) {
        if (f.path != path || f.kind == ShelfFile::Kind::Export) continue;
        // Somebody else may need it: a second set of the same clip.
        auto needed = f.sha256.isEmpty() ? Result<bool>(false) : m_library.knowsClip(f.sha256);
        if (!needed) return needed.error();
        if (*needed) return {};
        f.state = ShelfFile::State::Retired;
        f.plan.clear();
        return m_library.putFile(f);
    }
    return {};
}

Result<std::vector<OrphanedRecording>> FileShelf::orphans() const {
    auto files = m_library.files();
    if (!files) return files.error();
    std::vector<OrphanedRecording> out;
    for (const ShelfFile& f : *files) {
        if (f.kind != ShelfFile::Kind::Recording || f.state != ShelfFile::State::Growing) continue;
        OrphanedRecording r;
        r.path = f.path;
        r.partial = !QFileInfo::exists(f.path);
        const QFileInfo file(r.partial ? f.path + kPart : f.path);
        if (!file.exists()) continue;
        r.client = f.client;
        const EditedSet plan = fold(f.plan);
        r.facts = plan.facts;
        r.standard = QString::fromStdString(plan.standard);
        r.at = file.lastModified();
        out.push_back(std::move(r));
    }
    return out;
}

/// What lies in the folders and in no table: made by an older version, or by hand.
Result<void> FileShelf::takeIn() {
    auto files = m_library.files();
    if (!files) return files.error();
    QSet<QString> known;
    for (const ShelfFile& f : *files) known.insert(QFileInfo(f.path).absoluteFilePath());
    const QDir recordings(m_library.recordings());
    for (QString name : recordings.entryList({"*.mkv", "*.mkv.part"}, QDir::Files)) {
        if (name.endsWith(kPart)) name.chop(static_cast<int>(qstrlen(kPart)));
        const QString path = recordings.filePath(name);
        if (known.contains(QFileInfo(path).absoluteFilePath())) continue;
        if (auto put = grow(path, {}, editsOfOldNote(path)); !put) return put;
        known.insert(QFileInfo(path).absoluteFilePath());
    }
    for (const QString& name : recordings.entryList({"*.note"}, QDir::Files)) QFile::remove(recordings.filePath(name));
    const QDir viewing(QFileInfo(m_library.viewingCopy("0")).path());
    for (const QFileInfo& file : viewing.entryInfoList(QDir::Files))
        if (!known.contains(file.absoluteFilePath())) QFile::remove(file.absoluteFilePath());
    return {};
}

Result<void> FileShelf::sweep(bool start) {
    if (m_library.isReadOnly()) return {};
    if (start)
        if (auto done = takeIn(); !done) return done;
    auto files = m_library.files();
    if (!files) return files.error();
    for (const ShelfFile& f : *files) {
        if (f.kind == ShelfFile::Kind::Export) continue;
        bool goes = f.state == ShelfFile::State::Retired;
        // At the start nothing grows: what did so was broken off. A recording is offered, a copy can be made again.
        if (start && f.state == ShelfFile::State::Growing) {
            const QStringList names = namesOf(f.path);
            goes |= f.kind == ShelfFile::Kind::Viewing ||
                    std::none_of(names.begin(), names.end(), [](const QString& n) { return QFileInfo::exists(n); });
        }
        if (!goes) continue;
        bool gone = true;
        for (const QString& name : namesOf(f.path)) gone &= !QFileInfo::exists(name) || QFile::remove(name);
        // What cannot be deleted now is tried again.
        if (gone)
            if (auto done = m_library.forgetFile(f.path); !done) return done;
    }
    return {};
}

}  // namespace zevo::record
