#pragma once

#include <QString>
#include <atomic>
#include <memory>

#include "core/session/session.h"
#include "store/library.h"

namespace zevo::record {

/// Writes everything Zevo keeps of a client into a new folder inside `into`: client.json, a file a set
/// (docs/formats.md, "zevo-set-1": its result, and everything that was done to it), what was seen, and copies of the
/// videos Zevo filmed. The folder appears whole or not at all; `cancel` is asked before every set. That it was
/// exported, and where to, is remembered until the client is erased. Answers its path. For threads other than the
/// window's.
Result<QString> exportClient(const QString& libraryFolder, store::ClientId id, const QString& into,
                             const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel);

/// A name as a file may have it: letters of any script and digits stay, everything else becomes a hyphen.
QString asFileName(const QString& name);

}  // namespace zevo::record
