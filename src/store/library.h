#pragma once

#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "core/result.h"
#include "store/records.h"

namespace zevo::store {

/// The coach's record: one folder with a SQLite database (write-ahead log, foreign keys, deleted data
/// overwritten). Videos stay where the coach keeps them and are known by their SHA-256.
///
/// Every change is one transaction: after a crash it is there whole or not at all. One Library per thread; several
/// may have the same folder open.
class Library {
  public:
    /// Opens the folder's library, makes it if there is none, and brings an older one up to date (a copy of the
    /// old file is kept beside it). Errors: folder not writable, damaged file, made by a newer Zevo.
    static Result<Library> open(const QString& folder);
    Library(Library&&) noexcept;
    Library& operator=(Library&&) noexcept;
    ~Library();

    QString folder() const;
    /// Where the quick-to-wind copy of a clip lies, if one was made.
    QString viewingCopy(const QByteArray& sha256) const;
    static int newestSchema();

    Result<std::vector<Client>> clients() const;
    Result<Client> client(ClientId id) const;
    Result<ClientId> addClient(const Client& client);
    Result<void> updateClient(const Client& client);
    /// Removes the client with sessions, sets, poses, outlines, results and corrections, and any clip entry no
    /// other set needs, with its viewing copy; nothing of it stays in the database file. The coach's own video files
    /// are not touched.
    Result<void> deleteClient(ClientId id);

    Result<SetId> addSet(const NewSet& set);
    Result<std::vector<SetSummary>> sets(ClientId client) const;
    Result<StoredSet> loadSet(SetId id) const;
    Result<void> deleteSet(SetId id);
    /// After judging by another standard, or with corrections.
    Result<void> updateJudgement(SetId id, const QString& standard, int reps, const QString& headline,
                                 const QByteArray& resultJson);
    /// What the coach says of a set: movement, variation, load, aids, pain.
    Result<void> updateContext(SetId id, const SetContext& context);
    /// Adds the other view of a set, or another one in its place; empty takes it away.
    Result<void> setSecondClip(SetId id, const std::optional<SecondClip>& second);
    /// Where a clip lies now.
    Result<void> moveClip(ClipId id, const QString& path);

    Result<CorrectionId> addCorrection(SetId set, const Correction& correction);
    Result<void> removeCorrection(CorrectionId id);

  private:
    struct Impl;
    explicit Library(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

/// SHA-256 of a file, read in pieces. Error: cannot be read.
Result<QByteArray> hashFile(const QString& path);

}  // namespace zevo::store
