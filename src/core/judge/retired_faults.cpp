#include "core/judge/retired_faults.h"

namespace zevo {

const std::vector<RetiredFault>& retiredFaults() {
    static const std::vector<RetiredFault> all{
        {"head_off_line", "", "chin_down", "chin_up", "Head leaves the line of the trunk"},
        {"balance_off_foot", "", "weight_on_heels", "weight_on_toes", "Balance drifts off the middle of the foot"},
        {"stance_off", "", "stance_narrow", "stance_wide", "Stance off the standard"},
        {"toe_out_off", "toe_out_uneven", "feet_uneven", "feet_uneven", "Feet turned out off the standard"},
        {"toe_out_off", "", "toes_out_little", "toes_out_much", "Feet turned out off the standard"},
        {"lunge_angles_off", "rear_knee_flexion", "rear_knee_open", "rear_knee_tight", "Knees off their right angles"},
        {"lunge_angles_off", "", "front_knee_open", "front_knee_tight", "Knees off their right angles"},
        {"rear_knee_off_line", "", "rear_knee_ahead", "rear_knee_behind", "Rear knee not under the hip"},
        {"rear_knee_lands", "rear_knee_height", "", "rear_knee_high", "Rear knee lands or never gets low"},
        {"trunk_off_standard", "nose_knee_toe", "", "nose_short", "Trunk off the standard"},
        {"nose_off_line", "", "", "nose_short", "Nose, knee and toe not in one line"},
        {"trunk_off_standard", "", "trunk_upright", "trunk_low", "Trunk off the standard"},
        {"lockout", "top_knee_flexion", "knees_snap", "top_not_reached", "Snaps past upright at the top"},
        {"lockout", "", "leans_back", "top_not_reached", "Snaps past upright at the top"},
        {"lockout_thrown", "top_knee_flexion", "knees_snap", "top_not_reached", "Lock-out thrown back"},
        {"lockout_thrown", "", "leans_back", "top_not_reached", "Lock-out thrown back"},
        {"hips_shoot_up", "", "", "hips_shoot_first", "Hips shoot up"},
        {"back_leads", "hips_before_shoulders", "", "hips_rise_first", "Leads with the back"},
    };
    return all;
}

std::string currentFault(const std::string& id, MeasureId measure, bool above) {
    for (const RetiredFault& old : retiredFaults()) {
        if (old.id != id || (!old.measure.empty() && old.measure != measure.name())) continue;
        const std::string& now = above ? old.above : old.below;
        return now.empty() ? id : now;
    }
    return id;
}

std::string retiredTitle(const std::string& id) {
    for (const RetiredFault& old : retiredFaults())
        if (old.id == id) return old.title;
    return {};
}

}  // namespace zevo
