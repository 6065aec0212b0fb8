#pragma once

#include "core/judge/choices.h"
#include "tests/support/made_sets.h"

/// Virtual clients who do exactly what they are asked: by movement, variation and every choice.
namespace made {

/// Three repetitions of what a school with these choices asks for, from their side or from the front (a bridge: from
/// the foot end).
inline sim::ClipSpec perfectClient(const Movement& m, const std::string& variation, const Choices& choices,
                                   bool front) {
    auto of = [&](const char* choice) {
        const auto found = choices.find(choice);
        return found == choices.end() ? std::string() : found->second;
    };
    sim::ClipSpec s = spec(3);
    sim::MotionSpec& motion = s.motion;
    motion.movement = m.id;
    motion.variation = variation;
    sim::RepSpec rep;
    const std::string family = familyName(m.family);
    if (variation == "goblet" || variation == "two-kettlebell-front" || variation == "front-bar" ||
        variation == "overhead")
        motion.loadShare = 0.2;
    if (variation == "back-bar" || variation == "two-dumbbells") motion.loadShare = 0.4;
    const std::string tempo = of(family == "squat" ? "tempo" : family == "hinge" ? "hinge_tempo" : "lunge_tempo");
    if (family == "squat") {
        rep.thighBottomDeg = -8, rep.shinBottomDeg = 32;
        if (of("knees") != "over") rep.shinBottomDeg = 29;  // just behind the toes
        const std::string depth = of("depth");
        if (depth == "knee-90") rep.thighBottomDeg = 12;
        if (depth == "below") rep.thighBottomDeg = -18;
        if (depth == "controlled") rep.thighBottomDeg = 15;
        if (const auto own = numberOf(depth)) rep.thighBottomDeg = *own - 14;
        if (of("foot") == "toes-light") rep.balanceShift = -0.15, rep.toeRiseCm = 2;
        if (of("start") == "knees-out") rep.kneesFirst = 0.8;
        const std::string stance = of("stance");
        motion.stanceShare = stance == "hip" ? 0.155 : stance == "wide" || variation == "wide" ? 0.3 : 0.21;
        const bool wide = motion.stanceShare > 0.29;
        motion.toeOutDeg = of("toes") == "ahead"      ? (wide ? 7 : 2)
                           : of("toes") == "slightly" ? (wide ? 16 : 9)
                           : wide                     ? 27
                                                      : 14;
        if (of("knee_line") == "outside") rep.kneeInLeftCm = rep.kneeInRightCm = -7;
        motion.arms = armsOf(choices);
        if (wide) rep.shinBottomDeg += 10, rep.thighBottomDeg += 12;  // as far as these show from the side
        if (motion.arms == zevo::Arms::HeldIn && variation.empty())
            rep.shinBottomDeg += 4;  // nothing ahead to balance with
    }
    if (family == "lunge") {
        const bool raised = m.id == "rear-foot-raised";
        rep.lungeLeanDeg = m.id == "lateral-lunge"                                                  ? 0
                           : of(raised ? "rear_foot" : "lunge_trunk") == (raised ? "glute" : "bow") ? 20
                                                                                                    : 5;
        if (of("pelvis") == "turned") rep.hipTurnDeg = 32;
        if (of("knee_line") == "outside") rep.kneeInLeftCm = rep.kneeInRightCm = -6;
    }
    if (family == "hinge") {
        if (variation == "stiff-leg") rep.kneeBendDeg = 9, rep.hingeLeanDeg = 72;
        if (variation == "wide-floor" || variation == "floor") rep.kneeBendDeg = 45, rep.hingeLeanDeg = 58;
        if (of("hinge_style") == "tip") rep.balanceShift = 0.1;
        if (of("hinge_back") == "arched") rep.tuckDeg = -7, rep.neckDeg = 10;
        if (of("hinge_top") == "squeeze") motion.standingKneeDeg = 3;
        if (of("stick_head") == "waived") rep.neckDeg = 4;
        const std::string stop = of("hinge_stop");
        if (stop == "below-knee") rep.hingeLeanDeg = 52;
        if (stop == "stretch") rep.hingeLeanDeg = 74;
        if (variation == "wide-floor") motion.stanceShare = 0.36;
        if (variation == "swing") motion.stanceShare = 0.25, rep.lowerS = 0.7, rep.liftS = 0.6, rep.pauseS = 0.05;
    }
    if (family == "bridge") {
        rep.pauseS = 2, rep.lowerS = 1.8, rep.liftS = 1.3;
        if (of("bridge_style") == "segment" || variation == "articulated") {
            rep.lowerS = 3;
            if (variation.empty()) motion.variation = "articulated";
        }
        if (variation == "hold") rep.pauseS = 12;
        s.scene.camera.heightM = 0.5, s.scene.camera.aimHeightM = 0.42;
        if (front) s.scene.camera.distanceM = 2.2;
    }
    if (tempo == "4-1-1") rep.lowerS = 4, rep.pauseS = 1;
    if (tempo == "3-1-1" || tempo == "slow") rep.lowerS = 3, rep.pauseS = 1;
    if (tempo == "pause") rep.pauseS = 1.6;
    if (m.steps && tempo == "slow") rep.lowerS = 7;  // the step comes before the way down, which alone is counted
    if (front) s.scene.camera.azimuthDeg = 0;
    // In a lateral lunge it is the straight leg that has to be seen.
    motion.workingLeg = m.sideways && !front ? 0 : 1;
    motion.reps.assign(3, rep);
    return s;
}

/// The same, of a set that is judged by a school with overrides.
inline sim::ClipSpec perfectClient(const Movement& m, const std::string& variation, const Standard& school,
                                   const Choices& overrides, bool front) {
    return perfectClient(m, variation, withChoices(school, catalogue()->choices, overrides, m).choices, front);
}

}  // namespace made
