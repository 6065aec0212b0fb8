#include "app/review/rep_strip.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <algorithm>

#include "app/theme/marks.h"

namespace zevo::app {
namespace {

constexpr double kGap = 8, kLeast = 104, kMost = 202;

}  // namespace

RepStrip::RepStrip(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Repetitions");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void RepStrip::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void RepStrip::setCompact(bool compact) {
    if (m_compact == compact) return;
    m_compact = compact;
    updateGeometry();
    update();
}

void RepStrip::setTiles(std::vector<ReviewPresenter::Tile> tiles) {
    m_tiles = std::move(tiles);
    m_window = {};
    for (const auto& t : m_tiles) {
        m_window = m_window.united(t.outline.isEmpty() ? QRectF(t.knee - QPointF(60, 60), QSizeF(120, 120))
                                                       : t.outline.boundingRect());
        for (const QLineF& l : t.limbs) m_window = m_window.united(QRectF(l.p1(), l.p2()).normalized());
    }
    m_window.adjust(-0.04 * m_window.width(), -0.04 * m_window.height(), 0.04 * m_window.width(),
                    0.04 * m_window.height());
    setCurrent(m_current);
}

void RepStrip::setCurrent(int position) {
    m_current = std::clamp(position, 0, std::max(0, static_cast<int>(m_tiles.size()) - 1));
    if (!m_tiles.empty()) setAccessibleDescription(m_tiles[static_cast<std::size_t>(m_current)].spoken);
    keepCurrentVisible();
    update();
}

double RepStrip::tileWidth() const {
    const double n = std::max<double>(1, static_cast<double>(m_tiles.size()));
    return std::clamp((width() - kGap * (n - 1)) / n, kLeast, kMost);
}

QRectF RepStrip::tileRect(int position) const {
    return {position * (tileWidth() + kGap) - m_scroll, 2, tileWidth(), height() - 4.0};
}

void RepStrip::keepCurrentVisible() {
    const double all = static_cast<double>(m_tiles.size()) * (tileWidth() + kGap) - kGap;
    const double left = m_current * (tileWidth() + kGap);
    m_scroll = std::clamp(m_scroll, left + tileWidth() - width(), std::max(left, left + tileWidth() - width()));
    m_scroll = std::clamp(m_scroll, 0.0, std::max(0.0, all - width()));
}

void RepStrip::drawTile(QPainter& p, int position) const {
    const auto& t = m_tiles[static_cast<std::size_t>(position)];
    const QRectF box = tileRect(position);
    const bool current = position == m_current;
    p.setPen(current ? QPen(m_theme.accent, 3) : QPen(m_theme.line, 1));
    p.setBrush(m_theme.panel);
    p.drawRoundedRect(box.adjusted(1.5, 1.5, -1.5, -1.5), 10, 10);

    p.save();
    if (t.leftOut) p.setOpacity(0.35);
    // The body, the same scale in every tile.
    const QRectF well = m_compact ? box.adjusted(box.width() * 0.4, 5, -6, -20) : box.adjusted(8, 14, -8, -26);
    const double scale =
        std::min(well.width() / std::max(1.0, m_window.width()), well.height() / std::max(1.0, m_window.height()));
    const QPointF origin(well.center().x() - m_window.center().x() * scale, well.bottom() - m_window.bottom() * scale);
    auto place = [&](const QPointF& q) { return origin + q * scale; };
    QPolygonF body;
    for (const auto& q : t.outline) body << place(q);
    QColor fill = m_theme.ink;
    fill.setAlphaF(t.kind == RepKind::Partial ? 0.18F : 0.34F);
    p.setPen(t.kind == RepKind::Partial ? QPen(m_theme.faint, 1.2, Qt::DashLine) : Qt::NoPen);
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
        p.setPen(QPen(m_theme.ghost, 2.5, Qt::DotLine, Qt::RoundCap));
        p.drawLine(place(t.knee), place(t.knee + 1.5 * (t.line - t.knee)));
    }
    p.setPen(
        QPen(t.depthVerdict == Verdict::Outside ? m_theme.outside : m_theme.accent, 3, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(place(t.knee), place(t.hip));

    // Number and kind above, depth below, marks at the right.
    p.setPen(m_theme.ink);
    p.setFont(textFont(17, true));
    p.drawText(box.adjusted(10, 6, -8, 0), Qt::AlignLeft | Qt::AlignTop, QString::number(t.number));
    p.setFont(textFont(12));
    p.setPen(m_theme.faint);
    const QString kind = t.leftOut                    ? "left out"
                         : t.kind == RepKind::Partial ? "partial"
                         : t.kind == RepKind::Double  ? "1½"
                                                      : "";
    p.drawText(box.adjusted(32, 9, -8, 0), Qt::AlignLeft | Qt::AlignTop, kind);
    p.setFont(textFont(m_compact ? 12 : 13));
    p.setPen(m_theme.ink);
    const bool marked = !t.depth.isEmpty() && t.depthMarked && t.depthVerdict != Verdict::Inside;
    const QRectF words = box.adjusted(marked ? 26 : 10, 0, -6, -6);
    p.drawText(words, Qt::AlignLeft | Qt::AlignBottom,
               p.fontMetrics().elidedText(t.depth, Qt::ElideRight, static_cast<int>(words.width())));
    if (marked) drawMark(p, {box.left() + 17, box.bottom() - 15}, 14, t.depthVerdict, true, m_theme, true);
    double x = m_compact ? box.left() + 68 : box.right() - 14;
    for (std::size_t i = 0; i < t.marks.size() && i < 3; ++i, x -= 17)
        drawMark(p, {x, box.top() + 17}, 15, t.marks[i].verdict, t.marks[i].above, m_theme);
    p.restore();
}

void RepStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < static_cast<int>(m_tiles.size()); ++i)
        if (tileRect(i).intersects(rect())) drawTile(p, i);
    if (hasFocus() && !m_tiles.empty()) {
        p.setPen(QPen(m_theme.ink, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(tileRect(m_current).adjusted(5, 5, -5, -5), 7, 7);
    }
}

void RepStrip::mousePressEvent(QMouseEvent* e) {
    for (int i = 0; i < static_cast<int>(m_tiles.size()); ++i)
        if (tileRect(i).contains(e->position())) emit chosen(i);
}

void RepStrip::keyPressEvent(QKeyEvent* e) {
    const int last = static_cast<int>(m_tiles.size()) - 1;
    switch (e->key()) {
        case Qt::Key_Left: emit chosen(std::max(0, m_current - 1)); break;
        case Qt::Key_Right: emit chosen(std::min(last, m_current + 1)); break;
        case Qt::Key_Home: emit chosen(0); break;
        case Qt::Key_End: emit chosen(last); break;
        default: QWidget::keyPressEvent(e);
    }
}

void RepStrip::wheelEvent(QWheelEvent* e) {
    const double all = static_cast<double>(m_tiles.size()) * (tileWidth() + kGap) - kGap;
    m_scroll = std::clamp(m_scroll - (e->angleDelta().y() + e->angleDelta().x()), 0.0, std::max(0.0, all - width()));
    update();
}

void RepStrip::resizeEvent(QResizeEvent*) {
    keepCurrentVisible();
}

bool RepStrip::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        for (int i = 0; i < static_cast<int>(m_tiles.size()); ++i)
            if (tileRect(i).contains(help->pos()))
                QToolTip::showText(help->globalPos(), m_tiles[static_cast<std::size_t>(i)].spoken, this);
        return true;
    }
    return QWidget::event(e);
}

}  // namespace zevo::app
