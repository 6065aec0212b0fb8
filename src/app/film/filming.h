#pragma once

#include <QObject>
#include <QString>
#include <memory>
#include <mutex>
#include <optional>

#include "app/work/job_queue.h"
#include "app/work/settings.h"
#include "core/live/filming_switch.h"
#include "pipeline/live_session.h"
#include "pipeline/virtual_client.h"
#include "record/filmed_sets.h"

namespace zevo::app {

/// The camera behind the film page: opens it, starts and stops recordings by key or by itself, and tells what is seen.
/// Everything slow happens in jobs; looks at pictures come newest first, and what the window does not get to is left
/// out.
class Filming : public QObject {
    Q_OBJECT
  public:
    enum class Phase {
        Off,       ///< no camera
        Opening,   ///< it is being opened
        Watching,  ///< it is on; the client gets ready
        CountingIn,
        Filming,
        Ending  ///< the recording is being closed
    };

    Filming(QString libraryFolder, JobQueue* queue, QObject* parent = nullptr);
    ~Filming() override;

    /// Opens a camera ("simulated" or a device), closing the one before; and another beside it, where one is given.
    void open(const pipeline::CameraChoice& camera, const std::optional<pipeline::CameraChoice>& second,
              const QString& model);
    void close();
    void setPlan(const record::FilmPlan& plan);
    const record::FilmPlan& plan() const { return m_plan; }
    void setRules(const FilmingRules& rules) { m_switch.setRules(rules); }
    /// What may begin a recording. One that is under way goes on.
    enum class Begins {
        ByItself,  ///< what is seen, by the rules; and a key
        ByKey,     ///< a key alone
        Not        ///< nothing: something has to be asked first
    };
    void setBegins(Begins begins) { m_begins = begins; }
    /// Waits for the client. `afresh`: they may begin at once if they stand still (see FilmingSwitch::arm()).
    void arm(bool afresh);
    /// Key, click or remote: begins, calls off, ends.
    void press();

    Phase phase() const { return m_phase; }
    double countInLeftS() const;
    pipeline::LiveCounts counts() const;
    bool isOpen() const { return m_session != nullptr; }
    bool hasSecond() const { return m_second != nullptr; }
    bool isSimulated() const { return m_simulated != nullptr; }
    const media::SourceFacts* cameraFacts() const;
    /// The simulated camera stands elsewhere, or its client will do something else: drawn in the background.
    void setDials(const sim::ClientDials& dials);
    const sim::ClientDials& dials() const { return m_dials; }
    /// Whether the virtual client's set is drawn; a real one is always ready.
    bool isClientReady() const;
    /// For tests: the simulated camera is pulled out, or the one that helps.
    void unplug(bool second = false);

  signals:
    void phaseChanged();
    void looked(const zevo::pipeline::LiveFrameResult& look);
    void secondLooked(const zevo::pipeline::LiveFrameResult& look);
    /// A recording ended; the camera goes on.
    void ended(const std::shared_ptr<zevo::record::FilmedSet>& set);
    /// The camera or the recording ended by itself, or could not begin; plain words.
    void trouble(const zevo::Error& error);
    /// How far the virtual client's set is drawn, per cent; 100: they are ready.
    void clientReadiness(int percent);

  private:
    void takeLook(const pipeline::LiveFrameResult& look);
    void react(FilmingSwitch::Event event);
    void begin();
    void end();
    void letGo(std::shared_ptr<pipeline::LiveSession>& held);
    void dropSecond();
    void cameraFailed(bool second, const Error& error);
    void drawClient();
    void setPhase(Phase phase);
    QString newPath(const QString& view) const;
    struct Newest;
    pipeline::LiveSession::OnLook handOver(const std::shared_ptr<Newest>& newest, int opening, bool second);
    static sim::ClientDials otherView(sim::ClientDials dials);

    QString m_folder;
    JobQueue* m_queue;
    std::shared_ptr<pipeline::LiveSession> m_session, m_second;
    /// The sessions' sources, where they are simulated.
    sim::SimulatedCamera *m_simulated = nullptr, *m_simulatedSecond = nullptr;
    sim::ClientDials m_dials;
    std::optional<JobId> m_drawing;
    record::FilmPlan m_plan, m_filmed;  ///< of what comes next; of the recording under way
    FilmingSwitch m_switch;
    Phase m_phase = Phase::Off;
    Begins m_begins = Begins::ByItself;
    QDateTime m_begun;
    QString m_view;
    bool m_beginning = false;   ///< a job begins the recording
    bool m_endWanted = false;   ///< meanwhile it was wished to end
    bool m_firstGone = false;   ///< the first camera failed
    bool m_secondGone = false;  ///< the camera that helps failed during the recording
    int m_opening = 0, m_drawings = 0;
    /// The newest look, handed over by the following thread; shared so that a late one finds it still there.
    struct Newest {
        std::mutex mutex;
        std::optional<pipeline::LiveFrameResult> look;
        bool posted = false;
    };
    std::shared_ptr<Newest> m_newest = std::make_shared<Newest>(), m_newestSecond = std::make_shared<Newest>();
};

}  // namespace zevo::app
