// What the window does about the set that is shown: offers taken, the other view, standards in and out.
#include <QFileDialog>
#include <QFileInfo>
#include <QUndoCommand>
#include <QUndoStack>

#include "app/shell/main_window.h"
#include "catalog/data_files.h"
#include "pipeline/follow_mark.h"
#include "present/words.h"
#include "record/readings.h"

namespace zevo::app {

using present::sentence;

namespace {

/// A set taken out of the record, until Zevo is closed.
class SetDeletion : public QUndoCommand {
  public:
    SetDeletion(store::Library* library, HomeView* home, store::SetId id) : m_library(library), m_home(home), m_id(id) {
        setText(HomeView::tr("deleting a set"));
    }
    void undo() override { hide(false); }
    void redo() override { hide(true); }

  private:
    void hide(bool hidden) {
        if (auto done = m_library->hideSet(m_id, hidden); !done) emit m_home->failed(sentence(done.error()));
        m_home->refresh();
    }
    store::Library* m_library;
    HomeView* m_home;
    store::SetId m_id;
};

}  // namespace

void MainWindow::reloadCatalogue() {
    auto read = catalog::loadCatalogue(record::ownStandards(m_library.folder()).toStdString());
    if (!read) {
        m_log.write("shipped data", read.error());
        if (!m_catalogue) m_catalogue = std::make_shared<const Catalogue>();
        return;
    }
    for (const Error& e : read->refused) m_log.write("own standards", e);
    m_catalogue = std::make_shared<const Catalogue>(std::move(*read));
}

void MainWindow::keep(const present::SetDocument::Change& change) {
    const store::SetId id = m_review->id();
    record::SetChange made{change.from, change.to, m_seen};
    made.engine = change.engine;
    if (change.state) made.outcome = record::outcomeOf(*change.state, change.engine, m_catalogue);
    m_writer->commit(
        id, std::move(made), m_catalogue, m_settings.coach,
        [this, id, from = change.from, to = change.to](Result<record::Committed> kept) {
            if (!kept) m_log.write("keeping a change", kept.error());
            // Another set is open by now: what became of this one is seen when it is opened again.
            if (!m_review->hasSet() || !(m_review->id() == id)) {
                if (!kept)
                    showNotice(tr("A change to the set before could not be kept: %1").arg(sentence(kept.error())));
                return;
            }
            if (!kept) return m_review->document().notKept(from, to, kept.error());
            if (kept->merged) takeOver(*kept->merged, to, kept->moved);
        });
}

void MainWindow::catchUp(store::SetId id) {
    if (!m_review->hasSet() || !(m_review->id() == id)) return;
    // What the document has handed over until now is in the record when this is read.
    const Edits known = m_review->document().handedOver();
    auto now = std::make_shared<std::optional<store::StoredSet>>();
    m_writer->run(
        [id, now](store::Library& library) -> Result<void> {
            auto set = library.loadSet(id);
            if (!set) return set.error();
            *now = std::move(*set);
            return {};
        },
        [this, id, known, now](const Result<void>& done) {
            if (!done) return m_log.write("catching up", done.error());
            if (!m_review->hasSet() || !(m_review->id() == id)) return;
            m_writer->know(record::KnownSet::of(**now));
            takeOver(**now, known, {});
        });
}

void MainWindow::takeOver(const store::StoredSet& now, const Edits& known, const std::map<int, int>& moved) {
    // What was seen and is here already stays what it is, so that nothing is measured anew for it. The first view may
    // have been read more carefully since.
    std::vector<store::Seen> seen = now.seen;
    for (std::size_t i = 1; i < seen.size(); ++i)
        for (const store::Seen& here : m_seen)
            if (here.id == seen[i].id) seen[i] = here;
    std::map<int, int> places = moved;
    for (std::size_t i = 0; i < m_seen.size(); ++i) {
        const store::Seen& here = m_seen[i];
        const auto there = std::find_if(seen.begin(), seen.end(), [&](const auto& s) { return s.id == here.id; });
        // Not in the record yet: it comes with the change that speaks of it.
        if (there == seen.end() && here.observation) {
            places[static_cast<int>(i)] = static_cast<int>(seen.size());
            seen.push_back(here);
        }
    }
    m_seen = std::move(seen);
    std::vector<record::Watchable> clips;
    for (const store::Seen& s : m_seen) clips.push_back(record::watchable(m_library, s));
    m_review->takeOver(known, now.edits, record::observationsOf(m_seen), places, std::move(clips));
}

void MainWindow::afterWrites(std::function<void()> then) {
    if (m_writer->pending() == 0) return then();
    m_writer->run([](store::Library&) { return Result<void>(); }, [then = std::move(then)](const auto&) { then(); });
}

void MainWindow::takeOffer(const QString& offer) {
    auto& document = m_review->document();
    if (offer == "anew") return document.measureAnew();
    SetFacts facts = document.facts();
    if (offer == "stature") {
        facts.statureCm = m_review->client().statureCm;
        return document.apply(FactsSet{facts}, tr("the client's stature"));
    }
    // Another movement. Which lunge it is does not show surely; the plainest one, and the coach names another.
    const QString family = offer.mid(QString("movement:").size());
    facts.movement = family == "lunge" ? "split-squat" : family.toStdString();
    facts.variation.clear();
    document.apply(FactsSet{facts}, tr("the movement"));
}

void MainWindow::chooseSecondClip(bool sameTake) {
    const QString path = QFileDialog::getOpenFileName(this, tr("Add the other view"), {}, kVideos);
    if (!path.isEmpty()) addSecondClip(path, sameTake);
}

void MainWindow::addSecondClip(const QString& path, bool sameTake) {
    if (!m_review->hasSet()) return;
    if (m_library.isReadOnly()) return showNotice(tr("Measuring needs a library that can be written to."));
    const store::SetId id = m_review->id();
    const QString name = QFileInfo(path).fileName();
    auto outcome = std::make_shared<std::optional<store::Seen>>();
    SetContext context = m_review->presenter().result().context;
    context.model = m_settings.model.toStdString();
    m_queue.add(
        tr("Measuring %1").arg(name), JobQueue::Priority::Normal,
        [folder = m_library.folder(), path, context, outcome](const auto& cancel,
                                                              const auto& progress) -> Result<void> {
            auto seen = record::observeForSet(folder, path, context, cancel, progress);
            if (!seen) return seen.error();
            *outcome = std::move(*seen);
            return {};
        },
        [this, id, name, outcome, sameTake](const Result<void>& done) {
            if (!done) return failed(tr("%1 cannot be judged").arg(name), done.error(), true);
            // The coach may have gone on to another set: the clip is not lost, it can be added there again.
            if (!m_review->hasSet() || !(m_review->id() == id))
                return m_strip->showProblem(
                    name, tr("The set it belongs to is not open any more. Open the set and add the clip again."),
                    tr("Nothing was changed."), false);
            m_seen.push_back(**outcome);
            m_review->addClip(record::watchable(m_library, m_seen.back()));
            m_review->document().addSecond(m_seen.back().observation, sameTake);
        });
}

/// The clip of a view is followed once more, from the person the coach clicked; what was seen before stays for undo.
void MainWindow::followPerson(bool second, double atS, const QPointF& at) {
    if (!m_review->hasSet()) return;
    if (m_library.isReadOnly()) return showNotice(tr("Measuring needs a library that can be written to."));
    const store::SetId id = m_review->id();
    const auto& edited = m_review->document().state().edited;
    const std::size_t from = second && edited.second ? static_cast<std::size_t>(edited.second->observation) : 0;
    if (from >= m_seen.size()) return;
    const QString path = m_seen[from].clip.path;
    SetContext context = m_review->presenter().result().context;
    context.model = m_settings.model.toStdString();
    const double size = 1.25 * m_review->presenter().track(second).bodyPx;
    auto seen = std::make_shared<std::optional<store::Seen>>();
    m_queue.add(
        tr("Following the other person"), JobQueue::Priority::Normal,
        [folder = m_library.folder(), path, context, seen, at, size](const auto& cancel,
                                                                     const auto& progress) -> Result<void> {
            auto done = record::observeForSet(folder, path, context, cancel, progress,
                                              pipeline::PersonAt{at.x(), at.y(), size});
            if (!done) return done.error();
            *seen = std::move(*done);
            return {};
        },
        [this, id, second, atS, at, seen](const Result<void>& done) {
            if (!done) return failed(tr("The other person cannot be followed"), done.error(), false);
            if (!m_review->hasSet() || !(m_review->id() == id)) return;
            m_seen.push_back(**seen);
            m_review->addClip(record::watchable(m_library, m_seen.back()));
            m_review->document().choosePerson(m_seen.back().observation, {second, atS, at.x(), at.y()});
        });
}

void MainWindow::followMarked(bool second, const Mark& mark) {
    if (!m_review->hasSet()) return;
    auto refuse = [&](const QString& why) {
        m_review->dropMark(second, mark.kind);
        showNotice(why);
    };
    if (m_library.isReadOnly()) return refuse(tr("Marking needs a library that can be written to."));
    const store::SetId id = m_review->id();
    const auto& state = m_review->document().state();
    const std::size_t from =
        second && state.edited.second ? static_cast<std::size_t>(state.edited.second->observation) : 0;
    if (from >= m_seen.size() || !QFileInfo::exists(m_seen[from].clip.path))
        return refuse(tr("The video is not there any more: a point can only be followed in it."));
    auto followed = std::make_shared<Mark>(mark);
    const Span within = pipeline::markedSpan(state.set.view(second), mark);
    m_queue.add(
        tr("Following: %1").arg(present::markWords(mark.kind)), JobQueue::Priority::Normal,
        [path = m_seen[from].clip.path.toStdString(), followed, within, width = state.set.view(second).clip.width](
            const auto& cancel, const auto& progress) -> Result<void> {
            auto done = pipeline::followMark(path, *followed, within, width, cancel, progress);
            if (!done) return done.error();
            *followed = std::move(*done);
            return {};
        },
        [this, id, second, followed](const Result<void>& done) {
            const bool here = m_review->hasSet() && m_review->id() == id;
            if (here && done) return m_review->takeMark(second, *followed);
            if (here) m_review->dropMark(second, followed->kind);
            if (!done) return failed(tr("It cannot be followed"), done.error(), false);
            // The coach has gone on to another set: it is kept where it belongs.
            m_queue.add(
                tr("Keeping what was marked"), JobQueue::Priority::Normal,
                [folder = m_library.folder(), id, second, followed, catalogue = m_catalogue, coach = m_settings.coach](
                    const auto&, const auto&) {
                    return record::keepMarks(folder, id, {{second, *followed}}, catalogue, coach);
                },
                [this, id](const Result<void>& kept) {
                    if (!kept) return failed(tr("What was marked could not be kept"), kept.error(), false);
                    catchUp(id);
                });
        });
}

void MainWindow::chooseStandardFile() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Import a standard"), {}, tr("Standards (*.json);;All files (*)"));
    if (!path.isEmpty()) importStandard(path);
}

void MainWindow::importStandard(const QString& path) {
    const auto taken =
        catalog::importStandard(path.toStdString(), record::ownStandards(m_library.folder()).toStdString());
    if (!taken) return showNotice(sentence(taken.error()) + " " + tr("Nothing was changed."));
    reloadCatalogue();
    m_home->setCatalogue(m_catalogue);
    m_film->setCatalogue(m_catalogue);
    const QString title = QString::fromStdString(taken->title);
    if (m_review->hasSet()) {
        m_review->setCatalogue(m_catalogue);
        const Movement& movement = m_review->document().state().set.result.context.movement;
        if (judges(*taken, movement))
            m_review->document().apply(StandardChosen{taken->id}, tr("choice of the standard"));
    }
    showNotice(tr("The standard “%1” can be chosen now.").arg(title));
}

void MainWindow::chooseExport() {
    if (!m_review->hasSet()) return;
    const Standard& shown = m_review->presenter().standard();
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Export the standard"), QString::fromStdString(shown.id) + ".json", tr("Standards (*.json)"));
    if (!path.isEmpty()) exportStandard(path);
}

void MainWindow::exportStandard(const QString& path) {
    if (!m_review->hasSet()) return;
    // Whole, with the bands of every variation.
    for (const Standard& s : m_review->presenter().standards())
        if (s.id == m_review->document().state().wholeStandard) {
            const auto done = catalog::writeTextFile(path.toStdString(), standardJson(s));
            showNotice(done ? tr("Written to %1. Give it another id in the file to import it as your own.").arg(path)
                            : sentence(done.error()));
        }
}

void MainWindow::deleteShownSet() {
    if (currentView() != m_review || !m_review->hasSet()) return;
    const store::SetId id = m_review->id();
    if (m_ready == id) {
        m_ready.reset();
        m_actions.get("showReady")->setEnabled(false);
    }
    deleteSet(id);
    goHome();
    showNotice(tr("The set was deleted. Undo (Ctrl+Z) brings it back until Zevo is closed; then it is gone for good."));
}

void MainWindow::deleteSet(store::SetId id) {
    m_undo->push(new SetDeletion(&m_library, m_home, id));
}

/// The question of the client who is here; without one, the rules.
void MainWindow::askPain() {
    if (m_question->isVisible()) return m_question->hide();
    const bool inSet = currentView() == m_review && m_review->hasSet();
    const auto client = inSet ? std::optional(m_review->client()) : m_home->current();
    if (!client) return m_stop->toggle();
    const auto now = m_library.client(client->id);
    m_question->ask(now ? *now : *client);
}

}  // namespace zevo::app
