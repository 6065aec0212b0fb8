#include "app/review/stage.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/theme/marks.h"

namespace zevo::app {
namespace {

constexpr double kScrubHeight = 34;

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
    auto fetcher = pipeline::FrameFetcher::open(path.toStdString(), m_times, deliver);
    if (fetcher)
        m_fetcher = std::move(*fetcher);
    else
        m_message = QString::fromStdString(fetcher.error().message);
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

QRectF Stage::scrubRect() const {
    return {8, height() - kScrubHeight, width() - 16.0, kScrubHeight};
}

QRectF Stage::pictureRect() const {
    const QRectF room(0, 0, width(), height() - kScrubHeight - 4);
    const QSizeF fit = QSizeF(m_size.isEmpty() ? QSize(16, 9) : m_size).scaled(room.size(), Qt::KeepAspectRatio);
    return {room.center().x() - fit.width() / 2, room.top(), fit.width(), fit.height()};
}

void Stage::drawOverlay(QPainter& p) const {
    const QRectF r = pictureRect();
    const double k = r.width() / std::max(1, m_size.width());
    auto place = [&](const QPointF& q) { return r.topLeft() + q * k; };
    auto strokes = [&](const std::vector<QLineF>& lines, const QColor& colour, double width, Qt::PenStyle style) {
        for (const auto& l : lines) {
            p.setPen(QPen(QColor(0, 0, 0, 150), width + 2.5, Qt::SolidLine, Qt::RoundCap));
            if (style == Qt::SolidLine) p.drawLine(place(l.p1()), place(l.p2()));
            p.setPen(QPen(colour, width, style, Qt::RoundCap));
            p.drawLine(place(l.p1()), place(l.p2()));
        }
    };
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    if (m_showSkeleton) {
        strokes(m_skeleton.ghosts, QColor(255, 255, 255, 150), 1.6, Qt::DashLine);
        strokes(m_skeleton.lines, QColor(255, 255, 255, 210), 1.8, Qt::SolidLine);
    }
    strokes(m_overlay.ghosts, m_theme.ghost, 3, Qt::DotLine);
    if (m_overlay.arc && std::abs(m_overlay.arc->spanDeg) > 1) {
        const QPointF c = place(m_overlay.arc->centre);
        const double radius = 34;
        p.setBrush(QColor(255, 255, 255, 60));
        p.setPen(QPen(Qt::white, 1.5));
        p.drawPie(QRectF(c.x() - radius, c.y() - radius, 2 * radius, 2 * radius),
                  static_cast<int>(m_overlay.arc->fromDeg * 16), static_cast<int>(m_overlay.arc->spanDeg * 16));
    }
    strokes(m_overlay.lines, Qt::white, 4, Qt::SolidLine);
    for (const auto& d : m_overlay.dots) {
        p.setPen(QPen(QColor(0, 0, 0, 170), 1.5));
        p.setBrush(Qt::white);
        p.drawEllipse(place(d), 5, 5);
    }
    if (!m_label.isEmpty())
        drawHaloText(p, place(m_overlay.label) + QPointF(16, -12), m_label, textFont(22, true), Qt::white,
                     QColor(0, 0, 0, 190));
    p.restore();
}

void Stage::drawScrub(QPainter& p) const {
    const QRectF bar = scrubRect();
    const double from = m_times.front(), length = std::max(1e-3, m_times.back() - from);
    auto x = [&](double t) { return bar.left() + (t - from) / length * bar.width(); };
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.sunken);
    p.drawRoundedRect(QRectF(bar.left(), bar.center().y() - 4, bar.width(), 8), 4, 4);
    p.setFont(textFont(11, true));
    for (std::size_t i = 0; i < m_spans.size(); ++i) {
        const bool current = static_cast<int>(i) == m_currentSpan;
        const QRectF span(x(m_spans[i].startS), bar.center().y() - (current ? 8 : 5),
                          std::max(3.0, x(m_spans[i].endS) - x(m_spans[i].startS)), current ? 16 : 10);
        p.setPen(Qt::NoPen);
        p.setBrush(current ? m_theme.accent : m_theme.line);
        p.drawRoundedRect(span, 5, 5);
        p.setPen(current ? m_theme.onAccent : m_theme.ink);
        if (span.width() > 18)
            p.drawText(span.adjusted(0, -4, 0, 4), Qt::AlignCenter, QString::number(m_spans[i].number));
    }
    p.setPen(QPen(m_theme.panel, 5));
    p.drawLine(QPointF(x(timeS()), bar.top() + 3), QPointF(x(timeS()), bar.bottom() - 3));
    p.setPen(QPen(m_theme.ink, 2.5, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(QPointF(x(timeS()), bar.top() + 4), QPointF(x(timeS()), bar.bottom() - 4));
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
    if (m_unreadable) {
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
        drawScrub(p);
    }
}

void Stage::scrubTo(double x) {
    const QRectF bar = scrubRect();
    const double share = std::clamp((x - bar.left()) / bar.width(), 0.0, 1.0);
    goTo(m_times.front() + share * (m_times.back() - m_times.front()));
}

void Stage::mousePressEvent(QMouseEvent* e) {
    if (m_times.empty()) return;
    if (scrubRect().contains(e->position()))
        scrubTo(e->position().x());
    else
        setPlaying(!isPlaying());
}

void Stage::mouseMoveEvent(QMouseEvent* e) {
    if (!m_times.empty() && (e->buttons() & Qt::LeftButton) && e->position().y() > scrubRect().top() - 30)
        scrubTo(e->position().x());
}

void Stage::resizeEvent(QResizeEvent*) {
    m_scaled = {};
}

}  // namespace zevo::app
