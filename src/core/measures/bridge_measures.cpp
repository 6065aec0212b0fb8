// Bridges: the line from shoulder to knee at the top.
#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// Shoulder–hip–knee angle; past 180° the hips are above the line.
std::optional<Reading> bridgeLine(const MeasureInput& in) {
    const Track& t = in.track;
    auto bend = jointAngle(in, in.series.hipFlexion, Quantity::Hip, {t.nearOf(L::LeftHip), t.nearOf(L::LeftKnee)},
                           {t.nearOf(L::LeftShoulder), t.nearOf(L::LeftHip)});
    if (bend) bend->value = 180 - bend->value;
    return bend;
}

}  // namespace

std::span<const MeasureDef> bridgeMeasures() {
    using namespace row;
    static const std::vector<MeasureDef> all{{"bridge_line",
                                              "Shoulder, hip and knee in line",
                                              "shoulder–hip–knee angle at the top",
                                              Unit::Degrees,
                                              kSideView,
                                              Of::Body,
                                              near({L::LeftShoulder, L::LeftHip, L::LeftKnee}),
                                              {nullptr,
                                               [](const ViewSeries& v, Side leg) {
                                                   std::vector<double> out =
                                                       v.side.legs[static_cast<std::size_t>(leg)].hipFlexion;
                                                   for (double& x : out) x = 180 - x;
                                                   return out;
                                               }},
                                              {{Draw::Joint, kShoulder, kHip, kKnee}},
                                              {120, 210},
                                              bridgeLine}};
    return all;
}

}  // namespace zevo
