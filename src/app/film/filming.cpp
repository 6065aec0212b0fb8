#include "app/film/filming.h"

#include <QDateTime>
#include <QDir>
#include <QPointer>

#include "catalog/data_files.h"
#include "present/words.h"

namespace zevo::app {
namespace {

/// Often enough to see whether it stands right.
constexpr double kSecondEveryS = 0.3;

}  // namespace

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

/// A session's threads end in a job: a camera may take its time to close.
void Filming::letGo(std::shared_ptr<pipeline::LiveSession>& held) {
    if (auto session = std::exchange(held, nullptr))
        m_queue->add(
            tr("Closing the camera"), JobQueue::Priority::Now,
            [session = std::move(session)](const auto&, const auto&) mutable -> Result<void> {
                session.reset();
                return {};
            },
            [](const Result<void>&) {});
}

void Filming::dropSecond() {
    m_secondGone = false;
    m_simulatedSecond = nullptr;
    letGo(m_second);
}

/// The first camera ends the recording, or the filming; the one that helps ends nothing but itself.
void Filming::cameraFailed(bool second, const Error& error) {
    if (second) {
        emit trouble({tr("The second camera: %1").arg(present::sentence(error)).toStdString(), error.detail});
        // What it filmed until now is closed with the set.
        if (m_phase == Phase::Filming || m_phase == Phase::Ending || m_beginning)
            m_secondGone = true;
        else
            dropSecond();
        return;
    }
    emit trouble(error);
    m_firstGone = true;
    if (m_phase == Phase::Filming || m_beginning)
        end();
    else if (m_phase != Phase::Ending)
        close();
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
    letGo(m_session);
    letGo(m_second);
    m_beginning = m_endWanted = m_firstGone = m_secondGone = false;
    setPhase(Phase::Off);
}

pipeline::LiveSession::OnLook Filming::handOver(const std::shared_ptr<Newest>& newest, int opening, bool second) {
    return [newest, self = QPointer<Filming>(this), opening, second](pipeline::LiveFrameResult&& look) {
        const std::lock_guard lock(newest->mutex);
        newest->look = std::move(look);
        if (std::exchange(newest->posted, true)) return;
        QMetaObject::invokeMethod(
            qApp,
            [newest, self, opening, second] {
                std::optional<pipeline::LiveFrameResult> taken;
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

void Filming::open(const pipeline::CameraChoice& camera, const std::optional<pipeline::CameraChoice>& second,
                   const QString& model) {
    close();
    const int opening = ++m_opening;
    setPhase(Phase::Opening);
    struct Opened {
        std::shared_ptr<pipeline::LiveSession> session, second;
        sim::SimulatedCamera *simulated = nullptr, *simulatedSecond = nullptr;
        std::optional<Error> secondRefused;
    };
    auto opened = std::make_shared<Opened>();
    const QPointer<Filming> self(this);
    auto onLook = handOver(m_newest, opening, false), onSecond = handOver(m_newestSecond, opening, true);
    auto troubleOf = [self, opening](bool second) {
        return [self, opening, second](const Error& error) {
            QMetaObject::invokeMethod(
                qApp,
                [self, opening, second, error] {
                    if (self && opening == self->m_opening) self->cameraFailed(second, error);
                },
                Qt::QueuedConnection);
        };
    };
    m_queue->add(
        tr("Opening the camera"), JobQueue::Priority::Now,
        [opened, camera, second, model, dials = m_dials, folder = QDir(m_folder).filePath("simulated").toStdString(),
         onLook, onSecond, troubleOf](const auto& cancel, const auto&) -> Result<void> {
            pipeline::LiveSession::Options options;
            options.modelDir = catalog::modelDir();
            if (const auto size = pose::modelSizeFromName(model.toStdString())) options.model = *size;
            auto start = [&](const pipeline::CameraChoice& which, const sim::ClientDials& theirs,
                             sim::SimulatedCamera*& simulated, const auto& look,
                             bool helps) -> Result<std::unique_ptr<pipeline::LiveSession>> {
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
                return pipeline::LiveSession::start(std::move(source), options, look, troubleOf(helps));
            };
            auto session = start(camera, dials, opened->simulated, onLook, false);
            if (!session) return session.error();
            opened->session = std::move(*session);
            if (!second) return {};
            options.followEveryS = kSecondEveryS;
            auto other = start(*second, otherView(dials), opened->simulatedSecond, onSecond, true);
            // It helps; without it the first one films all the same.
            if (other)
                opened->second = std::move(*other);
            else
                opened->secondRefused = other.error(), opened->simulatedSecond = nullptr;
            return {};
        },
        [this, self, opened, opening](const Result<void>& done) {
            if (!self) return;
            if (opening != m_opening) {  // another one is wanted by now
                letGo(opened->session);
                letGo(opened->second);
                return;
            }
            if (!done) {
                setPhase(Phase::Off);
                emit trouble(done.error());
                return;
            }
            m_session = opened->session;
            m_simulated = opened->simulated;
            m_second = opened->second;
            m_simulatedSecond = opened->simulatedSecond;
            if (opened->secondRefused) emit trouble(*opened->secondRefused);
            if (m_plan.catalogue) setPlan(m_plan);
            setPhase(Phase::Watching);
            if (m_simulated) drawClient();
        });
}

void Filming::setPlan(const record::FilmPlan& plan) {
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
    if (m_phase == Phase::Watching && (!isClientReady() || m_begins == Begins::Not)) return;
    react(m_switch.pressed(media::steadySeconds()));
}

void Filming::takeLook(const pipeline::LiveFrameResult& look) {
    if (!m_session) return;
    m_view = QString::fromStdString(viewName(look.check.view));
    if (isClientReady() || m_phase == Phase::Filming)
        react(m_switch.add(look.timeS,
                           {look.thereS, look.stillS, look.handUpS, look.goneS, look.set.reps + look.set.partial,
                            look.set.atRest, look.check.good() && m_begins == Begins::ByItself}));
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
    // Date, the beginning of the client's id, movement, view: no names on the disk.
    return QDir(m_folder).filePath(QString("recordings/%1_client-%2_%3_%4.mkv")
                                       .arg(m_begun.toString("yyyy-MM-dd_HHmmss"), m_plan.client.id.text().left(8),
                                            QString::fromStdString(m_plan.facts.movement), view));
}

/// The disk and the following thread are waited for in a job: what is before the start is in the ring, so that nothing
/// is missed meanwhile.
void Filming::begin() {
    m_begun = QDateTime::currentDateTime();
    m_filmed = m_plan;
    m_beginning = true;
    m_endWanted = false;
    struct Begun {
        std::optional<Error> second;
    };
    auto result = std::make_shared<Begun>();
    m_queue->add(
        tr("Starting the recording"), JobQueue::Priority::Now,
        [session = m_session, second = m_second, path = newPath(m_view), secondPath = newPath("second"),
         folder = m_folder, plan = m_plan, begun = m_begun, result](const auto&, const auto&) -> Result<void> {
            if (auto done = record::beginRecording(folder, *session, path, plan, begun); !done) return done;
            // Without the second one the set is filmed all the same.
            if (second)
                if (auto also = record::beginRecording(folder, *second, secondPath, plan, begun); !also)
                    result->second = also.error();
            return {};
        },
        [this, self = QPointer<Filming>(this), opening = m_opening, result](const Result<void>& done) {
            if (!self || opening != m_opening) return;  // closed meanwhile: its file has got its end
            m_beginning = false;
            if (!done) {
                m_switch.disarm();
                m_endWanted = false;
                setPhase(Phase::Watching);
                emit trouble(done.error());
                if (m_firstGone) close();
                return;
            }
            setPhase(Phase::Filming);
            if (result->second) emit trouble(*result->second);
            for (auto* simulated : {m_simulated, m_simulatedSecond})
                if (simulated) simulated->begin();
            if (std::exchange(m_endWanted, false)) end();
        });
}

void Filming::end() {
    if (m_beginning) {
        m_endWanted = true;
        return;
    }
    if (m_phase != Phase::Filming) return;  // it has been ended already
    setPhase(Phase::Ending);
    auto set = std::make_shared<record::FilmedSet>();
    set->plan = m_filmed;
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
            if (set->filmed.broken || m_firstGone)
                close();
            else if (m_secondGone)
                dropSecond();
        });
}

}  // namespace zevo::app
