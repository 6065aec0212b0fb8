#include "present/paint/marks.h"

#include <QPainterPath>

namespace zevo::present {

void drawMark(QPainter& p, const QPointF& c, double size, Verdict verdict, bool above, const Theme& t, bool vertical) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.translate(c);
    const double r = size / 2;
    if (verdict == Verdict::Inside) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.ink);
        p.drawEllipse(QPointF(0, 0), r * 0.8, r * 0.8);
    } else if (verdict == Verdict::Unsure) {
        p.setPen(QPen(t.ink, size * 0.18));
        p.setBrush(t.panel);
        p.drawEllipse(QPointF(0, 0), r * 0.8, r * 0.8);
    } else {
        if (vertical)
            p.rotate(above ? -90 : 90);
        else if (!above)
            p.rotate(180);
        QPainterPath chevron;
        chevron.moveTo(-r * 0.75, -r);
        chevron.lineTo(r * 0.75, 0);
        chevron.lineTo(-r * 0.75, r);
        chevron.lineTo(-r * 0.2, 0);
        chevron.closeSubpath();
        p.setPen(QPen(t.panel, 1.5));
        p.setBrush(t.outside);
        p.drawPath(chevron);
    }
    p.restore();
}

void drawHaloText(QPainter& p, const QPointF& at, const QString& text, const QFont& font, const QColor& ink,
                  const QColor& halo) {
    QPainterPath path;
    path.addText(at, font, text);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.strokePath(path, QPen(halo, 5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.fillPath(path, ink);
    p.restore();
}

}  // namespace zevo::present
