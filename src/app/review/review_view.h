#pragma once

#include <QDate>
#include <QWidget>
#include <memory>

#include "app/care/felt_picker.h"
#include "app/parts/actions.h"
#include "app/parts/stage.h"
#include "app/review/ask_row.h"
#include "app/review/correct_bar.h"
#include "app/review/curve_plot.h"
#include "app/review/log_row.h"
#include "app/review/reading_column.h"
#include "app/review/rep_strip.h"
#include "app/review/say_card.h"
#include "app/review/set_panel.h"
#include "present/set_document.h"
#include "record/importing.h"
#include "record/opening.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;
class QScrollArea;

namespace zevo::app {

/// One set: the rep strip, the stage, the card that says what to say, the readings and the curve, all hanging on one
/// document and its ReviewPresenter. What the coach changes goes to the document as an edit; what the document becomes
/// is shown here.
class ReviewView : public QWidget {
    Q_OBJECT
  public:
    ReviewView(Actions& actions, QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setLengths(Lengths lengths);
    void setSet(record::LoadedSet set, Lengths lengths);
    /// A further clip of the set shown, before the edit that speaks of it.
    void addClip(record::Watchable clip) { m_clips.push_back(std::move(clip)); }
    void setCatalogue(std::shared_ptr<const Catalogue> catalogue);
    /// The record holds more than the document knew (see SetDocument::rebase()); what is being looked at stays.
    void takeOver(const Edits& known, const Edits& theirs, Observations seen, const std::map<int, int>& moved,
                  std::vector<record::Watchable> clips);
    /// The first view was read once more, picture by picture.
    void setRefined() { m_refined = true; }
    /// The careful reading of the set shown is still to come.
    void setBeingRead(bool beingRead);
    bool hasSet() const { return m_document != nullptr; }
    store::SetId id() const { return m_stored.id; }
    const store::Client& client() const { return m_stored.client; }
    /// What is recorded of the client now; the set takes over what hurts and which flags stand.
    void setClient(const store::Client& client);
    FeltPicker* feltPicker() const { return m_feltPicker; }
    const QDate& heldOn() const { return m_stored.heldOn; }
    const record::Watchable& clip(bool second) const;
    present::SetDocument& document() const { return *m_document; }

    RepStrip* strip() const { return m_strip; }
    Stage* stage() const { return m_stage; }
    SayCard* card() const { return m_card; }
    ReadingColumn* column() const { return m_column; }
    CurvePlot* plot() const { return m_plot; }
    SetPanel* panel() const { return m_panel; }
    CorrectBar* correctBar() const { return m_bar; }
    LogRow* logRow() const { return m_log; }
    AskRow* askRow() const { return m_asks; }
    /// Who asks, as it stands with what is asked.
    void setCoach(const QString& name) { m_coach = name; }
    bool isCorrecting() const { return m_correcting; }
    /// Whether the stage shows the second clip.
    bool showsSecond() const { return m_second; }
    const present::ReviewPresenter& presenter() const { return *m_presenter; }
    /// 1–9 choose a repetition; true when that was the key.
    bool takesDigit(QKeyEvent* e);

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
    /// The words on the card were given; again: they were not.
    void giveCue();
    void giveOwnWords(const QString& words);
    /// Nothing was said.
    void watchOnly();
    /// Something is asked of this client from the next set on, or not any more.
    void askOfNext(const zevo::Ask& ask, bool take);
    /// Points and repetitions can be put right, or not any more.
    void toggleCorrecting();
    void notARep();
    void splitRep();
    void joinReps();
    void addRep();
    void nameLeg();
    void restsHere();
    void untrim();
    void pointsBack();
    /// The mouse marks a point that is followed, or does not any more.
    void toggleMarking();
    /// What was followed; nothing where the coach clicked again meanwhile: then another following is on its way.
    void takeMark(bool second, const zevo::Mark& mark);
    /// It could not be followed: it is as it was.
    void dropMark(bool second, MarkKind kind);
    /// An empty word takes the one of the picture that is shown off.
    void pinNote(const QString& text);

  signals:
    void cueGiven(const QString& fault);
    /// The client has it so from now on.
    void clientChanged(const zevo::store::Client& client);
    void changed();
    void refused(const QString& why, const zevo::Error& error);
    void offerTaken(const QString& offer);  ///< "anew", "stature", "movement:FAMILY"
    void heldOnChosen(const QDate& day);
    /// This movement is done next, because something hurts in the one of the set.
    void insteadWanted(const zevo::Instead& instead, const std::optional<zevo::Ask>& ask);
    void personWanted(bool second, double atS, const QPointF& at);
    /// A point was clicked: it is to be followed, and taken with takeMark().
    void markWanted(bool second, const zevo::Mark& mark);

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    void fit();
    void connectActions();
    void connectPanel();
    void buildTransport(QBoxLayout* into);
    void takeState();
    void refreshAll();
    void fillPanel();
    void refreshOffers();
    QString keptOffer();
    void refreshRep();
    void refreshOverlay();
    void refreshTransport();
    void openView(bool second);
    void goTo(double timeS, bool second);
    void stepMeasure(int by);
    void nextStandard();
    void refreshAnswer();
    void refreshAsks();
    void connectCorrecting();
    void chooseTool(Stage::Tool tool);
    void refreshHandles();
    void showValues();
    PointPlaced moveOf(Landmark id, const QPointF& at) const;
    void dragPoint(Landmark id, const QPointF& at, bool dropped);
    void takePoint(Landmark id, const QPointF& at);
    void stepPoint(int by);
    void nudgePoint(const QPointF& by);
    std::optional<present::ReviewPresenter::RepSpan> chosenSpan() const;
    void setReps(Span within, std::vector<Span> reps, const QString& what);
    void dragEdge(bool start, double timeS, bool dropped);
    void moveEdge(bool start, int frames);
    void trim(bool begins);
    void tellLength(double cm);
    QString noteHere() const;
    const Mark* markOf(bool second, MarkKind kind) const;
    void markAt(const QPointF& at);
    void refreshMarks();
    void connectMarks();

    Actions& m_actions;
    Theme m_theme = lightTheme();
    store::StoredSet m_stored;  ///< without what the document holds
    std::vector<record::Watchable> m_clips;
    std::unique_ptr<present::SetDocument> m_document;
    std::unique_ptr<present::ReviewPresenter> m_presenter;
    std::optional<Edits> m_differencesOf;  ///< edits that m_differences was found out for
    QString m_differences;
    std::optional<record::LoadedSet::Before> m_before;
    std::vector<CueScore> m_scores;  ///< of this client's cues
    bool m_refined = false, m_refining = false, m_beingRead = false;
    bool m_skeleton = false, m_second = false, m_correcting = false;
    int m_point = 1;                       ///< which point keys move
    std::optional<SetState> m_try;         ///< what the drag under way comes to
    std::optional<PointPlaced> m_drag;     ///< the newest place of the point in the hand
    QLineF m_line;                         ///< drawn for a true length
    std::vector<PointMarked> m_following;  ///< clicks whose following is under way
    CorrectBar* m_bar;
    LogRow* m_log;
    AskRow* m_asks;
    QString m_coach;
    RepStrip* m_strip;
    Stage* m_stage;
    SayCard* m_card;
    ReadingColumn* m_column;
    QScrollArea* m_scroll;
    CurvePlot* m_plot;
    QComboBox* m_standards;
    SetPanel* m_panel;
    FeltPicker* m_feltPicker;
    QPushButton* m_felt;
    QLabel *m_clock, *m_notes, *m_offers, *m_answer, *m_how;
    QPushButton *m_other, *m_about, *m_back, *m_play, *m_on, *m_speed, *m_loop, *m_figure, *m_leaveOut, *m_correct;
};

}  // namespace zevo::app
