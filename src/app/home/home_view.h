#pragma once

#include <QWidget>
#include <optional>

#include "app/theme/theme.h"
#include "app/work/settings.h"
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

class SetRow;

/// The clients and their sets. Edits are saved as they are made and can be undone; nothing is mandatory.
class HomeView : public QWidget {
    Q_OBJECT
  public:
    HomeView(store::Library* library, QUndoStack* undo, QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setSettings(const Settings& settings);
    void refresh();
    void selectClient(store::ClientId id);
    /// The client the next clip belongs to; makes one when there is none yet.
    std::optional<store::ClientId> clientForClip();

  signals:
    void openClipWanted();
    void setWanted(store::SetId id);
    void modelChosen(const QString& model);
    void movementChosen(const QString& movement, const QString& variation);
    void failed(const QString& message);

  private:
    class ClientChange;
    void buildClientCard(QFrame* card);
    void addClient();
    void deleteClient();
    void showClient();
    void saveEdits();
    void apply(const store::Client& client);
    std::optional<store::Client> current() const;

    Theme m_theme = lightTheme();
    Settings m_settings;
    store::Library* m_library;
    QUndoStack* m_undo;
    std::vector<store::Client> m_clients;
    bool m_filling = false;
    QListWidget *m_list, *m_sets;
    SetRow* m_rows;
    QFrame* m_card;
    QLabel *m_empty, *m_noSets, *m_statureLabel;
    QLineEdit* m_name;
    QDoubleSpinBox* m_stature;
    QCheckBox* m_consent;
    QPlainTextEdit* m_note;
    QComboBox *m_model, *m_movement;
    QPushButton *m_add, *m_open, *m_delete;
};

}  // namespace zevo::app
