#pragma once

#include <QFrame>
#include <vector>

#include "app/care/pain_row.h"
#include "app/theme/theme.h"
#include "store/records.h"

class QCheckBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QPushButton;

namespace zevo::app {

/// "Does anything hurt?", asked of one client: score and place, and the flags that are carried until a coach records
/// that a clinician cleared them. The rules themselves are one step away. Every answer counts at once.
class PainQuestion : public QFrame {
    Q_OBJECT
  public:
    explicit PainQuestion(QWidget* parent);
    void setTheme(const Theme& theme);
    /// Opens it for a client, or closes it when it is open.
    void ask(const store::Client& client);
    /// Shows what is recorded now.
    void setClient(const store::Client& client);

  signals:
    void answered(const zevo::store::Client& client);
    void rulesWanted();
    /// It covers the page, or is out of the way again.
    void covers(bool open);

  protected:
    void showEvent(QShowEvent*) override { emit covers(true); }
    void hideEvent(QHideEvent*) override { emit covers(false); }
    void keyPressEvent(QKeyEvent*) override;
    void paintEvent(QPaintEvent*) override;

  private:
    struct Row {
        QString flag;
        QCheckBox* box;
        QLabel* since;
        QPushButton* clear;
    };
    void toggle(const QString& flag, bool stands);
    /// The row that writes it down opens: that a flag is cleared within limits, or that no limits are needed any more.
    void beginClearing(const QString& flag);
    void recordClearance();
    void buildClearance();
    /// What a row is about: of the times a flag was named, one that stands today, else one that is cleared within
    /// limits, else the newest; null where it was never named.
    const store::ClientFlag* shown(const QString& flag) const;
    void refresh();

    Theme m_theme = lightTheme();
    store::Client m_client;
    QString m_clearing;  ///< the flag whose clearance is being written down
    bool m_filling = false;
    std::vector<Row> m_rows;
    QLabel *m_title, *m_advice, *m_clearingWords;
    PainRow* m_pain;
    QWidget* m_clearance;
    QDateEdit *m_clearedOn, *m_clearedUntil;
    QLineEdit *m_clearedBy, *m_limits;
    QCheckBox* m_ends;
};

}  // namespace zevo::app
