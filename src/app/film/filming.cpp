#include "app/film/filming.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QPointer>

#include "app/film/recordings.h"
#include "catalog/data_files.h"

namespace zevo::app {
namespace {

/// Often enough to see whether it stands right.
constexpr double kSecondEveryS = 0.3;

}  // namespace

SetContext FilmPlan::context() const {
    const Movement* movement = catalogue->movement(facts.movement);
    return contextOf(facts, movement ? *movement : catalogue->movements.front());
}

Filming::Filming(QString libraryFolder, JobQueue* queue, QObject* parent)
    : QObject(parent), m_folder(std::move(libraryFolder)), m_queue(queue) {}

Filming::~Filming() {
    close();
}

void Filming::setPhase(Phase phase) {
    if (phase == m_phase) return;
    m_phase = phase;
    emit phaseChanged();
}

const media::SourceFacts* Filming::cameraFacts() const {
    return m_session ? &m_session->facts() : nullptr;
}

pipeline::LiveCounts Filming::counts() const {
    return m_session ? m_session->counts() : pipeline::LiveCounts();
}

double Filming::countInLeftS() const {
    return m_switch.countInLeftS(media::steadySeconds());
}

bool Filming::isClientReady() const {
    return !m_simulated || m_simulated->hasSet();
}

void Filming::close() {
    ++m_opening;
    if (m_drawing) m_queue->stop(*m_drawing);
    m_drawing.reset();
    m_switch.disarm();
    m_simulated = m_simulatedSecond = nullptr;
    for (const auto& newest : {m_newest, m_newestSecond}) {
        const std::lock_guard lock(newest->mutex);
        newest->look.reset();
    }
    // Its threads end elsewhere: a camera may take its time to close.
    for (auto* held : {&m_session, &m_second})
        if (auto session = std::exchange(*held, nullptr))
            m_queue->add(
                tr("Closing the camera"), JobQueue::Priority::Now,
                [session = std::move(session)](const auto&, const auto&) mutable -> Result<void> {
                    session.reset();
                    return {};
                },
                [](const Result<void>&) {});
    setPhase(Phase::Off);
}

pipeline::LiveSession::OnLook Filming::handOver(const std::shared_ptr<Newest>& newest, int opening, bool second) {
    return [newest, self = QPointer<Filming>(this), opening, second](pipeline::LiveLook&& look) {
        const std::lock_guard lock(newest->mutex);
        newest->look = std::move(look);
        if (std::exchange(newest->posted, true)) return;
        QMetaObject::invokeMethod(
            qApp,
            [newest, self, opening, second] {
                std::optional<pipeline::LiveLook> taken;
                {
                    const std::lock_guard again(newest->mutex);
                    newest->posted = false;
                    taken.swap(newest->look);
                }
                if (!taken || !self || opening != self->m_opening) return;
                second ? emit self->secondLooked(*taken) : self->takeLook(*taken);
            },
            Qt::QueuedConnection);
    };
}

sim::ClientDials Filming::otherView(sim::ClientDials dials) {
    dials.front = !dials.front;
    // Its own place: what is wrong with the first camera is not wrong with this one.
    const double height = dials.camera.heightM;
    dials.camera = {};
    dials.camera.heightM = std::max(0.5, height);
    return dials;
}

void Filming::open(const pipeline::CameraChoice& camera, const std::optional<pipeline::CameraChoice>& second,
                   const QString& model) {
    close();
    const int opening = ++m_opening;
    setPhase(Phase::Opening);
    struct Opened {
        std::shared_ptr<pipeline::LiveSession> session, second;
        sim::SimulatedCamera *simulated = nullptr, *simulatedSecond = nullptr;
    };
    auto opened = std::make_shared<Opened>();
    const QPointer<Filming> self(this);
    auto onLook = handOver(m_newest, opening, false), onSecond = handOver(m_newestSecond, opening, true);
    auto onTrouble = [self, opening](const Error& error) {
        QMetaObject::invokeMethod(
            qApp,
            [self, opening, error] {
                if (!self || opening != self->m_opening) return;
                emit self->trouble(error);
                if (self->m_phase == Phase::Filming)
                    self->end();
                else
                    self->close();
            },
            Qt::QueuedConnection);
    };
    m_queue->add(
        tr("Opening the camera"), JobQueue::Priority::Now,
        [opened, camera, second, model, dials = m_dials, folder = QDir(m_folder).filePath("simulated").toStdString(),
         onLook, onSecond, onTrouble](const auto& cancel, const auto&) -> Result<void> {
            pipeline::LiveSession::Options options;
            options.modelDir = catalog::modelDir();
            if (const auto size = pose::modelSizeFromName(model.toStdString())) options.model = *size;
            auto start = [&](const pipeline::CameraChoice& which, const sim::ClientDials& theirs,
                             sim::SimulatedCamera*& simulated,
                             const auto& look) -> Result<std::unique_ptr<pipeline::LiveSession>> {
                std::unique_ptr<media::LiveSource> source;
                if (which.id == "simulated") {
                    auto rest = pipeline::drawnRest(theirs, folder, cancel);
                    if (!rest) return rest.error();
                    auto made = sim::SimulatedCamera::open(*rest);
                    if (!made) return made.error();
                    simulated = made->get();
                    source = std::move(*made);
                } else {
                    auto made = media::openCamera(which.device, which.mode);
                    if (!made) return made.error();
                    source = std::move(*made);
                }
                return pipeline::LiveSession::start(std::move(source), options, look, onTrouble);
            };
            auto session = start(camera, dials, opened->simulated, onLook);
            if (!session) return session.error();
            opened->session = std::move(*session);
            if (!second) return {};
            options.followEveryS = kSecondEveryS;
            auto other = start(*second, otherView(dials), opened->simulatedSecond, onSecond);
            if (!other) return other.error();
            opened->second = std::move(*other);
            return {};
        },
        [this, self, opened, opening](const Result<void>& done) {
            if (!self || opening != m_opening) return;
            if (!done) {
                setPhase(Phase::Off);
                emit trouble(done.error());
                return;
            }
            m_session = opened->session;
            m_simulated = opened->simulated;
            m_second = opened->second;
            m_simulatedSecond = opened->simulatedSecond;
            if (m_plan.catalogue) setPlan(m_plan);
            setPhase(Phase::Watching);
            if (m_simulated) drawClient();
        });
}

void Filming::setPlan(const FilmPlan& plan) {
    m_plan = plan;
    const Movement* movement = plan.catalogue->movement(plan.facts.movement);
    for (const auto& session : {m_session, m_second})
        if (session && movement) session->setMovement(checkedMovement(*movement, plan.facts.variation));
}

void Filming::arm(bool afresh) {
    m_switch.arm(afresh);
    if (m_phase == Phase::CountingIn) setPhase(Phase::Watching);
}

void Filming::press() {
    if (m_phase == Phase::Off || m_phase == Phase::Opening || m_phase == Phase::Ending) return;
    if (m_phase == Phase::Watching && !isClientReady()) return;
    react(m_switch.pressed(media::steadySeconds()));
}

void Filming::takeLook(const pipeline::LiveLook& look) {
    if (!m_session) return;
    m_view = QString::fromStdString(viewName(look.check.view));
    if (isClientReady() || m_phase == Phase::Filming)
        react(m_switch.add(look.timeS, {look.thereS, look.stillS, look.handUpS, look.goneS,
                                        look.set.reps + look.set.partial, look.set.atRest, look.check.good()}));
    emit looked(look);
}

void Filming::react(FilmingSwitch::Event event) {
    switch (event) {
        case FilmingSwitch::Event::None: break;
        case FilmingSwitch::Event::CountingIn: setPhase(Phase::CountingIn); break;
        case FilmingSwitch::Event::Calling: setPhase(Phase::Watching); break;
        case FilmingSwitch::Event::Begin: begin(); break;
        case FilmingSwitch::Event::End: end(); break;
    }
}

QString Filming::newPath(const QString& view) const {
    // Date, client's number, movement, view: no names on the disk.
    return QDir(m_folder).filePath(QString("recordings/%1_client-%2_%3_%4.mkv")
                                       .arg(m_begun.toString("yyyy-MM-dd_HHmmss"))
                                       .arg(static_cast<qlonglong>(m_plan.client.id))
                                       .arg(QString::fromStdString(m_plan.facts.movement), view));
}

void Filming::begin() {
    m_begun = QDateTime::currentDateTime();
    m_path = newPath(m_view);
    m_secondPath = newPath("second");
    QDir().mkpath(QFileInfo(m_path).path());
    auto begun = noteRecording(m_path, m_plan);
    if (begun)
        begun = m_session->film(m_path.toStdString(), m_begun.toUTC().toString(Qt::ISODate).toStdString(),
                                m_plan.context());
    // Without the second one the set is filmed all the same.
    if (begun && m_second) {
        auto also = noteRecording(m_secondPath, m_plan);
        if (also)
            also = m_second->film(m_secondPath.toStdString(), m_begun.toUTC().toString(Qt::ISODate).toStdString(),
                                  m_plan.context());
        if (!also) {
            forgetRecording(m_secondPath);
            emit trouble(also.error());
        }
    }
    if (!begun) {
        forgetRecording(m_path);
        m_switch.disarm();
        setPhase(Phase::Watching);
        emit trouble(begun.error());
        return;
    }
    setPhase(Phase::Filming);
    for (auto* simulated : {m_simulated, m_simulatedSecond})
        if (simulated) simulated->begin();
}

void Filming::end() {
    setPhase(Phase::Ending);
    auto set = std::make_shared<FilmedSet>();
    set->plan = m_plan;
    set->reason = m_switch.reason();
    set->begun = m_begun;
    m_queue->add(
        tr("Closing the recording"), JobQueue::Priority::Now,
        [session = m_session, second = m_second, set](const auto&, const auto&) -> Result<void> {
            auto filmed = session->endFilming();
            if (!filmed) return filmed.error();
            set->filmed = std::move(*filmed);
            if (second && second->isFilming())
                if (auto other = second->endFilming()) set->second = std::move(*other);
            return {};
        },
        [this, self = QPointer<Filming>(this), set](const Result<void>& done) {
            if (!self) return;
            if (m_phase == Phase::Ending) setPhase(Phase::Watching);
            if (!done) {
                emit trouble(done.error());
                return;
            }
            emit ended(set);
            // Unplugged, or no room: the camera is switched on again by a key.
            if (set->filmed.broken) close();
        });
}

void Filming::setDials(const sim::ClientDials& dials) {
    if (dials == m_dials) return;
    m_dials = dials;
    if (m_simulated) drawClient();
}

void Filming::drawClient() {
    if (m_drawing) m_queue->stop(*m_drawing);
    const int drawing = ++m_drawings;
    m_simulated->setSet({});
    if (m_simulatedSecond) m_simulatedSecond->setSet({});
    emit clientReadiness(0);
    struct Drawn {
        std::string rest, set, otherSet;
    };
    auto drawn = std::make_shared<Drawn>();
    const QPointer<Filming> self(this);
    auto still = [this, self, drawing] { return self && drawing == m_drawings && m_simulated; };
    const std::string folder = QDir(m_folder).filePath("simulated").toStdString();
    m_queue->add(
        tr("The camera is being moved"), JobQueue::Priority::Now,
        [drawn, dials = m_dials, folder](const auto& cancel, const auto&) -> Result<void> {
            auto rest = pipeline::drawnRest(dials, folder, cancel);
            if (!rest) return rest.error();
            drawn->rest = *rest;
            return {};
        },
        [this, still, drawn](const Result<void>& done) {
            if (still() && done) m_simulated->setRest(drawn->rest);
        });
    m_drawing = m_queue->add(
        tr("The virtual client gets ready"), JobQueue::Priority::Normal,
        [drawn, dials = m_dials, folder, self, drawing, both = m_simulatedSecond != nullptr](
            const auto& cancel, const auto& progress) -> Result<void> {
            if (both) {
                auto other = pipeline::drawnSet(otherView(dials), folder, cancel, progress);
                if (!other) return other.error();
                drawn->otherSet = *other;
            }
            auto set = pipeline::drawnSet(dials, folder, cancel, [&](const pipeline::Progress& p) {
                progress(p);
                const int percent = static_cast<int>(100 * p.framesDone / std::max(1L, p.framesInAll));
                QMetaObject::invokeMethod(
                    qApp,
                    [self, drawing, percent] {
                        if (self && drawing == self->m_drawings) emit self->clientReadiness(std::min(99, percent));
                    },
                    Qt::QueuedConnection);
            });
            if (!set) return set.error();
            drawn->set = *set;
            return {};
        },
        [this, still, drawn](const Result<void>& done) {
            if (!still()) return;
            m_drawing.reset();
            if (!done) {
                emit trouble(done.error());
                return;
            }
            m_simulated->setSet(drawn->set);
            if (m_simulatedSecond) m_simulatedSecond->setSet(drawn->otherSet);
            emit clientReadiness(100);
        });
}

void Filming::unplug() {
    if (m_simulated) m_simulated->unplug();
}

}  // namespace zevo::app
