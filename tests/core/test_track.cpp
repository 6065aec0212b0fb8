// From raw landmarks to the cleaned track: gaps, strays, mirrored clips, view, floor and scale, refusals.

#include "core/track/track.h"
#include "sim/figure.h"
#include "sim/renderer.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"
#include "vision/foot_follower.h"

using namespace zevo;

namespace {

Track track(const sim::ClipSpec& spec, const PoseFrames& poses, const Context& context = {175, "auto"}) {
    auto t = buildTrack(poses, spec.scene.camera.width, spec.scene.camera.height, context);
    if (!t) qFatal("%s", made::words(t.error()));
    return *t;
}

QString refusedWith(const PoseFrames& poses, const Context& context = {}) {
    const auto t = buildTrack(poses, 1280, 720, context);
    return t ? QString() : present::sentence(t.error());
}

}  // namespace

class TestTrack : public QObject {
    Q_OBJECT
  private slots:
    void clockIsUniformEvenWhenStampsAreNot() {
        auto spec = made::spec();
        spec.jitter = 0.8;
        const Track t = track(spec, sim::truePoses(spec));
        for (std::size_t i = 1; i < t.size(); ++i) NEAR(t.timesS[i] - t.timesS[i - 1], 1 / t.rate, 1e-9);
        NEAR(t.rate, 30, 1.5);
    }

    void bothSidesOfTheClientGiveTheSameAngles() {
        auto right = made::spec(), left = made::spec();
        left.scene.camera.azimuthDeg = -90;
        const auto a = made::measured(right), b = made::measured(left);
        QVERIFY(a && b);
        QCOMPARE(a->track().near, Side::Right);
        QVERIFY(a->track().facesRight);
        QCOMPARE(b->track().near, Side::Left);
        QVERIFY(!b->track().facesRight);
        for (const char* id : {"knee_flexion", "hip_flexion", "trunk_lean", "shin_angle", "thigh_angle"})
            NEAR(made::value(*a, 1, id), made::value(*b, 1, id), 0.3);
    }

    void straysAndShortGapsDoNotShow() {
        const auto spec = made::spec();
        const auto clean = sim::truePoses(spec);
        auto bad = clean;
        for (std::size_t i = 20; i < bad.size(); i += 37) bad[i].at(Landmark::RightKnee).x += 90;  // a swap of a frame
        for (std::size_t i = 60; i < 66; ++i) bad[i].found = false;                                // 0.2 s lost
        const Track a = track(spec, clean), b = track(spec, bad);
        double worst = 0;
        for (std::size_t i = 0; i < a.size(); ++i)
            worst = std::max(worst, (a.at(Landmark::RightKnee, i) - b.at(Landmark::RightKnee, i)).norm());
        QVERIFY2(worst < 6, qPrintable(QString("%1 px").arg(worst)));
        QVERIFY(b.observed[63]);
        QVERIFY(b.trackedShare < 1);
    }

    void longGapsAreMarked() {
        const auto spec = made::spec();
        auto poses = sim::truePoses(spec);
        for (std::size_t i = 60; i < 90; ++i) poses[i].found = false;
        const Track t = track(spec, poses);
        QVERIFY(!t.observed[t.sampleAt(poses[75].timeS)]);
        QVERIFY(t.observed[t.sampleAt(poses[55].timeS)]);
    }

    void jitterIsTakenOutAndItsRestIsKnown() {
        const auto spec = made::spec();
        const auto clean = sim::truePoses(spec);
        const Track a = track(spec, clean), b = track(spec, made::jittered(clean, 2.0));
        double sum = 0;
        for (std::size_t i = 30; i + 30 < a.size(); ++i)
            sum += (a.at(Landmark::RightKnee, i) - b.at(Landmark::RightKnee, i)).squaredNorm() / 2;
        const double left = std::sqrt(sum / static_cast<double>(a.size() - 60));
        QVERIFY2(left < 1.6, qPrintable(QString("%1 px left of 2").arg(left)));
        NEAR(b.noisePx[static_cast<std::size_t>(Landmark::RightKnee)], left, 0.6);
    }

    void floorAndScaleComeFromTheStature() {
        const auto spec = made::spec();
        const Track t = track(spec, sim::truePoses(spec));
        const double pixelsPerMetre = 1.25 * 720 / 3.3;  // focal length over distance
        NEAR(t.cmPerPixel, 100 / pixelsPerMetre, 0.05 * 100 / pixelsPerMetre);
        QVERIFY(t.standingSamples > 10);
        NEAR(t.standingAt(Landmark::RightHip).y() - t.floorY, (0.53 * 1.75 - 0.02) * pixelsPerMetre,
             0.04 * pixelsPerMetre * 1.75);
        QCOMPARE(track(spec, sim::truePoses(spec), {0, "auto"}).cmPerPixel, 0.0);
    }

    void viewsAreToldApart_data() {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<QString>("kind");
        QTest::newRow("his right side") << 90.0 << "side";
        QTest::newRow("his left side") << -90.0 << "side";
        QTest::newRow("twenty degrees off") << 70.0 << "side";
        QTest::newRow("front") << 0.0 << "front";
        QTest::newRow("behind") << 180.0 << "rear";
        QTest::newRow("diagonal") << 45.0 << "oblique";
    }
    void viewsAreToldApart() {
        QFETCH(double, azimuth);
        QFETCH(QString, kind);
        auto spec = made::spec(1);
        spec.scene.camera.azimuthDeg = azimuth;
        const auto poses = sim::truePoses(spec);
        QCOMPARE(QString::fromStdString(viewName(track(spec, poses).view)), kind);
    }

    void theCoachMayNameTheView() {
        const auto spec = made::spec(1);
        QCOMPARE(track(spec, sim::truePoses(spec), {175, "front"}).view, ViewKind::Front);
        const auto rear = measureSet(sim::truePoses(spec), made::facts(spec), [] {
            auto c = made::context();
            c.context.view = "rear";
            return c;
        }());
        QVERIFY(bool(rear));
        QVERIFY(!rear->result.reps[0].find("thigh_angle"));  // never where it is not valid
        QCOMPARE(rear->result.notices.front().kind, NoticeKind::SeenFromBack);
        QVERIFY(present::sentence(rear->result.notices.front()).contains("need a side view"));
    }

    void refusalsAreSentencesForTheCoach() {
        const auto spec = made::spec(1);
        auto nobody = sim::truePoses(spec);
        for (auto& f : nobody) f.found = false;
        QVERIFY(refusedWith(nobody).startsWith("Nobody was found"));
        QVERIFY(refusedWith({}).startsWith("Nobody was found"));
        auto rare = sim::truePoses(spec);
        for (std::size_t i = 0; i < rare.size(); ++i) rare[i].found = i % 3 == 0;
        QVERIFY(refusedWith(rare).contains("33 %"));
        auto tiny = sim::truePoses(spec);
        for (auto& f : tiny)
            for (auto& p : f.points) {
                p.x = 600 + (p.x - 640) * 0.3F;
                p.y = 300 + (p.y - 360) * 0.3F;
            }
        QVERIFY(refusedWith(tiny).contains("too small"));
    }

    /// The drawn figure itself: heel up by a known amount, followed in the pictures.
    void theShoeIsFollowedInThePicture() {
        auto spec = made::spec(1);
        spec.scene.camera = {};
        spec.motion.reps[0].heelRiseCm = 5;
        spec.motion.reps[0].lowerS = 1.0;
        spec.frameRate = 15;
        const sim::SpecMotion motion(spec.motion);
        sim::Renderer renderer(spec.scene);
        const sim::Camera camera(spec.scene.camera);
        FootFollower follower;
        PoseFrames poses;
        sim::Mesh mesh;
        Picture picture;
        double truth = 0;
        for (double t : sim::frameTimes(spec)) {
            const auto skeleton = motion.at(t);
            sim::buildFigure(skeleton, spec.motion.body, mesh);
            renderer.draw(mesh, std::lround(t * 15), picture);
            auto pose = sim::truePose(skeleton, camera, t);
            // What a network would say of the heel: wrong by several pixels. Following must not care.
            pose.at(Landmark::RightHeel).y += static_cast<float>(4 * std::sin(7 * t));
            follower.follow(picture.view(), pose);
            poses.push_back(pose);
            truth = std::max(truth, sim::trueAngles(skeleton, 1).heelRiseCm);
        }
        const auto set = made::measured(spec, poses);
        QVERIFY(bool(set));
        NEAR(truth, 5, 0.3);
        NEAR(made::value(*set, 0, "heel_rise"), 5, 1.2);
        NEAR(made::value(*set, 0, "toe_rise"), 0, 0.8);
    }

    void aStepBeginsANewStretch() {
        const Picture picture = made::blobs(200, 120, 0, 0);
        PoseFrame pose;
        pose.found = true;
        auto put = [&](float x) {
            for (auto id : {Landmark::LeftHeel, Landmark::RightHeel}) pose.at(id) = {x, 80, 1, 1};
            for (auto id : {Landmark::LeftToe, Landmark::RightToe}) pose.at(id) = {x + 40, 80, 1, 1};
        };
        FootFollower follower(100);
        put(50);
        follower.follow(picture.view(), pose);
        const int first = pose.feet[0].stretch;
        QVERIFY(first >= 100 && pose.feet[0].score > 0.9F);
        follower.follow(picture.view(), pose);
        QCOMPARE(pose.feet[0].stretch, first);
        put(110);
        follower.follow(picture.view(), pose);
        QVERIFY(pose.feet[0].stretch > first);
        pose.found = false;
        follower.follow(picture.view(), pose);
        QCOMPARE(pose.feet[0].score, 0.0F);
    }
};

ZEVO_SUITE(TestTrack, "track")
#include "test_track.moc"
