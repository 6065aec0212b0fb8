#include "record/client_book.h"

#include <algorithm>

#include "record/erasing.h"

namespace zevo::record {
namespace {

bool holdsAllWords(const store::Client& client, const QString& text) {
    const QStringList words = text.split(' ', Qt::SkipEmptyParts);
    return std::all_of(words.begin(), words.end(), [&](const QString& word) {
        return (client.name + '\n' + client.goals + '\n' + client.note).contains(word, Qt::CaseInsensitive);
    });
}

}  // namespace

ClientBook::ClientBook(const store::Library& library, SetWriter& writer, QObject* parent)
    : QObject(parent), m_library(library), m_writer(writer) {}

Result<std::vector<store::ClientSummary>> ClientBook::find(const QString& text, bool archived) const {
    auto found = m_library.findClients(text, archived);
    if (!found) return found;
    for (const auto& [id, mine] : m_unwritten) {
        const auto there =
            std::find_if(found->begin(), found->end(), [&](const auto& c) { return c.client.id == mine.client.id; });
        if (mine.client.archived != archived) {
            if (there != found->end()) found->erase(there);
        } else if (there != found->end()) {
            there->client = mine.client;
        } else if (holdsAllWords(mine.client, text)) {
            found->push_back({mine.client, {}, {}, 0});
        }
    }
    return found;
}

Result<store::Client> ClientBook::client(store::ClientId id) const {
    const auto mine = m_unwritten.find(id);
    return mine == m_unwritten.end() ? m_library.client(id) : Result<store::Client>(mine->second.client);
}

void ClientBook::written(store::ClientId id, const Result<void>& result) {
    const auto mine = m_unwritten.find(id);
    if (mine != m_unwritten.end() && --mine->second.changes <= 0) m_unwritten.erase(mine);
    if (result) return;
    m_unwritten.erase(id);
    emit refused(result.error());
}

store::ClientId ClientBook::add(store::Client client) {
    client.id = store::ClientId::fresh();
    m_unwritten[client.id] = {client, 1};
    m_writer.run(
        [client](store::Library& library) -> Result<void> {
            const auto added = library.addClient(client);
            return added ? Result<void>() : added.error();
        },
        [this, id = client.id](const Result<void>& result) { written(id, result); });
    return client.id;
}

void ClientBook::change(const store::Client& client) {
    Unwritten& mine = m_unwritten[client.id];
    mine.client = client;
    ++mine.changes;
    m_writer.run([client](store::Library& library) { return library.updateClient(client); },
                 [this, id = client.id](const Result<void>& result) { written(id, result); });
}

void ClientBook::merge(store::ClientId from, store::ClientId into, std::function<void()> done) {
    m_writer.run([from, into](store::Library& library) { return library.mergeClients(from, into); },
                 [this, done = std::move(done)](const Result<void>& result) {
                     if (!result) return emit refused(result.error());
                     done();
                 });
}

void ClientBook::erase(store::ClientId id, SetWriter::Done done) {
    m_writer.run([id](store::Library& library) { return eraseClient(library, id); },
                 [this, id, done = std::move(done)](const Result<void>& result) {
                     m_unwritten.erase(id);
                     done(result);
                 });
}

}  // namespace zevo::record
