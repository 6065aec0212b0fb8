// What the window does about clients: their page, sets that stand elsewhere, merging, export, erasure; the palette.
#include <QCalendarWidget>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>
#include <QStackedWidget>
#include <QUndoCommand>
#include <QUndoStack>
#include <QVBoxLayout>

#include "app/client/client_view.h"
#include "app/shell/main_window.h"
#include "app/shell/palette.h"
#include "core/signal/filter.h"
#include "record/client_file.h"
#include "record/export_client.h"
#include "record/filmed_sets.h"
#include "record/readings.h"

namespace zevo::app {

using present::sentence;

namespace {

/// Sets that stand elsewhere in the record; places before and after. A set that becomes another client's takes over
/// what is true of them, and has it back with undo.
class SetMove : public QUndoCommand {
  public:
    struct Step {
        store::SetId id{};
        store::SetPlace from, to;
        std::optional<SetFacts> before{}, after{};
    };
    struct With {
        record::SetWriter* writer;
        std::function<std::shared_ptr<const Catalogue>()> catalogue;
        QString coach;
        std::function<void(const QString& problem)> done;
    };
    SetMove(With with, std::vector<Step> steps, const QString& what)
        : m_with(std::move(with)), m_steps(std::make_shared<std::vector<Step>>(std::move(steps))) {
        setText(what);
    }
    void undo() override { put(true); }
    void redo() override { put(false); }

  private:
    void put(bool back) {
        m_with.writer->run(
            [steps = m_steps, back, catalogue = m_with.catalogue(),
             coach = m_with.coach](store::Library& library) -> Result<void> {
                for (Step& s : *steps) {
                    const store::SetPlace& place = back ? s.from : s.to;
                    if (s.from.client == s.to.client) {
                        if (auto put = library.putSet(s.id, place); !put) return put;
                        continue;
                    }
                    auto had = record::giveSet(library, s.id, place, back ? s.before : s.after, catalogue, coach);
                    if (!had) return had.error();
                    (back ? s.after : s.before) = std::move(*had);
                }
                return {};
            },
            [done = m_with.done](const Result<void>& result) { done(result ? QString() : sentence(result.error())); });
    }
    With m_with;
    std::shared_ptr<std::vector<Step>> m_steps;
};

}  // namespace

void MainWindow::connectClients() {
    m_actions.on("clientPage", [this] { openClientPage(); });
    m_actions.on("palette", [this] { openPalette(); });
    m_actions.on("takeTarget", [this] { takeTarget(); });
    connect(m_home, &HomeView::pageWanted, this, &MainWindow::openClientPage);
    connect(m_client, &ClientView::clientChanged, this, [this](const store::Client& client) {
        m_home->changeClient(client);
        reloadClientPage();
    });
    connect(m_client, &ClientView::setWanted, this, &MainWindow::openSet);
    connect(m_client, &ClientView::deleteWanted, this, [this](store::SetId id) {
        deleteSet(id);
        reloadClientPage();
    });
    connect(m_client, &ClientView::setMoved, this, &MainWindow::moveOnDay);
    connect(m_client, &ClientView::setGiven, this, [this](store::SetId id, store::ClientId to) {
        if (const auto from = m_library.placeOf(id)) {
            store::SetPlace place = *from;
            place.client = to;
            moveSets({{id, *from, place}}, tr("a set to another client"));
        }
    });
    connect(m_client, &ClientView::dayWanted, this, [this](store::SetId id) {
        const auto from = m_library.placeOf(id);
        if (!from) return;
        QDialog ask(this);
        ask.setWindowTitle(tr("Another day"));
        auto* column = new QVBoxLayout(&ask);
        auto* calendar = new QCalendarWidget(&ask);
        calendar->setSelectedDate(from->heldOn);
        calendar->setMaximumDate(QDate::currentDate());
        column->addWidget(calendar);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, &ask);
        column->addWidget(buttons);
        connect(buttons, &QDialogButtonBox::accepted, &ask, &QDialog::accept);
        connect(buttons, &QDialogButtonBox::rejected, &ask, &QDialog::reject);
        if (ask.exec() != QDialog::Accepted) return;
        store::SetPlace place = *from;
        place.heldOn = calendar->selectedDate();
        moveSets({{id, *from, place}}, tr("a set to another day"));
    });
    connect(m_client, &ClientView::mergeWanted, this, &MainWindow::mergeClients);
    connect(m_client, &ClientView::exportWanted, this, [this] {
        const QString into = QFileDialog::getExistingDirectory(this, tr("Folder for everything of this client"));
        if (!into.isEmpty()) exportClient(into);
    });
    connect(m_client, &ClientView::eraseWanted, this, [this] {
        const auto id = m_client->file().client.id;
        if (m_home->askErasure(id)) goHome();
    });
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
    const int opening = ++m_opening;
    afterWrites([this, id, opening] {
        if (opening == m_opening) readClientPage(id, opening);
    });
}

void MainWindow::readClientPage(store::ClientId id, int opening) {
    auto file = std::make_shared<std::optional<record::ClientFile>>();
    m_queue.add(
        tr("Opening the client"), JobQueue::Priority::Now,
        [folder = m_library.folder(), id, catalogue = m_catalogue, file](const auto&, const auto&) -> Result<void> {
            auto read = record::readClientFile(folder, id, catalogue);
            if (!read) return read.error();
            *file = std::move(*read);
            return {};
        },
        [this, file, id, opening](const Result<void>& done) {
            if (!done) return failed(tr("This client cannot be shown"), done.error(), false);
            if (opening != m_opening) return;
            std::vector<store::Client> others;
            if (const auto all = m_library.findClients({}))
                for (const auto& c : *all)
                    if (!(c.client.id == id)) others.push_back(c.client);
            m_review->stage()->setPlaying(false);
            m_client->setLengths(m_settings.lengths);
            m_client->show(std::move(**file), std::move(others), m_catalogue);
            const store::Client& client = m_client->file().client;
            m_pages->setCurrentWidget(m_client);
            m_actions.setPage(Where::Client);
            m_strip->setQuiet(false);
            m_toHome->show(), m_open->hide(), m_filmTop->show();
            m_title->setText(client.name.isEmpty() ? tr("(no name)") : client.name);
            m_subtitle->setText(client.archived
                                    ? tr("In the archive")
                                    : tr("%n sets", nullptr, static_cast<int>(m_client->file().log.size())));
            refreshUndo();
            m_client->setFocus();
        });
}

void MainWindow::reloadClientPage() {
    if (currentView() == m_client && m_client->hasClient()) showClientPage(m_client->file().client.id);
}

void MainWindow::moveSets(std::vector<std::tuple<store::SetId, store::SetPlace, store::SetPlace>> steps,
                          const QString& what) {
    std::vector<SetMove::Step> all;
    for (const auto& [id, from, to] : steps) all.push_back({id, from, to});
    SetMove::With with{m_writer, [this] { return m_catalogue; }, m_settings.coach,
                       [this](const QString& problem) {
                           if (!problem.isEmpty()) showNotice(problem);
                           m_home->refresh();
                           reloadClientPage();
                       }};
    m_undo->push(new SetMove(std::move(with), std::move(all), what));
}

/// Changes places with its neighbour on the same day.
void MainWindow::moveOnDay(store::SetId id, int by) {
    const auto& log = m_client->file().log;
    const auto mine = std::find_if(log.begin(), log.end(), [&](const auto& s) { return s.id == id; });
    if (mine == log.end() || (by < 0 && mine == log.begin())) return;
    const auto other = mine + by;
    if (other == log.end() || other->heldOn != mine->heldOn) return;
    const auto a = m_library.placeOf(id), b = m_library.placeOf(other->id);
    if (!a || !b) return;
    store::SetPlace here = *a, there = *b;
    std::swap(here.position, there.position);
    moveSets({{id, *a, here}, {other->id, *b, there}}, tr("the order of sets"));
}

void MainWindow::mergeClients(store::ClientId other) {
    const store::Client mine = m_client->file().client;
    const auto into = m_library.client(other);
    if (!into) return showNotice(sentence(into.error()));
    QMessageBox ask(QMessageBox::Question, tr("Merge clients"),
                    tr("Put everything of %1 under %2?").arg(mine.name, into->name), QMessageBox::NoButton, this);
    ask.setInformativeText(tr("All sets, flags and answers about pain go to %1; what %1 has stays as it is. %2 is gone "
                              "from the list afterwards. This cannot be undone.")
                               .arg(into->name, mine.name));
    ask.addButton(tr("Leave them"), QMessageBox::RejectRole);
    auto* merge = ask.addButton(tr("Merge"), QMessageBox::DestructiveRole);
    merge->setObjectName("confirmMerge");
    ask.exec();
    if (ask.clickedButton() != merge) return;
    m_undo->clear();
    if (auto done = m_library.mergeClients(mine.id, other); !done) return showNotice(sentence(done.error()));
    m_home->refresh();
    m_home->selectClient(other);
    showClientPage(other);
}

void MainWindow::exportClient(const QString& into) {
    const store::ClientId id = m_client->file().client.id;
    auto where = std::make_shared<QString>();
    m_queue.add(
        tr("Exporting %1").arg(m_client->file().client.name), JobQueue::Priority::Normal,
        [folder = m_library.folder(), id, into, where, catalogue = m_catalogue](const auto& cancel,
                                                                                const auto&) -> Result<void> {
            auto done = record::exportClient(folder, id, into, catalogue, cancel);
            if (!done) return done.error();
            *where = *done;
            return {};
        },
        [this, where](const Result<void>& done) {
            if (!done) return failed(tr("The client could not be exported"), done.error(), false);
            showNotice(tr("Everything is in %1. It holds personal data: pass it on with care.").arg(*where));
        });
}

/// What is measured in this set is right for this client: the middle of the repetitions that count.
void MainWindow::takeTarget() {
    if (currentView() != m_review || !m_review->hasSet()) return;
    const auto& shown = m_review->presenter();
    const MeasureId measure = shown.measureId();
    std::vector<double> values;
    for (const MeasuredRep& rep : shown.result().counted())
        if (const Measurement* m = rep.find(measure)) values.push_back(m->value);
    if (!measure || values.empty()) return;
    const auto read = m_library.client(m_review->client().id);
    if (!read) return showNotice(sentence(read.error()));
    store::Client next = *read;
    const QString movement = QString::fromStdString(m_review->document().facts().movement);
    const QString name = QString::fromStdString(measure.name());
    const double value = std::round(median(values) * 10) / 10;
    std::erase_if(next.targets, [&](const store::Target& t) { return t.movement == movement && t.measure == name; });
    next.targets.push_back({movement, name, value, m_review->heldOn()});
    // Where a choice takes a number for it, it is judged by from now on.
    if (const auto own = ownNumberFor(m_catalogue->choices, shown.result().context.movement, measure))
        next.choices[own->first] = own->second + ":" + QString::number(std::round(value)).toStdString();
    m_home->changeClient(next);
    showNotice(tr("%1 %2 is %3’s own target now. It stands on the client’s page; it can be forgotten there.")
                   .arg(QString::fromUtf8(measure->title), present::valueText(value, measure->unit, m_settings.lengths),
                        next.name));
}

void MainWindow::openPalette() {
    std::vector<Palette::Place> places;
    if (currentView() != m_film)
        if (const auto clients = m_library.findClients({}))
            for (const auto& c : *clients)
                places.push_back(
                    {tr("Client %1").arg(c.client.name), [this, id = c.client.id] { showClientPage(id); }});
    m_palette->open(m_actions.worded(), std::move(places));
}

}  // namespace zevo::app
