#include "core/series/sinking.h"

#include <algorithm>

#include "core/body/anthropometry.h"

namespace zevo {
namespace {

double hipShare(Drive drive) {
    switch (drive) {
        case Drive::Folding: return 0;
        case Drive::HipRise: return 1;
        case Drive::Sinking: break;
    }
    return 0.75;
}

}  // namespace

std::vector<double> sinkingOf(const Track& t, PointSet points) {
    const bool flat = points == PointSet::Flat;
    const bool sideways = t.view == ViewKind::Side || t.view == ViewKind::Oblique;
    const double w = hipShare(t.drive);
    auto height = [&](auto place) {
        const double shoulders = 0.5 * (place(Landmark::LeftShoulder).y() + place(Landmark::RightShoulder).y());
        const double hip = sideways ? place(t.nearOf(Landmark::LeftHip)).y()
                                    : 0.5 * (place(Landmark::LeftHip).y() + place(Landmark::RightHip).y());
        return w * hip + (1 - w) * shoulders;
    };
    auto still = [&](Landmark id) { return flat ? t.standingFlatAt(id) : t.standingAt(id); };
    const double rest = height(still);
    const double standing = still(t.nearOf(Landmark::LeftHip)).y() - t.floorY;
    const double leg = std::max(1.0, t.drive == Drive::HipRise ? proportion::kHipHeight * t.bodyPx : standing);
    std::vector<double> out;
    for (std::size_t i = 0; i < t.size(); ++i)
        out.push_back((rest - height([&](Landmark id) { return flat ? t.flatAt(id, i) : t.at(id, i); })) / leg);
    return out;
}

}  // namespace zevo
