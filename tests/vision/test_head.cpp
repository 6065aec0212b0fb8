// A head laid over itself: turned by exactly as much as is known, and the drawn client's own head.

#include <random>

#include "core/base/angles.h"
#include "core/base/degrees.h"
#include "sim/renderer.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"
#include "vision/head_turn.h"

using namespace zevo;

namespace {

/// Of the client's head as this camera shows it, half from chin to crown.
constexpr double kRadiusPx = 36;

/// The drawn client at a moment, with their head's place as the truth has it.
struct Drawn {
    Picture picture;
    HeadPlace place;
    double turnDeg = 0;  ///< against the clip's first frame, clockwise

    Drawn(const sim::ClipSpec& spec, double timeS) {
        const sim::SpecMotion motion(spec.motion);
        const auto skeleton = motion.at(timeS);
        sim::Mesh mesh;
        sim::buildFigure(skeleton, spec.motion.body, mesh);
        sim::Renderer(spec.scene).draw(mesh, std::lround(timeS * spec.frameRate), picture, timeS);
        const sim::Camera camera(spec.scene.camera);
        const auto pose = sim::truePose(skeleton, camera, timeS);
        auto at = [&](Landmark id) { return Vec2(pose.at(id).x, pose.at(id).y); };
        const Vec2 ear = at(Landmark::RightEar), face = at(Landmark::Nose) - ear;
        place = {ear + 0.4 * face, kRadiusPx, std::atan2(face.y(), face.x()) * kDegreesPerRadian};
        for (const auto& p : sim::truePoses(spec))
            if (std::abs(p.timeS - timeS) < 0.6 / spec.frameRate) turnDeg = p.head.turnDeg;
    }
};

sim::ClipSpec spec(double neckDeg) {
    auto spec = made::spec(1);
    spec.scene.camera = {};
    spec.scene.camera.width = 1280, spec.scene.camera.height = 720;
    spec.motion.reps[0].neckDeg = neckDeg;
    return spec;
}

/// The same picture turned clockwise about a point, in other light.
Picture turned(const Picture& from, const Vec2& about, double degrees, double light, int noise) {
    Picture out(from.width, from.height);
    std::mt19937 random(5);
    const double c = std::cos(degrees * kRadiansPerDegree), s = std::sin(degrees * kRadiansPerDegree);
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const Vec2 d = Vec2(x, y) - about;
            const double u = std::clamp(about.x() + c * d.x() + s * d.y(), 0.0, from.width - 1.001),
                         v = std::clamp(about.y() - s * d.x() + c * d.y(), 0.0, from.height - 1.001);
            const int i = static_cast<int>(u), j = static_cast<int>(v);
            const double a = u - i, b = v - j;
            for (int k = 0; k < 3; ++k) {
                const double tone = (1 - b) * ((1 - a) * from.at(i, j)[k] + a * from.at(i + 1, j)[k]) +
                                    b * ((1 - a) * from.at(i, j + 1)[k] + a * from.at(i + 1, j + 1)[k]);
                const double grain = noise == 0 ? 0 : static_cast<int>(random() % (2 * noise + 1)) - noise;
                out.at(x, y)[k] = static_cast<std::uint8_t>(std::clamp(light * tone + grain, 0.0, 255.0));
            }
        }
    return out;
}

}  // namespace

class TestHead : public QObject {
    Q_OBJECT

  private slots:
    void aTurnIsFoundAgain_data() {
        QTest::addColumn<double>("turn");
        QTest::addColumn<double>("wrong");  // by how much the network sees it otherwise
        QTest::addColumn<double>("light");
        QTest::addColumn<int>("noise");
        QTest::newRow("not at all") << 0.0 << 0.0 << 1.0 << 0;
        QTest::newRow("a little") << 7.0 << 0.0 << 1.0 << 0;
        QTest::newRow("the network is 15° off") << -25.0 << 15.0 << 1.0 << 4;
        QTest::newRow("the other way") << -25.0 << -15.0 << 1.0 << 4;
        QTest::newRow("far down, in half the light") << 60.0 << 10.0 << 0.5 << 4;
        QTest::newRow("up") << -40.0 << -8.0 << 1.2 << 4;
    }
    void aTurnIsFoundAgain() {
        QFETCH(double, turn);
        QFETCH(double, wrong);
        QFETCH(double, light);
        QFETCH(int, noise);
        const Drawn drawn(spec(0), 0);
        HeadPlace place = drawn.place;
        const HeadPicture before(drawn.picture.view(), place);
        const Picture now = turned(drawn.picture, place.centre + Vec2(3, -2), turn, light, noise);
        // Nor does the network put the head's middle where it is.
        place.directionDeg += turn + wrong;
        const auto found = headTurn(before, HeadPicture(now.view(), place));
        QVERIFY(found);
        NEAR(found->turnDeg, turn, 1);
        QVERIFY2(found->likeness > 0.85 && found->apartDeg < 2,
                 qPrintable(QString("%1 %2").arg(found->likeness).arg(found->apartDeg)));
    }

    /// A drawn head is lit anew wherever it looks, and the room behind it is another one.
    void aClientsHeadTurnsAsItsBoneDoes_data() {
        QTest::addColumn<double>("neck");
        for (double neck : {-30.0, 0.0, 30.0}) QTest::addRow("%g°", neck) << neck;
    }
    void aClientsHeadTurnsAsItsBoneDoes() {
        QFETCH(double, neck);
        const auto s = spec(neck);
        const double bottom = sim::SpecMotion(s.motion).reps()[0].bottomS;
        const Drawn before(s, 0), now(s, bottom);
        const auto found =
            headTurn(HeadPicture(before.picture.view(), before.place), HeadPicture(now.picture.view(), now.place));
        QVERIFY(found);
        NEAR(found->turnDeg, now.turnDeg, 4);
    }

    void whatIsNoHeadIsNotLikeOne() {
        const Drawn drawn(spec(0), 0);
        const HeadPicture head(drawn.picture.view(), drawn.place);
        const Picture wall = made::blobs(400, 300, 0, 0);
        const auto found = headTurn(head, HeadPicture(wall.view(), {Vec2(200, 150), drawn.place.radiusPx, 0}));
        QVERIFY(!found || found->likeness < 0.5);
        // Nor does a head at the edge of the picture stop anything.
        const HeadPicture cut(drawn.picture.view(), {Vec2(-20, -20), drawn.place.radiusPx, 0});
        (void)headTurn(head, cut);
    }
};

ZEVO_SUITE(TestHead, "head")
#include "test_head.moc"
