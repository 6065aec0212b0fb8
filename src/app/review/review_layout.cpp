// What the review is made of and where it stands.
#include <QBoxLayout>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

#include "app/parts/elided_label.h"
#include "app/review/review_view.h"
#include "app/theme/parts.h"

namespace zevo::app {

ReviewView::ReviewView(Actions& actions, QWidget* parent) : QWidget(parent), m_actions(actions) {
    setFocusPolicy(Qt::StrongFocus);
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(16, 4, 16, 10);
    page->setSpacing(8);

    m_strip = new RepStrip(this);
    m_strip->setObjectName("repStrip");
    page->addWidget(m_strip);

    m_log = new LogRow(m_actions, this);
    page->addWidget(m_log);
    m_asks = new AskRow(this);
    page->addWidget(m_asks);

    auto* middle = new QHBoxLayout;
    middle->setSpacing(16);
    page->addLayout(middle, 1);

    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    m_stage = new Stage(this);
    m_stage->setObjectName("stage");
    left->addWidget(m_stage, 1);
    buildTransport(left);
    m_bar = new CorrectBar(m_actions, this);
    left->addWidget(m_bar);
    m_plot = new CurvePlot(this);
    m_plot->setObjectName("plot");
    left->addWidget(m_plot);
    middle->addLayout(left, 8);

    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    m_answer = new QLabel(this);
    m_answer->setObjectName("answer");
    m_answer->setWordWrap(true);
    m_answer->setFont(textFont(20, true));
    right->addWidget(m_answer);
    m_how = new QLabel(this);
    m_how->setObjectName("answerHow");
    m_how->setWordWrap(true);
    m_how->setFont(textFont(13));
    m_how->setProperty("kind", "faint");
    right->addWidget(m_how);
    m_card = new SayCard(this);
    m_card->setObjectName("sayCard");
    right->addWidget(m_card);
    m_standards = new QComboBox(this);
    m_standards->setObjectName("standards");
    m_standards->setAccessibleName("Standard");
    m_standards->setProperty("kind", "chip");
    m_standards->setFont(textFont(14));
    m_standards->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_standards->setMinimumContentsLength(9);
    auto atEnd = [this](const char* name, const QString& text) {
        auto* b = chip(this, name, text);
        m_log->addRight(b);
        return b;
    };
    m_log->addRight(m_standards);
    m_actions.bind(atEnd("compareSet", tr("Compare")), "compare");
    m_felt = atEnd("felt", "");
    m_about = atEnd("aboutSet", "Set…");
    m_offers = new QLabel(this);
    m_offers->setObjectName("offers");
    m_offers->setTextFormat(Qt::RichText);
    m_offers->setWordWrap(true);
    m_offers->setFont(textFont(14));
    m_offers->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    right->addWidget(m_offers);
    m_notes = new QLabel(this);
    m_notes->setObjectName("notes");
    m_notes->setWordWrap(true);
    m_notes->setFont(textFont(13));
    right->addWidget(m_notes);
    m_column = new ReadingColumn;
    m_column->setObjectName("readings");
    m_scroll = new QScrollArea(this);
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setWidget(m_column);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    right->addWidget(m_scroll, 1);
    middle->addLayout(right, 5);

    m_panel = new SetPanel(this);
    m_feltPicker = new FeltPicker(this);
    connect(m_offers, &QLabel::linkActivated, this, &ReviewView::offerTaken);
    connectPanel();
    connectActions();
    connectCorrecting();
    connect(m_strip, &RepStrip::chosen, this, &ReviewView::chooseRep);
    connect(m_stage, &Stage::moved, this, [this](double t) {
        m_plot->setCursor(t);
        refreshOverlay();
    });
    connect(m_stage, &Stage::shown, this, &ReviewView::refreshOverlay);
    connect(m_stage, &Stage::playingChanged, this, &ReviewView::refreshTransport);
    connect(m_card, &SayCard::findingWanted, this, &ReviewView::chooseFinding);
    connect(m_card, &SayCard::momentWanted, this, &ReviewView::showMoment);
    m_actions.bind(m_card->givenButton(), "giveCue");
    connect(m_card, &SayCard::changeAsked, this, [this](const Ask& ask, bool take) {
        // Taken back, what was asked of this set is asked again.
        const Ask* was = standing(m_document->facts().asks, ask.kind, m_document->facts().movement);
        if (!take && was) return askOfNext(*was, true);
        askOfNext(ask, take);
    });
    connect(m_card, &SayCard::insteadWanted, this, &ReviewView::insteadWanted);
    connect(m_asks, &AskRow::taken, this, [this](const Ask& ask) { askOfNext(ask, true); });
    connect(m_asks, &AskRow::lifted, this, [this](const Ask& ask) { askOfNext(ask, false); });
    connect(m_column, &ReadingColumn::chosen, this, &ReviewView::chooseMeasure);
    connect(m_plot, &CurvePlot::timeWanted, m_stage, &Stage::goTo);
    connect(m_standards, &QComboBox::activated, this,
            [this](int i) { chooseStandard(m_standards->itemData(i).toString()); });
}

void ReviewView::buildTransport(QBoxLayout* into) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    auto button = [&](const char* name, const QString& tip, auto slot) {
        auto* b = new QPushButton(this);
        b->setObjectName(name);
        if (!tip.isEmpty()) b->setToolTip(tip);
        if (!tip.isEmpty()) b->setAccessibleName(tip);
        b->setIconSize({22, 22});
        b->setMinimumHeight(36);
        b->setProperty("kind", "tool");
        b->setFocusPolicy(Qt::TabFocus);
        if constexpr (!std::is_null_pointer_v<decltype(slot)>) connect(b, &QPushButton::clicked, this, slot);
        row->addWidget(b);
        return b;
    };
    m_back = button("stepBack", "One frame back (←)", [this] { m_stage->step(-1); });
    m_play = button("play", "Play or pause (Space)", &ReviewView::togglePlay);
    m_on = button("stepOn", "One frame on (→)", [this] { m_stage->step(1); });
    m_speed = button("speed", "", nullptr);
    m_loop = button("loop", "", nullptr);
    m_loop->setCheckable(true);
    m_figure = button("skeleton", "", nullptr);
    m_figure->setCheckable(true);
    m_other = button("otherView", "", nullptr);
    m_clock = new ElidedLabel(this);
    m_clock->setObjectName("clock");
    m_clock->setProperty("kind", "faint");
    row->addWidget(m_clock, 1);
    m_correct = button("correctSet", "", nullptr);
    m_correct->setText(tr("Correct"));
    m_correct->setCheckable(true);
    m_actions.bind(m_correct, "correct");
    m_leaveOut = button("leaveOut", "", nullptr);
    into->addLayout(row);
}

/// Where the window is low, the strip and the curve give way first, then what can be had by a key; the picture and the
/// sentence stay.
void ReviewView::fit() {
    constexpr int kLow = 640, kVeryLow = 520;
    const bool low = height() < kLow, veryLow = height() < kVeryLow;
    m_strip->setCompact(low);
    m_asks->setHost(low ? m_log : nullptr);
    m_card->setCompact(low);
    m_plot->setVisible(!low && !m_correcting);
    m_log->setVisible(!veryLow || !m_correcting);
}

void ReviewView::resizeEvent(QResizeEvent*) {
    fit();
}

}  // namespace zevo::app
