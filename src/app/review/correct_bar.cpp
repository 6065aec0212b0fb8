#include "app/review/correct_bar.h"

#include <QBoxLayout>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>

#include "app/shell/flow_layout.h"
#include "app/theme/theme.h"

namespace zevo::app {

CorrectBar::CorrectBar(Actions& actions, QWidget* parent) : QFrame(parent) {
    setObjectName("correctBar");
    setProperty("kind", "card");
    setAccessibleName(tr("Correct what Zevo saw"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* words = new QHBoxLayout;
    m_hint = new QLabel(this);
    m_hint->setObjectName("correctHint");
    m_hint->setFont(textFont(13));
    m_hint->setWordWrap(true);
    words->addWidget(m_hint, 1);
    m_reach = new QComboBox(this);
    m_reach->setObjectName("reach");
    m_reach->setAccessibleName(tr("How far in time a moved point takes its neighbours along"));
    for (const auto& [text, reach] : {std::pair{tr("this moment"), 0.1}, std::pair{tr("± 0.3 s"), 0.3},
                                      std::pair{tr("± 0.6 s"), 0.6}, std::pair{tr("the whole rep"), 0.0}})
        m_reach->addItem(text, reach);
    m_reach->setCurrentIndex(1);
    words->addWidget(m_reach);
    column->addLayout(words);

    auto* row = new FlowLayout(4);
    column->addLayout(row);
    auto button = [&](const QString& name, const QString& text, const char* action) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setProperty("kind", "quiet");
        b->setFont(textFont(14));
        b->setFocusPolicy(Qt::TabFocus);
        if (action) actions.bind(b, action);
        row->addWidget(b);
        return b;
    };
    button("notARep", tr("No rep"), "notARep");
    button("splitRep", tr("Split"), "splitRep");
    button("joinReps", tr("Join"), "joinReps");
    button("addRep", tr("Add rep"), "addRep");
    m_leg = button("nameLeg", "", "nameLeg");
    button("setBegins", tr("Begins"), "setBegins");
    button("setEnds", tr("Ends"), "setEnds");
    button("wholeClip", tr("Whole"), "wholeClip");
    button("restsHere", tr("Rests here"), "restsHere");
    button("asBefore", tr("Points back"), "pointsBack");
    m_lengthButton = button("trueLength", tr("True length"), nullptr);
    m_lengthButton->setToolTip(tr("Draw along something whose length you know, at the client's distance"));
    m_lengthButton->setCheckable(true);
    m_length = new QDoubleSpinBox(this);
    m_length->setObjectName("lengthCm");
    m_length->setAccessibleName(tr("How long it is"));
    m_length->setRange(0, 400);
    m_length->setDecimals(1);
    m_length->setKeyboardTracking(false);
    m_length->hide();
    row->addWidget(m_length);
    m_take = button("takeLength", tr("Take it"), nullptr);
    m_take->hide();
    m_person = button("whoIsIt", tr("The other person"), nullptr);
    m_person->setToolTip(tr("Click the client in the picture; the clip is followed again in the background"));
    m_person->setCheckable(true);

    connect(m_lengthButton, &QPushButton::toggled, this, &CorrectBar::lengthWanted);
    connect(m_person, &QPushButton::toggled, this, &CorrectBar::personWanted);
    connect(m_take, &QPushButton::clicked, this, [this] {
        if (m_length->value() <= 0) return;
        emit lengthTold(present::toCm(m_length->value(), m_lengths));
        m_length->hide(), m_take->hide();
        m_lengthButton->setChecked(false);
    });
    hide();
}

double CorrectBar::reachS() const {
    return m_reach->currentData().toDouble();
}

void CorrectBar::setSet(bool oneLeg, const QString& leg) {
    m_leg->setVisible(oneLeg);
    m_leg->setText(leg);
}

void CorrectBar::setHint(const QString& hint) {
    m_hint->setText(hint);
}

void CorrectBar::letGo() {
    for (QPushButton* b : {m_person, m_lengthButton}) {
        const QSignalBlocker quiet(b);
        b->setChecked(false);
    }
    m_length->hide(), m_take->hide();
}

void CorrectBar::askLength(present::Lengths lengths) {
    m_lengths = lengths;
    m_length->setSuffix(lengths == present::Lengths::Us ? " in" : " cm");
    m_length->show(), m_take->show();
    m_length->setFocus();
    m_length->selectAll();
}

}  // namespace zevo::app
