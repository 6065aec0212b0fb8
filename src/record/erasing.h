#pragma once

#include "store/library.h"

namespace zevo::record {

/// Everything of a client goes for good: the record, the files Zevo made, copies from before a migration, the log. Not
/// a byte of it is left in the library's folder; the coach's own videos and what was exported are not touched. Error:
/// what could not be deleted now goes at the next start.
Result<void> eraseClient(store::Library& library, store::ClientId id);

}  // namespace zevo::record
