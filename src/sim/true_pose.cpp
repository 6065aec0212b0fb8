// A perfect pose estimator.
#include <cmath>

#include "core/base/degrees.h"
#include "sim/clip_maker.h"

namespace zevo::sim {

PoseFrame truePose(const Skeleton& s, const Camera& camera, double timeS) {
    PoseFrame pose;
    pose.timeS = timeS;
    pose.found = true;
    pose.score = 1;
    auto put = [&](Landmark id, const Vec3& p) {
        double x = 0, y = 0;
        camera.project(p, x, y);
        pose.at(id) = {static_cast<float>(x), static_cast<float>(y), 1, 1};
        const Vec3 rel = p - s.midHip;
        pose.world[static_cast<std::size_t>(id)] = {static_cast<float>(rel.dot(camera.right())),
                                                    static_cast<float>(-rel.dot(camera.up())),
                                                    static_cast<float>(rel.dot(camera.forward()))};
    };
    auto pair = [&](Landmark left, const std::array<Vec3, 2>& p) {
        put(left, p[0]);
        put(static_cast<Landmark>(static_cast<int>(left) + 1), p[1]);
    };
    const Vec3 f = (s.nose - s.headCentre).normalized();
    put(Landmark::Nose, s.nose);
    const Vec3 r = s.chestRight, u = r.cross(f).normalized();
    for (int i = 1; i <= 6; ++i)
        put(static_cast<Landmark>(i), s.headCentre + 0.08 * f + 0.035 * u + (i <= 3 ? -0.03 : 0.03) * r);
    pair(Landmark::LeftEar, s.ear);
    put(Landmark::MouthLeft, s.headCentre + 0.08 * f - 0.035 * u - 0.02 * r);
    put(Landmark::MouthRight, s.headCentre + 0.08 * f - 0.035 * u + 0.02 * r);
    pair(Landmark::LeftShoulder, s.shoulder);
    pair(Landmark::LeftElbow, s.elbow);
    pair(Landmark::LeftWrist, s.wrist);
    for (auto finger : {Landmark::LeftPinky, Landmark::LeftIndex, Landmark::LeftThumb}) {
        std::array<Vec3, 2> tip;
        for (int i = 0; i < 2; ++i) tip[i] = s.wrist[i] + 0.10 * (s.wrist[i] - s.elbow[i]).normalized();
        pair(finger, tip);
    }
    pair(Landmark::LeftHip, s.hip);
    pair(Landmark::LeftKnee, s.knee);
    pair(Landmark::LeftAnkle, s.ankle);
    pair(Landmark::LeftHeel, s.heel);
    pair(Landmark::LeftToe, s.toe);
    for (std::size_t i = 0; i < kFootPointCount; ++i) {
        const LandmarkPoint& p =
            pose.at(static_cast<Landmark>(static_cast<int>(Landmark::LeftHeel) + static_cast<int>(i)));
        pose.feet[i] = {p.x, p.y, 1, 1};
    }
    return pose;
}

namespace {

/// How far the face looks above the horizon, in the plane the chest faces, degrees.
double nod(const Skeleton& s) {
    const Vec3 up = Vec3::UnitY(), ahead = up.cross(s.chestRight).normalized(), face = s.nose - s.headCentre;
    return std::atan2(face.dot(up), face.dot(ahead)) * kDegreesPerRadian;
}

}  // namespace

PoseFrames truePoses(const ClipSpec& spec) {
    const auto motion = motionOf(spec);
    const Camera camera(spec.scene.camera);
    PoseFrames out;
    double rest = 0;
    for (double t : frameTimes(spec)) {
        const Skeleton s = motion->at(t);
        out.push_back(truePose(s, camera, t));
        const double nods = nod(s);
        if (out.size() == 1) rest = nods;
        // Who faces the picture's right turns against the clock when they look up.
        const bool right = Vec3::UnitY().cross(s.chestRight).dot(camera.right()) > 0;
        out.back().head = {true, static_cast<float>(right ? rest - nods : nods - rest), 1, 0};
    }
    return out;
}

}  // namespace zevo::sim
