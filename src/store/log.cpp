#include "store/log.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QMutex>
#include <QStringList>

namespace zevo::store {
namespace {

constexpr qint64 kMostBytes = 256 * 1024;
QMutex g_mutex;  // lines of two threads must not mix

QString oneLine(const std::string& s) {
    return QString::fromStdString(s).simplified();
}

}  // namespace

Log::Log(QString folder) : m_folder(std::move(folder)) {}

QString Log::file() const {
    return QDir(m_folder).filePath("zevo.log");
}

void Log::write(const QString& where, const Error& error) const {
    const QMutexLocker lock(&g_mutex);
    const QString older = file() + ".1";
    if (QFile(file()).size() > kMostBytes) {
        QFile::remove(older);
        QFile::rename(file(), older);
    }
    QFile out(file());
    if (!out.open(QIODevice::Append)) return;  // a log that cannot be written must not stop the work
    const QString kind = error.notice ? QString::fromStdString(noticeName(error.notice->kind)) : QString("error");
    out.write(QString("%1 %2: %3: %4\n")
                  .arg(QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs), where.simplified(), kind,
                       oneLine(error.detail.empty() ? error.message : error.detail))
                  .toUtf8());
}

QString Log::recent(int lines) const {
    const QMutexLocker lock(&g_mutex);
    QStringList all;
    for (const QString& name : {file() + ".1", file()}) {
        QFile in(name);
        if (in.open(QIODevice::ReadOnly)) all += QString::fromUtf8(in.readAll()).split('\n', Qt::SkipEmptyParts);
    }
    return all.mid(std::max<qsizetype>(0, all.size() - lines)).join('\n');
}

}  // namespace zevo::store
