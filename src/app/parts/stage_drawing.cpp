// What lies over the picture: measured lines, the number on its plate, points to be dragged, the bar of time.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/parts/stage.h"
#include "app/theme/marks.h"

namespace zevo::app {
namespace {

constexpr double kScrubHeight = 34;
const QColor kShade(0, 0, 0, 150), kPlate(18, 22, 24, 215);

}  // namespace

void Stage::setTool(Tool tool) {
    m_tool = tool;
    m_dragged = -1;
    m_length.reset();
    if (tool == Tool::Mark && m_cross.isNull()) m_cross = QPointF(m_size.width() / 2.0, m_size.height() / 2.0);
    setCursor(tool == Tool::Length || tool == Tool::Person || tool == Tool::Mark ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
}

void Stage::setHandles(std::vector<Handle> handles, int current) {
    if (m_dragged >= 0) return;  // what the hand holds stays where the hand is
    m_handles = std::move(handles);
    m_handle = current;
    update();
}

void Stage::setBody(const QRectF& body) {
    m_body = body;
}

void Stage::setNotes(std::vector<double> momentsS, const QString& here) {
    m_noteMoments = std::move(momentsS);
    m_note = here;
    update();
}

void Stage::setMarks(std::vector<MarkShown> marks, std::vector<Span> gaps) {
    m_marks = std::move(marks), m_gaps = std::move(gaps);
    update();
}

void Stage::moveCross(const QPointF& by) {
    const QPointF at = m_cross + by;
    m_cross = {std::clamp(at.x(), 0.0, m_size.width() - 1.0), std::clamp(at.y(), 0.0, m_size.height() - 1.0)};
    update();
}

void Stage::takeCross() {
    if (m_tool != Tool::Mark) return;
    emit markClicked(m_cross);
    update();
}

void Stage::setGhost(const present::Overlay& ghost) {
    m_ghost = ghost;
    update();
}

void Stage::setScrubShown(bool shown) {
    m_scrubShown = shown;
    m_scaled = {};
    update();
}

double Stage::scrubHeight() const {
    return m_scrubShown ? kScrubHeight : 0;
}

QRectF Stage::scrubRect() const {
    return {8, height() - kScrubHeight, width() - 16.0, kScrubHeight};
}

QRectF Stage::pictureRect() const {
    const QRectF room(0, 0, width(), height() - scrubHeight() - 4);
    const QSizeF fit = QSizeF(m_size.isEmpty() ? QSize(16, 9) : m_size).scaled(room.size(), Qt::KeepAspectRatio);
    return {room.center().x() - fit.width() / 2, room.top(), fit.width(), fit.height()};
}

QPointF Stage::toWidget(const QPointF& picture) const {
    const QRectF r = pictureRect();
    return r.topLeft() + picture * (r.width() / std::max(1, m_size.width()));
}

QPointF Stage::toPicture(const QPointF& widget) const {
    const QRectF r = pictureRect();
    return (widget - r.topLeft()) * (std::max(1, m_size.width()) / std::max(1.0, r.width()));
}

double Stage::scrubX(double timeS) const {
    const QRectF bar = scrubRect();
    const double from = m_times.front(), length = std::max(1e-3, m_times.back() - from);
    return bar.left() + (timeS - from) / length * bar.width();
}

double Stage::scrubTime(double x) const {
    const QRectF bar = scrubRect();
    const double share = std::clamp((x - bar.left()) / bar.width(), 0.0, 1.0);
    return m_times.front() + share * (m_times.back() - m_times.front());
}

QPointF Stage::edgeAt(bool start) const {
    if (m_currentSpan < 0 || m_currentSpan >= static_cast<int>(m_spans.size())) return {};
    const auto& span = m_spans[static_cast<std::size_t>(m_currentSpan)];
    return {scrubX(start ? span.startS : span.endS), scrubRect().center().y()};
}

void Stage::drawOverlay(QPainter& p) const {
    auto strokes = [&](const std::vector<QLineF>& lines, const QColor& colour, double width, Qt::PenStyle style) {
        // All shades lie under all lines, so that a curve of many pieces is one line.
        if (style == Qt::SolidLine) {
            p.setPen(QPen(kShade, width + 2.5, Qt::SolidLine, Qt::RoundCap));
            for (const auto& l : lines) p.drawLine(toWidget(l.p1()), toWidget(l.p2()));
        }
        p.setPen(QPen(colour, width, style, Qt::RoundCap));
        for (const auto& l : lines) p.drawLine(toWidget(l.p1()), toWidget(l.p2()));
    };
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    strokes(m_ghost.ghosts, m_theme.ghost, 1.6, Qt::DashLine);
    strokes(m_ghost.lines, m_theme.ghost, 3, Qt::SolidLine);
    if (m_showSkeleton) {
        strokes(m_skeleton.ghosts, QColor(255, 255, 255, 150), 1.6, Qt::DashLine);
        strokes(m_skeleton.lines, QColor(255, 255, 255, 210), 1.8, Qt::SolidLine);
    }
    strokes(m_overlay.ghosts, m_theme.ghost, 3, Qt::DotLine);
    if (m_overlay.arc && std::abs(m_overlay.arc->spanDeg) > 1) {
        const QPointF c = toWidget(m_overlay.arc->centre);
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
        p.drawEllipse(toWidget(d), 5, 5);
    }
    drawPlate(p);
    drawMarks(p);
    if (isCorrecting() && m_tool != Tool::Mark) drawHandles(p);
    if (!m_note.isEmpty()) {
        const QRectF r = pictureRect();
        p.setFont(textFont(15));
        const QRectF text = QRectF(
            p.fontMetrics().boundingRect(QRect(0, 0, static_cast<int>(r.width()) - 40, 400), Qt::TextWordWrap, m_note));
        const QRectF plate(r.left() + 8, r.bottom() - text.height() - 22, text.width() + 24, text.height() + 14);
        p.setPen(Qt::NoPen);
        p.setBrush(kPlate);
        p.drawRoundedRect(plate, 8, 8);
        p.setPen(Qt::white);
        p.drawText(plate.adjusted(12, 7, -12, -7), Qt::AlignLeft | Qt::TextWordWrap, m_note);
    }
    p.restore();
}

/// Beside the body over the whole repetition, on the side with more room, so that it neither covers what it speaks of
/// nor runs about while the picture plays; a thin line leads from it to the joint.
QRectF Stage::plateRect() const {
    if (m_label.isEmpty()) return {};
    const QRectF r = pictureRect();
    const QFontMetricsF metrics(textFont(22, true));
    const QSizeF size(metrics.horizontalAdvance(m_label) + 24, metrics.height() + 8);
    const QPointF joint = toWidget(m_overlay.label);
    if (m_body.isEmpty()) return {joint + QPointF(16, -size.height()), size};
    const QRectF body(toWidget(m_body.topLeft()), toWidget(m_body.bottomRight()));
    constexpr double kApart = 14;
    const bool right = r.right() - body.right() >= body.left() - r.left();
    double x = right ? body.right() + kApart : body.left() - kApart - size.width();
    x = std::clamp(x, r.left() + 6, std::max(r.left() + 6, r.right() - size.width() - 6));
    const double y = std::clamp(body.center().y() - size.height() / 2, r.top() + 6, r.bottom() - size.height() - 6);
    return {QPointF(x, y), size};
}

void Stage::drawPlate(QPainter& p) const {
    const QRectF plate = plateRect();
    if (plate.isEmpty()) return;
    // To the joint it speaks of, the nearest of them.
    QPointF joint = toWidget(m_overlay.label);
    double nearest = 1e9;
    for (const QPointF& dot : m_overlay.dots)
        if (const double far = QLineF(toWidget(dot), plate.center()).length(); far < nearest)
            nearest = far, joint = toWidget(dot);
    const QPointF from(joint.x() < plate.center().x() ? plate.left() : plate.right(), plate.center().y());
    p.setPen(QPen(QColor(255, 255, 255, 190), 1.4, Qt::DashLine));
    p.drawLine(from, joint);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRoundedRect(plate, 8, 8);
    p.setPen(Qt::white);
    p.setFont(textFont(22, true));
    p.drawText(plate, Qt::AlignCenter, m_label);
}

/// A ring to be dragged; a square where the coach has put it, so that a correction stays visible by its shape.
void Stage::drawHandles(QPainter& p) const {
    for (std::size_t i = 0; i < m_handles.size(); ++i) {
        const Handle& h = m_handles[i];
        const bool current = static_cast<int>(i) == m_handle || static_cast<int>(i) == m_dragged;
        const QPointF at = toWidget(h.at);
        const double size = current ? 9 : 6;
        for (const auto& pen : {QPen(kShade, 4.5), QPen(current ? m_theme.ghost : QColor(Qt::white), 2)}) {
            p.setPen(pen);
            p.setBrush(Qt::NoBrush);
            if (h.corrected)
                p.drawRect(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size));
            else
                p.drawEllipse(at, size, size);
        }
        if (current) drawHaloText(p, at + QPointF(14, -8), h.name, textFont(15, true), Qt::white, kPlate);
    }
    if (m_length) {
        p.setPen(QPen(kShade, 6, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(toWidget(m_length->p1()), toWidget(m_length->p2()));
        p.setPen(QPen(m_theme.ghost, 3, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(toWidget(m_length->p1()), toWidget(m_length->p2()));
    }
}

/// A lozenge with a dot: no point of the body looks like it. Hollow and dashed where it was lost.
void Stage::drawMarks(QPainter& p) const {
    constexpr double kSize = 8;
    for (const MarkShown& m : m_marks) {
        const QPointF at = toWidget(m.at);
        const QPolygonF shape({at + QPointF(-kSize, 0), at + QPointF(0, -kSize), at + QPointF(kSize, 0),
                               at + QPointF(0, kSize), at + QPointF(-kSize, 0)});
        p.setBrush(Qt::NoBrush);
        for (const auto& pen : {QPen(kShade, 4.5), QPen(m_theme.ghost, 2, m.lost ? Qt::DotLine : Qt::SolidLine)}) {
            p.setPen(pen);
            p.drawPolyline(shape);
        }
        if (!m.lost) {
            p.setPen(Qt::NoPen);
            p.setBrush(m_theme.ghost);
            p.drawEllipse(at, 1.8, 1.8);
        }
        if (m_tool == Tool::Mark || m.lost)
            drawHaloText(p, at + QPointF(13, -8), m.lost ? tr("%1: lost").arg(m.name) : m.name, textFont(14, true),
                         Qt::white, kPlate);
    }
    if (m_tool != Tool::Mark) return;
    const QPointF at = toWidget(m_cross);
    for (const auto& pen : {QPen(kShade, 4), QPen(Qt::white, 1.6)}) {
        p.setPen(pen);
        for (const QPointF& d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
            p.drawLine(at + 5 * d, at + 22 * d);
    }
}

void Stage::drawScrub(QPainter& p) const {
    const QRectF bar = scrubRect();
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.sunken);
    p.drawRoundedRect(QRectF(bar.left(), bar.center().y() - 4, bar.width(), 8), 4, 4);
    p.setFont(textFont(11, true));
    for (std::size_t i = 0; i < m_spans.size(); ++i) {
        const bool current = static_cast<int>(i) == m_currentSpan;
        const double from = scrubX(m_spans[i].startS);
        const QRectF span(from, bar.center().y() - (current ? 8 : 5), std::max(3.0, scrubX(m_spans[i].endS) - from),
                          current ? 16 : 10);
        p.setPen(Qt::NoPen);
        p.setBrush(current ? m_theme.accent : m_theme.line);
        p.drawRoundedRect(span, 5, 5);
        p.setPen(current ? m_theme.onAccent : m_theme.ink);
        if (span.width() > 18)
            p.drawText(span.adjusted(0, -4, 0, 4), Qt::AlignCenter, QString::number(m_spans[i].number));
    }
    if (isCorrecting() && m_currentSpan >= 0)
        for (bool start : {true, false}) {
            const QPointF at = edgeAt(start);
            p.setPen(QPen(m_theme.panel, 2));
            p.setBrush(m_theme.accent);
            p.drawRoundedRect(QRectF(at.x() - 5, bar.top() + 3, 10, bar.height() - 6), 4, 4);
        }
    p.setPen(Qt::NoPen);
    p.setBrush(QBrush(m_theme.ink, Qt::Dense4Pattern));
    for (const Span& gap : m_gaps) {
        const double from = scrubX(gap.fromS);
        p.drawRect(QRectF(from, bar.bottom() - 6, std::max(3.0, scrubX(gap.toS) - from), 5));
    }
    p.setBrush(m_theme.ghost);
    for (double t : m_noteMoments)
        p.drawPolygon(QPolygonF({{scrubX(t) - 5, bar.top()}, {scrubX(t) + 5, bar.top()}, {scrubX(t), bar.top() + 8}}));
    p.setPen(QPen(m_theme.panel, 5));
    p.drawLine(QPointF(scrubX(timeS()), bar.top() + 3), QPointF(scrubX(timeS()), bar.bottom() - 3));
    p.setPen(QPen(m_theme.ink, 2.5, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(QPointF(scrubX(timeS()), bar.top() + 4), QPointF(scrubX(timeS()), bar.bottom() - 4));
}

}  // namespace zevo::app
