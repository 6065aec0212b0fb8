#include "app/review/log_row.h"

#include <QActionGroup>
#include <QBoxLayout>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QWidgetAction>
#include <cmath>

#include "app/parts/flow_layout.h"
#include "app/theme/parts.h"
#include "present/log_words.h"

namespace zevo::app {

using namespace present;

LogRow::LogRow(Actions& actions, QWidget* parent) : QWidget(parent) {
    setObjectName("logRow");
    setAccessibleName(tr("Log of the set"));
    auto* row = new FlowLayout(6);
    setLayout(row);
    QSizePolicy fits(QSizePolicy::Preferred, QSizePolicy::Fixed);
    fits.setHeightForWidth(true);
    setSizePolicy(fits);
    m_kind = addChip("chipKind", tr("Kind of set"));
    m_load = addChip("chipLoad", tr("Load"));
    m_aids = addChip("chipAids", tr("Aids"));
    m_shoes = addChip("chipShoes", tr("Shoes"));
    m_shirt = addChip("chipShirt", tr("Shirt"));
    m_effort = addChip("chipEffort", tr("Effort"));
    m_note = addChip("chipNote", tr("Note"));
    m_pinned = new QLineEdit(this);
    m_pinned->setObjectName("pinnedNote");
    m_pinned->setAccessibleName(tr("Word pinned to this picture"));
    m_pinned->setPlaceholderText(tr("a word for this picture, Enter"));
    m_pinned->setMinimumWidth(220);
    m_pinned->hide();
    row->addWidget(m_pinned);
    row->startRight();
    connect(m_pinned, &QLineEdit::returnPressed, this, [this] {
        emit noteWanted(m_pinned->text());
        m_pinned->hide();
        parentWidget()->setFocus();
    });

    QMenu* kinds = menuOf(m_kind);
    for (SetKind kind : {SetKind::Working, SetKind::WarmUp, SetKind::Test})
        kinds->addAction(kindText(kind), this, [this, kind] { choose([kind](SetFacts& f) { f.log.kind = kind; }); })
            ->setObjectName(QString("kind%1").arg(static_cast<int>(kind)));

    auto field = [&](QMenu* menu, const char* name, const QString& label, QWidget* box) {
        auto* line = new QWidget(menu);
        auto* form = new QHBoxLayout(line);
        form->setContentsMargins(12, 4, 12, 4);
        auto* words = new QPushButton(label, line);
        words->setProperty("kind", "quiet");
        words->setFocusPolicy(Qt::NoFocus);
        connect(words, &QPushButton::clicked, box, qOverload<>(&QWidget::setFocus));
        form->addWidget(words);
        box->setParent(line);
        box->setObjectName(name);
        box->setAccessibleName(label);
        form->addWidget(box, 1);
        auto* action = new QWidgetAction(menu);
        action->setDefaultWidget(line);
        menu->addAction(action);
    };
    auto spin = [&](double most, double step) {
        auto* b = new QDoubleSpinBox;
        b->setRange(0, most);
        b->setDecimals(1);
        b->setSingleStep(step);
        b->setKeyboardTracking(false);
        return b;
    };
    QMenu* load = menuOf(m_load);
    for (const auto& [id, title] : heldNamed())
        load->addAction(title, this,
                        [this, held = id] {
                            choose([&](SetFacts& f) {
                                f.log.load.held = held;
                                if (held.empty()) f.log.load = {};
                                if (held == "bar" && f.log.load.barKg <= 0) f.log.load.barKg = 20;
                            });
                            if (!held.empty()) m_load->click();  // how heavy it is comes next
                        })
            ->setObjectName("held-" + QString::fromStdString(id));
    load->addSeparator();
    m_each = spin(500, 2);
    m_bar = spin(50, 1);
    field(load, "eachKg", tr("weight, of two each"), m_each);
    field(load, "barKg", tr("the bar itself"), m_bar);
    connect(m_each, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        choose([&](SetFacts& f) {
            f.log.load.eachKg = toKg(v, m_lengths);
            if (f.log.load.held.empty()) f.log.load.held = "bell";
        });
    });
    connect(m_bar, &QDoubleSpinBox::valueChanged, this,
            [this](double v) { choose([&](SetFacts& f) { f.log.load.barKg = toKg(v, m_lengths); }); });

    QMenu* aids = menuOf(m_aids);
    for (int wedge : {0, 5, 10, 15, 20})
        aids->addAction(wedge ? tr("heel wedge %1°").arg(wedge) : tr("no wedge"), this,
                        [this, wedge] { choose([wedge](SetFacts& f) { f.wedgeDeg = wedge; }); })
            ->setObjectName(QString("wedge%1").arg(wedge));
    aids->addSeparator();
    for (const auto& [name, title, flag] :
         {std::tuple{"belt", tr("lifting belt"), &SetLog::belt}, std::tuple{"pole", tr("pole"), &SetLog::pole}})
        aids->addAction(title, this,
                        [this, flag = flag] { choose([flag](SetFacts& f) { f.log.*flag = !(f.log.*flag); }); })
            ->setObjectName(name);
    m_box = spin(100, 1);
    field(aids, "boxCm", tr("box, height"), m_box);
    connect(m_box, &QDoubleSpinBox::valueChanged, this,
            [this](double v) { choose([&](SetFacts& f) { f.log.boxCm = toCm(v, m_lengths); }); });

    QMenu* shoes = menuOf(m_shoes);
    for (const auto& [id, title] : shoesNamed())
        shoes->addAction(title, this, [this, id = id] { choose([&](SetFacts& f) { f.log.shoes = id; }); })
            ->setObjectName("shoes-" + QString::fromStdString(id));
    QMenu* shirt = menuOf(m_shirt);
    for (const auto& [lies, title] : shirtsNamed())
        shirt->addAction(title, this, [this, lies = lies] { choose([&](SetFacts& f) { f.shirt = lies; }); })
            ->setObjectName(QString("shirt%1").arg(static_cast<int>(lies)));
    QMenu* effort = menuOf(m_effort);
    effort->addAction(tr("not asked"), this, [this] { choose([](SetFacts& f) { f.log.effort.reset(); }); });
    for (int e = 0; e <= 10; ++e)
        effort
            ->addAction(e == 0    ? tr("0 nothing at all")
                        : e == 10 ? tr("10 all there was")
                                  : QString::number(e),
                        this, [this, e] { choose([e](SetFacts& f) { f.log.effort = e; }); })
            ->setObjectName(QString("effort%1").arg(e));
    QMenu* ended = effort->addMenu(tr("ended by"));
    for (const auto& [id, title] : endedNamed())
        ended->addAction(title, this, [this, id = id] { choose([&](SetFacts& f) { f.log.endedBy = id; }); })
            ->setObjectName("ended-" + QString::fromStdString(id));
    m_planned = new QSpinBox;
    m_planned->setRange(0, 100);
    m_planned->setSpecialValueText(tr("none"));
    m_planned->setKeyboardTracking(false);
    field(effort, "plannedReps", tr("reps planned"), m_planned);
    connect(m_planned, &QSpinBox::valueChanged, this,
            [this](int reps) { choose([&](SetFacts& f) { f.log.plannedReps = reps; }); });
    QMenu* note = menuOf(m_note);
    m_words = new QLineEdit;
    m_words->setMinimumWidth(320);
    field(note, "setNote", tr("of the set"), m_words);
    connect(m_words, &QLineEdit::editingFinished, this, [this] {
        if (m_words->text().toStdString() != m_facts.log.note)
            choose([&](SetFacts& f) { f.log.note = m_words->text().trimmed().toStdString(); });
    });
    connect(m_words, &QLineEdit::returnPressed, note, &QMenu::close);
    note->addAction(actions.get("pinNote"));
}

QPushButton* LogRow::addChip(const char* name, const QString& spoken) {
    auto* chip = app::chip(this, name, {});
    chip->setProperty("spoken", spoken);
    layout()->addWidget(chip);
    return chip;
}

QMenu* LogRow::menuOf(QPushButton* chip) {
    auto* menu = new QMenu(chip);
    menu->setObjectName(chip->objectName() + "Menu");
    chip->setMenu(menu);
    return menu;
}

void LogRow::addRight(QWidget* widget) {
    layout()->addWidget(widget);
}

QPushButton* LogRow::chipOf(const char* name) const {
    return findChild<QPushButton*>(name);
}

void LogRow::open() {
    m_kind->setFocus();
    m_kind->showMenu();
}

void LogRow::askNote(const QString& now) {
    m_pinned->setText(now);
    m_pinned->show();
    m_pinned->setFocus();
    m_pinned->selectAll();
}

void LogRow::choose(const std::function<void(SetFacts&)>& change) {
    if (m_filling) return;
    SetFacts next = m_facts;
    change(next);
    if (!(next == m_facts)) emit factsChosen(next);
}

void LogRow::setFacts(const SetFacts& f, Lengths lengths) {
    m_filling = true;
    m_facts = f;
    m_lengths = lengths;
    const QString unit = lengths == Lengths::Us ? " lb" : " kg";
    m_each->setSuffix(unit), m_bar->setSuffix(unit);
    m_each->setValue(fromKg(f.log.load.eachKg, lengths));
    m_bar->setValue(fromKg(f.log.load.barKg, lengths));
    m_bar->setEnabled(f.log.load.held == "bar");
    m_box->setSuffix(lengths == Lengths::Us ? " in" : " cm");
    m_box->setValue(fromCm(f.log.boxCm, lengths));
    m_words->setText(QString::fromStdString(f.log.note));
    auto say = [](QPushButton* chip, const QString& text) {
        chip->setText(text);
        chip->setAccessibleName(chip->property("spoken").toString() + ": " + text);
        chip->setToolTip(chip->accessibleName());
    };
    say(m_kind, kindText(f.log.kind));
    QString load = loadText(f.log.load, lengths);
    if (load.isEmpty() && f.loadShare > 0) load = tr("%1 % of body weight").arg(figures(100 * f.loadShare, 0));
    if (f.massKg > 0 && f.log.load.totalKg() > 0) load += tr(" · %1 %").arg(figures(100 * f.heldShare(), 0));
    say(m_load, load.isEmpty() ? tr("no load") : load);
    const QString aids = aidsText(f, lengths);
    say(m_aids, aids.isEmpty() ? tr("no aids") : aids);
    say(m_shoes, titleOf(shoesNamed(), f.log.shoes));
    say(m_shirt, shirtText(f.shirt));
    m_planned->setValue(f.log.plannedReps);
    QString effort = f.log.effort ? tr("effort %1").arg(*f.log.effort) : tr("effort?");
    if (f.log.plannedReps > 0) effort += tr(" · %1 planned").arg(f.log.plannedReps);
    if (!f.log.endedBy.empty()) effort += tr(" · %1").arg(titleOf(endedNamed(), f.log.endedBy));
    say(m_effort, effort);
    const QString note = QString::fromStdString(f.log.note);
    say(m_note, note.isEmpty() ? tr("note…") : note.size() > 24 ? note.left(23) + QChar(0x2026) : note);
    m_filling = false;
}

}  // namespace zevo::app
