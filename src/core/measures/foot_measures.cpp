// Heel and toes off the floor, from the shoe as read in the picture.
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/calibration.h"
#include "core/measures/reading.h"

namespace zevo {

using L = Landmark;

namespace {

/// Whether what a hinge lowers in its hands comes down before the shoe: plates are as thick as a shin is long.
bool handsAtTheShoe(const MeasureInput& in, std::size_t at) {
    constexpr double kOfShank = 0.7;
    const Track& t = in.track;
    if (t.family != Family::Hinge) return false;
    const L knee = t.nearOf(L::LeftKnee), ankle = t.nearOf(L::LeftAnkle);
    const double shank = (t.standingFlatAt(knee) - t.standingFlatAt(ankle)).norm();
    return t.flatAt(t.nearOf(L::LeftWrist), at).y() - t.standingFlatAt(ankle).y() < kOfShank * shank;
}

/// The most an end of the shoe rises for at least 0.15 s during the repetition, from the shoe as read in the picture.
/// Sure only where most moments around the turning point could be read; a rise between the two sure answers whose
/// strip did not find itself well is a compromise between shoe and shadow, and is left open. Thresholds: own
/// measurements on figures of several renderers (docs/measurements.md).
std::optional<Reading> riseOfShoe(const MeasureInput& in, ShoeReading Track::ShoeMoment::*end, double stillPm,
                                  double leastDepthShare = 0) {
    constexpr double kAroundS = 0.30, kShareRead = 0.6, kHeldS = 0.15;
    constexpr double kSmall = 0.4, kEdge = 1.5, kAlike = 0.93, kOpenPm = 1.5;
    constexpr double kShare = calibrated("foot.share"), kUpright = 0.3, kNeverDownCm = 1.2;
    const Track& t = in.track;
    const double bottom = t.timesS[in.rep.bottom], from = t.timesS[in.rep.start], to = t.timesS[in.rep.end];
    int looked = 0, read = 0;
    double leastUpright = std::numeric_limits<double>::infinity();  // of the moments nearly upright
    std::vector<std::pair<double, const ShoeReading*>> moments;
    for (const auto& m : t.shoe) {
        const ShoeReading& r = m.*end;
        if (m.timeS < from || m.timeS > to) continue;
        const bool isRead = r.state == ShoeReading::State::Read && !handsAtTheShoe(in, t.sampleAt(m.timeS));
        if (std::abs(m.timeS - bottom) <= kAroundS) ++looked, read += isRead;
        const double depth = in.series.depth[t.sampleAt(m.timeS)];
        const bool deepEnough = depth >= leastDepthShare * in.series.depth[in.rep.bottom];
        if (isRead && depth < kUpright * in.series.depth[in.rep.bottom])
            leastUpright = std::min(leastUpright, r.rise * t.cmPerPixel);
        if (isRead && deepEnough) moments.emplace_back(m.timeS, &r);
    }
    if (looked == 0 || read < kShareRead * looked || moments.empty()) return std::nullopt;
    // Up from the first moment to the last, upright as well: what it was held against was not this shoe.
    if (std::isfinite(leastUpright) && leastUpright > kNeverDownCm) return std::nullopt;
    // Held: the least over any stretch of that length between neighbouring readings.
    constexpr double kGapS = 0.35;
    std::optional<double> most;
    const ShoeReading* best = nullptr;
    double atS = bottom;
    for (std::size_t i = 0; i < moments.size(); ++i) {
        double least = moments[i].second->rise;
        const ShoeReading* weakest = moments[i].second;
        for (std::size_t k = i + 1; k < moments.size() && moments[k].first - moments[k - 1].first <= kGapS; ++k) {
            if (moments[k].second->rise < least) least = moments[k].second->rise, weakest = moments[k].second;
            if (moments[k].first - moments[i].first < kHeldS) continue;
            if (!most || least > *most) most = least, best = weakest, atS = 0.5 * (moments[i].first + moments[k].first);
            break;
        }
    }
    if (!most) return std::nullopt;
    const double value = *most * t.cmPerPixel;
    double pm =
        rootSumSquare({stillPm, kShare * value, 0.5 * best->half * t.cmPerPixel, 0.5 * best->apart * t.cmPerPixel});
    if (value > kSmall && value < kEdge && best->likeness < kAlike) pm = std::max(pm, kOpenPm);
    return reading(value, pm, t.sampleAt(atS));
}

/// The same for records of before shoes were read: from points followed on the shoe where that held for most of the
/// rep, else from the landmarks, which are far less sure (error_model.h).
std::optional<Reading> riseOfPoint(const MeasureInput& in, const std::vector<double>& s,
                                   const std::vector<bool>& followed) {
    std::size_t held = 0;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i) held += followed[i];
    const bool byShoe = static_cast<double>(held) >= 0.6 * static_cast<double>(in.rep.end - in.rep.start + 1);
    // A foot that steps is off the floor as a whole.
    if (in.movement.steps && !byShoe) return std::nullopt;
    const auto hold = std::max<std::size_t>(1, static_cast<std::size_t>(0.15 * in.track.rate));
    std::optional<double> most;
    std::size_t at = in.rep.start;
    for (std::size_t i = in.rep.start; i + hold <= in.rep.end; ++i) {
        double least = std::numeric_limits<double>::infinity();
        bool whole = true;  // a gap in the following leaves the stretch open
        for (std::size_t k = i; k <= i + hold; ++k) {
            whole = whole && !(byShoe && !followed[k]) && std::isfinite(s[k]);
            least = std::min(least, s[k]);
        }
        if (whole && (!most || least > *most)) {
            most = least;
            at = i + hold / 2;
        }
    }
    if (!most) return std::nullopt;
    const Allowance& allowance = byShoe ? kShoeLiftAllowance : kLandmarkLiftAllowance;
    return reading(*most, rootSumSquare({allowance.still, allowance.deep * std::max(0.0, *most)}), at);
}

/// Only the foot near the camera is read; when the other one works, nothing is said, nor of a foot that steps nearer to
/// the camera or further from it.
bool footIsShown(const MeasureInput& in) {
    return in.track.cmPerPixel > 0 && in.legSide() == in.track.near && !in.movement.sideways;
}
}  // namespace

std::optional<Reading> heelRise(const MeasureInput& in) {
    if (!footIsShown(in)) return std::nullopt;
    const L heel = in.track.nearOf(L::LeftHeel);
    if (in.track.isManual(heel, in.rep.bottom)) {
        // The coach says where it is; where it stood at rest the network says, from many pictures.
        const double rise = in.track.flatAt(heel, in.rep.bottom).y() - in.track.standingFlatAt(heel).y();
        const double hand = 1.645 * kHandPx, network = kLandmarkLiftAllowance.still;
        return reading(rise * in.track.cmPerPixel, rootSumSquare({hand * in.track.cmPerPixel, network}), in.rep.bottom);
    }
    if (!in.track.shoe.empty()) return riseOfShoe(in, &Track::ShoeMoment::heel, calibrated("foot.heel"));
    return riseOfPoint(in, in.series.heelRise, in.series.heelFollowed);
}

namespace {

std::optional<Reading> toeRise(const MeasureInput& in) {
    if (!footIsShown(in)) return std::nullopt;
    if (!in.track.shoe.empty()) {
        // The mirrored strip is looked at where toes leave the floor, in the depth: nearly upright again it was seen to
        // follow a shadow. Toes that are up carry nothing: with the mass centre over the forefoot it is a shadow as
        // well.
        constexpr double kDeep = 0.3, kOverForefoot = 0.68, kStillPm = calibrated("foot.toe");
        auto rise = riseOfShoe(in, &Track::ShoeMoment::toe, kStillPm, kDeep);
        if (rise && meanAround(in.series.massOverFoot, in.rep.bottom, in.samples(kLongS)) > kOverForefoot)
            rise->pm90 = std::max(rise->pm90, rise->value);
        return rise;
    }
    return riseOfPoint(in, in.series.toeRise, in.series.toeFollowed);
}

}  // namespace

std::span<const MeasureDef> footMeasures() {
    using namespace row;
    static const std::vector<MeasureDef> all{
        {"heel_rise",
         "Heel off the floor",
         "heel rise",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         working({L::LeftHeel}),
         kHeelCourse,
         {{Draw::Rise, kHeel}},
         {-1, 8},
         heelRise},
        {"toe_rise",
         "Toes off the floor",
         "toe rise",
         Unit::Centimetres,
         kSideView,
         Of::WorkingLeg,
         working({L::LeftToe}),
         {nullptr, [](const ViewSeries& v, Side) { return v.side.toeRise; }},
         {{Draw::Rise, kToe}},
         {-1, 8},
         toeRise},
    };
    return all;
}

}  // namespace zevo
