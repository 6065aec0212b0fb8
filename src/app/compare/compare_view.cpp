#include "app/compare/compare_view.h"

#include <QBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLocale>
#include <QMenu>
#include <QPushButton>
#include <QTableWidget>
#include <algorithm>
#include <cmath>

#include "app/parts/elided_label.h"
#include "app/theme/parts.h"

namespace zevo::app {

using present::ComparePresenter;
using present::CompareSide;

CompareView::CompareView(Actions& actions, QWidget* parent) : QWidget(parent), m_actions(actions) {
    setObjectName("compareView");
    setFocusPolicy(Qt::StrongFocus);
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(16, 4, 16, 10);
    page->setSpacing(6);
    auto menu = [](QPushButton* b) {
        auto* m = new QMenu(b);
        b->setMenu(m);
        return m;
    };
    auto* top = new QHBoxLayout;
    top->setSpacing(6);
    auto side = [&](QLabel*& text, QPushButton*& set, QPushButton*& rep, QMenu*& sets, QMenu*& reps, const char* which,
                    const QString& word) {
        auto* name = new QLabel(word, this);
        name->setFont(textFont(15, true));
        set = chip(this, QString(which) + "Set", tr("choose a set"));
        rep = chip(this, QString(which) + "Rep", tr("all reps"));
        sets = menu(set), reps = menu(rep);
        text = new ElidedLabel(this);
        text->setObjectName(QByteArray(which) + "Text");
        text->setProperty("kind", "faint");
        top->addWidget(name);
        top->addWidget(set);
        top->addWidget(rep);
        top->addWidget(text, 1);
    };
    side(m_beforeText, m_beforeSet, m_beforeRep, m_beforeMenu, m_beforeReps, "before", tr("Before"));
    side(m_afterText, m_afterSet, m_afterRep, m_afterMenu, m_afterReps, "after", tr("After"));
    m_overButton = chip(this, "over", tr("One over the other"));
    m_swap = chip(this, "swap", tr("Swap"));
    m_legs = chip(this, "legs", tr("Left | right leg"));
    m_back = chip(this, "compareBack", tr("Back to the set"));
    page->addLayout(top);

    auto* pictures = new QHBoxLayout;
    pictures->setSpacing(10);
    for (bool after : {false, true}) {
        auto*& stage = after ? m_afterStage : m_beforeStage;
        stage = new Stage(this);
        stage->setObjectName(after ? "afterStage" : "beforeStage");
        stage->setAccessibleName(after ? tr("Video after") : tr("Video before"));
        stage->setScrubShown(false);
        stage->setTool(Stage::Tool::None);  // a press does not play: both move together
        pictures->addWidget(stage, 1);
        connect(stage, &Stage::shown, this, &CompareView::refreshPictures);
    }
    page->addLayout(pictures, 5);

    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    m_play = chip(this, "comparePlay", tr("Play"));
    m_measure = chip(this, "compareMeasure", tr("Next measure"));
    for (QPushButton* b : {m_play, m_measure, m_overButton, m_swap, m_legs}) buttons->addWidget(b);
    m_warned = new QLabel(this);
    m_warned->setObjectName("unlike");
    m_warned->setFont(textFont(13));
    m_warned->setWordWrap(true);
    buttons->addWidget(m_warned, 1);
    buttons->addWidget(m_back);
    page->addLayout(buttons);

    auto* bottom = new QHBoxLayout;
    bottom->setSpacing(14);
    m_plot = new PhasePlot(this);
    bottom->addWidget(m_plot, 5);
    auto* words = new QVBoxLayout;
    m_said = new QLabel(this);
    m_said->setObjectName("differences");
    m_said->setFont(textFont(17, true));
    m_said->setWordWrap(true);
    words->addWidget(m_said);
    m_table = new QTableWidget(0, 4, this);
    m_table->setObjectName("differenceTable");
    m_table->setAccessibleName(tr("Differences, more than noise first"));
    m_table->setHorizontalHeaderLabels({tr("Measure"), tr("Before"), tr("After"), tr("Difference")});
    m_table->verticalHeader()->hide();
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_table->verticalHeader()->setDefaultSectionSize(26);
    m_table->setFont(textFont(14));
    words->addWidget(m_table, 1);
    bottom->addLayout(words, 6);
    page->addLayout(bottom, 4);

    m_clock.setInterval(33);
    connect(&m_clock, &QTimer::timeout, this, [this] {
        // Both in the time the repetition on the right takes, at half speed.
        const MeasuredRep& rep = m_presenter->shownRep(true);
        const double phase = m_presenter->phase();
        const double length = std::max(0.5, rep.endS - rep.startS);
        setPhase(phase >= 3 ? 0 : phase + 0.5 * 0.033 * 3 / length);
    });
    connect(m_plot, &PhasePlot::phaseWanted, this, [this](double phase) {
        m_clock.stop();
        setPhase(phase);
    });
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row == before || row < 0 || !m_presenter) return;
        const auto rows = m_presenter->rows();
        if (row >= static_cast<int>(rows.size()) ||
            rows[static_cast<std::size_t>(row)].measure == m_presenter->measure())
            return;
        m_presenter->selectMeasure(rows[static_cast<std::size_t>(row)].measure);
        refresh();
    });
    connect(m_play, &QPushButton::clicked, this, &CompareView::togglePlay);
    connect(m_legs, &QPushButton::clicked, this, &CompareView::compareLegs);
    m_actions.bind(m_overButton, "compareOver");
    m_actions.bind(m_swap, "compareSwap");
    m_actions.bind(m_measure, "compareMeasure");
    m_actions.bind(m_back, "compareBack");
    m_actions.on("compareOver", [this] { toggleOver(); });
    m_actions.on("compareSwap", [this] { swapSides(); });
    m_actions.on("compareMeasure", [this] { nextMeasure(); });
    m_actions.on("compareWith", [this] { chooseWith(); });
    m_actions.on("compareBack", [this] { leave(); });
}

void CompareView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_beforeStage->setTheme(theme);
    m_afterStage->setTheme(theme);
    m_plot->setTheme(theme);
    if (m_presenter) refresh();
}

void CompareView::setLengths(present::Lengths lengths) {
    m_lengths = lengths;
    if (!m_presenter) return;
    m_presenter->setLengths(lengths);
    refresh();
}

CompareSide CompareView::sideOf(bool after) const {
    const record::ComparedSet& l = after ? m_after : m_before;
    return {l.state, l.title, {}, {}, l.id.key()};
}

void CompareView::show(record::ComparedSet before, record::ComparedSet after,
                       std::vector<record::Comparable::Choice> choices, std::shared_ptr<const Catalogue> catalogue,
                       std::vector<LedgerSet> sets) {
    m_before = std::move(before), m_after = std::move(after);
    m_choices = std::move(choices);
    m_over = false;
    CompareSide first = sideOf(false), last = sideOf(true);
    if (m_before.id == m_after.id) {
        // Of one set: the first repetition that counts against the last one.
        const SetResult& r = last.state.set.result;
        for (int i = 0; i < static_cast<int>(r.reps.size()); ++i)
            if (r.counts(r.reps[static_cast<std::size_t>(i)])) {
                if (!first.rep) first.rep = i;
                last.rep = i;
            }
    }
    m_presenter =
        std::make_unique<ComparePresenter>(std::move(first), std::move(last), std::move(catalogue), std::move(sets));
    m_presenter->setLengths(m_lengths);
    openClips();
    fillMenus();
    setPhase(1.5);
    refresh();
}

void CompareView::setSide(bool after, record::ComparedSet set) {
    (after ? m_after : m_before) = std::move(set);
    m_presenter->setSide(after, sideOf(after));
    openClips();
    fillMenus();
    refresh();
}

void CompareView::openClips() {
    for (bool after : {false, true}) {
        const record::ComparedSet& l = after ? m_after : m_before;
        const ClipFacts& facts = l.state.set.first.clip;
        static const record::Watchable none;
        const record::Watchable& clip = l.clips.empty() ? none : l.clips.front();
        stage(after)->open(clip.path, clip.timesS, {facts.width, facts.height}, clip.missing);
    }
}

void CompareView::fillMenus() {
    const store::SetId shown = m_after.id;
    for (bool after : {false, true}) {
        QMenu* sets = after ? m_afterMenu : m_beforeMenu;
        sets->clear();
        auto add = [&](const QString& title, store::SetId id) {
            sets->addAction(title, this, [this, after, id] { emit setWanted(after, id); });
        };
        const auto other = [&](const record::Comparable::Choice& c) { return c.id != shown; };
        const auto last = std::find_if(m_choices.begin(), m_choices.end(), other);
        if (last != m_choices.end()) add(tr("The set before: %1").arg(last->title), last->id);
        const auto best = std::min_element(
            m_choices.begin(), m_choices.end(),
            [](const record::Comparable::Choice& a, const record::Comparable::Choice& b) { return a.clear < b.clear; });
        if (best != m_choices.end()) add(tr("The best one: %1").arg(best->title), best->id);
        // The one nearest to a month ago.
        constexpr int kMonth = 30;
        const QDate today = m_choices.empty() ? QDate() : m_choices.front().heldOn;
        const auto old = std::min_element(
            m_choices.begin(), m_choices.end(),
            [&](const record::Comparable::Choice& a, const record::Comparable::Choice& b) {
                return std::abs(a.heldOn.daysTo(today) - kMonth) < std::abs(b.heldOn.daysTo(today) - kMonth);
            });
        if (old != m_choices.end() && old->heldOn != today) add(tr("About a month ago: %1").arg(old->title), old->id);
        sets->addSeparator();
        constexpr std::size_t kMost = 25;
        for (std::size_t i = 0; i < std::min(kMost, m_choices.size()); ++i) add(m_choices[i].title, m_choices[i].id);
        QMenu* reps = after ? m_afterReps : m_beforeReps;
        reps->clear();
        reps->addAction(tr("all that count"), this, [this, after] { chooseRep(after, -1); });
        const auto& all = m_presenter->side(after).state.set.result.reps;
        for (std::size_t i = 0; i < all.size(); ++i)
            reps->addAction(tr("rep %1").arg(all[i].index), this,
                            [this, after, i] { chooseRep(after, static_cast<int>(i)); });
    }
    const auto& reps = m_after.state.set.result.reps;
    m_legs->setVisible(std::any_of(reps.begin(), reps.end(), [](const auto& r) { return r.leg == Side::Left; }) &&
                       std::any_of(reps.begin(), reps.end(), [](const auto& r) { return r.leg == Side::Right; }));
}

void CompareView::chooseRep(bool after, int position) {
    CompareSide side = m_presenter->side(after);
    side.rep = position < 0 ? std::nullopt : std::optional(position);
    side.leg.reset();
    m_presenter->setSide(after, std::move(side));
    refresh();
    setPhase(m_presenter->phase());
}

void CompareView::compareLegs() {
    for (bool after : {false, true}) {
        CompareSide side = sideOf(true);
        side.leg = after ? Side::Right : Side::Left;
        m_presenter->setSide(after, std::move(side));
    }
    m_before = m_after;
    openClips();
    refresh();
    setPhase(m_presenter->phase());
}

QStringList CompareView::sentences() const {
    return m_presenter ? m_presenter->sentences() : QStringList();
}

void CompareView::refresh() {
    for (bool after : {false, true}) {
        (after ? m_afterText : m_beforeText)->setText(m_presenter->sideText(after));
        QPushButton* set = after ? m_afterSet : m_beforeSet;
        set->setText(m_presenter->side(after).title);
        set->setAccessibleName((after ? tr("Set on the right: %1") : tr("Set on the left: %1")).arg(set->text()));
        const auto& side = m_presenter->side(after);
        QPushButton* rep = after ? m_afterRep : m_beforeRep;
        rep->setText(side.rep                  ? tr("rep %1").arg(m_presenter->shownRep(after).index)
                     : side.leg == Side::Left  ? tr("left leg")
                     : side.leg == Side::Right ? tr("right leg")
                                               : tr("all reps"));
        rep->setAccessibleName(tr("Repetitions: %1").arg(rep->text()));
    }
    const QStringList warnings = m_presenter->warnings();
    m_warned->setText(warnings.isEmpty() ? QString()
                                         : tr("Not seen alike: %1. The ± is wider.").arg(warnings.join(", ")));
    QStringList said = m_presenter->sentences();
    m_said->setText(said.mid(0, height() < 560 ? 2 : 4).join(". ") + ".");
    const auto rows = m_presenter->rows();
    const QSignalBlocker quiet(m_table);
    m_table->setRowCount(static_cast<int>(rows.size()));
    for (int i = 0; i < static_cast<int>(rows.size()); ++i) {
        const auto& row = rows[static_cast<std::size_t>(i)];
        int column = 0;
        for (const QString& text : {row.title, row.before, row.after, row.change}) {
            auto* item = new QTableWidgetItem(text);
            item->setForeground(row.significant ? m_theme.ink : m_theme.faint);
            item->setFont(textFont(14, row.significant));
            item->setData(Qt::AccessibleTextRole, row.spoken);
            m_table->setItem(i, column++, item);
        }
        if (row.measure == m_presenter->measure()) m_table->selectRow(i);
    }
    m_plot->setCurve(m_presenter->curve(), m_lengths);
    m_beforeStage->setVisible(!m_over);
    m_overButton->setText(m_over ? tr("Side by side") : tr("One over the other"));
    refreshPictures();
}

void CompareView::setPhase(double phase) {
    m_presenter->setPhase(phase);
    m_plot->setPhase(m_presenter->phase());
    for (bool after : {false, true}) stage(after)->goTo(m_presenter->timeS(after));
    refreshPictures();
}

void CompareView::refreshPictures() {
    if (!m_presenter) return;
    for (bool after : {false, true}) {
        // The number belongs to the turning point, where it was read.
        const bool there = std::abs(m_presenter->phase() - 1.5) < 0.1;
        stage(after)->setOverlay(m_presenter->overlay(after), there ? m_presenter->valueOf(after) : QString());
        stage(after)->setGhost(m_over && after ? m_presenter->otherFigure(true) : present::Overlay{});
        const Track& t = m_presenter->side(after).state.set.track();
        const std::size_t at = t.sampleAt(m_presenter->timeS(after));
        stage(after)->setBody(present::bodyOver(t, at, at));
    }
}

void CompareView::toggleOver() {
    if (!m_presenter) return;
    m_over = !m_over;
    refresh();
}

void CompareView::swapSides() {
    if (!m_presenter) return;
    std::swap(m_before, m_after);
    m_presenter->swap();
    openClips();
    fillMenus();
    refresh();
    setPhase(m_presenter->phase());
}

void CompareView::nextMeasure() {
    if (!m_presenter) return;
    m_presenter->nextMeasure();
    refresh();
    setPhase(m_presenter->phase());
}

void CompareView::togglePlay() {
    m_clock.isActive() ? m_clock.stop() : m_clock.start();
    m_play->setText(m_clock.isActive() ? tr("Pause") : tr("Play"));
}

void CompareView::chooseWith() {
    m_beforeSet->setFocus();
    m_beforeSet->showMenu();
}

void CompareView::leave() {
    m_clock.stop();
    emit left();
}

void CompareView::keyPressEvent(QKeyEvent* e) {
    const double step = e->modifiers() & Qt::ShiftModifier ? 0.25 : 0.04;
    switch (e->key()) {
        case Qt::Key_Left: setPhase(m_presenter->phase() - step); break;
        case Qt::Key_Right: setPhase(m_presenter->phase() + step); break;
        case Qt::Key_Space: togglePlay(); break;
        case Qt::Key_Return: setPhase(1.5); break;
        case Qt::Key_Escape: leave(); break;
        default: QWidget::keyPressEvent(e);
    }
}

void CompareView::hideEvent(QHideEvent*) {
    m_clock.stop();
    m_play->setText(tr("Play"));
}

void CompareView::resizeEvent(QResizeEvent*) {
    if (m_presenter) refresh();
}

}  // namespace zevo::app
