#include "core/reps/working_leg.h"

#include <algorithm>
#include <cmath>

#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;

constexpr double kAroundBottomS = 0.2;

/// > 0: the right leg works.
double sayAt(const Track& t, const Movement& movement, std::size_t i) {
    auto at = [&](L id) -> const Vec2& { return t.at(id, i); };
    const bool fromFront = t.view == ViewKind::Front || t.view == ViewKind::Rear;
    if (movement.sideways) {
        if (fromFront) {
            const Vec2 hips = 0.5 * (at(L::LeftHip) + at(L::RightHip));
            return std::abs(hips.x() - at(L::LeftAnkle).x()) - std::abs(hips.x() - at(L::RightAnkle).x());
        }
        // From the side the working knee is the bent one: it stands ahead of its ankle, the straight leg's does not.
        return (at(L::RightKnee).x() - at(L::RightAnkle).x()) - (at(L::LeftKnee).x() - at(L::LeftAnkle).x());
    }
    if (!fromFront) return at(L::RightAnkle).x() - at(L::LeftAnkle).x();
    // The front foot stands nearer to a camera ahead and so lower in the picture; from behind it is the other way. Its
    // knee is the higher one from either side, for the rear one goes to the floor.
    const double nearer = (at(L::LeftAnkle).y() - at(L::RightAnkle).y()) * (t.view == ViewKind::Rear ? -1 : 1);
    return nearer + (at(L::RightKnee).y() - at(L::LeftKnee).y());
}

}  // namespace

void nameWorkingLegs(const Track& track, const Movement& movement, std::span<Rep> reps) {
    if (!movement.oneLeg) return;
    const auto around = static_cast<std::size_t>(kAroundBottomS * track.rate);
    std::vector<double> says;
    for (Rep& rep : reps) {
        std::vector<double> says1;
        const std::size_t from = rep.bottom > around ? rep.bottom - around : 0;
        for (std::size_t i = from; i <= std::min(rep.bottom + around, track.size() - 1); ++i)
            says1.push_back(sayAt(track, movement, i));
        says.push_back(median(says1));
        rep.leg = says.back() > 0 ? Side::Right : Side::Left;
    }
    if (movement.steps) return;
    double sum = 0;
    for (double v : says) sum += v;
    for (Rep& rep : reps) rep.leg = sum > 0 ? Side::Right : Side::Left;
}

}  // namespace zevo
