// The fault trial: every fault Zevo names, planted just inside the band, just outside it and clearly outside, on both
// figures; and clean sets of every school.
#include <array>
#include <functional>

#include "bench/accuracy/builds.h"
#include "bench/accuracy/cases.h"

namespace bench {

using namespace zevo;

namespace {

using Dial = std::function<void(sim::MotionSpec&, double)>;

Dial ofRep(double sim::RepSpec::*dial) {
    return [dial](sim::MotionSpec& m, double v) {
        for (auto& r : m.reps) r.*dial = v;
    };
}

/// How a school's sets are filmed and what a clean one looks like.
struct School {
    const char *movement, *variation, *standard, *view;
    std::function<void(sim::MotionSpec&)> clean = [](auto&) {};
};

struct Planted {
    const char* fault;
    School school;
    std::array<double, 3> sizes;  ///< inside, outside, clear
    Dial turn;
    const char* side = "";
};

const School kSquat{"squat", "", "whole-foot", "side"}, kSquatBack{"squat", "", "hips-back", "side"},
    kSquatFront{"squat", "", "whole-foot", "front"}, kUpright{"squat", "", "upright", "side", [](auto&m) {
                                                                  for (auto& r : m.reps) r.thighBottomDeg = -18;
                                                              }};
const School kTall{"split-squat", "", "tall", "side"},
    kBow{"reverse-lunge", "", "slight-bow", "side",
         [](auto&m) {
             for (auto& r : m.reps) r.lungeLeanDeg = 20;
         }},
    kForward{"forward-lunge", "", "tall", "side"}, kRaised{"rear-foot-raised", "", "tall", "side"},
    kLungeFront{"split-squat", "", "tall", "front"}, kLateral{"lateral-lunge", "", "sideways", "front"},
    kLateralSide{"lateral-lunge", "", "sideways", "side"};
const School kHinge{"hinge", "", "soft-finish", "side"}, kRomanian{"hinge", "romanian", "soft-finish", "side"},
    kStiff{"hinge", "stiff-leg", "full-squeeze", "side",
           [](auto&m) {
               for (auto& r : m.reps) r.kneeBendDeg = 9;
           }},
    kSqueeze{"hinge", "", "full-squeeze", "side"}, kFloor{"hinge", "wide-floor", "full-squeeze", "side", [](auto&m) {
                                                              for (auto& r : m.reps)
                                                                  r.kneeBendDeg = 45, r.hingeLeanDeg = 58;
                                                          }};
const auto kHold = [](sim::MotionSpec& m) {
    for (auto& r : m.reps) r.pauseS = 2, r.lowerS = 1.8, r.liftS = 1.3;
};
const School kBridge{"bridge", "", "neutral", "side", kHold}, kThrust{"bridge", "thrust", "neutral", "side", kHold},
    kArticulated{"bridge", "articulated", "articulated", "side", [](auto&m) {
                     kHold(m);
                     for (auto& r : m.reps) r.lowerS = 3;
                 }};

/// Edges: data/standards; sizes lie about a fifth of the way around them and well beyond.
std::vector<Planted> planted() {
    using R = sim::RepSpec;
    auto both = [](double R::*a, double other, double R::*b) -> Dial {
        return [=](sim::MotionSpec& m, double v) {
            for (auto& r : m.reps) r.*a = v, r.*b = other;
        };
    };
    const Dial bounced = [](sim::MotionSpec& m, double v) {
        for (auto& r : m.reps) {
            r.bounce = v, r.pauseS = 0.05;
            if (v == 1) r.lowerS = 1.65, r.liftS = 0.9;  // fast enough to be well past the edge
        }
    };
    const Dial landed = [](sim::MotionSpec& m, double v) {
        for (auto& r : m.reps) r.bounce = 1, r.pauseS = 0.05, r.lowerS = v;
    };
    return {
        {"depth_short", kSquat, {2, 8, 24}, ofRep(&R::thighBottomDeg)},
        {"heels_rise", kSquat, {0.9, 2.2, 4.5}, ofRep(&R::heelRiseCm)},
        {"toes_rise", kSquat, {0.9, 2.2, 5}, ofRep(&R::toeRiseCm)},
        {"knees_first", kSquat, {0.3, 0.8, 1}, ofRep(&R::kneesFirst)},
        {"knee_past_toes", kSquatBack, {20, 30, 46}, both(&R::shinBottomDeg, 2, &R::thighBottomDeg)},
        {"weight_on_toes", kSquat, {0.12, 0.19, 0.34}, both(&R::balanceShift, 42, &R::shinBottomDeg)},
        {"forward_lean", kSquat, {2, 11, 26}, ofRep(&R::extraLeanDeg)},
        {"chin_up", kSquat, {7, 17, 42}, ofRep(&R::neckDeg)},
        {"chin_down", kSquat, {-26, -36, -54}, ofRep(&R::neckDeg)},
        {"weight_on_heels", kSquat, {-0.12, -0.19, -0.34}, ofRep(&R::balanceShift)},
        {"lowering_fast", kSquat, {1.65, 1.35, 0.8}, ofRep(&R::lowerS)},
        {"bottom_bounced", kSquat, {0.15, 0.5, 1}, bounced},
        {"leans_back", kSquat, {3.5, 9, 16}, both(&R::lockoutLeanDeg, 1.1, &R::topS)},
        {"depth_beyond_control",
         kSquat,
         {-10, -22, -34},
         [](auto& m, double v) {
             // The heel leaves the floor a little below level, and the rep goes on.
             for (auto& r : m.reps) r.heelRiseCm = 6, r.thighBottomDeg = v, r.heelFrom = 0.68 - 0.006 * (v + 34);
         }},
        {"knees_cave", kSquatFront, {2.5, 6, 11}, ofRep(&R::kneeInLeftCm), "left"},
        {"knees_bow", kSquatFront, {-4, -9, -14}, ofRep(&R::kneeInRightCm), "right"},
        {"knee_wobble", kSquatFront, {0.8, 1.8, 3.5}, ofRep(&R::kneeWobbleCm)},
        {"weight_shift", kSquatFront, {1.3, 2.8, 6}, ofRep(&R::shiftCm)},
        {"hip_drops", kSquatFront, {2.5, 6, 14}, ofRep(&R::hipDropDeg)},
        {"shoulders_tip", kSquatFront, {3, 7, 14}, ofRep(&R::shoulderTipDeg)},
        {"stance_narrow", kSquatFront, {0.155, 0.135, 0.10}, [](auto& m, double v) { m.stanceShare = v; }},
        {"stance_wide", kSquatFront, {0.27, 0.33, 0.42}, [](auto& m, double v) { m.stanceShare = v; }},
        {"toes_out_much", kSquatFront, {27, 38, 58}, [](auto& m, double v) { m.toeOutDeg = v; }},
        {"toes_out_little", kSquatFront, {-1, -10, -26}, [](auto& m, double v) { m.toeOutDeg = v; }},
        {"feet_uneven", kSquatFront, {5, 11, 28}, [](auto& m, double v) { m.toeOutUnevenDeg = v; }},
        {"front_knee_open", kTall, {85, 75, 60}, ofRep(&R::frontKneeDeg)},
        {"front_knee_tight", kTall, {101, 110, 126}, ofRep(&R::frontKneeDeg)},
        {"rear_knee_ahead", kTall, {-9, -20, -34}, ofRep(&R::rearThighDeg)},
        {"rear_knee_behind", kTall, {9, 22, 34}, ofRep(&R::rearThighDeg)},
        {"rear_knee_lands", kTall, {1.7, 0.9, 0.5}, landed},
        {"trunk_low", kTall, {6, 14, 28}, ofRep(&R::lungeLeanDeg)},
        {"knee_past_toes", kTall, {18, 34, 48}, ofRep(&R::frontShinDeg)},
        {"hips_rise_first", kTall, {0.2, 0.5, 1}, ofRep(&R::hipsShootUp)},
        {"heels_rise", kTall, {0.9, 2.2, 4.5}, ofRep(&R::heelRiseCm)},
        {"hips_turn", kTall, {10, 32, 60}, ofRep(&R::hipTurnDeg)},
        {"knees_cave", kLungeFront, {2.5, 6, 11}, ofRep(&R::kneeInRightCm), "right"},
        {"trunk_upright", kBow, {13, 6, -6}, ofRep(&R::lungeLeanDeg)},
        {"trunk_upright", kLateralSide, {-7, -14, -28}, ofRep(&R::lungeLeanDeg)},
        {"nose_short", kLateral, {8, 20, 34}, ofRep(&R::noseOffCm)},
        {"trunk_low", kLateralSide, {0, 22, 36}, ofRep(&R::lungeLeanDeg)},
        {"trailing_leg_bent", kLateralSide, {5, 15, 40}, ofRep(&R::trailingKneeDeg)},
        {"hinge_squatted", kHinge, {27, 42, 62}, both(&R::kneeBendDeg, 45, &R::hingeLeanDeg)},
        {"back_leads", kHinge, {0.06, 0.18, 0.45}, ofRep(&R::balanceShift)},
        {"chin_up", kHinge, {1, 9, 30}, ofRep(&R::neckDeg)},
        {"load_drifts", kRomanian, {5, 11, 24}, ofRep(&R::loadDriftCm)},
        {"chin_down", kHinge, {-20, -36, -52}, ofRep(&R::neckDeg)},
        {"hinge_shallow", kHinge, {42, 29, 18}, ofRep(&R::hingeLeanDeg)},
        {"top_not_reached", kSqueeze, {15, 26, 40}, [](auto& m, double v) { m.standingKneeDeg = v; }},
        {"hinge_too_deep", kRomanian, {80, 92, 104}, ofRep(&R::hingeLeanDeg)},
        {"leans_back", kHinge, {3.5, 9, 16}, both(&R::lockoutLeanDeg, 1.1, &R::topS)},
        {"lowering_fast", kHinge, {1.1, 0.75, 0.5}, ofRep(&R::lowerS)},
        {"hips_shoot_first", kFloor, {0.15, 0.45, 1}, ofRep(&R::hipsShootUp)},
        {"bridge_low", kBridge, {169, 160, 145}, ofRep(&R::topAngleDeg)},
        {"bridge_overarched", kBridge, {182, 189, 202}, ofRep(&R::topAngleDeg)},
        {"feet_far", kBridge, {6, 12, 26}, [](auto& m, double v) { m.feetFarCm = v; }},
        {"feet_near", kBridge, {-5, -11, -20}, [](auto& m, double v) { m.feetFarCm = v; }},
        {"hold_missing", kBridge, {1.4, 0.7, 0.1}, ofRep(&R::pauseS)},
        {"dropped", kBridge, {1.4, 0.8, 0.5}, ofRep(&R::lowerS)},
        {"feet_near", kThrust, {-5, -14, -24}, [](auto& m, double v) { m.feetFarCm = v; }},
        {"feet_in_line", kLungeFront, {-12, -22, -38}, [](auto& m, double v) { m.railsCm = v; }},
        {"feet_far_apart", kLungeFront, {12, 22, 40}, [](auto& m, double v) { m.railsCm = v; }},
        {"depth_short", kSquatFront, {2, 8, 24}, ofRep(&R::thighBottomDeg)},
    };
}

/// A clean set of a school.
Trial cleanSet(const School& school, int build, bool mesh, int number) {
    Trial t;
    t.spec = plainClip(build, mesh, 300 + number, ByChance::Yes);
    sim::MotionSpec& m = t.spec.motion;
    m.movement = school.movement;
    m.variation = school.variation;
    sim::RepSpec r = quickRep();
    r.lowerS = 2.1;
    r.thighBottomDeg = -13;
    r.hingeLeanDeg = 62;
    m.reps.assign(2, r);
    school.clean(m);
    auto& camera = t.spec.scene.camera;
    if (std::string(school.view) == "front") camera.azimuthDeg = 0;
    if (m.movement == "bridge") camera.heightM = 0.5, camera.aimHeightM = 0.42;
    // The working leg is the one the camera sees; in a lateral lunge it is the straight one that has to be seen.
    const bool fromRight = camera.azimuthDeg >= 0;
    m.workingLeg = m.movement == "lateral-lunge" && camera.azimuthDeg != 0 ? !fromRight : fromRight;
    t.standard = school.standard;
    t.group = std::string(school.movement) + (*school.variation ? "-" + std::string(school.variation) : "") + ", " +
              school.standard + ", " + school.view;
    t.name = "trial-" + std::string(school.movement) + (*school.variation ? "-" : "") + school.variation + "-" +
             school.standard + "-" + school.view + "-";
    return t;
}

}  // namespace

const char* sizeName(Size size) {
    static constexpr std::array<const char*, 4> names{"clean", "inside", "outside", "clear"};
    return names[static_cast<std::size_t>(size)];
}

std::vector<Trial> faultTrial() {
    std::vector<Trial> out;
    int number = 0;
    auto add = [&](const School& school, const Planted* p, Size size, int build, bool mesh) {
        Trial t = cleanSet(school, build, mesh, number);
        if (p) {
            t.fault = p->fault;
            t.side = p->side;
            p->turn(t.spec.motion, p->sizes[static_cast<std::size_t>(size) - 1]);
        }
        t.size = size;
        t.name += (p ? t.fault : std::string("clean")) + "-" + sizeName(size) + "-" + (mesh ? "mesh" : "drawn") +
                  std::to_string(build);
        out.push_back(t);
        ++number;
    };
    for (int build = 0; build < 6; ++build)
        for (bool mesh : {false, true}) add(kSquat, nullptr, Size::None, build, mesh);
    for (const School* s :
         {&kSquatBack, &kUpright, &kSquatFront, &kTall, &kBow, &kForward, &kRaised, &kLungeFront, &kLateral,
          &kLateralSide, &kHinge, &kSqueeze, &kRomanian, &kStiff, &kFloor, &kBridge, &kThrust, &kArticulated})
        for (bool mesh : {false, true}) add(*s, nullptr, Size::None, number % 6, mesh);
    for (const Planted& p : planted()) {
        const bool mesh = number % 2 == 0;
        add(p.school, &p, Size::Inside, number % 6, mesh);
        add(p.school, &p, Size::Outside, number % 6, !mesh);
        add(p.school, &p, Size::Clear, number % 6, false);
        add(p.school, &p, Size::Clear, (number + 2) % 6, true);
    }
    return out;
}

std::vector<Trial> shortTrial() {
    auto out = faultTrial();
    std::erase_if(out, [](const Trial& t) {
        const bool twin = t.spec.motion.body.figure != "mesh";  // people take the place of both figures
        return t.size == Size::Inside || t.size == Size::Outside || (t.size == Size::Clear && twin);
    });
    return out;
}

}  // namespace bench
