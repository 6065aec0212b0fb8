#pragma once

#include <QString>

#include "core/base/result.h"

namespace zevo::store {

/// What went wrong, for whoever has to find out why: where, of what kind, and Zevo's own sentence with everything that
/// was put into it left out. Nothing of a client is in it: no name, no note, nothing that hurts. Files are told apart
/// by a sum of their path; of details only the length is kept. Two files of at most 256 kB in the library folder, the
/// older one overwritten. Safe to use from several threads.
class Log {
  public:
    explicit Log(QString folder);
    /// `where`: what was being done, a few words.
    void write(const QString& where, const Error& error) const;
    /// The newest lines, oldest first.
    QString recent(int lines = 200) const;
    QString file() const;
    /// Both files go.
    void clear() const;

  private:
    friend class CaughtMessages;
    void append(const QString& where, const QString& line) const;

    QString m_folder;
};

/// While it stands, what Qt and its plug-ins warn of (any QLoggingCategory) goes into the log too: level, category and
/// length, never the words, which may name a file or a client. It is said on standard error as before. One at a time.
class CaughtMessages {
  public:
    explicit CaughtMessages(const Log& log);
    ~CaughtMessages();
    CaughtMessages(const CaughtMessages&) = delete;
    CaughtMessages& operator=(const CaughtMessages&) = delete;
};

}  // namespace zevo::store
