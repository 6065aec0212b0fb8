#pragma once

#include <QString>

#include "core/base/result.h"

namespace zevo::store {

/// What went wrong, for whoever has to find out why: codes, statements, paths; no client names. Two files of at most
/// 256 kB in the library folder, the older one overwritten. Safe to use from several threads.
class Log {
  public:
    explicit Log(QString folder);
    /// `where`: what was being done, a few words.
    void write(const QString& where, const Error& error) const;
    /// The newest lines, oldest first.
    QString recent(int lines = 200) const;
    QString file() const;

  private:
    QString m_folder;
};

}  // namespace zevo::store
