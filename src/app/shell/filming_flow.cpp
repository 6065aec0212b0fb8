// What the window does about filming: to the film page and back with everything carried over, the answer after a set,
// what was broken off, and clips that come from elsewhere.
#include <QDir>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QStackedWidget>
#include <QUndoStack>

#include "app/client/client_view.h"
#include "app/shell/main_window.h"
#include "record/file_shelf.h"
#include "record/filmed_sets.h"
#include "record/readings.h"

namespace zevo::app {

using present::sentence;

void MainWindow::connectFilming() {
    m_film->setCatalogue(m_catalogue);
    m_actions.on("film", [this] { filmSet(); });
    m_actions.on("filmOther", [this] { filmOtherView(); });
    m_actions.on("filmPress", [this] { m_film->press(); });
    m_actions.on("clientDisplay", [this] { m_film->toggleDisplay(); });
    m_actions.on("showCue", [this] { m_film->toggleCue(); });
    m_actions.on("otherClient", [this] { filmOtherClient(); });
    m_actions.on("incoming", [this] { chooseIncoming(); });
    connect(m_home, &HomeView::filmWanted, this, &MainWindow::filmSet);
    connect(m_film, &FilmView::filmed, this, &MainWindow::answer);
    connect(m_film, &FilmView::setWanted, this, [this](store::SetId id) {
        if (m_film->leave()) openSet(id);
    });
    connect(m_film, &FilmView::deleteWanted, this, [this](store::SetId id) {
        deleteSet(id);
        m_film->showSession(m_library);
    });
    connect(m_film, &FilmView::settingsChanged, this, [this](const Settings& settings) {
        m_settings = settings;
        saveSettings(m_library.folder(), m_settings);
    });
    connect(m_film, &FilmView::movementChosen, m_home, &HomeView::movementChosen);
    connect(m_film, &FilmView::clientChanged, this, [this](const store::Client& client) {
        m_home->refresh();
        m_home->changeClient(client);
    });
    connect(m_film, &FilmView::trouble, this, [this](const QString& title, const Error& error) {
        if (wasStopped(error)) return;
        m_log.write("filming", error);
        m_strip->showProblem(title, sentence(error), tr("What was filmed so far is kept."), false);
    });
    connect(m_review, &ReviewView::cueGiven, this,
            [this](const QString& fault) { m_film->virtualPanel()->hear(fault); });
    connect(&m_incoming, &IncomingFolder::arrived, this, &MainWindow::clipArrived);
    m_incoming.watch(m_settings.incoming);
}

void MainWindow::filmSet() {
    if (m_library.isReadOnly()) return showNotice(tr("Filming needs a library that can be written to."));
    if (currentView() == m_film) return;
    m_strip->dismiss();
    store::Client client;
    SetFacts facts;
    QString standard, cue;
    if (currentView() == m_review && m_review->hasSet()) {
        // Everything is carried over from the set that is shown.
        client = m_review->client();
        facts = nextSet(m_review->document().facts());
        standard = QString::fromStdString(m_review->document().state().wholeStandard);
        if (const auto& given = m_review->document().state().edited.cue) cue = QString::fromStdString(given->wording);
    } else {
        m_home->saveNow();
        if (currentView() == m_client) m_home->selectClient(m_client->file().client.id);
        const auto id = m_home->clientForClip();
        if (!id) return;
        const auto read = m_library.client(*id);
        if (!read) return showNotice(sentence(read.error()));
        client = *read;
        facts = record::carriedOver(m_library, client, chosenMovement());
    }
    record::takeFrom(client, QDate::currentDate(), facts);
    filmClient(client, facts, standard, cue);
}

void MainWindow::filmClient(const store::Client& client, const SetFacts& facts, const QString& standard,
                            const QString& cue) {
    ++m_opening;
    m_otherViewOf.reset();
    m_review->stage()->setPlaying(false);
    m_notice->hide();
    if (m_filming && !(m_filming->client.id == client.id)) m_filmedBefore = m_filming;
    m_filming = FilmedClient{client, facts, standard, cue};
    m_pages->setCurrentWidget(m_film);
    m_strip->setQuiet(true);
    m_actions.setPage(Where::Film);
    m_toHome->show();
    m_open->hide();
    m_filmTop->hide();
    m_title->setText(client.name.isEmpty() ? tr("(no name)") : client.name);
    m_subtitle->setText(tr("Filming: the camera first, then stand still"));
    m_film->enter(client, facts, standard, cue);
    m_film->showSession(m_library);
    refreshUndo();
}

void MainWindow::filmOtherClient() {
    if (!m_filmedBefore || currentView() != m_film) return;
    if (m_film->filming()->phase() == Filming::Phase::Filming) return;
    const FilmedClient other = *m_filmedBefore;
    const auto client = m_library.client(other.client.id);  // as he is now
    if (!client) return;
    filmClient(*client, other.facts, other.standard, other.cue);
}

void MainWindow::answer(const std::shared_ptr<record::FilmedSet>& filmed) {
    if (const auto of = std::exchange(m_otherViewOf, std::nullopt)) return joinOtherView(*of, filmed);
    auto result = std::make_shared<std::optional<record::FilmedResult>>();
    m_queue.add(
        tr("Measuring what was filmed"), JobQueue::Priority::Now,
        [folder = m_library.folder(), filmed, result, coach = m_settings.coach](const auto&,
                                                                                const auto&) -> Result<void> {
            auto kept = record::saveQuickResult(folder, *filmed, coach);
            if (!kept) return kept.error();
            *result = std::move(*kept);
            return {};
        },
        [this, filmed, result](const Result<void>& done) {
            if (!done)
                return failed(tr("The set is filmed, and could not be put into the record"), done.error(), false);
            const record::FilmedResult& r = **result;
            if (m_filming) m_filming->cue.clear(), m_filming->facts = nextSet(filmed->plan.facts);
            m_home->refresh();
            if (!r.note.isEmpty()) showNotice(r.note);
            if (r.nothingCounted) {
                m_strip->showProblem(tr("Nothing counted"), r.why,
                                     tr("The clip is kept with today's sets; Del there takes it out."), false);
                m_film->showSession(m_library);
                m_film->filming()->arm(false);
                return;
            }
            // The coach may have gone elsewhere while it was closed: then it is offered, not shown.
            if (currentView() != m_film || !m_film->leave())
                measured(r.set, false);
            else
                openSet(r.set.id);
            refine(r.set.id, filmed);
            if (filmed->second) addFilmedSecond(r.set.id, filmed);
        });
}

/// The second camera's clip is read after the first one's careful reading began, and joins the set in the record; who
/// looks at it sees it come.
void MainWindow::addFilmedSecond(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed) {
    m_queue.add(
        tr("Measuring the other camera"), JobQueue::Priority::Normal,
        [folder = m_library.folder(), id, filmed, model = m_settings.model](const auto& cancel, const auto& progress) {
            return record::attachOtherCamera(folder, id, *filmed, model, cancel, progress);
        },
        [this, id](const Result<void>& done) {
            // It stands on the shelf still: the next start offers it as a set of its own.
            if (!done) return failed(tr("The other camera's clip does not fit to the set"), done.error(), true);
            catchUp(id);
        });
}

void MainWindow::filmOtherView() {
    if (currentView() != m_review || !m_review->hasSet() || m_review->presenter().hasSecond()) return;
    const store::SetId id = m_review->id();
    filmSet();
    if (currentView() != m_film) return;
    m_otherViewOf = id;
    m_subtitle->setText(tr("The same set once more, from the other side: it joins the last one"));
}

void MainWindow::joinOtherView(store::SetId of, const std::shared_ptr<record::FilmedSet>& filmed) {
    m_queue.add(
        tr("Measuring what was filmed"), JobQueue::Priority::Now,
        [folder = m_library.folder(), of, filmed, coach = m_settings.coach](const auto&, const auto&) {
            return record::attachSecondView(folder, of, *filmed, coach);
        },
        [this, of, filmed](const Result<void>& done) {
            if (done) {
                if (currentView() == m_film && m_film->leave()) openSet(of);
                return;
            }
            // It does not fit: a set of its own then, so that nothing is lost.
            answer(filmed);
            failed(tr("The other view does not fit to the set"), done.error(), true);
        });
}

void MainWindow::refine(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed) {
    m_queue.add(
        tr("Measuring carefully"), JobQueue::Priority::Normal,
        [folder = m_library.folder(), id, filmed, model = m_settings.model](const auto& cancel, const auto& progress) {
            return record::saveRefinedResult(folder, id, *filmed, model, cancel, progress);
        },
        [this, id](const Result<void>& done) {
            if (!done) {
                if (!wasStopped(done.error())) m_log.write("refining a filmed set", done.error());
                return;  // the quick values stand
            }
            if (currentView() == m_home) m_home->refresh();
            if (m_review->hasSet() && m_review->id() == id) m_review->setRefined();
            catchUp(id);
        });
}

void MainWindow::readBack(store::SetId id) {
    auto read = std::make_shared<bool>(false);
    m_queue.add(
        tr("Reading the line of the back"), JobQueue::Priority::Background,
        [folder = m_library.folder(), id, catalogue = m_catalogue, read](const auto& cancel,
                                                                         const auto& progress) -> Result<void> {
            auto done = record::readBackOf(folder, id, catalogue, cancel, progress);
            if (!done) return done.error();
            *read = *done;
            return {};
        },
        [this, id, read](const Result<void>& done) {
            if (!done && !wasStopped(done.error())) m_log.write("reading the back", done.error());
            if (!done || !*read) return;  // everything else stands
            if (currentView() == m_home) m_home->refresh();
            catchUp(id);
        });
}

void MainWindow::offerRecovery() {
    if (m_library.isReadOnly()) return;
    const auto orphans = record::FileShelf(m_library).orphans();
    if (!orphans) return m_log.write("looking for recordings", orphans.error());
    for (const record::OrphanedRecording& s : *orphans) {
        const auto client = m_library.client(s.client);
        const QString name = client ? client->name : tr("a client who is not in the record any more");
        auto recover = [this, s] {
            auto outcome = std::make_shared<std::optional<record::Imported>>();
            m_queue.add(
                tr("Saving the recording"), JobQueue::Priority::Normal,
                [folder = m_library.folder(), s, model = m_settings.model, catalogue = m_catalogue, outcome](
                    const auto& cancel, const auto& progress) -> Result<void> {
                    auto done = record::recoverRecording(folder, s, model, catalogue, cancel, progress);
                    if (!done) return done.error();
                    *outcome = *done;
                    return {};
                },
                [this, outcome](const Result<void>& done) {
                    if (done) {
                        measured(**outcome, false);
                        return readBack((*outcome)->id);
                    }
                    failed(tr("The recording could not be saved"), done.error(), false);
                });
        };
        auto erase = [this, s] {
            record::FileShelf shelf(m_library);
            if (auto done = shelf.retire(s.path); !done) return showNotice(sentence(done.error()));
            if (auto done = shelf.sweep(false); !done) showNotice(sentence(done.error()));
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
        m_ask->ask(std::move(q));
    }
}

void MainWindow::chooseIncoming() {
    const QString folder = QFileDialog::getExistingDirectory(
        this, tr("Folder that clips from a phone arrive in (cancel: none is watched)"), m_settings.incoming);
    m_settings.incoming = folder;
    saveSettings(m_library.folder(), m_settings);
    m_incoming.watch(folder);
    showNotice(folder.isEmpty() ? tr("No folder is watched.")
                                : tr("Clips that arrive in %1 are measured and offered here.").arg(folder));
}

void MainWindow::clipArrived(const QString& path) {
    // Measured for whom was filmed last; filed only when the coach says so.
    std::optional<store::Client> client = m_filming ? std::optional(m_filming->client) : std::nullopt;
    if (!client) {
        if (const auto all = m_library.clients(); all && !all->empty()) client = all->front();
    }
    if (!client || m_library.isReadOnly()) return;
    record::ImportRequest request;
    request.libraryFolder = m_library.folder(), request.clipPath = path, request.model = m_settings.model;
    request.client = client->id, request.catalogue = m_catalogue, request.author = m_settings.coach;
    request.facts = m_filming ? m_filming->facts : record::carriedOver(m_library, *client, chosenMovement());
    const QString name = QFileInfo(path).fileName();
    auto made = std::make_shared<std::optional<store::NewSet>>();
    m_queue.add(
        tr("Measuring %1").arg(name), JobQueue::Priority::Normal,
        [request, made](const auto& cancel, const auto& progress) -> Result<void> {
            auto set = record::measureClip(request, cancel, progress);
            if (!set) return set.error();
            *made = std::move(*set);
            return {};
        },
        [this, made, name, client](const Result<void>& done) {
            if (!done) return failed(tr("%1 arrived and cannot be judged").arg(name), done.error(), true);
            auto file = [this, made](store::ClientId id) {
                auto filed = std::make_shared<std::optional<record::Imported>>();
                m_queue.add(
                    tr("Filing the clip"), JobQueue::Priority::Now,
                    [folder = m_library.folder(), made, id, catalogue = m_catalogue, filed](
                        const auto&, const auto&) -> Result<void> {
                        auto done = record::fileMeasured(folder, **made, id, catalogue);
                        if (!done) return done.error();
                        *filed = std::move(*done);
                        return {};
                    },
                    [this, filed](const Result<void>& done) {
                        if (!done) return failed(tr("The clip could not be filed"), done.error(), false);
                        measured(**filed, false);
                        readBack((*filed)->id);
                    });
            };
            QuestionBar::Question q;
            q.text = tr("%1 arrived: %2, %3. Whose is it?")
                         .arg(name, present::repCount((*made)->outcome.reps), (*made)->outcome.headline);
            q.answers = {
                {"fileUnder", tr("File under %1").arg(client->name), [file, client] { file(client->id); }, true},
                {"fileUnderChosen", tr("Under the client chosen in the list"),
                 [this, file] {
                     if (const auto chosen = m_home->clientForClip()) file(*chosen);
                 }},
                {"dontFile", tr("Do not file it"),
                 [folder = m_library.folder(), made] { record::dropMeasured(folder, **made); }}};
            m_ask->ask(std::move(q));
        });
}

}  // namespace zevo::app
