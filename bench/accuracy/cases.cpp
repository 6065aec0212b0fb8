#include "bench/accuracy/cases.h"

#include <array>
#include <functional>

#include "bench/accuracy/builds.h"
#include "catalog/data_files.h"

namespace bench {

using namespace zevo;

namespace {

/// Three reps of different size.
void addReps(sim::MotionSpec& m) {
    const std::array<double, 3> thigh{-14, 2, 20}, lean{46, 60, 72}, knee{78, 90, 100}, top{162, 176, 184};
    for (std::size_t i = 0; i < 3; ++i) {
        sim::RepSpec r = quickRep();
        r.thighBottomDeg = thigh[i];
        r.hingeLeanDeg = lean[i];
        r.kneeBendDeg = m.variation == "stiff-leg" ? 8
                        : m.variation == "floor"   ? 45
                                                   : 18 + 2.0 * static_cast<double>(i);
        r.frontKneeDeg = knee[i];
        r.topAngleDeg = top[i];
        if (m.variation == "wide") r.shinBottomDeg = 26;
        if (m.variation == "swing") r.lowerS = 0.7, r.liftS = 0.6, r.pauseS = 0.05, r.topS = 0.2;
        if (m.movement == "bridge") r.liftS = 1.3, r.pauseS = 0.8, r.lowerS = 1.6;
        m.reps.push_back(r);
    }
    if (m.variation == "wide") m.stanceShare = 0.30, m.toeOutDeg = 25;
    if (m.variation == "back-bar" || m.variation == "floor" || m.variation == "romanian") m.loadShare = 0.5;
    if (m.variation == "goblet" || m.variation == "swing") m.loadShare = 0.2;
}

Case movementCase(const std::string& movement, const std::string& variation, const std::string& view, int build,
                  bool mesh, int number, ByChance looks = ByChance::Yes) {
    Case c;
    c.spec = plainClip(build, mesh, number, looks);
    c.spec.motion.movement = movement;
    c.spec.motion.variation = variation;
    addReps(c.spec.motion);
    const auto known = catalog::loadMovement(movement);
    c.family = known ? familyName(known->family) : movement;
    c.square = variation != "floor";  // its plates hide the near knee
    c.view = view;
    auto& camera = c.spec.scene.camera;
    if (view == "front") {
        camera.azimuthDeg = 0;
        // Knees inside, over and outside the feet; hips level and dropped.
        const std::array<double, 3> in{0, 5, -4}, drop{0, 5, 0};
        for (std::size_t i = 0; i < 3; ++i) {
            auto& r = c.spec.motion.reps[i];
            r.kneeInLeftCm = r.kneeInRightCm = in[i];
            r.hipDropDeg = drop[i];
        }
    }
    if (movement == "bridge") camera.heightM = 0.5, camera.aimHeightM = 0.42;
    // From the foot end a lying client is small: the camera comes nearer.
    if (movement == "bridge" && view == "front") camera.distanceM = 1.9, camera.heightM = 0.6;
    // The working leg is the one the camera sees.
    c.spec.motion.workingLeg = view == "front" || camera.azimuthDeg > 0 ? 1 : 0;
    c.name = movement + (variation.empty() ? "" : "-" + variation) + "-" + view + "-" + (mesh ? "mesh" : "drawn") +
             std::to_string(build);
    return c;
}

void spoil(std::vector<Case>& cases, const std::string& what, int number,
           const std::function<void(sim::ClipSpec&)>& change) {
    // Plain but for the one thing that is wrong.
    Case c = movementCase("squat", "", "side", number, number % 2 == 1, number, ByChance::No);
    c.square = false;
    c.name = "set-up-" + what;
    change(c.spec);
    cases.push_back(c);
}

}  // namespace

std::vector<Case> grid() {
    std::vector<Case> out;
    int number = 0;
    for (bool mesh : {false, true}) {
        for (int build = 0; build < 6; ++build, ++number)
            out.push_back(movementCase("squat", "", "side", build, mesh, number));
        using Two = std::pair<const char*, const char*>;  // empty: the next build's turn
        for (const auto& [movement, variation] :
             {Two{"squat", "box"}, Two{"squat", "wide"}, Two{"squat", "goblet"}, Two{"squat", "back-bar"},
              Two{"split-squat", ""}, Two{"reverse-lunge", ""}, Two{"forward-lunge", ""}, Two{"rear-foot-raised", ""},
              Two{"lateral-lunge", ""}, Two{"hinge", ""}, Two{"hinge", "dowel"}, Two{"hinge", "romanian"},
              Two{"hinge", "stiff-leg"}, Two{"hinge", "floor"}, Two{"hinge", "swing"}, Two{"bridge", ""}, Two{"", ""},
              Two{"bridge", "thrust"}}) {
            if (*movement) out.push_back(movementCase(movement, variation, "side", number % 6, mesh, number));
            ++number;
        }
        for (const auto& [movement, variation] :
             {Two{"squat", ""}, Two{"", ""}, Two{"squat", "wide"}, Two{"lateral-lunge", ""}, Two{"bridge", ""}}) {
            if (*movement) out.push_back(movementCase(movement, variation, "front", number % 6, mesh, number));
            ++number;
        }
    }
    // Legs that take turns, and a client who walks on.
    for (bool mesh : {false, true}) {
        for (const char* movement : {"reverse-lunge", "walking-lunge", "lateral-lunge"}) {
            const bool lateral = std::string(movement) == "lateral-lunge";
            Case c = movementCase(movement, "", lateral ? "front" : "side", number % 6, mesh, number);
            c.spec.motion.alternate = true;
            c.spec.scene.camera.distanceM = 4.2;
            c.spec.motion.reps[2].frontKneeDeg = 88;
            c.name = "turns-" + c.name;
            c.square = false;
            out.push_back(c);
            ++number;
        }
        for (const char* movement : {"split-squat", "reverse-lunge"}) {
            out.push_back(movementCase(movement, "", "front", number % 6, mesh, number));
            ++number;
        }
    }
    spoil(out, "15-degrees-off", 60, [](auto& s) { s.scene.camera.azimuthDeg = 75; });
    spoil(out, "25-degrees-off", 61, [](auto& s) { s.scene.camera.azimuthDeg = -115; });
    spoil(out, "rolled-4-degrees", 62, [](auto& s) { s.scene.camera.rollDeg = 4; });
    spoil(out, "low-camera", 63, [](auto& s) { s.scene.camera.heightM = 0.35; });
    spoil(out, "high-camera", 64, [](auto& s) { s.scene.camera.heightM = 1.7; });
    spoil(out, "near-wide-lens", 65, [](auto& s) { s.scene.camera.distanceM = 2.3, s.scene.camera.focal = 0.9; });
    spoil(out, "far-long-lens", 66, [](auto& s) { s.scene.camera.distanceM = 7, s.scene.camera.focal = 2.6; });
    spoil(out, "off-centre", 67, [](auto& s) { s.scene.camera.aimSideM = 0.7; });
    spoil(out, "low-light", 68, [](auto& s) { s.scene.light = 0.25, s.scene.noise = 7; });
    spoil(out, "compressed", 69, [](auto& s) { s.video.quality = 38; });
    spoil(out, "motion-blur", 70, [](auto& s) { s.scene.shutter = 0.8; });
    spoil(out, "60-a-second", 71, [](auto& s) { s.frameRate = 60; });
    spoil(out, "720p", 72, [](auto& s) { s.scene.camera.width = 1280, s.scene.camera.height = 720; });
    spoil(out, "bystander", 73, [](auto& s) { s.scene.bystander = true; });
    spoil(out, "bench-in-front", 74, [](auto& s) { s.scene.inFront = "bench"; });
    spoil(out, "post-in-front", 75, [](auto& s) { s.scene.inFront = "post"; });
    spoil(out, "halves", 76, [](auto& s) {
        s.motion.reps[1].oneAndHalf = 1, s.motion.reps[2].thighBottomDeg = 55, s.motion.reps[2].shinBottomDeg = 16;
    });
    spoil(out, "halves-mesh", 77, [](auto& s) {
        s.motion.reps[0].thighBottomDeg = 58, s.motion.reps[0].shinBottomDeg = 16, s.motion.reps[2].oneAndHalf = 1;
    });
    return out;
}

std::vector<Case> smallGrid() {
    std::vector<Case> out{movementCase("squat", "", "side", 0, false, 0, ByChance::No),
                          movementCase("squat", "", "side", 1, true, 1, ByChance::No),
                          movementCase("hinge", "", "side", 3, true, 3, ByChance::No),
                          movementCase("squat", "", "front", 4, false, 4, ByChance::No),
                          movementCase("bridge", "", "side", 5, true, 6, ByChance::No)};
    for (Case& c : out) {
        c.spec.motion.reps.pop_back();
        c.spec.frameRate = 20;
        c.spec.scene.camera.width = 640, c.spec.scene.camera.height = 360;
    }
    return out;
}

}  // namespace bench
