#pragma once

#include <QObject>
#include <map>
#include <vector>

#include "record/set_writer.h"

namespace zevo::record {

/// The coach's clients as they are on the screen: what is changed is there at once and is written behind, in order, so
/// that nobody waits for the disk or for another writer. Reads lay what is not written yet over what is. Where
/// something could not be written, `refused` says why, and the record's own state counts again. Only on the thread it
/// lives in; the library and the writer outlive it.
class ClientBook : public QObject {
    Q_OBJECT
  public:
    ClientBook(const store::Library& library, SetWriter& writer, QObject* parent = nullptr);

    /// As Library::findClients.
    Result<std::vector<store::ClientSummary>> find(const QString& text, bool archived = false) const;
    Result<store::Client> client(store::ClientId id) const;

    store::ClientId add(store::Client client);
    void change(const store::Client& client);
    /// Everything of one goes to another; the first is gone then (Library::mergeClients). `done`: it is so.
    void merge(store::ClientId from, store::ClientId into, std::function<void()> done);
    /// See eraseClient; `done` is told what is left for the next start.
    void erase(store::ClientId id, SetWriter::Done done);

  signals:
    /// A change was not kept.
    void refused(const zevo::Error& why);

  private:
    struct Unwritten {
        store::Client client;
        int changes = 0;  ///< that are on their way
    };
    void written(store::ClientId id, const Result<void>& result);

    const store::Library& m_library;
    SetWriter& m_writer;
    std::map<store::ClientId, Unwritten> m_unwritten;
};

}  // namespace zevo::record
