#include "core/measures/front_series.h"

#include <cmath>
#include <limits>

namespace zevo {

FrontSeries computeFrontSeries(const Track& t) {
    FrontSeries s;
    using L = Landmark;
    const double shoulders = (t.standingFlatAt(L::LeftShoulder) - t.standingFlatAt(L::RightShoulder)).norm();
    const std::array<double, 2> shank{(t.standingFlatAt(L::LeftKnee) - t.standingFlatAt(L::LeftAnkle)).norm(),
                                      (t.standingFlatAt(L::RightKnee) - t.standingFlatAt(L::RightAnkle)).norm()};
    // In the track the client faces +x; seen from the front only left and right are left of that, and the sign of the
    // picture is found from where his ankles stand.
    for (std::size_t i = 0; i < t.size(); ++i) {
        auto apart = [&](L a, L b) { return (t.flatAt(a, i) - t.flatAt(b, i)).norm(); };
        const double ankles = apart(L::LeftAnkle, L::RightAnkle);
        const double nan = std::numeric_limits<double>::quiet_NaN();
        s.kneeSeparation.push_back(ankles > 1 ? apart(L::LeftKnee, L::RightKnee) / ankles : nan);
        s.stanceOverShoulders.push_back(shoulders > 1 ? ankles / shoulders : nan);
        const double toRight = t.flatAt(L::RightAnkle, i).x() >= t.flatAt(L::LeftAnkle, i).x() ? 1 : -1;
        for (int side = 0; side < 2; ++side) {
            const auto of = [&](L left) { return t.flatAt(static_cast<L>(static_cast<int>(left) + side), i); };
            const double outward = side == 0 ? -toRight : toRight;
            const double in = (of(L::LeftAnkle).x() - of(L::LeftKnee).x()) * outward;
            s.kneeInside[static_cast<std::size_t>(side)].push_back(
                shank[static_cast<std::size_t>(side)] > 1 ? in / shank[static_cast<std::size_t>(side)] : nan);
        }
        const Vec2 line = t.flatAt(L::RightHip, i) - t.flatAt(L::LeftHip, i);
        s.hipTilt.push_back(std::atan2(-line.y(), std::abs(line.x())) * 57.29577951308232);
    }
    return s;
}

}  // namespace zevo
