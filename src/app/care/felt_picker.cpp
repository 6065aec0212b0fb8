#include "app/care/felt_picker.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <cmath>

#include "core/judge/stop_rules.h"
#include "present/words.h"

namespace zevo::app {
namespace {

constexpr int kWidth = 548, kHeight = 480, kBody = 118, kTop = 104, kTall = 340;
constexpr double kSpot = 11;

/// Places on the body, shares of its box: on which of the two figures, across, down.
struct Place {
    const char* id;
    bool back;
    double x, y;
};
constexpr Place kPlaces[]{
    {"neck", true, 0.50, 0.13},         {"shoulder", true, 0.24, 0.20},     {"mid-back", true, 0.50, 0.28},
    {"low-back", true, 0.50, 0.40},     {"seat", true, 0.40, 0.49},         {"hamstring", true, 0.38, 0.62},
    {"calf", true, 0.38, 0.82},         {"belly", false, 0.50, 0.38},       {"hip-front", false, 0.38, 0.47},
    {"front-thigh", false, 0.36, 0.60}, {"inner-thigh", false, 0.48, 0.58}, {"knee", false, 0.38, 0.72},
    {"foot", false, 0.38, 0.97},        {"rear-leg", false, 0.64, 0.64}};

QRectF bodyBox(bool back) {
    return {back ? 30.0 + kBody + 14 : 22.0, kTop, kBody, kTall};
}

QPointF at(const Place& p) {
    const QRectF box = bodyBox(p.back);
    return {box.x() + p.x * box.width(), box.y() + p.y * box.height()};
}

/// A plain person, arms a little off the sides.
QPainterPath person(const QRectF& b) {
    auto point = [&](double x, double y) { return QPointF(b.x() + x * b.width(), b.y() + y * b.height()); };
    QPainterPath path;
    path.addEllipse(point(0.5, 0.06), 0.10 * b.width(), 0.055 * b.height());
    auto limb = [&](std::initializer_list<QPointF> line, double width) {
        QPainterPath spine;
        spine.moveTo(*line.begin());
        for (const QPointF& p : line) spine.lineTo(p);
        QPainterPathStroker stroker;
        stroker.setWidth(width * b.width());
        stroker.setCapStyle(Qt::RoundCap);
        stroker.setJoinStyle(Qt::RoundJoin);
        path = path.united(stroker.createStroke(spine));
    };
    limb({point(0.5, 0.10), point(0.5, 0.16)}, 0.12);
    limb({point(0.34, 0.20), point(0.66, 0.20), point(0.60, 0.46), point(0.40, 0.46), point(0.34, 0.20)}, 0.16);
    limb({point(0.5, 0.20), point(0.5, 0.46)}, 0.3);
    for (double s : {-1.0, 1.0}) {
        limb({point(0.5 + s * 0.22, 0.20), point(0.5 + s * 0.31, 0.36), point(0.5 + s * 0.33, 0.50)}, 0.10);
        limb({point(0.5 + s * 0.11, 0.48), point(0.5 + s * 0.13, 0.72), point(0.5 + s * 0.12, 0.94)}, 0.17);
        limb({point(0.5 + s * 0.12, 0.96), point(0.5 + s * 0.17, 0.975)}, 0.11);
    }
    return path;
}

}  // namespace

FeltPicker::FeltPicker(QWidget* parent) : QFrame(parent) {
    setObjectName("feltPicker");
    setAccessibleName(tr("Where it was felt"));
    setFocusPolicy(Qt::StrongFocus);
    setFixedSize(kWidth, kHeight);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 14, 16, 12);
    m_pain = new PainRow(tr("Pain after"), "after", this);
    column->addWidget(m_pain);
    connect(m_pain, &PainRow::answered, this, &FeltPicker::painAnswered);
    auto* words = new QVBoxLayout;
    words->setContentsMargins(30 + 2 * kBody + 18, 8, 0, 0);
    words->setSpacing(1);
    column->addLayout(words, 1);
    auto* heading = new QLabel(tr("Where was it felt?"), this);
    heading->setFont(textFont(18, true));
    words->addWidget(heading);
    for (const auto& place : feltPlaces()) {
        auto* box = new QCheckBox(present::feltTitle(place), this);
        box->setObjectName(QString::fromStdString("felt-" + place));
        if (place == "foot-rolls") box->setText(tr("Foot rolls, knee pushed out"));
        words->addWidget(box);
        m_words.emplace_back(place, box);
        connect(box, &QCheckBox::toggled, this, [this] {
            update();
            if (m_filling) return;
            std::vector<std::string> all;
            for (const auto& [id, word] : m_words)
                if (word->isChecked()) all.push_back(id);
            emit felt(all);
        });
    }
    words->addStretch();
    auto* done = new QPushButton(tr("Done"), this);
    done->setObjectName("closeFelt");
    words->addWidget(done);
    connect(done, &QPushButton::clicked, this, &QWidget::hide);
    hide();
}

void FeltPicker::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void FeltPicker::setFelt(const std::vector<std::string>& places) {
    m_filling = true;
    for (const auto& [id, word] : m_words)
        word->setChecked(std::find(places.begin(), places.end(), id) != places.end());
    m_filling = false;
    update();
}

void FeltPicker::setPain(const PainRow::Answer& after) {
    m_pain->setAnswer(after);
}

void FeltPicker::toggle() {
    if (isVisible()) return hide();
    const QRect all = parentWidget()->rect();
    move(all.right() - width() - 20, std::max(0, (all.height() - height()) / 2));
    show();
    raise();
    m_pain->findChild<QWidget*>("afterScore")->setFocus();
}

QPointF FeltPicker::spot(const std::string& place) const {
    for (const Place& p : kPlaces)
        if (place == p.id) return at(p);
    return {};
}

void FeltPicker::mousePressEvent(QMouseEvent* e) {
    const Place* nearest = nullptr;
    double least = 2.2 * kSpot;  // big enough for a thumb
    for (const Place& p : kPlaces) {
        const QPointF d = at(p) - e->position();
        if (const double off = std::hypot(d.x(), d.y()); off < least) least = off, nearest = &p;
    }
    if (!nearest) return;
    for (const auto& [id, word] : m_words)
        if (id == nearest->id) word->toggle();
}

void FeltPicker::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) return hide();
    QFrame::keyPressEvent(e);
}

void FeltPicker::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(m_theme.line, 1));
    p.setBrush(m_theme.panel);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 10, 10);
    p.setFont(textFont(13));
    for (bool back : {false, true}) {
        const QRectF box = bodyBox(back);
        p.setPen(m_theme.faint);
        p.drawText(QRectF(box.x(), kTop - 30, box.width(), 22), Qt::AlignCenter, back ? tr("back") : tr("front"));
        p.setPen(Qt::NoPen);
        p.setBrush(m_theme.sunken);
        p.drawPath(person(box));
    }
    for (const Place& place : kPlaces) {
        const bool on = std::any_of(m_words.begin(), m_words.end(),
                                    [&](const auto& w) { return w.first == place.id && w.second->isChecked(); });
        p.setPen(QPen(on ? m_theme.accent : m_theme.faint, on ? 2 : 1));
        p.setBrush(on ? QBrush(m_theme.accent) : QBrush(Qt::NoBrush));
        p.drawEllipse(at(place), on ? kSpot : 0.5 * kSpot, on ? kSpot : 0.5 * kSpot);
    }
}

}  // namespace zevo::app
