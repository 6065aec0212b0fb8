#include "app/review/curve_plot.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace zevo::app {

CurvePlot::CurvePlot(QWidget* parent) : QWidget(parent) {
    setAccessibleName("Curve over the rep");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void CurvePlot::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void CurvePlot::setCurve(const ReviewPresenter::Curve& curve, Lengths lengths) {
    m_curve = curve;
    m_lengths = lengths;
    m_from = curve.points.empty() ? 0 : curve.points.front().x();
    m_to = curve.points.empty() ? 1 : curve.points.back().x();
    m_low = 1e9, m_high = -1e9;
    auto include = [&](double v) { m_low = std::min(m_low, v), m_high = std::max(m_high, v); };
    for (const auto& p : curve.points) include(p.y());
    for (const auto& line : curve.others)
        for (const auto& p : line) include(p.y());
    if (curve.hasMin) include(curve.min);
    if (curve.hasMax) include(curve.max);
    if (m_low > m_high) m_low = 0, m_high = 1;
    const double margin = std::max(1e-3, 0.08 * (m_high - m_low));
    m_low -= margin;
    m_high += margin;
    update();
}

void CurvePlot::setCursor(double timeS) {
    m_cursor = timeS;
    setAccessibleDescription(QString("%1 %2 at %3 s")
                                 .arg(m_curve.title, valueText(valueAt(timeS), m_curve.unit, m_lengths))
                                 .arg(timeS, 0, 'f', 2));
    update();
}

QRectF CurvePlot::plotRect() const {
    return {58, 24, width() - 70.0, height() - 44.0};
}

double CurvePlot::valueAt(double timeS) const {
    double best = 1e9, value = std::nan("");
    for (const auto& p : m_curve.points)
        if (std::abs(p.x() - timeS) < best) best = std::abs(p.x() - timeS), value = p.y();
    return value;
}

void CurvePlot::paintEvent(QPaintEvent*) {
    if (m_curve.points.empty()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = plotRect();
    auto x = [&](double t) { return r.left() + (t - m_from) / std::max(1e-6, m_to - m_from) * r.width(); };
    auto y = [&](double v) { return r.bottom() - (v - m_low) / (m_high - m_low) * r.height(); };

    p.setPen(m_theme.ink);
    p.setFont(textFont(13, true));
    p.drawText(QRectF(8, 2, width() - 16, 20), Qt::AlignLeft | Qt::AlignVCenter, m_curve.title);
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.panel);
    p.drawRect(r);
    if (m_curve.hasMin || m_curve.hasMax) {
        const double top = m_curve.hasMax ? y(m_curve.max) : r.top(),
                     bottom = m_curve.hasMin ? y(m_curve.min) : r.bottom();
        p.setBrush(m_theme.band);
        p.drawRect(QRectF(r.left(), top, r.width(), bottom - top));
        p.setPen(QPen(m_theme.ink, 1, Qt::DotLine));
        if (m_curve.hasMax) p.drawLine(QPointF(r.left(), top), QPointF(r.right(), top));
        if (m_curve.hasMin) p.drawLine(QPointF(r.left(), bottom), QPointF(r.right(), bottom));
    }

    // Phases along the foot of the plot, in words.
    const struct {
        QString name;
        double from, to;
    } phases[] = {{m_curve.phases.value(0), m_curve.startS, m_curve.arriveS},
                  {m_curve.phases.value(1), m_curve.arriveS, m_curve.leaveS},
                  {m_curve.phases.value(2), m_curve.leaveS, m_curve.endS}};
    p.setFont(textFont(12));
    for (const auto& f : phases) {
        p.setPen(QPen(m_theme.line, 1));
        p.drawLine(QPointF(x(f.from), r.top()), QPointF(x(f.from), r.bottom() + 4));
        p.drawLine(QPointF(x(f.to), r.top()), QPointF(x(f.to), r.bottom() + 4));
        p.setPen(m_theme.faint);
        const QString text = QString("%1 %2 s").arg(f.name).arg(f.to - f.from, 0, 'f', 1);
        const QRectF under(x(f.from), r.bottom() + 2, x(f.to) - x(f.from), 18);
        if (p.fontMetrics().horizontalAdvance(text) < under.width()) p.drawText(under, Qt::AlignCenter, text);
    }
    p.setPen(m_theme.faint);
    for (double v : {m_low + 0.08 * (m_high - m_low), m_high - 0.08 * (m_high - m_low)})
        p.drawText(QRectF(0, y(v) - 9, 52, 18), Qt::AlignRight | Qt::AlignVCenter,
                   valueText(v, m_curve.unit, m_lengths));

    p.setClipRect(r.adjusted(-1, -1, 1, 1));
    auto draw = [&](const std::vector<QPointF>& line, const QPen& pen) {
        QPainterPath path;
        for (std::size_t i = 0; i < line.size(); ++i) {
            const QPointF q(x(line[i].x()), y(line[i].y()));
            if (i == 0)
                path.moveTo(q);
            else
                path.lineTo(q);
        }
        p.strokePath(path, pen);
    };
    QColor faint = m_theme.faint;
    faint.setAlphaF(0.45F);
    for (const auto& other : m_curve.others) draw(other, QPen(faint, 1.2));
    draw(m_curve.points, QPen(m_theme.accent, 3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.setClipping(false);

    const double now = std::clamp(m_cursor, m_from, m_to), value = valueAt(now);
    p.setPen(QPen(m_theme.ink, 2));
    p.drawLine(QPointF(x(now), r.top()), QPointF(x(now), r.bottom()));
    if (std::isfinite(value)) {
        p.setBrush(m_theme.panel);
        p.drawEllipse(QPointF(x(now), y(value)), 5, 5);
        p.setFont(textFont(14, true));
        p.drawText(QRectF(0, 2, width() - 12, 20), Qt::AlignRight | Qt::AlignVCenter,
                   QString("%1 at %2 s").arg(valueText(value, m_curve.unit, m_lengths)).arg(now, 0, 'f', 2));
    }
}

void CurvePlot::wantAt(double x) {
    const QRectF r = plotRect();
    emit timeWanted(m_from + std::clamp((x - r.left()) / r.width(), 0.0, 1.0) * (m_to - m_from));
}

void CurvePlot::mousePressEvent(QMouseEvent* e) {
    wantAt(e->position().x());
}

void CurvePlot::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) wantAt(e->position().x());
}

}  // namespace zevo::app
