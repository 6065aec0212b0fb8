#pragma once

#include <memory>
#include <string>

#include "core/base/result.h"
#include "sim/motion.h"

namespace zevo::sim {

/// The movement of a real person: a motion capture (BVH with the joint names of the CMU collection: Hips, LeftUpLeg,
/// LeftLeg, LeftFoot …), scaled to a stature by the length of its legs, turned to face +x and set on the floor. Each
/// joint is where the capture has it; heel and toe tip follow from ankle and ball.
///
/// It has no rep marks of its own.
struct CaptureOptions {
    double statureCm = 175;
    double fromS = 0, toS = 1e9;  ///< the part used; the result begins at time 0
    bool stayInPlace = true;      ///< travel over the floor is taken out, so that a standing camera sees all of it
};
Result<std::shared_ptr<const Motion>> loadCapture(const std::string& bvhFile, const CaptureOptions& options = {});

}  // namespace zevo::sim
