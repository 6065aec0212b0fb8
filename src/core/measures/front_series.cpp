#include "core/measures/front_series.h"

#include <cmath>
#include <limits>

#include "core/track/perspective.h"

namespace zevo {

FrontSeries computeFrontSeries(const Track& t) {
    FrontSeries s;
    using L = Landmark;
    const double shoulders = (t.standingAt(L::LeftShoulder) - t.standingAt(L::RightShoulder)).norm();
    const std::array<double, 2> shank{(t.standingAt(L::LeftKnee) - t.standingAt(L::LeftAnkle)).norm(),
                                      (t.standingAt(L::RightKnee) - t.standingAt(L::RightAnkle)).norm()};
    // In the track the client faces +x; seen from the front only left and right are left of that, and the sign of the
    // picture is found from where his ankles stand.
    for (std::size_t i = 0; i < t.size(); ++i) {
        auto apart = [&](L a, L b) { return (t.at(a, i) - t.at(b, i)).norm(); };
        const double ankles = apart(L::LeftAnkle, L::RightAnkle);
        const double nan = std::numeric_limits<double>::quiet_NaN();
        // Bent knees stand ahead of the ankles, nearer to a camera in front, and look further apart. How far follows
        // from the shanks, which are rigid and show shorter the more they lean towards the camera.
        double ahead = 0;
        for (int side = 0; side < 2; ++side) {
            const auto of = [&](L left) { return t.at(static_cast<L>(static_cast<int>(left) + side), i); };
            const double whole = shank[static_cast<std::size_t>(side)];
            const double shown = std::min(whole, (of(L::LeftKnee) - of(L::LeftAnkle)).norm());
            ahead += 0.5 * std::sqrt(whole * whole - shown * shown);
        }
        const double nearer =
            (t.view == ViewKind::Rear ? -ahead : ahead) / assumedFocalPx(t.pictureWidth, t.pictureHeight);
        s.kneeSeparation.push_back(ankles > 1 ? apart(L::LeftKnee, L::RightKnee) / ankles * (1 - nearer) : nan);
        s.stanceOverShoulders.push_back(shoulders > 1 ? ankles / shoulders : nan);
        const double toRight = t.at(L::RightAnkle, i).x() >= t.at(L::LeftAnkle, i).x() ? 1 : -1;
        for (int side = 0; side < 2; ++side) {
            const auto of = [&](L left) { return t.at(static_cast<L>(static_cast<int>(left) + side), i); };
            const double outward = side == 0 ? -toRight : toRight;
            const double in = (of(L::LeftAnkle).x() - of(L::LeftKnee).x()) * outward;
            s.kneeInside[static_cast<std::size_t>(side)].push_back(
                shank[static_cast<std::size_t>(side)] > 1 ? in / shank[static_cast<std::size_t>(side)] : nan);
        }
        const Vec2 line = t.at(L::RightHip, i) - t.at(L::LeftHip, i);
        s.hipTilt.push_back(std::atan2(-line.y(), std::abs(line.x())) * 57.29577951308232);
    }
    return s;
}

}  // namespace zevo
