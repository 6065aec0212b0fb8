#include "present/paint/tile.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

#include "present/paint/marks.h"

namespace zevo::present {

QRectF tileWindow(const std::vector<ReviewPresenter::Tile>& tiles) {
    QRectF window;
    for (const auto& t : tiles) {
        window = window.united(t.outline.isEmpty() ? QRectF(t.knee - QPointF(60, 60), QSizeF(120, 120))
                                                   : t.outline.boundingRect());
        for (const QLineF& l : t.limbs) window = window.united(QRectF(l.p1(), l.p2()).normalized());
    }
    window.adjust(-0.04 * window.width(), -0.04 * window.height(), 0.04 * window.width(), 0.04 * window.height());
    return window;
}

void drawTile(QPainter& p, const QRectF& box, const ReviewPresenter::Tile& t, const QRectF& window,
              const TileStyle& style, const Theme& theme) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(style.current ? QPen(theme.accent, 3) : QPen(theme.line, 1));
    p.setBrush(theme.panel);
    p.drawRoundedRect(box.adjusted(1.5, 1.5, -1.5, -1.5), 10, 10);

    if (t.leftOut) p.setOpacity(0.35);
    // The body, the same scale in every tile.
    const QRectF well = style.compact ? box.adjusted(box.width() * 0.4, 5, -6, -20) : box.adjusted(8, 14, -8, -26);
    const double scale =
        std::min(well.width() / std::max(1.0, window.width()), well.height() / std::max(1.0, window.height()));
    const QPointF origin(well.center().x() - window.center().x() * scale, well.bottom() - window.bottom() * scale);
    auto place = [&](const QPointF& q) { return origin + q * scale; };
    QPolygonF body;
    for (const auto& q : t.outline) body << place(q);
    QColor fill = theme.ink;
    fill.setAlphaF(t.kind == RepKind::Partial ? 0.18F : 0.34F);
    p.setPen(t.kind == RepKind::Partial ? QPen(theme.faint, 1.2, Qt::DashLine) : Qt::NoPen);
    p.setBrush(fill);
    p.drawPolygon(body);
    // By its points where the outline was lost: thin limbs in one piece, so that it is not taken for one.
    if (!t.limbs.empty()) {
        QPainterPath bones;
        for (const QLineF& l : t.limbs) bones.moveTo(place(l.p1())), bones.lineTo(place(l.p2()));
        QPainterPathStroker limb;
        limb.setWidth(0.05 * well.height() + 2);
        limb.setCapStyle(Qt::RoundCap);
        QPainterPath whole = limb.createStroke(bones);
        const double head = 0.075 * well.height();
        whole.addEllipse(place(t.limbs.back().p2()), head, head);
        p.setPen(Qt::NoPen);
        whole.setFillRule(Qt::WindingFill);
        p.drawPath(whole.simplified());
    }
    if (t.hasLine) {
        p.setPen(QPen(theme.ghost, 2.5, Qt::DotLine, Qt::RoundCap));
        p.drawLine(place(t.knee), place(t.knee + 1.5 * (t.line - t.knee)));
    }
    p.setPen(QPen(t.depthVerdict == Verdict::Outside ? theme.outside : theme.accent, 3, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(place(t.knee), place(t.hip));

    // Number and kind above, depth below, marks at the right.
    p.setPen(theme.ink);
    p.setFont(textFont(17, true));
    p.drawText(box.adjusted(10, 6, -8, 0), Qt::AlignLeft | Qt::AlignTop, QString::number(t.number));
    p.setFont(textFont(12));
    p.setPen(theme.faint);
    const QString kind = t.leftOut                    ? "left out"
                         : t.kind == RepKind::Partial ? "partial"
                         : t.kind == RepKind::Double  ? "1½"
                                                      : "";
    p.drawText(box.adjusted(32, 9, -8, 0), Qt::AlignLeft | Qt::AlignTop, kind);
    p.setFont(textFont(style.compact ? 12 : 13));
    p.setPen(theme.ink);
    const bool marked = !t.depth.isEmpty() && t.depthMarked && t.depthVerdict != Verdict::Inside;
    const QRectF words = box.adjusted(marked ? 26 : 10, 0, -6, -6);
    p.drawText(words, Qt::AlignLeft | Qt::AlignBottom,
               p.fontMetrics().elidedText(t.depth, Qt::ElideRight, static_cast<int>(words.width())));
    if (marked) drawMark(p, {box.left() + 17, box.bottom() - 15}, 14, t.depthVerdict, true, theme, true);
    double x = style.compact ? box.left() + 68 : box.right() - 14;
    for (std::size_t i = 0; i < t.marks.size() && i < 3; ++i, x -= 17)
        drawMark(p, {x, box.top() + 17}, 15, t.marks[i].verdict, t.marks[i].above, theme);
    p.restore();
}

}  // namespace zevo::present
