#include "app/film/incoming_folder.h"

#include <QDir>
#include <QFileInfo>

namespace zevo::app {
namespace {

const QStringList kEndings{"*.mp4", "*.mov", "*.mkv", "*.avi", "*.webm", "*.m4v", "*.3gp", "*.mts"};

}  // namespace

IncomingFolder::IncomingFolder(QObject* parent) : QObject(parent) {
    m_poll.setInterval(2000);
    connect(&m_watcher, &QFileSystemWatcher::directoryChanged, this, [this] { m_poll.start(); });
    connect(&m_poll, &QTimer::timeout, this, &IncomingFolder::look);
}

void IncomingFolder::watch(const QString& folder) {
    if (!m_watcher.directories().isEmpty()) m_watcher.removePaths(m_watcher.directories());
    m_folder = folder;
    m_known.clear();
    m_growing.clear();
    m_poll.stop();
    if (folder.isEmpty() || !QFileInfo(folder).isDir()) return;
    for (const QFileInfo& f : QDir(folder).entryInfoList(kEndings, QDir::Files)) m_known.insert(f.fileName());
    m_watcher.addPath(folder);
    // Network folders and some phones' mounts tell nothing: looked at anyway, slowly.
    m_poll.start();
}

void IncomingFolder::look() {
    for (const QFileInfo& f : QDir(m_folder).entryInfoList(kEndings, QDir::Files)) {
        const QString name = f.fileName();
        if (m_known.contains(name)) continue;
        const auto before = m_growing.constFind(name);
        if (before != m_growing.constEnd() && before.value() == f.size() && f.size() > 0) {
            m_growing.remove(name);
            m_known.insert(name);
            emit arrived(f.filePath());
        } else {
            m_growing[name] = f.size();
        }
    }
}

}  // namespace zevo::app
