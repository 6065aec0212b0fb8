#include "app/review/set_panel.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>

#include "app/theme/parts.h"
#include "present/words.h"

namespace zevo::app {
namespace {

QLabel* words(QWidget* parent, const char* name) {
    auto* l = new QLabel(parent);
    l->setObjectName(name);
    l->setWordWrap(true);
    l->setFont(textFont(13));
    l->setProperty("kind", "faint");
    return l;
}

QDoubleSpinBox* number(QWidget* parent, const char* name, const QString& spoken, int most, const QString& suffix,
                       const QString& none) {
    auto* b = new QDoubleSpinBox(parent);
    b->setObjectName(name);
    b->setAccessibleName(spoken);
    b->setRange(0, most);
    b->setSuffix(suffix);
    b->setSpecialValueText(none);
    b->setKeyboardTracking(false);
    b->setButtonSymbols(QAbstractSpinBox::NoButtons);
    b->setDecimals(0);
    return b;
}

}  // namespace

SetPanel::SetPanel(QWidget* parent) : QFrame(parent) {
    setObjectName("setPanel");
    setAccessibleName("About this set");
    setFocusPolicy(Qt::StrongFocus);
    auto* frame = new QVBoxLayout(this);
    frame->setContentsMargins(1, 8, 0, 12);
    auto* page = new QWidget;
    page->setObjectName("setPage");
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(22, 8, 22, 8);
    column->setSpacing(8);
    frame->addWidget(scrolled(page, this), 1);
    auto* heading = new QLabel("About this set", this);
    heading->setFont(textFont(20, true));
    column->addWidget(heading);

    auto* form = new QFormLayout;
    form->setVerticalSpacing(6);
    m_movement = new QComboBox(this);
    m_movement->setObjectName("setMovement");
    m_movement->setAccessibleName("Movement");
    m_variation = new QComboBox(this);
    m_variation->setObjectName("setVariation");
    m_variation->setAccessibleName("Variation");
    m_load = number(this, "setLoad", "Load, per cent of body weight", 400, " % of body weight", "none");
    m_wedge = number(this, "setWedge", "Heel wedge, degrees", 30, "°", "none");
    m_ankle = number(this, "setAnkle", "Ankle bend as measured, degrees", 60, "°", "not measured");
    form->addRow("Movement", m_movement);
    form->addRow("Variation", m_variation);
    form->addRow("Load", m_load);
    form->addRow("Heel wedge", m_wedge);
    form->addRow("Ankle bend", m_ankle);
    m_straight = new QCheckBox("Stood with straight knees before the first rep", this);
    m_straight->setObjectName("stoodStraight");
    m_straight->setToolTip("Ask for it: then straight and locked knees at the top are read far more surely.");
    form->addRow("", m_straight);
    m_day = new QDateEdit(this);
    m_day->setObjectName("setDay");
    m_day->setAccessibleName("Filmed on");
    m_day->setCalendarPopup(true);
    m_day->setKeyboardTracking(false);
    form->addRow("Filmed on", m_day);
    m_tempo = new QLineEdit(this);
    m_tempo->setObjectName("setTempo");
    m_tempo->setAccessibleName("Tempo asked for: seconds down, pause, up");
    m_tempo->setPlaceholderText("down-pause-up in seconds, such as 4-1-1; empty: as the standard says");
    form->addRow("Tempo", m_tempo);
    m_tempoSaid = words(this, "tempoSaid");
    form->addRow("", m_tempoSaid);
    m_tempoSaid->hide();
    column->addLayout(form);
    m_setUp = words(this, "setUp");
    column->addWidget(m_setUp);

    m_before = new PainRow("Pain before", "before", this);
    column->addWidget(m_before);
    m_choices = new ChoiceRows(this);
    column->addWidget(m_choices);
    connect(m_choices, &ChoiceRows::chosen, this, [this](const Choices& overrides) {
        SetFacts next = m_facts;
        next.choices = overrides;
        emit factsChosen(next);
    });
    connect(m_choices, &ChoiceRows::keptForClient, this, &SetPanel::choicesKept);
    connect(m_before, &PainRow::answered, this, &SetPanel::choose);

    m_second = words(this, "secondView");
    column->addWidget(m_second);
    auto* second = new QHBoxLayout;
    auto button = [&](const char* name, const QString& text, const QString& tip, auto slot) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        connect(b, &QPushButton::clicked, this, slot);
        return b;
    };
    m_add = button("addSecond", "Add the other view…", "Add a clip of this set from the other side",
                   [this] { emit secondWanted(!m_apart->isChecked()); });
    m_remove = button("removeSecond", "Take it away", "Take the second clip away", [this] { emit secondRemoved(); });
    m_earlier =
        button("nudgeEarlier", "− 1 frame", "The second clip one frame earlier", [this] { emit nudged(-m_frameS); });
    m_later = button("nudgeLater", "+ 1 frame", "The second clip one frame later", [this] { emit nudged(m_frameS); });
    m_apart = new QCheckBox("filmed one after the other", this);
    m_apart->setObjectName("apart");
    for (QWidget* w : {static_cast<QWidget*>(m_add), static_cast<QWidget*>(m_earlier), static_cast<QWidget*>(m_later),
                       static_cast<QWidget*>(m_remove)})
        second->addWidget(w);
    second->addStretch();
    column->addLayout(second);
    column->addWidget(m_apart);

    m_standard = words(this, "standardReason");
    column->addWidget(m_standard);
    auto* school = new QHBoxLayout;
    school->addWidget(
        button("importStandard", "Import a standard…", "Use a standard from a file", [this] { emit importWanted(); }));
    school->addWidget(button("exportStandard", "Export this one…", "Write the chosen standard to a file",
                             [this] { emit exportWanted(); }));
    school->addStretch();
    school->addWidget(button("deleteSet", "Delete this set…",
                             "Delete this set; undo brings it back until Zevo is closed",
                             [this] { emit deleteWanted(); }));
    auto* close = button("closePanel", "Close", "Close this page (Esc or T)", [this] { toggle(); });
    close->setProperty("kind", "main");
    school->addWidget(close);
    column->addStretch();
    school->setContentsMargins(22, 0, 22, 0);
    frame->addLayout(school);

    connect(m_movement, &QComboBox::activated, this, [this] {
        fillVariations();
        choose();
    });
    connect(m_variation, &QComboBox::activated, this, &SetPanel::choose);
    for (QDoubleSpinBox* b : {m_load, m_wedge, m_ankle})
        connect(b, &QDoubleSpinBox::valueChanged, this, &SetPanel::choose);
    connect(m_straight, &QCheckBox::toggled, this, &SetPanel::choose);
    connect(m_day, &QDateEdit::dateChanged, this, [this](const QDate& day) {
        if (!m_filling) emit heldOnChosen(day);
    });
    connect(m_tempo, &QLineEdit::editingFinished, this, &SetPanel::readTempo);
    connect(m_apart, &QCheckBox::toggled, this, [this](bool apart) {
        if (!m_filling && m_hasSecond) emit togetherChosen(!apart);
    });
    hide();
}

void SetPanel::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void SetPanel::fillMovements(const std::vector<Movement>& movements) {
    if (m_movements.size() == movements.size()) return;
    m_movements = movements;
    m_movement->clear();
    for (const auto& m : m_movements)
        m_movement->addItem(QString::fromStdString(m.title), QString::fromStdString(m.id));
}

void SetPanel::fillVariations() {
    m_variation->clear();
    m_variation->addItem("Plain", "");
    const auto at = static_cast<std::size_t>(std::max(0, m_movement->currentIndex()));
    for (const auto& v : m_movements[at].variations)
        m_variation->addItem(QString::fromStdString(v.title), QString::fromStdString(v.id));
}

/// What to look at before the first repetition, for the variation that is chosen.
void SetPanel::showSetUp() {
    const auto at = static_cast<std::size_t>(std::max(0, m_movement->currentIndex()));
    QStringList checks;
    for (const auto& s : m_movements[at].camera) checks.append(QString::fromStdString(s));
    for (const auto& s : m_movements[at].setUpOf(m_variation->currentData().toString().toStdString()))
        checks.append(QString::fromStdString(s));
    m_setUp->setText((checks + m_saidBefore).join(' '));
}

void SetPanel::setSet(const present::SetDocument& document, const present::ReviewPresenter& presenter, double frameS,
                      const QDate& heldOn, const Choices& forClient) {
    m_filling = true;
    const SetState& state = document.state();
    m_facts = state.edited.facts;
    m_frameS = frameS;
    m_day->setDate(heldOn);
    m_day->setMaximumDate(QDate::currentDate());
    fillMovements(document.catalogue().movements);
    m_movement->setCurrentIndex(m_movement->findData(QString::fromStdString(m_facts.movement)));
    fillVariations();
    m_variation->setCurrentIndex(std::max(0, m_variation->findData(QString::fromStdString(m_facts.variation))));
    m_saidBefore.clear();
    for (const auto& said : setUpOf(presenter.standard().choices, document.catalogue().choices,
                                    presenter.result().context.movement, m_facts.variation))
        m_saidBefore.append(QString::fromStdString(said));
    showSetUp();
    m_load->setValue(100 * m_facts.loadShare);
    m_wedge->setValue(m_facts.wedgeDeg);
    m_ankle->setValue(m_facts.ankleLimitDeg.value_or(0));
    m_straight->setChecked(m_facts.stoodStraight);
    const Family family = presenter.result().context.movement.family;
    m_straight->setVisible(family == Family::Squat || family == Family::Hinge);  // who steps rests otherwise
    m_tempo->setText(m_facts.tempo ? present::tempoWords(*m_facts.tempo) : QString());
    m_tempoSaid->hide();
    const PainCheck& pain = m_facts.pain;
    m_before->setAnswer({pain.before, pain.spots, pain.sharp});
    const auto& schools = presenter.standards();
    const auto school = std::find_if(schools.begin(), schools.end(),
                                     [&](const Standard& s) { return s.id == presenter.standard().id; });
    m_choices->show(document.catalogue().choices, presenter.result().context.movement,
                    school == schools.end() ? presenter.standard() : *school, m_facts.choices, forClient);
    m_hasSecond = state.edited.second.has_value();
    const auto& joined = presenter.result().second;
    if (!m_hasSecond)
        m_second->setText(
            "One view. A second clip of the same set from the front (or the side) adds knees, stance and "
            "hips; filmed at once, Zevo lines them up by the movement.");
    else if (!joined)
        m_second->setText("The second clip does not fit this movement and is left out.");
    else if (joined->sameTake)
        m_second->setText(QString("Second clip from the %1, %2; lined up by the movement, agreement %3.")
                              .arg(QString::fromStdString(viewName(joined->view)), present::lagText(joined->lagS()),
                                   present::figures(joined->alignment.agreement, 3)));
    else
        m_second->setText(
            QString("Second clip from the %1, filmed at another moment: its reps are judged by themselves.")
                .arg(QString::fromStdString(viewName(joined->view))));
    const bool sameTake = joined && joined->sameTake;
    m_add->setText(m_hasSecond ? "Another clip…" : "Add the other view…");
    m_remove->setVisible(m_hasSecond);
    m_earlier->setVisible(sameTake);
    m_later->setVisible(sameTake);
    m_apart->setChecked(m_hasSecond && !state.edited.second->sameTake);
    const Standard& standard = presenter.standard();
    m_standard->setText(QString("%1. %2 %3")
                            .arg(QString::fromStdString(standard.title), QString::fromStdString(standard.reason),
                                 QString::fromStdString(standard.differs)));
    m_filling = false;
}

void SetPanel::choose() {
    if (m_filling) return;
    SetFacts next = m_facts;
    next.movement = m_movement->currentData().toString().toStdString();
    next.variation = m_variation->currentData().toString().toStdString();
    next.loadShare = m_load->value() / 100;
    next.wedgeDeg = m_wedge->value();
    next.stoodStraight = m_straight->isChecked();
    next.ankleLimitDeg = m_ankle->value() > 0 ? std::optional<double>(m_ankle->value()) : std::nullopt;
    const PainRow::Answer before = m_before->answer();
    next.pain.before = before.score, next.pain.spots = before.spots, next.pain.sharp = before.sharp;
    emit factsChosen(next);
}

/// What cannot be read stays in the field, with the reason under it, and changes nothing.
void SetPanel::readTempo() {
    const QString text = m_tempo->text().trimmed();
    if (text.isEmpty() ? !m_facts.tempo : m_facts.tempo && text == present::tempoWords(*m_facts.tempo))
        return m_tempoSaid->hide();
    std::optional<Tempo> tempo;
    if (!text.isEmpty()) {
        const auto read = parseTempo(text.toStdString());
        m_tempoSaid->setVisible(!read);
        if (!read) return m_tempoSaid->setText(present::sentence(read.error()));
        tempo = *read;
    }
    m_facts.tempo = tempo;
    choose();
}

void SetPanel::toggle() {
    if (isVisible()) {
        hide();
        parentWidget()->setFocus();
        return;
    }
    const QRect all = parentWidget()->rect();
    const int width = std::min(all.width(), std::max(560, all.width() / 2));
    setGeometry(all.right() - width + 1, 0, width, all.height());
    show();
    raise();
    m_movement->setFocus();
}

void SetPanel::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape || e->key() == Qt::Key_T) return toggle();
    QFrame::keyPressEvent(e);
}

void SetPanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), m_theme.panel);
    p.setPen(QPen(m_theme.line, 1));
    p.drawLine(0, 0, 0, height());
}

}  // namespace zevo::app
