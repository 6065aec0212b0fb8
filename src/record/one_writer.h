#pragma once

#include <QLockFile>
#include <memory>

#include "store/library.h"

namespace zevo::record {

/// A library, and the right to change it: one Zevo at a time has that.
struct HeldLibrary {
    std::unique_ptr<QLockFile> lock;  ///< null where the library is open for reading only
    store::Library library;
};

/// Opens the library in a folder, for changing it where nobody else does and the folder allows it, else for reading.
Result<HeldLibrary> holdLibrary(const QString& folder);

}  // namespace zevo::record
