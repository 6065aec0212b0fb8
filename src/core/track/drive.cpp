#include "core/track/drive.h"

namespace zevo {

Drive driveOf(const std::string& movement) {
    if (movement == "hinge") return Drive::HipFlexion;
    if (movement == "bridge") return Drive::HipRise;
    return Drive::Sinking;
}

}  // namespace zevo
