#include "present/paint/course.h"

#include <QCoreApplication>
#include <QLocale>
#include <QPainter>
#include <algorithm>

namespace zevo::present {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("Course", text);
}

}  // namespace

void drawCourse(QPainter& p, const QRectF& box, const CoursePicture& c, Lengths lengths, const Theme& theme) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(theme.line, 1));
    p.setBrush(theme.panel);
    p.drawRoundedRect(box, 10, 10);
    const QRectF r = box.adjusted(14, 30, -14, -24);
    double low = c.points.front().value, high = low;
    auto hold = [&](double v) { low = std::min(low, v), high = std::max(high, v); };
    for (const auto& point : c.points) hold(point.value - point.pm90), hold(point.value + point.pm90);
    if (c.target) hold(*c.target);
    // The band's edge where it is near: one far away would press the course flat.
    const double span = std::max(high - low, 1e-6);
    for (const auto& edge : {c.min, c.max})
        if (edge && *edge > low - span && *edge < high + span) hold(*edge);
    const double air = 0.12 * std::max(high - low, 1e-6);
    low -= air, high += air;
    auto y = [&](double v) { return r.bottom() - (v - low) / (high - low) * r.height(); };
    const auto first = c.points.front().day.toJulianDay(), last = c.points.back().day.toJulianDay();
    // By day, and sets of one day beside each other.
    auto x = [&](std::size_t i) {
        const double byOrder =
            c.points.size() > 1 ? static_cast<double>(i) / static_cast<double>(c.points.size() - 1) : 0.5;
        const double byDay = last > first ? static_cast<double>(c.points[i].day.toJulianDay() - first) /
                                                static_cast<double>(last - first)
                                          : byOrder;
        return r.left() + (last > first ? 0.85 * byDay + 0.15 * byOrder : byOrder) * r.width();
    };
    p.setPen(Qt::NoPen);
    if (c.min || c.max) {
        const double top = c.max ? std::clamp(y(*c.max), r.top(), r.bottom()) : r.top(),
                     bottom = c.min ? std::clamp(y(*c.min), r.top(), r.bottom()) : r.bottom();
        p.setBrush(theme.band);
        p.drawRect(QRectF(r.left(), top, r.width(), bottom - top));
    }
    if (c.noise > 0) {
        QColor noise = theme.faint;
        noise.setAlphaF(0.2F);
        p.setBrush(noise);
        const double v = c.points.back().value;
        p.drawRect(QRectF(r.left(), y(v + c.noise), r.width(), y(v - c.noise) - y(v + c.noise)));
    }
    if (c.target) {
        p.setPen(QPen(theme.ghost, 2.5, Qt::DotLine, Qt::RoundCap));
        p.drawLine(QPointF(r.left(), y(*c.target)), QPointF(r.right(), y(*c.target)));
    }
    QPolygonF line;
    for (std::size_t i = 0; i < c.points.size(); ++i) line << QPointF(x(i), y(c.points[i].value));
    p.setPen(QPen(theme.accent, 2));
    p.drawPolyline(line);
    for (std::size_t i = 0; i < c.points.size(); ++i) {
        const auto& point = c.points[i];
        p.setPen(QPen(theme.ink, 1.4));
        p.drawLine(QPointF(x(i), y(point.value - point.pm90)), QPointF(x(i), y(point.value + point.pm90)));
        p.setPen(Qt::NoPen);
        p.setBrush(theme.accent);
        p.drawEllipse(QPointF(x(i), y(point.value)), 4, 4);
    }
    p.setFont(textFont(13, true));
    p.setPen(theme.ink);
    const QString value = readingText(c.measure, c.points.back().value, c.points.back().pm90, lengths);
    const int valueWidth = p.fontMetrics().horizontalAdvance(value) + 10;
    p.drawText(box.adjusted(14, 8, -14, 0), Qt::AlignRight | Qt::AlignTop, value);
    p.setFont(textFont(13));
    p.drawText(box.adjusted(14, 8, -14, 0), Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(QString::fromUtf8(c.measure->title), Qt::ElideRight,
                                          static_cast<int>(box.width() - 28 - valueWidth)));
    p.setFont(textFont(12));
    p.setPen(theme.faint);
    const QString days = last > first ? tr("%1 – %2").arg(QLocale().toString(c.points.front().day, "d MMM"),
                                                          QLocale().toString(c.points.back().day, "d MMM"))
                                      : QLocale().toString(c.points.back().day, "d MMM");
    p.drawText(box.adjusted(14, 0, -14, -5), Qt::AlignLeft | Qt::AlignBottom,
               p.fontMetrics().elidedText(tr("%1 · %2").arg(c.movementTitle, days), Qt::ElideRight,
                                          static_cast<int>(box.width() - 28)));
    p.restore();
}

}  // namespace zevo::present
