#include "app/parts/stage.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "present/paint/marks.h"

namespace zevo::app {
namespace {

/// A QImage on the fetcher's picture without copying it; the picture lives as long as the image.
QImage wrap(const pipeline::FrameFetcher::Frame& frame) {
    auto* held = new pipeline::FrameFetcher::Frame(frame);
    return {frame->rgb.data(),
            frame->width,
            frame->height,
            frame->width * 3,
            QImage::Format_RGB888,
            [](void* p) { delete static_cast<pipeline::FrameFetcher::Frame*>(p); },
            held};
}

}  // namespace

Stage::Stage(QWidget* parent) : QWidget(parent) {
    setAccessibleName("Video");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    m_clock.setTimerType(Qt::PreciseTimer);
    m_clock.setInterval(15);
    connect(&m_clock, &QTimer::timeout, this, &Stage::tick);
}

Stage::~Stage() {
    m_fetcher.reset();
}

void Stage::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void Stage::open(const QString& path, std::vector<double> times, QSize size, const QString& message) {
    setPlaying(false);
    m_fetcher.reset();
    m_times = std::move(times);
    m_size = size;
    m_message = message;
    m_image = {};
    m_scaled = {};
    m_index = m_shown = 0;
    m_unreadable = false;
    const int opening = ++m_opening;
    if (path.isEmpty() || m_times.empty()) return update();
    auto deliver = [this, opening](std::size_t index, const pipeline::FrameFetcher::Frame& frame) {
        if (!frame) {
            QMetaObject::invokeMethod(
                this,
                [this, opening, index] {
                    if (opening != m_opening || index != m_index) return;
                    m_unreadable = true;
                    update();
                },
                Qt::QueuedConnection);
            return;
        }
        QMetaObject::invokeMethod(
            this,
            [this, opening, index, image = wrap(frame)] {
                if (opening != m_opening) return;
                m_image = image;
                m_scaled = {};
                m_shown = index;
                m_unreadable = false;
                update();
                emit shown();
            },
            Qt::QueuedConnection);
    };
    auto problem = [this, opening](const Error& why) {
        QMetaObject::invokeMethod(
            this,
            [this, opening, why] {
                if (opening != m_opening) return;
                m_message = QString::fromStdString(why.message);
                m_fetcher.reset();  // from here on as without a video
                showFrame(m_index);
            },
            Qt::QueuedConnection);
    };
    m_fetcher = std::make_unique<pipeline::FrameFetcher>(path.toStdString(), m_times, deliver, problem);
    showFrame(0);
}

void Stage::showFrame(std::size_t index) {
    m_index = std::min(index, m_times.empty() ? 0 : m_times.size() - 1);
    if (m_fetcher) m_fetcher->want(m_index);
    emit moved(timeS());
    update();
}

void Stage::goTo(double timeS) {
    if (m_times.empty()) return;
    const auto at = std::lower_bound(m_times.begin(), m_times.end(), timeS - 1e-9);
    std::size_t i = at == m_times.end() ? m_times.size() - 1 : static_cast<std::size_t>(at - m_times.begin());
    if (i > 0 && timeS - m_times[i - 1] < m_times[i] - timeS) --i;
    if (isPlaying()) {
        m_playFrom = m_times[i];
        m_since.restart();
    }
    showFrame(i);
}

void Stage::step(int frames) {
    setPlaying(false);
    const auto last = static_cast<std::ptrdiff_t>(m_times.size()) - 1;
    showFrame(static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(m_index) + frames, 0,
                                                                  std::max<std::ptrdiff_t>(0, last))));
}

void Stage::setPlaying(bool on) {
    if (on == isPlaying() || (on && !m_fetcher)) return;
    if (on) {
        m_playFrom = m_index + 1 >= m_times.size() ? 0 : timeS();
        if (m_looping && (m_playFrom < m_loopFrom || m_playFrom >= m_loopTo)) m_playFrom = m_loopFrom;
        m_since.start();
        m_clock.start();
    } else {
        m_clock.stop();
    }
    emit playingChanged(on);
}

void Stage::setLoop(bool on, double fromS, double toS) {
    m_looping = on;
    m_loopFrom = fromS;
    m_loopTo = toS;
}

void Stage::tick() {
    double now = m_playFrom + m_speed * static_cast<double>(m_since.elapsed()) / 1000;
    if (m_looping && m_loopTo > m_loopFrom && now >= m_loopTo) {
        m_playFrom = now = m_loopFrom;
        m_since.restart();
    } else if (now >= m_times.back()) {
        setPlaying(false);
    }
    const auto next = std::upper_bound(m_times.begin(), m_times.end(), now);
    const auto index = next == m_times.begin() ? 0 : static_cast<std::size_t>(next - m_times.begin()) - 1;
    if (index != m_index) showFrame(index);
}

void Stage::setOverlay(const present::Overlay& overlay, const QString& label) {
    m_overlay = overlay;
    m_label = label;
    update();
}

void Stage::setSkeleton(const present::Overlay& skeleton, bool on) {
    m_skeleton = skeleton;
    m_showSkeleton = on;
    update();
}

void Stage::setSpans(std::vector<present::ReviewPresenter::RepSpan> spans, int current) {
    m_spans = std::move(spans);
    m_currentSpan = current;
    update();
}

void Stage::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = pictureRect();
    if (!m_image.isNull()) {
        if (m_scaled.isNull()) {
            m_scaled = QPixmap::fromImage(
                m_image.scaled(r.size().toSize() * devicePixelRatioF(), Qt::IgnoreAspectRatio, Qt::FastTransformation));
            m_scaled.setDevicePixelRatio(devicePixelRatioF());
        }
        p.drawPixmap(r.topLeft(), m_scaled);
    } else {
        p.setPen(Qt::NoPen);
        p.setBrush(m_theme.sunken);
        p.drawRoundedRect(r, 8, 8);
        p.setPen(m_theme.faint);
        p.setFont(textFont(16));
        p.drawText(r.adjusted(40, 20, -40, -20), Qt::AlignCenter | Qt::TextWordWrap, m_message);
    }
    if (m_unreadable && hasPicture()) {  // else the reason stands there
        p.setPen(Qt::NoPen);
        p.setBrush(QColor(0, 0, 0, 150));
        const QRectF plate = QRectF(r.left(), r.top(), r.width(), 40);
        p.drawRect(plate);
        p.setPen(Qt::white);
        p.setFont(textFont(16, true));
        p.drawText(plate, Qt::AlignCenter,
                   tr("This picture of the clip cannot be read; the last one that could is shown."));
    }
    // Without the video the lines still stand on an empty stage.
    if (!m_times.empty()) {
        drawOverlay(p);
        if (m_scrubShown) drawScrub(p);
    }
}

void Stage::scrubTo(double x) {
    goTo(scrubTime(x));
}

int Stage::handleAt(const QPointF& widget) const {
    constexpr double kReach = 20;
    int nearest = -1;
    double least = kReach;
    for (std::size_t i = 0; i < m_handles.size(); ++i)
        if (const double far = QLineF(toWidget(m_handles[i].at), widget).length(); far < least)
            least = far, nearest = static_cast<int>(i);
    return nearest;
}

void Stage::mousePressEvent(QMouseEvent* e) {
    if (m_times.empty()) return;
    if (m_scrubShown && scrubRect().contains(e->position())) {
        constexpr double kReach = 9;
        if (isCorrecting())
            for (bool start : {true, false})
                if (m_currentSpan >= 0 && std::abs(edgeAt(start).x() - e->position().x()) < kReach) {
                    m_edge = start;
                    return;
                }
        return scrubTo(e->position().x());
    }
    switch (m_tool) {
        case Tool::Points:
            m_dragged = handleAt(e->position());
            if (m_dragged >= 0) setPlaying(false);
            break;
        case Tool::Length: m_length = QLineF(toPicture(e->position()), toPicture(e->position())); break;
        case Tool::Mark:
            m_cross = toPicture(e->position());
            takeCross();
            break;
        case Tool::Person: emit personClicked(toPicture(e->position())); break;
        case Tool::Play: setPlaying(!isPlaying()); break;
        case Tool::None: break;
    }
}

void Stage::mouseMoveEvent(QMouseEvent* e) {
    if (m_times.empty() || !(e->buttons() & Qt::LeftButton)) return;
    if (m_edge) return emit edgeDragged(*m_edge, scrubTime(e->position().x()), false);
    if (m_length) {
        m_length->setP2(toPicture(e->position()));
        return update();
    }
    if (m_dragged >= 0) {
        Handle& handle = m_handles[static_cast<std::size_t>(m_dragged)];
        handle.at = toPicture(e->position());
        handle.corrected = true;
        update();
        return emit pointDragged(handle.id, handle.at, false);
    }
    if (m_scrubShown && e->position().y() > scrubRect().top() - 30) scrubTo(e->position().x());
}

void Stage::mouseReleaseEvent(QMouseEvent* e) {
    if (m_edge) {
        const bool start = *m_edge;
        m_edge.reset();
        return emit edgeDragged(start, scrubTime(e->position().x()), true);
    }
    if (m_length) {
        emit lengthDrawn(*m_length);
        return;
    }
    if (m_dragged >= 0) {
        const Handle handle = m_handles[static_cast<std::size_t>(m_dragged)];
        m_dragged = -1;
        emit pointDragged(handle.id, handle.at, true);
    }
}

void Stage::resizeEvent(QResizeEvent*) {
    m_scaled = {};
}

}  // namespace zevo::app
