#pragma once

#include <QTimer>
#include <QWidget>
#include <map>
#include <optional>

#include "app/client/course_plots.h"
#include "app/parts/set_row.h"
#include "record/client_file.h"

class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QMenu;
class QPlainTextEdit;
class QPushButton;

namespace zevo::app {

/// One client: what they want, what hurts, what works for them, their own targets, their course and their sets. Edits
/// are kept as they are made, with undo.
class ClientView : public QWidget {
    Q_OBJECT
  public:
    ClientView(SetRow::OutlinesOf outlinesOf, QWidget* parent);
    void setTheme(const Theme& theme);
    void setLengths(present::Lengths lengths);
    /// `others`: clients they can be merged with, or their sets moved to.
    void show(record::ClientFile file, std::vector<store::Client> others, std::shared_ptr<const Catalogue> catalogue);
    bool hasClient() const { return m_shown; }
    const record::ClientFile& file() const { return m_file; }
    QListWidget* sets() const { return m_sets; }
    CoursePlots* courses() const { return m_courses; }
    /// Keeps what is still being typed.
    void saveNow();
    std::optional<store::SetId> chosenSet() const;

  signals:
    void clientChanged(const zevo::store::Client& client);
    void setWanted(zevo::store::SetId id);
    /// One place earlier (−1) or later (1) on its day.
    void setMoved(zevo::store::SetId id, int by);
    void setGiven(zevo::store::SetId id, zevo::store::ClientId to);
    void dayWanted(zevo::store::SetId id);
    void deleteWanted(zevo::store::SetId id);
    void mergeWanted(zevo::store::ClientId other);
    void exportWanted();
    void eraseWanted();

  protected:
    bool eventFilter(QObject* watched, QEvent* e) override;

  private:
    QWidget* buildFacts();
    QWidget* buildRecord(SetRow::OutlinesOf outlinesOf);
    void fill();
    void fillWords();
    void fillSets();
    void save();
    static QString dayText(const QDate& day);
    QString cuesText() const;
    QString trialsText() const;
    QString targetsText() const;
    QString hurtsText() const;

    Theme m_theme = lightTheme();
    present::Lengths m_lengths = present::Lengths::Metric;
    record::ClientFile m_file;
    std::vector<store::Client> m_others;
    std::shared_ptr<const Catalogue> m_catalogue;
    bool m_shown = false, m_filling = false;
    QTimer m_typing;
    QLabel *m_tile, *m_name, *m_consent, *m_cues, *m_trials, *m_targets, *m_hurts, *m_none;
    QLabel *m_cuesTitle, *m_trialsTitle, *m_targetsTitle, *m_hurtsTitle, *m_courseTitle;
    QPlainTextEdit* m_goals;
    QLineEdit *m_emphasis, *m_equipment;
    QDoubleSpinBox* m_mass;
    std::map<QString, QDoubleSpinBox*> m_build;
    CoursePlots* m_courses;
    QListWidget* m_sets;
    QPushButton *m_archive, *m_merge, *m_give;
    QMenu *m_mergeMenu, *m_giveMenu;
    SetRow* m_rows;
};

}  // namespace zevo::app
