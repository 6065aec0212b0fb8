#include "app/review/reading_column.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollArea>
#include <QToolTip>
#include <algorithm>

#include "present/paint/marks.h"

namespace zevo::app {
namespace {

constexpr double kRow = 35, kChosenRow = 60;

/// What a tooltip says of a reading: the field's term, its band, why it is unsure.
QString spokenWhy(const ReviewPresenter::Reading& r) {
    QString out = r.term;
    if (!r.bandText.isEmpty()) out += "\n" + r.bandText;
    if (!r.reason.isEmpty()) out += "\nunsure: " + r.reason;
    if (!r.withoutManual.isEmpty()) out += "\ncorrected; Zevo saw " + r.withoutManual;
    return out;
}

}  // namespace

ReadingColumn::ReadingColumn(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Measures of this rep");
}

void ReadingColumn::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void ReadingColumn::setReadings(std::vector<ReviewPresenter::Reading> readings, const QString& current,
                                Lengths lengths) {
    m_readings = std::move(readings);
    m_current = current;
    m_lengths = lengths;
    setMinimumHeight(sizeHint().height());
    const int row = currentRow();
    setAccessibleDescription(row < 0 ? QString() : reading(row).spoken);
    for (QWidget* w = parentWidget(); w && row >= 0; w = w->parentWidget())
        if (auto* area = qobject_cast<QScrollArea*>(w)) {
            area->ensureVisible(10, static_cast<int>(rowRect(row).center().y()), 0, static_cast<int>(kChosenRow / 2));
            break;
        }
    update();
}

QSize ReadingColumn::sizeHint() const {
    double height = 0;
    for (int i = 0; i < rows(); ++i) height += heightOf(i);
    return {360, static_cast<int>(std::max(height, kChosenRow))};
}

QRectF ReadingColumn::rowRect(int row) const {
    double top = 0;
    for (int i = 0; i < row; ++i) top += heightOf(i);
    return {0, top, static_cast<double>(width()), heightOf(row)};
}

double ReadingColumn::heightOf(int row) const {
    return reading(row).id == m_current ? kChosenRow : kRow;
}

int ReadingColumn::rowAt(double y) const {
    for (int i = 0; i < rows(); ++i)
        if (rowRect(i).top() <= y && y < rowRect(i).bottom()) return i;
    return -1;
}

int ReadingColumn::currentRow() const {
    for (int i = 0; i < rows(); ++i)
        if (reading(i).id == m_current) return i;
    return -1;
}

void ReadingColumn::drawScale(QPainter& p, const QRectF& box, const ReviewPresenter::Reading& r) const {
    auto x = [&](double v) { return box.left() + (v - r.scaleFrom) / (r.scaleTo - r.scaleFrom) * box.width(); };
    const double mid = box.center().y();
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.sunken);
    p.drawRoundedRect(QRectF(box.left(), mid - 5, box.width(), 10), 5, 5);
    if (r.hasMin || r.hasMax) {
        const double from = r.hasMin ? x(r.min) : box.left(), to = r.hasMax ? x(r.max) : box.right();
        p.setBrush(m_theme.band);
        p.drawRect(QRectF(from, mid - 7, to - from, 14));
        p.setPen(QPen(m_theme.ink, 1.5));
        if (r.hasMin) p.drawLine(QPointF(from, mid - 8), QPointF(from, mid + 8));
        if (r.hasMax) p.drawLine(QPointF(to, mid - 8), QPointF(to, mid + 8));
    }
    if (r.hasUsual) {
        p.setPen(QPen(m_theme.faint, 2, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(QPointF(x(r.usualFrom), mid + 9), QPointF(x(r.usualTo), mid + 9));
    }
    p.setPen(QPen(m_theme.ink, 2));
    const double low = std::max(box.left(), x(r.value - r.pm90)), high = std::min(box.right(), x(r.value + r.pm90));
    p.drawLine(QPointF(low, mid), QPointF(high, mid));
    p.drawLine(QPointF(low, mid - 4), QPointF(low, mid + 4));
    p.drawLine(QPointF(high, mid - 4), QPointF(high, mid + 4));
    const QPointF at(std::clamp(x(r.value), box.left(), box.right()), mid);
    if (r.judged)
        drawMark(p, at, 15, r.judgement.verdict, r.judgement.above, m_theme);
    else {
        p.setPen(QPen(m_theme.ink, 3));
        p.drawLine(at - QPointF(0, 6), at + QPointF(0, 6));
    }
}

void ReadingColumn::drawRow(QPainter& p, int row) const {
    const auto& r = reading(row);
    const QRectF box = rowRect(row);
    if (r.id == m_current) {
        p.setPen(Qt::NoPen);
        p.setBrush(m_theme.panel);
        p.drawRoundedRect(box.adjusted(0, 2, 0, -2), 10, 10);
        p.setBrush(m_theme.accent);
        p.drawRoundedRect(QRectF(box.left(), box.top() + 10, 4, box.height() - 20), 2, 2);
    }
    const QRectF inner = box.adjusted(14, 6, -12, -4);
    const bool chosen = r.id == m_current;
    const QFont number = textFont(chosen ? 17 : 15, true);
    const int value = QFontMetrics(number).horizontalAdvance(r.text) + (r.withoutManual.isEmpty() ? 0 : 18);
    const double textWidth = 132;
    p.setFont(textFont(chosen ? 15 : 14, r.judged && r.judgement.verdict == Verdict::Outside));
    p.setPen(m_theme.ink);
    // In one line the scale stands between title and value.
    const double room = chosen ? inner.width() - value - 12 : 0.42 * inner.width();
    const QString title = p.fontMetrics().elidedText(r.title, Qt::ElideRight, static_cast<int>(room));
    const double titled = p.fontMetrics().horizontalAdvance(title) + 10;
    p.drawText(inner, Qt::AlignLeft | Qt::AlignTop, title);
    p.setFont(number);
    p.drawText(inner, Qt::AlignRight | Qt::AlignTop, r.text);
    if (!r.withoutManual.isEmpty()) {
        // The coach's, not Zevo's: the square that corrected points have.
        p.setPen(QPen(m_theme.ink, 1.6));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(inner.right() - value + 1, inner.top() + 5, 9, 9));
    }
    if (!chosen) {
        const double valueRoom = std::max(value + 10.0, 0.27 * inner.width());
        return drawScale(p, QRectF(inner.left() + room + 8, inner.top() - 2, inner.width() - room - 8 - valueRoom, 24),
                         r);
    }
    QString aside = r.reason;
    if (!r.withoutManual.isEmpty()) aside = tr("corrected; Zevo saw %1").arg(r.withoutManual);
    p.setFont(textFont(12));
    p.setPen(m_theme.faint);
    const QRectF beside = inner.adjusted(titled, 3, -value - 8, 0);
    p.drawText(beside, Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(aside, Qt::ElideRight, static_cast<int>(beside.width())));
    drawScale(p, QRectF(inner.left(), inner.top() + 24, inner.width() - textWidth, 24), r);
    p.setFont(textFont(12));
    p.setPen(m_theme.faint);
    QString side = r.bandText;
    if (r.judged && r.judgement.verdict == Verdict::Unsure) side = tr("unsure · %1").arg(side);
    if (!r.judged) side = r.bandText.isEmpty() ? tr("not judged") : tr("not judged · %1").arg(r.bandText);
    p.drawText(QRectF(inner.right() - textWidth, inner.top() + 24, textWidth, 24), Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(side, Qt::ElideRight, static_cast<int>(textWidth) - 4));
}

void ReadingColumn::paintEvent(QPaintEvent* e) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < rows(); ++i)
        if (rowRect(i).intersects(e->rect())) drawRow(p, i);
    if (hasFocus() && currentRow() >= 0) {
        p.setPen(QPen(m_theme.ink, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(rowRect(currentRow()).adjusted(2, 4, -2, -4), 8, 8);
    }
}

void ReadingColumn::mousePressEvent(QMouseEvent* e) {
    const int row = rowAt(e->position().y());
    if (row >= 0) emit chosen(reading(row).id);
}

void ReadingColumn::keyPressEvent(QKeyEvent* e) {
    if (rows() == 0 || (e->key() != Qt::Key_Up && e->key() != Qt::Key_Down)) return QWidget::keyPressEvent(e);
    emit chosen(reading(std::clamp(currentRow() + (e->key() == Qt::Key_Down ? 1 : -1), 0, rows() - 1)).id);
}

bool ReadingColumn::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        const int row = rowAt(help->pos().y());
        if (row >= 0) {
            const auto& r = reading(row);
            QToolTip::showText(
                help->globalPos(),
                QString("%1\nsure of what was seen: %2 %").arg(spokenWhy(r)).arg(qRound(100 * r.confidence)), this);
        }
        return true;
    }
    return QWidget::event(e);
}

}  // namespace zevo::app
