#pragma once

#include <QFrame>

#include "app/shell/actions.h"
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

  private:
    QLabel* m_hint;
    QComboBox* m_reach;
    QDoubleSpinBox* m_length;
    QPushButton *m_leg, *m_lengthButton, *m_person, *m_take;
    present::Lengths m_lengths = present::Lengths::Metric;
};

}  // namespace zevo::app
