#include "core/track/view_estimate.h"

#include <algorithm>
#include <cmath>

#include "core/base/degrees.h"
#include "core/signal/filter.h"

namespace zevo {

SeenView seenView(std::span<const PoseFrame> frames) {
    // Direction of the left → right axis of the shoulders against the line of sight: 0 = square side view, 90 = facing
    // the camera or away from it. The far hip is guessed, and 7° too far ahead; its side is kept until after the
    // median, or what jitters about square would seem to be off it (docs/measurements.md, “Lifelike people”).
    std::vector<double> angles, depth, noseAhead, toeAhead;
    for (const auto& f : frames) {
        if (!f.found) continue;
        auto axis = [&](Landmark left, std::size_t k) {
            const auto l = static_cast<std::size_t>(left);
            return f.world[l + 1][k] - f.world[l][k];
        };
        const double dx = axis(Landmark::LeftShoulder, 0), dz = axis(Landmark::LeftShoulder, 2);
        if (std::hypot(dx, dz) < 1e-6) continue;
        angles.push_back(std::atan2(dx, std::abs(dz)) * kDegreesPerRadian);
        depth.push_back(dx);
        noseAhead.push_back(f.at(Landmark::Nose).x - 0.5 * (f.at(Landmark::LeftEar).x + f.at(Landmark::RightEar).x));
        toeAhead.push_back(0.5 * (f.at(Landmark::LeftToe).x - f.at(Landmark::LeftHeel).x + f.at(Landmark::RightToe).x -
                                  f.at(Landmark::RightHeel).x));
    }
    SeenView out;
    if (angles.empty()) return out;
    out.towardsDeg = -median(angles);
    out.facesRight = median(toeAhead) + median(noseAhead) >= 0;
    if (out.offSquareDeg() <= kMostOffSideDeg)
        out.view = ViewKind::Side;
    else if (out.offSquareDeg() <= 62)
        out.view = ViewKind::Oblique;
    else
        out.view = median(depth) < 0 ? ViewKind::Front : ViewKind::Rear;  // their right hand is on the picture's left
    return out;
}

}  // namespace zevo
