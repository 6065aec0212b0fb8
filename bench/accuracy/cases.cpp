#include "bench/accuracy/cases.h"

#include <array>
#include <functional>

namespace bench {

using namespace zevo;

namespace {

struct Build {
    double stature, girth, legs, trunk;
    bool loose, longSleeves;
    sim::Colour skin, shirt, shorts, shoe, hair;
};
const std::array<Build, 6> kBuilds{{
    {175, 1.00, 1.00, 1.00, false, false, {205, 152, 122}, {176, 52, 56}, {48, 56, 74}, {58, 92, 150}, {52, 34, 24}},
    {163, 0.95, 1.02, 0.97, false, true, {150, 104, 80}, {60, 96, 70}, {70, 60, 50}, {120, 60, 50}, {30, 22, 18}},
    {188, 1.12, 1.03, 0.98, true, false, {224, 180, 150}, {40, 60, 110}, {120, 110, 90}, {60, 60, 60}, {160, 120, 60}},
    {170, 1.10, 0.97, 1.03, false, false, {96, 64, 46}, {210, 200, 180}, {60, 30, 30}, {200, 196, 190}, {20, 16, 14}},
    {181, 0.90, 1.00, 1.05, true, true, {190, 140, 110}, {90, 90, 100}, {30, 40, 60}, {50, 110, 90}, {80, 60, 40}},
    {158, 1.05, 1.00, 1.00, false, false, {120, 84, 64}, {200, 150, 60}, {50, 70, 60}, {90, 40, 70}, {24, 18, 16}},
}};

sim::BodySpec bodyOf(int build, bool mesh) {
    const Build& b = kBuilds[static_cast<std::size_t>(build) % kBuilds.size()];
    sim::BodySpec body;
    body.statureCm = b.stature;
    body.girth = b.girth;
    body.legShare = b.legs;
    body.trunkShare = b.trunk;
    body.looseTrousers = b.loose;
    body.longSleeves = b.longSleeves;
    body.figure = mesh ? "mesh" : "drawn";
    body.skin = b.skin, body.shirt = b.shirt, body.shorts = b.shorts, body.shoe = b.shoe, body.hair = b.hair;
    return body;
}

constexpr double kRate = 25;

sim::ClipSpec plainClip(int build, bool mesh, int number) {
    sim::ClipSpec s;
    s.motion.body = bodyOf(build, mesh);
    s.motion.leadInS = 0.8;
    s.motion.leadOutS = 0.7;
    s.frameRate = kRate;
    s.scene.camera.width = 854;
    s.scene.camera.height = 480;
    s.scene.camera.azimuthDeg = number % 2 == 0 ? 90 : -90;
    s.scene.seed = static_cast<std::uint64_t>(100 + number);
    return s;
}

sim::RepSpec quickRep() {
    sim::RepSpec r;
    r.lowerS = 1.7, r.pauseS = 0.4, r.liftS = 1.2, r.topS = 0.7;
    return r;
}

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

std::string familyOf(const std::string& movement) {
    if (movement == "squat" || movement == "hinge" || movement == "bridge") return movement;
    return "lunge";
}

Case movementCase(const std::string& movement, const std::string& variation, const std::string& view, int build,
                  bool mesh, int number) {
    Case c;
    c.spec = plainClip(build, mesh, number);
    c.spec.motion.movement = movement;
    c.spec.motion.variation = variation;
    addReps(c.spec.motion);
    c.family = familyOf(movement);
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
    Case c = movementCase("squat", "", "side", number, number % 2 == 1, number);
    c.square = false;
    c.name = "set-up-" + what;
    change(c.spec);
    cases.push_back(c);
}

}  // namespace

const char* sizeName(Size size) {
    static constexpr std::array<const char*, 4> names{"clean", "inside", "outside", "clear"};
    return names[static_cast<std::size_t>(size)];
}

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
    std::vector<Case> out{movementCase("squat", "", "side", 0, false, 0), movementCase("squat", "", "side", 1, true, 1),
                          movementCase("hinge", "", "side", 3, true, 3),
                          movementCase("squat", "", "front", 4, false, 4),
                          movementCase("bridge", "", "side", 5, true, 6)};
    for (Case& c : out) {
        c.spec.motion.reps.pop_back();
        c.spec.frameRate = 20;
        c.spec.scene.camera.width = 640, c.spec.scene.camera.height = 360;
    }
    return out;
}

std::vector<Trial> faultTrial() {
    using Dial = std::function<void(sim::RepSpec&, double)>;
    struct Planted {
        const char* fault;
        const char* standard;
        std::array<double, 3> sizes;  ///< inside, outside, clear
        Dial turn;
    };
    // Edges: data/standards; sizes lie about a fifth of the way around them and well beyond.
    const std::vector<Planted> planted{
        {"depth_short", "whole-foot", {2, 8, 24}, [](auto& r, double v) { r.thighBottomDeg = v; }},
        {"heels_rise", "whole-foot", {0.9, 2.2, 4.5}, [](auto& r, double v) { r.heelRiseCm = v; }},
        {"toes_rise", "whole-foot", {0.9, 2.2, 5}, [](auto& r, double v) { r.toeRiseCm = v; }},
        {"knees_first", "whole-foot", {0.12, 0.3, 1}, [](auto& r, double v) { r.kneesFirst = v; }},
        {"knee_past_toes",
         "hips-back",
         {20, 30, 46},
         [](auto& r, double v) { r.shinBottomDeg = v, r.thighBottomDeg = 2; }},
        {"balance_off_foot",
         "whole-foot",
         {0.12, 0.19, 0.34},
         [](auto& r, double v) { r.balanceShift = v, r.shinBottomDeg = 42; }},
        {"forward_lean", "whole-foot", {2, 8, 24}, [](auto& r, double v) { r.extraLeanDeg = v; }},
        {"head_off_line", "whole-foot", {16, 25, 45}, [](auto& r, double v) { r.neckDeg = v; }},
        {"lowering_fast", "whole-foot", {1.65, 1.35, 0.8}, [](auto& r, double v) { r.lowerS = v; }},
        {"bottom_bounced",
         "whole-foot",
         {0.15, 0.5, 1},
         [](auto& r, double v) {
             r.bounce = v, r.pauseS = 0.05;
             if (v == 1) r.lowerS = 1.65, r.liftS = 0.9;  // fast enough to be well past the edge
         }},
        {"lockout", "whole-foot", {3.5, 9, 16}, [](auto& r, double v) { r.lockoutLeanDeg = v, r.topS = 1.1; }},
    };
    std::vector<Trial> out;
    int number = 0;
    auto add = [&](const Planted* p, Size size, int build, bool mesh) {
        Trial t;
        t.spec = plainClip(build, mesh, 300 + number);
        // A clean rep of the school: knees behind the toes need shins that stay back.
        sim::RepSpec r = quickRep();
        r.lowerS = 2.1;
        r.thighBottomDeg = -13;
        t.standard = p ? p->standard : "whole-foot";
        if (p) {
            t.fault = p->fault;
            p->turn(r, p->sizes[static_cast<std::size_t>(size) - 1]);
        }
        t.size = size;
        t.spec.motion.reps.assign(2, r);
        t.name = "trial-" + (p ? t.fault : std::string("clean")) + "-" + sizeName(size) + "-" +
                 (mesh ? "mesh" : "drawn") + std::to_string(build);
        out.push_back(t);
        ++number;
    };
    for (int build = 0; build < 6; ++build)
        for (bool mesh : {false, true}) add(nullptr, Size::None, build, mesh);
    for (const Planted& p : planted) {
        add(&p, Size::Inside, number % 6, number % 2 == 0);
        add(&p, Size::Outside, number % 6, number % 2 == 0);
        add(&p, Size::Clear, number % 6, false);
        add(&p, Size::Clear, (number + 2) % 6, true);
    }
    return out;
}

}  // namespace bench
