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
#include <QUndoCommand>
#include <QUndoStack>

#include "analysis/data_files.h"
#include "core/results/result_json.h"

namespace zevo::app {
MainWindow::MainWindow(store::Library library)
    : m_library(std::move(library)), m_settings(loadSettings(m_library.folder())), m_undo(new QUndoStack(this)) {
    setWindowTitle("Zevo");
    resize(1280, 800);
    setAcceptDrops(true);
    auto* page = new QWidget(this);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(buildHeader());
    m_notice = new QLabel(page);
    m_notice->setObjectName("notice");
    m_notice->setWordWrap(true);
    m_notice->setContentsMargins(24, 4, 24, 4);
    m_notice->hide();
    column->addWidget(m_notice);
    m_pages = new QStackedWidget(page);
    column->addWidget(m_pages, 1);
    setCentralWidget(page);

    m_home = new HomeView(&m_library, m_undo, this);
    m_busy = new BusyView(this);
    m_review = new ReviewView(m_undo, this);
    for (QWidget* w : {static_cast<QWidget*>(m_home), static_cast<QWidget*>(m_busy), static_cast<QWidget*>(m_review)})
        m_pages->addWidget(w);
    m_keys = new Sheet("Keys", keyRows(), "Every control can also be reached with Tab. Esc closes this page.", page);
    m_stop = new Sheet("Pain and stop rules", stopRows(),
                       "Common practice, no published source. Zevo coaches; it does not diagnose, and follows local "
                       "rules and licensed practice.",
                       page);

    connect(m_home, &HomeView::openClipWanted, this, &MainWindow::chooseClip);
    connect(m_home, &HomeView::setWanted, this, &MainWindow::openSet);
    connect(m_home, &HomeView::failed, this, &MainWindow::showNotice);
    connect(m_home, &HomeView::modelChosen, this, [this](const QString& model) {
        m_settings.model = model;
        saveSettings(m_library.folder(), m_settings);
    });
    connect(m_busy, &BusyView::cancelWanted, this, [this] { m_runner.cancel(); });
    connect(m_busy, &BusyView::otherClipWanted, this, &MainWindow::chooseClip);
    connect(m_busy, &BusyView::backWanted, this, &MainWindow::goHome);
    connect(&m_runner, &JobRunner::progressed, m_busy, &BusyView::setProgress);
    connect(m_review, &ReviewView::standardChosen, this, &MainWindow::saveJudgement);
    connect(m_review, &ReviewView::leftOutChanged, this, &MainWindow::saveLeftOut);
    connect(m_review, &ReviewView::movementProposed, this, &MainWindow::takeProposal);
    SetPanel* panel = m_review->panel();
    connect(panel, &SetPanel::contextChosen, this, &MainWindow::changeContext);
    connect(panel, &SetPanel::secondWanted, this, &MainWindow::chooseSecondClip);
    connect(panel, &SetPanel::secondRemoved, this, [this] { changeSecond([](auto& second) { second.reset(); }); });
    connect(panel, &SetPanel::nudged, this,
            [this](double byS) { changeSecond([byS](auto& second) { second->nudgeS += byS; }); });
    connect(panel, &SetPanel::togetherChosen, this,
            [this](bool together) { changeSecond([together](auto& second) { second->together = together; }); });
    connect(panel, &SetPanel::importWanted, this, &MainWindow::chooseStandardFile);
    connect(panel, &SetPanel::exportWanted, this, &MainWindow::chooseExport);
    connect(m_home, &HomeView::movementChosen, this, [this](const QString& movement, const QString& variation) {
        m_settings.movement = movement;
        m_settings.variation = variation;
        saveSettings(m_library.folder(), m_settings);
    });
    auto refreshUndo = [this] {
        m_undoButton->setEnabled(m_undo->canUndo());
        m_undoButton->setToolTip(m_undo->canUndo() ? "Undo the " + m_undo->undoText() + " (Ctrl+Z)"
                                                   : "Nothing to undo");
    };
    connect(m_undo, &QUndoStack::indexChanged, this, refreshUndo);
    refreshUndo();
    applySettings();
    m_home->refresh();
    goHome();
}

MainWindow::~MainWindow() {
    m_runner.cancel();
}

QWidget* MainWindow::buildHeader() {
    auto* bar = new QWidget(this);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(16, 8, 16, 4);
    row->setSpacing(4);
    auto button = [&](const char* name, const QString& text, const QString& tip, auto slot) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(name);
        b->setProperty("kind", "quiet");
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        b->setIconSize({24, 24});
        b->setMinimumHeight(40);
        b->setFocusPolicy(Qt::TabFocus);
        connect(b, &QPushButton::clicked, this, slot);
        row->addWidget(b);
        return b;
    };
    m_toHome = button("toHome", "", "Clients and their sets (H)", &MainWindow::goHome);
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    m_title = new QLabel(bar);
    m_title->setObjectName("title");
    m_title->setFont(textFont(20, true));
    m_subtitle = new QLabel(bar);
    m_subtitle->setObjectName("subtitle");
    m_subtitle->setFont(textFont(13));
    m_subtitle->setProperty("kind", "faint");
    words->addWidget(m_title);
    words->addWidget(m_subtitle);
    row->addLayout(words, 1);
    m_undoButton = button("undo", "", "Undo", [this] { m_undo->undo(); });
    m_pain = button("pain", "Pain?", "Pain and stop rules (!)", [this] { m_stop->toggle(); });
    m_units = button("units", "", "Metric or US units (U)", &MainWindow::toggleUnits);
    m_look = button("look", "", "Light or dark (D)", &MainWindow::toggleLook);
    m_help = button("keys", "", "All keys (?)", [this] { m_keys->toggle(); });
    row->addSpacing(8);
    m_open = button("openClipTop", "Open clip…", "Measure a video of a set (O)", &MainWindow::chooseClip);
    m_open->setProperty("kind", "main");
    return bar;
}

void MainWindow::applySettings() {
    const Theme theme = m_settings.dark ? darkTheme() : lightTheme();
    applyTheme(*qobject_cast<QApplication*>(QApplication::instance()), theme);
    m_home->setTheme(theme);
    m_review->setTheme(theme);
    m_keys->setTheme(theme);
    m_stop->setTheme(theme);
    m_toHome->setIcon(icon("clients", theme.ink));
    m_undoButton->setIcon(icon("undo", theme.ink));
    m_pain->setIcon(icon("stop", theme.ink));
    m_units->setIcon(icon("units", theme.ink));
    m_units->setText(m_settings.lengths == Lengths::Us ? "in" : "cm");
    m_look->setIcon(icon("look", theme.ink));
    m_help->setIcon(icon("keys", theme.ink));
    m_open->setIcon(icon("clip", theme.onAccent));
    m_home->setSettings(m_settings);
    m_review->setLengths(m_settings.lengths);
    if (currentView() == m_review) describeSet();
}

QWidget* MainWindow::currentView() const {
    return m_pages->currentWidget();
}

void MainWindow::goHome() {
    if (isWorking()) return;
    m_review->stage()->setPlaying(false);
    m_undo->clear();
    m_home->refresh();
    m_pages->setCurrentWidget(m_home);
    m_title->setText("Zevo");
    m_subtitle->setText("Measure, say one thing, watch again");
    m_toHome->setVisible(false);
    m_open->setVisible(false);
    m_home->setFocus();
}

void MainWindow::chooseClip() {
    if (isWorking()) return;
    const QString path = QFileDialog::getOpenFileName(this, "Open clip", {}, kVideos);
    if (!path.isEmpty()) openClip(path);
}

void MainWindow::openClip(const QString& path) {
    if (isWorking()) return;
    // From a set, the next clip belongs to the same client.
    if (m_pages->currentWidget() == m_review && m_review->hasSet()) m_home->selectClient(m_review->set().client.id);
    const auto client = m_home->clientForClip();
    if (!client) return;
    const bool sameMovement =
        m_review->hasSet() && m_review->set().context.movement.id == m_settings.movement.toStdString();
    const QString standard = sameMovement ? QString::fromStdString(m_review->presenter().standard().id) : QString();
    const ImportRequest request{
        m_library.folder(), path, m_settings.movement, m_settings.variation, standard, m_settings.model, *client, 0};
    run("Measuring " + QFileInfo(path).fileName(),
        [request](const auto& cancel, const auto& progress) { return importClip(request, cancel, progress); });
}

void MainWindow::openSet(store::SetId id) {
    run("Opening the set", [folder = m_library.folder(), id](const auto& cancel, const auto& progress) {
        return app::openSet(folder, id, cancel, progress);
    });
}

void MainWindow::openDemo(const QString& story) {
    run("Preparing the demo set", [folder = m_library.folder(), story](const auto& cancel, const auto& progress) {
        return prepareDemo(folder, story, cancel, progress);
    });
}

void MainWindow::run(const QString& title, Loader loader) {
    if (isWorking()) return;
    m_notice->hide();
    m_review->stage()->setPlaying(false);
    m_busy->showWork(title);
    m_pages->setCurrentWidget(m_busy);
    m_title->setText("Zevo");
    m_subtitle->setText(title);
    m_toHome->hide();
    m_open->hide();
    auto outcome = std::make_shared<std::optional<Result<LoadedSet>>>();
    m_runner.start([outcome, loader = std::move(loader)](
                       const auto& cancel, const auto& progress) { outcome->emplace(loader(cancel, progress)); },
                   [this, outcome] {
                       if (!*outcome) return goHome();
                       auto& result = **outcome;
                       if (result) return showSet(*result);
                       if (result.error().detail == "cancelled") return goHome();
                       m_toHome->show();
                       m_busy->showProblem(
                           "This clip cannot be judged", QString::fromStdString(result.error().message),
                           "Nothing was changed: your file is as it was, and so is the client's record.");
                   });
}

void MainWindow::showSet(const LoadedSet& set) {
    set.presenter->setLengths(m_settings.lengths);
    m_review->setSet(set);
    m_pages->setCurrentWidget(m_review);
    saveJudgement();  // the record follows what is shown, also after another movement or pain was chosen
    m_toHome->show();
    m_open->show();
    m_review->setFocus();
}

void MainWindow::describeSet() {
    const LoadedSet& set = m_review->set();
    const SetResult& r = set.presenter->result();
    m_title->setText(set.client.name.isEmpty() ? "(no name)" : set.client.name);
    QString view = QString::fromStdString(viewName(r.view)) + " view";
    if (r.view == ViewKind::Side) view += ", " + QString::fromStdString(sideName(r.near)) + " side to the camera";
    if (r.second) view += " and " + QString::fromStdString(viewName(r.second->view)) + " view";
    m_subtitle->setText(QString("%1 · %2 · %3 · %4 · %5")
                            .arg(set.presenter->movementTitle(), view,
                                 QString("%1 %2, %3 s under tension")
                                     .arg(set.presenter->countedReps())
                                     .arg(set.presenter->countedReps() == 1 ? "rep" : "reps")
                                     .arg(set.presenter->tensionS(), 0, 'f', 0),
                                 statureText(set.client.statureCm, m_settings.lengths),
                                 QLocale().toString(set.heldOn, "d MMM yyyy")));
}

void MainWindow::showNotice(const QString& text) {
    m_notice->setText(text);
    m_notice->show();
}

void MainWindow::saveJudgement() {
    const auto& p = m_review->presenter();
    describeSet();
    const auto done =
        m_library.updateJudgement(m_review->set().id, QString::fromStdString(p.standard().id), p.countedReps(),
                                  p.headline(), QByteArray::fromStdString(toJson(p.result())));
    if (!done) showNotice(QString::fromStdString(done.error().message));
}

void MainWindow::saveLeftOut(int rep, bool out) {
    const store::SetId id = m_review->set().id;
    Result<void> done;
    if (out) {
        if (auto added = m_library.addCorrection(id, {{}, "leave_out", rep}); !added) done = added.error();
    } else if (auto stored = m_library.loadSet(id); stored) {
        for (const auto& c : stored->corrections)
            if (c.kind == "leave_out" && c.rep == rep && done) done = m_library.removeCorrection(c.id);
    } else {
        done = stored.error();
    }
    if (!done) showNotice(QString::fromStdString(done.error().message));
    saveJudgement();
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
    const bool ctrl = e->modifiers() & Qt::ControlModifier;
    switch (e->key()) {
        case Qt::Key_Question:
        case Qt::Key_F1: m_keys->toggle(); break;
        case Qt::Key_Exclam: m_stop->toggle(); break;
        case Qt::Key_O: chooseClip(); break;
        case Qt::Key_H: goHome(); break;
        case Qt::Key_D: toggleLook(); break;
        case Qt::Key_U: toggleUnits(); break;
        case Qt::Key_Q:
            if (ctrl) close();
            break;
        case Qt::Key_Z:
            if (ctrl) m_undo->undo();
            break;
        case Qt::Key_Y:
            if (ctrl) m_undo->redo();
            break;
        case Qt::Key_Escape:
            if (isWorking()) m_runner.cancel();
            break;
        default: QMainWindow::keyPressEvent(e);
    }
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls() && e->mimeData()->urls().front().isLocalFile() && !isWorking())
        e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    openClip(e->mimeData()->urls().front().toLocalFile());
}

void MainWindow::closeEvent(QCloseEvent* e) {
    m_runner.cancel();
    e->accept();
}

void MainWindow::resizeEvent(QResizeEvent* e) {
    QMainWindow::resizeEvent(e);
    for (Sheet* s : {m_keys, m_stop})
        if (s->isVisible()) s->setGeometry(centralWidget()->rect());
}

}  // namespace zevo::app
