// What the review is made of and where it stands.
#include <QBoxLayout>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

#include "app/review/review_view.h"

namespace zevo::app {

ReviewView::ReviewView(QUndoStack* undo, QWidget* parent) : QWidget(parent), m_undo(undo) {
    setFocusPolicy(Qt::StrongFocus);
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(16, 4, 16, 10);
    page->setSpacing(8);

    m_strip = new RepStrip(this);
    m_strip->setObjectName("repStrip");
    page->addWidget(m_strip);

    auto* middle = new QHBoxLayout;
    middle->setSpacing(16);
    page->addLayout(middle, 1);

    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    m_stage = new Stage(this);
    m_stage->setObjectName("stage");
    left->addWidget(m_stage, 1);
    buildTransport(left);
    m_plot = new CurvePlot(this);
    m_plot->setObjectName("plot");
    left->addWidget(m_plot);
    middle->addLayout(left, 8);

    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    m_card = new SayCard(this);
    m_card->setObjectName("sayCard");
    right->addWidget(m_card);
    auto* judged = new QHBoxLayout;
    auto* by = new QLabel("Judged by", this);
    m_standards = new QComboBox(this);
    m_standards->setObjectName("standards");
    m_standards->setAccessibleName("Standard");
    judged->addWidget(by);
    m_about = new QPushButton("Set…", this);
    m_about->setObjectName("aboutSet");
    m_about->setToolTip("Movement, load, pain, the other view, standards (T)");
    m_about->setAccessibleName("About this set");
    m_about->setFocusPolicy(Qt::TabFocus);
    judged->addWidget(m_standards, 1);
    judged->addWidget(m_about);
    right->addLayout(judged);
    m_looks = new QLabel(this);
    m_looks->setObjectName("looksLike");
    m_looks->setWordWrap(true);
    m_looks->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    right->addWidget(m_looks);
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
    connect(m_about, &QPushButton::clicked, m_panel, &SetPanel::toggle);
    connect(m_looks, &QLabel::linkActivated, this, &ReviewView::movementProposed);
    connect(m_strip, &RepStrip::chosen, this, &ReviewView::chooseRep);
    connect(m_stage, &Stage::moved, this, [this](double t) {
        m_plot->setCursor(t);
        refreshOverlay();
    });
    connect(m_stage, &Stage::playingChanged, this, &ReviewView::refreshTransport);
    connect(m_card, &SayCard::findingWanted, this, &ReviewView::chooseFinding);
    connect(m_card, &SayCard::momentWanted, this, &ReviewView::showMoment);
    connect(m_column, &ReadingColumn::chosen, this, &ReviewView::chooseMeasure);
    connect(m_plot, &CurvePlot::timeWanted, m_stage, &Stage::goTo);
    connect(m_standards, &QComboBox::activated, this,
            [this](int i) { chooseStandard(m_standards->itemData(i).toString()); });
}

void ReviewView::buildTransport(QBoxLayout* into) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto button = [&](const char* name, const QString& tip, auto slot) {
        auto* b = new QPushButton(this);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        b->setIconSize({22, 22});
        b->setMinimumSize(48, 38);
        b->setFocusPolicy(Qt::TabFocus);
        connect(b, &QPushButton::clicked, this, slot);
        row->addWidget(b);
        return b;
    };
    m_back = button("stepBack", "One frame back (←)", [this] { m_stage->step(-1); });
    m_play = button("play", "Play or pause (Space)", &ReviewView::togglePlay);
    m_on = button("stepOn", "One frame on (→)", [this] { m_stage->step(1); });
    m_speed = button("speed", "Speed (S)", &ReviewView::nextSpeed);
    m_loop = button("loop", "Loop this rep (L)", &ReviewView::toggleLoop);
    m_loop->setCheckable(true);
    m_figure = button("skeleton", "Show all tracked points (K)", &ReviewView::toggleSkeleton);
    m_figure->setCheckable(true);
    m_other = button("otherView", "The other view (V)", &ReviewView::otherView);
    m_clock = new QLabel(this);
    m_clock->setObjectName("clock");
    m_clock->setProperty("kind", "faint");
    row->addWidget(m_clock);
    row->addStretch();
    m_leaveOut = button("leaveOut", "This rep does not count (X)", &ReviewView::toggleLeftOut);
    into->addLayout(row);
}

}  // namespace zevo::app
