#include "core/measures/curve_of.h"

#include <algorithm>

namespace zevo {

CurveOf curveOf(const std::string& measure, const Series& s, Side leg) {
    const LegSeries& working = s.legs[static_cast<std::size_t>(leg)];
    const LegSeries& other = s.legs[static_cast<std::size_t>(otherSide(leg))];
    auto of = [](const std::vector<double>& values, auto change) {
        std::vector<double> out(values.size());
        std::transform(values.begin(), values.end(), out.begin(), change);
        return out;
    };
    if (measure == "thigh_angle" || measure == "usable_depth" || measure == "depth_past_control")
        return {"thigh_angle", working.thighAngle};
    if (measure == "hip_flexion") return {measure, working.hipFlexion};
    if (measure == "bridge_line") return {measure, of(working.hipFlexion, [](double v) { return 180 - v; })};
    if (measure == "rear_knee_flexion") return {measure, other.kneeFlexion};
    if (measure == "trunk_lean" || measure == "top_trunk_lean" || measure == "needed_lean" ||
        measure.starts_with("lean_over_needed") || measure == "hip_travel" || measure == "hips_before_shoulders")
        return {"trunk_lean", s.trunkLean};
    if (measure == "shin_angle") return {measure, working.shinAngle};
    if (measure == "heel_rise") return {measure, s.heelRise};
    if (measure == "toe_rise") return {measure, s.toeRise};
    if (measure == "knee_past_toe") return {measure, s.kneePastToe};
    if (measure == "mass_over_foot") return {measure, s.massOverFoot};
    if (measure == "neck_change") return {measure, s.neckChange};
    if (measure == "lean_over_shin") {
        std::vector<double> v(s.trunkLean.size());
        for (std::size_t i = 0; i < v.size(); ++i) v[i] = s.trunkLean[i] - s.shinAngle[i];
        return {measure, v};
    }
    return {"knee_flexion", working.kneeFlexion};
}

CurveOf curveOf(const std::string& measure, const FrontSeries& s) {
    const std::size_t side = measure.ends_with("_right") ? 1 : 0;
    if (measure.starts_with("knee_inside_")) return {measure, s.kneeInside[side]};
    if (measure.starts_with("knee_in_") || measure.starts_with("wobble_"))
        return {side ? "knee_in_right" : "knee_in_left", s.kneeIn[side]};
    if (measure.starts_with("projection_")) return {measure, s.projection[side]};
    if (measure == "toe_out_left" || measure == "toe_out_right") return {measure, s.toeOut[side]};
    if (measure == "hip_tilt") return {measure, s.hipTilt};
    if (measure == "trunk_shift") return {measure, s.trunkShift};
    if (measure == "shoulder_tilt") return {measure, s.shoulderTilt};
    if (measure == "stance") return {measure, s.stance};
    return {"knee_ratio", s.kneeSeparation};
}

}  // namespace zevo
