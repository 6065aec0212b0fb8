#pragma once

#include <QFrame>

#include "app/work/job_queue.h"

class QLabel;
class QProgressBar;
class QPushButton;

namespace zevo::app {

/// One quiet line over the page: what is being measured, how long it will take and how to stop it; below it what became
/// ready, or why a clip could not be measured. It never covers the page and never changes it: that is the coach's
/// decision.
class WorkStrip : public QFrame {
    Q_OBJECT
  public:
    explicit WorkStrip(QWidget* parent = nullptr);
    void showJobs(const std::vector<JobQueue::Job>& jobs);
    /// A set can be shown now.
    void showReady(const QString& text);
    /// What could not be done, why, what is safe, and whether another clip may be chosen.
    void showProblem(const QString& title, const QString& message, const QString& safe, bool clip);
    /// It does not hold any more. False: it is not there, since somebody has read it.
    bool withdrawProblem(const QString& title, const QString& message);
    /// While a set is filmed the page says itself what goes on: nothing may push the picture about.
    void setQuiet(bool quiet);
    void dismiss();
    void dismissProblem();

    /// Of the problem.
    QString message() const;
    bool hasProblem() const;
    bool hasReady() const;

  signals:
    void stopWanted();
    void readyWanted();
    void otherClipWanted();
    void copyWanted();

  private:
    void arrange();

    QWidget *m_work, *m_readyBox, *m_problemBox;
    QLabel *m_title, *m_waiting, *m_readyText, *m_text, *m_safe;
    QProgressBar* m_bar;
    QPushButton *m_stop, *m_show, *m_other;
    bool m_problem = false, m_ready = false, m_working = false, m_quiet = false;
};

/// "Measuring: frame 120 of 480, about 9 s left".
QString progressText(const pipeline::Progress& progress);

}  // namespace zevo::app
