#pragma once

#include <QFrame>
#include <vector>

#include "store/records.h"

class QLabel;
class QPushButton;

namespace zevo::app {

/// "Does anything hurt today?", one tap before the first set of a client and day, under the live picture; what hurt
/// when they were asked last is told with it. Digits say it exactly.
class PainTap : public QFrame {
    Q_OBJECT
  public:
    explicit PainTap(QWidget* parent);
    /// Asks it of a client who was not asked on this day, and is out of the way otherwise.
    void ask(const store::Client& client, const QDate& today);
    /// True: it was a digit, and is answered.
    bool takesKey(int key);
    /// Of the first answer.
    void takeFocus();

  signals:
    /// 0–10.
    void answered(int score);

  private:
    QLabel *m_question, *m_last;
    std::vector<QPushButton*> m_answers;
};

}  // namespace zevo::app
