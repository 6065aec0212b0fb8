#include "app/shell/main_window.h"

#include <QApplication>
#include <QBoxLayout>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QMimeData>
#include <QPushButton>
#include <QStackedWidget>
#include <QUndoStack>

#include "app/client/client_desk.h"
#include "app/shell/application.h"
#include "app/shell/input_watch.h"
#include "app/shell/palette.h"
#include "catalog/data_files.h"
#include "record/demo_sets.h"
#include "record/file_shelf.h"
#include "record/opening.h"

namespace zevo::app {
namespace {

using present::sentence;

}  // namespace

MainWindow::MainWindow(store::Library library)
    : m_library(std::move(library)),
      m_log(m_library.folder()),
      m_settings(loadSettings(m_library.folder())),
      m_actions(this),
      m_undo(new QUndoStack(this)),
      m_writer(new record::SetWriter(m_library.folder(),
                                     m_library.isReadOnly() ? store::Access::Read : store::Access::Write, this)),
      m_clients(new record::ClientBook(m_library, *m_writer, this)) {
    setWindowTitle("Zevo");
    resize(1280, 800);
    setAcceptDrops(true);
    showLabelsAsPlainText(*QCoreApplication::instance());
    if (auto begun = m_library.beginSitting(); !begun) m_log.write("begin", begun.error());
    if (auto swept = record::FileShelf(m_library).sweep(true); !swept) m_log.write("begin", swept.error());
    reloadCatalogue();
    auto* page = new QWidget(this);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(buildHeader());
    m_strip = new WorkStrip(page);
    column->addWidget(m_strip);
    m_ask = new QuestionBar(page);
    column->addWidget(m_ask);
    m_notice = new QLabel(page);
    m_notice->setObjectName("notice");
    m_notice->setWordWrap(true);
    m_notice->setContentsMargins(24, 4, 24, 4);
    m_notice->hide();
    column->addWidget(m_notice);
    m_pages = new QStackedWidget(page);
    column->addWidget(m_pages, 1);
    setCentralWidget(page);

    m_home = new HomeView(&m_library, m_clients, m_undo, m_catalogue, this);
    m_review = new ReviewView(m_actions, this);
    m_film = new FilmView(m_library.folder(), &m_queue, m_actions, this);
    m_compare = new CompareView(m_actions, this);
    m_client = new ClientView(
        [this](const QString& id) -> const auto& { return m_home->outlinesOf(store::SetId::fromText(id)); }, this);
    m_palette = new Palette(page);
    // Pages give way to low and narrow windows by themselves (1366 × 768 at 125 %, 1920 × 1080 at 200 %).
    for (QWidget* w : {static_cast<QWidget*>(m_home), static_cast<QWidget*>(m_review), static_cast<QWidget*>(m_film),
                       static_cast<QWidget*>(m_compare), static_cast<QWidget*>(m_client)})
        w->setMinimumSize(900, 440);
    m_pages->addWidget(m_home);
    m_pages->addWidget(m_review);
    m_pages->addWidget(m_film);
    m_pages->addWidget(m_compare);
    m_pages->addWidget(m_client);
    m_keys = new Sheet(
        "Keys", keyRows(),
        "Ctrl+K finds all of this by its words. Every control can also be reached with Tab. Marks: dot = inside its "
        "band, "
        "arrow = out and which way, ring = unsure, square = corrected by you, dashed = partial, pale = left out.",
        page);
    m_stop = new Sheet("Pain and stop rules", stopRows(),
                       "Common practice, no published source. Zevo coaches; it does not diagnose, and follows local "
                       "rules and licensed practice.",
                       page);
    m_question = new PainQuestion(page);
    buildDesks();
    connectPages();
    connectActions();
    connectDesks();
    applySettings();
    m_home->refresh();
    goHome();
    if (m_library.isReadOnly())
        showNotice(
            tr("This library is open for reading only: another Zevo has it, or its folder cannot be written to. "
               "Sets can be looked at; nothing can be filmed, measured or changed."));
    offerRecovery();
}

MainWindow::~MainWindow() {
    m_film->filming()->close();
    m_undo->disconnect(this);  // it says that it is empty when it goes, after the actions have gone
}

void MainWindow::applySettings() {
    const Theme theme = m_settings.dark ? darkTheme() : lightTheme();
    applyTheme(*qobject_cast<QApplication*>(QApplication::instance()), theme);
    m_home->setTheme(theme);
    m_review->setTheme(theme);
    m_film->setTheme(theme);
    m_compare->setTheme(theme);
    m_client->setTheme(theme);
    m_film->setSettings(m_settings);
    m_filmTop->setIcon(icon("camera", theme.onAccent));
    m_keys->setTheme(theme);
    m_stop->setTheme(theme);
    m_question->setTheme(theme);
    m_toHome->setIcon(icon("clients", theme.ink));
    m_undoButton->setIcon(icon("undo", theme.ink));
    m_pain->setIcon(icon("stop", theme.ink));
    m_units->setIcon(icon("units", theme.ink));
    m_units->setText(m_settings.lengths == Lengths::Us ? "in" : "cm");
    m_look->setIcon(icon("look", theme.ink));
    m_help->setIcon(icon("keys", theme.ink));
    m_open->setIcon(icon("clip", theme.ink));
    m_home->setSettings(m_settings);
    m_review->setLengths(m_settings.lengths);
    m_compare->setLengths(m_settings.lengths);
    m_client->setLengths(m_settings.lengths);
    if (currentView() == m_review) describeSet();
}

QWidget* MainWindow::currentView() const {
    return m_pages->currentWidget();
}

void MainWindow::goHome() {
    if (currentView() == m_film && !m_film->leave()) return;  // a set is being filmed
    ++m_opening;
    if (currentView() == m_client) m_client->saveNow();
    m_review->stage()->setPlaying(false);
    m_home->refresh();
    m_title->setText("Zevo");
    m_subtitle->setText(tr("Measure, say one thing, watch again"));
    showPage(m_home, Where::Everywhere, false, false);
    m_home->setFocus();
}

void MainWindow::chooseClip() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open clip"), {}, kVideos);
    if (!path.isEmpty()) openClip(path);
}

void MainWindow::openClip(const QString& path, bool show) {
    if (m_library.isReadOnly()) return showNotice(tr("Measuring needs a library that can be written to."));
    m_strip->dismissProblem();
    // From a set, the next clip belongs to the same client.
    if (currentView() == m_review && m_review->hasSet()) m_home->selectClient(m_review->client().id);
    const auto client = m_home->clientForClip();
    if (!client) return;
    record::ImportRequest request;
    request.libraryFolder = m_library.folder(), request.clipPath = path, request.model = m_settings.model;
    request.client = *client, request.catalogue = m_catalogue, request.author = m_settings.coach;
    // The school in use for this movement goes on being used.
    if (m_review->hasSet() && m_review->document().facts().movement == m_settings.movement.toStdString())
        request.standard = QString::fromStdString(m_review->document().state().wholeStandard);
    m_at->nextSetOf(*client, [this, request, show](const auto&, const SetFacts& facts) mutable {
        request.facts = facts;
        measure(request, show);
    });
}

void MainWindow::measure(const record::ImportRequest& request, bool show) {
    const QString name = QFileInfo(request.clipPath).fileName();
    auto outcome = std::make_shared<std::optional<record::Imported>>();
    m_queue.add(
        tr("Measuring %1").arg(name), JobQueue::Priority::Normal,
        [request, outcome](const auto& cancel, const auto& progress) -> Result<void> {
            auto imported = record::importClip(request, cancel, progress);
            if (!imported) return imported.error();
            *outcome = *imported;
            return {};
        },
        [this, outcome, name, show](const Result<void>& done) {
            if (done) {
                measured(**outcome, show);
                return m_reviewDesk->readBack((*outcome)->id);
            }
            failed(tr("%1 cannot be judged").arg(name), done.error(), true);
        });
}

void MainWindow::measured(const record::Imported& set, bool show) {
    m_ready = set.id;
    m_actions.get("showReady")->setEnabled(true);
    if (currentView() == m_home) m_home->refresh();
    if (show && currentView() == m_home) return showReady();
    const auto client = m_library.client(set.client);
    const QString name = client && !client->name.isEmpty() ? client->name : tr("The set");
    m_strip->showReady(tr("%1: %2").arg(name, set.headline));
}

void MainWindow::showReady() {
    if (!m_ready) return;
    if (currentView() == m_film && !m_film->leave()) return;  // a set is being filmed
    m_strip->dismiss();
    openSet(*m_ready);
}

void MainWindow::failed(const QString& title, const Error& error, bool clip) {
    if (wasStopped(error)) return;
    m_log.write(clip ? "measuring a clip" : "opening a set", error);
    m_strip->showProblem(title, sentence(error),
                         clip ? tr("Nothing was changed: your file is as it was, and so is the client's record.")
                              : tr("Nothing was changed."),
                         clip);
}

void MainWindow::caught(const Error& error) {
    m_log.write("inside", error);
    m_strip->showProblem(tr("Something went wrong inside Zevo"), sentence(error),
                         tr("What is in the record is as it was."), false);
}

void MainWindow::stopWork() {
    // The one the strip speaks of.
    for (const auto& job : m_queue.jobs())
        if (job.priority != JobQueue::Priority::Now) return m_queue.stop(job.id);
}

void MainWindow::openDemo(const QString& story) {
    auto demo = pipeline::loadDemo(story.toStdString());
    if (!demo) return failed(tr("The demo cannot be shown"), demo.error(), false);
    if (m_library.isReadOnly()) return;
    prepareDemo(std::make_shared<const std::vector<pipeline::DemoSet>>(std::move(*demo)), 0,
                std::make_shared<InputWatch>());
}

/// One after the other: two sets of a client must not both find that the client is not there yet.
void MainWindow::prepareDemo(const std::shared_ptr<const std::vector<pipeline::DemoSet>>& sets, std::size_t at,
                             const std::shared_ptr<InputWatch>& input) {
    if (at >= sets->size()) return;
    const pipeline::DemoSet& set = (*sets)[at];
    auto outcome = std::make_shared<std::optional<record::Imported>>();
    m_queue.add(
        tr("Preparing %1").arg(QString::fromStdString(set.client)),
        at == 0 ? JobQueue::Priority::Normal : JobQueue::Priority::Background,
        [folder = m_library.folder(), set, catalogue = m_catalogue, outcome](const auto& cancel,
                                                                             const auto& progress) -> Result<void> {
            auto made = record::prepareDemoSet(folder, set, catalogue, cancel, progress);
            if (!made) return made.error();
            *outcome = *made;
            return {};
        },
        [this, sets, at, outcome, input](const Result<void>& done) {
            if (!done) {
                if (wasStopped(done.error())) return;  // the coach wants no more of it
                failed(QString::fromStdString((*sets)[at].story), done.error(), false);
            } else {
                if (currentView() == m_home) m_home->refresh();
                // A coach starts the demo to see it; who has begun to look around is left there.
                if (at == 0 && currentView() == m_home && !input->wasTouched()) openSet((*outcome)->id);
            }
            prepareDemo(sets, at + 1, input);
        });
}

void MainWindow::describeSet() {
    if (!m_review->hasSet()) return;
    const auto& p = m_review->presenter();
    const SetResult& r = p.result();
    m_title->setText(m_review->client().name.isEmpty() ? tr("(no name)") : m_review->client().name);
    QString view = QString::fromStdString(viewName(r.view)) + " view";
    if (r.view == ViewKind::Side) view += ", " + QString::fromStdString(sideName(r.near)) + " side to the camera";
    if (r.second) view += " and " + QString::fromStdString(viewName(r.second->view)) + " view";
    m_subtitle->setText(QString("%1 · %2 · %3 · %4 · %5")
                            .arg(p.movementTitle(), view,
                                 tr("%1, %2 s under tension").arg(p.countText(), present::figures(p.tensionS(), 0)),
                                 present::statureText(r.context.context.statureCm, m_settings.lengths),
                                 QLocale().toString(m_review->heldOn(), "d MMM yyyy")));
}

void MainWindow::refreshUndo() {
    const bool review = currentView() == m_review && m_review->hasSet();
    const bool can = review ? m_review->document().canUndo() : m_undo->canUndo();
    const QString what = review ? m_review->document().undoText() : m_undo->undoText();
    QAction* action = m_actions.get("undo");
    action->setEnabled(can);
    action->setToolTip(can ? tr("Undo: %1 (Ctrl+Z)").arg(what) : tr("Nothing to undo"));
    m_actions.get("redo")->setEnabled(review ? m_review->document().canRedo() : m_undo->canRedo());
}

void MainWindow::undo() {
    if (currentView() == m_review && m_review->hasSet())
        m_review->document().undo();
    else
        m_undo->undo();
    m_clientDesk->reload();
    refreshUndo();
}

void MainWindow::redo() {
    if (currentView() == m_review && m_review->hasSet())
        m_review->document().redo();
    else
        m_undo->redo();
    m_clientDesk->reload();
    refreshUndo();
}

void MainWindow::showNotice(const QString& text) {
    m_notice->setText(text);
    m_notice->show();
}

void MainWindow::toggleLook() {
    m_settings.dark = !m_settings.dark;
    saveSettings(m_library.folder(), m_settings);
    applySettings();
}

void MainWindow::toggleUnits() {
    m_settings.lengths = m_settings.lengths == Lengths::Us ? Lengths::Metric : Lengths::Us;
    saveSettings(m_library.folder(), m_settings);
    applySettings();
}

void MainWindow::keyPressEvent(QKeyEvent* e) {
    // Digits choose a repetition wherever the focus is, but in text.
    if (currentView() == m_review && m_review->takesDigit(e)) return;
    QMainWindow::keyPressEvent(e);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls() && e->mimeData()->urls().front().isLocalFile()) e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    for (const QUrl& url : e->mimeData()->urls())
        if (url.isLocalFile()) openClip(url.toLocalFile());
}

void MainWindow::closeEvent(QCloseEvent* e) {
    m_home->saveNow();
    m_client->saveNow();
    m_film->filming()->close();  // a recording under way gets its end
    if (m_review->hasSet()) m_review->document().finish();
    m_queue.stopAll();
    m_writer->flush();
    // What was deleted in this sitting goes for good now, and the files that nothing needs any more.
    if (m_library.isReadOnly()) return e->accept();
    for (const auto& done :
         {m_library.deleteHidden(), m_library.sweepSets(), record::FileShelf(m_library).sweep(false)})
        if (!done) m_log.write("closing", done.error());
    e->accept();
}

void MainWindow::resizeEvent(QResizeEvent* e) {
    QMainWindow::resizeEvent(e);
    for (Sheet* s : {m_keys, m_stop})
        if (s->isVisible()) s->setGeometry(centralWidget()->rect());
}

}  // namespace zevo::app
