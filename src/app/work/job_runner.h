#pragma once

#include <QObject>
#include <QPointer>
#include <QThread>
#include <atomic>
#include <functional>
#include <memory>

#include "analysis/analyse_clip.h"

namespace zevo::app {

/// Runs one piece of long work at a time on a thread of its own, and tells the window's thread how far it is.
class JobRunner : public QObject {
    Q_OBJECT
  public:
    /// Does the work; must return soon after `cancel` turns true.
    using Work = std::function<void(const std::atomic<bool>& cancel, const analysis::OnProgress& progress)>;

    explicit JobRunner(QObject* parent = nullptr) : QObject(parent) {}
    ~JobRunner() override;

    bool isRunning() const { return m_thread != nullptr; }
    /// `done` is called on the window's thread when the work has returned, cancelled or not.
    void start(Work work, std::function<void()> done);
    void cancel() { m_cancel = true; }

  signals:
    void progressed(const QString& stage, qint64 done, qint64 all, double secondsLeft);

  private:
    QThread* m_thread = nullptr;
    std::atomic<bool> m_cancel{false};
};

}  // namespace zevo::app
