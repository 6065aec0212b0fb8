// Where joints lie in depth, by the floor and the proportions of a body (core/track/side_depths.h).

#include <cmath>

#include "core/base/degrees.h"
#include "core/track/side_depths.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

constexpr double kFocal = 1000, kBody = 500;  // pixels: the camera is two statures away

/// Who stands square to a camera 0.6 statures above their ankles that looks down by `pitchDeg`, ankles 2 × `half`
/// apart.
Track standingTrack(double half, double pitchDeg, Side near = Side::Right) {
    Track t;
    t.rate = 20;
    t.pictureWidth = 1280, t.pictureHeight = 720;
    t.near = near;
    t.view = ViewKind::Side;
    t.family = Family::Squat;
    for (int i = 0; i < 40; ++i) t.timesS.push_back(i / 20.0);
    for (auto& p : t.points) p.assign(t.timesS.size(), Vec2(640, 360));
    const double pitch = pitchDeg * kRadiansPerDegree;
    auto ankleAt = [&](double away) {
        // In the camera's own axes: `away` along the floor and 0.6 down, turned by the pitch.
        const double along = away * std::cos(pitch) + 0.6 * std::sin(pitch),
                     down = 0.6 * std::cos(pitch) - away * std::sin(pitch);
        return Vec2(640, 360 - kFocal * down / along);
    };
    const Landmark nearAnkle = near == Side::Right ? Landmark::RightAnkle : Landmark::LeftAnkle,
                   farAnkle = near == Side::Right ? Landmark::LeftAnkle : Landmark::RightAnkle;
    for (auto& p : t.points[static_cast<std::size_t>(nearAnkle)]) p = ankleAt(2 - half);
    for (auto& p : t.points[static_cast<std::size_t>(farAnkle)]) p = ankleAt(2 + half);
    return t;
}

/// True landmarks of a set in whose coarse 3D estimate knees and feet are no further out than the hips.
PoseFrames narrowLegged(const sim::ClipSpec& spec) {
    PoseFrames frames = sim::truePoses(spec);
    for (auto& f : frames)
        for (auto side : {Landmark::LeftHip, Landmark::RightHip}) {
            const auto hip = static_cast<std::size_t>(side);
            for (std::size_t id = hip + 2; id < kLandmarkCount; id += 2) f.world[id][2] = f.world[hip][2];
        }
    return frames;
}

}  // namespace

class TestDepths : public QObject {
    Q_OBJECT
  private slots:
    /// By hand: ankles 0.15 statures to either side of 2 statures away, camera 0.6 above them: 1000 × 0.6 / 1.85 =
    /// 324.3 and 1000 × 0.6 / 2.15 = 279.1 px below the horizon; 1000 / 1000 × ln(324.3 / 279.1) = 0.150. An ankle's
    /// place is known to 0.008 × 500 = 4 px, two of them to 5.66: 0.0174 of half a stance. Against the usual 0.090 with
    /// 0.025: 0.67 of the way, 0.130. Of a camera of which nothing is known, 4° of horizon are 69.8 px, 0.0323 more: a
    /// third.
    void aWorkedExample() {
        Track t = standingTrack(0.15, 0);
        t.hold = CameraHold{};
        NEAR(SideDepths(t, kBody, kFocal).halfStance(), 0.130, 0.002);
        t.hold.reset();
        NEAR(SideDepths(t, kBody, kFocal).halfStance(), 0.109, 0.002);
        t.family = Family::Lunge;
        NEAR(SideDepths(t, kBody, kFocal).halfStance(), 0.090, 1e-9);
    }

    void aCameraThatLooksDownSeesTheSameStance() {
        for (Side near : {Side::Left, Side::Right})
            for (double half : {0.05, 0.09, 0.15}) {
                Track level = standingTrack(half, 0, near), down = standingTrack(half, 8, near);
                level.hold = CameraHold{}, down.hold = CameraHold{};
                down.hold->pitchDeg = 8;
                NEAR(SideDepths(down, kBody, kFocal).halfStance(), SideDepths(level, kBody, kFocal).halfStance(),
                     0.006);
                // The near side is nearer.
                const auto nearHip = near == Side::Left ? Landmark::LeftHip : Landmark::RightHip;
                QVERIFY(SideDepths(level, kBody, kFocal).of(nearHip, 3, 0) < 0);
            }
    }

    /// A camera on the floor sees no floor, and one that sees nobody's feet tells nothing.
    void withoutAFloorTheUsualStanceIsTaken() {
        Track t = standingTrack(0.15, 0);
        for (auto& points : t.points)
            for (auto& p : points) p.y() = 355;
        NEAR(SideDepths(t, kBody, kFocal).halfStance(), 0.090, 1e-9);
        for (auto& points : t.points)
            for (auto& p : points) p = Vec2(NAN, NAN);
        NEAR(SideDepths(t, kBody, kFocal).halfStance(), 0.090, 1e-9);
    }

    void kneesThatTheNetworkLeavesNarrowStandOverTheFeet_data() {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("stance");
        QTest::addColumn<double>("limit");
        QTest::newRow("square") << 90.0 << 0.19 << 1.2;
        QTest::newRow("square, from the left") << -90.0 << 0.19 << 1.2;
        QTest::newRow("wide") << 90.0 << 0.30 << 2.5;  // 5.3 where the network is believed
        QTest::newRow("turned to the camera") << 78.0 << 0.19 << 1.5;
        QTest::newRow("turned away") << -102.0 << 0.19 << 1.5;
    }
    void kneesThatTheNetworkLeavesNarrowStandOverTheFeet() {
        QFETCH(double, azimuth);
        QFETCH(double, stance);
        QFETCH(double, limit);
        auto spec = made::spec(2);
        spec.scene.camera.azimuthDeg = azimuth;
        spec.motion.stanceShare = stance;
        const auto set = measureSet(narrowLegged(spec), made::heldFacts(spec), made::contextOf(spec));
        QVERIFY2(bool(set), set ? "" : made::words(set.error()));
        const sim::SpecMotion motion(spec.motion);
        for (const auto& e : motion.reps()) {
            const std::size_t i = set->track().sampleAt(e.bottomS);
            const auto a = sim::trueAngles(motion.at(set->track().timesS[i]), azimuth > 0 ? 1 : 0);
            NEAR(set->series().thighAngle[i], a.thighAngle, limit);
            NEAR(set->series().kneeFlexion[i], a.kneeFlexion, limit);
            NEAR(set->series().shinAngle[i], a.shinAngle, limit);
        }
    }
};

ZEVO_SUITE(TestDepths, "depths")
#include "test_depths.moc"
