#pragma once

#include <QMainWindow>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "app/care/pain_question.h"
#include "app/compare/compare_view.h"
#include "app/film/film_view.h"
#include "app/film/incoming_folder.h"
#include "app/home/home_view.h"
#include "app/parts/actions.h"
#include "app/parts/sheet.h"
#include "app/review/review_view.h"
#include "app/shell/question_bar.h"
#include "app/shell/work_strip.h"
#include "app/work/job_queue.h"
#include "app/work/settings.h"
#include "record/filmed_sets.h"
#include "record/importing.h"
#include "record/opening.h"
#include "record/set_writer.h"
#include "store/log.h"

class QLabel;
class QPushButton;
class QStackedWidget;
class QUndoStack;

namespace zevo::app {

class ClientView;
class Palette;

/// What file dialogs offer.
inline constexpr const char* kVideos =
    "Videos (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mts *.m2ts *.3gp *.mpg *.mpeg *.wmv *.ts);;All files (*)";

/// The window: a header, a quiet strip of what is being measured, and one page at a time, clients or a set. Work goes
/// on behind the page; the page changes when the coach says so.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(store::Library library);
    ~MainWindow() override;

    /// Prepares the demo's sets in the background and shows the first one when it is ready. `story`: another file of
    /// that form.
    void openDemo(const QString& story = {});
    /// Measures a clip for the client chosen in the list, in the background. `show`: goes to it when it is ready.
    void openClip(const QString& path, bool show = false);
    void openSet(store::SetId id);
    /// Adds the other view to the set shown.
    void addSecondClip(const QString& path, bool sameTake);
    void importStandard(const QString& path);
    void exportStandard(const QString& path);
    void goHome();
    /// Goes to the set that was measured last.
    void showReady();
    /// Takes the set shown out of the record; undo brings it back until Zevo is closed.
    void deleteShownSet();
    /// The set shown against the one before it.
    void compareSet();
    void backToSet();
    /// To the film page: with the client and the movement of the set shown, else with those chosen in the list.
    void filmSet();
    /// Recordings that no set knows are offered to be saved.
    void offerRecovery();

    FilmView* film() const { return m_film; }
    QuestionBar* questions() const { return m_ask; }
    IncomingFolder& incoming() { return m_incoming; }
    HomeView* home() const { return m_home; }
    ReviewView* review() const { return m_review; }
    CompareView* compare() const { return m_compare; }
    ClientView* client() const { return m_client; }
    Palette* palette() const { return m_palette; }
    void showClientPage(store::ClientId id);
    /// Everything of the client shown, into a new folder there.
    void exportClient(const QString& into);
    WorkStrip* strip() const { return m_strip; }
    Sheet* keysSheet() const { return m_keys; }
    Sheet* stopSheet() const { return m_stop; }
    PainQuestion* question() const { return m_question; }
    QWidget* currentView() const;
    Actions& actions() { return m_actions; }
    /// Whether anything is being opened or measured.
    bool isWorking() const { return !m_queue.isIdle() || m_writer->pending() > 0; }
    JobQueue& queue() { return m_queue; }
    /// Waits until every change made so far is in the record.
    void settle() { m_writer->flush(); }
    const Settings& settings() const { return m_settings; }
    QString libraryFolder() const { return m_library.folder(); }
    const store::Log& log() const { return m_log; }
    /// A handler threw: it is written down and said.
    void caught(const Error& error);

  public slots:
    void chooseClip();
    void toggleLook();
    void toggleUnits();
    void copyDetails();

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void closeEvent(QCloseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    void connectPages();
    void connectActions();
    QWidget* buildHeader();
    void showSet(record::LoadedSet set);
    /// What the coach did to the set shown goes to the record; the window does not wait for it.
    void keep(const present::SetDocument::Change& change);
    /// The record holds more of the set shown than its document knows: it catches up, whatever page is looked at.
    void catchUp(store::SetId id);
    void takeOver(const store::StoredSet& now, const Edits& known, const std::map<int, int>& moved);
    /// As soon as everything handed to the writer so far is in the record.
    void afterWrites(std::function<void()> then);
    void askCoachName();
    void describeSet();
    void refreshUndo();
    void undo();
    void redo();
    void measured(const record::Imported& set, bool show);
    void failed(const QString& title, const Error& error, bool clip);
    void showNotice(const QString& text);
    void reloadCatalogue();
    void takeOffer(const QString& offer);
    void chooseSecondClip(bool sameTake);
    void chooseStandardFile();
    void chooseExport();
    void applySettings();
    void stopWork();
    void askPain();
    void connectFilming();
    void connectComparing();
    void connectClients();
    void openClientPage();
    void readClientPage(store::ClientId id, int opening);
    void reloadClientPage();
    void moveSets(std::vector<std::tuple<store::SetId, store::SetPlace, store::SetPlace>> steps, const QString& what);
    void moveOnDay(store::SetId id, int by);
    void mergeClients(store::ClientId other);
    void takeTarget();
    void openPalette();
    void showComparison(const record::Comparable& found);
    void filmClient(const store::Client& client, const SetFacts& facts, const QString& standard, const QString& cue);
    void filmOtherClient();
    /// What the next clip or set is measured as.
    SetFacts chosenMovement() const;
    void answer(const std::shared_ptr<record::FilmedSet>& filmed);
    void refine(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed);
    /// Reads the outlines of a set after its answer was given; who looks at it sees the rows of the back come.
    void readBack(store::SetId id);
    void addFilmedSecond(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed);
    void filmOtherView();
    void joinOtherView(store::SetId of, const std::shared_ptr<record::FilmedSet>& filmed);
    void followMarked(bool second, const Mark& mark);
    void followPerson(bool second, double atS, const QPointF& at);
    void chooseIncoming();
    void clipArrived(const QString& path);
    void deleteSet(store::SetId id);

    /// Who is being filmed, with what is carried over to his next set.
    struct FilmedClient {
        store::Client client;
        SetFacts facts;
        QString standard, cue;
    };

    store::Library m_library;
    store::Log m_log;
    Settings m_settings;
    std::shared_ptr<const Catalogue> m_catalogue;
    Actions m_actions;
    QUndoStack* m_undo;
    QStackedWidget* m_pages;
    HomeView* m_home;
    ReviewView* m_review;
    FilmView* m_film;
    CompareView* m_compare;
    ClientView* m_client;
    Palette* m_palette;
    QuestionBar* m_ask;
    IncomingFolder m_incoming;
    std::optional<FilmedClient> m_filming, m_filmedBefore;
    std::optional<store::SetId> m_otherViewOf;  ///< what is filmed next is another view of this set
    WorkStrip* m_strip;
    Sheet *m_keys, *m_stop;
    PainQuestion* m_question;
    QLabel *m_title, *m_subtitle, *m_notice;
    QPushButton *m_toHome, *m_open, *m_filmTop, *m_pain, *m_undoButton, *m_look, *m_units, *m_help;
    std::vector<store::Seen> m_seen;  ///< of the set shown, one an observation
    record::SetWriter* m_writer;
    std::optional<store::SetId> m_ready;
    int m_opening = 0;  ///< number of the set asked for last: an earlier one is not shown any more
    JobQueue m_queue;   ///< last: its threads end before the rest goes
};

}  // namespace zevo::app
