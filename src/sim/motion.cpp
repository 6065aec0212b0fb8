#include "sim/motion.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

/// The half rep inside a one-and-a-half takes this share of a whole way.
constexpr double kHalfWay = 0.6;

double holdAtBottom(const RepSpec& r) {
    return r.pauseS + (r.oneAndHalf > 0 ? kHalfWay * (r.liftS + r.lowerS) + r.pauseS : 0.0);
}

Moment momentAt(const MotionSpec& spec, const std::vector<double>& starts, double t) {
    Moment m;
    m.timeS = t;
    const bool bridge = spec.movement == "bridge", steps = stepsOut(spec.movement);
    m.step = steps ? 0 : 1;
    for (std::size_t i = 0; i < spec.reps.size(); ++i) {
        const RepSpec& r = spec.reps[i];
        const double there = bridge ? r.liftS : r.lowerS, back = bridge ? r.lowerS : r.liftS, hold = holdAtBottom(r);
        double x = t - starts[i];
        if (x < 0 || x >= there + hold + back + r.topS) continue;
        m.rep = static_cast<int>(i);
        auto sinkAt = [&](double w) {
            const double sinking = steps ? (w - r.sinkAfter) / (1 - r.sinkAfter) : w;
            return mix(ease(sinking), std::pow(std::clamp(sinking, 0.0, 1.0), 2.0), r.bounce);
        };
        if (x < there) {
            m.phase = bridge ? Phase::Lifting : Phase::Lowering;
            m.depth = sinkAt(x / there);
            if (steps) m.step = ease(x / there / r.stepShare);
        } else if (x < there + hold) {
            m.phase = Phase::Bottom;
            m.step = 1;
            m.depth = 1;
            if (r.oneAndHalf > 0) {
                x -= there + r.pauseS;
                const double up = kHalfWay * r.liftS, down = kHalfWay * r.lowerS;
                if (x > 0 && x < up) m.depth = 1 - 0.5 * ease(x / up);
                if (x >= up && x < up + down) m.depth = 0.5 + 0.5 * ease((x - up) / down);
            }
        } else if (x < there + hold + back) {
            m.phase = bridge ? Phase::Lowering : Phase::Lifting;
            m.over = true;
            m.rising = !bridge;
            const double w = 1 - (x - there - hold) / back;
            m.depth = sinkAt(w);
            if (r.bounce > 0 && !steps) m.depth = mix(ease(w), 1 - std::pow(1 - w, 2.0), r.bounce);
            if (steps) m.step = ease(w / r.stepShare);
        } else {
            const double y = (x - there - hold - back) / r.topS;
            m.over = true;
            m.topLean = std::sin(std::numbers::pi * std::clamp(y, 0.0, 1.0));
        }
        m.depth = std::clamp(m.depth, 0.0, 1.0);  // 1 − ease(1) may come out as −1e-16, which pow() refuses
        return m;
    }
    return m;
}

std::vector<double> startsOf(const MotionSpec& spec) {
    std::vector<double> starts;
    double t = spec.leadInS;
    for (const auto& r : spec.reps) {
        starts.push_back(t);
        t += r.lowerS + holdAtBottom(r) + r.liftS + r.topS;
    }
    starts.push_back(t);
    return starts;
}

}  // namespace

const std::map<std::string, std::vector<std::string>>& movements() {
    static const std::map<std::string, std::vector<std::string>> all{
        {"squat",
         {"", "box", "wide", "goblet", "back-bar", "two-kettlebell-front", "front-bar", "overhead", "supported"}},
        {"walking-lunge", {""}},
        {"split-squat", {"", "goblet"}},
        {"reverse-lunge", {"", "goblet"}},
        {"forward-lunge", {""}},
        {"lateral-lunge", {""}},
        {"rear-foot-raised", {""}},
        {"hinge", {"", "dowel", "romanian", "stiff-leg", "floor", "wide-floor", "swing", "split-stance"}},
        {"bridge", {"", "thrust", "articulated", "one-leg-biased", "hold"}}};
    return all;
}

std::span<const Dial> dials() {
    static constexpr auto all = std::to_array<Dial>({
        {"lower_s", &RepSpec::lowerS},
        {"pause_s", &RepSpec::pauseS},
        {"lift_s", &RepSpec::liftS},
        {"top_s", &RepSpec::topS},
        {"one_and_half", &RepSpec::oneAndHalf},
        {"thigh_bottom_deg", &RepSpec::thighBottomDeg},
        {"shin_bottom_deg", &RepSpec::shinBottomDeg},
        {"knee_bend_deg", &RepSpec::kneeBendDeg},
        {"hinge_lean_deg", &RepSpec::hingeLeanDeg},
        {"front_knee_deg", &RepSpec::frontKneeDeg},
        {"front_shin_deg", &RepSpec::frontShinDeg},
        {"lunge_lean_deg", &RepSpec::lungeLeanDeg},
        {"rear_thigh_deg", &RepSpec::rearThighDeg},
        {"step_share", &RepSpec::stepShare},
        {"sink_after", &RepSpec::sinkAfter},
        {"top_angle_deg", &RepSpec::topAngleDeg},
        {"heel_rise_cm", &RepSpec::heelRiseCm},
        {"heel_from", &RepSpec::heelFrom},
        {"toe_rise_cm", &RepSpec::toeRiseCm},
        {"extra_lean_deg", &RepSpec::extraLeanDeg},
        {"neck_deg", &RepSpec::neckDeg},
        {"knees_first", &RepSpec::kneesFirst},
        {"bounce", &RepSpec::bounce},
        {"balance_shift", &RepSpec::balanceShift},
        {"lockout_lean_deg", &RepSpec::lockoutLeanDeg},
        {"lockout_arch_deg", &RepSpec::lockoutArchDeg},
        {"lockout_knee_deg", &RepSpec::lockoutKneeDeg},
        {"knee_in_left_cm", &RepSpec::kneeInLeftCm},
        {"knee_in_right_cm", &RepSpec::kneeInRightCm},
        {"knee_wobble_cm", &RepSpec::kneeWobbleCm},
        {"hip_drop_deg", &RepSpec::hipDropDeg},
        {"shift_cm", &RepSpec::shiftCm},
        {"shoulder_tip_deg", &RepSpec::shoulderTipDeg},
        {"hip_turn_deg", &RepSpec::hipTurnDeg},
        {"tuck_deg", &RepSpec::tuckDeg},
        {"tuck_from", &RepSpec::tuckFrom},
        {"round_deg", &RepSpec::roundDeg},
        {"hips_shoot_up", &RepSpec::hipsShootUp},
        {"load_drift_cm", &RepSpec::loadDriftCm},
        {"trailing_knee_deg", &RepSpec::trailingKneeDeg},
        {"nose_off_cm", &RepSpec::noseOffCm},
        {"knees_out_cm", &RepSpec::kneesOutCm},
    });
    return all;
}

SpecMotion::SpecMotion(MotionSpec spec) : m_spec(std::move(spec)) {
    m_starts = startsOf(m_spec);
    const bool bridge = m_spec.movement == "bridge";
    for (std::size_t i = 0; i < m_spec.reps.size(); ++i) {
        const RepSpec& r = m_spec.reps[i];
        const double there = bridge ? r.liftS : r.lowerS, back = bridge ? r.lowerS : r.liftS, hold = holdAtBottom(r);
        const double trim = stepsOut(m_spec.movement) ? r.sinkAfter : 0;
        m_reps.push_back({m_starts[i] + trim * there, m_starts[i] + there + hold / 2,
                          m_starts[i] + there + hold + (1 - trim) * back});
    }
    m_durationS = m_starts.back() + m_spec.leadOutS;
}

Skeleton SpecMotion::at(double timeS) const {
    Moment m = momentAt(m_spec, m_starts, timeS);
    m.over |= m.rep < 0 && timeS > m_spec.leadInS && !m_spec.reps.empty();
    m.working = workingLeg(m.rep >= 0 ? m.rep : m.over ? static_cast<int>(m_spec.reps.size()) - 1 : 0);
    // At rest the figure stands as it will move: a split stance or feet on the floor come from the first rep's shape.
    static const RepSpec kStill{};
    const RepSpec& rep = m.rep >= 0                      ? m_spec.reps[static_cast<std::size_t>(m.rep)]
                         : m_spec.reps.empty()           ? kStill
                         : timeS < m_spec.leadInS + 1e-9 ? m_spec.reps.front()
                                                         : m_spec.reps.back();
    Skeleton s;
    s.depth = m.depth;
    s.phase = m.phase;
    s.rep = m.rep;
    if (m_spec.movement == "bridge")
        poseBridge(s, m_spec, rep, m);
    else if (isLunge(m_spec.movement))
        poseLunge(s, m_spec, rep, m);
    else
        poseStanding(s, m_spec, rep, m);
    poseProps(s, m_spec, Segments(m_spec.body));
    return s;
}

int SpecMotion::workingLeg(int rep) const {
    const bool takesTurns = m_spec.movement == "walking-lunge" || (m_spec.alternate && stepsOut(m_spec.movement));
    return takesTurns && rep % 2 != 0 ? 1 - m_spec.workingLeg : m_spec.workingLeg;
}

Result<void> checkMovement(const MotionSpec& spec) {
    const auto found = movements().find(spec.movement);
    if (found == movements().end())
        return Error{"The virtual client knows no movement “" + spec.movement + "”.", "movement"};
    if (std::find(found->second.begin(), found->second.end(), spec.variation) == found->second.end())
        return Error{"The virtual client knows no variation “" + spec.variation + "” of " + spec.movement + ".",
                     "variation"};
    return {};
}

}  // namespace zevo::sim
