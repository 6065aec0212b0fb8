#include "app/client/client_desk.h"

#include <QCalendarWidget>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QUndoCommand>
#include <QUndoStack>
#include <QVBoxLayout>

#include "record/client_file.h"
#include "record/export_client.h"
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

ClientDesk::ClientDesk(Workplace& at, ClientView* page, QObject* parent) : QObject(parent), m_at(at), m_page(page) {
    connect(m_page, &ClientView::setMoved, this, &ClientDesk::moveOnDay);
    connect(m_page, &ClientView::setGiven, this, [this](store::SetId id, store::ClientId to) {
        if (const auto from = m_at.library.placeOf(id)) {
            store::SetPlace place = *from;
            place.client = to;
            move({{id, *from, place}}, tr("a set to another client"));
        }
    });
    connect(m_page, &ClientView::dayWanted, this, &ClientDesk::chooseDay);
    connect(m_page, &ClientView::mergeWanted, this, &ClientDesk::merge);
    connect(m_page, &ClientView::exportWanted, this, [this] {
        const QString into = QFileDialog::getExistingDirectory(m_at.window, tr("Folder for everything of this client"));
        if (!into.isEmpty()) exportInto(into);
    });
    connect(m_page, &ClientView::eraseWanted, this, [this] { emit eraseWanted(m_page->file().client.id); });
}

void ClientDesk::show(store::ClientId id) {
    const int opening = m_at.nextOpening();
    m_at.afterWrites([this, id, opening] {
        if (m_at.isLastOpening(opening)) read(id, opening);
    });
}

void ClientDesk::read(store::ClientId id, int opening) {
    auto file = std::make_shared<std::optional<record::ClientFile>>();
    m_at.queue.add(
        tr("Opening the client"), JobQueue::Priority::Now,
        [folder = m_at.library.folder(), id, catalogue = m_at.catalogue, file](const auto&,
                                                                               const auto&) -> Result<void> {
            auto read = record::readClientFile(folder, id, catalogue);
            if (!read) return read.error();
            *file = std::move(*read);
            return {};
        },
        [this, file, id, opening](const Result<void>& done) {
            if (!done) return m_at.fail(tr("This client cannot be shown"), done.error(), false);
            if (!m_at.isLastOpening(opening)) return;
            std::vector<store::Client> others;
            if (const auto all = m_at.clients.find({}))
                for (const auto& c : *all)
                    if (!(c.client.id == id)) others.push_back(c.client);
            m_page->setLengths(m_at.settings.lengths);
            m_page->show(std::move(**file), std::move(others), m_at.catalogue);
            emit opened();
        });
}

void ClientDesk::reload() {
    if (m_at.isShown(m_page) && m_page->hasClient()) show(m_page->file().client.id);
}

void ClientDesk::move(std::vector<Move> steps, const QString& what) {
    std::vector<SetMove::Step> all;
    for (const auto& [id, from, to] : steps) all.push_back({id, from, to});
    SetMove::With with{&m_at.writer, [this] { return m_at.catalogue; }, m_at.settings.coach,
                       [this](const QString& problem) {
                           if (!problem.isEmpty()) m_at.say(problem);
                           emit recordChanged();
                           reload();
                       }};
    m_at.undo.push(new SetMove(std::move(with), std::move(all), what));
}

/// Changes places with its neighbour on the same day.
void ClientDesk::moveOnDay(store::SetId id, int by) {
    const auto& log = m_page->file().log;
    const auto mine = std::find_if(log.begin(), log.end(), [&](const auto& s) { return s.id == id; });
    if (mine == log.end() || (by < 0 && mine == log.begin())) return;
    const auto other = mine + by;
    if (other == log.end() || other->heldOn != mine->heldOn) return;
    const auto a = m_at.library.placeOf(id), b = m_at.library.placeOf(other->id);
    if (!a || !b) return;
    store::SetPlace here = *a, there = *b;
    std::swap(here.position, there.position);
    move({{id, *a, here}, {other->id, *b, there}}, tr("the order of sets"));
}

void ClientDesk::chooseDay(store::SetId id) {
    const auto from = m_at.library.placeOf(id);
    if (!from) return;
    QDialog ask(m_at.window);
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
    move({{id, *from, place}}, tr("a set to another day"));
}

void ClientDesk::merge(store::ClientId other) {
    const store::Client mine = m_page->file().client;
    const auto into = m_at.clients.client(other);
    if (!into) return m_at.say(sentence(into.error()));
    QMessageBox ask(QMessageBox::Question, tr("Merge clients"),
                    tr("Put everything of %1 under %2?").arg(mine.name, into->name), QMessageBox::NoButton,
                    m_at.window);
    ask.setInformativeText(tr("All sets, flags and answers about pain go to %1; what %1 has stays as it is. %2 is gone "
                              "from the list afterwards. This cannot be undone.")
                               .arg(into->name, mine.name));
    ask.addButton(tr("Leave them"), QMessageBox::RejectRole);
    auto* confirm = ask.addButton(tr("Merge"), QMessageBox::DestructiveRole);
    confirm->setObjectName("confirmMerge");
    ask.exec();
    if (ask.clickedButton() != confirm) return;
    m_at.undo.clear();
    m_at.clients.merge(mine.id, other, [this, other] {
        emit merged(other);
        show(other);
    });
}

void ClientDesk::exportInto(const QString& into) {
    const store::ClientId id = m_page->file().client.id;
    auto where = std::make_shared<QString>();
    m_at.queue.add(
        tr("Exporting %1").arg(m_page->file().client.name), JobQueue::Priority::Normal,
        [folder = m_at.library.folder(), id, into, where, catalogue = m_at.catalogue](const auto& cancel,
                                                                                      const auto&) -> Result<void> {
            auto done = record::exportClient(folder, id, into, catalogue, cancel);
            if (!done) return done.error();
            *where = *done;
            return {};
        },
        [this, where](const Result<void>& done) {
            if (!done) return m_at.fail(tr("The client could not be exported"), done.error(), false);
            m_at.say(tr("Everything is in %1. It holds personal data: pass it on with care.").arg(*where));
        });
}

}  // namespace zevo::app
