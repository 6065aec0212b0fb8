// Long work away from the window's thread: side by side, by priority, progress, stop, and a barrier for what is thrown.
#include <QThread>
#include <stdexcept>
#include <thread>

#include "app/work/job_queue.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::app;
using pipeline::Doing;
using P = JobQueue::Priority;

namespace {

/// Work that goes on until it is let go or stopped.
struct Gate {
    std::atomic<bool> open{false}, begun{false};
    JobQueue::Work work() {
        return [this](const std::atomic<bool>& cancel, const auto&) -> Result<void> {
            begun = true;
            while (!open && !cancel) std::this_thread::sleep_for(std::chrono::milliseconds(2));
            return {};
        };
    }
};

void nothing(const Result<void>&) {}

}  // namespace

class TestJobQueue : public QObject {
    Q_OBJECT
  private slots:
    /// What a piece of work holds (a camera that takes its time to close) ends on the work's own thread.
    void whatWorkHoldsEndsOnItsThread() {
        struct Held {
            std::atomic<Qt::HANDLE>* ended;
            ~Held() { *ended = QThread::currentThreadId(); }
        };
        std::atomic<Qt::HANDLE> ended{nullptr};
        bool done = false;
        JobQueue queue;
        queue.add(
            "close", JobQueue::Priority::Now,
            [held = std::make_shared<Held>(&ended)](const auto&, const auto&) -> Result<void> { return {}; },
            [&](const Result<void>&) {
                done = true;
                QVERIFY(ended.load() != nullptr);
            });
        QTRY_VERIFY_WITH_TIMEOUT(done, 60000);
        QVERIFY(ended.load() != nullptr && ended.load() != QThread::currentThreadId());
    }

    void workRunsElsewhereAndDoneHere() {
        JobQueue queue;
        Qt::HANDLE here = QThread::currentThreadId(), there = nullptr, ended = nullptr;
        bool good = false;
        queue.add(
            "x", P::Normal,
            [&](const auto&, const auto&) -> Result<void> {
                there = QThread::currentThreadId();
                return {};
            },
            [&](const Result<void>& r) {
                ended = QThread::currentThreadId();
                good = bool(r);
            });
        QVERIFY(!queue.isIdle());
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
        QVERIFY(there && there != here && good);
        QCOMPARE(ended, here);
    }

    void progressIsThinnedOutAndItsLastWordArrives() {
        JobQueue queue;
        int told = 0;
        long last = -1;
        connect(&queue, &JobQueue::changed, this, [&] {
            for (const auto& j : queue.jobs()) {
                QVERIFY(j.progress.framesDone >= last && j.progress.framesDone <= 3000);
                last = std::max(last, j.progress.framesDone);
            }
            ++told;
        });
        queue.add(
            "x", P::Normal,
            [](const auto&, const pipeline::OnProgress& progress) -> Result<void> {
                for (long i = 0; i <= 3000; ++i) progress({i, 3000, 1.0, Doing::Reading});
                std::this_thread::sleep_for(std::chrono::milliseconds(50));
                return {};
            },
            nothing);
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
        QCOMPARE(last, 3000L);
        QVERIFY2(told < 300, qPrintable(QString::number(told)));
    }

    void twoPiecesRunSideBySideTheThirdWaits() {
        JobQueue queue(2);
        Gate a, b, c;
        for (Gate* g : {&a, &b, &c}) queue.add("x", P::Normal, g->work(), nothing);
        QTRY_VERIFY_WITH_TIMEOUT(a.begun && b.begun, 600000);
        QTest::qWait(30);
        QVERIFY(!c.begun);
        QCOMPARE(queue.jobs().size(), std::size_t{3});
        QVERIFY(queue.jobs()[0].running && queue.jobs()[1].running && !queue.jobs()[2].running);
        a.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(c.begun, 600000);
        b.open = c.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
    }

    void whatTheCoachWaitsForBeginsAtOnce() {
        JobQueue queue(1);
        Gate measuring, opening;
        queue.add("measuring", P::Normal, measuring.work(), nothing);
        QTRY_VERIFY_WITH_TIMEOUT(measuring.begun, 600000);
        queue.add("opening", P::Now, opening.work(), nothing);
        QTRY_VERIFY_WITH_TIMEOUT(opening.begun, 600000);
        QCOMPARE(queue.count(P::Now), 1);
        opening.open = measuring.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
    }

    void theMoreUrgentGoesFirst() {
        JobQueue queue(1);
        Gate first;
        QStringList order;
        queue.add("first", P::Normal, first.work(), nothing);
        for (const auto& [name, priority] :
             {std::pair{"prepared", P::Background}, {"also prepared", P::Background}, {"asked for", P::Normal}})
            queue.add(
                name, priority, [](const auto&, const auto&) -> Result<void> { return {}; },
                [&order, name = QString(name)](const auto&) { order.append(name); });
        first.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
        QCOMPARE(order, (QStringList{"asked for", "prepared", "also prepared"}));
    }

    void preparingWaitsForWhatWasAskedFor() {
        JobQueue queue(2);
        Gate asked, prepared;
        queue.add("asked for", P::Normal, asked.work(), nothing);
        queue.add("prepared", P::Background, prepared.work(), nothing);
        QTRY_VERIFY_WITH_TIMEOUT(asked.begun, 600000);
        QTest::qWait(30);
        QVERIFY(!prepared.begun);  // though there is a place
        asked.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(prepared.begun, 600000);
        prepared.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
    }

    void stoppingEndsOneAndOnlyIt() {
        JobQueue queue(2);
        Gate a, b;
        QStringList stopped;
        auto note = [&](const char* name) {
            return [&stopped, name](const Result<void>& r) {
                if (!r && wasStopped(r.error())) stopped.append(name);
            };
        };
        const JobId first = queue.add("a", P::Normal, a.work(), note("a"));
        queue.add("b", P::Normal, b.work(), note("b"));
        const JobId waiting = queue.add("c", P::Normal, a.work(), note("c"));
        queue.stop(waiting);  // not begun yet: gone at once
        QCOMPARE(stopped, QStringList{"c"});
        queue.stop(first);
        QTRY_COMPARE_WITH_TIMEOUT(stopped, (QStringList{"c", "a"}), 600000);
        QVERIFY(!queue.isIdle());
        b.open = true;
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
        QCOMPARE(stopped.size(), 2);
    }

    void whatIsThrownEndsTheJobOnly() {
        JobQueue queue;
        std::string detail;
        queue.add(
            "x", P::Normal, [](const auto&, const auto&) -> Result<void> { throw std::runtime_error("out of luck"); },
            [&](const Result<void>& r) { detail = r.error().detail; });
        queue.add(
            "y", P::Normal, [](const auto&, const auto&) -> Result<void> { throw 7; },
            [&](const Result<void>& r) { QCOMPARE(r.error().notice->kind, NoticeKind::Inside); });
        QTRY_VERIFY_WITH_TIMEOUT(queue.isIdle(), 600000);
        QCOMPARE(detail, std::string("out of luck"));
    }

    void goingAwayEndsTheWork() {
        std::atomic<bool> ended{false};
        {
            JobQueue queue;
            queue.add(
                "x", P::Normal,
                [&](const std::atomic<bool>& cancel, const auto&) -> Result<void> {
                    while (!cancel) std::this_thread::sleep_for(std::chrono::milliseconds(2));
                    ended = true;
                    return {};
                },
                nothing);
        }
        QVERIFY(ended);
    }
};

ZEVO_SUITE(TestJobQueue, "job_queue")
#include "test_job_queue.moc"
