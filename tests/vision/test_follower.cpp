// A point followed from picture to picture: on pictures that are warped exactly, so that the truth is a formula.

#include "tests/support/made_sets.h"
#include "tests/support/suite.h"
#include "vision/point_follower.h"

using namespace zevo;

namespace {

const double kPi = std::acos(-1.0);

/// The tone of a wall that nowhere looks alike, at a place of it: numbers without pattern on a grid, smooth between.
double tone(double u, double v) {
    constexpr double kGrid = 8;
    auto of = [](long x, long y) {
        auto h = static_cast<std::uint32_t>(x * 73856093L) ^ static_cast<std::uint32_t>(y * 19349663L);
        h = (h ^ (h >> 16)) * 0x7feb352dU;
        h = (h ^ (h >> 15)) * 0x846ca68bU;
        return static_cast<double>((h ^ (h >> 16)) & 0xffff) / 65535;
    };
    auto soft = [](double w) { return w * w * w * (w * (6 * w - 15) + 10); };
    const double gx = u / kGrid, gy = v / kGrid;
    const long x = static_cast<long>(std::floor(gx)), y = static_cast<long>(std::floor(gy));
    const double a = soft(gx - static_cast<double>(x)), b = soft(gy - static_cast<double>(y));
    return 40 + 180 * ((1 - b) * ((1 - a) * of(x, y) + a * of(x + 1, y)) +
                       b * ((1 - a) * of(x, y + 1) + a * of(x + 1, y + 1)));
}

/// Seen turned, grown and shifted about a point: `at` the picture's place of the wall's (u, v).
struct Seen {
    double turnDeg = 0, grown = 1, dx = 0, dy = 0;
    Vec2 at(const Vec2& wall) const {
        const double a = turnDeg * kPi / 180;
        const Vec2 d = wall - Vec2(200, 150);
        return Vec2(200 + dx, 150 + dy) +
               grown * Vec2(std::cos(a) * d.x() - std::sin(a) * d.y(), std::sin(a) * d.x() + std::cos(a) * d.y());
    }
    std::shared_ptr<const GreyPicture> picture(bool covered = false, double light = 1) const {
        GreyPicture p{400, 300, {}};
        const double a = turnDeg * kPi / 180;
        for (int y = 0; y < p.height; ++y)
            for (int x = 0; x < p.width; ++x) {
                const Vec2 d = (Vec2(x, y) - Vec2(200 + dx, 150 + dy)) / grown;
                const double u = 200 + std::cos(a) * d.x() + std::sin(a) * d.y(),
                             v = 150 - std::sin(a) * d.x() + std::cos(a) * d.y();
                const double g = covered && std::abs(x - 200 - dx) < 70 ? 90 : light * tone(u, v);
                p.pixels.push_back(static_cast<std::uint8_t>(std::lround(std::clamp(g, 0.0, 255.0))));
            }
        return std::make_shared<const GreyPicture>(std::move(p));
    }
};

}  // namespace

class TestFollower : public QObject {
    Q_OBJECT

  private slots:
    /// Shifts by parts of a pixel, a slow turn and growth: what an affine warp does to a point is known exactly.
    void exactWarpsAreFollowed() {
        const Vec2 wall(206, 144);
        Seen seen;
        PointFollower follower(seen.picture(), seen.at(wall));
        QVERIFY(follower.minEigenvalue() > PointFollower::kLeastStructure);
        double worst = 0;
        for (int i = 1; i <= 60; ++i) {
            seen.dx = 40 * std::sin(i * 0.11), seen.dy = -25 * std::sin(i * 0.07);
            seen.turnDeg = 0.5 * i, seen.grown = 1 + 0.002 * i;
            const auto step = follower.follow(seen.picture());
            QVERIFY2(step.held, qPrintable(QString("lost in picture %1").arg(i)));
            worst = std::max(worst, (step.at - seen.at(wall)).norm());
        }
        QVERIFY2(worst < 0.7, qPrintable(QString::number(worst)));
    }

    void aPictureThatGetsDarkerIsTheSame() {
        Seen seen;
        PointFollower follower(seen.picture(), {180, 160});
        for (int i = 1; i <= 20; ++i) {
            seen.dx = 2.0 * i;
            const auto step = follower.follow(seen.picture(false, 1 - 0.02 * i));
            QVERIFY(step.held);
            NEAR(step.at.x(), 180 + 2.0 * i, 0.5);
        }
    }

    /// A wall of one tone: there is nothing to follow, and along an edge only one direction of it.
    void aPlainPlaceAndAnEdgeAreNoGoodPlaces() {
        auto held = [](const GreyPicture& p) {
            return PointFollower(std::make_shared<const GreyPicture>(p), {200, 150}).minEigenvalue();
        };
        GreyPicture plain{400, 300, std::vector<std::uint8_t>(400 * 300, 130)};
        QVERIFY(held(plain) < PointFollower::kLeastStructure);
        for (int y = 0; y < 300; ++y)
            for (int x = 200; x < 400; ++x) plain.pixels[static_cast<std::size_t>(400 * y + x)] = 200;
        QVERIFY(held(plain) < PointFollower::kLeastStructure);
        for (int y = 150; y < 300; ++y)
            for (int x = 0; x < 400; ++x) plain.pixels[static_cast<std::size_t>(400 * y + x)] = 60;
        QVERIFY(held(plain) > PointFollower::kLeastStructure);
    }

    /// Something passes before it: no place is made up meanwhile, and it is taken up again where it is.
    void whatIsCoveredIsLostAndFoundAgain() {
        Seen seen;
        PointFollower follower(seen.picture(), {200, 150});
        for (int i = 0; i < 5; ++i) QVERIFY(follower.follow(seen.picture()).held);
        for (int i = 0; i < 6; ++i) {
            const auto step = follower.follow(seen.picture(true));
            QVERIFY2(!step.held, qPrintable(QString("held while covered, %1").arg(step.match)));
        }
        seen.dx = 9, seen.dy = -4;
        const auto again = follower.follow(seen.picture());
        QVERIFY(again.held);
        NEAR(again.at.x(), 209, 0.5);
        NEAR(again.at.y(), 146, 0.5);
    }

    void whatLeavesThePictureIsLost() {
        Seen seen;
        PointFollower follower(seen.picture(), {30, 150});
        bool held = true;
        for (int i = 1; i <= 12; ++i) {
            seen.dx = -6.0 * i;
            const auto step = follower.follow(seen.picture());
            held = step.held;
            if (held) QVERIFY((step.at - Vec2(30 + seen.dx, 150)).norm() < 2);
        }
        QVERIFY(!held);
    }

    /// A jump that no step reaches is said to be lost, not followed to another blob.
    void aCutIsALoss() {
        Seen seen;
        PointFollower follower(seen.picture(), {200, 150});
        QVERIFY(follower.follow(seen.picture()).held);
        seen.dx = 900;  // another wall altogether
        QVERIFY(!follower.follow(seen.picture()).held);
    }
};

ZEVO_SUITE(TestFollower, "follower")
#include "test_follower.moc"
