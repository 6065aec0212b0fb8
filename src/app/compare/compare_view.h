#pragma once

#include <QTimer>
#include <QWidget>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "app/compare/phase_plot.h"
#include "app/parts/actions.h"
#include "app/parts/stage.h"
#include "present/compare_presenter.h"
#include "record/comparable_sets.h"

class QLabel;
class QMenu;
class QPushButton;
class QTableWidget;

namespace zevo::app {

/// Two sets, or repetitions, side by side or one over the other, lined up by the phase of the repetition; the course of
/// one measure with both, and what differs: more than noise first.
class CompareView : public QWidget {
    Q_OBJECT
  public:
    CompareView(Actions& actions, QWidget* parent);
    void setTheme(const Theme& theme);
    void setLengths(present::Lengths lengths);
    /// Shows `after` against `before`; `before` may be the same set, then its first against its last repetition.
    void show(record::ComparedSet before, record::ComparedSet after, std::vector<record::Comparable::Choice> choices,
              std::shared_ptr<const Catalogue> catalogue, std::vector<LedgerSet> sets = {});
    void setSide(bool after, record::ComparedSet set);
    bool hasSets() const { return m_presenter != nullptr; }
    const present::ComparePresenter& presenter() const { return *m_presenter; }
    const record::ComparedSet& loaded(bool after) const { return after ? m_after : m_before; }
    Stage* stage(bool after) const { return after ? m_afterStage : m_beforeStage; }
    PhasePlot* plot() const { return m_plot; }
    QTableWidget* table() const { return m_table; }
    QStringList sentences() const;
    bool isOver() const { return m_over; }

  public slots:
    void setPhase(double phase);
    void toggleOver();
    void swapSides();
    void nextMeasure();
    void togglePlay();
    void chooseWith();
    /// One repetition of a side, or all of them (−1).
    void chooseRep(bool after, int position);
    /// Left against right leg of the set on the right.
    void compareLegs();
    void leave();

  signals:
    /// Another set for a side.
    void setWanted(bool after, zevo::store::SetId id);
    void left();

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void hideEvent(QHideEvent*) override;

  private:
    void refresh();
    void refreshPictures();
    void fillMenus();
    void openClips();
    present::CompareSide sideOf(bool after) const;

    Actions& m_actions;
    Theme m_theme = lightTheme();
    present::Lengths m_lengths = present::Lengths::Metric;
    record::ComparedSet m_before, m_after;
    std::vector<record::Comparable::Choice> m_choices;
    std::unique_ptr<present::ComparePresenter> m_presenter;
    bool m_over = false;
    QTimer m_clock;
    Stage *m_beforeStage, *m_afterStage;
    QLabel *m_beforeText, *m_afterText, *m_said, *m_warned;
    QPushButton *m_beforeSet, *m_afterSet, *m_beforeRep, *m_afterRep, *m_overButton, *m_swap, *m_legs, *m_play,
        *m_measure, *m_back;
    QMenu *m_beforeMenu, *m_afterMenu, *m_beforeReps, *m_afterReps;
    PhasePlot* m_plot;
    QTableWidget* m_table;
};

}  // namespace zevo::app
