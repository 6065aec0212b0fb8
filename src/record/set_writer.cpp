#include "record/set_writer.h"

#include <QCoreApplication>
#include <QEvent>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

#include "pipeline/barrier.h"

namespace zevo::record {

struct SetWriter::Thread {
    QString folder;
    store::Access access = store::Access::Write;
    std::mutex mutex;
    std::condition_variable changed;
    std::deque<std::function<void(Result<store::Library>&)>> queue;
    bool ending = false, busy = false;
    std::optional<KnownSet> known;  // of the writing thread alone
    std::thread thread;

    void put(std::function<void(Result<store::Library>&)> work) {
        {
            const std::lock_guard lock(mutex);
            queue.push_back(std::move(work));
        }
        changed.notify_all();
    }

    void run() {
        std::optional<Result<store::Library>> library;
        std::unique_lock lock(mutex);
        for (;;) {
            changed.wait(lock, [&] { return ending || !queue.empty(); });
            if (queue.empty()) return;
            auto work = std::move(queue.front());
            queue.pop_front();
            busy = true;
            lock.unlock();
            if (!library || !*library) library.emplace(store::Library::open(folder, access));
            work(*library);
            work = nullptr;
            lock.lock();
            busy = false;
            changed.notify_all();
        }
    }
};

SetWriter::SetWriter(const QString& libraryFolder, store::Access access, QObject* parent)
    : QObject(parent), m_thread(std::make_unique<Thread>()) {
    m_thread->folder = libraryFolder;
    m_thread->access = access;
    m_thread->thread = std::thread([t = m_thread.get()] { t->run(); });
}

SetWriter::~SetWriter() {
    {
        const std::lock_guard lock(m_thread->mutex);
        m_thread->ending = true;
    }
    m_thread->changed.notify_all();
    m_thread->thread.join();
}

/// What is told may ask for more, and may want to know whether anything else is pending: it is not pending itself then.
void SetWriter::answer(const std::function<void()>& tell) {
    --m_pending;
    tell();
    if (m_pending == 0) emit idle();
}

void SetWriter::know(KnownSet set) {
    m_thread->put([t = m_thread.get(), set = std::move(set)](Result<store::Library>&) { t->known = set; });
}

void SetWriter::commit(store::SetId id, SetChange change, std::shared_ptr<const Catalogue> catalogue,
                       const QString& author, Kept kept) {
    ++m_pending;
    auto work = [this, t = m_thread.get(), id, change = std::move(change), catalogue = std::move(catalogue), author,
                 kept = std::move(kept)](Result<store::Library>& library) {
        auto done = std::make_shared<Result<Committed>>(pipeline::guarded([&]() -> Result<Committed> {
            if (!library) return library.error();
            // Of another set, or after a failure, nothing is known: the keeper reads it.
            KnownSet known{id, -1, {}, {}};
            if (t->known && t->known->id == id) known = *t->known;
            t->known.reset();
            auto committed = SetKeeper(*library, catalogue, author).commit(std::move(known), change);
            if (committed) t->known = committed->known;
            return committed;
        }));
        QMetaObject::invokeMethod(
            this,
            [this, done, kept] {
                answer([&] {
                    if (kept) kept(std::move(*done));
                });
            },
            Qt::QueuedConnection);
    };
    m_thread->put(std::move(work));
}

void SetWriter::run(Work work, Done done) {
    ++m_pending;
    m_thread->put([this, work = std::move(work), done = std::move(done)](Result<store::Library>& library) {
        auto result = std::make_shared<Result<void>>(pipeline::guarded([&]() -> Result<void> {
            if (!library) return library.error();
            return work(*library);
        }));
        QMetaObject::invokeMethod(
            this,
            [this, result, done] {
                answer([&] {
                    if (done) done(std::move(*result));
                });
            },
            Qt::QueuedConnection);
    });
}

void SetWriter::flush() {
    {
        std::unique_lock lock(m_thread->mutex);
        m_thread->changed.wait(lock, [&] { return m_thread->queue.empty() && !m_thread->busy; });
    }
    QCoreApplication::sendPostedEvents(this, QEvent::MetaCall);
}

}  // namespace zevo::record
