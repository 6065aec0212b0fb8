#include "app/parts/client_row.h"

namespace zevo::app {

QString ClientRow::initialsOf(const QString& name) {
    const QStringList words = name.split(' ', Qt::SkipEmptyParts);
    if (words.isEmpty()) return "?";
    QString out = words.front().left(1);
    if (words.size() > 1) out += words.back().left(1);
    return out.toUpper();
}

void ClientRow::paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(option.rect).adjusted(2, 2, -2, -2);
    const bool chosen = option.state & QStyle::State_Selected;
    if (chosen || option.state & QStyle::State_MouseOver) {
        p->setPen(QPen(chosen ? m_theme.accent : m_theme.line, chosen ? 2 : 1));
        p->setBrush(chosen ? m_theme.panel : Qt::transparent);
        p->drawRoundedRect(box, 10, 10);
    }
    const QRectF tile(box.left() + 8, box.center().y() - 20, 40, 40);
    p->setPen(Qt::NoPen);
    p->setBrush(chosen ? m_theme.accent : m_theme.sunken);
    p->drawRoundedRect(tile, 9, 9);
    p->setPen(chosen ? m_theme.onAccent : m_theme.ink);
    p->setFont(textFont(16, true));
    const QStringList lines = index.data().toString().split('\n');
    p->drawText(tile, Qt::AlignCenter, initialsOf(lines.value(0)));
    const QRectF words(tile.right() + 10, box.top() + 6, box.right() - tile.right() - 18, box.height() - 12);
    p->setPen(m_theme.ink);
    p->setFont(textFont(16, chosen));
    p->drawText(words, Qt::AlignLeft | Qt::AlignTop,
                p->fontMetrics().elidedText(lines.value(0), Qt::ElideRight, static_cast<int>(words.width())));
    p->setPen(m_theme.faint);
    p->setFont(textFont(13));
    p->drawText(words, Qt::AlignLeft | Qt::AlignBottom,
                p->fontMetrics().elidedText(lines.value(1), Qt::ElideRight, static_cast<int>(words.width())));
    p->restore();
}

}  // namespace zevo::app
