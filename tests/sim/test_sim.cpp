// The virtual client: the same every time, in balance, as tall as asked, and drawn where its truth says.
#include <nlohmann/json.hpp>

#include "core/body/anthropometry.h"
#include "media/clip_reader.h"
#include "sim/figure.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::sim;

namespace {

QString refusal(const char* text) {
    const auto spec = clipSpecFromJson(text);
    return spec ? QString() : QString::fromStdString(spec.error().message);
}

}  // namespace

class TestSim : public QObject {
    Q_OBJECT
  private slots:
    void theSameSpecGivesTheSamePictures() {
        const auto spec = made::spec(1);
        const SpecMotion motion(spec.motion);
        Mesh mesh;
        buildFigure(motion.at(3.0), spec.motion.body, mesh);
        SceneSpec scene;
        scene.camera.width = 320, scene.camera.height = 180;
        Picture a, b, c;
        Renderer first(scene), second(scene);
        first.draw(mesh, 9, a);
        second.draw(mesh, 9, b);
        second.draw(mesh, 10, c);
        QCOMPARE(a.rgb, b.rgb);
        QVERIFY(a.rgb != c.rgb);  // the noise is another in every frame
    }

    void segmentsKeepTheirLengths() {
        auto spec = made::spec(1);
        spec.motion.reps[0].heelRiseCm = 4;
        spec.motion.reps[0].kneesFirst = 0.7;
        const SpecMotion motion(spec.motion);
        const double H = 1.75;
        for (double t = 0; t < motion.durationS(); t += 0.07) {
            const Skeleton s = motion.at(t);
            for (int i = 0; i < 2; ++i) {
                NEAR((s.hip[i] - s.knee[i]).norm(), 0.245 * H, 1e-3);
                NEAR((s.knee[i] - s.ankle[i]).norm(), 0.246 * H, 1e-3);
                NEAR((s.shoulder[i] - s.elbow[i]).norm(), 0.172 * H, 1e-6);
            }
            NEAR((s.midShoulder - s.midHip).norm(), 0.288 * H, 1e-6);
        }
    }

    /// A body whose own lengths are known moves with those, whatever the usual shares are.
    void ownLengthsAreKept() {
        auto spec = made::spec(1);
        BodyLengths own;
        own.ankleHeight = 0.09, own.shank = 0.42, own.thigh = 0.45, own.trunk = 0.47, own.hipHalf = 0.08;
        own.shoulderHalf = 0.17, own.upperArm = 0.29, own.forearm = 0.25, own.heelBack = 0.06, own.ballAhead = 0.12;
        own.toeAhead = 0.08, own.footPointHeight = 0.02, own.neck = 0.16;
        spec.motion.body.lengths = own;
        const SpecMotion motion(spec.motion);
        for (double t = 0; t < motion.durationS(); t += 0.1) {
            const Skeleton s = motion.at(t);
            NEAR((s.hip[0] - s.knee[0]).norm(), own.thigh, 1e-3);
            NEAR((s.knee[1] - s.ankle[1]).norm(), own.shank, 1e-3);
            NEAR((s.midShoulder - s.midHip).norm(), own.trunk, 1e-6);
            NEAR((s.shoulder[1] - s.shoulder[0]).norm(), 2 * own.shoulderHalf, 1e-6);
            NEAR((s.hip[1] - s.hip[0]).norm(), 2 * own.hipHalf, 1e-6);
            NEAR((s.toe[1] - s.ball[1]).norm(), own.toeAhead, 1e-6);
        }
    }

    void heBalancesOverTheFoot() {
        const auto spec = made::spec(1);
        const SpecMotion motion(spec.motion);
        const Skeleton s = motion.at(motion.reps()[0].bottomS);
        const double share = (s.massCentre.x() - s.heel[0].x()) / (s.toe[0].x() - s.heel[0].x());
        NEAR(share, 0.5, 0.05);
    }

    void theDialsDoWhatTheySay() {
        auto spec = made::spec(1);
        RepSpec& r = spec.motion.reps[0];
        r.thighBottomDeg = -6;
        r.shinBottomDeg = 28;
        spec.motion.toeOutDeg = 0;
        const SpecMotion motion(spec.motion);
        const auto a = trueAngles(motion.at(motion.reps()[0].bottomS), 1);
        NEAR(a.thighAngle, -6, 3.0);  // the legs also slant sideways and the knees point over the toes
        NEAR(a.shinAngle, 28, 2.0);
        NEAR(a.kneeFlexion, a.shinAngle + 90 - a.thighAngle, 1e-6);
        NEAR(a.hipFlexion, a.trunkLean + 90 - a.thighAngle, 1e-6);
    }

    void noMomentIsUndefined() {
        auto spec = made::spec(3);
        spec.motion.reps[1].kneesFirst = 0.3;
        spec.motion.reps[2].bounce = 1;
        const SpecMotion motion(spec.motion);
        for (double t = -0.5; t < motion.durationS() + 0.5; t += 1 / 240.0) {
            const auto a = trueAngles(motion.at(t), 0);
            QVERIFY2(
                std::isfinite(a.kneeFlexion + a.hipFlexion + a.trunkLean + a.shinAngle + a.thighAngle + a.heelRiseCm),
                qPrintable(QString::number(t)));
        }
    }

    void theFigureIsDrawnWhereItsTruthSays() {
        SceneSpec scene;
        scene.noise = 0;
        scene.camera.width = 640, scene.camera.height = 360;
        auto spec = made::spec(1);
        const SpecMotion motion(spec.motion);
        const Skeleton s = motion.at(motion.reps()[0].bottomS);
        Mesh mesh;
        buildFigure(s, spec.motion.body, mesh);
        Picture with, without;
        Renderer renderer(scene);
        renderer.draw(mesh, 0, with);
        scene.showClient = false;
        Renderer(scene).draw(mesh, 0, without);
        const Camera camera(scene.camera);
        for (const Vec3& joint : {s.hip[1], s.knee[1], s.ankle[1], s.shoulder[1], s.headCentre}) {
            double x = 0, y = 0;
            QVERIFY(camera.project(joint, x, y));
            const auto* a = with.at(static_cast<int>(x), static_cast<int>(y));
            const auto* b = without.at(static_cast<int>(x), static_cast<int>(y));
            QVERIFY(std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2]) > 30);
        }
        QVERIFY(
            !camera.project(camera.eye() - camera.forward(), *std::make_unique<double>(), *std::make_unique<double>()));
    }

    void theClipHasTheStampsOfItsSpec() {
        QTemporaryDir dir;
        ClipSpec spec = made::spec(1);
        spec.scene.camera = {};
        spec.scene.camera.width = 160, spec.scene.camera.height = 90;
        spec.jitter = 0.7;
        spec.motion.reps[0].lowerS = spec.motion.reps[0].liftS = 0.4;
        const std::string path = dir.filePath("c.mkv").toStdString();
        QVERIFY(bool(makeClip(spec, path)));
        const auto times = frameTimes(spec);
        auto reader = media::ClipReader::open(path);
        media::VideoFrame frame;
        std::size_t n = 0;
        for (; *reader->next(frame); ++n) NEAR(frame.timeS, times.at(n), 0.0015);
        QCOMPARE(n, times.size());
    }

    void aStoppedClipLeavesNothing() {
        QTemporaryDir dir;
        ClipSpec spec = made::spec(1);
        spec.scene.camera.width = 160, spec.scene.camera.height = 90;
        QVERIFY(!makeClip(spec, dir.filePath("c.mp4").toStdString(), [](long done, long) { return done < 5; }));
        QVERIFY(QDir(dir.path()).isEmpty());
    }

    void truthFileSaysWhatTheMotionDoes() {
        auto spec = made::spec(2);
        spec.planted = {"heels_rise"};
        const auto truth = nlohmann::json::parse(truthJson(spec));
        QCOMPARE(truth["schema"].get<std::string>(), std::string("zevo-truth-1"));
        QCOMPARE(truth["reps"].size(), std::size_t{2});
        QCOMPARE(truth["planted"][0].get<std::string>(), std::string("heels_rise"));
        QCOMPARE(truth["frames"].size(), frameTimes(spec).size());
        QCOMPARE(truth["near_side"].get<std::string>(), std::string("right"));
        for (const auto& f : truth["frames"]) QVERIFY(f["knee_flexion"].is_number() && f["hip"].size() == 5);
    }

    void specsAreReadAndMistakesNamed() {
        const auto spec = clipSpecFromJson(
            R"({"seed":9,"body":{"stature_cm":181,"skin":[1,2,3]},"camera":{"width":320,"height":180},"reps":[{"lower_s":1.5,"heel_rise_cm":3}]})");
        QVERIFY(bool(spec));
        NEAR(spec->motion.body.statureCm, 181, 0);
        QCOMPARE(spec->motion.body.skin.b, std::uint8_t{3});
        NEAR(spec->motion.reps.at(0).heelRiseCm, 3, 0);
        QVERIFY(refusal("not json").contains("not a JSON object"));
        QVERIFY(refusal(R"({"body":{"stature_cm":"tall"}})").contains("body/stature_cm"));
        QVERIFY(refusal(R"({"body":{"skin":[1,2]}})").contains("body/skin"));
        QVERIFY(refusal(R"({"camera":{"width":321,"height":180}})").contains("even"));
        QVERIFY(refusal(R"({"frame_rate":0})").contains("frame_rate"));
        QVERIFY(refusal(R"({"reps":[{"lower_s":0}]})").contains("too short"));
        QVERIFY(refusal(R"({"reps":3})").contains("reps"));
        QVERIFY(refusal(R"({"reps":[5]})").contains("object"));
        QVERIFY(refusal(R"({"body":{"stature_cm":20}})").contains("stature_cm"));
        QVERIFY(refusal(R"({"looks":{"floor":"lava"}})").contains("floor"));
        QVERIFY(refusal(R"({"looks":{"wall":"paper"}})").contains("wall"));
        QVERIFY(refusal(R"({"looks":{"shoes":"stilts"}})").contains("shoes"));
        QVERIFY(refusal(R"({"looks":{"shadow_spread":9}})").contains("shadow_spread"));
    }

    /// A shadow that wanders darkens where it is at the time and nowhere else; a patch of sun stays.
    void lightIsWhereItIsSaidToBe() {
        Looks l;
        NEAR(l.keyLight(0.3F, 2), 1, 1e-6);
        l.bandWidthM = 0.4, l.bandAtM = -1, l.bandSpeed = 0.5, l.bandDark = 0.6;
        NEAR(l.keyLight(-1.0F, 0), 0.4, 1e-6);
        NEAR(l.keyLight(0.0F, 0), 1, 1e-6);
        NEAR(l.keyLight(0.0F, 2), 0.4, 1e-6);
        NEAR(l.keyLight(-1.0F, 2), 1, 1e-6);
        l.bandWidthM = 0, l.sunWidthM = 0.2, l.sunAtM = 0.1, l.sunBright = 0.5;
        for (double t : {0.0, 3.0}) NEAR(l.keyLight(0.1F, t), 1.5, 1e-6);
        NEAR(l.keyLight(0.4F, 0), 1, 1e-6);
    }

    void looksChangeFloorAndShoesAlone() {
        auto spec = made::spec(1);
        spec.scene.noise = 0;
        spec.scene.camera.width = 640, spec.scene.camera.height = 360;
        const SpecMotion motion(spec.motion);
        const Skeleton s = motion.at(0.2);
        const Camera camera(spec.scene.camera);
        auto drawn = [&](const Looks& looks) {
            Mesh mesh;
            buildFigure(s, spec.motion.body, mesh);
            paintShoes(looks, s, mesh);
            SceneSpec scene = spec.scene;
            scene.looks = looks;
            Picture out;
            Renderer(scene).draw(mesh, 0, out);
            return out;
        };
        // Share of the pixels that differ, above the knees and below the ankles.
        auto differs = [&](const Picture& a, const Picture& b) {
            double x = 0, knee = 0, ankle = 0;
            camera.project(s.knee[1], x, knee), camera.project(s.ankle[1], x, ankle);
            long above = 0, below = 0;
            for (int row = 0; row < a.height; ++row)
                for (int column = 0; column < a.width; ++column)
                    if (std::memcmp(a.at(column, row), b.at(column, row), 3) != 0)
                        above += row<knee, below += row> ankle;
            return std::pair(above, below);
        };
        Looks plain;
        plain.floor = "plain", plain.mat = false;
        const Picture base = drawn(plain);
        for (const char* floor : {"planks", "tiles", "stripes", "speckled"}) {
            Looks l = plain;
            l.floor = floor;
            const auto [above, below] = differs(base, drawn(l));
            QVERIFY2(below > 1000, floor);
            QVERIFY2(below > 20 * above, floor);
        }
        for (const char* shoes : {"two-tone", "stripes", "speckled", "socks"}) {
            Looks l = plain;
            l.shoes = shoes;
            const auto [above, below] = differs(base, drawn(l));
            QVERIFY2(above == 0 && below > 50 && below < 3000, shoes);
        }
        // A hand that shakes moves the picture by what it was asked, and back.
        Looks shaking = plain;
        shaking.shakePx = 3;
        Picture moved = base;
        shake(shaking, 1.3, moved);
        QVERIFY(moved.rgb != base.rgb);
        Picture still = base;
        shake(plain, 1.3, still);
        QCOMPARE(still.rgb, base.rgb);
    }
};

ZEVO_SUITE(TestSim, "sim")
#include "test_sim.moc"
