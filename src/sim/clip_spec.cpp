// Specs of made-up clips from JSON (docs/formats.md).
#include <nlohmann/json.hpp>

#include "core/judge/choices.h"
#include "sim/clip_maker.h"

namespace zevo::sim {

using nlohmann::json;

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
    r.get(body, "arms", b.armShare, "body");
    r.get(body, "loose_trousers", b.looseTrousers, "body");
    r.get(body, "long_sleeves", b.longSleeves, "body");
    r.get(body, "loose_shirt_cm", b.looseShirtCm, "body");
    r.get(body, "figure", b.figure, "body");
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
    r.get(camera, "aim_height_m", c.aimHeightM, "camera");
    r.get(camera, "aim_side_m", c.aimSideM, "camera");
    r.get(camera, "roll_deg", c.rollDeg, "camera");
    r.get(camera, "focal", c.focal, "camera");
    r.get(root, "noise", spec.scene.noise, "");
    r.get(root, "light", spec.scene.light, "");
    r.get(root, "show_client", spec.scene.showClient, "");
    r.get(root, "shutter", spec.scene.shutter, "");
    r.get(root, "in_front", spec.scene.inFront, "");
    r.get(root, "bystander", spec.scene.bystander, "");
    r.get(root, "seed", spec.scene.seed, "");
    r.colour(root, "wall", spec.scene.wall, "");
    r.colour(root, "floor", spec.scene.floor, "");
    const json looks = root.value("looks", json::object());
    Looks& l = spec.scene.looks;
    r.get(looks, "floor", l.floor, "looks");
    r.get(looks, "mat", l.mat, "looks");
    r.get(looks, "light_turn_deg", l.lightTurnDeg, "looks");
    r.get(looks, "shadow_spread", l.shadowSpread, "looks");
    r.get(looks, "band_width_m", l.bandWidthM, "looks");
    r.get(looks, "band_at_m", l.bandAtM, "looks");
    r.get(looks, "band_speed", l.bandSpeed, "looks");
    r.get(looks, "band_dark", l.bandDark, "looks");
    r.get(looks, "sun_width_m", l.sunWidthM, "looks");
    r.get(looks, "sun_at_m", l.sunAtM, "looks");
    r.get(looks, "sun_bright", l.sunBright, "looks");
    r.get(looks, "shoes", l.shoes, "looks");
    r.get(looks, "shake_px", l.shakePx, "looks");
    r.get(looks, "clutter", l.clutter, "looks");
    r.get(looks, "wall", l.wall, "looks");
    r.get(looks, "window", l.window, "looks");
    r.get(looks, "door", l.door, "looks");
    r.get(looks, "furnished", l.furnished, "looks");
    r.get(looks, "exposure_wander", l.exposureWander, "looks");
    r.get(looks, "dark_noise", l.darkNoise, "looks");
    r.get(looks, "tapes", l.tapes, "looks");
    r.get(root, "frame_rate", spec.frameRate, "");
    r.get(root, "jitter", spec.jitter, "");
    r.get(root, "start_s", spec.startS, "");
    r.get(root, "quality", spec.video.quality, "");
    r.get(root, "planted", spec.planted, "");
    MotionSpec& motion = spec.motion;
    r.get(root, "movement", motion.movement, "");
    r.get(root, "variation", motion.variation, "");
    r.get(root, "stance", motion.stanceShare, "");
    r.get(root, "toe_out_uneven_deg", motion.toeOutUnevenDeg, "");
    r.get(root, "feet_far_cm", motion.feetFarCm, "");
    r.get(root, "rails_cm", motion.railsCm, "");
    r.get(root, "load", motion.loadShare, "");
    r.get(root, "lead_in_s", motion.leadInS, "");
    std::string leg = "right";
    r.get(root, "working_leg", leg, "");
    motion.workingLeg = leg == "left" ? 0 : 1;
    r.get(root, "alternate", motion.alternate, "");
    std::string arms = "reach";
    r.get(root, "arms", arms, "");
    if (arms != "reach" && arms != "held-in" && arms != "behind-head" && arms != "pushed-away")
        return Error{"The spec's arms must be “reach”, “held-in”, “behind-head” or “pushed-away”.", "arms"};
    motion.arms = armsOf({{"arms", arms}});
    const json drift = root.value("drift", json::object());
    r.get(root, "toe_out_deg", spec.motion.toeOutDeg, "");
    r.get(root, "standing_knee_deg", spec.motion.standingKneeDeg, "");
    const json reps = root.value("reps", json::array());
    if (!reps.is_array()) return Error{"The spec's “reps” must be a list.", "reps"};
    for (std::size_t i = 0; i < reps.size(); ++i) {
        const std::string path = "reps/" + std::to_string(i);
        RepSpec rep;
        const json& j = reps[i];
        if (!j.is_object()) return Error{"Each rep of the spec must be an object.", path};
        // Fatigue: what is added by the last rep, growing evenly over the set.
        const double tired = reps.size() > 1 ? static_cast<double>(i) / static_cast<double>(reps.size() - 1) : 0.0;
        for (const Dial& d : dials()) {
            double more = 0;
            r.get(j, d.name, rep.*d.value, path);
            r.get(drift, d.name, more, "drift");
            rep.*d.value += tired * more;
        }
        if (rep.lowerS < 0.1 || rep.liftS < 0.1 || rep.pauseS < 0 || rep.topS < 0.05)
            return Error{"A rep's times are too short.", path};
        spec.motion.reps.push_back(rep);
    }
    if (!r.problem.empty()) return Error{"The spec has a mistake: " + r.problem + ".", ""};
    if (c.width < 64 || c.height < 64 || c.width > 4096 || c.height > 4096 || c.width % 2 || c.height % 2)
        return Error{"The spec's camera needs an even width and height between 64 and 4096.", "camera"};
    if (spec.frameRate < 1 || spec.frameRate > 240)
        return Error{"The spec's frame_rate must lie between 1 and 240.", "frame_rate"};
    if (b.figure != "drawn" && b.figure != "mesh")
        return Error{"The spec's figure must be “drawn” or “mesh”.", "body/figure"};
    if (!spec.scene.inFront.empty() && spec.scene.inFront != "post" && spec.scene.inFront != "bench")
        return Error{"The spec's in_front must be “post” or “bench”.", "in_front"};
    if (const auto unknown = problemOf(l); !unknown.empty())
        return Error{"The spec's looks have an unknown “" + unknown + "”.", "looks/" + unknown};
    if (auto known = checkMovement(motion); !known) return known.error();
    if (b.statureCm < 100 || b.statureCm > 230)
        return Error{"The spec's stature_cm must lie between 100 and 230.", "body/stature_cm"};
    return spec;
}

}  // namespace zevo::sim
