#pragma once

#include <QString>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/result.h"
#include "store/records.h"

namespace zevo::store {

enum class Access {
    Write,
    /// Nothing can be changed: another Zevo has the library, or the folder cannot be written to. An older library is
    /// not brought up to date then, and is refused.
    Read
};

/// The coach's record: one folder with a SQLite database (write-ahead log, foreign keys, deleted data
/// overwritten). Videos stay where the coach keeps them and are known by their SHA-256.
///
/// Every change is one transaction: after a crash it is there whole or not at all. One Library per thread; several
/// may have the same folder open.
class Library {
  public:
    /// Opens the folder's library, makes it if there is none, and brings an older one up to date (a copy of the
    /// old file is kept beside it). Errors: folder not writable, damaged file, made by a newer Zevo.
    static Result<Library> open(const QString& folder, Access access = Access::Write);
    Library(Library&&) noexcept;
    Library& operator=(Library&&) noexcept;
    ~Library();

    bool isReadOnly() const;

    /// Once for every start of the window: sets deleted in an earlier one go for good, and what no edit speaks of any
    /// more; so do the copies from before a migration when the library brought up to date has been opened twice since.
    Result<void> beginSitting();

    QString folder() const;
    /// Where Zevo keeps what it films.
    QString recordings() const;
    /// Where the quick-to-wind copy of a clip lies, if one was made.
    QString viewingCopy(const QByteArray& sha256) const;

    /// Files Zevo made (record/file_shelf.h decides about them). A set that is added or changed keeps the files of its
    /// clips in the same transaction.
    Result<std::vector<ShelfFile>> files() const;
    Result<void> putFile(const ShelfFile& file);
    Result<void> forgetFile(const QString& path);
    /// Clips of the record, by their content.
    Result<bool> knowsClip(const QByteArray& sha256) const;
    /// Sets that are not hidden and whose first view is of the clip at a path, as it was last seen.
    Result<std::vector<SetId>> setsOfClip(const QString& path) const;
    static int newestSchema();
    /// What the database finds wrong with itself, a line each; empty: nothing.
    Result<QStringList> check() const;

    Result<std::vector<Client>> clients() const;
    Result<Client> client(ClientId id) const;
    Result<ClientId> addClient(const Client& client);
    Result<void> updateClient(const Client& client);
    /// Removes the client with sessions, sets, poses, outlines, values and edits, and any clip entry no
    /// other set needs; files that Zevo made of them are retired. Nothing of it stays in the database file, nor in
    /// copies of the library from before a migration, which go as well. The coach's own video files are not touched.
    Result<void> deleteClient(ClientId id);

    /// What was deleted still stands in the write-ahead log until that is emptied, which waits a little for whoever
    /// reads. Error: they did not let go; the next start does it.
    Result<void> purgeLog();

    /// Clients whose name, goals, note or whose sets' headlines hold all words of `text`, whom the coach saw last
    /// first.
    Result<std::vector<ClientSummary>> findClients(const QString& text, bool archived = false) const;
    /// What one client has goes to another: sets (days are joined), complaints (the worse of two on one day), flags,
    /// and whatever the other does not have of build, choices, targets; the first is gone then. One transaction.
    Result<void> mergeClients(ClientId from, ClientId into);
    /// Answers to "does anything hurt", newest first.
    Result<std::vector<Complaint>> complaints(ClientId client) const;
    Result<Holdings> holdings(ClientId client) const;

    Result<SetId> addSet(const NewSet& set);
    /// Newest first; without outlines, which are asked for one by one when they are drawn.
    Result<std::vector<SetSummary>> sets(ClientId client) const;
    Result<std::vector<Outline>> outlines(SetId id) const;
    Result<StoredSet> loadSet(SetId id) const;
    /// Adds to a set, in one transaction, where it still is at `revision`; answers the new one. Nothing, and nothing is
    /// changed, where somebody else has changed it since: read it again (record/set_keeper.h does).
    Result<std::optional<int>> commit(SetId id, int revision, const SetWrite& write);
    /// Observations that no edit in force speaks of go, with the clips nobody else needs; their files are retired.
    Result<void> sweepSets();
    /// The edits of a set alone.
    Result<Edits> edits(SetId id) const;
    /// Takes a set out of all lists, or brings it back; it is still there.
    Result<void> hideSet(SetId id, bool hidden);
    /// For good, and complete as in deleteClient().
    Result<void> deleteSet(SetId id);
    /// Sets taken out of the lists go for good.
    Result<void> deleteHidden();
    /// The day a set was filmed.
    Result<void> setHeldOn(SetId id, const QDate& day);
    Result<SetPlace> placeOf(SetId id) const;
    /// To another day, client, or place on its day.
    Result<void> putSet(SetId id, const SetPlace& place);
    /// Where one of the coach's own clips lies now.
    Result<void> moveClip(ClipId id, const QString& path);

    /// Every value of one measure over a client's sets, oldest first.
    Result<std::vector<HistoryValue>> history(ClientId client, const QString& measure) const;

    /// All sets of a client that are not hidden, oldest first, with their edits and without their repetitions; by
    /// `movement` where one is named; only those `among` says, of all of them, where it is given.
    Result<std::vector<LoggedSet>> log(
        ClientId client, const QString& movement = {},
        const std::function<std::vector<bool>(const std::vector<LoggedSet>&)>& among = {}) const;
    /// Fills in the repetitions of those that are `wanted` (all where nothing is said); many cost little more than one.
    Result<void> readRepetitions(std::vector<LoggedSet>& log,
                                 const std::function<bool(const LoggedSet&)>& wanted = {}) const;

  private:
    struct Impl;
    explicit Library(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

/// SHA-256 of a file, read in pieces. Error: cannot be read.
Result<QByteArray> hashFile(const QString& path);

}  // namespace zevo::store
