#pragma once

#include <QStringList>
#include <atomic>

namespace zevo::cli {

/// zevo-cli library …: lists, adds to, measures into, exports from and verifies a coach's library, by the same calls as
/// the window. `arguments`: what stands behind "library". Answers the exit code.
int library(const QStringList& arguments, const std::atomic<bool>& cancel);
/// Its lines for the help.
extern const char* const kLibraryHelp;

}  // namespace zevo::cli
