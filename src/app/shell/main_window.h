#pragma once

#include <QMainWindow>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "app/care/pain_question.h"
#include "app/compare/compare_desk.h"
#include "app/film/film_desk.h"
#include "app/home/home_view.h"
#include "app/parts/sheet.h"
#include "app/parts/workplace.h"
#include "app/review/review_desk.h"
#include "pipeline/demo_maker.h"
#include "record/importing.h"

class QLabel;
class QPushButton;
class QStackedWidget;
class QUndoStack;

namespace zevo::app {

class ClientDesk;
class InputWatch;
class ClientView;
class Palette;

/// The window: a header, a quiet strip of what is being measured, and one page at a time. What is done on a page is its
/// desk's; the window leads from page to page, and lends them what they work with (Workplace). Work goes on behind the
/// page; the page changes when the coach says so.
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
    void openSet(store::SetId id) { m_reviewDesk->open(id); }
    /// Adds the other view to the set shown.
    void addSecondClip(const QString& path, bool sameTake) { m_reviewDesk->addSecondClip(path, sameTake); }
    void importStandard(const QString& path) { m_reviewDesk->importStandard(path); }
    void exportStandard(const QString& path) { m_reviewDesk->exportStandard(path); }
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
    /// Films another movement of the client whose set is shown, because something hurts in that one.
    void filmInstead(const Instead& instead, std::optional<Ask> ask);
    /// Recordings that no set knows are offered to be saved.
    void offerRecovery() { m_filmDesk->offerRecovery(); }

    FilmView* film() const { return m_film; }
    QuestionBar* questions() const { return m_ask; }
    IncomingFolder& incoming() { return m_filmDesk->incoming(); }
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
    void prepareDemo(const std::shared_ptr<const std::vector<pipeline::DemoSet>>& sets, std::size_t at,
                     const std::shared_ptr<InputWatch>& input);
    void connectPages();
    void connectActions();
    QWidget* buildHeader();
    void askCoachName();
    void describeSet();
    void refreshUndo();
    void undo();
    void redo();
    void measure(const record::ImportRequest& request, bool show);
    void measured(const record::Imported& set, bool show);
    void failed(const QString& title, const Error& error, bool clip);
    void showNotice(const QString& text);
    void reloadCatalogue();
    void applySettings();
    void stopWork();
    void askPain();
    void buildDesks();
    void connectDesks();
    /// The header and commands of a page, and the page itself.
    void showPage(QWidget* page, Where where, bool canFilm, bool canOpen);
    void openClientPage();
    void openPalette();
    void filmOtherView();
    FilmedClient fromShownSet() const;
    void deleteSet(store::SetId id);

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
    WorkStrip* m_strip;
    Sheet *m_keys, *m_stop;
    PainQuestion* m_question;
    QLabel *m_title, *m_subtitle, *m_notice;
    QPushButton *m_toHome, *m_open, *m_filmTop, *m_pain, *m_undoButton, *m_look, *m_units, *m_help;
    record::SetWriter* m_writer;
    record::ClientBook* m_clients;
    std::optional<store::SetId> m_ready;
    int m_opening = 0;  ///< number of the page or set asked for last: an earlier one is not shown any more
    std::unique_ptr<Workplace> m_at;
    ReviewDesk* m_reviewDesk = nullptr;
    FilmDesk* m_filmDesk = nullptr;
    CompareDesk* m_compareDesk = nullptr;
    ClientDesk* m_clientDesk = nullptr;
    JobQueue m_queue;  ///< last: its threads end before the rest goes
};

}  // namespace zevo::app
