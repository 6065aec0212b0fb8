// Angles and outlines against a worked example by hand.
#include <cmath>
#include <numbers>

#include "core/base/angles.h"
#include "core/base/contour.h"
#include "core/measures/error_model.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

class TestGeometry : public QObject {
    Q_OBJECT
  private slots:
    /// A squat drawn on squared paper, one square = 10 cm, the client facing right:
    /// ankle (0, 1), knee (2, 4.5), hip (−2, 5), shoulder (1, 9).
    /// shin atan(2 / 3.5) = 29.745°, thigh rise 0.5 over 4 → atan(0.125) = 7.125°,
    /// trunk atan(3 / 4) = 36.870°. Knee flexion = shin + (90° − thigh) = 112.620°; hip flexion = trunk + (90° − thigh)
    /// = 119.745°.
    void workedExample() {
        const Vec2 ankle(0, 1), knee(2, 4.5), hip(-2, 5), shoulder(1, 9);
        NEAR(shinAngle(ankle, knee), 29.745, 0.001);
        NEAR(thighAngle(knee, hip), 7.125, 0.001);
        NEAR(trunkLean(hip, shoulder), 36.870, 0.001);
        NEAR(kneeFlexion(hip, knee, ankle), 112.620, 0.001);
        NEAR(hipFlexion(shoulder, hip, knee), 119.745, 0.001);
    }

    void standingStraightIsZero() {
        const Vec2 ankle(0, 0), knee(0, 1), hip(0, 2), shoulder(0, 3);
        NEAR(kneeFlexion(hip, knee, ankle), 0, 1e-9);
        NEAR(hipFlexion(shoulder, hip, knee), 0, 1e-9);
        NEAR(trunkLean(hip, shoulder), 0, 1e-9);
        NEAR(thighAngle(knee, hip), 90, 1e-9);
    }

    void signs() {
        NEAR(thighAngle({2, 4}, {-2, 3}), -14.036, 0.001);       // hip under the knee
        NEAR(trunkLean({0, 0}, {-1, 4}), -14.036, 0.001);        // leaning back
        QVERIFY(kneeFlexion({-0.1, 2}, {-0.2, 1}, {0, 0}) < 0);  // past straight
        // Folded flat and further, as it can look from the side, is not bent the other way.
        NEAR(hipFlexion({0.5, -0.1}, {0, 0}, {0.5, 0}), 90 + 90 + 11.310, 0.001);
    }

    void pointsThatMeetHaveNoAngle() {
        QVERIFY(std::isnan(shinAngle({1, 1}, {1, 1})));
        QVERIFY(std::isnan(thighAngle({1, 1}, {1, 1})));
        QVERIFY(std::isnan(kneeFlexion({1, 1}, {1, 1}, {0, 0})));
    }

    void wrapping() {
        NEAR(wrapDegrees(190), -170, 1e-9);
        NEAR(wrapDegrees(-190), 170, 1e-9);
        NEAR(wrapDegrees(720), 0, 1e-9);
    }

    void outlineOfADisc() {
        const int side = 64;
        std::vector<float> field(side * side);
        for (int j = 0; j < side; ++j)
            for (int i = 0; i < side; ++i)
                field[static_cast<std::size_t>(j) * side + i] =
                    static_cast<float>(0.5 + 0.1 * (20 - std::hypot(i + 0.5 - 30, j + 0.5 - 34)));
        const auto line = largestContour(field, side, side, 0.5F);
        QVERIFY(line.size() > 80);
        double area = 0;
        for (std::size_t k = 0; k < line.size(); ++k) {
            NEAR((line[k] - Vec2(30, 34)).norm(), 20, 0.05);
            const Vec2 &p = line[k], &q = line[(k + 1) % line.size()];
            area += (p.x() * q.y() - q.x() * p.y()) / 2;
        }
        NEAR(std::abs(area), std::numbers::pi * 400, 4);
    }

    /// Ramer, Douglas and Peucker's promise: what is left out lies no further away than the tolerance.
    void aSimplerLineStaysWhereItWas() {
        std::vector<Vec2> line;
        for (int k = 0; k < 400; ++k) {
            const double a = 2 * std::numbers::pi * k / 400, r = 20 + 3 * std::sin(5 * a);
            line.emplace_back(r * std::cos(a), r * std::sin(a));
        }
        const auto simple = simplified(line, 0.1);
        QVERIFY(simple.size() > 20 && simple.size() < 120);
        for (const Vec2& p : line) {
            double nearest = 1e9;
            for (std::size_t i = 0; i < simple.size(); ++i) {
                const Vec2 a = simple[i], along = simple[(i + 1) % simple.size()] - a;
                const double w = std::clamp((p - a).dot(along) / along.squaredNorm(), 0.0, 1.0);
                nearest = std::min(nearest, (p - a - w * along).norm());
            }
            QVERIFY2(nearest <= 0.1 + 1e-9, qPrintable(QString::number(nearest)));
        }
        QCOMPARE(simplified({{0, 0}, {1, 0}, {1, 1}}, 5).size(), std::size_t{3});
    }

    void outlineOfNothingAndOfEverything() {
        QVERIFY(largestContour(std::vector<float>(100, 0.1F), 10, 10, 0.5F).empty());
        QVERIFY(!largestContour(std::vector<float>(100, 0.9F), 10, 10, 0.5F).empty());  // the rim of the field
        QVERIFY(largestContour(std::vector<float>(99, 0.9F), 10, 10, 0.5F).empty());    // sizes that do not fit
    }

    void onlyTheLargestOutlineIsKept() {
        std::vector<float> field(400, 0);
        for (int j = 2; j < 12; ++j)
            for (int i = 2; i < 12; ++i) field[static_cast<std::size_t>(j) * 20 + i] = 1;
        field[17 * 20 + 17] = 1;
        for (const Vec2& p : largestContour(field, 20, 20, 0.5F)) QVERIFY(p.x() < 13 && p.y() < 13);
    }

    void turnedCamerasShortenAngles() {
        NEAR(foreshortening(40, 0), 0, 1e-9);
        // A 45° line seen 60° off square: atan(tan 45° · cos 60°) = 26.565°.
        NEAR(foreshortening(45, 60), 45 - 26.565, 0.001);
        QVERIFY(foreshortening(40, 20) > foreshortening(40, 10));
    }
};

ZEVO_SUITE(TestGeometry, "geometry")
#include "test_geometry.moc"
