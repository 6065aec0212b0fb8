#include "app/review/correct_bar.h"

#include <QBoxLayout>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <algorithm>

#include "app/parts/flow_layout.h"
#include "app/theme/theme.h"
#include "present/words.h"

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
        m_edits.push_back(b);
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

    m_kind = new QComboBox(this);
    m_kind->setObjectName("markKind");
    m_kind->setAccessibleName(tr("What to mark in the picture, so that it is followed"));
    row->addWidget(m_kind);
    m_mark = button("markIt", tr("Mark it"), nullptr);
    m_mark->setToolTip(
        tr("Click it once in the picture; it is followed both ways in the background (Ctrl+M; Alt and "
           "arrows move the cross, Ctrl+Enter takes it)"));
    m_mark->setCheckable(true);
    m_nearer = new QDoubleSpinBox(this);
    m_nearer->setObjectName("nearerCm");
    m_nearer->setAccessibleName(tr("How much nearer to the camera than the client's middle it is"));
    m_nearer->setToolTip(m_nearer->accessibleName());
    m_nearer->setRange(0, 150);
    m_nearer->setDecimals(0);
    m_nearer->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_nearer->setPrefix(tr("nearer by "));
    m_nearer->setSuffix(" cm");
    m_nearer->setKeyboardTracking(false);
    row->addWidget(m_nearer);
    m_markOff = button("markOff", tr("Mark off"), nullptr);
    m_markOff->setToolTip(tr("What is marked under this name is not followed any more"));

    for (QWidget* w : {m_leg, m_take, m_mark, m_markOff}) std::erase(m_edits, w);
    arrange();
    connect(m_mark, &QPushButton::toggled, this, &CorrectBar::arrange);
    connect(m_mark, &QPushButton::toggled, this, &CorrectBar::markWanted);
    connect(m_markOff, &QPushButton::clicked, this, &CorrectBar::markTakenOff);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &CorrectBar::chooseKind);
    connect(m_nearer, &QDoubleSpinBox::valueChanged, this, &CorrectBar::nearerTold);
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

/// While something is marked only that is asked; the room is the picture's.
void CorrectBar::arrange() {
    const bool marking = m_mark->isChecked(), canMark = m_kind->count() > 0;
    for (QWidget* w : m_edits) w->setVisible(!marking);
    m_leg->setVisible(!marking && m_oneLeg);
    m_reach->setVisible(!marking);
    m_mark->setVisible(canMark);
    m_kind->setVisible(marking && canMark);
    const bool there =
        std::any_of(m_marked.begin(), m_marked.end(), [this](const Mark& m) { return m.kind == markKind(); });
    m_nearer->setVisible(marking && canMark && markKind() == MarkKind::BarEnd);
    m_markOff->setVisible(marking && canMark && there);
}

void CorrectBar::setSet(bool oneLeg, const QString& leg) {
    m_oneLeg = oneLeg;
    m_leg->setText(leg);
    arrange();
}

void CorrectBar::setHint(const QString& hint) {
    m_hint->setText(hint);
}

void CorrectBar::setMarks(ViewKind view, const std::vector<Mark>& marked) {
    if (m_view != view) {
        const QSignalBlocker quiet(m_kind);
        m_view = view;
        m_kind->clear();
        for (std::size_t k = 0; k < kMarkKinds; ++k)
            if (const auto kind = static_cast<MarkKind>(k); isMarkedIn(kind, view))
                m_kind->addItem(present::markWords(kind), static_cast<int>(k));
    }
    m_marked = marked;
    chooseKind();
}

void CorrectBar::chooseKind() {
    const auto mark =
        std::find_if(m_marked.begin(), m_marked.end(), [this](const Mark& m) { return m.kind == markKind(); });
    const QSignalBlocker quiet(m_nearer);
    m_nearer->setValue(mark != m_marked.end() ? mark->nearerCm : usuallyNearerCm(markKind()));
    arrange();
}

MarkKind CorrectBar::markKind() const {
    return static_cast<MarkKind>(m_kind->currentData().toInt());
}

double CorrectBar::nearerCm() const {
    return m_nearer->value();
}

void CorrectBar::setMarking(bool on) {
    if (m_kind->count() > 0) m_mark->setChecked(on);
}

bool CorrectBar::isMarking() const {
    return m_mark->isChecked();
}

void CorrectBar::letGo() {
    for (QPushButton* b : {m_person, m_lengthButton, m_mark}) {
        const QSignalBlocker quiet(b);
        b->setChecked(false);
    }
    m_length->hide(), m_take->hide();
    arrange();
}

void CorrectBar::askLength(present::Lengths lengths) {
    m_lengths = lengths;
    m_length->setSuffix(lengths == present::Lengths::Us ? " in" : " cm");
    m_length->show(), m_take->show();
    m_length->setFocus();
    m_length->selectAll();
}

}  // namespace zevo::app
