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
            row.clear->setAccessibleName(tr("%1 was cleared by a clinician").arg(row.box->text()));
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

    m_clearance = new QWidget(this);
    auto* clearing = new QHBoxLayout(m_clearance);
    clearing->setContentsMargins(0, 0, 0, 0);
    m_clearingWords = new QLabel(m_clearance);
    m_clearedOn = new QDateEdit(m_clearance);
    m_clearedOn->setObjectName("clearedOn");
    m_clearedOn->setAccessibleName(tr("Cleared on"));
    m_clearedOn->setCalendarPopup(true);
    m_clearedBy = new QLineEdit(m_clearance);
    m_clearedBy->setObjectName("clearedBy");
    m_clearedBy->setAccessibleName(tr("Cleared by"));
    m_clearedBy->setPlaceholderText(tr("by whom, in your words"));
    auto* record = new QPushButton(tr("Record it"), m_clearance);
    record->setObjectName("recordClearance");
    for (QWidget* w : {static_cast<QWidget*>(m_clearingWords), static_cast<QWidget*>(m_clearedOn)})
        clearing->addWidget(w);
    clearing->addWidget(m_clearedBy, 1);
    clearing->addWidget(record);
    column->addWidget(m_clearance);
    connect(record, &QPushButton::clicked, this, &PainQuestion::recordClearance);
    connect(m_clearedBy, &QLineEdit::returnPressed, this, &PainQuestion::recordClearance);

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
        m_client.complaint = {a.score, a.place, a.sharp, QDate::currentDate()};
        emit answered(m_client);
    });
    hide();
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
                      [&](const auto& f) { return f.flag == flag && f.stands() && f.since == QDate::currentDate(); });
    emit answered(m_client);
}

void PainQuestion::beginClearing(const QString& flag) {
    m_clearing = flag;
    m_clearedOn->setDate(QDate::currentDate());
    m_clearedOn->setMaximumDate(QDate::currentDate());
    m_clearedBy->clear();
    refresh();
    m_clearedBy->setFocus();
}

void PainQuestion::recordClearance() {
    const QString by = m_clearedBy->text().trimmed();
    if (by.isEmpty()) return m_clearedBy->setFocus();
    for (auto& f : m_client.flags)
        if (f.flag == m_clearing && f.stands()) f.clearedOn = m_clearedOn->date(), f.clearedBy = by;
    m_clearing.clear();
    emit answered(m_client);
}

void PainQuestion::refresh() {
    m_filling = true;
    const QDate today = QDate::currentDate();
    m_title->setText(tr("Does anything hurt, %1?").arg(m_client.name.isEmpty() ? tr("client") : m_client.name));
    const auto& c = m_client.complaint;
    m_pain->setAnswer({c.askedOn == today ? c.score : std::nullopt, c.place, c.askedOn == today && c.sharp});
    for (const Row& row : m_rows) {
        const store::ClientFlag* standing = nullptr;
        const store::ClientFlag* cleared = nullptr;
        for (const auto& f : m_client.flags)
            if (f.flag == row.flag) (f.stands() ? standing : cleared) = &f;
        row.box->setChecked(standing != nullptr);
        // One that was carried here from another day goes only with a clearance.
        row.box->setEnabled(!standing || standing->since == today);
        auto day = [](const QDate& d) { return QLocale().toString(d, "d MMM yyyy"); };
        row.since->setText(standing  ? tr("since %1").arg(day(standing->since))
                           : cleared ? tr("cleared %1, %2").arg(day(*cleared->clearedOn), cleared->clearedBy)
                                     : QString());
        row.clear->setVisible(standing != nullptr);
    }
    m_clearance->setVisible(!m_clearing.isEmpty());
    m_clearingWords->setText(tr("%1: cleared on").arg(present::redFlagTitle(m_clearing.toStdString())));
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
