// What leads from page to page: the desks, what they tell the window, and what a page has to know of the one before it.
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QUndoCommand>
#include <QUndoStack>

#include "app/client/client_desk.h"
#include "app/shell/main_window.h"
#include "app/shell/palette.h"
#include "catalog/data_files.h"
#include "present/words.h"
#include "record/opening.h"

namespace zevo::app {

using present::sentence;

namespace {

/// A set taken out of the record, until Zevo is closed.
class SetDeletion : public QUndoCommand {
  public:
    SetDeletion(record::SetWriter* writer, store::SetId id, record::SetWriter::Done done)
        : m_writer(writer), m_id(id), m_done(std::move(done)) {
        setText(HomeView::tr("deleting a set"));
    }
    void undo() override { hide(false); }
    void redo() override { hide(true); }

  private:
    void hide(bool hidden) {
        m_writer->run([id = m_id, hidden](store::Library& library) { return library.hideSet(id, hidden); }, m_done);
    }
    record::SetWriter* m_writer;
    store::SetId m_id;
    record::SetWriter::Done m_done;
};

}  // namespace

void MainWindow::buildDesks() {
    m_at = std::make_unique<Workplace>(
        Workplace{m_library, *m_clients, m_log, m_settings, m_catalogue, m_actions, *m_undo, m_queue, *m_writer,
                  *m_strip, *m_ask, this, [this](const QWidget* page) { return currentView() == page; },
                  [this](const QString& text) { showNotice(text); },
                  [this](const QString& title, const Error& error, bool clip) { failed(title, error, clip); },
                  [this] { return ++m_opening; }, [this](int opening) { return opening == m_opening; }});
    m_reviewDesk = new ReviewDesk(*m_at, m_review, this);
    m_filmDesk = new FilmDesk(
        *m_at, m_film, [this] { return m_home->clientForClip(); }, this);
    m_compareDesk = new CompareDesk(*m_at, m_compare, this);
    m_clientDesk = new ClientDesk(*m_at, m_client, this);
}

void MainWindow::connectDesks() {
    auto refreshHome = [this] {
        if (currentView() == m_home) m_home->refresh();
    };
    connect(m_reviewDesk, &ReviewDesk::opened, this, [this] {
        m_notice->hide();
        describeSet();
        m_review->setBeingRead(m_filmDesk->isReading(m_review->id()));
        showPage(m_review, Where::Review, true, true);
        m_review->setFocus();
    });
    connect(m_reviewDesk, &ReviewDesk::recordChanged, this, refreshHome);
    connect(m_reviewDesk, &ReviewDesk::clientChanged, m_home, &HomeView::changeClient);
    connect(m_reviewDesk, &ReviewDesk::standardsChanged, this, [this] {
        reloadCatalogue();
        m_home->setCatalogue(m_catalogue);
        m_film->setCatalogue(m_catalogue);
    });

    m_actions.on("film", [this] { filmSet(); });
    connect(m_review, &ReviewView::insteadWanted, this, &MainWindow::filmInstead);
    m_actions.on("filmOther", [this] { filmOtherView(); });
    connect(m_home, &HomeView::filmWanted, this, &MainWindow::filmSet);
    connect(m_film, &FilmView::deleteWanted, this, &MainWindow::deleteSet);
    connect(m_film, &FilmView::placesWanted, this, [this] {
        if (!m_question->isVisible()) askPain();
    });
    connect(m_film, &FilmView::movementChosen, m_home, &HomeView::movementChosen);
    connect(m_film, &FilmView::clientChanged, this, [this](const store::Client& client) {
        m_home->refresh();
        m_home->changeClient(client);
    });
    connect(m_review, &ReviewView::cueGiven, this,
            [this](const QString& fault) { m_film->virtualPanel()->hear(fault); });
    connect(m_filmDesk, &FilmDesk::entered, this, [this](const store::Client& client) {
        ++m_opening;
        m_review->stage()->setPlaying(false);
        m_notice->hide();
        m_title->setText(client.name.isEmpty() ? tr("(no name)") : client.name);
        m_subtitle->setText(tr("Filming: the camera first, then stand still"));
        showPage(m_film, Where::Film, false, false);
        m_strip->setQuiet(true);
    });
    connect(m_filmDesk, &FilmDesk::openWanted, this, &MainWindow::openSet);
    connect(m_filmDesk, &FilmDesk::measured, this, [this](const record::Imported& set) { measured(set, false); });
    connect(m_filmDesk, &FilmDesk::measuredAnew, this, [this](const record::Imported& set) {
        measured(set, false);
        m_reviewDesk->readBack(set.id);
    });
    connect(m_filmDesk, &FilmDesk::grown, m_reviewDesk, &ReviewDesk::catchUp);
    connect(m_filmDesk, &FilmDesk::refined, this, [this, refreshHome](store::SetId id) {
        refreshHome();
        if (m_review->hasSet() && m_review->id() == id) m_review->setRefined();
        m_reviewDesk->catchUp(id);
    });
    connect(m_filmDesk, &FilmDesk::readingEnded, this, [this](store::SetId id) {
        if (m_review->hasSet() && m_review->id() == id) m_review->setBeingRead(false);
    });
    connect(m_filmDesk, &FilmDesk::recordChanged, this, [this] { m_home->refresh(); });

    m_actions.on("compare", [this] { compareSet(); });
    connect(m_compare, &CompareView::left, this, &MainWindow::backToSet);
    connect(m_compareDesk, &CompareDesk::opened, this, [this] {
        m_review->stage()->setPlaying(false);
        m_subtitle->setText(tr("Compared by the phase of the repetition"));
        showPage(m_compare, Where::Compare, false, false);
        m_compare->setFocus();
    });

    m_actions.on("clientPage", [this] { openClientPage(); });
    m_actions.on("palette", [this] { openPalette(); });
    connect(m_home, &HomeView::pageWanted, this, &MainWindow::openClientPage);
    connect(m_client, &ClientView::clientChanged, this, [this](const store::Client& client) {
        m_home->changeClient(client);
        m_clientDesk->reload();
    });
    connect(m_client, &ClientView::setWanted, this, &MainWindow::openSet);
    connect(m_client, &ClientView::deleteWanted, this, &MainWindow::deleteSet);
    connect(m_clientDesk, &ClientDesk::opened, this, [this] {
        m_review->stage()->setPlaying(false);
        const store::Client& client = m_client->file().client;
        m_title->setText(client.name.isEmpty() ? tr("(no name)") : client.name);
        m_subtitle->setText(client.archived ? tr("In the archive")
                                            : tr("%n sets", nullptr, static_cast<int>(m_client->file().log.size())));
        showPage(m_client, Where::Client, true, false);
        m_client->setFocus();
    });
    connect(m_clientDesk, &ClientDesk::recordChanged, this, [this] { m_home->refresh(); });
    connect(m_clientDesk, &ClientDesk::merged, this, [this](store::ClientId into) {
        m_home->refresh();
        m_home->selectClient(into);
    });
    connect(m_clientDesk, &ClientDesk::eraseWanted, this, [this](store::ClientId id) {
        if (m_home->askErasure(id)) goHome();
    });
}

void MainWindow::showPage(QWidget* page, Where where, bool canFilm, bool canOpen) {
    m_pages->setCurrentWidget(page);
    m_actions.setPage(where);
    m_strip->setQuiet(false);
    m_toHome->setVisible(page != m_home);
    m_open->setVisible(canOpen);
    m_filmTop->setVisible(canFilm);
    refreshUndo();
}

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

void MainWindow::filmSet() {
    if (m_library.isReadOnly()) return showNotice(tr("Filming needs a library that can be written to."));
    if (currentView() == m_film) return;
    m_strip->dismiss();
    if (currentView() == m_review && m_review->hasSet()) {
        FilmedClient next = fromShownSet();
        record::takeFrom(next.client, QDate::currentDate(), next.facts);
        return m_filmDesk->film(next);
    }
    m_home->saveNow();
    if (currentView() == m_client) m_home->selectClient(m_client->file().client.id);
    const auto id = m_home->clientForClip();
    if (!id) return;
    m_at->nextSetOf(*id, [this](const Result<store::Client>& whose, const SetFacts& facts) {
        if (currentView() == m_film) return;
        if (!whose) return showNotice(sentence(whose.error()));
        m_filmDesk->film({*whose, facts, {}, {}});
    });
}

/// Everything is carried over from the set that is shown.
FilmedClient MainWindow::fromShownSet() const {
    const auto& state = m_review->document().state();
    FilmedClient next{
        m_review->client(), factsAfter(state.edited, *m_catalogue), QString::fromStdString(state.wholeStandard), {}};
    if (m_review->heldOn() != QDate::currentDate()) next.facts.pain.roseBefore = false;
    if (state.edited.cue) next.cue = QString::fromStdString(state.edited.cue->wording);
    return next;
}

void MainWindow::filmInstead(const Instead& instead, std::optional<Ask> ask) {
    if (m_library.isReadOnly()) return showNotice(tr("Filming needs a library that can be written to."));
    if (currentView() != m_review || !m_review->hasSet()) return;
    m_strip->dismiss();
    const SetFacts& hurt = m_review->document().facts();
    const std::optional<int> pain = hurt.pain.after ? hurt.pain.after : hurt.pain.before;
    const std::string places = painSpotsText(hurt.pain.spots), by = m_settings.coach.toStdString(),
                      on = QDate::currentDate().toString(Qt::ISODate).toStdString();
    FilmedClient next = fromShownSet();
    next.standard.clear();
    next.cue.clear();
    next.facts = atMovement(std::move(next.facts), instead.movement, instead.variation, *m_catalogue);
    if (ask) {
        ask->movement = instead.movement;
        ask->by = by, ask->on = on, ask->pain = pain;
        if (!hurt.pain.spots.empty()) ask->why = hurt.pain.spots.front().place;
        Asks asks = with(next.facts.asks, *ask);
        next.facts = askedAnew(std::move(next.facts), std::move(asks), *m_catalogue);
    }
    record::takeFrom(next.client, QDate::currentDate(), next.facts);
    next.facts.substitute = Substitute{hurt.movement, hurt.variation, places, pain, by, on};
    m_filmDesk->film(next);
}

void MainWindow::filmOtherView() {
    if (currentView() != m_review || !m_review->hasSet() || m_review->presenter().hasSecond()) return;
    const store::SetId id = m_review->id();
    filmSet();
    if (currentView() != m_film) return;
    m_filmDesk->joinNextTo(id);
    m_subtitle->setText(tr("The same set once more, from the other side: it joins the last one"));
}

/// The set shown against the one before it of the same movement; where there is none, its first rep against its last.
void MainWindow::compareSet() {
    if (currentView() != m_review || !m_review->hasSet()) return;
    const store::SetId id = m_review->id();
    m_compareDesk->compare(
        {id, m_review->client().id, QString::fromStdString(m_review->document().facts().movement),
         m_review->document().state().standard, [this, id]() -> std::optional<record::ComparedSet> {
             if (currentView() != m_review || !m_review->hasSet() || !(m_review->id() == id)) return std::nullopt;
             return record::ComparedSet{id, m_review->document().state(), {m_review->clip(false)}, {}};
         }});
}

void MainWindow::backToSet() {
    describeSet();
    showPage(m_review, Where::Review, true, true);
    m_review->setFocus();
}

/// Of the client who is shown, else of the one chosen in the list.
void MainWindow::openClientPage() {
    m_home->saveNow();
    std::optional<store::ClientId> id;
    if (currentView() == m_review && m_review->hasSet()) id = m_review->client().id;
    if (currentView() == m_compare && m_review->hasSet()) id = m_review->client().id;
    if (currentView() == m_home)
        if (const auto client = m_home->current()) id = client->id;
    if (!id || currentView() == m_film) return;
    showClientPage(*id);
}

void MainWindow::showClientPage(store::ClientId id) {
    m_clientDesk->show(id);
}

void MainWindow::exportClient(const QString& into) {
    m_clientDesk->exportInto(into);
}

void MainWindow::openPalette() {
    std::vector<Palette::Place> places;
    if (currentView() != m_film)
        if (const auto clients = m_clients->find({}))
            for (const auto& c : *clients)
                places.push_back(
                    {tr("Client %1").arg(c.client.name), [this, id = c.client.id] { showClientPage(id); }});
    m_palette->open(m_actions.worded(), std::move(places));
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
    m_undo->push(new SetDeletion(m_writer, id, [this](const Result<void>& done) {
        if (!done) showNotice(sentence(done.error()));
        m_home->refresh();
        if (currentView() == m_film) m_film->showSession(m_library);
        m_clientDesk->reload();
    }));
}

/// The question of the client who is here; without one, the rules.
void MainWindow::askPain() {
    if (m_question->isVisible()) return m_question->hide();
    const bool inSet = currentView() == m_review && m_review->hasSet();
    const bool filming = currentView() == m_film;
    const auto client = inSet     ? std::optional(m_review->client())
                        : filming ? std::optional(m_film->client())
                                  : m_home->current();
    if (!client) return m_stop->toggle();
    const auto now = m_clients->client(client->id);
    m_question->ask(now ? *now : *client);
}

}  // namespace zevo::app
