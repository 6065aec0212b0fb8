#include "present/set_document.h"

#include <QPointer>
#include <algorithm>
#include <utility>

#include "present/words.h"

namespace zevo::present {
namespace {

/// Longer clips are not measured on the window's thread: a minute takes less than 50 ms (bench_session).
constexpr std::size_t kQuickFrames = 1900;

/// What stands in for the answer of work that ended without one: it threw, or was stopped.
Error unfinished() {
    return refusal(NoticeKind::Inside, {}, "the work on the document ended without an answer");
}

/// Whether older values may go on being shown: the edit asks for nothing but another judgement.
bool keepsValues(const Edit& e, const SetFacts& before) {
    if (onlyJudges(e)) return true;
    const auto* set = std::get_if<FactsSet>(&e);
    if (!set) return false;
    SetFacts facts = set->facts;
    facts.pain = before.pain;
    facts.tempo = before.tempo;
    return facts == before;
}

}  // namespace

SetDocument::SetDocument(Observations observations, Edits edits, std::shared_ptr<const Catalogue> catalogue,
                         std::optional<KeptValues> kept, SetState state, QObject* parent)
    : QObject(parent),
      m_observations(std::move(observations)),
      m_catalogue(std::move(catalogue)),
      m_kept(std::move(kept)),
      m_state(std::move(state)),
      m_shown(edits),
      m_handed(edits) {
    m_history.push_back({std::move(edits), m_state.kept, {}});
}

Result<SetState> SetDocument::open(const Observations& observations, const Edits& edits, const Catalogue& catalogue,
                                   const std::optional<KeptValues>& kept) {
    return recompute(observations, edits, catalogue, nullptr, kept ? &*kept : nullptr);
}

void SetDocument::apply(Edit edit, const QString& what) {
    const Step& now = m_history[m_at];
    const bool kept = now.kept && keepsValues(edit, fold(now.edits).facts);
    Step next{with(now.edits, std::move(edit)), kept, what};
    if (next.edits == now.edits) return;
    take(std::move(next));
}

void SetDocument::take(Step next) {
    next.number = ++m_numbers;
    m_history.resize(m_at + 1);
    m_history.push_back(std::move(next));
    go(m_at + 1);
}

std::optional<SetState> SetDocument::preview(const Edit& edit, const SetState* from) const {
    if (m_running || m_history[m_at].kept || frames() > kQuickFrames) return std::nullopt;
    auto made = recompute(m_observations, with(pendingEdits(), edit), *m_catalogue, from ? from : &m_state);
    return made ? std::optional(std::move(*made)) : std::nullopt;
}

void SetDocument::takeBack(const std::function<bool(const Edit&)>& which, const QString& what) {
    const Step& now = m_history[m_at];
    Step next{now.edits, now.kept, what};
    std::erase_if(next.edits, which);
    if (next.edits == now.edits) return;
    take(std::move(next));
}

void SetDocument::choosePerson(std::shared_ptr<const Observation> seen, PersonChosen person) {
    m_observations.push_back(std::move(seen));
    person.observation = static_cast<int>(m_observations.size()) - 1;
    apply(person, tr("choosing the person"));
}

void SetDocument::addSecond(std::shared_ptr<const Observation> seen, bool sameTake) {
    m_observations.push_back(std::move(seen));
    apply(SecondAdded{static_cast<int>(m_observations.size()) - 1, sameTake}, tr("adding the other view"));
}

void SetDocument::measureAnew() {
    if (!m_history[m_at].kept) return;
    Step next{m_history[m_at].edits, false, tr("measuring anew")};
    take(std::move(next));
}

void SetDocument::rebase(const Edits& base, const Edits& theirs, Observations observations,
                         const std::map<int, int>& moved) {
    auto laid = [&](const Edits& mine) { return rebased(base, mine, theirs, moved); };
    std::vector<Step> history;
    std::size_t at = 0;
    for (std::size_t i = 0; i < m_history.size(); ++i) {
        Step step = m_history[i];
        step.edits = laid(step.edits);
        // A step that comes to nothing there is none.
        const bool same = !history.empty() && history.back().edits == step.edits && history.back().kept == step.kept;
        if (!same) history.push_back(std::move(step));
        if (i == m_at) at = history.size() - 1;
    }
    m_history = std::move(history);
    m_at = at;
    m_shown = laid(m_shown);
    m_handed = laid(m_handed);
    m_observations = std::move(observations);
    // Wishes that nobody has handed over yet are still to be kept.
    m_onlySeen = !m_running && m_history[m_at].edits == m_handed;
    make();
}

void SetDocument::finish() {
    if (!m_running || !m_keeper || pendingEdits() == m_handed) return;
    const Edits from = std::exchange(m_handed, pendingEdits());
    m_keeper({from, m_handed, nullptr, m_history[m_at].kept ? m_kept->engine : kEngine});
}

void SetDocument::notKept(const Edits& from, const Edits& to, const Error& why) {
    rebase(to, from, m_observations);
    emit refused(sentence(why), why);
}

void SetDocument::setCatalogue(std::shared_ptr<const Catalogue> catalogue) {
    m_catalogue = std::move(catalogue);
    m_onlySeen = false;
    make();
}

QString SetDocument::undoText() const {
    return canUndo() ? m_history[m_at].what : QString();
}

void SetDocument::undo() {
    if (canUndo()) go(m_at - 1);
}
void SetDocument::redo() {
    if (canRedo()) go(m_at + 1);
}

void SetDocument::go(std::size_t to) {
    m_at = to;
    m_onlySeen = false;
    make();
}

std::size_t SetDocument::frames() const {
    std::size_t all = 0;
    for (const auto& o : m_observations)
        if (o) all += o->poses.size();  // one that no edit speaks of any more is not kept
    return all;
}

void SetDocument::askDifferences(std::function<void(const Result<Differences>&)> then) {
    auto work = [observations = m_observations, edits = m_shown, catalogue = m_catalogue,
                 before = m_state.set.result]() -> Result<Differences> {
        const auto anew = recompute(observations, edits, *catalogue);
        if (!anew) return anew.error();
        return differencesBetween(before, anew->set.result);
    };
    if (!m_runner || frames() <= kQuickFrames) return then(work());
    auto made = std::make_shared<std::optional<Result<Differences>>>();
    m_runner([made, work] { made->emplace(work()); },
             [made, then = std::move(then)] { then(*made ? std::move(**made) : unfinished()); });
}

void SetDocument::make() {
    if (m_running) {
        m_again = true;  // the newest pending is made when the one under way is done
        return;
    }
    const Step pending = m_history[m_at];
    const bool strict =
        !pending.edits.empty() && pending.number > m_shownNumber && needsSecondView(pending.edits.back());
    auto work = [observations = m_observations, edits = pending.edits, catalogue = m_catalogue, before = m_state,
                 kept = pending.kept ? m_kept : std::optional<KeptValues>(), strict] {
        return recompute(observations, edits, *catalogue, &before, kept ? &*kept : nullptr, strict);
    };
    // What came from behind is waited for by nobody.
    if (!m_runner || (frames() <= kQuickFrames && !m_onlySeen)) return taken(pending, work());
    m_running = true;
    auto made = std::make_shared<std::optional<Result<SetState>>>();
    m_runner([made, work] { made->emplace(work()); },
             [self = QPointer<SetDocument>(this), this, pending, made] {
                 if (!self) return;  // another set was opened meanwhile
                 m_running = false;
                 if (!*made) made->emplace(unfinished());
                 const bool again = std::exchange(m_again, false);
                 // Something newer was wished for meanwhile: only that is shown, unless this one was refused.
                 if (!again || !**made) taken(pending, std::move(**made));
                 if (again) make();
             });
}

void SetDocument::taken(const Step& step, Result<SetState> made) {
    if (!made) {
        // The step that cannot be measured goes, and with it whatever was built on it; what is shown stands. It may
        // have been undone and another taken meanwhile, which is none of this one's business.
        auto isShown = [this](const Step& s) { return s.kept == m_state.kept && s.edits == m_shown; };
        const auto refusedAt =
            std::find_if(m_history.begin(), m_history.end(), [&](const Step& s) { return s.number == step.number; });
        if (refusedAt != m_history.end() && !isShown(*refusedAt)) {
            m_history.erase(refusedAt == m_history.begin() ? refusedAt + 1 : refusedAt, m_history.end());
            if (std::none_of(m_history.begin(), m_history.end(), isShown))
                m_history.push_back({m_shown, m_state.kept, {}, ++m_numbers});
            const auto shown = std::find_if(m_history.rbegin(), m_history.rend(), isShown);
            m_at = static_cast<std::size_t>(m_history.rend() - shown) - 1;
            m_shownNumber = m_history[m_at].number;
        }
        emit refused(sentence(made.error()), made.error());
        return;
    }
    m_state = std::move(*made);
    m_shownNumber = step.number;
    m_shown = step.edits;
    emit changed();
    if (std::exchange(m_onlySeen, false) || !m_keeper) return;
    const Edits from = std::exchange(m_handed, m_shown);
    m_keeper({from, m_shown, &m_state, engine()});
}

}  // namespace zevo::present
