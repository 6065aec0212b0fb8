// What the page of clients is made of.
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

#include "app/home/home_view.h"
#include "app/parts/client_row.h"
#include "app/parts/movement_box.h"
#include "app/parts/set_row.h"
#include "present/words.h"

namespace zevo::app {
namespace {

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

HomeView::HomeView(store::Library* library, record::ClientBook* clients, QUndoStack* undo,
                   std::shared_ptr<const Catalogue> catalogue, QWidget* parent)
    : QWidget(parent), m_library(library), m_book(clients), m_undo(undo), m_catalogue(std::move(catalogue)) {
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
    m_list->setMinimumWidth(210);
    m_add = new QPushButton("New client", this);
    m_add->setObjectName("addClient");
    left->addWidget(heading);
    m_search = new QLineEdit(this);
    m_search->setObjectName("search");
    m_search->setPlaceholderText(tr("Search: name, goal, what was found"));
    m_search->setAccessibleName(m_search->placeholderText());
    m_search->setClearButtonEnabled(true);
    left->addWidget(m_search);
    m_archived = new QCheckBox(tr("In the archive"), this);
    m_archived->setObjectName("archived");
    connect(m_search, &QLineEdit::textChanged, this, [this] { refresh(); });
    connect(m_archived, &QCheckBox::toggled, this, [this] { refresh(); });
    m_list->setItemDelegate(m_clientRows = new ClientRow(m_list));
    left->addWidget(m_list, 1);
    left->addWidget(m_archived);
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
        client->complaint = {a.score, a.spots, a.sharp, QDate::currentDate()};
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
    m_sets->setUniformItemSizes(true);
    m_sets->setItemDelegate(
        m_rows = new SetRow(
            [this](const QString& id) -> const std::vector<Outline>& { return outlinesOf(store::SetId::fromText(id)); },
            m_sets));
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
    connect(m_list, &QListWidget::itemActivated, this, &HomeView::pageWanted);
    connect(m_add, &QPushButton::clicked, this, &HomeView::addClient);
    connect(m_open, &QPushButton::clicked, this, &HomeView::openClipWanted);
    connect(m_film, &QPushButton::clicked, this, &HomeView::filmWanted);
    connect(m_model, &QComboBox::activated, this, [this](int i) { emit modelChosen(m_model->itemData(i).toString()); });
    connect(m_movement, &QComboBox::activated, this, [this](int i) {
        emit movementChosen(m_movement->itemData(i).toString(), m_movement->itemData(i, Qt::UserRole + 1).toString());
    });
    auto openSet = [this](QListWidgetItem* item) {
        emit setWanted(store::SetId::fromText(item->data(kSetId).toString()));
    };
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
    auto* below = new QHBoxLayout;
    m_page = new QPushButton(tr("Client page"), card);
    m_page->setObjectName("clientPage");
    m_page->setToolTip(tr("Goals, what works, targets, course, all sets (Ctrl+P)"));
    below->addWidget(m_page);
    below->addStretch();
    below->addWidget(m_delete);
    notes->addLayout(below);
    connect(m_page, &QPushButton::clicked, this, &HomeView::pageWanted);
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

}  // namespace zevo::app
