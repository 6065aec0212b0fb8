#pragma once

#include <QFrame>
#include <functional>

class QLabel;
class QHBoxLayout;

namespace zevo::app {

/// A line over the page that asks something and waits as long as it has to: a recording that was broken off, a clip
/// that came from a phone. One question at a time, the others wait behind it.
class QuestionBar : public QFrame {
    Q_OBJECT
  public:
    struct Answer {
        QString name, text;  ///< object name for tests; what stands on the button
        std::function<void()> then;
        bool main = false;
    };
    struct Question {
        QString text;
        std::vector<Answer> answers;
    };
    explicit QuestionBar(QWidget* parent = nullptr);
    void ask(Question question);
    QString text() const;
    int waiting() const { return static_cast<int>(m_questions.size()); }

  private:
    void showNext();
    std::vector<Question> m_questions;
    QLabel* m_text;
    QHBoxLayout* m_row;
    std::vector<QWidget*> m_buttons;
};

}  // namespace zevo::app
