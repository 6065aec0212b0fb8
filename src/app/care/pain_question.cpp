#include "app/care/pain_question.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QDateEdit>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPainter>
#include <QPushButton>
#include <algorithm>

#include "core/judge/stop_rules.h"
#include "present/words.h"

namespace zevo::app {
namespace {

struct Group {
    FlagLevel level;
    const char* title;
};
constexpr Group kGroups[]{
    {FlagLevel::HelpNow, QT_TRANSLATE_NOOP("PainQuestion", "Get medical help now")},
    {FlagLevel::Refer, QT_TRANSLATE_NOOP("PainQuestion", "To a clinician; nothing is scored")},
    {FlagLevel::Cleared, QT_TRANSLATE_NOOP("PainQuestion", "Nothing is scored until cleared; then gentler versions")}};

}  // namespace

PainQuestion::PainQuestion(QWidget* parent) : QFrame(parent) {
    setObjectName("painQuestion");
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(28, 20, 28, 20);
    column->setSpacing(10);
    m_title = new QLabel(this);
    m_title->setObjectName("painTitle");
    m_title->setFont(textFont(24, true));
    column->addWidget(m_title);
    m_pain = new PainRow(tr("Before the set"), "question", this);
    column->addWidget(m_pain);
    m_advice = new QLabel(this);
    m_advice->setObjectName("painAdvice");
    m_advice->setWordWrap(true);
    m_advice->setFont(textFont(17, true));
    column->addWidget(m_advice);

    for (const Group& group : kGroups) {
        auto* heading = new QLabel(tr(group.title), this);
        heading->setFont(textFont(15, true));
        column->addWidget(heading);
        auto* grid = new QGridLayout;
        grid->setHorizontalSpacing(18);
        grid->setVerticalSpacing(2);
        int at = 0;
        for (const RedFlag& f : redFlags()) {
            if (f.level != group.level) continue;
            const QString flag = f.id;
            auto* cell = new QHBoxLayout;
            Row row{flag, new QCheckBox(present::redFlagTitle(f.id), this), new QLabel(this),
                    new QPushButton(tr("Cleared…"), this)};
            row.box->setObjectName("flag-" + flag);
            row.since->setProperty("kind", "faint");
            row.clear->setObjectName("clear-" + flag);
            row.clear->setProperty("kind", "quiet");
            cell->addWidget(row.box);
            cell->addWidget(row.since);
            cell->addWidget(row.clear);
            cell->addStretch();
            grid->addLayout(cell, at / 2, at % 2);
            connect(row.box, &QCheckBox::toggled, this, [this, flag](bool on) {
                if (!m_filling) toggle(flag, on);
            });
            connect(row.clear, &QPushButton::clicked, this, [this, flag] { beginClearing(flag); });
            m_rows.push_back(row);
            ++at;
        }
        column->addLayout(grid);
    }

    buildClearance();
    column->addWidget(m_clearance);

    column->addStretch();
    auto* foot = new QHBoxLayout;
    auto* rules = new QPushButton(tr("The stop rules"), this);
    rules->setObjectName("showRules");
    auto* done = new QPushButton(tr("Done"), this);
    done->setObjectName("closeQuestion");
    done->setProperty("kind", "main");
    foot->addWidget(rules);
    foot->addStretch();
    foot->addWidget(done);
    column->addLayout(foot);
    connect(rules, &QPushButton::clicked, this, [this] {
        hide();
        emit rulesWanted();
    });
    connect(done, &QPushButton::clicked, this, &QWidget::hide);
    connect(m_pain, &PainRow::answered, this, [this](const PainRow::Answer& a) {
        m_client.complaint = {a.score, a.spots, a.sharp, QDate::currentDate()};
        emit answered(m_client);
    });
    hide();
}

/// Two lines: when and by whom; and for what, until when.
void PainQuestion::buildClearance() {
    m_clearance = new QWidget(this);
    auto* lines = new QGridLayout(m_clearance);
    lines->setContentsMargins(0, 0, 0, 0);
    m_clearingWords = new QLabel(m_clearance);
    m_clearingWords->setObjectName("clearingWords");
    auto dayField = [this](const char* name, const QString& says) {
        auto* field = new QDateEdit(m_clearance);
        field->setObjectName(name);
        field->setAccessibleName(says);
        field->setCalendarPopup(true);
        return field;
    };
    auto textField = [this](const char* name, const QString& says, const QString& hint) {
        auto* field = new QLineEdit(m_clearance);
        field->setObjectName(name);
        field->setAccessibleName(says);
        field->setPlaceholderText(hint);
        connect(field, &QLineEdit::returnPressed, this, &PainQuestion::recordClearance);
        return field;
    };
    m_clearedOn = dayField("clearedOn", tr("On"));
    m_clearedBy = textField("clearedBy", tr("By whom"), tr("by whom, in your words"));
    m_limits = textField("limits", tr("Limits"), tr("for what: bodyweight only, to a box, …"));
    m_ends = new QCheckBox(tr("until"), m_clearance);
    m_ends->setObjectName("clearanceEnds");
    m_clearedUntil = dayField("clearedUntil", tr("Until"));
    connect(m_ends, &QCheckBox::toggled, m_clearedUntil, &QWidget::setEnabled);
    auto* record = new QPushButton(tr("Record it"), m_clearance);
    record->setObjectName("recordClearance");
    connect(record, &QPushButton::clicked, this, &PainQuestion::recordClearance);
    lines->addWidget(m_clearingWords, 0, 0);
    lines->addWidget(m_clearedOn, 0, 1);
    lines->addWidget(m_clearedBy, 0, 2, 1, 3);
    lines->addWidget(m_limits, 1, 0, 1, 2);
    lines->addWidget(m_ends, 1, 2);
    lines->addWidget(m_clearedUntil, 1, 3);
    lines->addWidget(record, 1, 4);
    lines->setColumnStretch(2, 1);
}

void PainQuestion::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void PainQuestion::ask(const store::Client& client) {
    if (isVisible()) return hide();
    m_clearing.clear();
    setClient(client);
    setGeometry(parentWidget()->rect());
    show();
    raise();
    m_pain->setFocus();
    m_pain->findChild<QWidget*>("questionScore")->setFocus();
}

void PainQuestion::setClient(const store::Client& client) {
    m_client = client;
    refresh();
}

void PainQuestion::toggle(const QString& flag, bool stands) {
    if (stands)
        m_client.flags.push_back({flag, QDate::currentDate()});
    else  // named by mistake a moment ago
        std::erase_if(m_client.flags,
                      [&](const auto& f) { return f.flag == flag && !f.clearedOn && f.since == QDate::currentDate(); });
    emit answered(m_client);
}

const store::ClientFlag* PainQuestion::shown(const QString& flag) const {
    const QDate today = QDate::currentDate();
    auto weight = [&](const store::ClientFlag& f) { return f.stands(today) ? 2 : f.cleared(today) ? 1 : 0; };
    const store::ClientFlag* out = nullptr;
    for (const store::ClientFlag& f : m_client.flags)
        if (f.flag == flag && (!out || weight(f) >= weight(*out))) out = &f;
    return out;
}

void PainQuestion::beginClearing(const QString& flag) {
    m_clearing = flag;
    const QDate today = QDate::currentDate();
    m_clearedOn->setMaximumDate(today);
    m_clearedOn->setDate(today);
    m_clearedUntil->setMinimumDate(today);
    m_clearedUntil->setDate(today.addMonths(1));
    m_clearedUntil->setEnabled(false);
    m_ends->setChecked(false);
    m_clearedBy->clear();
    m_limits->clear();
    refresh();
    m_clearedBy->setFocus();
}

void PainQuestion::recordClearance() {
    const QString by = m_clearedBy->text().trimmed();
    if (by.isEmpty()) return m_clearedBy->setFocus();
    const QDate today = QDate::currentDate();
    const store::ClientFlag* about = shown(m_clearing);
    if (!about) return;
    // Named more than once, it is cleared as one.
    const bool over = about->cleared(today);
    for (store::ClientFlag& f : m_client.flags) {
        if (f.flag != m_clearing || !(over ? f.cleared(today) : f.stands(today))) continue;
        if (over) {
            f.overOn = m_clearedOn->date();
            f.overBy = by;
            continue;
        }
        f.clearedOn = m_clearedOn->date();
        f.clearedBy = by;
        f.limits = m_limits->text().trimmed();
        f.clearedUntil = m_ends->isChecked() ? std::optional(m_clearedUntil->date()) : std::nullopt;
    }
    m_clearing.clear();
    emit answered(m_client);
}

void PainQuestion::refresh() {
    m_filling = true;
    const QDate today = QDate::currentDate();
    m_title->setText(tr("Does anything hurt, %1?").arg(m_client.name.isEmpty() ? tr("client") : m_client.name));
    const auto& c = m_client.complaint;
    m_pain->setAnswer({c.askedOn == today ? c.score : std::nullopt, c.spots, c.askedOn == today && c.sharp});
    auto day = [](const QDate& d) { return QLocale().toString(d, "d MMM yyyy"); };
    for (const Row& row : m_rows) {
        const store::ClientFlag* f = shown(row.flag);
        const bool stands = f && f->stands(today), cleared = f && f->cleared(today);
        row.box->setChecked(stands);
        // One that was carried here from another day goes only with a clearance.
        row.box->setEnabled(!stands || f->since == today);
        row.since->setText(!f                ? QString()
                           : cleared         ? (f->clearedUntil ? tr("cleared until %1").arg(day(*f->clearedUntil))
                                                                : tr("cleared %1, %2").arg(day(*f->clearedOn), f->clearedBy))
                           : !stands         ? tr("over since %1").arg(day(*f->overOn))
                           : f->clearedUntil ? tr("cleared until %1: ask again").arg(day(*f->clearedUntil))
                                             : tr("since %1").arg(day(f->since)));
        row.clear->setVisible(stands || cleared);
        row.clear->setText(cleared ? tr("Over…") : tr("Cleared…"));
        row.clear->setAccessibleName(cleared ? tr("%1: no limits are needed any more").arg(row.box->text())
                                             : tr("%1 was cleared by a clinician").arg(row.box->text()));
    }
    m_clearance->setVisible(!m_clearing.isEmpty());
    const store::ClientFlag* clearing = shown(m_clearing);
    const bool ends = clearing && clearing->cleared(today);
    m_clearingWords->setText((ends ? tr("%1: no limits any more, said on") : tr("%1: cleared on"))
                                 .arg(present::redFlagTitle(m_clearing.toStdString())));
    for (QWidget* w :
         {static_cast<QWidget*>(m_limits), static_cast<QWidget*>(m_ends), static_cast<QWidget*>(m_clearedUntil)})
        w->setVisible(!ends);
    const auto stop = stopAnswer(store::painOf(m_client, today));
    const auto words = present::stopWords(stop);
    m_advice->setText(!words.title.isEmpty() ? words.title + ". " + words.text
                      : c.askedOn == today   ? tr("Go on.")
                                             : tr("Not asked today."));
    m_filling = false;
}

void PainQuestion::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) return hide();
    QFrame::keyPressEvent(e);
}

void PainQuestion::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), m_theme.panel);
}

}  // namespace zevo::app
