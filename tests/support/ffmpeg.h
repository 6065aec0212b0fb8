#pragma once

#include <QProcess>
#include <QStringList>

namespace made {

/// Runs ffmpeg's command line, the independent program that makes clips for the tests. Ends the test when it fails.
inline void ffmpeg(const QStringList& arguments) {
    QProcess p;
    p.start("ffmpeg", QStringList{"-v", "error", "-nostdin", "-y"} + arguments);
    const bool ended = p.waitForFinished(-1);
    if (!ended) p.kill();
    if (!ended || p.exitCode() != 0) qFatal("ffmpeg: %s", p.readAllStandardError().constData());
}

}  // namespace made
