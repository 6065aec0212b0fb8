#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/session.h"

namespace zevo::present {

/// One set, open: observations, edits and what they come to. Everything the coach changes is an edit; the change is
/// measured first, shown next and kept last. What cannot be measured is refused: document and record stay as they were.
///
/// Undo and redo walk over whole lists of edits, so they mean the same whatever is running. Making the state is done
/// here at once where that is quick, and by `runner` where it is not; meanwhile further edits build on those already
/// wished for, and only the newest wish is shown.
class SetDocument : public QObject {
    Q_OBJECT
  public:
    /// Runs `work` elsewhere and then `done` on the document's thread.
    using Runner = std::function<void(std::function<void()> work, std::function<void()> done)>;
    /// What is to be kept: the edits as they were handed over last, and as they are now, with what the set comes to.
    struct Change {
        Edits from, to;
        const SetState* state = nullptr;  ///< of `to`; null where it was still being measured when the set was closed
        int engine = kEngine;             ///< whose values are shown
    };
    /// Keeps a change, now or later, in the order they come. Where it could not be kept, or the record turns out to
    /// have gone another way, it tells by notKept() or rebase().
    using Keeper = std::function<void(const Change&)>;

    SetDocument(Observations observations, Edits edits, std::shared_ptr<const Catalogue> catalogue,
                std::optional<KeptValues> kept, SetState state, QObject* parent = nullptr);
    /// Makes the state of a set as it stands. Pure; may run on any thread.
    static Result<SetState> open(const Observations& observations, const Edits& edits, const Catalogue& catalogue,
                                 const std::optional<KeptValues>& kept);

    void setRunner(Runner runner) { m_runner = std::move(runner); }
    void setKeeper(Keeper keeper) { m_keeper = std::move(keeper); }

    const SetState& state() const { return m_state; }
    const SetResult& result() const { return m_state.set.result; }
    const Observations& observations() const { return m_observations; }
    /// Those shown.
    const Edits& edits() const { return m_shown; }
    /// Those the keeper was given last.
    const Edits& handedOver() const { return m_handed; }
    const Catalogue& catalogue() const { return *m_catalogue; }
    SetFacts facts() const { return fold(pendingEdits()).facts; }
    /// Whether an older engine's values are shown, and which engine's the shown ones are.
    bool isKept() const { return m_state.kept; }
    int engine() const { return m_state.kept ? m_kept->engine : kEngine; }

    /// Makes one more edit. `what`: for "Undo …".
    void apply(Edit edit, const QString& what);
    /// What one more edit would come to, while a point is being dragged: nothing is taken or kept. Goes on from `from`,
    /// the try before, else from what is shown. Nothing where it cannot be measured, or not quickly enough to be
    /// dragged.
    std::optional<SetState> preview(const Edit& edit, const SetState* from) const;
    /// Takes edits out of the list; a step like any other.
    void takeBack(const std::function<bool(const Edit&)>& which, const QString& what);
    /// What was seen of the person the coach chose in a view.
    void choosePerson(std::shared_ptr<const Observation> seen, PersonChosen person);
    /// Takes another clip in as the second view.
    void addSecond(std::shared_ptr<const Observation> seen, bool sameTake);
    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_history.size(); }
    QString undoText() const;
    void undo();
    void redo();

    /// What measuring anew with this engine would change; only where older values are shown. Answers at once, or later
    /// where that takes long.
    void askDifferences(std::function<void(const Result<Differences>&)> then);
    /// Takes the new values.
    void measureAnew();
    /// Somebody else (a second camera that joined, a careful reading, another window) changed the set in the record,
    /// which has `theirs` where this document knew `base`. Every step of the history is laid on theirs; nothing is kept
    /// anew. `moved`: places of observations that had to make way.
    void rebase(const Edits& base, const Edits& theirs, Observations observations,
                const std::map<int, int>& moved = {});
    /// A change could not be kept: the step is taken back, and what was built on it stays where it can.
    void notKept(const Edits& from, const Edits& to, const Error& why);
    /// Other schools became available, or fewer.
    void setCatalogue(std::shared_ptr<const Catalogue> catalogue);

    bool isWaiting() const { return m_running; }
    /// The set is closed: what was wished for and is still being measured is handed over as it is.
    void finish();

  signals:
    /// Another state is shown.
    void changed();
    /// An edit was refused, or what is shown could not be kept: why, one or two sentences.
    void refused(const QString& why, const zevo::Error& error);

  private:
    struct Step {
        Edits edits;
        bool kept = false;  ///< with the older engine's values
        QString what;       ///< that led here
        long number = 0;    ///< of its own; places in the history change hands
    };
    const Edits& pendingEdits() const { return m_history[m_at].edits; }
    void go(std::size_t to);
    std::size_t frames() const;
    void make();
    void take(Step next);
    void taken(const Step& step, Result<SetState> made);

    Observations m_observations;
    std::shared_ptr<const Catalogue> m_catalogue;
    std::optional<KeptValues> m_kept;
    SetState m_state;
    Edits m_shown, m_handed;
    std::vector<Step> m_history;
    std::size_t m_at = 0;
    long m_numbers = 0, m_shownNumber = 0;
    bool m_running = false, m_again = false;
    bool m_onlySeen = false;  ///< what is being made follows from another observation alone: there is nothing to keep
    Runner m_runner;
    Keeper m_keeper;
};

}  // namespace zevo::present
