#pragma once

#include <QFrame>
#include <optional>
#include <vector>

#include "app/parts/actions.h"
#include "core/marks/marks.h"
#include "present/log_words.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QPushButton;

namespace zevo::app {

/// What can be put right in a set, shown while the coach corrects: one row of words on what the mouse does now, and
/// what is done at the moment that is shown.
class CorrectBar : public QFrame {
    Q_OBJECT
  public:
    CorrectBar(Actions& actions, QWidget* parent);
    /// How far in time a moved point takes its neighbours along, seconds; 0 = over the whole repetition.
    double reachS() const;
    /// `oneLeg`: the movement works one leg at a time; `leg`: what the named leg would become.
    void setSet(bool oneLeg, const QString& leg);
    void setHint(const QString& hint);
    /// What can be marked in the view that is shown; `marked`: those that are.
    void setMarks(ViewKind view, const std::vector<Mark>& marked);
    MarkKind markKind() const;
    double nearerCm() const;
    /// The mouse marks a point, or does not any more.
    void setMarking(bool on);
    bool isMarking() const;
    QComboBox* markBox() const { return m_kind; }
    QDoubleSpinBox* nearerBox() const { return m_nearer; }
    /// The mouse drags points again.
    void letGo();
    /// Asks how long the line is that was drawn.
    void askLength(present::Lengths lengths);
    QDoubleSpinBox* lengthBox() const { return m_length; }
    QComboBox* reachBox() const { return m_reach; }

  signals:
    void lengthWanted(bool on);
    void personWanted(bool on);
    void lengthTold(double cm);
    void markWanted(bool on);
    void markTakenOff();
    void nearerTold(double cm);

  private:
    QLabel* m_hint;
    QComboBox* m_reach;
    QDoubleSpinBox* m_length;
    void chooseKind();
    void arrange();
    std::vector<QWidget*> m_edits;  ///< what is hidden while something is marked
    bool m_oneLeg = false;
    QComboBox* m_kind;
    QDoubleSpinBox* m_nearer;
    std::vector<Mark> m_marked;
    std::optional<ViewKind> m_view;
    QPushButton *m_leg, *m_lengthButton, *m_person, *m_take, *m_mark, *m_markOff;
    present::Lengths m_lengths = present::Lengths::Metric;
};

}  // namespace zevo::app
