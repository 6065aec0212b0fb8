// Long work away from the window's thread: progress, cancel, one at a time, ending with the window.
#include <QCoreApplication>
#include <QTest>
#include <QThread>
#include <thread>

#include "app/work/job_runner.h"

using namespace zevo;
using namespace zevo::app;

class TestJobRunner : public QObject {
    Q_OBJECT
  private slots:
    void workRunsElsewhereAndDoneHere() {
        JobRunner runner;
        Qt::HANDLE here = QThread::currentThreadId(), there = nullptr, ended = nullptr;
        runner.start([&](const auto&, const auto&) { there = QThread::currentThreadId(); },
                     [&] { ended = QThread::currentThreadId(); });
        QVERIFY(runner.isRunning());
        QTRY_VERIFY(!runner.isRunning());
        QVERIFY(there && there != here);
        QCOMPARE(ended, here);
    }

    void progressArrivesThinnedOutAndItsLastWordToo() {
        JobRunner runner;
        int told = 0;
        qint64 last = -1;
        QString stage;
        connect(&runner, &JobRunner::progressed, this, [&](const QString& s, qint64 done, qint64 all, double) {
            QVERIFY(QThread::currentThread() == thread());
            QVERIFY(done >= last && done <= all);
            stage = s;
            last = done;
            ++told;
        });
        runner.start(
            [](const auto&, const pipeline::OnProgress& progress) {
                for (long i = 0; i <= 3000; ++i) progress({i, 3000, 1.0, "Reading"});
            },
            [] {});
        QTRY_VERIFY(!runner.isRunning());
        QTRY_COMPARE(last, qint64{3000});
        QCOMPARE(stage, QString("Reading"));
        QVERIFY2(told < 300, qPrintable(QString::number(told)));
    }

    void cancelReachesTheWork() {
        JobRunner runner;
        std::atomic<bool> saw{false};
        bool done = false;
        auto wait = [&](const std::atomic<bool>& cancel, const auto&) {
            while (!cancel) std::this_thread::sleep_for(std::chrono::milliseconds(2));
            saw = true;
        };
        runner.start(wait, [&] { done = true; });
        runner.cancel();
        QTRY_VERIFY(done);
        QVERIFY(saw);
        // The next work does not begin cancelled.
        bool cancelled = true;
        runner.start([&](const std::atomic<bool>& cancel, const auto&) { cancelled = cancel; }, [] {});
        QTRY_VERIFY(!runner.isRunning());
        QVERIFY(!cancelled);
    }

    void onlyOneAtATime() {
        JobRunner runner;
        std::atomic<bool> go{false};
        bool second = false;
        runner.start(
            [&](const auto&, const auto&) {
                while (!go) std::this_thread::sleep_for(std::chrono::milliseconds(2));
            },
            [] {});
        runner.start([&](const auto&, const auto&) { second = true; }, [] {});
        go = true;
        QTRY_VERIFY(!runner.isRunning());
        QVERIFY(!second);
    }

    void goingAwayEndsTheWork() {
        std::atomic<bool> ended{false};
        {
            JobRunner runner;
            runner.start(
                [&](const std::atomic<bool>& cancel, const auto&) {
                    while (!cancel) std::this_thread::sleep_for(std::chrono::milliseconds(2));
                    ended = true;
                },
                [] {});
        }
        QVERIFY(ended);
    }
};

QTEST_GUILESS_MAIN(TestJobRunner)
#include "test_job_runner.moc"
