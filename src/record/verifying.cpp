#include "record/verifying.h"

#include <QFileInfo>

#include "present/words.h"
#include "record/opening.h"

namespace zevo::record {

Result<Verified> verifyLibrary(const QString& libraryFolder, const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = store::Library::open(libraryFolder, store::Access::Read);
    if (!library) return library.error();
    Verified out;
    const auto whole = library->check();
    if (!whole) return whole.error();
    out.problems = *whole;
    const auto clients = library->clients();
    if (!clients) return clients.error();
    for (const store::Client& client : *clients) {
        ++out.clients;
        const auto sets = library->sets(client.id);
        if (!sets) return sets.error();
        for (const store::SetSummary& s : *sets) {
            ++out.sets;
            const auto set = openSet(libraryFolder, s.id, catalogue);
            if (!set) {
                out.problems.append(s.id.text() + ": " + present::sentence(set.error()));
                continue;
            }
            for (const store::Seen& seen : set->stored.seen) {
                if (QFileInfo::exists(seen.clip.path)) continue;
                (seen.clip.filmed ? out.problems : out.missing).append(seen.clip.path);
            }
        }
    }
    const auto files = library->files();
    if (!files) return files.error();
    for (const store::ShelfFile& f : *files)
        if (f.state == store::ShelfFile::State::Kept && f.kind != store::ShelfFile::Kind::Export &&
            !QFileInfo::exists(f.path) && !out.problems.contains(f.path))
            out.problems.append(f.path);
    return out;
}

}  // namespace zevo::record
