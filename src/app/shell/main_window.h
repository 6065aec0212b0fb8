#pragma once

#include <QMainWindow>
#include <functional>
#include <optional>

#include "app/home/home_view.h"
#include "app/review/review_view.h"
#include "app/shell/busy_view.h"
#include "app/shell/sheet.h"
#include "app/work/job_runner.h"
#include "app/work/set_work.h"
#include "app/work/settings.h"

class QLabel;
class QPushButton;
class QStackedWidget;
class QUndoStack;

namespace zevo::app {

/// What file dialogs offer.
inline constexpr const char* kVideos =
    "Videos (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mts *.m2ts *.3gp *.mpg *.mpeg *.wmv *.ts);;All files (*)";

/// The window: a header, one view at a time, and the work that leads from one to the other.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(store::Library library);
    ~MainWindow() override;

    /// Makes the demo library's set if needed and shows it.
    void openDemo(const QString& story = {});
    /// Measures a clip for the client chosen in the list.
    void openClip(const QString& path);
    void openSet(store::SetId id);
    /// Adds the other view to the set shown.
    void addSecondClip(const QString& path, bool together);
    void importStandard(const QString& path);
    void exportStandard(const QString& path);
    void goHome();

    HomeView* home() const { return m_home; }
    ReviewView* review() const { return m_review; }
    BusyView* busy() const { return m_busy; }
    Sheet* keysSheet() const { return m_keys; }
    Sheet* stopSheet() const { return m_stop; }
    QWidget* currentView() const;
    bool isWorking() const { return m_runner.isRunning(); }
    const Settings& settings() const { return m_settings; }
    QString libraryFolder() const { return m_library.folder(); }

  public slots:
    void chooseClip();
    void toggleLook();
    void toggleUnits();

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void closeEvent(QCloseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    class ContextChange;
    class SecondChange;
    void applySecond(const std::optional<store::SecondClip>& second);
    void changeContext(const SetContext& context);  ///< with undo
    void applyContext(const SetContext& context);
    void takeProposal(const QString& family);
    void chooseSecondClip(bool together);
    void chooseStandardFile();
    void chooseExport();
    void changeSecond(const std::function<void(std::optional<store::SecondClip>&)>& change);
    using Loader = std::function<Result<LoadedSet>(const std::atomic<bool>&, const analysis::OnProgress&)>;
    void run(const QString& title, Loader loader);
    void showSet(const LoadedSet& set);
    void describeSet();
    void showNotice(const QString& text);
    void saveJudgement();
    void saveLeftOut(int rep, bool out);
    void applySettings();
    QWidget* buildHeader();

    store::Library m_library;
    Settings m_settings;
    JobRunner m_runner;
    QUndoStack* m_undo;
    QStackedWidget* m_pages;
    HomeView* m_home;
    BusyView* m_busy;
    ReviewView* m_review;
    Sheet *m_keys, *m_stop;
    QLabel *m_title, *m_subtitle, *m_notice;
    QPushButton *m_toHome, *m_open, *m_pain, *m_undoButton, *m_look, *m_units, *m_help;
};

}  // namespace zevo::app
