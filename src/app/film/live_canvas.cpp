#include "app/film/live_canvas.h"

#include <QLocale>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace zevo::app {
namespace {

using Phase = Filming::Phase;

const QColor kPlate(20, 18, 15, 214), kWords(255, 252, 245), kSoft(226, 219, 205);

/// What is read from three metres is a twelfth of the picture high.
QFont big(const QRectF& r, double share, bool bold = true) {
    return textFont(std::max(12, static_cast<int>(r.height() * share)), bold);
}

/// Longer sentences shrink rather than break.
void drawFitting(QPainter& p, const QRectF& room, const QString& text, QFont font, const QColor& ink) {
    while (font.pixelSize() > 14 && QFontMetricsF(font).horizontalAdvance(text) > room.width() * 0.94)
        font.setPixelSize(font.pixelSize() - 2);
    p.setFont(font);
    p.setPen(ink);
    p.drawText(room, Qt::AlignCenter, text);
}

}  // namespace

LiveCanvas::LiveCanvas(For whom, QWidget* parent) : QWidget(parent), m_for(whom) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setAccessibleName(tr("Live picture"));
}

void LiveCanvas::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void LiveCanvas::setLook(const std::shared_ptr<const Picture>& picture, double scale) {
    m_picture = picture;
    m_scale = scale;
    m_image = picture ? QImage(picture->rgb.data(), picture->width, picture->height, picture->width * 3,
                               QImage::Format_RGB888)
                      : QImage();
    update();
}

void LiveCanvas::setScene(const Scene& scene) {
    m_scene = scene;
    // What is shown is also read out.
    setAccessibleDescription(scene.phase == Phase::Filming ? tr("%n rep(s)", "", scene.reps) : scene.sentence);
    update();
}

void LiveCanvas::setInset(const std::shared_ptr<const Picture>& picture) {
    m_inset = picture;
    update();
}

void LiveCanvas::clear() {
    m_inset.reset();
    m_image = {};
    m_picture.reset();
    update();
}

QRectF LiveCanvas::pictureRect() const {
    const QSizeF fit =
        QSizeF(m_image.isNull() ? QSize(16, 9) : m_image.size()).scaled(QSizeF(size()), Qt::KeepAspectRatio);
    return {(width() - fit.width()) / 2, (height() - fit.height()) / 2, fit.width(), fit.height()};
}

QPointF LiveCanvas::place(const QPointF& q) const {
    const QRectF r = pictureRect();
    const double k = r.width() / std::max(1.0, m_image.width() * m_scale);
    const double x = q.x() * k;
    return {m_scene.mirrored ? r.right() - x : r.left() + x, r.top() + q.y() * k};
}

void LiveCanvas::paintSentence(QPainter& p, const QRectF& r) const {
    if (m_scene.sentence.isEmpty()) return;
    const bool reason = m_for == For::Coach && !m_scene.reason.isEmpty();
    // Above: feet and floor are what a camera is put up for, over a head there is wall.
    const QRectF plate(r.left(), r.top(), r.width(), r.height() * (reason ? 0.19 : 0.15));
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRect(plate);
    drawFitting(p, plate.adjusted(0, 0, 0, reason ? -plate.height() * 0.3 : 0), m_scene.sentence, big(r, 0.1),
                m_scene.right ? m_theme.ghost : kWords);
    if (!reason) return;
    p.setFont(big(r, 0.034, false));
    p.setPen(kSoft);
    p.drawText(plate.adjusted(0, plate.height() * 0.66, 0, 0), Qt::AlignHCenter | Qt::AlignTop, m_scene.reason);
}

void LiveCanvas::paintBelow(QPainter& p, const QRectF& r, const QString& words) const {
    const QRectF plate(r.left(), r.bottom() - r.height() * 0.13, r.width(), r.height() * 0.13);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRect(plate);
    drawFitting(p, plate, words, big(r, 0.075), kWords);
}

void LiveCanvas::paintRest(QPainter& p, const QRectF& r) const {
    if (m_scene.restS < 0) return;
    const int s = static_cast<int>(m_scene.restS);
    const QString words = tr("rest %1:%2").arg(s / 60).arg(s % 60, 2, 10, QChar('0'));
    p.setFont(big(r, 0.055));
    const QFontMetricsF metrics(p.font());
    const QSizeF size(metrics.horizontalAdvance(words) + r.height() * 0.05, metrics.height() * 1.3);
    const QRectF plate(QPointF(r.right() - size.width(), r.bottom() - r.height() * 0.15 - size.height()), size);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRect(plate);
    p.setPen(kWords);
    p.drawText(plate, Qt::AlignCenter, words);
}

void LiveCanvas::paintMove(QPainter& p, const QRectF& r) const {
    const double s = r.height() * 0.13;
    const QPointF c(r.center().x(), r.center().y() + r.height() * 0.04);
    QPointF at = c;
    double turn = 0;
    bool arc = false, both = false;
    switch (m_scene.move) {
        case CameraMove::None: return;
        case CameraMove::AimLeft:
        case CameraMove::WalkLeft: at.setX(r.left() + 1.3 * s), turn = 180; break;
        case CameraMove::AimRight:
        case CameraMove::WalkRight: at.setX(r.right() - 1.3 * s); break;
        case CameraMove::Up:
        case CameraMove::AimUp: at = {r.right() - 1.5 * s, c.y()}, turn = -90; break;
        case CameraMove::Down:
        case CameraMove::AimDown: at = {r.right() - 1.5 * s, c.y() + s}, turn = 90; break;
        case CameraMove::Back:
        case CameraMove::Nearer: at.setX(r.right() - 1.5 * s), both = true; break;
        case CameraMove::LevelLeft:
        case CameraMove::LevelRight: at.setX(r.right() - 1.7 * s), arc = true; break;
    }
    p.save();
    p.translate(at);
    QPainterPath path;
    if (arc) {
        const bool left = m_scene.move == CameraMove::LevelLeft;
        path.arcMoveTo(-s * 0.7, -s * 0.7, 1.4 * s, 1.4 * s, 90);
        path.arcTo(-s * 0.7, -s * 0.7, 1.4 * s, 1.4 * s, 90, left ? 120 : -120);
        const QPointF tip = path.currentPosition();
        const double dir = left ? 1 : -1;
        path.moveTo(tip + QPointF(dir * 0.34 * s, -0.3 * s));
        path.lineTo(tip);
        path.lineTo(tip + QPointF(-dir * 0.14 * s, -0.46 * s));
    } else if (both) {
        // Nearer: arrows together; back: apart.
        const double in = m_scene.move == CameraMove::Nearer ? 1 : -1;
        for (double side : {-1.0, 1.0}) {
            const double from = side * (in > 0 ? 0.95 : 0.2) * s, to = side * (in > 0 ? 0.2 : 0.95) * s;
            path.moveTo(0, from), path.lineTo(0, to);
            const double d = to > from ? -1 : 1;
            path.moveTo(-0.3 * s, to + d * 0.3 * s), path.lineTo(0, to), path.lineTo(0.3 * s, to + d * 0.3 * s);
        }
    } else {
        p.rotate(turn);
        path.moveTo(-0.9 * s, 0), path.lineTo(0.9 * s, 0);
        path.moveTo(0.35 * s, -0.5 * s), path.lineTo(0.9 * s, 0), path.lineTo(0.35 * s, 0.5 * s);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(20, 18, 15, 200), s * 0.3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPath(path);
    p.setPen(QPen(m_theme.ghost, s * 0.17, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPath(path);
    p.restore();
}

void LiveCanvas::paintLine(QPainter& p) const {
    if (!m_scene.line) return;
    const auto& l = *m_scene.line;
    const QPointF a = place(l.line.p1()), b = place(l.line.p2()), body = place(l.point);
    const double w = std::max(3.0, pictureRect().height() * 0.009);
    p.setPen(QPen(QColor(0, 0, 0, 150), w + 3, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(a, b);
    p.setPen(QPen(m_theme.ghost, w, l.reached ? Qt::SolidLine : Qt::DashLine, Qt::RoundCap));
    p.drawLine(a, b);
    // The point that has to get there: open until it is.
    p.setPen(QPen(QColor(0, 0, 0, 170), w + 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(body, 2.2 * w, 2.2 * w);
    p.setPen(QPen(Qt::white, w));
    p.setBrush(l.reached ? QBrush(m_theme.ghost) : QBrush(Qt::NoBrush));
    p.drawEllipse(body, 2.2 * w, 2.2 * w);
}

void LiveCanvas::paintCount(QPainter& p, const QRectF& r) const {
    const QString number = QString::number(m_scene.reps);
    const QFont font = big(r, m_for == For::Client ? 0.42 : 0.3);
    const QFontMetricsF metrics(font);
    const double wide = std::max(metrics.horizontalAdvance(number), metrics.horizontalAdvance("0")) + r.height() * 0.08;
    const QRectF plate(r.left(), r.top(), wide, metrics.ascent() + r.height() * 0.03);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRect(plate);
    p.setFont(font);
    p.setPen(kWords);
    p.drawText(plate, Qt::AlignCenter, number);
    if (m_for == For::Client) return;
    QString words = tr("filming %1:%2 · %3 s under tension")
                        .arg(static_cast<int>(m_scene.clipS) / 60)
                        .arg(static_cast<int>(m_scene.clipS) % 60, 2, 10, QChar('0'))
                        .arg(QLocale().toString(m_scene.tensionS, 'f', 0));
    if (m_scene.partial > 0) words += tr(" · %n not whole", "", m_scene.partial);
    p.setFont(big(r, 0.038));
    const QFontMetricsF small(p.font());
    const QRectF line(plate.right(), r.top(), small.horizontalAdvance(words) + r.height() * 0.06, small.height() * 1.5);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRect(line);
    p.setPen(kSoft);
    p.drawText(line, Qt::AlignCenter, words);
}

void LiveCanvas::paintTempo(QPainter& p, const QRectF& r) const {
    if (!m_scene.tempo) return;
    const double size = r.height() * 0.075;
    const QRectF track(r.right() - 2.4 * size, r.top() + 0.12 * r.height(), 1.6 * size, 0.6 * r.height());
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRoundedRect(track.adjusted(0, -size, 0, size), track.width() / 2, track.width() / 2);
    p.setPen(QPen(kSoft, 2, Qt::DotLine));
    p.drawLine(QPointF(track.center().x(), track.top()), QPointF(track.center().x(), track.bottom()));
    const QPointF ball(track.center().x(), track.top() + m_scene.tempo->share * track.height());
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.ghost);
    p.drawEllipse(ball, 0.62 * size, 0.62 * size);
    p.setPen(QColor(20, 18, 15));
    p.setFont(big(r, 0.06));
    const int left = std::max(1, static_cast<int>(std::ceil(m_scene.tempo->leftS)));
    if (m_scene.tempo->phase < 3)
        p.drawText(QRectF(ball.x() - size, ball.y() - size, 2 * size, 2 * size), Qt::AlignCenter,
                   QString::number(left));
    if (m_scene.tempoWord.isEmpty()) return;
    p.setFont(big(r, 0.05));
    const double wide = QFontMetricsF(p.font()).horizontalAdvance(m_scene.tempoWord) + size;
    const QRectF word(track.left() - wide - 8, ball.y() - 0.6 * size, wide, 1.2 * size);
    p.setPen(Qt::NoPen);
    p.setBrush(kPlate);
    p.drawRoundedRect(word, 6, 6);
    p.setPen(kWords);
    p.drawText(word, Qt::AlignCenter, m_scene.tempoWord);
}

void LiveCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = pictureRect();
    if (m_image.isNull()) {
        p.setPen(Qt::NoPen);
        p.setBrush(m_theme.sunken);
        p.drawRoundedRect(r, 8, 8);
    } else if (m_scene.mirrored) {
        p.save();
        p.translate(r.right(), r.top());
        p.scale(-1, 1);
        p.drawImage(QRectF(QPointF(), r.size()), m_image);
        p.restore();
    } else {
        p.drawImage(r, m_image);
    }
    if (m_inset && m_for == For::Coach) {
        const QImage other(m_inset->rgb.data(), m_inset->width, m_inset->height, m_inset->width * 3,
                           QImage::Format_RGB888);
        const QSizeF size = QSizeF(other.size()).scaled(r.size() * 0.27, Qt::KeepAspectRatio);
        const bool words = (!m_scene.before.isEmpty() && m_scene.right) || !m_scene.cue.isEmpty();
        const QRectF corner(QPointF(r.left() + 8, r.bottom() - size.height() - 8 - (words ? r.height() * 0.13 : 0)),
                            size);
        p.drawImage(corner, other);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(kWords, 2));
        p.drawRect(corner);
    }
    switch (m_scene.phase) {
        case Phase::Off:
        case Phase::Opening:
        case Phase::Ending: paintSentence(p, r); break;
        case Phase::Watching:
            if (m_scene.room && m_for == For::Coach) {
                // What the movement needs: only where it does not fit.
                const QRectF room(place({m_scene.room->left, m_scene.room->top}),
                                  place({m_scene.room->right, m_scene.room->bottom}));
                p.setBrush(Qt::NoBrush);
                p.setPen(QPen(m_theme.ghost, 3, Qt::DotLine));
                p.drawRoundedRect(room.normalized(), 14, 14);
            }
            paintMove(p, r);
            // While the camera is put up the coach needs to see the feet.
            if (!m_scene.before.isEmpty() && (m_scene.right || m_for == For::Client)) paintBelow(p, r, m_scene.before);
            paintRest(p, r);
            paintSentence(p, r);
            break;
        case Phase::CountingIn: {
            const QString number = QString::number(std::max(1, static_cast<int>(std::ceil(m_scene.countInS))));
            p.setPen(Qt::NoPen);
            p.setBrush(kPlate);
            p.drawEllipse(r.center(), r.height() * 0.27, r.height() * 0.27);
            p.setFont(big(r, 0.4));
            p.setPen(kWords);
            p.drawText(r, Qt::AlignCenter, number);
            break;
        }
        case Phase::Filming:
            paintLine(p);
            paintCount(p, r);
            paintTempo(p, r);
            if (!m_scene.cue.isEmpty()) paintBelow(p, r, m_scene.cue);
            break;
    }
}

}  // namespace zevo::app
