#include "app/parts/question_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/theme/theme.h"

namespace zevo::app {

QuestionBar::QuestionBar(QWidget* parent) : QFrame(parent) {
    setObjectName("question");
    setProperty("kind", "notice");
    m_row = new QHBoxLayout(this);
    m_row->setContentsMargins(20, 6, 16, 6);
    m_text = new QLabel(this);
    m_text->setObjectName("questionText");
    m_text->setWordWrap(true);
    m_text->setFont(textFont(15));
    m_row->addWidget(m_text, 1);
    hide();
}

QString QuestionBar::text() const {
    return isHidden() ? QString() : m_text->text();
}

void QuestionBar::ask(Question question) {
    m_questions.push_back(std::move(question));
    if (m_questions.size() == 1) showNext();
}

void QuestionBar::showNext() {
    for (QWidget* b : m_buttons) b->deleteLater();
    m_buttons.clear();
    setVisible(!m_questions.empty());
    if (m_questions.empty()) return;
    m_text->setText(m_questions.front().text);
    for (const Answer& a : m_questions.front().answers) {
        auto* b = new QPushButton(a.text, this);
        b->setObjectName(a.name);
        b->setMinimumHeight(40);
        if (a.main) b->setProperty("kind", "main");
        connect(b, &QPushButton::clicked, this, [this, then = a.then] {
            m_questions.erase(m_questions.begin());
            showNext();
            if (then) then();
        });
        m_row->addWidget(b);
        m_buttons.push_back(b);
    }
}

}  // namespace zevo::app
