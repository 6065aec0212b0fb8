#pragma once

#include <QFileSystemWatcher>
#include <QHash>
#include <QObject>
#include <QSet>
#include <QTimer>

namespace zevo::app {

/// Watches a folder into which a phone or another camera drops clips. A file counts when it has stopped growing for a
/// while; what lay there when watching began does not.
class IncomingFolder : public QObject {
    Q_OBJECT
  public:
    explicit IncomingFolder(QObject* parent = nullptr);
    /// Empty: none.
    void watch(const QString& folder);
    QString folder() const { return m_folder; }
    /// How long a file must have kept its size, and how often that is looked at; for tests.
    void setPatience(int milliseconds) { m_poll.setInterval(milliseconds); }

  signals:
    void arrived(const QString& path);

  private:
    void look();

    QString m_folder;
    QFileSystemWatcher m_watcher;
    QTimer m_poll;
    QSet<QString> m_known;
    QHash<QString, qint64> m_growing;  ///< size when looked at last
};

}  // namespace zevo::app
