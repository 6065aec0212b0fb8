// What the window does about comparing: which sets there are, and opening them.
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QStackedWidget>

#include "app/compare/compare_view.h"
#include "app/shell/main_window.h"

namespace zevo::app {

void MainWindow::connectComparing() {
    m_actions.on("compare", [this] { compareSet(); });
    connect(m_compare, &CompareView::left, this, &MainWindow::backToSet);
    connect(m_compare, &CompareView::setWanted, this, [this](bool after, store::SetId id) {
        auto loaded = std::make_shared<std::optional<LoadedSet>>();
        loadForComparison(id, loaded, [this, after, id, loaded] {
            if (currentView() == m_compare) m_compare->setSide(after, sideFrom(std::move(**loaded), id));
        });
    });
}

QString MainWindow::titleOf(store::SetId id, const QDate& day, const std::vector<store::LoggedSet>& log) const {
    int number = 0;
    for (const auto& s : log)
        if (s.heldOn == day) {
            ++number;
            if (s.id == id) break;
        }
    return tr("%1, set %2").arg(QLocale().toString(day, "d MMM yyyy")).arg(number);
}

CompareView::Loaded MainWindow::sideFrom(LoadedSet set, store::SetId id) const {
    const auto log = m_library.log(set.stored.client.id);
    return {id, std::move(set.state), std::move(set.clips),
            log ? titleOf(id, set.stored.heldOn, *log) : QLocale().toString(set.stored.heldOn, "d MMM yyyy")};
}

void MainWindow::loadForComparison(store::SetId id, const std::shared_ptr<std::optional<LoadedSet>>& into,
                                   std::function<void()> then) {
    m_queue.add(
        tr("Opening the set"), JobQueue::Priority::Now,
        [folder = m_library.folder(), id, catalogue = m_catalogue, into](const auto&, const auto&) -> Result<void> {
            auto set = app::openSet(folder, id, catalogue);
            if (!set) return set.error();
            into->emplace(std::move(*set));
            return {};
        },
        [this, then = std::move(then)](const Result<void>& done) {
            if (!done) return failed(tr("This set cannot be opened"), done.error(), false);
            then();
        });
}

/// The set shown against the one before it of the same movement; where there is none, its first rep against its last.
void MainWindow::compareSet() {
    if (currentView() != m_review || !m_review->hasSet()) return;
    const store::SetId id = m_review->id();
    const QString movement = QString::fromStdString(m_review->document().facts().movement);
    const auto log = m_library.log(m_review->client().id, movement);
    if (!log) return showNotice(present::sentence(log.error()));
    const auto standard = m_review->document().state().standard;
    std::vector<CompareView::Choice> choices;
    std::optional<store::SetId> before;
    bool passed = false;
    for (const auto& s : *log) {
        if (s.reps.empty()) continue;
        const LedgerSet ledger{0, 0, s.edits, s.reps, true};
        const auto findings = findFaults(ledger.counted(), standard);
        const auto clear = std::count_if(findings.begin(), findings.end(),
                                         [](const Finding& f) { return f.severity == Severity::Clear; });
        choices.insert(choices.begin(), {s.id, tr("%1 · %2").arg(titleOf(s.id, s.heldOn, *log), s.headline), s.heldOn,
                                         static_cast<int>(clear)});
        passed |= s.id == id;
        if (!passed) before = s.id;
    }
    CompareView::Loaded shown{
        id, m_review->document().state(), {m_review->clip(false)}, titleOf(id, m_review->heldOn(), *log)};
    auto open = [this, shown, choices](CompareView::Loaded with) {
        m_review->stage()->setPlaying(false);
        m_compare->setLengths(m_settings.lengths);
        m_compare->show(std::move(with), shown, choices, m_catalogue);
        m_pages->setCurrentWidget(m_compare);
        m_actions.setPage(Where::Compare);
        m_open->hide();
        m_filmTop->hide();
        m_subtitle->setText(tr("Compared by the phase of the repetition"));
        refreshUndo();
        m_compare->setFocus();
    };
    if (!before) return open(shown);
    auto loaded = std::make_shared<std::optional<LoadedSet>>();
    loadForComparison(*before, loaded, [this, open, loaded, before, id] {
        if (currentView() == m_review && m_review->hasSet() && m_review->id() == id)
            open(sideFrom(std::move(**loaded), *before));
    });
}

void MainWindow::backToSet() {
    m_pages->setCurrentWidget(m_review);
    m_actions.setPage(Where::Review);
    m_open->show();
    m_filmTop->show();
    describeSet();
    refreshUndo();
    m_review->setFocus();
}

}  // namespace zevo::app
