#include "core/measures/curve_of.h"

namespace zevo {

CurveOf curveOf(const std::string& measure, const Series& s) {
    if (measure == "thigh_angle") return {measure, s.thighAngle};
    if (measure == "hip_flexion") return {measure, s.hipFlexion};
    if (measure == "trunk_lean" || measure == "top_trunk_lean") return {"trunk_lean", s.trunkLean};
    if (measure == "shin_angle") return {measure, s.shinAngle};
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
    return {"knee_flexion", s.kneeFlexion};
}

}  // namespace zevo
