#include "core/body/movement.h"

namespace zevo {

Family familyOf(const std::string& movement) {
    if (movement == "hinge") return Family::Hinge;
    if (movement == "bridge") return Family::Bridge;
    const bool lunges = movement.ends_with("lunge") || movement == "split-squat" || movement == "rear-foot-raised";
    return lunges ? Family::Lunge : Family::Squat;
}

Drive driveOf(Family family) {
    switch (family) {
        case Family::Hinge: return Drive::Folding;
        case Family::Bridge: return Drive::HipRise;
        case Family::Squat:
        case Family::Lunge: break;
    }
    return Drive::Sinking;
}

}  // namespace zevo
