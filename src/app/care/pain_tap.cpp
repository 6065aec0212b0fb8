#include "app/care/pain_tap.h"

#include <QBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

#include "app/theme/theme.h"
#include "present/words.h"

namespace zevo::app {
namespace {

/// What a tap stands for: of a range the worse end, so that it is never made light of.
struct Answer {
    int score;
    const char *label, *says;
};
constexpr Answer kAnswers[]{{0, QT_TRANSLATE_NOOP("PainTap", "0"), QT_TRANSLATE_NOOP("PainTap", "nothing")},
                            {2, QT_TRANSLATE_NOOP("PainTap", "1–2"), QT_TRANSLATE_NOOP("PainTap", "a little")},
                            {4, QT_TRANSLATE_NOOP("PainTap", "3–4"), QT_TRANSLATE_NOOP("PainTap", "some")},
                            {5, QT_TRANSLATE_NOOP("PainTap", "5+"), QT_TRANSLATE_NOOP("PainTap", "much")}};

}  // namespace

PainTap::PainTap(QWidget* parent) : QFrame(parent) {
    setObjectName("painTap");
    setProperty("kind", "card");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 10, 18, 12);
    column->setSpacing(6);
    m_question = new QLabel(this);
    m_question->setObjectName("painTapQuestion");
    m_question->setFont(textFont(20, true));
    m_question->setWordWrap(true);
    column->addWidget(m_question);
    m_last = new QLabel(this);
    m_last->setObjectName("painTapLast");
    m_last->setFont(textFont(16));
    m_last->setWordWrap(true);
    column->addWidget(m_last);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    for (const Answer& a : kAnswers) {
        auto* b = new QPushButton(tr("%1  %2").arg(tr(a.label), tr(a.says)), this);
        b->setObjectName(QString("painTap%1").arg(a.score));
        b->setAccessibleName(tr("Pain today: %1, %2").arg(tr(a.label), tr(a.says)));
        b->setToolTip(tr("Or press a digit, 0 to 9, for just that"));
        b->setMinimumHeight(54);
        b->setFont(textFont(19, true));
        connect(b, &QPushButton::clicked, this, [this, score = a.score] { emit answered(score); });
        row->addWidget(b, 1);
        m_answers.push_back(b);
    }
    column->addLayout(row);
    hide();
}

void PainTap::ask(const store::Client& client, const QDate& today) {
    const store::Complaint& c = client.complaint;
    const bool asked = c.askedOn == today && c.score;
    const QString name = client.name.isEmpty() ? tr("client") : client.name;
    m_question->setText(tr("Does anything hurt today, %1?").arg(name));
    QString last;
    if (c.askedOn && c.score.value_or(0) > 0)
        last = tr("On %1 it was %2 of 10").arg(QLocale().toString(*c.askedOn, "d MMM")).arg(*c.score) +
               (c.spots.empty() ? QString() : ": " + present::painSpotsWords(c.spots).toLower()) +
               (c.sharp ? tr(", sharp") : QString()) + ".";
    m_last->setText(last);
    m_last->setVisible(!last.isEmpty());
    setVisible(!asked);
}

bool PainTap::takesKey(int key) {
    if (!isVisible() || key < Qt::Key_0 || key > Qt::Key_9) return false;
    emit answered(key - Qt::Key_0);
    return true;
}

void PainTap::takeFocus() {
    m_answers.front()->setFocus(Qt::OtherFocusReason);
}

}  // namespace zevo::app
