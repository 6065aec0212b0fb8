#pragma once

#include <QObject>
#include <QString>
#include <atomic>
#include <functional>
#include <memory>
#include <vector>

#include "pipeline/analyse_clip.h"

class QThread;

namespace zevo::app {

enum class JobId : int {};

/// Long work on threads of its own, several pieces side by side. What the coach waits for (opening a set) begins at
/// once; measuring waits for a place, the more urgent first, in the order it was asked for; what is merely prepared
/// (Background) does not begin while something asked for is being measured. A failing job never affects
/// others.
class JobQueue : public QObject {
    Q_OBJECT
  public:
    enum class Priority { Background, Normal, Now };
    /// Does the work; must return soon after `cancel` turns true.
    using Work = std::function<Result<void>(const std::atomic<bool>& cancel, const pipeline::OnProgress& progress)>;
    /// Called on the queue's thread when the work has ended; stopped work ends with NoticeKind::Stopped.
    using Done = std::function<void(Result<void>)>;

    struct Job {
        JobId id{};
        QString title;
        Priority priority = Priority::Normal;
        bool running = false;
        pipeline::Progress progress;
    };

    /// `maxConcurrent`: pieces of measuring that run side by side.
    explicit JobQueue(int maxConcurrent = 2, QObject* parent = nullptr);
    /// Stops what runs and waits for it.
    ~JobQueue() override;

    JobId add(const QString& title, Priority priority, Work work, Done done);
    void stop(JobId id);
    void stopAll();
    /// Running ones first, then those that wait, in the order they will begin.
    std::vector<Job> jobs() const;
    bool isIdle() const { return m_all.empty(); }
    /// Pieces of work, running or waiting, of this priority or a more urgent one.
    int count(Priority atLeast) const;

  signals:
    /// A job was added, began, ended or got further (at most ten times a second each).
    void changed();

  private:
    struct Entry {
        Job job;
        Work work;
        Done done;
        std::shared_ptr<std::atomic<bool>> cancel = std::make_shared<std::atomic<bool>>(false);
        QThread* thread = nullptr;
    };
    void startWaiting();
    void start(Entry& entry);
    void ended(JobId id, Result<void> result);
    Entry* find(JobId id);

    std::vector<std::unique_ptr<Entry>> m_all;
    int m_maxConcurrent, m_next = 1;
};

}  // namespace zevo::app
