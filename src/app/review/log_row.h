#pragma once

#include <QWidget>
#include <functional>

#include "app/parts/actions.h"
#include "app/theme/theme.h"
#include "core/session/edits.h"
#include "present/words.h"

class QDoubleSpinBox;
class QSpinBox;
class QLineEdit;
class QMenu;
class QPushButton;

namespace zevo::app {

using present::Lengths;

/// What a set is, in one line of chips: kind, load, aids, shoes, shirt, effort, notes. Each opens with one tap and is
/// changed with the second; what was carried over from the set before needs none.
class LogRow : public QWidget {
    Q_OBJECT
  public:
    LogRow(Actions& actions, QWidget* parent);
    void setFacts(const SetFacts& facts, Lengths lengths);
    /// What belongs to the set as a whole stands at the end of the row.
    void addRight(QWidget* widget);
    /// Opens the first chip; the arrow keys go on from there.
    void open();
    /// Asks for the word to pin to the picture; `now`: the one that is there.
    void askNote(const QString& now);
    QPushButton* chipOf(const char* name) const;
    QLineEdit* noteBox() const { return m_pinned; }

  signals:
    void factsChosen(const zevo::SetFacts& facts);
    void noteWanted(const QString& text);

  private:
    QPushButton* addChip(const char* name, const QString& spoken);
    QMenu* menuOf(QPushButton* chip);
    void choose(const std::function<void(SetFacts&)>& change);
    void fillLoad();

    SetFacts m_facts;
    Lengths m_lengths = Lengths::Metric;
    bool m_filling = false;
    QPushButton *m_kind, *m_load, *m_aids, *m_shoes, *m_shirt, *m_effort, *m_note;
    QDoubleSpinBox *m_each, *m_bar, *m_box;
    QSpinBox* m_planned;
    QLineEdit *m_words, *m_pinned;
};

}  // namespace zevo::app
