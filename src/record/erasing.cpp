#include "record/erasing.h"

#include "record/file_shelf.h"
#include "store/log.h"

namespace zevo::record {

Result<void> eraseClient(store::Library& library, store::ClientId id) {
    const auto deleted = library.deleteClient(id);
    store::Log(library.folder()).clear();
    // Whatever came of the rest, files that nobody needs any more go, and then their names from the write-ahead log.
    const auto swept = FileShelf(library).sweep(false);
    const auto purged = library.purgeLog();
    return !deleted ? deleted : !swept ? swept : purged;
}

}  // namespace zevo::record
