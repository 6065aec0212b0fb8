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
#include <QScrollBar>
#include <QUndoCommand>
#include <QUndoStack>
#include <cmath>

#include "app/parts/client_row.h"
#include "app/parts/movement_box.h"
#include "app/parts/set_row.h"
#include "present/log_words.h"

namespace zevo::app {
namespace {

using present::fromCm, present::toCm;

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
    m_clientRows->setTheme(theme);
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

void HomeView::refresh(bool all) {
    if (m_typing.isActive()) saveNow();
    m_outlines.clear();
    auto found = m_book->find(all ? QString() : m_search->text(), m_archived->isChecked());
    if (!found) return emit failed(present::sentence(found.error()));
    if (all)
        if (const auto others = m_book->find({}, !m_archived->isChecked()))
            found->insert(found->end(), others->begin(), others->end());
    const auto before = current();
    m_clients.clear();
    QStringList lines;
    for (const auto& c : *found) {
        m_clients.push_back(c.client);
        const QString seen =
            c.lastOn ? tr("%1 · %2").arg(QLocale().toString(*c.lastOn, "d MMM"), c.headline) : tr("no set yet");
        lines.append((c.client.name.isEmpty() ? tr("(no name)") : c.client.name) + "\n" + seen);
    }
    m_filling = true;
    const int scrolled = m_list->verticalScrollBar()->value();
    m_list->clear();
    int row = m_clients.empty() ? -1 : 0;
    for (std::size_t i = 0; i < m_clients.size(); ++i) {
        m_list->addItem(lines[static_cast<int>(i)]);
        m_list->item(static_cast<int>(i))
            ->setData(Qt::AccessibleTextRole, QString(lines[static_cast<int>(i)]).replace('\n', ", "));
        if (before && before->id == m_clients[i].id) row = static_cast<int>(i);
    }
    m_list->setCurrentRow(row);
    m_filling = false;
    // A list that fills from behind stays where it is read.
    if (before) m_list->verticalScrollBar()->setValue(scrolled);
    showClient();
}

void HomeView::selectClient(store::ClientId id) {
    if (m_typing.isActive()) saveNow();
    // One that the search hides is shown again.
    if (std::none_of(m_clients.begin(), m_clients.end(), [&](const auto& c) { return c.id == id; })) {
        const QSignalBlocker quiet(m_search);
        m_search->clear();
        refresh();
    }
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
    m_stature->setRange(0, fromCm(250, m_settings.lengths));
    m_stature->setSuffix(us ? " in" : " cm");
    m_stature->setValue(fromCm(client->statureCm, m_settings.lengths));
    m_consent->setChecked(client->consent.has_value());
    m_consent->setText(client->consent
                           ? "Agreed to be filmed on " + QLocale().toString(*client->consent, QLocale::ShortFormat) +
                                 (client->consentFor.isEmpty() ? QString() : ", " + client->consentFor)
                           : "Agreed to be filmed");
    if (m_note->toPlainText() != client->note) m_note->setPlainText(client->note);
    const QDate today = QDate::currentDate();
    const auto& c = client->complaint;
    m_pain->setAnswer({c.askedOn == today ? c.score : std::nullopt, c.spots, c.askedOn == today && c.sharp});
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
        item->setData(kSetId, s.id.text());
    }
    m_sets->setUpdatesEnabled(true);
}

void HomeView::newClient(const QString& name, double statureCm) {
    if (m_typing.isActive()) saveNow();
    const auto id = m_book->add({{}, name, statureCm, "", {}});
    refresh();
    selectClient(id);
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
    const double shown = toCm(m_stature->value(), m_settings.lengths);
    if (std::abs(shown - before->statureCm) > 0.2) after.statureCm = shown < 80 ? 0 : shown;
    if (m_consent->isChecked() != before->consent.has_value())
        after.consent = m_consent->isChecked() ? std::optional(QDate::currentDate()) : std::nullopt;
    if (!after.consent) after.consentFor.clear();
    after.note = m_note->toPlainText();
    changeClient(after);
}

void HomeView::changeClient(const store::Client& after) {
    // Also of one that the search, or the archive, hides.
    if (std::none_of(m_clients.begin(), m_clients.end(), [&](const auto& c) { return c.id == after.id; }))
        refresh(true);
    for (const auto& before : m_clients)
        if (before.id == after.id && !(before == after))
            return m_undo->push(new ClientChange(this, store::Client(before), after));
}

void HomeView::apply(const store::Client& client) {
    m_book->change(client);
    for (std::size_t i = 0; i < m_clients.size(); ++i)
        if (m_clients[i].id == client.id) {
            m_clients[i] = client;
            QListWidgetItem* item = m_list->item(static_cast<int>(i));
            item->setText((client.name.isEmpty() ? tr("(no name)") : client.name) + "\n" +
                          item->text().section('\n', 1));
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
    m_book->erase(id, [this, id](const Result<void>& done) {
        if (!done) emit failed(present::sentence(done.error()));
        emit erased(id);
        refresh();
    });
}

void HomeView::deleteClient() {
    if (const auto client = current()) askErasure(client->id);
}

bool HomeView::askErasure(store::ClientId id) {
    const auto client = m_book->client(id);
    const auto has = m_library->holdings(id);
    if (!client || !has) return false;
    QMessageBox ask(QMessageBox::Question, tr("Delete client"), tr("Delete %1 for good?").arg(client->name),
                    QMessageBox::NoButton, this);
    QStringList goes{tr("%n sets", nullptr, has->sets), tr("on %n days", nullptr, has->sessions),
                     tr("%n measured values", nullptr, has->values)};
    if (has->complaints) goes.append(tr("%n answers about pain", nullptr, has->complaints));
    QString text = tr("What goes: %1, name, notes, goals, targets, flags and consent").arg(goes.join(", "));
    text += has->filmed.isEmpty()
                ? "."
                : tr(", and %n videos that Zevo filmed:\n%1", nullptr, static_cast<int>(has->filmed.size()))
                      .arg(has->filmed.mid(0, 8).join("\n"));
    if (!has->elsewhere.isEmpty())
        text += "\n\n" + tr("What stays: your own video files. Delete them yourself if the client asks for it:\n%1")
                             .arg(has->elsewhere.mid(0, 8).join("\n"));
    if (!has->exports.isEmpty())
        text += "\n\n" + tr("What was exported stays too. Delete these folders yourself:\n%1")
                             .arg(has->exports.mid(0, 8).join("\n"));
    ask.setInformativeText(text + "\n\n" + tr("It cannot be brought back."));
    ask.addButton(tr("Keep"), QMessageBox::RejectRole);
    auto* erase = ask.addButton(tr("Erase for good"), QMessageBox::DestructiveRole);
    ask.exec();
    if (ask.clickedButton() != erase) return false;
    eraseClient(id);
    return true;
}

}  // namespace zevo::app
