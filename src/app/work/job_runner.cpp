#include "app/work/job_runner.h"

#include <QElapsedTimer>

namespace zevo::app {

JobRunner::~JobRunner() {
    m_cancel = true;
    if (m_thread) m_thread->wait();
}

void JobRunner::start(Work work, std::function<void()> done) {
    if (m_thread) return;
    m_cancel = false;
    auto tell = [this, since = QElapsedTimer(), last = QString()](const analysis::Progress& p) mutable {
        // Ten times a second is enough for eyes and leaves the window's queue empty.
        const QString stage = QString::fromUtf8(p.stage);
        if (since.isValid() && since.elapsed() < 100 && stage == last && p.framesDone < p.framesInAll) return;
        since.start();
        last = stage;
        emit progressed(stage, p.framesDone, p.framesInAll, p.secondsLeft);  // queued: this runs on the worker
    };
    m_thread = QThread::create([this, work = std::move(work), tell]() mutable { work(m_cancel, tell); });
    connect(m_thread, &QThread::finished, this, [this, done = std::move(done)] {
        m_thread->deleteLater();
        m_thread = nullptr;
        done();
    });
    m_thread->start();
}

}  // namespace zevo::app
