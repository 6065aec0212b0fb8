#include "app/review/say_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme/parts.h"
#include "present/paint/marks.h"

namespace zevo::app {
namespace {

QString kindWord(const QString& kind) {
    if (kind == "external") return "something to aim at";
    if (kind == "internal") return "something to feel";
    if (kind == "image") return "a picture";
    if (kind == "own") return "your own words";
    return kind;
}

QLabel* label(QWidget* parent, const char* name, int pixels, bool bold = false, bool faint = false) {
    auto* l = new QLabel(parent);
    l->setObjectName(name);
    l->setFont(textFont(pixels, bold));
    l->setWordWrap(true);
    l->setTextFormat(Qt::PlainText);
    if (faint) l->setProperty("kind", "faint");
    return l;
}

QPushButton* quiet(QWidget* parent, const QString& name, const QString& tip) {
    auto* b = new QPushButton(parent);
    b->setObjectName(name);
    b->setProperty("kind", "quiet");
    b->setToolTip(tip);
    b->setAccessibleName(tip);
    return b;
}

}  // namespace

SayCard::SayCard(QWidget* parent) : QFrame(parent) {
    setProperty("kind", "card");
    setAccessibleName("What to say");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 6, 14, 8);
    column->setSpacing(2);

    auto* top = new QHBoxLayout;
    m_title = label(this, "findingTitle", 17, true);
    m_title->setIndent(22);  // room for the mark
    m_previous = quiet(this, "previousFinding", "Finding before (Shift+N)");
    m_position = label(this, "findingPosition", 13, false, true);
    m_position->setWordWrap(false);
    m_next = quiet(this, "nextFinding", "Next finding (N)");
    top->addWidget(m_title, 1);
    top->addWidget(m_previous);
    top->addWidget(m_position);
    top->addWidget(m_next);
    column->addLayout(top);
    m_where = label(this, "findingWhere", 13, false, true);
    column->addWidget(m_where);

    auto* say = new QHBoxLayout;
    m_sentence = label(this, "sentence", 25, true);
    m_sentence->setMinimumHeight(56);
    m_sentence->setAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    m_words = quiet(this, "otherWords", "Say it in other words (W)");
    say->addWidget(m_sentence, 1);
    m_given = new QPushButton("I said it", this);
    m_given->setObjectName("given");
    m_given->setCheckable(true);
    m_given->setFocusPolicy(Qt::TabFocus);
    say->addWidget(m_words);
    m_picture = new FaultPicture(this);
    m_picture->setObjectName("faultPicture");
    say->addWidget(m_picture, 0, Qt::AlignBottom);
    column->addLayout(say);

    m_own = new QLineEdit(this);
    m_own->setObjectName("ownWords");
    m_own->setAccessibleName(tr("What you said, in your own words"));
    m_own->setPlaceholderText(tr("what you said, Enter"));
    m_own->hide();
    column->addWidget(m_own);
    connect(m_own, &QLineEdit::returnPressed, this, [this] {
        const QString words = m_own->text().trimmed();
        m_own->hide();
        if (!words.isEmpty()) emit ownWordsGiven(words);
    });

    auto* why = new QHBoxLayout;
    m_why = label(this, "why", 13);
    m_moment = quiet(this, "showMoment", "Show the moment (Enter)");
    m_moment->setText("Show it");
    why->addWidget(m_why, 1);
    why->addWidget(m_moment, 0, Qt::AlignTop);
    why->addWidget(m_given, 0, Qt::AlignTop);
    column->addLayout(why);
    m_trace = label(this, "trace", 13, false, true);
    column->addWidget(m_trace);

    auto* tabs = new QHBoxLayout;
    tabs->setSpacing(0);
    static const char* const kNames[] = {"Change", "Prepare", "When clean", "Over the set"};
    static const char* const kKeys[] = {"C", "P", "Q", "F"};
    for (int i = 0; i < 4; ++i) {
        auto* b = new QPushButton(kNames[i], this);
        b->setObjectName(QString("tab%1").arg(i));
        b->setProperty("kind", "tab");
        b->setCheckable(true);
        b->setToolTip(QString("%1 (%2)").arg(kNames[i], kKeys[i]));
        connect(b, &QPushButton::clicked, this, [this, i] { showPart(static_cast<Part>(i)); });
        tabs->addWidget(b);
        m_tabs[static_cast<std::size_t>(i)] = b;
    }
    tabs->addStretch();
    column->addLayout(tabs);
    m_details = label(this, "details", 14);
    m_details->setMinimumHeight(40);
    m_details->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    column->addWidget(m_details);
    constexpr int kMostChanges = 4;
    for (int i = 0; i < kMostChanges; ++i) {
        ChangeRow c{new QWidget(this), nullptr, nullptr};
        auto* row = new QHBoxLayout(c.row);
        row->setContentsMargins(0, 0, 0, 0);
        c.text = label(c.row, qPrintable(QString("change%1").arg(i)), 14);
        c.ask = chip(c.row, QString("askChange%1").arg(i), tr("Ask it"));
        c.ask->setCheckable(true);
        row->addWidget(c.text, 1);
        row->addWidget(c.ask, 0, Qt::AlignTop);
        column->addWidget(c.row);
        connect(c.ask, &QPushButton::clicked, this, [this, i] {
            const auto at = static_cast<std::size_t>(i);
            if (at < m_saying.changeInstead.size() && m_saying.changeInstead[at])
                return emit insteadWanted(*m_saying.changeInstead[at], m_saying.changeAsks[at]);
            const auto& ask = m_saying.changeAsks[at];
            emit changeAsked(*ask, !isAsked(*ask, m_asked));
        });
        m_changes.push_back(c);
    }

    connect(m_previous, &QPushButton::clicked, this, [this] { emit findingWanted(m_index - 1); });
    connect(m_next, &QPushButton::clicked, this, [this] { emit findingWanted(m_index + 1); });
    connect(m_words, &QPushButton::clicked, this, &SayCard::otherWords);
    connect(m_moment, &QPushButton::clicked, this, [this] { emit momentWanted(m_saying.atS); });
}

void SayCard::setTheme(const Theme& theme) {
    m_theme = theme;
    m_previous->setIcon(icon("back", theme.ink));
    m_next->setIcon(icon("frame-on", theme.ink));
    m_words->setIcon(icon("other", theme.accent));
    for (auto* b : {m_previous, m_next, m_words}) b->setIconSize({22, 22});
    m_picture->setTheme(theme);
    update();
}

void SayCard::setSaying(const ReviewPresenter::Saying& saying, int index, int count, const QStringList& set) {
    m_set = set;
    if (saying.title != m_saying.title) m_wording = 0;
    m_saying = saying;
    m_index = index;
    m_count = count;
    fill();
}

QString SayCard::sentence() const {
    return m_sentence->text();
}

void SayCard::setGiven(const QString& wording, bool any) {
    m_givenWords = wording;
    m_anyGiven = any;
    fill();
}

void SayCard::setCompact(bool compact) {
    if (m_compact == compact) return;
    m_compact = compact;
    m_sentence->setMinimumHeight(compact ? 0 : 56);
    m_details->setMinimumHeight(compact ? 0 : 40);
    fill();
}

void SayCard::setAsked(const Asks& asks) {
    m_asked = asks;
    fill();
}

void SayCard::askChange() {
    for (const ChangeRow& c : m_changes)
        if (c.ask->isVisibleTo(this)) return c.ask->click();
}

/// Changes stand in rows of their own where one of them asks something: what is only said has no button.
void SayCard::fillChanges() {
    const auto& asks = m_saying.changeAsks;
    const auto& others = m_saying.changeInstead;
    auto given = [](const auto& list) {
        return std::any_of(list.begin(), list.end(), [](const auto& one) { return one.has_value(); });
    };
    const bool any = m_part == Part::Change && !m_saying.stop && (given(asks) || given(others));
    m_details->setVisible(!any);
    for (std::size_t i = 0; i < m_changes.size(); ++i) {
        const ChangeRow& c = m_changes[i];
        const bool shown = any && static_cast<qsizetype>(i) < m_saying.change.size();
        c.row->setVisible(shown);
        if (!shown) continue;
        const bool filming = i < others.size() && others[i];
        const bool asking = i < asks.size() && asks[i];
        c.text->setText(m_saying.change[static_cast<qsizetype>(i)]);
        c.ask->setVisible(asking || filming);
        c.ask->setCheckable(!filming);
        if (filming) {
            c.ask->setText(tr("Film it"));
            c.ask->setAccessibleName(tr("%1: %2").arg(c.ask->text(), c.text->text()));
            c.ask->setToolTip(
                tr("Instead of this movement; what it was done for is remembered (Alt+C for the first one)"));
        }
        if (filming || !asking) continue;
        const bool taken = isAsked(*asks[i], m_asked);
        c.ask->setChecked(taken);
        c.ask->setText(taken ? tr("Asked ✓") : tr("Ask it"));
        c.ask->setAccessibleName(tr("%1: %2").arg(c.ask->text(), c.text->text()));
        c.ask->setToolTip(taken ? tr("It is asked from the next set on. Again: it is not.")
                                : tr("From the next set on, until it is lifted (Alt+C for the first one)"));
    }
}

void SayCard::askOwnWords() {
    if (m_saying.fault.isEmpty() || m_saying.stop) return;
    m_own->setText(m_anyGiven ? m_givenWords : QString());
    m_own->show();
    m_own->setFocus();
    m_own->selectAll();
}

void SayCard::showPart(Part part) {
    m_part = part;
    fill();
}

void SayCard::otherWords() {
    if (!m_saying.say.isEmpty()) m_wording = (m_wording + 1) % static_cast<int>(m_saying.say.size());
    fill();
}

void SayCard::fill() {
    const bool unsure = !m_saying.unsure.isEmpty();
    m_title->setText(m_saying.title);
    QString where = m_saying.where;
    if (!m_saying.term.isEmpty()) where += " · " + m_saying.term;
    const int shown = m_saying.say.isEmpty() ? 0 : m_wording % static_cast<int>(m_saying.say.size());
    if (const QString score = m_saying.scores.value(shown); !score.isEmpty())
        where += tr(" · these words: %1").arg(score);
    m_where->setText(where);
    m_position->setText(m_count > 1 ? QString("%1 of %2").arg(m_index + 1).arg(m_count) : QString());
    m_previous->setVisible(m_count > 1);
    m_next->setVisible(m_count > 1);
    m_previous->setEnabled(m_index > 0);
    m_next->setEnabled(m_index + 1 < m_count);
    // What could not be settled gets no cue: what to film instead.
    const int wording = shown;
    m_sentence->setFont(textFont(unsure ? 18 : m_compact ? 20 : 25, true));
    m_sentence->setText(!unsure         ? m_saying.say.value(wording)
                        : m_saying.open ? m_saying.unsure
                                        : "Not sure. " + m_saying.unsure);
    m_words->setVisible(!unsure && m_saying.say.size() > 1);
    m_words->setToolTip(
        QString("Say it in other words (W). This one is %1.").arg(kindWord(m_saying.sayKinds.value(wording))));
    m_given->setVisible(!unsure && !m_saying.say.isEmpty() && !m_saying.stop && !m_saying.fault.isEmpty());
    m_given->setChecked(m_anyGiven && m_givenWords == m_sentence->text());
    const bool otherWords = m_anyGiven && !m_given->isChecked();
    m_given->setText(m_given->isChecked() ? tr("Said ✓") : otherWords ? tr("Other said") : tr("I said it"));
    if (otherWords) m_given->setToolTip(tr("Said: %1").arg(m_givenWords));
    m_why->setText(m_saying.why);
    // In a low window what to do about pain needs the room; its rule stands among the notes.
    m_why->setVisible(!m_compact || !m_saying.lead);
    const bool likely = m_saying.trace.contains(QChar(0x2192));  // else it says only what it is not
    m_trace->setText(m_saying.trace.isEmpty() ? QString() : (likely ? "Likely: " : "") + m_saying.trace + ".");
    m_trace->setVisible(!m_saying.trace.isEmpty() && !m_compact);
    m_picture->setVisible(!m_compact);
    m_where->setVisible(!m_compact);
    m_moment->setVisible(!m_saying.clean && !m_saying.stop && !m_saying.lead && !m_saying.open);
    if (!m_compact) m_picture->setFault(m_saying.figure, m_saying.turned);
    for (int i = 0; i < 4; ++i) m_tabs[static_cast<std::size_t>(i)]->setChecked(static_cast<int>(m_part) == i);
    const QStringList lines = m_part == Part::Change    ? m_saying.change
                              : m_part == Part::Prepare ? m_saying.prepare
                              : m_part == Part::Set     ? m_set
                                                        : QStringList{m_saying.progress};
    QStringList dotted;
    for (const QString& l : lines) dotted.append((lines.size() > 1 ? QString(QChar(0x2013)) + " " : QString()) + l);
    m_details->setText(dotted.join('\n'));
    fillChanges();
    update();
}

void SayCard::paintEvent(QPaintEvent* e) {
    QFrame::paintEvent(e);
    QPainter p(this);
    const bool unsure = m_saying.open || m_saying.severity == Severity::Unsure;
    const Verdict verdict = m_saying.clean ? Verdict::Inside : unsure ? Verdict::Unsure : Verdict::Outside;
    drawMark(p, QPointF(m_title->x() + 9, m_title->y() + m_title->height() / 2.0), 15, verdict, true, m_theme);
}

}  // namespace zevo::app
