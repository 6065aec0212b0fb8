// Drawings on any device, without a widget: tiles, lines over the picture, courses, fault figures.
#include <QFontDatabase>
#include <QImage>
#include <QPainter>
#include <QPicture>
#include <algorithm>

#include "catalog/data_files.h"
#include "present/paint/course.h"
#include "present/paint/fault_figure.h"
#include "present/paint/picture_lines.h"
#include "present/paint/tile.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::present;

namespace {

using Drawing = std::function<void(QPainter&)>;

QImage drawn(const Drawing& draw, QSize size) {
    QImage out(size, QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    QPainter p(&out);
    draw(p);
    return out;
}

/// Pixels that are not as they were, and where.
QRect inkOf(const QImage& image) {
    QRect out;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (qAlpha(image.pixel(x, y)) > 0) out |= QRect(x, y, 1, 1);
    return out;
}

int pixelsOf(const QImage& image, const QColor& colour) {
    int n = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) n += image.pixelColor(x, y) == colour;
    return n;
}

ReviewPresenter::Tile tile() {
    ReviewPresenter::Tile t;
    t.number = 3, t.depth = "14° below level";
    t.outline = QPolygonF({{100, 100}, {180, 100}, {180, 300}, {100, 300}});
    t.knee = {150, 220}, t.hip = {110, 230}, t.line = {110, 220}, t.hasLine = true;
    t.depthVerdict = Verdict::Outside, t.depthMarked = true;
    return t;
}

CoursePicture course() {
    CoursePicture c;
    c.movementTitle = "Squat", c.measure = MeasureId::named("thigh_angle");
    const QDate day(2026, 5, 1);
    c.points = {{day, 10, 2}, {day.addDays(7), 14, 1}, {day.addDays(7), 18, 1.5}, {day.addDays(21), 20, 1}};
    c.noise = 2, c.target = 22, c.min = 15;
    return c;
}

Overlay overlay() {
    Overlay o;
    o.lines = {{{100, 200}, {200, 200}}};
    o.ghosts = {{{100, 200}, {200, 240}}};
    o.arc = Overlay::Arc{{100, 200}, 0, 25};
    o.dots = {{100, 200}, {200, 200}};
    o.label = {150, 180};
    return o;
}

}  // namespace

class TestPaint : public QObject {
    Q_OBJECT
  private slots:
    /// Each drawing in a box of its own size, and nothing outside of it; a painter is left as it was found; and a
    /// device that only records (a page, a clip later) shows the same.
    void drawingsKeepToThemselves_data() {
        QTest::addColumn<int>("which");
        QTest::newRow("tile") << 0;
        QTest::newRow("fault") << 1;
        QTest::newRow("course") << 2;
        QTest::newRow("reading") << 3;
        QTest::newRow("marked point") << 4;
        QTest::newRow("note") << 5;
        QTest::newRow("number") << 6;
    }
    void drawingsKeepToThemselves() {
        QFETCH(int, which);
        const QRectF box(40, 30, 260, 160);
        const Theme theme = lightTheme();
        const QTransform place = QTransform::fromTranslate(40, 30).scale(0.5, 0.5);
        const Drawing draw = [&](QPainter& p) {
            switch (which) {
                case 0: drawTile(p, box, tile(), tileWindow({tile()}), {.current = true}, theme); break;
                case 1: drawFault(p, box, "squat", {{"heel", 20}}, theme); break;
                case 2: drawCourse(p, box, course(), Lengths::Metric, theme); break;
                case 3: drawReading(p, overlay(), place, theme); break;
                case 4: drawMarkedPoint(p, {120, 100}, true, "bar end", theme); break;
                case 5: drawNote(p, "Sit between the heels", box); break;
                default: drawNumberPlate(p, "14°", overlay(), QRectF(60, 60, 60, 34), place);
            }
        };
        const Drawing careful = [&](QPainter& p) {
            p.setPen(QPen(Qt::red, 7));
            p.setBrush(Qt::green);
            p.setOpacity(0.75);
            const QPen pen = p.pen();
            const QTransform transform = p.transform();
            draw(p);
            QCOMPARE(p.pen(), pen);
            QCOMPARE(p.brush().color(), QColor(Qt::green));
            QCOMPARE(p.opacity(), 0.75);
            QCOMPARE(p.transform(), transform);
        };
        (void)drawn(careful, {360, 240});
        const QImage image = drawn(draw, {360, 240});
        const QRect ink = inkOf(image);
        QVERIFY(!ink.isEmpty());
        QVERIFY2(box.adjusted(-2, -2, 2, 2).contains(QRectF(ink)),
                 qPrintable(QString("%1 %2 %3 %4").arg(ink.left()).arg(ink.top()).arg(ink.right()).arg(ink.bottom())));
        QPicture recorded;
        {
            QPainter p(&recorded);
            draw(p);
        }
        const QImage again = drawn([&](QPainter& p) { p.drawPicture(0, 0, recorded); }, {360, 240});
        QCOMPARE(inkOf(again).adjusted(-2, -2, 2, 2).contains(ink), true);
    }

    void aTileTellsItsVerdictByShapeAndColour() {
        const Theme theme = lightTheme();
        auto t = tile();
        const QRectF box(0, 0, 160, 134);
        auto picture = [&] {
            return drawn([&](QPainter& p) { drawTile(p, box, t, tileWindow({t}), {}, theme); }, {160, 134});
        };
        QVERIFY(pixelsOf(picture(), theme.outside) > 20);  // chevron and depth line
        t.depthVerdict = Verdict::Inside;
        const QImage inside = picture();
        QCOMPARE(pixelsOf(inside, theme.outside), 0);
        t.leftOut = true;
        QVERIFY(picture() != inside);
        // Where the outline was lost the limbs stand in for it.
        t.leftOut = false, t.outline = {}, t.limbs = {{{100, 300}, {150, 220}}, {{110, 230}, {120, 120}}};
        QVERIFY(inkOf(picture()).isValid() && picture() != inside);
    }

    void tilesOfASetShareOneScale() {
        auto small = tile(), large = tile();
        large.outline = QPolygonF({{60, 40}, {220, 40}, {220, 300}, {60, 300}});
        const QRectF window = tileWindow({small, large});
        QVERIFY(window.contains(large.outline.boundingRect()) && window.contains(small.outline.boundingRect()));
        QCOMPARE(window, tileWindow({large, small}));
    }

    /// Heads of those who stand upright included.
    void everyFaultsFigureIsDrawnWholeInItsBox() {
        const auto advice = catalog::loadAdvice();
        QVERIFY(bool(advice));
        const QRectF box(20, 20, 80, 80);
        int drawnFigures = 0;
        for (const auto& [fault, card] : advice->faults) {
            if (card.figure.empty()) continue;
            const QString figure = QString::fromStdString(card.figure);
            QVERIFY2(!faultLines(figure, {}).empty(), fault.c_str());
            QVERIFY2(faultLines(figure, {}) != faultLines(figure, card.turned), fault.c_str());  // it shows something
            const QRect ink =
                inkOf(drawn([&](QPainter& p) { drawFault(p, box, figure, card.turned, lightTheme()); }, {120, 120}));
            QVERIFY2(box.contains(QRectF(ink)), fault.c_str());
            QVERIFY2(ink.height() > 60 || ink.width() > 60, fault.c_str());
            ++drawnFigures;
        }
        QVERIFY(drawnFigures > 30);
        QVERIFY(faultLines("somersault", {}).empty());
    }

    /// The number neither covers the body nor leaves the picture, wherever the client stands.
    void theNumberStandsBesideTheBody() {
        const QRectF picture(0, 0, 640, 360);
        const QTransform place = QTransform::fromScale(0.5, 0.5);
        for (int x = 0; x <= 1000; x += 50)
            for (int w : {150, 280}) {
                const QRectF body(x, 100, w, 550);
                const QRectF plate = numberPlate("14° below level", overlay(), body, picture, place);
                QVERIFY(picture.contains(plate));
                QVERIFY2(!plate.intersects(place.mapRect(body)), qPrintable(QString::number(x)));
            }
        QVERIFY(numberPlate({}, overlay(), {}, picture, place).isEmpty());
    }

    void aCourseWithOneSetIsADotInTheMiddle() {
        CoursePicture c = course();
        c.points.resize(1), c.target.reset(), c.min.reset(), c.noise = 0;
        const Theme theme = darkTheme();
        const QImage image = drawn(
            [&](QPainter& p) {
                drawCourse(p, {0, 0, 240, 118}, c, Lengths::Metric, theme);
            },
            {240, 118});
        QRect dot;
        for (int y = 32; y < 92; ++y)
            for (int x = 4; x < 236; ++x)
                if (image.pixelColor(x, y) == theme.accent) dot |= QRect(x, y, 1, 1);
        QVERIFY(dot.isValid());
        QVERIFY(std::abs(dot.center().x() - 120) <= 2);
    }
};

ZEVO_DRAWING_SUITE(TestPaint, "paint")
#include "test_paint.moc"
