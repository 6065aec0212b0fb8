#pragma once

#include <QWidget>
#include <memory>

#include "app/review/curve_plot.h"
#include "app/review/reading_column.h"
#include "app/review/rep_strip.h"
#include "app/review/say_card.h"
#include "app/review/set_panel.h"
#include "app/review/stage.h"
#include "app/work/set_work.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;
class QScrollArea;
class QUndoStack;

namespace zevo::app {

/// One set: the rep strip, the stage, the card that says what to say, the readings and the curve, all hanging on one
/// ReviewPresenter. It changes nothing on disk itself: it tells what the coach decided.
class ReviewView : public QWidget {
    Q_OBJECT
  public:
    ReviewView(QUndoStack* undo, QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setLengths(Lengths lengths);
    void setSet(const LoadedSet& set);
    bool hasSet() const { return m_set.presenter != nullptr; }
    const LoadedSet& set() const { return m_set; }

    RepStrip* strip() const { return m_strip; }
    Stage* stage() const { return m_stage; }
    SayCard* card() const { return m_card; }
    ReadingColumn* column() const { return m_column; }
    CurvePlot* plot() const { return m_plot; }
    SetPanel* panel() const { return m_panel; }
    /// Whether the stage shows the second clip.
    bool showsSecond() const { return m_second; }
    const ReviewPresenter& presenter() const { return *m_set.presenter; }

  public slots:
    void chooseRep(int position);
    void chooseFinding(int index);
    void chooseMeasure(const QString& id);
    void showMoment();
    void togglePlay();
    void nextSpeed();
    void toggleLoop();
    void toggleSkeleton();
    /// The other view of the set, at the same moment when both were filmed at once.
    void otherView();
    /// With undo.
    void chooseStandard(const QString& id);
    void toggleLeftOut();

  signals:
    void standardChosen(const QString& id);
    void leftOutChanged(int rep, bool out);
    void movementProposed(const QString& family);  ///< the coach agrees with what it looks like

  protected:
    void keyPressEvent(QKeyEvent*) override;

  private:
    class StandardChange;
    class LeaveOutChange;
    void applyStandard(const QString& id);
    void applyLeftOut(int rep, bool out);
    void buildTransport(QBoxLayout* into);
    void refreshAll();
    void refreshRep();
    void refreshOverlay();
    void refreshTransport();
    void openView(bool second);
    void goTo(double timeS, bool second);
    double repTime(double timeS) const;  ///< of the first clip's clock in the clock of the clip shown

    Theme m_theme = lightTheme();
    LoadedSet m_set;
    QUndoStack* m_undo;
    bool m_skeleton = false, m_second = false;
    RepStrip* m_strip;
    Stage* m_stage;
    SayCard* m_card;
    ReadingColumn* m_column;
    QScrollArea* m_scroll;
    CurvePlot* m_plot;
    QComboBox* m_standards;
    SetPanel* m_panel;
    QLabel *m_clock, *m_notes, *m_looks;
    QPushButton *m_other, *m_about, *m_back, *m_play, *m_on, *m_speed, *m_loop, *m_figure, *m_leaveOut;
};

}  // namespace zevo::app
