#include "core/measures/error_model.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"

namespace zevo {
namespace {

/// Knee, hip, trunk, shin, thigh, in the order of Quantity.
using Row = std::array<Allowance, 5>;
consteval Row rowOf(std::string_view family) {
    constexpr std::array<std::string_view, 5> kQuantities{"knee", "hip", "trunk", "shin", "thigh"};
    Row out{};
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = {calibrated({family, ".", kQuantities[i], ".still"}),
                  calibrated({family, ".", kQuantities[i], ".deep"})};
    return out;
}
constexpr Row kSquat = rowOf("squat"), kLunge = rowOf("lunge"), kHinge = rowOf("hinge"), kBridge = rowOf("bridge");

constexpr double kRigidTolerance = calibrated("doubt.rigid"), kTrunkTolerance = calibrated("doubt.trunk");

}  // namespace

Allowance allowanceOf(Family family, Quantity quantity) {
    const auto q = static_cast<std::size_t>(quantity);
    switch (family) {
        case Family::Lunge: return kLunge[q];
        case Family::Hinge: return kHinge[q];
        case Family::Bridge: return kBridge[q];
        case Family::Squat: break;
    }
    return kSquat[q];
}

namespace {

bool isShoulder(Landmark id) {
    return id == Landmark::LeftShoulder || id == Landmark::RightShoulder;
}

/// What hides the shoulder, a plate or a raised arm before it, draws its point away from the ear, and that shows in the
/// distance to an ear that is seen. Only further apart counts: a raised arm or a lifted chin brings them nearer. Share
/// of the trunk's length by which the shoulder may be misplaced.
double shoulderDoubt(const Track& t, Landmark shoulder, std::size_t sample, double trunkLength) {
    constexpr double kFurther = calibrated("doubt.ear"),
                     kSeen = 0.5;  // own measurements: docs/measurements.md, “Behind things”
    const Landmark ear = shoulder == Landmark::LeftShoulder ? Landmark::LeftEar : Landmark::RightEar;
    if (t.seen[static_cast<std::size_t>(ear)][sample] < kSeen) return 0;
    const double rest = (t.standingFlatAt(ear) - t.standingFlatAt(shoulder)).norm();
    const double now = (t.flatAt(ear, sample) - t.flatAt(shoulder, sample)).norm();
    return rest < 1 || now < kFurther * rest ? 0 : (now - rest) / trunkLength;
}

/// How much longer or shorter a thigh or shank is drawn at rest than anybody's is: something is before it there too.
/// Held against the trunk, which stands upright then and is hardly ever hidden (a stature from a misread foot would be
/// misread with it). A lying client's is not upright.
double restDoubt(const Track& t, const SegmentAngle& line, double rest) {
    constexpr double kNobodys = calibrated("doubt.nobodys");
    const double trunk =
        (t.standingFlatAt(t.nearOf(Landmark::LeftShoulder)) - t.standingFlatAt(t.nearOf(Landmark::LeftHip))).norm();
    if (t.family == Family::Bridge || trunk < 1) return 0;
    const bool thigh = line.from == Landmark::LeftHip || line.from == Landmark::RightHip ||
                       line.to == Landmark::LeftHip || line.to == Landmark::RightHip;
    const double usual = (thigh ? proportion::kThigh : proportion::kShank) /
                         (proportion::kShoulderHeight - proportion::kHipHeight) * trunk;
    return std::max(0.0, std::abs(rest / usual - 1) - kNobodys);
}

}  // namespace

double segmentLengthDeviation(const Track& t, const SegmentAngle& line, std::size_t sample) {
    const double rest = (t.standingFlatAt(line.to) - t.standingFlatAt(line.from)).norm();
    const double now = (t.flatAt(line.to, sample) - t.flatAt(line.from, sample)).norm();
    if (rest < 1) return 1;
    const bool trunk = isShoulder(line.to) || isShoulder(line.from);
    const double byLength = std::max(0.0, std::abs(now / rest - 1) - (trunk ? kTrunkTolerance : kRigidTolerance));
    if (!trunk) return std::max(byLength, restDoubt(t, line, rest));
    return std::max(byLength, shoulderDoubt(t, isShoulder(line.to) ? line.to : line.from, sample, rest));
}

double networkHalfWidth(const Allowance& a, double kneeFlexionDeg) {
    const double w = std::clamp(kneeFlexionDeg / 120.0, 0.0, 1.0);
    return a.still + (a.deep - a.still) * w;
}

double jitterOfLine(const Track& t, const SegmentAngle& line, std::size_t sample) {
    const double length = (t.at(line.to, sample) - t.at(line.from, sample)).norm();
    auto noise = [&](Landmark id) {
        return t.isManual(id, sample) ? kHandPx : t.noisePx[static_cast<std::size_t>(id)];
    };
    const double a = noise(line.from), b = noise(line.to);
    return 1.645 * std::hypot(a, b) / std::max(1.0, length) * kDegreesPerRadian;
}

bool isManual(const Track& t, const SegmentAngle& line, std::size_t sample) {
    return t.isManual(line.from, sample) && t.isManual(line.to, sample);
}

double foreshortening(double inclinationDeg, double offSquareDeg) {
    const double rad = kRadiansPerDegree;
    // Square on, horizontal and vertical parts keep their ratio; turned by ψ the horizontal part shrinks by cos ψ.
    const double seen =
        std::atan2(std::sin(inclinationDeg * rad) * std::cos(offSquareDeg * rad), std::cos(inclinationDeg * rad));
    return std::abs(inclinationDeg - seen / rad);
}

double rootSumSquare(std::initializer_list<double> parts) {
    double sum = 0;
    for (double p : parts) sum += p * p;
    return std::sqrt(sum);
}

}  // namespace zevo
