#include "store/log.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QHash>
#include <QMutex>
#include <QRegularExpression>
#include <QScopedValueRollback>
#include <QStringList>
#include <cstdio>
#include <optional>

namespace zevo::store {
namespace {

constexpr qint64 kMostBytes = 256 * 1024;
QMutex g_mutex;                      // lines of two threads must not mix
thread_local bool t_writes = false;  // what Qt warns of while a line is written is not a line
QMutex g_catching;
std::optional<Log> g_caughtIn;        // guarded by g_catching
QtMessageHandler g_others = nullptr;  // whoever was told before

/// Zevo's own words, without what stands in quotation marks: names of files and what people wrote.
QString ownWords(const std::string& message) {
    static const QRegularExpression quoted("“[^”]*”?");
    QString out = QString::fromStdString(message).simplified();
    out.replace(quoted, "“…”");
    constexpr int kMost = 120;
    return out.left(kMost);
}

/// "14 signs", and for each path in it the beginning of its sum and its ending: which file it was can be checked, and
/// not read.
QString lengthOf(const std::string& detail) {
    const QString text = QString::fromStdString(detail);
    QString out = QString("%1 signs").arg(text.size());
    static const QRegularExpression path("(/[^\\s:,;\"']+)");
    for (auto at = path.globalMatch(text); at.hasNext();) {
        const QString found = at.next().captured(1);
        const QByteArray sum = QCryptographicHash::hash(found.toUtf8(), QCryptographicHash::Sha256).toHex().left(8);
        static const QRegularExpression ending("\\.[A-Za-z0-9]{1,5}$");
        out += ", file " + QString::fromLatin1(sum) + ending.match(found).captured();
    }
    return out;
}

}  // namespace

Log::Log(QString folder) : m_folder(std::move(folder)) {}

QString Log::file() const {
    return QDir(m_folder).filePath("zevo.log");
}

void Log::append(const QString& where, const QString& line) const {
    const QMutexLocker lock(&g_mutex);
    const QScopedValueRollback writes(t_writes, true);
    const QString older = file() + ".1";
    if (QFile(file()).size() > kMostBytes) {
        QFile::remove(older);
        QFile::rename(file(), older);
    }
    QFile out(file());
    if (!out.open(QIODevice::Append)) return;  // a log that cannot be written must not stop the work
    out.write(QString("%1 %2: %3\n")
                  .arg(QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs), where.simplified(), line)
                  .toUtf8());
}

void Log::write(const QString& where, const Error& error) const {
    const QString kind = error.notice ? QString::fromStdString(noticeName(error.notice->kind)) : QString("error");
    append(where, QString("%1: %2 (%3)").arg(kind, ownWords(error.message), lengthOf(error.detail)));
}

void Log::clear() const {
    const QMutexLocker lock(&g_mutex);
    for (const QString& name : {file() + ".1", file()}) QFile::remove(name);
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

CaughtMessages::CaughtMessages(const Log& log) {
    {
        const QMutexLocker lock(&g_catching);
        g_caughtIn = log;
    }
    g_others = qInstallMessageHandler([](QtMsgType level, const QMessageLogContext& context, const QString& words) {
        static const QHash<int, QString> kLevels{
            {QtWarningMsg, "warning"}, {QtCriticalMsg, "critical"}, {QtFatalMsg, "fatal"}};
        if (const QString name = kLevels.value(level); !name.isEmpty() && !t_writes) {
            const QMutexLocker lock(&g_catching);
            if (g_caughtIn)
                g_caughtIn->append("Qt",
                                   QString("%1 of %2 (%3)").arg(name, context.category, lengthOf(words.toStdString())));
        }
        if (g_others)
            g_others(level, context, words);
        else
            std::fprintf(stderr, "%s\n", qPrintable(words));
    });
}

CaughtMessages::~CaughtMessages() {
    qInstallMessageHandler(g_others);
    const QMutexLocker lock(&g_catching);
    g_caughtIn.reset();
}

}  // namespace zevo::store
