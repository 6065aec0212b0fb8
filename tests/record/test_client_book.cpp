// Clients are changed at once and written behind.
#include <QSignalSpy>
#include <QTemporaryDir>
#include <future>

#include "record/client_book.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::record;

class TestClientBook : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;

    QString folder(const char* name) { return m_dir.filePath(name); }

  private slots:
    void whatIsNotWrittenYetIsThere() {
        auto library = *store::Library::open(folder("a"));
        SetWriter writer(folder("a"));
        ClientBook book(library, writer);
        // The writer is kept busy until told otherwise: nothing of what follows can have been written.
        std::promise<void> go;
        writer.run([gone = go.get_future().share()](store::Library&) -> Result<void> {
            gone.wait();
            return {};
        });
        const store::ClientId id = book.add({{}, "Wenna Stoke", 168, "", {}});
        QCOMPARE(library.clients()->size(), std::size_t{0});
        QCOMPARE(book.find({})->size(), std::size_t{1});
        store::Client client = *book.client(id);
        QCOMPARE(client.statureCm, 168.0);
        client.note = "right shoulder";
        book.change(client);
        QCOMPARE(book.find("SHOULDER wenna")->size(), std::size_t{1});
        QVERIFY(book.find("nobody of this name")->empty());
        QCOMPARE(book.client(id)->note, QString("right shoulder"));
        client.archived = true;
        book.change(client);
        QVERIFY(book.find({}, false)->empty());
        QCOMPARE(book.find({}, true)->size(), std::size_t{1});
        go.set_value();
        writer.flush();
        // Back from the archive: in one list and not in the other, before it is written and after.
        std::promise<void> again;
        writer.run([gone = again.get_future().share()](store::Library&) -> Result<void> {
            gone.wait();
            return {};
        });
        client.archived = false;
        book.change(client);
        QCOMPARE(book.find({}, false)->size(), std::size_t{1});
        QVERIFY(book.find({}, true)->empty());
        client.archived = true;
        book.change(client);
        again.set_value();
        writer.flush();
        QCOMPARE(library.client(id)->note, QString("right shoulder"));
        QVERIFY(book.find({}, false)->empty());
        QCOMPARE(book.find({}, true)->size(), std::size_t{1});
    }

    void whatCannotBeWrittenIsTakenBackAndSaid() {
        auto library = *store::Library::open(folder("b"));
        const auto id = *library.addClient({{}, "Wenna Stoke", 168, "", {}});
        SetWriter writer(folder("b"), store::Access::Read);
        ClientBook book(library, writer);
        QSignalSpy refused(&book, &ClientBook::refused);
        store::Client client = *library.client(id);
        client.name = "Somebody Else";
        book.change(client);
        const auto added = book.add({{}, "Nobody Yet", 0, "", {}});
        writer.flush();
        QCOMPARE(refused.size(), 2);
        QCOMPARE(book.client(id)->name, QString("Wenna Stoke"));
        QVERIFY(!book.client(added));
        QCOMPARE(book.find({})->size(), std::size_t{1});
    }

    void mergedAndErased() {
        auto library = *store::Library::open(folder("c"));
        SetWriter writer(folder("c"));
        ClientBook book(library, writer);
        const auto a = book.add({{}, "Wenna Stoke", 168, "", {}}), b = book.add({{}, "Wena Stoke", 0, "", {}});
        int done = 0;
        book.merge(b, a, [&] { ++done; });
        writer.flush();
        QCOMPARE(done, 1);
        QCOMPARE(book.find({})->size(), std::size_t{1});
        QVERIFY(!book.client(b) && book.client(a));
        QSignalSpy refused(&book, &ClientBook::refused);
        book.merge(b, a, [&] { ++done; });  // is gone already
        writer.flush();
        QCOMPARE(done, 1);
        QCOMPARE(refused.size(), 1);
        book.erase(a, [&](const Result<void>& erased) { done += bool(erased); });
        writer.flush();
        QCOMPARE(done, 2);
        QVERIFY(book.find({})->empty());
    }
};

ZEVO_SUITE(TestClientBook, "client_book")
#include "test_client_book.moc"
