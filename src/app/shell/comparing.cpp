// What the window does about comparing: which sets there are, and opening them.
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>

#include "app/compare/compare_view.h"
#include "app/shell/main_window.h"

namespace zevo::app {

void MainWindow::connectComparing() {
    m_actions.on("compare", [this] { compareSet(); });
    connect(m_compare, &CompareView::left, this, &MainWindow::backToSet);
    connect(m_compare, &CompareView::setWanted, this, [this](bool after, store::SetId id) {
        auto loaded = std::make_shared<std::optional<record::ComparedSet>>();
        m_queue.add(
            tr("Opening the set"), JobQueue::Priority::Now,
            [folder = m_library.folder(), id, catalogue = m_catalogue, loaded](const auto&,
                                                                               const auto&) -> Result<void> {
                auto set = record::openCompared(folder, id, catalogue);
                if (!set) return set.error();
                *loaded = std::move(*set);
                return {};
            },
            [this, after, loaded](const Result<void>& done) {
                if (!done) return failed(tr("This set cannot be opened"), done.error(), false);
                if (currentView() == m_compare) m_compare->setSide(after, std::move(**loaded));
            });
    });
}

/// The set shown against the one before it of the same movement; where there is none, its first rep against its last.
void MainWindow::compareSet() {
    if (currentView() != m_review || !m_review->hasSet()) return;
    const store::SetId id = m_review->id();
    const QString movement = QString::fromStdString(m_review->document().facts().movement);
    auto found = std::make_shared<std::optional<record::Comparable>>();
    m_queue.add(
        tr("Opening the set"), JobQueue::Priority::Now,
        [folder = m_library.folder(), id, client = m_review->client().id, movement,
         standard = m_review->document().state().standard, catalogue = m_catalogue,
         found](const auto&, const auto&) -> Result<void> {
            auto sets = record::comparableWith(folder, id, client, movement, standard, catalogue);
            if (!sets) return sets.error();
            *found = std::move(*sets);
            return {};
        },
        [this, id, found](const Result<void>& done) {
            if (!done) return failed(tr("This set cannot be compared"), done.error(), false);
            if (currentView() == m_review && m_review->hasSet() && m_review->id() == id) showComparison(**found);
        });
}

void MainWindow::showComparison(const record::Comparable& found) {
    const record::ComparedSet shown{m_review->id(), m_review->document().state(), {m_review->clip(false)}, found.title};
    m_review->stage()->setPlaying(false);
    m_compare->setLengths(m_settings.lengths);
    m_compare->show(found.before ? *found.before : shown, shown, found.choices, m_catalogue, found.sets);
    m_pages->setCurrentWidget(m_compare);
    m_actions.setPage(Where::Compare);
    m_open->hide();
    m_filmTop->hide();
    m_subtitle->setText(tr("Compared by the phase of the repetition"));
    refreshUndo();
    m_compare->setFocus();
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
