// What the window is made of: its header, and what leads from a control to what it does.
#include <QBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QUndoStack>

#include "app/parts/elided_label.h"
#include "app/shell/main_window.h"

namespace zevo::app {

using present::sentence;

void MainWindow::connectPages() {
    connect(m_home, &HomeView::openClipWanted, this, &MainWindow::chooseClip);
    connect(m_home, &HomeView::setWanted, this, &MainWindow::openSet);
    connect(m_home, &HomeView::failed, this, &MainWindow::showNotice);
    connect(m_clients, &record::ClientBook::refused, this, [this](const Error& why) {
        showNotice(sentence(why) + " " + tr("Nothing was changed."));
        m_log.write("change of a client", why);
        m_home->refresh();
    });
    connect(m_home, &HomeView::erased, this, [this](store::ClientId id) {
        if (m_review->hasSet() && m_review->client().id == id) m_ready.reset();
        m_actions.get("showReady")->setEnabled(m_ready.has_value());
    });
    connect(m_home, &HomeView::modelChosen, this, [this](const QString& model) {
        m_settings.model = model;
        saveSettings(m_library.folder(), m_settings);
    });
    connect(m_home, &HomeView::movementChosen, this, [this](const QString& movement, const QString& variation) {
        m_settings.movement = movement;
        m_settings.variation = variation;
        saveSettings(m_library.folder(), m_settings);
    });
    connect(m_home, &HomeView::clientChanged, this, [this](const store::Client& client) {
        if (m_question->isVisible()) m_question->setClient(client);
        m_filmDesk->setClient(client);
        if (currentView() == m_review && m_review->hasSet() && m_review->client().id == client.id)
            m_review->setClient(client);
    });
    auto change = [this](const store::Client& client) {
        if (currentView() == m_review) m_home->refresh();  // the list may not have been looked at for a while
        m_home->changeClient(client);
    };
    connect(m_question, &PainQuestion::answered, this, change);
    connect(m_question, &PainQuestion::covers, m_film, &FilmView::setCovered);
    connect(m_question, &PainQuestion::rulesWanted, this, [this] { m_stop->toggle(); });
    connect(m_review, &ReviewView::clientChanged, this, change);
    connect(m_strip, &WorkStrip::stopWanted, this, &MainWindow::stopWork);
    connect(m_strip, &WorkStrip::otherClipWanted, this, &MainWindow::chooseClip);
    connect(m_strip, &WorkStrip::readyWanted, this, &MainWindow::showReady);
    connect(m_strip, &WorkStrip::copyWanted, this, &MainWindow::copyDetails);
    connect(&m_queue, &JobQueue::changed, this, [this] {
        m_strip->showJobs(m_queue.jobs());
        m_actions.get("stopWork")->setEnabled(m_queue.count(JobQueue::Priority::Background) > 0);
    });
    connect(m_review, &ReviewView::refused, this, [this](const QString& why, const Error& error) {
        showNotice(why + " " + tr("Nothing was changed."));
        m_log.write("change of a set", error);
        refreshUndo();
    });
    connect(m_review, &ReviewView::changed, this, [this] {
        m_notice->hide();
        describeSet();
        refreshUndo();
    });
    connect(m_review, &ReviewView::heldOnChosen, this, [this](const QDate& day) {
        m_writer->run([id = m_review->id(), day](store::Library& library) { return library.setHeldOn(id, day); },
                      [this](const Result<void>& done) {
                          if (!done) showNotice(sentence(done.error()));
                      });
        describeSet();
    });
    connect(m_review->panel(), &SetPanel::deleteWanted, this, &MainWindow::deleteShownSet);
    connect(m_undo, &QUndoStack::indexChanged, this, &MainWindow::refreshUndo);
}

void MainWindow::connectActions() {
    m_actions.on("openClip", [this] { chooseClip(); });
    m_actions.on("showReady", [this] { showReady(); });
    m_actions.on("home", [this] { goHome(); });
    m_actions.on("look", [this] { toggleLook(); });
    m_actions.on("units", [this] { toggleUnits(); });
    m_actions.on("pain", [this] { askPain(); });
    m_actions.on("rules", [this] { m_stop->toggle(); });
    m_actions.on("keys", [this] { m_keys->toggle(); });
    m_actions.on("undo", [this] { undo(); });
    m_actions.on("redo", [this] { redo(); });
    m_actions.on("stopWork", [this] { stopWork(); });
    m_actions.on("deleteSet", [this] { deleteShownSet(); });
    m_actions.on("copyDetails", [this] { copyDetails(); });
    m_actions.on("coachName", [this] { askCoachName(); });
    m_actions.on("quit", [this] { close(); });
    m_actions.get("stopWork")->setEnabled(false);
    m_actions.get("showReady")->setEnabled(false);
    m_actions.bind(m_toHome, "home");
    m_actions.bind(m_undoButton, "undo");
    m_actions.bind(m_pain, "pain");
    m_actions.bind(m_units, "units");
    m_actions.bind(m_look, "look");
    m_actions.bind(m_open, "openClip");
    m_actions.bind(m_filmTop, "film");
}

QWidget* MainWindow::buildHeader() {
    auto* bar = new QWidget(this);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(16, 8, 16, 4);
    row->setSpacing(4);
    auto button = [&](const char* name, const QString& text) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(name);
        b->setProperty("kind", "quiet");
        b->setIconSize({24, 24});
        b->setMinimumHeight(40);
        b->setFocusPolicy(Qt::TabFocus);
        row->addWidget(b);
        return b;
    };
    m_toHome = button("toHome", "");
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    m_title = new ElidedLabel(bar);
    m_title->setObjectName("title");
    m_title->setFont(textFont(20, true));
    m_subtitle = new ElidedLabel(bar);
    m_subtitle->setObjectName("subtitle");
    m_subtitle->setFont(textFont(13));
    m_subtitle->setProperty("kind", "faint");
    words->addWidget(m_title);
    words->addWidget(m_subtitle);
    row->addLayout(words, 1);
    m_undoButton = button("undo", "");
    m_pain = button("pain", tr("Pain?"));
    m_units = button("units", "");
    m_look = button("look", "");
    m_help = button("keys", "");
    m_help->setAccessibleName(tr("Help"));
    m_help->setToolTip(tr("Help: keys, stop rules, details of what went wrong"));
    auto* help = new QMenu(m_help);
    for (const char* id : {"keys", "rules", "copyDetails", "coachName"}) help->addAction(m_actions.get(id));
    m_help->setMenu(help);
    row->addSpacing(8);
    m_open = button("openClipTop", tr("Open clip…"));
    m_filmTop = button("filmTop", tr("Next set"));
    m_filmTop->setProperty("kind", "main");
    return bar;
}

}  // namespace zevo::app
