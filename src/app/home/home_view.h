#pragma once

#include <QTimer>
#include <QWidget>
#include <map>
#include <memory>
#include <optional>

#include "app/care/pain_row.h"
#include "app/theme/theme.h"
#include "app/work/settings.h"
#include "record/client_book.h"
#include "store/library.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QFrame;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;
class QUndoStack;

namespace zevo::app {

class MovementBox;

class ClientRow;
class SetRow;

/// The clients and their sets. Edits are saved as they are made and can be undone; nothing is mandatory.
class HomeView : public QWidget {
    Q_OBJECT
  public:
    HomeView(store::Library* library, record::ClientBook* clients, QUndoStack* undo,
             std::shared_ptr<const Catalogue> catalogue, QWidget* parent = nullptr);
    void setCatalogue(std::shared_ptr<const Catalogue> catalogue);
    /// Keeps what is still being typed.
    void saveNow();
    void setTheme(const Theme& theme);
    void setSettings(const Settings& settings);
    /// `all`: also clients in the archive, and whatever is typed in the search.
    void refresh(bool all = false);
    /// What is searched for.
    QLineEdit* searchBox() const { return m_search; }
    /// Shows what goes, and erases for good when the coach says so; `erased` when it is done. Whether they said so.
    bool askErasure(store::ClientId id);
    void selectClient(store::ClientId id);
    /// Adds a client and chooses them.
    void newClient(const QString& name, double statureCm);
    /// Of a set, read when they are drawn first.
    const std::vector<Outline>& outlinesOf(store::SetId id);
    /// The client chosen in the list.
    std::optional<store::Client> current() const;
    /// Keeps a change of a client, with undo.
    void changeClient(const store::Client& after);
    /// The client the next clip belongs to; makes one when there is none yet.
    std::optional<store::ClientId> clientForClip();

  signals:
    void openClipWanted();
    void filmWanted();
    void pageWanted();
    void setWanted(store::SetId id);
    void modelChosen(const QString& model);
    void movementChosen(const QString& movement, const QString& variation);
    void clientChanged(const zevo::store::Client& client);
    void failed(const QString& message);
    void erased(store::ClientId id);

  protected:
    bool eventFilter(QObject* watched, QEvent* e) override;

  private:
    class ClientChange;
    void buildClientCard(QFrame* card);
    void addClient();
    void deleteClient();
    void offerErasure();
    void eraseClient(store::ClientId id);
    void showClient();
    void showSets(const store::Client& client);
    void saveEdits();
    void apply(const store::Client& client);

    Theme m_theme = lightTheme();
    Settings m_settings;
    store::Library* m_library;
    record::ClientBook* m_book;
    QUndoStack* m_undo;
    std::shared_ptr<const Catalogue> m_catalogue;
    QTimer m_typing;                                          ///< a pause in typing
    std::map<store::SetId, std::vector<Outline>> m_outlines;  ///< of rows that were drawn
    std::vector<store::Client> m_clients;
    bool m_filling = false;
    QListWidget *m_list, *m_sets;
    SetRow* m_rows;
    QFrame* m_card;
    QLabel *m_empty, *m_noSets, *m_statureLabel;
    QLineEdit *m_name, *m_search;
    ClientRow* m_clientRows;
    QCheckBox* m_archived;
    QPushButton* m_page;
    QDoubleSpinBox* m_stature;
    QCheckBox* m_consent;
    QPlainTextEdit* m_note;
    QComboBox* m_model;
    MovementBox* m_movement;
    QPushButton *m_add, *m_open, *m_film, *m_delete;
    PainRow* m_pain;
    QLabel* m_care;
};

}  // namespace zevo::app
