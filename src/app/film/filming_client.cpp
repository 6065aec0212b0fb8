// The virtual client before the simulated camera: drawn by jobs, anew whenever a dial is turned.
#include <QCoreApplication>
#include <QDir>
#include <QPointer>

#include "app/film/filming.h"
#include "pipeline/virtual_client.h"

namespace zevo::app {

sim::ClientDials Filming::otherView(sim::ClientDials dials) {
    dials.front = !dials.front;
    // Its own place: what is wrong with the first camera is not wrong with this one.
    const double height = dials.camera.heightM;
    dials.camera = {};
    dials.camera.heightM = std::max(0.5, height);
    return dials;
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

void Filming::unplug(bool second) {
    if (auto* simulated = second ? m_simulatedSecond : m_simulated) simulated->unplug();
}

}  // namespace zevo::app
