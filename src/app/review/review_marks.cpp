// Points the coach marks in the picture: clicked once, followed elsewhere, taken as an edit of the set.
#include <algorithm>
#include <cmath>

#include "app/review/review_view.h"
#include "present/words.h"

namespace zevo::app {

const Mark* ReviewView::markOf(bool second, MarkKind kind) const {
    for (const auto& f : m_following)
        if (f.second == second && f.mark.kind == kind) return &f.mark;
    for (const Mark& m : m_document->state().edited.views[second].marks)
        if (m.kind == kind) return &m;
    return nullptr;
}

void ReviewView::toggleMarking() {
    if (!hasSet()) return;
    if (!m_correcting) toggleCorrecting();
    m_bar->setMarking(!m_bar->isMarking());
}

/// A click adds to those there are: what was lost is found again from it, and what was held stays held from the others.
void ReviewView::markAt(const QPointF& at) {
    const MarkKind kind = m_bar->markKind();
    const Mark* before = markOf(m_second, kind);
    const Mark mark = (before ? *before : Mark{kind, m_bar->nearerCm(), {}, nullptr})
                          .clicked({m_stage->shownTimeS(), at.x(), at.y()});
    dropMark(m_second, kind);
    m_following.push_back({m_second, mark});
    m_bar->setHint(tr("%1: being followed; the strip above shows how far it is. The next one can be marked meanwhile.")
                       .arg(present::markWords(kind)));
    emit markWanted(m_second, mark);
}

void ReviewView::takeMark(bool second, const Mark& mark) {
    const auto wished = std::find_if(m_following.begin(), m_following.end(), [&](const PointMarked& f) {
        return f.second == second && f.mark.kind == mark.kind;
    });
    if (!hasSet() || wished == m_following.end() || wished->mark.clicks != mark.clicks) return;
    m_following.erase(wished);
    m_refining = true;
    const auto gaps = mark.gaps();
    m_document->apply(PointMarked{second, mark}, tr("a marked point"));
    const QString name = present::markWords(mark.kind);
    m_bar->setHint(gaps.empty() ? tr("%1: followed over the whole set.").arg(name)
                                : tr("%1: lost from %2 to %3 s. Click it again there.")
                                      .arg(name, present::figures(gaps.front().first, 1),
                                           present::figures(gaps.front().second, 1)));
}

void ReviewView::dropMark(bool second, MarkKind kind) {
    std::erase_if(m_following, [&](const PointMarked& f) { return f.second == second && f.mark.kind == kind; });
}

void ReviewView::refreshMarks() {
    const auto& marks = m_document->state().edited.views[m_second].marks;
    m_bar->setMarks(presenter().track(m_second).view, marks);
    const double shownS = m_stage->shownTimeS();
    std::vector<Stage::MarkShown> shown;
    std::vector<Span> gaps;
    for (const Mark& mark : marks) {
        if (!mark.path) continue;
        Stage::MarkShown m{{}, present::markWords(mark.kind), true};
        // The step of this picture; where it was lost, the last place before it.
        double nearest = 1e9;
        bool any = false;
        for (const MarkStep& s : *mark.path) {
            const double far = std::abs(s.timeS - shownS);
            if (s.held() && (s.timeS <= shownS || far < 0.02)) m.at = {s.x, s.y}, any = true;
            if (far < nearest) nearest = far, m.lost = !s.held();
        }
        constexpr double kHereS = 0.1;
        if (any && nearest < kHereS) shown.push_back(std::move(m));
        for (const auto& [from, to] : mark.gaps()) gaps.push_back({from, to});
    }
    m_stage->setMarks(std::move(shown), std::move(gaps));
}

void ReviewView::connectMarks() {
    connect(m_stage, &Stage::markClicked, this, &ReviewView::markAt);
    connect(m_bar, &CorrectBar::markWanted, this,
            [this](bool on) { chooseTool(on ? Stage::Tool::Mark : Stage::Tool::Points); });
    connect(m_bar, &CorrectBar::markTakenOff, this, [this] {
        const MarkKind kind = m_bar->markKind();
        dropMark(m_second, kind);
        m_refining = true;
        m_document->takeBack(
            [this, kind](const Edit& e) {
                const auto* marked = std::get_if<PointMarked>(&e);
                return marked && marked->second == m_second && marked->mark.kind == kind;
            },
            tr("a mark taken off"));
    });
    connect(m_bar, &CorrectBar::nearerTold, this, [this](double cm) {
        const Mark* there = hasSet() ? markOf(m_second, m_bar->markKind()) : nullptr;
        if (!there || !there->path) return;
        Mark mark = *there;
        mark.nearerCm = cm;
        m_refining = true;
        m_document->apply(PointMarked{m_second, mark}, tr("how near a marked point is"));
    });
    m_actions.on("mark", [this] { toggleMarking(); });
    m_actions.on("markHere", [this] { m_stage->takeCross(); });
}

}  // namespace zevo::app
