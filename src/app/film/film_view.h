#pragma once

#include <QFileSystemWatcher>
#include <QTimer>
#include <QWidget>

#include "app/care/pain_tap.h"
#include "app/film/filming.h"
#include "app/film/live_canvas.h"
#include "app/film/session_strip.h"
#include "app/film/sounds.h"
#include "app/film/virtual_panel.h"
#include "app/parts/actions.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace zevo::app {

/// The page between "choose the client" and the answer: the live picture with the one thing to do, a strip of today's
/// sets, and at the side what seldom changes. A second window can be turned to the client.
class FilmView : public QWidget {
    Q_OBJECT
  public:
    FilmView(const QString& libraryFolder, JobQueue* queue, Actions& actions, QWidget* parent = nullptr);
    ~FilmView() override;
    void setTheme(const Theme& theme);
    void setSettings(const Settings& settings);
    void setCatalogue(std::shared_ptr<const Catalogue> catalogue);
    /// Goes on with this client: what they did last is carried over. The camera opens once they have agreed to be
    /// filmed. `cue`: what was said after the last set; shown while they move where that is wanted.
    void enter(const store::Client& client, const SetFacts& facts, const QString& standard, const QString& cue);
    /// The page is left: the camera goes off. False while a set is being filmed; it goes on then.
    bool leave();
    void showSession(const store::Library& library);
    /// Something covers the picture: nothing begins by itself behind it.
    void setCovered(bool covered);
    /// The client's record changed.
    void setClient(const store::Client& client);

    Filming* filming() const { return m_filming; }
    LiveCanvas* canvas() const { return m_canvas; }
    LiveCanvas* clientDisplay() const { return m_display; }
    SessionStrip* session() const { return m_session; }
    VirtualPanel* virtualPanel() const { return m_virtual; }
    Sounds* sounds() const { return m_sounds; }
    const store::Client& client() const { return m_client; }

  public slots:
    void press();
    void toggleDisplay();
    void toggleCue();

  signals:
    void filmed(const std::shared_ptr<zevo::record::FilmedSet>& set);
    void clientChanged(const zevo::store::Client& client);
    void movementChosen(const QString& movement, const QString& variation);
    void settingsChanged(const zevo::app::Settings& settings);
    void setWanted(zevo::store::SetId id);
    void deleteWanted(zevo::store::SetId id);
    /// Something hurts: where, and the flags, are asked.
    void placesWanted();
    void trouble(const QString& title, const zevo::Error& error);

  protected:
    void keyPressEvent(QKeyEvent*) override;

  private:
    void buildSide(QVBoxLayout* side);
    void buildConsent();
    void fillCameras();
    void chooseCamera();
    void chooseMovement();
    void takeSettings();
    void takePlan();
    void openCamera();
    void agree(const QString& purpose);
    /// Asks what hurts where it was not asked on this day, and holds what may begin to the answer.
    void askWhatHurts();
    void takePain(int score);
    /// What pain and clearances ask of the set to come: the first easier version where one is to be lightened, else the
    /// rule; empty where nothing is to be minded.
    QString careText() const;
    void look(const pipeline::LiveFrameResult& look);
    void refresh();
    /// What is said while the client gets ready; the advice to follow, if any.
    std::optional<CameraAdvice> watch(LiveCanvas::Scene& scene) const;
    /// What is drawn while they move.
    void follow(LiveCanvas::Scene& scene);
    QString stateText() const;
    void phaseChanged();
    QString tempoWord(int phase) const;

    QString m_folder;
    std::shared_ptr<const Catalogue> m_catalogue;
    Settings m_settings;
    Theme m_theme = lightTheme();
    store::Client m_client;
    SetFacts m_facts;
    QString m_standard, m_cue;
    QStringList m_before;  ///< what is set up and said before the first repetition
    double m_endedS = -1;  ///< when this client's last set ended, by the steady clock; below 0: none did
    Standard m_bands;      ///< of the movement chosen
    bool m_filling = false, m_wasRight = false, m_entered = false, m_covered = false;
    double m_movedS = -1e9;  ///< when the simulated camera was moved last
    int m_ready = 100, m_counted = 0, m_lastBeat = -1;
    std::optional<pipeline::LiveFrameResult> m_look, m_secondLook;
    std::vector<pipeline::CameraChoice> m_cameras;
    QFileSystemWatcher m_devices;
    QTimer m_beat;  ///< count-in and tempo between two pictures

    Filming* m_filming;
    Sounds* m_sounds;
    PainTap* m_painTap;
    StopAnswer m_stop;  ///< what the record of the client says today
    LiveCanvas* m_canvas;
    LiveCanvas* m_display;  ///< a window of its own
    SessionStrip* m_session;
    VirtualPanel* m_virtual;
    QWidget* m_consent;
    QLabel *m_consentText, *m_state;
    QComboBox *m_camera, *m_secondCamera, *m_movement, *m_tempo;
    QCheckBox *m_startStill, *m_stopStill, *m_hand, *m_sound, *m_showCue, *m_mirror, *m_warmUp;
    QPushButton *m_start, *m_displayButton;
};

}  // namespace zevo::app
