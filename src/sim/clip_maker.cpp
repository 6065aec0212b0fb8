#include "sim/clip_maker.h"

#include <algorithm>
#include <future>
#include <nlohmann/json.hpp>

namespace zevo::sim {

using nlohmann::json;

std::vector<double> frameTimes(const ClipSpec& spec) {
    const auto count = static_cast<long>(SquatMotion(spec.motion).durationS() * spec.frameRate);
    std::vector<double> times;
    for (long i = 0; i < count; ++i) {
        const double late =
            spec.jitter *
            (0.5 + 0.5 * std::sin(static_cast<double>(i) * 12.9898 + static_cast<double>(spec.scene.seed)));
        times.push_back((static_cast<double>(i) + (i == 0 ? 0 : late)) / spec.frameRate);
    }
    return times;
}

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
        pose.world[static_cast<std::size_t>(id)] = {static_cast<float>(rel.x()), static_cast<float>(-rel.y()),
                                                    static_cast<float>(rel.z())};
    };
    auto pair = [&](Landmark left, const std::array<Vec3, 2>& p) {
        put(left, p[0]);
        put(static_cast<Landmark>(static_cast<int>(left) + 1), p[1]);
    };
    const Vec3 f = (s.nose - s.headCentre).normalized();
    put(Landmark::Nose, s.nose);
    for (int i = 1; i <= 6; ++i)
        put(static_cast<Landmark>(i), s.headCentre + 0.08 * f + Vec3(0, 0.01, i <= 3 ? -0.03 : 0.03));
    pair(Landmark::LeftEar, s.ear);
    put(Landmark::MouthLeft, s.headCentre + 0.08 * f - Vec3(0, 0.06, 0.02));
    put(Landmark::MouthRight, s.headCentre + 0.08 * f - Vec3(0, 0.06, -0.02));
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

PoseFrames truePoses(const ClipSpec& spec) {
    const SquatMotion motion(spec.motion);
    const Camera camera(spec.scene.camera);
    PoseFrames out;
    for (double t : frameTimes(spec)) out.push_back(truePose(motion.at(t), camera, t));
    return out;
}

Result<void> makeClip(const ClipSpec& spec, const std::string& path, const Progress& progress) {
    const CameraSpec& camera = spec.scene.camera;
    media::WriteOptions options = spec.video;
    options.frameRate = spec.frameRate;
    auto writer = media::ClipWriter::create(path, camera.width, camera.height, options);
    if (!writer) return writer.error();
    const SquatMotion motion(spec.motion);
    const auto times = frameTimes(spec);
    const long count = static_cast<long>(times.size());
    constexpr int kWorkers = 2;
    std::vector<Renderer> renderers;
    for (int i = 0; i < kWorkers; ++i) renderers.emplace_back(spec.scene);
    auto render = [&](int worker, long frame) {
        Mesh mesh;
        Picture picture;
        buildFigure(motion.at(times[frame]), spec.motion.body, mesh);
        renderers[worker].draw(mesh, frame, picture);
        return picture;
    };
    // One frame ahead per renderer: the next is drawn while this one is encoded.
    std::array<std::future<Picture>, kWorkers> drawn;
    auto start = [&](long frame) {
        if (frame < count)
            drawn[frame % kWorkers] = std::async(std::launch::async, render, static_cast<int>(frame % kWorkers), frame);
    };
    for (int w = 0; w < kWorkers; ++w) start(w);
    for (long frame = 0; frame < count; ++frame) {
        const Picture picture = drawn[frame % kWorkers].get();
        start(frame + kWorkers);
        if (auto wrote = writer->write(picture.view(), times[frame]); !wrote) return wrote;
        if (progress && !progress(frame + 1, count)) return Error{"Stopped.", path};
    }
    return writer->finish();
}

std::string truthJson(const ClipSpec& spec) {
    const SquatMotion motion(spec.motion);
    const Camera camera(spec.scene.camera);
    const int near = spec.scene.camera.azimuthDeg >= 0 ? 1 : 0;
    json out{{"schema", "zevo-truth-1"},
             {"stature_cm", spec.motion.body.statureCm},
             {"near_side", near ? "right" : "left"},
             {"planted", spec.planted}};
    for (const auto& r : motion.reps())
        out["reps"].push_back({{"start_s", r.startS}, {"bottom_s", r.bottomS}, {"end_s", r.endS}});
    for (double t : frameTimes(spec)) {
        const Skeleton s = motion.at(t);
        const TrueAngles a = trueAngles(s, near);
        auto place = [&](const Vec3& p) {
            double x = 0, y = 0;
            camera.project(p, x, y);
            return json{p.x(), p.y(), p.z(), x, y};
        };
        static const char* const kPhase[] = {"top", "lowering", "bottom", "lifting"};
        out["frames"].push_back({{"t_s", t},
                                 {"phase", kPhase[static_cast<int>(s.phase)]},
                                 {"rep", s.rep},
                                 {"knee_flexion", a.kneeFlexion},
                                 {"hip_flexion", a.hipFlexion},
                                 {"trunk_lean", a.trunkLean},
                                 {"shin_angle", a.shinAngle},
                                 {"thigh_angle", a.thighAngle},
                                 {"heel_rise", a.heelRiseCm},
                                 {"hip", place(s.hip[near])},
                                 {"knee", place(s.knee[near])},
                                 {"ankle", place(s.ankle[near])},
                                 {"heel", place(s.heel[near])},
                                 {"toe", place(s.toe[near])},
                                 {"shoulder", place(s.shoulder[near])},
                                 {"mass_centre", place(s.massCentre)}});
    }
    return out.dump();
}

namespace {

struct Reader {
    std::string problem;

    template <typename T>
    void get(const json& object, const char* key, T& into, const std::string& path) {
        if (!object.is_object() || !object.contains(key)) return;
        try {
            into = object.at(key).get<T>();
        } catch (const json::exception&) {
            if (problem.empty()) problem = path + "/" + key + " has the wrong type";
        }
    }

    void colour(const json& object, const char* key, Colour& into, const std::string& path) {
        std::vector<int> rgb;
        get(object, key, rgb, path);
        if (rgb.size() == 3)
            into = {static_cast<std::uint8_t>(rgb[0]), static_cast<std::uint8_t>(rgb[1]),
                    static_cast<std::uint8_t>(rgb[2])};
        else if (!rgb.empty() && problem.empty())
            problem = path + "/" + key + " needs three numbers";
    }
};

}  // namespace

Result<ClipSpec> clipSpecFromJson(const std::string& text) {
    const json root = json::parse(text, nullptr, false);
    if (!root.is_object()) return Error{"The spec is not a JSON object.", ""};
    ClipSpec spec;
    Reader r;
    const json body = root.value("body", json::object()), camera = root.value("camera", json::object());
    BodySpec& b = spec.motion.body;
    r.get(body, "stature_cm", b.statureCm, "body");
    r.get(body, "girth", b.girth, "body");
    r.get(body, "legs", b.legShare, "body");
    r.get(body, "trunk", b.trunkShare, "body");
    r.colour(body, "skin", b.skin, "body");
    r.colour(body, "shirt", b.shirt, "body");
    r.colour(body, "shorts", b.shorts, "body");
    r.colour(body, "shoe", b.shoe, "body");
    r.colour(body, "hair", b.hair, "body");
    CameraSpec& c = spec.scene.camera;
    r.get(camera, "width", c.width, "camera");
    r.get(camera, "height", c.height, "camera");
    r.get(camera, "azimuth_deg", c.azimuthDeg, "camera");
    r.get(camera, "distance_m", c.distanceM, "camera");
    r.get(camera, "height_m", c.heightM, "camera");
    r.get(root, "noise", spec.scene.noise, "");
    r.get(root, "light", spec.scene.light, "");
    r.get(root, "show_client", spec.scene.showClient, "");
    r.get(root, "seed", spec.scene.seed, "");
    r.get(root, "frame_rate", spec.frameRate, "");
    r.get(root, "jitter", spec.jitter, "");
    r.get(root, "quality", spec.video.quality, "");
    r.get(root, "planted", spec.planted, "");
    r.get(root, "stance", spec.motion.stanceShare, "");
    r.get(root, "toe_out_deg", spec.motion.toeOutDeg, "");
    r.get(root, "standing_knee_deg", spec.motion.standingKneeDeg, "");
    const json reps = root.value("reps", json::array());
    if (!reps.is_array()) return Error{"The spec's “reps” must be a list.", "reps"};
    for (std::size_t i = 0; i < reps.size(); ++i) {
        const std::string path = "reps/" + std::to_string(i);
        RepSpec rep;
        const json& j = reps[i];
        if (!j.is_object()) return Error{"Each rep of the spec must be an object.", path};
        r.get(j, "thigh_bottom_deg", rep.thighBottomDeg, path);
        r.get(j, "shin_bottom_deg", rep.shinBottomDeg, path);
        r.get(j, "lower_s", rep.lowerS, path);
        r.get(j, "pause_s", rep.pauseS, path);
        r.get(j, "lift_s", rep.liftS, path);
        r.get(j, "top_s", rep.topS, path);
        r.get(j, "heel_rise_cm", rep.heelRiseCm, path);
        r.get(j, "toe_rise_cm", rep.toeRiseCm, path);
        r.get(j, "extra_lean_deg", rep.extraLeanDeg, path);
        r.get(j, "neck_deg", rep.neckDeg, path);
        r.get(j, "knees_first", rep.kneesFirst, path);
        r.get(j, "bounce", rep.bounce, path);
        r.get(j, "balance_shift", rep.balanceShift, path);
        r.get(j, "lockout_lean_deg", rep.lockoutLeanDeg, path);
        if (rep.lowerS < 0.1 || rep.liftS < 0.1 || rep.pauseS < 0 || rep.topS < 0.05)
            return Error{"A rep's times are too short.", path};
        spec.motion.reps.push_back(rep);
    }
    if (!r.problem.empty()) return Error{"The spec has a mistake: " + r.problem + ".", ""};
    if (c.width < 64 || c.height < 64 || c.width > 4096 || c.height > 4096 || c.width % 2 || c.height % 2)
        return Error{"The spec's camera needs an even width and height between 64 and 4096.", "camera"};
    if (spec.frameRate < 1 || spec.frameRate > 240)
        return Error{"The spec's frame_rate must lie between 1 and 240.", "frame_rate"};
    if (b.statureCm < 100 || b.statureCm > 230)
        return Error{"The spec's stature_cm must lie between 100 and 230.", "body/stature_cm"};
    return spec;
}

}  // namespace zevo::sim
