#pragma once

#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace zevo::app {

/// Long work with its progress and a way to stop it; or what went wrong, what is safe and what to do.
class BusyView : public QWidget {
    Q_OBJECT
  public:
    explicit BusyView(QWidget* parent = nullptr);
    void showWork(const QString& title);
    void setProgress(const QString& stage, qint64 done, qint64 all, double secondsLeft);
    void showProblem(const QString& title, const QString& message, const QString& safe);
    QString message() const;

  signals:
    void cancelWanted();
    void otherClipWanted();
    void backWanted();

  private:
    QLabel *m_title, *m_message, *m_safe;
    QProgressBar* m_bar;
    QPushButton *m_cancel, *m_other, *m_back;
};

}  // namespace zevo::app
