#include "record/one_writer.h"

#include <QDir>

namespace zevo::record {

Result<HeldLibrary> holdLibrary(const QString& folder) {
    QDir().mkpath(folder);
    auto lock = std::make_unique<QLockFile>(QDir(folder).filePath("zevo.lock"));
    lock->setStaleLockTime(0);  // whose owner has died is free, however long ago
    constexpr int kWaitMs = 100;
    if (!lock->tryLock(kWaitMs)) lock.reset();
    auto library = store::Library::open(folder, lock ? store::Access::Write : store::Access::Read);
    if (!library) return library.error();
    return HeldLibrary{std::move(lock), std::move(*library)};
}

}  // namespace zevo::record
