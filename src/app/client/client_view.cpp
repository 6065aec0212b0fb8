#include "app/client/client_view.h"

#include <QBoxLayout>
#include <QDoubleSpinBox>
#include <QEvent>
#include <QFormLayout>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <cmath>

#include "app/parts/client_row.h"
#include "app/theme/parts.h"
#include "present/log_words.h"

namespace zevo::app {

using namespace present;

namespace {

constexpr int kTypingPauseMs = 1500;

/// Set parts of the body that a tape measures, with their names.
const std::pair<const char*, const char*> kParts[] = {{"thigh", QT_TRANSLATE_NOOP("ClientView", "Thigh")},
                                                      {"shank", QT_TRANSLATE_NOOP("ClientView", "Shank")},
                                                      {"trunk", QT_TRANSLATE_NOOP("ClientView", "Trunk")},
                                                      {"foot", QT_TRANSLATE_NOOP("ClientView", "Foot")}};

}  // namespace

ClientView::ClientView(SetRow::OutlinesOf outlinesOf, QWidget* parent) : QWidget(parent) {
    setObjectName("clientView");
    setFocusPolicy(Qt::StrongFocus);
    m_typing.setSingleShot(true);
    m_typing.setInterval(kTypingPauseMs);
    connect(&m_typing, &QTimer::timeout, this, &ClientView::save);
    auto* page = new QHBoxLayout(this);
    page->setContentsMargins(20, 6, 20, 12);
    page->setSpacing(18);
    page->addWidget(buildFacts(), 4);
    page->addWidget(buildRecord(std::move(outlinesOf)), 9);
}

QWidget* ClientView::buildFacts() {
    auto* card = new QFrame(this);
    card->setProperty("kind", "card");
    auto* column = new QVBoxLayout(card);
    column->setContentsMargins(16, 12, 16, 12);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    m_tile = new QLabel(card);
    m_tile->setObjectName("initials");
    m_tile->setFixedSize(52, 52);
    m_tile->setAlignment(Qt::AlignCenter);
    m_tile->setFont(textFont(22, true));
    m_name = new QLabel(card);
    m_name->setObjectName("clientName");
    m_name->setFont(textFont(18, true));
    m_name->setWordWrap(true);
    head->addWidget(m_tile);
    head->addWidget(m_name, 1);
    column->addLayout(head);
    m_goals = new QPlainTextEdit(card);
    m_goals->setObjectName("goals");
    m_goals->setAccessibleName(tr("Goals"));
    m_goals->setPlaceholderText(tr("What the client wants to be able to do"));
    m_goals->setTabChangesFocus(true);
    m_goals->setMaximumHeight(78);
    m_goals->installEventFilter(this);
    column->addWidget(m_goals);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(5);
    auto line = [&](const char* name, const QString& label) {
        auto* edit = new QLineEdit(card);
        edit->setObjectName(name);
        edit->setAccessibleName(label);
        form->addRow(label, edit);
        connect(edit, &QLineEdit::editingFinished, this, &ClientView::save);
        return edit;
    };
    m_emphasis = line("emphasis", tr("Emphasis"));
    m_equipment = line("equipment", tr("Equipment"));
    auto number = [&](const QString& name, const QString& label, double most) {
        auto* box = new QDoubleSpinBox(card);
        box->setObjectName(name);
        box->setAccessibleName(label);
        box->setRange(0, most);
        box->setDecimals(1);
        box->setSpecialValueText(tr("not known"));
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setKeyboardTracking(false);
        connect(box, &QDoubleSpinBox::editingFinished, this, &ClientView::save);
        form->addRow(label, box);
        return box;
    };
    m_mass = number("mass", tr("Body mass"), 700);
    for (const auto& [part, title] : kParts) m_build[part] = number(QString("build-") + part, tr(title), 150);
    column->addLayout(form);
    m_consent = new QLabel(card);
    m_consent->setObjectName("clientConsent");
    m_consent->setWordWrap(true);
    m_consent->setFont(textFont(13));
    column->addWidget(m_consent);
    column->addStretch();
    connect(m_goals, &QPlainTextEdit::textChanged, this, [this] {
        if (!m_filling) m_typing.start();
    });
    auto* rows = new QGridLayout;
    rows->setSpacing(4);
    auto button = [&](const char* name, const QString& text, int at) {
        auto* b = new QPushButton(text, card);
        b->setObjectName(name);
        b->setProperty("kind", "quiet");
        b->setFont(textFont(14));
        rows->addWidget(b, at / 2, at % 2);
        return b;
    };
    m_archive = button("archiveClient", tr("Archive"), 0);
    m_merge = button("mergeClient", tr("Merge with…"), 1);
    m_mergeMenu = new QMenu(m_merge);
    m_merge->setMenu(m_mergeMenu);
    auto* out = button("exportClient", tr("Export everything…"), 2);
    auto* erase = button("eraseClient", tr("Delete client…"), 3);
    column->addLayout(rows);
    connect(out, &QPushButton::clicked, this, &ClientView::exportWanted);
    connect(erase, &QPushButton::clicked, this, &ClientView::eraseWanted);
    connect(m_archive, &QPushButton::clicked, this, [this] {
        store::Client next = m_file.client;
        next.archived = !next.archived;
        emit clientChanged(next);
    });
    return card;
}

QWidget* ClientView::buildRecord(SetRow::OutlinesOf outlinesOf) {
    auto* inside = new QWidget;
    inside->setObjectName("clientRecord");
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 8, 0);
    column->setSpacing(6);
    auto section = [&](QLabel*& title, QLabel*& text, const char* name, const QString& words) {
        title = new QLabel(words, inside);
        title->setFont(textFont(17, true));
        text = new QLabel(inside);
        text->setObjectName(name);
        text->setTextFormat(Qt::RichText);
        text->setWordWrap(true);
        text->setFont(textFont(14));
        text->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
        column->addWidget(title);
        column->addWidget(text);
    };
    m_none = new QLabel(tr("No set yet. Film one, or open a clip: what works for this client gathers here."), inside);
    m_none->setWordWrap(true);
    column->addWidget(m_none);
    section(m_hurtsTitle, m_hurts, "hurts", tr("What hurts"));
    section(m_cuesTitle, m_cues, "cues", tr("Which words work"));
    section(m_trialsTitle, m_trials, "trials", tr("Which set-up works"));
    section(m_targetsTitle, m_targets, "targets", tr("Own targets"));
    connect(m_targets, &QLabel::linkActivated, this, [this](const QString& link) {
        store::Client next = m_file.client;
        const int at = link.toInt();
        if (at < 0 || at >= static_cast<int>(next.targets.size())) return;
        const store::Target gone = next.targets[static_cast<std::size_t>(at)];
        next.targets.erase(next.targets.begin() + at);
        const Movement* movement = m_catalogue->movement(gone.movement.toStdString());
        if (const auto own =
                movement ? ownNumberFor(m_catalogue->choices, *movement, MeasureId::named(gone.measure.toStdString()))
                         : std::nullopt)
            next.choices.erase(own->first);
        emit clientChanged(next);
    });
    m_courseTitle = new QLabel(tr("Course"), inside);
    m_courseTitle->setFont(textFont(17, true));
    column->addWidget(m_courseTitle);
    m_courses = new CoursePlots(inside);
    column->addWidget(m_courses);
    connect(m_courses, &CoursePlots::setWanted, this, &ClientView::setWanted);
    auto* heading = new QHBoxLayout;
    auto* title = new QLabel(tr("Sets"), inside);
    title->setFont(textFont(17, true));
    heading->addWidget(title);
    heading->addStretch();
    auto button = [&](const char* name, const QString& text, const QString& tip, auto slot) {
        auto* b = chip(inside, name, text);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        heading->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, slot] {
            if (const auto id = chosenSet()) slot(*id);
        });
        return b;
    };
    button("openChosen", tr("Open"), tr("Open the set that is chosen"),
           [this](store::SetId id) { emit setWanted(id); });
    button("setEarlier", tr("Earlier"), tr("One place earlier on its day"),
           [this](store::SetId id) { emit setMoved(id, -1); });
    button("setLater", tr("Later"), tr("One place later on its day"),
           [this](store::SetId id) { emit setMoved(id, 1); });
    button("otherDay", tr("Another day…"), tr("To another day"), [this](store::SetId id) { emit dayWanted(id); });
    m_give = chip(inside, "giveSet", tr("Another client…"));
    m_giveMenu = new QMenu(m_give);
    m_give->setMenu(m_giveMenu);
    heading->addWidget(m_give);
    button("deleteChosen", tr("Delete"), tr("Delete the set; undo brings it back until Zevo is closed"),
           [this](store::SetId id) { emit deleteWanted(id); });
    column->addLayout(heading);
    m_sets = new QListWidget(inside);
    m_sets->setObjectName("clientSets");
    m_sets->setAccessibleName(tr("Sets, newest first"));
    m_sets->setSpacing(3);
    m_sets->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_sets->setMinimumHeight(200);
    m_sets->setItemDelegate(m_rows = new SetRow(std::move(outlinesOf), m_sets));
    column->addWidget(m_sets, 1);
    connect(m_sets, &QListWidget::itemActivated, this, [this] {
        if (const auto id = chosenSet()) emit setWanted(*id);
    });
    return scrolled(inside, this);
}

bool ClientView::eventFilter(QObject* watched, QEvent* e) {
    if (watched == m_goals && e->type() == QEvent::FocusOut) saveNow();
    return QWidget::eventFilter(watched, e);
}

void ClientView::saveNow() {
    m_typing.stop();
    save();
}

void ClientView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_courses->setTheme(theme);
    m_rows->setTheme(theme);
    m_tile->setStyleSheet(
        QString("background: %1; color: %2; border-radius: 11px").arg(theme.accent.name(), theme.onAccent.name()));
    if (m_shown) fillWords();
}

void ClientView::setLengths(present::Lengths lengths) {
    m_lengths = lengths;
    if (m_shown) fill();
}

void ClientView::show(record::ClientFile file, std::vector<store::Client> others,
                      std::shared_ptr<const Catalogue> catalogue) {
    m_file = std::move(file);
    m_others = std::move(others);
    m_catalogue = std::move(catalogue);
    m_shown = true;
    fill();
}

void ClientView::fill() {
    m_filling = true;
    const store::Client& c = m_file.client;
    m_tile->setText(ClientRow::initialsOf(c.name));
    m_name->setText(c.name.isEmpty() ? tr("(no name)") : c.name);
    if (m_goals->toPlainText() != c.goals) m_goals->setPlainText(c.goals);
    m_emphasis->setText(c.emphasis);
    m_equipment->setText(c.equipment);
    for (QLineEdit* line : {m_emphasis, m_equipment}) line->setCursorPosition(0);  // long ones show their beginning
    const bool us = m_lengths == present::Lengths::Us;
    m_mass->setSuffix(us ? " lb" : " kg");
    m_mass->setValue(fromKg(c.massKg, m_lengths));
    for (const auto& [part, box] : m_build) {
        const auto known = c.build.find(part);
        box->setSuffix(us ? " in" : " cm");
        box->setValue(known == c.build.end() ? 0 : fromCm(known->second, m_lengths));
    }
    m_consent->setText(c.consent
                           ? tr("Agreed to be filmed on %1%2")
                                 .arg(dayText(*c.consent), c.consentFor.isEmpty() ? QString() : ", " + c.consentFor)
                           : tr("Consent to be filmed is not recorded."));
    m_archive->setText(c.archived ? tr("Back from the archive") : tr("Archive"));
    m_mergeMenu->clear();
    m_giveMenu->clear();
    for (const auto& o : m_others) {
        m_mergeMenu->addAction(o.name, this, [this, id = o.id] { emit mergeWanted(id); });
        m_giveMenu->addAction(o.name, this, [this, id = o.id] {
            if (const auto set = chosenSet()) emit setGiven(*set, id);
        });
    }
    m_merge->setEnabled(!m_others.empty());
    m_give->setEnabled(!m_others.empty());
    m_none->setVisible(m_file.log.empty());
    m_courseTitle->setVisible(!m_file.courses.empty());
    m_courses->setVisible(!m_file.courses.empty());
    m_courses->setCourses(m_file.courses, m_lengths);
    fillWords();
    fillSets();
    m_filling = false;
}

void ClientView::fillWords() {
    const std::tuple<QLabel*, QLabel*, QString> sections[] = {{m_cuesTitle, m_cues, cuesText()},
                                                              {m_trialsTitle, m_trials, trialsText()},
                                                              {m_targetsTitle, m_targets, targetsText()},
                                                              {m_hurtsTitle, m_hurts, hurtsText()}};
    for (const auto& [title, label, text] : sections) {
        label->setText(QString(text).replace("<a ", QString("<a style=\"color:%1\" ").arg(m_theme.accent.name())));
        label->setVisible(!text.isEmpty());
        title->setVisible(!text.isEmpty());
    }
}

void ClientView::fillSets() {
    const auto chosen = chosenSet();
    m_sets->clear();
    for (auto s = m_file.log.rbegin(); s != m_file.log.rend(); ++s) {
        const EditedSet edited = fold(s->edits);
        const Movement* movement = m_catalogue->movement(s->movement.toStdString());
        QStringList words{dayText(s->heldOn), movement ? QString::fromStdString(movement->title) : s->movement};
        if (edited.facts.log.kind != SetKind::Working) words.append(kindText(edited.facts.log.kind));
        if (const QString load = loadText(edited.facts.log.load, m_lengths); !load.isEmpty()) words.append(load);
        if (const QString aids = aidsText(edited.facts, m_lengths); !aids.isEmpty()) words.append(aids);
        if (edited.cue && !edited.cue->wording.empty())
            words.append(tr("said: “%1”").arg(QString::fromStdString(edited.cue->wording)));
        auto* item = new QListWidgetItem(words.join(" · ") + "\n" + s->headline, m_sets);
        item->setData(kSetId, s->id.text());
        if (chosen == s->id) m_sets->setCurrentItem(item);
    }
    if (m_sets->currentRow() < 0 && m_sets->count() > 0) m_sets->setCurrentRow(0);
}

std::optional<store::SetId> ClientView::chosenSet() const {
    const auto* item = m_sets->currentItem();
    return item ? std::optional(store::SetId::fromText(item->data(kSetId).toString())) : std::nullopt;
}

void ClientView::save() {
    m_typing.stop();
    if (m_filling || !m_shown) return;
    store::Client next = m_file.client;
    next.goals = m_goals->toPlainText().trimmed();
    next.emphasis = m_emphasis->text().trimmed();
    next.equipment = m_equipment->text().trimmed();
    // What is shown rounded is only taken where it was changed.
    if (std::abs(m_mass->value() - fromKg(next.massKg, m_lengths)) > 0.06)
        next.massKg = toKg(m_mass->value(), m_lengths);
    for (const auto& [part, box] : m_build) {
        const double before = next.build.contains(part) ? next.build.at(part) : 0;
        if (std::abs(box->value() - fromCm(before, m_lengths)) < 0.06) continue;
        if (box->value() > 0)
            next.build[part] = toCm(box->value(), m_lengths);
        else
            next.build.erase(part);
    }
    if (!(next == m_file.client)) emit clientChanged(next);
}

}  // namespace zevo::app
