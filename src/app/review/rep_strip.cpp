#include "app/review/rep_strip.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

#include "present/paint/tile.h"

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
    m_window = present::tileWindow(m_tiles);
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

void RepStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < static_cast<int>(m_tiles.size()); ++i)
        if (tileRect(i).intersects(rect()))
            present::drawTile(p, tileRect(i), m_tiles[static_cast<std::size_t>(i)], m_window,
                              {.current = i == m_current, .compact = m_compact}, m_theme);
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
