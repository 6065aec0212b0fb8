#include "app/review/review_desk.h"

#include <QFileDialog>
#include <QFileInfo>

#include "catalog/data_files.h"
#include "core/signal/filter.h"
#include "pipeline/follow_mark.h"
#include "present/words.h"
#include "record/readings.h"

namespace zevo::app {

using present::sentence;

ReviewDesk::ReviewDesk(Workplace& at, ReviewView* page, QObject* parent) : QObject(parent), m_at(at), m_page(page) {
    connect(m_page, &ReviewView::offerTaken, this, &ReviewDesk::takeOffer);
    connect(m_page, &ReviewView::personWanted, this, &ReviewDesk::followPerson);
    connect(m_page, &ReviewView::markWanted, this, &ReviewDesk::followMarked);
    SetPanel* panel = m_page->panel();
    connect(panel, &SetPanel::secondWanted, this, &ReviewDesk::chooseSecondClip);
    connect(panel, &SetPanel::importWanted, this, &ReviewDesk::chooseStandardFile);
    connect(panel, &SetPanel::exportWanted, this, &ReviewDesk::chooseExport);
    m_at.actions.on("takeTarget", [this] { takeTarget(); });
}

void ReviewDesk::open(store::SetId id) {
    const int opening = m_at.nextOpening();
    auto loaded = std::make_shared<std::optional<record::LoadedSet>>();
    m_at.afterWrites([this, id, opening, loaded] {
        m_at.queue.add(
            tr("Opening the set"), JobQueue::Priority::Now,
            [folder = m_at.library.folder(), id, catalogue = m_at.catalogue, loaded](const auto&,
                                                                                     const auto&) -> Result<void> {
                auto set = record::openSet(folder, id, catalogue);
                if (!set) return set.error();
                loaded->emplace(std::move(*set));
                return {};
            },
            [this, opening, loaded](const Result<void>& done) {
                if (!done) return m_at.fail(tr("This set cannot be opened"), done.error(), false);
                // Something else was asked for meanwhile.
                if (!m_at.isLastOpening(opening)) return;
                const int unreadable = (*loaded)->stored.unreadable;
                show(std::move(**loaded));
                emit opened();
                if (unreadable > 0)
                    m_at.say(
                        tr("%n change(s) to this set were made by a newer Zevo and cannot be read here. They are "
                           "kept, and passed over.",
                           nullptr, unreadable));
            });
    });
}

void ReviewDesk::show(record::LoadedSet set) {
    if (m_page->hasSet()) m_page->document().finish();  // while what was seen of it is still here
    m_seen = set.stored.seen;
    m_at.writer.know(record::KnownSet::of(set.stored));
    m_page->setCoach(m_at.settings.coach);
    m_page->setSet(std::move(set), m_at.settings.lengths);
    auto& document = m_page->document();
    document.setRunner([this](std::function<void()> work, std::function<void()> done) {
        m_at.queue.add(
            tr("Measuring the change"), JobQueue::Priority::Now,
            [work = std::move(work)](const auto&, const auto&) -> Result<void> {
                work();
                return {};
            },
            [done = std::move(done)](const Result<void>&) { done(); });
    });
    document.setKeeper([this](const present::SetDocument::Change& change) { keep(change); });
}

void ReviewDesk::keep(const present::SetDocument::Change& change) {
    const store::SetId id = m_page->id();
    record::SetChange made{change.from, change.to, m_seen};
    made.engine = change.engine;
    if (change.state) made.outcome = record::outcomeOf(*change.state, change.engine, m_at.catalogue);
    m_at.writer.commit(
        id, std::move(made), m_at.catalogue, m_at.settings.coach,
        [this, id, from = change.from, to = change.to](Result<record::Committed> kept) {
            if (!kept) m_at.log.write("keeping a change", kept.error());
            // Another set is open by now: what became of this one is seen when it is opened again.
            if (!m_page->hasSet() || !(m_page->id() == id)) {
                if (!kept) m_at.say(tr("A change to the set before could not be kept: %1").arg(sentence(kept.error())));
                return;
            }
            if (!kept) return m_page->document().notKept(from, to, kept.error());
            if (kept->merged) takeOver(*kept->merged, to, kept->moved);
        });
}

void ReviewDesk::catchUp(store::SetId id) {
    if (!m_page->hasSet() || !(m_page->id() == id)) return;
    // What the document has handed over until now is in the record when this is read.
    const Edits known = m_page->document().handedOver();
    auto now = std::make_shared<std::optional<store::StoredSet>>();
    m_at.writer.run(
        [id, now](store::Library& library) -> Result<void> {
            auto set = library.loadSet(id);
            if (!set) return set.error();
            *now = std::move(*set);
            return {};
        },
        [this, id, known, now](const Result<void>& done) {
            if (!done) return m_at.log.write("catching up", done.error());
            if (!m_page->hasSet() || !(m_page->id() == id)) return;
            m_at.writer.know(record::KnownSet::of(**now));
            takeOver(**now, known, {});
        });
}

void ReviewDesk::takeOver(const store::StoredSet& now, const Edits& known, const std::map<int, int>& moved) {
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
    for (const store::Seen& s : m_seen) clips.push_back(record::watchable(m_at.library, s));
    m_page->takeOver(known, now.edits, record::observationsOf(m_seen), places, std::move(clips));
}

void ReviewDesk::takeOffer(const QString& offer) {
    auto& document = m_page->document();
    if (offer == "anew") return document.measureAnew();
    SetFacts facts = document.facts();
    if (offer == "stature") {
        facts.statureCm = m_page->client().statureCm;
        return document.apply(FactsSet{facts}, tr("the client's stature"));
    }
    // Another movement. Which lunge it is does not show surely; the plainest one, and the coach names another.
    const QString family = offer.mid(QString("movement:").size());
    facts.movement = family == "lunge" ? "split-squat" : family.toStdString();
    facts.variation.clear();
    document.apply(FactsSet{facts}, tr("the movement"));
}

void ReviewDesk::chooseSecondClip(bool sameTake) {
    const QString path = QFileDialog::getOpenFileName(m_at.window, tr("Add the other view"), {}, kVideos);
    if (!path.isEmpty()) addSecondClip(path, sameTake);
}

void ReviewDesk::addSecondClip(const QString& path, bool sameTake) {
    if (!m_page->hasSet()) return;
    if (m_at.library.isReadOnly()) return m_at.say(tr("Measuring needs a library that can be written to."));
    const store::SetId id = m_page->id();
    const QString name = QFileInfo(path).fileName();
    auto outcome = std::make_shared<std::optional<store::Seen>>();
    SetContext context = m_page->presenter().result().context;
    context.model = m_at.settings.model.toStdString();
    m_at.queue.add(
        tr("Measuring %1").arg(name), JobQueue::Priority::Normal,
        [folder = m_at.library.folder(), path, context, outcome](const auto& cancel,
                                                                 const auto& progress) -> Result<void> {
            auto seen = record::observeForSet(folder, path, context, cancel, progress);
            if (!seen) return seen.error();
            *outcome = std::move(*seen);
            return {};
        },
        [this, id, name, outcome, sameTake](const Result<void>& done) {
            if (!done) return m_at.fail(tr("%1 cannot be judged").arg(name), done.error(), true);
            // The coach may have gone on to another set: the clip is not lost, it can be added there again.
            if (!m_page->hasSet() || !(m_page->id() == id))
                return m_at.strip.showProblem(
                    name, tr("The set it belongs to is not open any more. Open the set and add the clip again."),
                    tr("Nothing was changed."), false);
            m_seen.push_back(**outcome);
            m_page->addClip(record::watchable(m_at.library, m_seen.back()));
            m_page->document().addSecond(m_seen.back().observation, sameTake);
        });
}

/// The clip of a view is followed once more, from the person the coach clicked; what was seen before stays for undo.
void ReviewDesk::followPerson(bool second, double atS, const QPointF& at) {
    if (!m_page->hasSet()) return;
    if (m_at.library.isReadOnly()) return m_at.say(tr("Measuring needs a library that can be written to."));
    const store::SetId id = m_page->id();
    const auto& edited = m_page->document().state().edited;
    const std::size_t from = second && edited.second ? static_cast<std::size_t>(edited.second->observation) : 0;
    if (from >= m_seen.size()) return;
    const QString path = m_seen[from].clip.path;
    SetContext context = m_page->presenter().result().context;
    context.model = m_at.settings.model.toStdString();
    const double size = 1.25 * m_page->presenter().track(second).bodyPx;
    auto seen = std::make_shared<std::optional<store::Seen>>();
    m_at.queue.add(
        tr("Following the other person"), JobQueue::Priority::Normal,
        [folder = m_at.library.folder(), path, context, seen, at, size](const auto& cancel,
                                                                        const auto& progress) -> Result<void> {
            auto done = record::observeForSet(folder, path, context, cancel, progress,
                                              pipeline::PersonAt{at.x(), at.y(), size});
            if (!done) return done.error();
            *seen = std::move(*done);
            return {};
        },
        [this, id, second, atS, at, seen](const Result<void>& done) {
            if (!done) return m_at.fail(tr("The other person cannot be followed"), done.error(), false);
            if (!m_page->hasSet() || !(m_page->id() == id)) return;
            m_seen.push_back(**seen);
            m_page->addClip(record::watchable(m_at.library, m_seen.back()));
            m_page->document().choosePerson(m_seen.back().observation, {second, atS, at.x(), at.y()});
        });
}

void ReviewDesk::followMarked(bool second, const Mark& mark) {
    if (!m_page->hasSet()) return;
    auto refuse = [&](const QString& why) {
        m_page->dropMark(second, mark.kind);
        m_at.say(why);
    };
    if (m_at.library.isReadOnly()) return refuse(tr("Marking needs a library that can be written to."));
    const store::SetId id = m_page->id();
    const auto& state = m_page->document().state();
    const std::size_t from =
        second && state.edited.second ? static_cast<std::size_t>(state.edited.second->observation) : 0;
    if (from >= m_seen.size() || !QFileInfo::exists(m_seen[from].clip.path))
        return refuse(tr("The video is not there any more: a point can only be followed in it."));
    auto followed = std::make_shared<Mark>(mark);
    const Span within = pipeline::markedSpan(state.set.view(second), mark);
    m_at.queue.add(
        tr("Following: %1").arg(present::markWords(mark.kind)), JobQueue::Priority::Normal,
        [path = m_seen[from].clip.path.toStdString(), followed, within, width = state.set.view(second).clip.width](
            const auto& cancel, const auto& progress) -> Result<void> {
            auto done = pipeline::followMark(path, *followed, within, width, cancel, progress);
            if (!done) return done.error();
            *followed = std::move(*done);
            return {};
        },
        [this, id, second, followed](const Result<void>& done) {
            const bool here = m_page->hasSet() && m_page->id() == id;
            if (here && done) return m_page->takeMark(second, *followed);
            if (here) m_page->dropMark(second, followed->kind);
            if (!done) return m_at.fail(tr("It cannot be followed"), done.error(), false);
            // The coach has gone on to another set: it is kept where it belongs.
            m_at.queue.add(
                tr("Keeping what was marked"), JobQueue::Priority::Normal,
                [folder = m_at.library.folder(), id, second, followed, catalogue = m_at.catalogue,
                 coach = m_at.settings.coach](const auto&, const auto&) {
                    return record::keepMarks(folder, id, {{second, *followed}}, catalogue, coach);
                },
                [this, id](const Result<void>& kept) {
                    if (!kept) return m_at.fail(tr("What was marked could not be kept"), kept.error(), false);
                    catchUp(id);
                });
        });
}

void ReviewDesk::chooseStandardFile() {
    const QString path =
        QFileDialog::getOpenFileName(m_at.window, tr("Import a standard"), {}, tr("Standards (*.json);;All files (*)"));
    if (!path.isEmpty()) importStandard(path);
}

void ReviewDesk::importStandard(const QString& path) {
    const auto taken =
        catalog::importStandard(path.toStdString(), record::ownStandards(m_at.library.folder()).toStdString());
    if (!taken) return m_at.say(sentence(taken.error()) + " " + tr("Nothing was changed."));
    emit standardsChanged();
    const QString title = QString::fromStdString(taken->title);
    if (m_page->hasSet()) {
        m_page->setCatalogue(m_at.catalogue);
        const Movement& movement = m_page->document().state().set.result.context.movement;
        if (judges(*taken, movement)) m_page->document().apply(StandardChosen{taken->id}, tr("choice of the standard"));
    }
    m_at.say(tr("The standard “%1” can be chosen now.").arg(title));
}

void ReviewDesk::chooseExport() {
    if (!m_page->hasSet()) return;
    const Standard& shown = m_page->presenter().standard();
    const QString path = QFileDialog::getSaveFileName(
        m_at.window, tr("Export the standard"), QString::fromStdString(shown.id) + ".json", tr("Standards (*.json)"));
    if (!path.isEmpty()) exportStandard(path);
}

void ReviewDesk::exportStandard(const QString& path) {
    if (!m_page->hasSet()) return;
    // Whole, with the bands of every variation.
    for (const Standard& s : m_page->presenter().standards())
        if (s.id == m_page->document().state().wholeStandard) {
            const auto done = catalog::writeTextFile(path.toStdString(), standardJson(s));
            m_at.say(done ? tr("Written to %1. Give it another id in the file to import it as your own.").arg(path)
                          : sentence(done.error()));
        }
}

/// What is measured in this set is right for this client: the middle of the repetitions that count.
void ReviewDesk::takeTarget() {
    if (!m_at.isShown(m_page) || !m_page->hasSet()) return;
    const auto& shown = m_page->presenter();
    const MeasureId measure = shown.measureId();
    std::vector<double> values;
    for (const MeasuredRep& rep : shown.result().counted())
        if (const Measurement* m = rep.find(measure)) values.push_back(m->value);
    if (!measure || values.empty()) return;
    const auto read = m_at.library.client(m_page->client().id);
    if (!read) return m_at.say(sentence(read.error()));
    store::Client next = *read;
    const QString movement = QString::fromStdString(m_page->document().facts().movement);
    const QString name = QString::fromStdString(measure.name());
    const double value = std::round(median(values) * 10) / 10;
    std::erase_if(next.targets, [&](const store::Target& t) { return t.movement == movement && t.measure == name; });
    next.targets.push_back({movement, name, value, m_page->heldOn()});
    // Where a choice takes a number for it, it is judged by from now on.
    if (const auto own = ownNumberFor(m_at.catalogue->choices, shown.result().context.movement, measure))
        next.choices[own->first] = own->second + ":" + QString::number(std::round(value)).toStdString();
    emit clientChanged(next);
    m_at.say(tr("%1 %2 is %3’s own target now. It stands on the client’s page; it can be forgotten there.")
                 .arg(QString::fromUtf8(measure->title),
                      present::valueText(value, measure->unit, m_at.settings.lengths), next.name));
}

void ReviewDesk::readBack(store::SetId id) {
    auto read = std::make_shared<bool>(false);
    m_at.queue.add(
        tr("Reading the line of the back"), JobQueue::Priority::Background,
        [folder = m_at.library.folder(), id, catalogue = m_at.catalogue, read](const auto& cancel,
                                                                               const auto& progress) -> Result<void> {
            auto done = record::readBackOf(folder, id, catalogue, cancel, progress);
            if (!done) return done.error();
            *read = *done;
            return {};
        },
        [this, id, read](const Result<void>& done) {
            if (!done && !wasStopped(done.error())) m_at.log.write("reading the back", done.error());
            if (!done || !*read) return;  // everything else stands
            emit recordChanged();
            catchUp(id);
        });
}

}  // namespace zevo::app
