#include "app/home/home_view.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QLocale>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QUndoCommand>
#include <QUndoStack>
#include <cmath>

#include "app/film/recordings.h"
#include "app/home/movement_box.h"
#include "app/home/set_row.h"
#include "present/words.h"

namespace zevo::app {
namespace {

constexpr double kCmPerInch = 2.54;
constexpr int kTypingPauseMs = 1500;

QListWidget* bigList(QWidget* parent, const char* name, const QString& spoken) {
    auto* list = new QListWidget(parent);
    list->setObjectName(name);
    list->setAccessibleName(spoken);
    list->setSpacing(3);
    list->setWordWrap(true);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    return list;
}

}  // namespace

class HomeView::ClientChange : public QUndoCommand {
  public:
    ClientChange(HomeView* view, store::Client from, store::Client to)
        : m_view(view), m_from(std::move(from)), m_to(std::move(to)) {
        setText("change to " + m_to.name);
    }
    void undo() override { m_view->apply(m_from); }
    void redo() override { m_view->apply(m_to); }

  private:
    HomeView* m_view;
    store::Client m_from, m_to;
};

HomeView::HomeView(store::Library* library, QUndoStack* undo, std::shared_ptr<const Catalogue> catalogue,
                   QWidget* parent)
    : QWidget(parent), m_library(library), m_undo(undo), m_catalogue(std::move(catalogue)) {
    m_typing.setSingleShot(true);
    m_typing.setInterval(kTypingPauseMs);
    connect(&m_typing, &QTimer::timeout, this, &HomeView::saveEdits);
    auto* page = new QHBoxLayout(this);
    page->setContentsMargins(24, 12, 24, 16);
    page->setSpacing(24);

    auto* left = new QVBoxLayout;
    auto* heading = new QLabel("Clients", this);
    heading->setFont(textFont(22, true));
    m_list = bigList(this, "clients", "Clients");
    m_list->setFont(textFont(17));
    m_add = new QPushButton("New client", this);
    m_add->setObjectName("addClient");
    left->addWidget(heading);
    left->addWidget(m_list, 1);
    left->addWidget(m_add);
    page->addLayout(left, 3);

    auto* right = new QVBoxLayout;
    right->setSpacing(12);
    m_empty = new QLabel(
        "Nobody here yet.\n\nOpen a clip of a set, filmed square from the side with the whole body in the picture, its "
        "movement chosen beside the button: Zevo measures it and files it under a new client. "
        "Or add a client first; with the stature known, lengths come in centimetres.",
        this);
    m_empty->setObjectName("empty");
    m_empty->setWordWrap(true);
    m_empty->setFont(textFont(18));
    right->addWidget(m_empty);
    m_card = new QFrame(this);
    m_card->setProperty("kind", "card");
    buildClientCard(m_card);
    right->addWidget(m_card);

    m_pain = new PainRow("Before the set: pain", "before", this);
    right->addWidget(m_pain);
    m_care = new QLabel(this);
    m_care->setObjectName("care");
    m_care->setWordWrap(true);
    m_care->setFont(textFont(15, true));
    right->addWidget(m_care);
    connect(m_pain, &PainRow::answered, this, [this](const PainRow::Answer& a) {
        auto client = current();
        if (!client) return;
        client->complaint = {a.score, a.place, a.sharp, QDate::currentDate()};
        changeClient(*client);
    });
    auto* row = new QHBoxLayout;
    m_open = new QPushButton("Open clip…", this);
    m_open->setObjectName("openClip");
    m_open->setProperty("kind", "main");
    m_open->setMinimumHeight(48);
    m_open->setFont(textFont(18, true));
    m_open->setIconSize({26, 26});
    m_open->setToolTip("Measure a video of a set (O). You can also drop a file on the window.");
    m_model = new QComboBox(this);
    m_model->setObjectName("model");
    m_model->setAccessibleName("How carefully to measure");
    m_model->addItem("Quick", "lite");
    m_model->addItem("Normal", "full");
    m_model->addItem("Careful, slower", "heavy");
    m_movement = new MovementBox(this);
    m_movement->setObjectName("movement");
    m_movement->setAccessibleName("Movement of the next clip");
    m_movement->setMinimumHeight(48);
    m_movement->setFont(textFont(17));
    m_movement->fill(*m_catalogue);
    m_film = new QPushButton("Film a set", this);
    m_film->setObjectName("film");
    m_film->setProperty("kind", "main");
    m_film->setMinimumHeight(48);
    m_film->setFont(textFont(18, true));
    m_film->setIconSize({26, 26});
    m_film->setToolTip("Film a set of this client, with a camera or the simulated one (R)");
    m_open->setProperty("kind", "");
    row->addWidget(m_movement);
    row->addWidget(m_film, 1);
    row->addWidget(m_open);
    row->addWidget(new QLabel("Measure", this));
    row->addWidget(m_model);
    right->addLayout(row);

    auto* setsHeading = new QLabel("Sets", this);
    setsHeading->setFont(textFont(18, true));
    right->addWidget(setsHeading);
    m_noSets = new QLabel(
        "No set yet. Film five to ten reps square from the side, camera at hip height, then open the clip here.", this);
    m_noSets->setObjectName("noSets");
    m_noSets->setWordWrap(true);
    m_noSets->setProperty("kind", "faint");
    right->addWidget(m_noSets);
    m_sets = bigList(this, "sets", "Sets");
    m_sets->setItemDelegate(
        m_rows = new SetRow(
            [this](qlonglong id) -> const std::vector<Outline>& { return outlinesOf(store::SetId(id)); }, m_sets));
    right->addWidget(m_sets, 1);
    auto* caution = new QLabel(
        "Zevo supports coaching; it is not a medical device. Pain, numbness, giving way or a recent injury belong to a "
        "licensed clinician, not to a score. "
        "Videos and measurements stay on this computer.",
        this);
    caution->setObjectName("caution");
    caution->setWordWrap(true);
    caution->setProperty("kind", "faint");
    caution->setFont(textFont(13));
    right->addWidget(caution);
    page->addLayout(right, 7);

    connect(m_list, &QListWidget::currentRowChanged, this, &HomeView::showClient);
    connect(m_add, &QPushButton::clicked, this, &HomeView::addClient);
    connect(m_open, &QPushButton::clicked, this, &HomeView::openClipWanted);
    connect(m_film, &QPushButton::clicked, this, &HomeView::filmWanted);
    connect(m_model, &QComboBox::activated, this, [this](int i) { emit modelChosen(m_model->itemData(i).toString()); });
    connect(m_movement, &QComboBox::activated, this, [this](int i) {
        emit movementChosen(m_movement->itemData(i).toString(), m_movement->itemData(i, Qt::UserRole + 1).toString());
    });
    auto openSet = [this](QListWidgetItem* item) { emit setWanted(store::SetId(item->data(kSetId).toLongLong())); };
    connect(m_sets, &QListWidget::itemClicked, this, openSet);
    connect(m_sets, &QListWidget::itemActivated, this, openSet);
}

void HomeView::buildClientCard(QFrame* card) {
    auto* box = new QHBoxLayout(card);
    box->setContentsMargins(18, 14, 18, 14);
    box->setSpacing(20);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(8);
    m_name = new QLineEdit(card);
    m_name->setObjectName("name");
    m_stature = new QDoubleSpinBox(card);
    m_stature->setObjectName("stature");
    m_stature->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_stature->setSpecialValueText("not known");
    m_consent = new QCheckBox("Agreed to be filmed", card);
    m_consent->setObjectName("consent");
    m_statureLabel = new QLabel("Stature", card);
    form->addRow("Name", m_name);
    form->addRow(m_statureLabel, m_stature);
    form->addRow("", m_consent);
    box->addLayout(form, 1);
    auto* notes = new QVBoxLayout;
    m_note = new QPlainTextEdit(card);
    m_note->setObjectName("note");
    m_note->setPlaceholderText("Goals, pains and injuries, equipment, shoes");
    m_note->setAccessibleName("Notes");
    m_note->setMaximumHeight(92);
    m_note->setTabChangesFocus(true);
    m_note->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_delete = new QPushButton("Delete client…", card);
    m_delete->setObjectName("deleteClient");
    m_delete->setProperty("kind", "quiet");
    notes->addWidget(m_note);
    notes->addWidget(m_delete, 0, Qt::AlignRight);
    box->addLayout(notes, 1);

    connect(m_name, &QLineEdit::editingFinished, this, &HomeView::saveEdits);
    connect(m_stature, &QDoubleSpinBox::editingFinished, this, &HomeView::saveEdits);
    connect(m_consent, &QCheckBox::toggled, this, [this](bool agreed) {
        if (m_filling) return;
        const auto before = current();
        saveEdits();
        if (!agreed && before && before->consent) offerErasure();
    });
    // Kept when the focus leaves or after a pause, not letter by letter.
    connect(m_note, &QPlainTextEdit::textChanged, this, [this] {
        if (!m_filling) m_typing.start();
    });
    m_note->installEventFilter(this);
    connect(m_delete, &QPushButton::clicked, this, &HomeView::deleteClient);
}

void HomeView::setCatalogue(std::shared_ptr<const Catalogue> catalogue) {
    m_catalogue = std::move(catalogue);
}

bool HomeView::eventFilter(QObject* watched, QEvent* e) {
    if (watched == m_note && e->type() == QEvent::FocusOut) saveNow();
    return QWidget::eventFilter(watched, e);
}

void HomeView::saveNow() {
    m_typing.stop();
    saveEdits();
}

const std::vector<Outline>& HomeView::outlinesOf(store::SetId id) {
    const auto known = m_outlines.find(id);
    if (known != m_outlines.end()) return known->second;
    auto read = m_library->outlines(id);
    return m_outlines[id] = read ? std::move(*read) : std::vector<Outline>();  // a damaged one is just not drawn
}

void HomeView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_rows->setTheme(theme);
    m_sets->viewport()->update();
    m_add->setIcon(icon("add", theme.ink));
    m_open->setIcon(icon("clip", theme.ink));
    m_film->setIcon(icon("camera", theme.onAccent));
}

void HomeView::setSettings(const Settings& settings) {
    m_settings = settings;
    m_model->setCurrentIndex(m_model->findData(settings.model));
    m_movement->choose(settings.movement.toStdString(), settings.variation.toStdString());
    showClient();
}

std::optional<store::Client> HomeView::current() const {
    const int row = m_list->currentRow();
    if (row < 0 || row >= static_cast<int>(m_clients.size())) return std::nullopt;
    return m_clients[static_cast<std::size_t>(row)];
}

void HomeView::refresh() {
    if (m_typing.isActive()) saveNow();
    m_outlines.clear();
    auto clients = m_library->clients();
    if (!clients) return emit failed(present::sentence(clients.error()));
    const auto before = current();
    m_clients = std::move(*clients);
    m_filling = true;
    m_list->clear();
    int row = m_clients.empty() ? -1 : 0;
    for (std::size_t i = 0; i < m_clients.size(); ++i) {
        m_list->addItem(m_clients[i].name.isEmpty() ? "(no name)" : m_clients[i].name);
        m_list->item(static_cast<int>(i))->setSizeHint({100, 46});
        if (before && before->id == m_clients[i].id) row = static_cast<int>(i);
    }
    m_filling = false;
    m_list->setCurrentRow(row);
    showClient();
}

void HomeView::selectClient(store::ClientId id) {
    if (m_typing.isActive()) saveNow();
    for (std::size_t i = 0; i < m_clients.size(); ++i)
        if (m_clients[i].id == id) m_list->setCurrentRow(static_cast<int>(i));
}

void HomeView::showClient() {
    if (m_filling) return;
    const auto client = current();
    m_empty->setVisible(!client);
    m_card->setVisible(client.has_value());
    m_noSets->setVisible(client.has_value());
    m_pain->setVisible(client.has_value());
    m_care->hide();
    if (!client) return m_sets->clear();
    m_filling = true;
    const bool us = m_settings.lengths == Lengths::Us;
    m_name->setText(client->name);
    m_stature->setDecimals(us ? 1 : 0);
    m_stature->setRange(0, us ? 250 / kCmPerInch : 250);
    m_stature->setSuffix(us ? " in" : " cm");
    m_stature->setValue(us ? client->statureCm / kCmPerInch : client->statureCm);
    m_consent->setChecked(client->consent.has_value());
    m_consent->setText(client->consent
                           ? "Agreed to be filmed on " + QLocale().toString(*client->consent, QLocale::ShortFormat) +
                                 (client->consentFor.isEmpty() ? QString() : ", " + client->consentFor)
                           : "Agreed to be filmed");
    if (m_note->toPlainText() != client->note) m_note->setPlainText(client->note);
    const QDate today = QDate::currentDate();
    const auto& c = client->complaint;
    m_pain->setAnswer({c.askedOn == today ? c.score : std::nullopt, c.place, c.askedOn == today && c.sharp});
    const auto words = present::stopWords(stopAnswer(store::painOf(*client, today)));
    m_care->setText(words.title + (words.text.isEmpty() ? QString() : ". " + words.text));
    m_care->setVisible(!words.title.isEmpty());
    m_filling = false;
    showSets(*client);
}

void HomeView::showSets(const store::Client& client) {
    const auto sets = m_library->sets(client.id);
    if (!sets) return emit failed(present::sentence(sets.error()));
    m_noSets->setVisible(sets->empty());
    m_sets->setUpdatesEnabled(false);
    m_sets->clear();
    for (const auto& s : *sets) {
        const Movement* movement = m_catalogue->movement(s.movement.toStdString());
        auto* item = new QListWidgetItem(QString("%1 · %2, %3\n%4")
                                             .arg(QLocale().toString(s.heldOn, "d MMM yyyy"))
                                             .arg(movement ? QString::fromStdString(movement->title) : s.movement)
                                             .arg(present::repCount(s.reps))
                                             .arg(s.headline),
                                         m_sets);
        item->setData(kSetId, static_cast<qlonglong>(s.id));
    }
    m_sets->setUpdatesEnabled(true);
}

void HomeView::newClient(const QString& name, double statureCm) {
    if (m_typing.isActive()) saveNow();
    const auto id = m_library->addClient({{}, name, statureCm, "", {}});
    if (!id) return emit failed(present::sentence(id.error()));
    refresh();
    selectClient(*id);
}

void HomeView::addClient() {
    newClient(QString("Client %1").arg(m_clients.size() + 1), 0);
    m_name->setFocus();
    m_name->selectAll();
}

std::optional<store::ClientId> HomeView::clientForClip() {
    if (!current()) addClient();
    const auto client = current();
    return client ? std::optional(client->id) : std::nullopt;
}

void HomeView::saveEdits() {
    const auto before = current();
    m_typing.stop();
    if (m_filling || !before) return;
    store::Client after = *before;
    after.name = m_name->text().trimmed();
    const double shown = m_settings.lengths == Lengths::Us ? m_stature->value() * kCmPerInch : m_stature->value();
    if (std::abs(shown - before->statureCm) > 0.2) after.statureCm = shown < 80 ? 0 : shown;
    if (m_consent->isChecked() != before->consent.has_value())
        after.consent = m_consent->isChecked() ? std::optional(QDate::currentDate()) : std::nullopt;
    if (!after.consent) after.consentFor.clear();
    after.note = m_note->toPlainText();
    changeClient(after);
}

void HomeView::changeClient(const store::Client& after) {
    for (const auto& before : m_clients)
        if (before.id == after.id && !(before == after))
            return m_undo->push(new ClientChange(this, store::Client(before), after));
}

void HomeView::apply(const store::Client& client) {
    if (auto done = m_library->updateClient(client); !done) return emit failed(present::sentence(done.error()));
    for (std::size_t i = 0; i < m_clients.size(); ++i)
        if (m_clients[i].id == client.id) {
            m_clients[i] = client;
            m_list->item(static_cast<int>(i))->setText(client.name.isEmpty() ? "(no name)" : client.name);
        }
    showClient();
    emit clientChanged(client);
}

void HomeView::offerErasure() {
    const auto client = current();
    if (!client) return;
    QMessageBox ask(QMessageBox::Question, "Consent taken back",
                    QString("%1 does not want to be filmed any more. Erase what there is as well?").arg(client->name),
                    QMessageBox::NoButton, this);
    ask.setInformativeText(
        "Nothing more is filmed either way. Erasing takes all sets, measurements and the videos Zevo filmed, and "
        "cannot "
        "be undone; video files of your own stay where they are.");
    ask.addButton("Keep the record", QMessageBox::RejectRole);
    auto* erase = ask.addButton("Erase everything", QMessageBox::DestructiveRole);
    ask.exec();
    if (ask.clickedButton() == erase) eraseClient(client->id);
}

void HomeView::eraseClient(store::ClientId id) {
    m_undo->clear();
    if (auto done = m_library->deleteClient(id); !done)
        emit failed(present::sentence(done.error()));
    else
        eraseStranded(*m_library, id);
    refresh();
}

void HomeView::deleteClient() {
    const auto client = current();
    if (!client) return;
    QMessageBox ask(QMessageBox::Question, "Delete client",
                    QString("Delete %1 with all sets and measurements?").arg(client->name), QMessageBox::NoButton,
                    this);
    ask.setInformativeText(
        "Everything Zevo keeps about this client, with the videos it filmed, is erased and cannot be brought back. "
        "Your own video files stay where "
        "they are; delete them yourself if the client asks for it.");
    ask.addButton("Keep", QMessageBox::RejectRole);
    auto* erase = ask.addButton("Erase for good", QMessageBox::DestructiveRole);
    ask.exec();
    if (ask.clickedButton() != erase) return;
    eraseClient(client->id);
}

}  // namespace zevo::app
