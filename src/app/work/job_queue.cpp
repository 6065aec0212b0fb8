#include "app/work/job_queue.h"

#include <sys/resource.h>
#include <unistd.h>

#include <QElapsedTimer>
#include <QThread>
#include <algorithm>

#include "pipeline/barrier.h"

namespace zevo::app {

JobQueue::JobQueue(int maxConcurrent, QObject* parent) : QObject(parent), m_maxConcurrent(std::max(1, maxConcurrent)) {}

JobQueue::~JobQueue() {
    for (const auto& e : m_all) *e->cancel = true;
    for (const auto& e : m_all)
        if (e->thread) e->thread->wait();
}

JobId JobQueue::add(const QString& title, Priority priority, Work work, Done done) {
    auto entry = std::make_unique<Entry>();
    entry->job = {JobId(m_next++), title, priority, false, {}};
    entry->work = std::move(work);
    entry->done = std::move(done);
    const JobId id = entry->job.id;
    m_all.push_back(std::move(entry));
    startWaiting();
    emit changed();
    return id;
}

JobQueue::Entry* JobQueue::find(JobId id) {
    for (const auto& e : m_all)
        if (e->job.id == id) return e.get();
    return nullptr;
}

void JobQueue::stop(JobId id) {
    Entry* e = find(id);
    if (!e) return;
    *e->cancel = true;
    if (!e->job.running) ended(id, refusal(NoticeKind::Stopped));
}

void JobQueue::stopAll() {
    for (const Job& job : jobs()) stop(job.id);
}

std::vector<JobQueue::Job> JobQueue::jobs() const {
    std::vector<Job> out;
    for (const auto& e : m_all) out.push_back(e->job);
    std::stable_sort(out.begin(), out.end(), [](const Job& a, const Job& b) {
        return std::pair(!a.running, -static_cast<int>(a.priority)) <
               std::pair(!b.running, -static_cast<int>(b.priority));
    });
    return out;
}

int JobQueue::count(Priority atLeast) const {
    return static_cast<int>(
        std::count_if(m_all.begin(), m_all.end(), [&](const auto& e) { return e->job.priority >= atLeast; }));
}

namespace {

/// The thread, and those it starts, measures for long: where cores are short the window, whose events take a few
/// hundredths of a second, gets more of one. Not much more: other programs would starve what the coach waits for.
void stepBack() {
    constexpr int kNiceness = 5;
    (void)setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kNiceness);  // refused: as before
}

}  // namespace

void JobQueue::startWaiting() {
    for (;;) {
        int taken = 0;
        bool urgent = false;  // something the coach asked for is being measured: it gets the machine
        Entry* next = nullptr;
        for (const auto& e : m_all) {
            if (e->job.running) {
                taken += e->job.priority != Priority::Now;
                urgent |= e->job.priority == Priority::Normal;
                continue;
            }
            if (!next || e->job.priority > next->job.priority) next = e.get();
        }
        if (!next || (next->job.priority != Priority::Now && taken >= m_maxConcurrent)) return;
        if (next->job.priority == Priority::Background && urgent) return;
        start(*next);
    }
}

void JobQueue::start(Entry& e) {
    e.job.running = true;
    const JobId id = e.job.id;
    auto tell = [this, id, since = QElapsedTimer(), last = -1](const pipeline::Progress& p) mutable {
        // Ten times a second is enough for eyes and leaves the window's queue empty.
        if (since.isValid() && since.elapsed() < 100 && static_cast<int>(p.doing) == last &&
            p.framesDone < p.framesInAll)
            return;
        since.start();
        last = static_cast<int>(p.doing);
        QMetaObject::invokeMethod(
            this,
            [this, id, p] {
                if (Entry* entry = find(id)) entry->job.progress = p;
                emit changed();
            },
            Qt::QueuedConnection);
    };
    auto result = std::make_shared<Result<void>>();
    // The work goes to its thread whole and ends there with everything it holds: a camera takes its time to close.
    e.thread = QThread::create([work = std::make_shared<Work>(std::move(e.work)), cancel = e.cancel, tell, result,
                                measures = e.job.priority != Priority::Now]() mutable {
        if (measures) stepBack();
        *result = pipeline::guarded([&] { return (*work)(*cancel, tell); });
        *work = nullptr;
    });
    connect(e.thread, &QThread::finished, this, [this, id, result, cancel = e.cancel] {
        ended(id, *cancel ? Result<void>(refusal(NoticeKind::Stopped)) : *result);
    });
    e.thread->start();
}

void JobQueue::ended(JobId id, Result<void> result) {
    const auto at = std::find_if(m_all.begin(), m_all.end(), [&](const auto& e) { return e->job.id == id; });
    if (at == m_all.end()) return;
    const std::unique_ptr<Entry> entry = std::move(*at);
    m_all.erase(at);
    if (entry->thread) entry->thread->deleteLater();
    startWaiting();
    entry->done(std::move(result));
    emit changed();
}

}  // namespace zevo::app
