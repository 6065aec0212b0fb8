#pragma once

#include <QString>
#include <vector>

#include "core/session/edits.h"
#include "store/library.h"

namespace zevo::record {

/// A recording that no set knows: it was broken off, or could not be put into the record.
struct OrphanedRecording {
    QString path;          ///< as it would be called: without .part
    bool partial = false;  ///< it has not got its end
    store::ClientId client{};
    SetFacts facts;
    QString standard;
    QDateTime at;
};

/// Owns the files Zevo makes: recordings, viewing copies, exports. Each stands in the record before its first byte is
/// written. What nothing needs any more is retired and goes at the end of the sitting, so that undo always finds it;
/// what is left over after a crash goes at the next start. One shelf and its library a thread.
class FileShelf {
  public:
    explicit FileShelf(store::Library& library) : m_library(library) {}

    /// A recording begins: whose it is and what it is begun as, for who finds it broken off.
    Result<void> grow(const QString& path, store::ClientId client, const Edits& plan);
    /// A viewing copy of a clip begins; answers where it belongs.
    Result<QString> growViewing(const QByteArray& sha256);
    /// Everything of a client was exported there.
    Result<void> noteExport(const QString& folder, store::ClientId client);
    /// Nothing will come of it. It goes at the end of the sitting.
    Result<void> retire(const QString& path);

    /// Recordings that no set knows.
    Result<std::vector<OrphanedRecording>> orphans() const;
    /// Deletes what is retired, and viewing copies of clips that are not in the record. At the end of a sitting, after
    /// an erasure, and (`start`) before a sitting, when also what is in the folders and in no table is looked at:
    /// viewing copies go, recordings are taken in as nobody's. Never while something is being measured but at `start`.
    Result<void> sweep(bool start);

  private:
    Result<void> takeIn();
    store::Library& m_library;
};

}  // namespace zevo::record
