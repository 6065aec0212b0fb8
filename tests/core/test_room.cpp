// How the camera is held, from the room's edges; and angles that do not care how it is.
#include <cmath>
#include <random>

#include "core/base/degrees.h"
#include "core/serial/observation_cbor.h"
#include "core/track/perspective.h"
#include "core/track/room_lines.h"
#include "sim/renderer.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"
#include "vision/straight_edges.h"

using namespace zevo;

namespace {

constexpr int kWidth = 1280, kHeight = 720;

/// A room before a camera that is held like this, with edges where they are seen.
struct Room {
    Room(double rollDeg, double pitchDeg) : camera(specOf(rollDeg, pitchDeg)), level(specOf(0, 0)) {}

    static sim::CameraSpec specOf(double rollDeg, double pitchDeg) {
        sim::CameraSpec spec;
        spec.width = kWidth, spec.height = kHeight;
        spec.focal = assumedFocalPx(kWidth, kHeight) / kHeight;
        spec.heightM = spec.aimHeightM + spec.distanceM * std::tan(pitchDeg * kRadiansPerDegree);
        spec.rollDeg = rollDeg;
        return spec;
    }
    double about(double middle, double by) { return middle + by * std::normal_distribution<double>()(dice); }
    /// The end of an edge 2 m behind the client, as exact as a detector has it.
    void end(double acrossM, double upM, float& x, float& y) {
        const Vec3 at = level.eye() + acrossM * level.right() + (upM - level.spec().heightM) * level.up() +
                        (level.spec().distanceM + 2) * level.forward();
        double px = 0, py = 0;
        camera.project(at, px, py);
        x = static_cast<float>(about(px, 0.5)), y = static_cast<float>(about(py, 0.5));
    }
    void edge(double acrossM, double upM, double toAcrossM, double toUpM) {
        RoomLine l;
        end(acrossM, upM, l.x1, l.y1), end(toAcrossM, toUpM, l.x2, l.y2);
        lines.push_back(l);
    }

    sim::Camera camera, level;
    std::vector<RoomLine> lines;
    std::mt19937_64 dice{5};
};

std::optional<CameraHold> holdOf(const std::vector<RoomLine>& lines) {
    return cameraHold(lines, 1, kWidth, kHeight, assumedFocalPx(kWidth, kHeight));
}

}  // namespace

class TestRoom : public QObject {
    Q_OBJECT
  private slots:
    /// Two door frames and a window, behind things that stand as they like.
    void edgesTellRollAndPitch() {
        for (const auto& [roll, pitch] : {std::pair(0, 0), {2, 0}, {-3, 6}, {4, -5}, {-6, 8}}) {
            Room room(roll, pitch);
            for (double across : {-1.8, -1.0, 0.9, 1.7}) room.edge(across, 0.1, across, 2.0);
            for (double up : {1.0, 2.0}) room.edge(0.9, up, 1.7, up);
            for (int i = 0; i < 6; ++i) room.edge(room.about(0, 1), 1, room.about(0, 1), 1.4);
            const auto hold = holdOf(room.lines);
            QVERIFY(hold);
            NEAR(hold->rollDeg, roll, 0.3);
            NEAR(hold->pitchDeg, pitch, 1.5);
            QVERIFY(hold->rollPm90 < 0.8);
        }
    }

    /// One frame at the side leans because the camera is rolled, or because it looks down.
    void oneColumnCannotTellThemApart() {
        Room room(0, 7);
        for (double across : {-1.85, -1.8, -1.75}) room.edge(across, 0.6, across, 2.0);
        const auto hold = holdOf(room.lines);
        QVERIFY(!hold || (hold->rollPm90 > 1 && std::abs(hold->rollDeg) < hold->rollPm90));
    }

    /// Pictures end in a straight line, and so do black bars beside them, however the camera is held.
    void theEdgeOfThePictureIsNoDoorFrame() {
        Room room(-3, 0);
        for (double across : {-1.8, 1.7}) room.edge(across, 0.6, across, 2.0);
        const auto alone = holdOf(room.lines);
        QVERIFY(alone);
        NEAR(alone->rollDeg, -3, 0.5);
        for (float x : {1.F, 150.F, kWidth - 2.F}) room.lines.push_back({x, 2, x, kHeight - 2});
        for (float y : {2.F, kHeight - 3.F}) room.lines.push_back({300, y, 900, y});
        QVERIFY(holdOf(room.lines) == alone);
    }

    void aRoomWithoutPlumbEdgesHasNoLevel() {
        Room room(0, 0);
        std::uniform_real_distribution<float> x(0, kWidth), y(0, kHeight);
        for (int i = 0; i < 60; ++i) room.lines.push_back({x(room.dice), y(room.dice), x(room.dice), y(room.dice)});
        const auto hold = holdOf(room.lines);
        QVERIFY(!hold || hold->rollPm90 > 1 || std::abs(hold->rollDeg) < 1);
        QVERIFY(!holdOf({}));
        QVERIFY(!cameraHold(room.lines, 1, 0, 0, 0));
    }

    /// Limbs, clothes and boards of the floor are nobody's door frame.
    void theClientAndTheFloorAreLeftOut() {
        const auto spec = made::spec(1);
        const auto poses = sim::truePoses(spec);
        const auto& hip = poses.front().at(Landmark::LeftHip);
        const auto& heel = poses.front().at(Landmark::LeftHeel);
        const RoomLine trouserLeg{hip.x, hip.y, hip.x + 3, hip.y + 80}, board{60, heel.y + 4, 90, heel.y + 60},
            frame{40, 100, 41, 300};
        const auto kept = roomWithout(poses, std::vector{trouserLeg, board, frame});
        QCOMPARE(kept.size(), std::size_t{1});
        QVERIFY(kept.front() == frame);
    }

    /// A drawn room: door, window, boards on the wall; the client is not in it.
    void aDrawnRoomIsRead() {
        for (double roll : {0.0, 3.0, -2.0}) {
            sim::SceneSpec scene;
            scene.camera.width = kWidth, scene.camera.height = kHeight;
            scene.camera.rollDeg = roll;
            scene.looks.wall = "plain";
            scene.looks.door = scene.looks.window = true;
            Picture picture;
            sim::Renderer(scene).draw({}, 0, picture);
            std::vector<RoomLine> above;
            for (const RoomLine& l : straightEdges(picture.view()))
                if (l.y1 < 0.65 * kHeight && l.y2 < 0.65 * kHeight) above.push_back(l);
            const auto hold = cameraHold(above, 1, kWidth, kHeight, assumedFocalPx(kWidth, kHeight));
            QVERIFY(hold);
            NEAR(hold->rollDeg, roll, 0.4);
        }
    }

    /// The same squat filmed level and with the camera rolled, its hold known: the same angles, either way round.
    void anglesDoNotCareHowTheCameraIsHeld() {
        for (double azimuth : {90.0, -90.0}) {
            auto level = made::spec(2);
            level.scene.camera.azimuthDeg = azimuth;
            auto rolled = level;
            rolled.scene.camera.rollDeg = 4;
            ClipFacts known = made::facts(rolled);
            known.hold = CameraHold{4, 0, 0.2, 1};
            const auto a = measureSet(sim::truePoses(level), made::facts(level), made::context()),
                       b = measureSet(sim::truePoses(rolled), known, made::context()),
                       blind = measureSet(sim::truePoses(rolled), made::facts(rolled), made::context());
            QVERIFY(a && b && blind);
            for (const char* angle : {"trunk_lean", "shin_angle", "thigh_angle"}) {
                const auto *x = a->result.reps[0].find(angle), *y = b->result.reps[0].find(angle),
                           *z = blind->result.reps[0].find(angle);
                NEAR(y->value, x->value, 0.2);
                QVERIFY(std::abs(z->value - x->value) > 3);
                QVERIFY(y->pm90 < z->pm90);
            }
            QVERIFY(made::says(b->result.notices, NoticeKind::CameraTilted));
            QVERIFY(!made::says(a->result.notices, NoticeKind::CameraTilted));
            // What is drawn on the picture lies where it was seen.
            const Track& t = b->track();
            const auto poses = sim::truePoses(rolled);
            const Vec2 hip = t.toPicture(t.at(Landmark::LeftHip, 0));
            NEAR(hip.x(), poses[0].at(Landmark::LeftHip).x, 1.5);
            NEAR(hip.y(), poses[0].at(Landmark::LeftHip).y, 1.5);
            NEAR((t.fromPicture(t.toPicture({311, 207})) - Vec2(311, 207)).norm(), 0, 1e-9);
        }
    }

    /// Knees turned out, a camera on the floor and one overhead: known, they change nothing.
    void aCameraThatLooksDownIsAllowedFor() {
        double with = 0, without = 0;
        for (double height : {0.45, 1.5}) {
            auto spec = made::spec(2);
            spec.motion.toeOutDeg = 25, spec.motion.stanceShare = 0.25;
            spec.scene.camera.heightM = 0.95;
            const auto level = measureSet(sim::truePoses(spec), made::facts(spec), made::context());
            spec.scene.camera.heightM = height;
            const auto told = measureSet(sim::truePoses(spec), made::heldFacts(spec), made::context()),
                       blind = measureSet(sim::truePoses(spec), made::facts(spec), made::context());
            QVERIFY(level && told && blind);
            const double truth = level->result.reps[0].find("thigh_angle")->value;
            with += std::abs(told->result.reps[0].find("thigh_angle")->value - truth);
            without += std::abs(blind->result.reps[0].find("thigh_angle")->value - truth);
        }
        QVERIFY2(with < 0.5 * without, qPrintable(QString("%1 %2").arg(with).arg(without)));
    }

    /// An unsure hold is not taken: a phone is level within a degree anyway.
    void whatIsLessSureThanUsualIsNotTaken() {
        const auto spec = made::spec(1);
        const auto cleaned = cleanPoses(sim::truePoses(spec), kWidth, kHeight, CameraHold{3, 0, 2.4, 6});
        QVERIFY(cleaned);
        QVERIFY(!cleaned->track.hold);
        NEAR(cleaned->track.levelPm90(), 1, 1e-9);
    }

    void itIsKeptWithWhatWasSeen() {
        Observation seen;
        seen.clip.width = kWidth, seen.clip.height = kHeight;
        auto again = readObservation(writeObservation(seen));
        QVERIFY(again && !again->clip.hold);
        seen.clip.hold = CameraHold{-1.25, 3.5, 0.25, 1.5};
        again = readObservation(writeObservation(seen));
        QVERIFY(again && again->clip == seen.clip);
    }
};

ZEVO_SUITE(TestRoom, "room")
#include "test_room.moc"
