// What lies over the picture: measured lines, the number on its plate, points to be dragged, the bar of time.
#include <QPainter>
#include <algorithm>

#include "app/parts/stage.h"
#include "present/paint/marks.h"
#include "present/paint/picture_lines.h"

namespace zevo::app {

using present::drawHaloText;
using present::kPlate;
using present::kShade;

namespace {

constexpr double kScrubHeight = 34;

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

QTransform Stage::toWidgetTransform() const {
    const QRectF r = pictureRect();
    const double scale = r.width() / std::max(1, m_size.width());
    return QTransform::fromTranslate(r.left(), r.top()).scale(scale, scale);
}

QPointF Stage::toWidget(const QPointF& picture) const {
    return toWidgetTransform().map(picture);
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
    const QTransform place = toWidgetTransform();
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    present::drawGhost(p, m_ghost, place, m_theme);
    if (m_showSkeleton) present::drawSkeleton(p, m_skeleton, place);
    present::drawReading(p, m_overlay, place, m_theme);
    present::drawNumberPlate(p, m_label, m_overlay, plateRect(), place);
    drawMarks(p);
    if (isCorrecting() && m_tool != Tool::Mark) drawHandles(p);
    present::drawNote(p, m_note, pictureRect());
    p.restore();
}

QRectF Stage::plateRect() const {
    return present::numberPlate(m_label, m_overlay, m_body, pictureRect(), toWidgetTransform());
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

void Stage::drawMarks(QPainter& p) const {
    for (const MarkShown& m : m_marks) {
        const QString name = m.lost ? tr("%1: lost").arg(m.name) : m_tool == Tool::Mark ? m.name : QString();
        present::drawMarkedPoint(p, toWidget(m.at), m.lost, name, m_theme);
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
