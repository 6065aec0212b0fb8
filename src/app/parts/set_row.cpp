#include "app/parts/set_row.h"

#include <QPainter>
#include <QPolygonF>

namespace zevo::app {

void SetRow::paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(option.rect).adjusted(2, 2, -2, -2);
    const bool chosen = option.state & (QStyle::State_HasFocus | QStyle::State_Selected | QStyle::State_MouseOver);
    p->setPen(QPen(chosen ? m_theme.accent : m_theme.line, chosen ? 2 : 1));
    p->setBrush(m_theme.panel);
    p->drawRoundedRect(box, 10, 10);
    const QStringList lines = index.data().toString().split('\n');
    const QRectF words = box.adjusted(16, 12, -box.width() * 0.45, -12);
    p->setPen(m_theme.ink);
    p->setFont(textFont(18, true));
    p->drawText(words, Qt::AlignLeft | Qt::AlignTop,
                p->fontMetrics().elidedText(lines.value(1), Qt::ElideRight, static_cast<int>(words.width())));
    p->setPen(m_theme.faint);
    p->setFont(textFont(14));
    p->drawText(words, Qt::AlignLeft | Qt::AlignBottom,
                p->fontMetrics().elidedText(lines.value(0), Qt::ElideRight, static_cast<int>(words.width())));

    const std::vector<Outline>& outlines = m_outlinesOf(index.data(kSetId).toString());
    QRectF window;
    for (const auto& o : outlines)
        for (const auto& [x, y] : o.points) window = window.united(QRectF(x, y, 1, 1));
    const QRectF row = box.adjusted(box.width() * 0.55, 8, -14, -8);
    if (!window.isEmpty()) {
        const double scale = row.height() / window.height(),
                     step = std::min(window.width() * scale * 0.9, row.width() / static_cast<double>(outlines.size()));
        double left = row.right() - step * static_cast<double>(outlines.size());
        QColor fill = m_theme.ink;
        fill.setAlphaF(0.34F);
        p->setPen(Qt::NoPen);
        p->setBrush(fill);
        for (const auto& o : outlines) {
            QPolygonF body;
            for (const auto& [x, y] : o.points)
                body << QPointF(left + (x - window.left()) * scale, row.bottom() - (window.bottom() - y) * scale);
            p->drawPolygon(body);
            left += step;
        }
    }
    p->restore();
}

}  // namespace zevo::app
