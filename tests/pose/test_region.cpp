// The regions networks look at, and how pictures are sampled into them.
#include <QTest>
#include <numbers>

#include "pose/region.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::pose;

namespace {

/// Value = x + 4 y in the red channel, exact in every pixel.
Picture ramp(int w, int h) {
    Picture p(w, h);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) p.at(x, y)[0] = static_cast<std::uint8_t>(x + 4 * y);
    return p;
}

std::vector<float> sample(const Picture& p, const Region& r, int side, Border border) {
    std::vector<float> out(static_cast<std::size_t>(side) * side * 3);
    sampleRegion(p.view(), r, side, border, 1, 0, out);
    return out;
}

}  // namespace

class TestRegion : public QObject {
    Q_OBJECT
  private slots:
    void regionStandsOnItsTwoPoints() {
        // Straight up: no turn. Half the side reaches 1.25 times the distance.
        const Region up = Region::fromPoints(100, 200, 100, 120);
        NEAR(up.rotation, 0, 1e-12);
        NEAR(up.size, 2 * 1.25 * 80, 1e-9);
        NEAR(up.centreX, 100, 0);
        // Lying to the right: a quarter turn clockwise.
        NEAR(Region::fromPoints(0, 0, 50, 0).rotation, std::numbers::pi / 2, 1e-12);
        // The turn stays within −π … π.
        for (double a = 0; a < 6.3; a += 0.1) {
            const Region r = Region::fromPoints(10, 10, 10 + std::cos(a), 10 + std::sin(a));
            QVERIFY(r.rotation >= -std::numbers::pi && r.rotation <= std::numbers::pi);
        }
    }

    void theUpperPointComesOutStraightAboveTheCentre() {
        for (double a = 0; a < 6.3; a += 0.37) {
            const double px = 30 + 20 * std::cos(a), py = 40 + 20 * std::sin(a);
            const Region r = Region::fromPoints(30, 40, px, py);
            double x = 0, y = 0;
            r.toPicture(0.5, 0.5 - 0.5 / 1.25, x, y);  // 1 / 1.25 of the way up from the centre
            NEAR(x, px, 1e-9);
            NEAR(y, py, 1e-9);
        }
    }

    void samplingTheWholePictureIsThePicture() {
        const Picture p = ramp(32, 32);
        const auto out = sample(p, {16, 16, 32, 0}, 32, Border::Replicate);
        for (int y = 0; y < 32; ++y)
            for (int x = 0; x < 32; ++x) NEAR(out[static_cast<std::size_t>(y * 32 + x) * 3], p.at(x, y)[0], 1e-3);
    }

    void samplingBetweenPixelsIsLinear() {
        const Picture p = ramp(32, 32);
        // Twice as fine, in the middle of the picture, away from its edges.
        const auto out = sample(p, {16, 16, 16, 0}, 32, Border::Replicate);
        for (int j = 0; j < 32; ++j)
            for (int i = 0; i < 32; ++i) {
                const double x = 8 + (i + 0.5) / 2 - 0.5, y = 8 + (j + 0.5) / 2 - 0.5;
                NEAR(out[static_cast<std::size_t>(j * 32 + i) * 3], x + 4 * y, 1e-3);
            }
    }

    void aQuarterTurnTurns() {
        const Picture p = ramp(32, 32);
        const auto out = sample(p, {16, 16, 32, std::numbers::pi / 2}, 32, Border::Replicate);
        // The crop's right is the picture's down, its down the picture's left.
        for (int j = 1; j < 31; ++j)
            for (int i = 1; i < 31; ++i) NEAR(out[static_cast<std::size_t>(j * 32 + i) * 3], p.at(31 - j, i)[0], 1e-2);
    }

    void outsideIsBlackOrTheEdge() {
        Picture p(8, 8);
        std::fill(p.rgb.begin(), p.rgb.end(), 200);
        const Region beside{-20, 4, 8, 0};
        for (float v : sample(p, beside, 8, Border::Black)) NEAR(v, 0, 0);
        for (float v : sample(p, beside, 8, Border::Replicate)) NEAR(v, 200, 1e-3);
        // Across the edge both are right on their side of it.
        const auto half = sample(p, {0, 4, 8, 0}, 8, Border::Black);
        NEAR(half[3 * (8 * 4 + 1)], 0, 0);
        NEAR(half[3 * (8 * 4 + 6)], 200, 1e-3);
    }

    void valuesAreScaledAndShifted() {
        Picture p(4, 4);
        std::fill(p.rgb.begin(), p.rgb.end(), 255);
        std::vector<float> out(4 * 4 * 3);
        sampleRegion(p.view(), {2, 2, 2, 0}, 4, Border::Replicate, 1 / 127.5F, -1, out);
        for (float v : out) NEAR(v, 1, 1e-5);
    }
};

ZEVO_SUITE(TestRegion, "region")
#include "test_region.moc"
