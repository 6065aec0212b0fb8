#include "app/compare/compare_desk.h"

namespace zevo::app {

CompareDesk::CompareDesk(Workplace& at, CompareView* page, QObject* parent) : QObject(parent), m_at(at), m_page(page) {
    connect(m_page, &CompareView::setWanted, this, [this](bool after, store::SetId id) {
        auto loaded = std::make_shared<std::optional<record::ComparedSet>>();
        m_at.queue.add(
            tr("Opening the set"), JobQueue::Priority::Now,
            [folder = m_at.library.folder(), id, catalogue = m_at.catalogue, loaded](const auto&,
                                                                                     const auto&) -> Result<void> {
                auto set = record::openCompared(folder, id, catalogue);
                if (!set) return set.error();
                *loaded = std::move(*set);
                return {};
            },
            [this, after, loaded](const Result<void>& done) {
                if (!done) return m_at.fail(tr("This set cannot be opened"), done.error(), false);
                if (m_at.isShown(m_page)) m_page->setSide(after, std::move(**loaded));
            });
    });
}

void CompareDesk::compare(Asked asked) {
    auto found = std::make_shared<std::optional<record::Comparable>>();
    m_at.queue.add(
        tr("Opening the set"), JobQueue::Priority::Now,
        [folder = m_at.library.folder(), id = asked.set, client = asked.client, movement = asked.movement,
         standard = asked.standard, catalogue = m_at.catalogue, found](const auto&, const auto&) -> Result<void> {
            auto sets = record::comparableWith(folder, id, client, movement, standard, catalogue);
            if (!sets) return sets.error();
            *found = std::move(*sets);
            return {};
        },
        [this, asked, found](const Result<void>& done) {
            if (!done) return m_at.fail(tr("This set cannot be compared"), done.error(), false);
            auto now = asked.now();
            if (!now) return;
            now->title = (*found)->title;
            m_page->setLengths(m_at.settings.lengths);
            m_page->show((*found)->before ? *(*found)->before : *now, *now, (*found)->choices, m_at.catalogue,
                         (*found)->sets);
            emit opened();
        });
}

}  // namespace zevo::app
