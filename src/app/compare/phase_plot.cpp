#include "app/compare/phase_plot.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace zevo::app {
namespace {

constexpr double kPhases = 3;

}  // namespace

PhasePlot::PhasePlot(QWidget* parent) : QWidget(parent) {
    setObjectName("phasePlot");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Both courses, from start to end of the repetition"));
}

void PhasePlot::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void PhasePlot::setCurve(const present::ComparePresenter::Curve& curve, present::Lengths lengths) {
    m_curve = curve;
    m_lengths = lengths;
    bool any = false;
    for (const auto* points : {&curve.before, &curve.after})
        for (const QPointF& p : *points) {
            m_low = any ? std::min(m_low, p.y()) : p.y();
            m_high = any ? std::max(m_high, p.y()) : p.y();
            any = true;
        }
    if (!any) m_low = 0, m_high = 1;
    const double air = std::max(1e-6, 0.08 * (m_high - m_low));
    m_low -= air, m_high += air;
    update();
}

void PhasePlot::setPhase(double phase) {
    m_phase = phase;
    setAccessibleDescription(tr("at %1 of the way").arg(present::figures(phase / kPhases * 100, 0) + " %"));
    update();
}

QRectF PhasePlot::plotRect() const {
    return QRectF(rect()).adjusted(64, 26, -10, -24);
}

void PhasePlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = plotRect();
    auto x = [&](double phase) { return r.left() + phase / kPhases * r.width(); };
    auto y = [&](double v) { return r.bottom() - (v - m_low) / (m_high - m_low) * r.height(); };
    p.fillRect(r, m_theme.panel);
    p.setFont(textFont(13, true));
    p.setPen(m_theme.ink);
    p.drawText(QRectF(8, 2, width() - 16.0, 20), Qt::AlignLeft | Qt::AlignVCenter, m_curve.title);
    if (m_curve.min || m_curve.max) {
        const double top = m_curve.max ? std::clamp(y(*m_curve.max), r.top(), r.bottom()) : r.top(),
                     bottom = m_curve.min ? std::clamp(y(*m_curve.min), r.top(), r.bottom()) : r.bottom();
        p.fillRect(QRectF(r.left(), top, r.width(), bottom - top), m_theme.band);
    }
    p.setPen(QPen(m_theme.line, 1));
    for (double phase : {1.0, 1.5, 2.0}) p.drawLine(QPointF(x(phase), r.top()), QPointF(x(phase), r.bottom()));
    p.setFont(textFont(12));
    p.setPen(m_theme.faint);
    for (int i = 0; i < 3; ++i)
        p.drawText(QRectF(x(i), r.bottom() + 2, r.width() / 3, 20), Qt::AlignCenter, m_curve.phases.value(i));
    for (double v : {m_high, m_low})
        p.drawText(QRectF(0, y(v) - 9, r.left() - 6, 18), Qt::AlignRight | Qt::AlignVCenter,
                   present::valueText(v, m_curve.unit, m_lengths));
    auto line = [&](const std::vector<QPointF>& points, const QPen& pen) {
        QPolygonF path;
        for (const QPointF& q : points) path << QPointF(x(q.x()), y(q.y()));
        p.setPen(pen);
        p.drawPolyline(path);
    };
    line(m_curve.before, QPen(m_theme.faint, 2.5, Qt::DashLine, Qt::RoundCap));
    line(m_curve.after, QPen(m_theme.accent, 3.5, Qt::SolidLine, Qt::RoundCap));
    // What the two lines are, where there is room: above the plot, at the right.
    p.setFont(textFont(12));
    p.setPen(QPen(m_theme.faint, 2.5, Qt::DashLine));
    const double legend = width() - 190.0;
    p.drawLine(QPointF(legend, 12), QPointF(legend + 26, 12));
    p.setPen(QPen(m_theme.accent, 3.5));
    p.drawLine(QPointF(legend + 96, 12), QPointF(legend + 122, 12));
    p.setPen(m_theme.ink);
    p.drawText(QRectF(legend + 32, 2, 60, 20), Qt::AlignLeft | Qt::AlignVCenter, tr("before"));
    p.drawText(QRectF(legend + 128, 2, 60, 20), Qt::AlignLeft | Qt::AlignVCenter, tr("after"));
    p.setPen(QPen(m_theme.ink, 2.5, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(QPointF(x(m_phase), r.top() - 4), QPointF(x(m_phase), r.bottom() + 4));
    p.setBrush(m_theme.ink);
    p.drawEllipse(QPointF(x(m_phase), r.bottom() + 4), 5, 5);
    if (hasFocus()) {
        p.setPen(QPen(m_theme.ink, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(r.adjusted(-2, -2, 2, 2));
    }
}

void PhasePlot::wantAt(double x) {
    const QRectF r = plotRect();
    emit phaseWanted(std::clamp((x - r.left()) / r.width(), 0.0, 1.0) * kPhases);
}

void PhasePlot::mousePressEvent(QMouseEvent* e) {
    wantAt(e->position().x());
}

void PhasePlot::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) wantAt(e->position().x());
}

void PhasePlot::keyPressEvent(QKeyEvent* e) {
    const double step = e->modifiers() & Qt::ShiftModifier ? 0.25 : 0.04;
    switch (e->key()) {
        case Qt::Key_Left: emit phaseWanted(m_phase - step); break;
        case Qt::Key_Right: emit phaseWanted(m_phase + step); break;
        case Qt::Key_Home: emit phaseWanted(0); break;
        case Qt::Key_End: emit phaseWanted(kPhases); break;
        default: QWidget::keyPressEvent(e);
    }
}

}  // namespace zevo::app
