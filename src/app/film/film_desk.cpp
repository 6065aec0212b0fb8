#include "app/film/film_desk.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <algorithm>

#include "record/file_shelf.h"
#include "record/opening.h"
#include "record/readings.h"

namespace zevo::app {

using present::sentence;

FilmDesk::FilmDesk(Workplace& at, FilmView* page, std::function<std::optional<store::ClientId>()> clientChosen,
                   QObject* parent)
    : QObject(parent), m_at(at), m_page(page), m_clientChosen(std::move(clientChosen)) {
    m_page->setCatalogue(m_at.catalogue);
    m_at.actions.on("filmPress", [this] { m_page->press(); });
    m_at.actions.on("clientDisplay", [this] { m_page->toggleDisplay(); });
    m_at.actions.on("showCue", [this] { m_page->toggleCue(); });
    m_at.actions.on("otherClient", [this] { filmOtherClient(); });
    m_at.actions.on("incoming", [this] { chooseIncoming(); });
    connect(m_page, &FilmView::filmed, this, &FilmDesk::answer);
    connect(m_page, &FilmView::setWanted, this, [this](store::SetId id) {
        if (m_page->leave()) emit openWanted(id);
    });
    connect(m_page, &FilmView::settingsChanged, this, [this](const Settings& settings) {
        m_at.settings = settings;
        saveSettings(m_at.library.folder(), m_at.settings);
    });
    connect(m_page, &FilmView::trouble, this, [this](const QString& title, const Error& error) {
        if (wasStopped(error)) return;
        m_at.log.write("filming", error);
        m_at.strip.showProblem(title, sentence(error), tr("What was filmed so far is kept."), false);
    });
    connect(&m_incoming, &IncomingFolder::arrived, this, &FilmDesk::clipArrived);
    m_incoming.watch(m_at.settings.incoming);
}

void FilmDesk::film(const FilmedClient& next) {
    m_otherViewOf.reset();
    if (m_filming && !(m_filming->client.id == next.client.id)) m_filmedBefore = m_filming;
    m_filming = next;
    emit entered(next.client);
    m_page->enter(next.client, next.facts, next.standard, next.cue);
    m_page->showSession(m_at.library);
}

void FilmDesk::filmOtherClient() {
    if (!m_filmedBefore || !m_at.isShown(m_page)) return;
    if (m_page->filming()->phase() == Filming::Phase::Filming) return;
    FilmedClient other = *m_filmedBefore;
    const auto client = m_at.library.client(other.client.id);  // as they are now
    if (!client) return;
    other.client = *client;
    film(other);
}

void FilmDesk::setClient(const store::Client& client) {
    if (m_filming && m_filming->client.id == client.id) m_filming->client = client;
    m_page->setClient(client);
}

void FilmDesk::answer(const std::shared_ptr<record::FilmedSet>& filmed) {
    if (const auto of = std::exchange(m_otherViewOf, std::nullopt)) return joinOtherView(*of, filmed);
    auto result = std::make_shared<std::optional<record::FilmedResult>>();
    m_at.queue.add(
        tr("Measuring what was filmed"), JobQueue::Priority::Now,
        [folder = m_at.library.folder(), filmed, result, coach = m_at.settings.coach](const auto&,
                                                                                      const auto&) -> Result<void> {
            auto kept = record::saveQuickResult(folder, *filmed, coach);
            if (!kept) return kept.error();
            *result = std::move(*kept);
            return {};
        },
        [this, filmed, result](const Result<void>& done) {
            if (!done)
                return m_at.fail(tr("The set is filmed, and could not be put into the record"), done.error(), false);
            const record::FilmedResult& r = **result;
            if (m_filming) m_filming->cue.clear(), m_filming->facts = nextSet(filmed->plan.facts);
            emit recordChanged();
            if (!r.note.isEmpty()) m_at.say(r.note);
            if (r.nothingCounted) {
                m_at.strip.showProblem(tr("Nothing counted"), r.why,
                                       tr("The clip is kept with today's sets, and is being read once more, picture "
                                          "by picture: where something counts then, you are told."),
                                       false);
                m_page->showSession(m_at.library);
                m_page->filming()->arm(false);
                return refine(r.set.id, filmed, r.why);
            }
            // The coach may have gone elsewhere while it was closed: then it is offered, not shown.
            if (!m_at.isShown(m_page) || !m_page->leave())
                emit measured(r.set);
            else
                emit openWanted(r.set.id);
            refine(r.set.id, filmed, {});
            if (filmed->second) addFilmedSecond(r.set.id, filmed);
        });
}

/// The second camera's clip is read after the first one's careful reading began, and joins the set in the record; who
/// looks at it sees it come.
void FilmDesk::addFilmedSecond(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed) {
    m_at.queue.add(
        tr("Measuring the other camera"), JobQueue::Priority::Normal,
        [folder = m_at.library.folder(), id, filmed, model = m_at.settings.model](const auto& cancel,
                                                                                  const auto& progress) {
            return record::attachOtherCamera(folder, id, *filmed, model, cancel, progress);
        },
        [this, id](const Result<void>& done) {
            // It stands on the shelf still: the next start offers it as a set of its own.
            if (!done) return m_at.fail(tr("The other camera's clip does not fit to the set"), done.error(), true);
            emit grown(id);
        });
}

void FilmDesk::joinOtherView(store::SetId of, const std::shared_ptr<record::FilmedSet>& filmed) {
    m_at.queue.add(
        tr("Measuring what was filmed"), JobQueue::Priority::Now,
        [folder = m_at.library.folder(), of, filmed, coach = m_at.settings.coach](const auto&, const auto&) {
            return record::attachSecondView(folder, of, *filmed, coach);
        },
        [this, of, filmed](const Result<void>& done) {
            if (done) {
                if (m_at.isShown(m_page) && m_page->leave()) emit openWanted(of);
                return;
            }
            // It does not fit: a set of its own then, so that nothing is lost.
            answer(filmed);
            m_at.fail(tr("The other view does not fit to the set"), done.error(), true);
        });
}

void FilmDesk::refine(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed,
                      const std::optional<QString>& nothingCounted) {
    m_reading.insert(id);
    auto careful = std::make_shared<std::optional<record::Imported>>();
    m_at.queue.add(
        tr("Measuring carefully"), JobQueue::Priority::Normal,
        [folder = m_at.library.folder(), id, filmed, careful, model = m_at.settings.model](
            const auto& cancel, const auto& progress) -> Result<void> {
            auto kept = record::saveRefinedResult(folder, id, *filmed, model, cancel, progress);
            if (!kept) return kept.error();
            *careful = std::move(*kept);
            return {};
        },
        [this, id, filmed, careful, nothingCounted](const Result<void>& done) {
            m_reading.erase(id);
            // Whoever has read and dismissed what the live reading came to is not told again.
            const bool told = nothingCounted && m_at.strip.withdrawProblem(tr("Nothing counted"), *nothingCounted);
            if (done) {
                emit refined(id);
                if (nothingCounted) countedAfterAll(**careful, filmed);
            } else {
                if (!wasStopped(done.error())) m_at.log.write("refining a filmed set", done.error());
                // What is in the record stands; who has deleted it is not told of it.
                const auto sets = m_at.library.sets(filmed->plan.client.id);
                const bool there = sets && std::any_of(sets->begin(), sets->end(),
                                                       [id](const store::SetSummary& s) { return s.id == id; });
                if (told && there)
                    m_at.strip.showProblem(tr("Nothing counted"),
                                           wasStopped(done.error()) ? *nothingCounted : sentence(done.error()),
                                           tr("The clip is kept with today's sets; Del there takes it out."), false);
            }
            emit readingEnded(id);
        });
}

/// The live reading reaches few pictures where the machine is slow. Who films on is not taken away from it.
void FilmDesk::countedAfterAll(const record::Imported& set, const std::shared_ptr<record::FilmedSet>& filmed) {
    if (m_at.isShown(m_page)) m_page->showSession(m_at.library);
    m_at.say(tr("Read picture by picture, the set counts after all: %1").arg(set.headline));
    emit measured(set);
    if (filmed->second) addFilmedSecond(set.id, filmed);
}

void FilmDesk::offerRecovery() {
    if (m_at.library.isReadOnly()) return;
    const auto orphans = record::FileShelf(m_at.library).orphans();
    if (!orphans) return m_at.log.write("looking for recordings", orphans.error());
    for (const record::OrphanedRecording& s : *orphans) {
        const auto client = m_at.library.client(s.client);
        const QString name = client ? client->name : tr("a client who is not in the record any more");
        auto recover = [this, s] {
            auto outcome = std::make_shared<std::optional<record::Imported>>();
            m_at.queue.add(
                tr("Saving the recording"), JobQueue::Priority::Normal,
                [folder = m_at.library.folder(), s, model = m_at.settings.model, catalogue = m_at.catalogue, outcome](
                    const auto& cancel, const auto& progress) -> Result<void> {
                    auto done = record::recoverRecording(folder, s, model, catalogue, cancel, progress);
                    if (!done) return done.error();
                    *outcome = *done;
                    return {};
                },
                [this, outcome](const Result<void>& done) {
                    if (done) return emit measuredAnew(**outcome);
                    m_at.fail(tr("The recording could not be saved"), done.error(), false);
                });
        };
        auto erase = [this, s] {
            record::FileShelf shelf(m_at.library);
            if (auto done = shelf.retire(s.path); !done) return m_at.say(sentence(done.error()));
            if (auto done = shelf.sweep(false); !done) m_at.say(sentence(done.error()));
        };
        QuestionBar::Question q;
        q.text = s.partial ? tr("A recording of %1 was broken off (%2). It can be saved and measured; at most its last "
                                "second is missing.")
                                 .arg(name, QLocale().toString(s.at, QLocale::ShortFormat))
                           : tr("A recording of %1 is not in the record yet (%2).")
                                 .arg(name, QLocale().toString(s.at, QLocale::ShortFormat));
        if (client)
            q.answers = {{"recover", tr("Save and measure"), recover, true},
                         {"eraseRecording", tr("Delete it"), erase}};
        else
            q.answers = {{"eraseRecording", tr("Delete it"), erase}};
        q.answers.push_back({"recoverLater", tr("Not now"), {}});
        m_at.ask.ask(std::move(q));
    }
}

void FilmDesk::chooseIncoming() {
    const QString folder = QFileDialog::getExistingDirectory(
        m_at.window, tr("Folder that clips from a phone arrive in (cancel: none is watched)"), m_at.settings.incoming);
    m_at.settings.incoming = folder;
    saveSettings(m_at.library.folder(), m_at.settings);
    m_incoming.watch(folder);
    m_at.say(folder.isEmpty() ? tr("No folder is watched.")
                              : tr("Clips that arrive in %1 are measured and offered here.").arg(folder));
}

void FilmDesk::clipArrived(const QString& path) {
    // Measured for whom was filmed last; filed only when the coach says so.
    std::optional<store::Client> client = m_filming ? std::optional(m_filming->client) : std::nullopt;
    if (!client) {
        if (const auto all = m_at.library.clients(); all && !all->empty()) client = all->front();
    }
    if (!client || m_at.library.isReadOnly()) return;
    if (m_filming) return measureArrived(path, *client, m_filming->facts);
    m_at.nextSetOf(client->id, [this, path](const Result<store::Client>& whose, const SetFacts& facts) {
        if (whose) measureArrived(path, *whose, facts);
    });
}

void FilmDesk::measureArrived(const QString& path, const store::Client& client, const SetFacts& facts) {
    record::ImportRequest request;
    request.libraryFolder = m_at.library.folder(), request.clipPath = path, request.model = m_at.settings.model;
    request.client = client.id, request.catalogue = m_at.catalogue, request.author = m_at.settings.coach;
    request.facts = facts;
    const QString name = QFileInfo(path).fileName();
    auto made = std::make_shared<std::optional<store::NewSet>>();
    m_at.queue.add(
        tr("Measuring %1").arg(name), JobQueue::Priority::Normal,
        [request, made](const auto& cancel, const auto& progress) -> Result<void> {
            auto set = record::measureClip(request, cancel, progress);
            if (!set) return set.error();
            *made = std::move(*set);
            return {};
        },
        [this, made, name, client](const Result<void>& done) {
            if (!done) return m_at.fail(tr("%1 arrived and cannot be judged").arg(name), done.error(), true);
            auto file = [this, made](store::ClientId id) {
                auto filed = std::make_shared<std::optional<record::Imported>>();
                m_at.queue.add(
                    tr("Filing the clip"), JobQueue::Priority::Now,
                    [folder = m_at.library.folder(), made, id, catalogue = m_at.catalogue, filed](
                        const auto&, const auto&) -> Result<void> {
                        auto done = record::fileMeasured(folder, **made, id, catalogue);
                        if (!done) return done.error();
                        *filed = std::move(*done);
                        return {};
                    },
                    [this, filed](const Result<void>& done) {
                        if (!done) return m_at.fail(tr("The clip could not be filed"), done.error(), false);
                        emit measuredAnew(**filed);
                    });
            };
            QuestionBar::Question q;
            q.text = tr("%1 arrived: %2, %3. Whose is it?")
                         .arg(name, present::repCount((*made)->outcome.reps), (*made)->outcome.headline);
            q.answers = {{"fileUnder", tr("File under %1").arg(client.name), [file, client] { file(client.id); }, true},
                         {"fileUnderChosen", tr("Under the client chosen in the list"),
                          [this, file] {
                              if (const auto chosen = m_clientChosen()) file(*chosen);
                          }},
                         {"dontFile", tr("Do not file it"),
                          [folder = m_at.library.folder(), made] { record::dropMeasured(folder, **made); }}};
            m_at.ask.ask(std::move(q));
        });
}

}  // namespace zevo::app
