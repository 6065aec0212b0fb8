#include "present/paint/picture_lines.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "present/paint/marks.h"

namespace zevo::present {
namespace {

constexpr int kNumberPx = 22;

void strokes(QPainter& p, const std::vector<QLineF>& lines, const QTransform& place, const QPen& pen) {
    // All shades lie under all lines, so that a curve of many pieces is one line.
    if (pen.style() == Qt::SolidLine) {
        p.setPen(QPen(kShade, pen.widthF() + 2.5, Qt::SolidLine, Qt::RoundCap));
        for (const auto& l : lines) p.drawLine(place.map(l));
    }
    QPen round = pen;
    round.setCapStyle(Qt::RoundCap);
    p.setPen(round);
    for (const auto& l : lines) p.drawLine(place.map(l));
}

/// Saves a painter's state for as long as it stands.
struct Kept {
    explicit Kept(QPainter& painter) : p(painter) {
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
    }
    ~Kept() { p.restore(); }
    Kept(const Kept&) = delete;
    Kept& operator=(const Kept&) = delete;
    QPainter& p;
};

}  // namespace

void drawReading(QPainter& p, const Overlay& overlay, const QTransform& place, const Theme& theme) {
    const Kept kept(p);
    strokes(p, overlay.ghosts, place, QPen(theme.ghost, 3, Qt::DotLine));
    if (overlay.arc && std::abs(overlay.arc->spanDeg) > 1) {
        constexpr double kRadius = 34;
        const QPointF c = place.map(overlay.arc->centre);
        p.setBrush(QColor(255, 255, 255, 60));
        p.setPen(QPen(Qt::white, 1.5));
        p.drawPie(QRectF(c.x() - kRadius, c.y() - kRadius, 2 * kRadius, 2 * kRadius),
                  static_cast<int>(overlay.arc->fromDeg * 16), static_cast<int>(overlay.arc->spanDeg * 16));
    }
    strokes(p, overlay.lines, place, QPen(Qt::white, 4));
    for (const auto& d : overlay.dots) {
        p.setPen(QPen(QColor(0, 0, 0, 170), 1.5));
        p.setBrush(Qt::white);
        p.drawEllipse(place.map(d), 5, 5);
    }
}

void drawSkeleton(QPainter& p, const Overlay& skeleton, const QTransform& place) {
    const Kept kept(p);
    strokes(p, skeleton.ghosts, place, QPen(QColor(255, 255, 255, 150), 1.6, Qt::DashLine));
    strokes(p, skeleton.lines, place, QPen(QColor(255, 255, 255, 210), 1.8));
}

void drawGhost(QPainter& p, const Overlay& ghost, const QTransform& place, const Theme& theme) {
    const Kept kept(p);
    strokes(p, ghost.ghosts, place, QPen(theme.ghost, 1.6, Qt::DashLine));
    strokes(p, ghost.lines, place, QPen(theme.ghost, 3));
}

QRectF numberPlate(const QString& label, const Overlay& overlay, const QRectF& body, const QRectF& picture,
                   const QTransform& place) {
    if (label.isEmpty()) return {};
    const QFontMetricsF metrics(textFont(kNumberPx, true));
    const QSizeF size(metrics.horizontalAdvance(label) + 24, metrics.height() + 8);
    if (body.isEmpty()) return {place.map(overlay.label) + QPointF(16, -size.height()), size};
    const QRectF there = place.mapRect(body), &r = picture;
    constexpr double kApart = 14;
    const bool right = r.right() - there.right() >= there.left() - r.left();
    double x = right ? there.right() + kApart : there.left() - kApart - size.width();
    x = std::clamp(x, r.left() + 6, std::max(r.left() + 6, r.right() - size.width() - 6));
    const double y = std::clamp(there.center().y() - size.height() / 2, r.top() + 6, r.bottom() - size.height() - 6);
    return {QPointF(x, y), size};
}

void drawNumberPlate(QPainter& p, const QString& label, const Overlay& overlay, const QRectF& plate,
                     const QTransform& place) {
    if (plate.isEmpty()) return;
    const Kept kept(p);
    QPointF joint = place.map(overlay.label);
    double nearest = 1e9;
    for (const QPointF& dot : overlay.dots)
        if (const double far = QLineF(place.map(dot), plate.center()).length(); far < nearest)
            nearest = far, joint = place.map(dot);
    const QPointF from(joint.x() < plate.center().x() ? plate.left() : plate.right(), plate.center().y());
    p.setPen(QPen(QColor(255, 255, 255, 190), 1.4, Qt::DashLine));
    p.drawLine(from, joint);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRoundedRect(plate, 8, 8);
    p.setPen(Qt::white);
    p.setFont(textFont(kNumberPx, true));
    p.drawText(plate, Qt::AlignCenter, label);
}

void drawNote(QPainter& p, const QString& note, const QRectF& r) {
    if (note.isEmpty()) return;
    const Kept kept(p);
    p.setFont(textFont(15));
    const QRectF text = QRectF(
        p.fontMetrics().boundingRect(QRect(0, 0, static_cast<int>(r.width()) - 40, 400), Qt::TextWordWrap, note));
    const QRectF plate(r.left() + 8, r.bottom() - text.height() - 22, text.width() + 24, text.height() + 14);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRoundedRect(plate, 8, 8);
    p.setPen(Qt::white);
    p.drawText(plate.adjusted(12, 7, -12, -7), Qt::AlignLeft | Qt::TextWordWrap, note);
}

void drawMarkedPoint(QPainter& p, const QPointF& at, bool lost, const QString& name, const Theme& theme) {
    constexpr double kSize = 8;
    const Kept kept(p);
    const QPolygonF shape({at + QPointF(-kSize, 0), at + QPointF(0, -kSize), at + QPointF(kSize, 0),
                           at + QPointF(0, kSize), at + QPointF(-kSize, 0)});
    p.setBrush(Qt::NoBrush);
    for (const auto& pen : {QPen(kShade, 4.5), QPen(theme.ghost, 2, lost ? Qt::DotLine : Qt::SolidLine)}) {
        p.setPen(pen);
        p.drawPolyline(shape);
    }
    if (!lost) {
        p.setPen(Qt::NoPen);
        p.setBrush(theme.ghost);
        p.drawEllipse(at, 1.8, 1.8);
    }
    if (!name.isEmpty()) drawHaloText(p, at + QPointF(13, -8), name, textFont(14, true), Qt::white, kPlate);
}

}  // namespace zevo::present
