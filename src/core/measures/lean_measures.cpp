// What the trunk's lean and the depth are held against: the lean this client needs, and the depth they control.
#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// What lengths, arms and the model itself leave open, degrees: lengths 3 % wrong turn the answer by up to 5°
/// (tests/core/test_balance); what is left of them after the points and the table of people are taken together is about
/// that (docs/measurements.md, needed_lean).
constexpr double kModelPm = calibrated("lean.model");

/// The lean the balance asks for at the depth reached, over that part of the foot the client is asked to stand on.
std::optional<Reading> needed(const MeasureInput& in, bool kneesBack) {
    if (!in.balance) return std::nullopt;
    const auto thigh = thighAngleAtBottom(in);
    if (!thigh) return std::nullopt;
    std::optional<double> shinLimit;
    if (kneesBack) shinLimit = shinWithKneeOverToe(*in.balance);
    auto at = [&](double thighDeg, double moreAnkle) {
        BalanceModel model = *in.balance;
        model.ankleLimitDeg += moreAnkle;
        return neededLean(model, thighDeg, model.aim, shinLimit);
    };
    const auto lean = at(thigh->value, 0), deeper = at(thigh->value - thigh->pm90, 0),
               higher = at(thigh->value + thigh->pm90, 0), freer = at(thigh->value, in.balance->ankleOpenDeg);
    if (!lean || !deeper || !higher || !freer) return std::nullopt;
    return reading(*lean, rootSumSquare({0.5 * std::abs(*deeper - *higher), std::abs(*freer - *lean), kModelPm}),
                   thigh->sample);
}

std::optional<Reading> beyond(const MeasureInput& in, const std::optional<Reading>& lean) {
    const auto trunk = trunkLeanAtBottom(in);
    if (!trunk || !lean) return std::nullopt;
    return reading(trunk->value - lean->value, std::hypot(trunk->pm90, lean->pm90), trunk->sample);
}

std::optional<Reading> neededLeanAtBottom(const MeasureInput& in) {
    return needed(in, false);
}
std::optional<Reading> leanOverNeeded(const MeasureInput& in) {
    return beyond(in, neededLeanAtBottom(in));
}
std::optional<Reading> leanOverNeededBack(const MeasureInput& in) {
    return beyond(in, needed(in, true));
}

/// Off the floor: this much (common practice, no source); surely off: with what the reading of a heel, and of toes,
/// leaves open there.
struct Off {
    double heelCm, toeCm;
};
constexpr Off kOff{1.5, 1.5}, kSurelyOff{2.1, 2.6};

/// Where on the way down a heel or the toes begin to leave the floor by more than that for a tenth of a second. Nothing
/// when they stay down.
std::optional<std::size_t> footLeaves(const MeasureInput& in, const Off& off) {
    const auto hold = std::max<std::size_t>(1, static_cast<std::size_t>(0.1 * in.track.rate));
    auto leaves = [&](const std::vector<double>& s, const std::vector<bool>& followed,
                      double offCm) -> std::optional<std::size_t> {
        std::size_t length = 0;
        for (std::size_t i = in.rep.start; i <= in.rep.bottom; ++i) {
            length = followed[i] && s[i] > offCm ? length + 1 : 0;
            if (length > hold) return i - hold;
        }
        return std::nullopt;
    };
    const auto heel = leaves(in.series.heelRise, in.series.heelFollowed, off.heelCm),
               toe = leaves(in.series.toeRise, in.series.toeFollowed, off.toeCm);
    return heel && toe ? std::min(heel, toe) : heel ? heel : toe;
}

/// Whether the heel was seen for most of the way down. Unseen, it may have left the floor anywhere.
bool heelWasSeen(const MeasureInput& in) {
    constexpr double kShareSeen = 0.6;
    const auto from = in.series.heelFollowed.begin() + static_cast<std::ptrdiff_t>(in.rep.start),
               to = in.series.heelFollowed.begin() + static_cast<std::ptrdiff_t>(in.rep.bottom) + 1;
    return static_cast<double>(std::count(from, to, true)) >= kShareSeen * static_cast<double>(to - from);
}

/// The deepest thigh angle before a heel or the toes leave the floor.
std::optional<Reading> depthDownTo(const MeasureInput& in, const Off& off) {
    // A heel that was looked at and not told (a plate before it, up from first to last) may have left anywhere.
    if (!in.track.shoe.empty() && !heelRise(in)) return std::nullopt;
    const auto leaves = footLeaves(in, off);
    if (!leaves && !heelWasSeen(in)) return std::nullopt;
    const std::size_t at = leaves.value_or(in.rep.bottom);
    const auto bottom = thighAngleAtBottom(in);
    if (!bottom) return std::nullopt;
    return reading(meanAround(in.legSeries().thighAngle, at, in.samples(1.0 / 30)), bottom->pm90, at);
}

/// Its ± holds how much deeper it would be if the foot counted as off only where it surely is.
std::optional<Reading> depthWithFeetDown(const MeasureInput& in) {
    auto usable = depthDownTo(in, kOff);
    const auto surely = depthDownTo(in, kSurelyOff);
    if (usable && surely) usable->pm90 = rootSumSquare({usable->pm90, usable->value - surely->value});
    return usable;
}

/// The deepest thigh angle before the first of them: a foot leaves the floor, the tail tucks (depthLimit() names it).
std::optional<Reading> usableDepth(const MeasureInput& in) {
    const auto feet = depthWithFeetDown(in), tail = tuckStart(in);
    return feet && tail && tail->value > feet->value ? tail : feet;
}

/// How much deeper than that the rep goes. Both ends share the bias of the thigh, so the ± is only what differs, and
/// how much less it would be if the foot counted as off only where it surely is. A client whose feet leave the floor
/// before the thighs are near level has no depth to be past: there the feet are the fault.
std::optional<Reading> depthPastControl(const MeasureInput& in) {
    constexpr double kNearLevelDeg = 10;
    const auto usable = depthWithFeetDown(in), surely = depthDownTo(in, kSurelyOff), bottom = thighAngleAtBottom(in);
    if (!usable || !bottom) return std::nullopt;
    auto past = [&](double from) { return from > kNearLevelDeg ? 0.0 : std::max(0.0, from - bottom->value); };
    const double most = past(usable->value), least = surely ? past(surely->value) : 0.0;
    return reading(most, rootSumSquare({calibrated("depth_past_control"), most - least}), usable->sample);
}

}  // namespace

std::span<const MeasureDef> leanMeasures() {
    using namespace row;
    static const std::vector<PointRead> body = near({L::LeftShoulder, L::LeftHip, L::LeftKnee, L::LeftAnkle}),
                                        thigh = near({L::LeftHip, L::LeftKnee});
    static const std::vector<SketchPart> trunk{{Draw::FromVertical, kHip, kShoulder}},
        feet{{Draw::Segment, kKnee, kHip}, {Draw::Rise, kHeel}};
    static const std::vector<MeasureDef> all{
        {"lean_over_needed",
         "Lean beyond what this build needs",
         "trunk inclination minus the balanced one",
         Unit::Degrees,
         kSideView,
         Of::Body,
         body,
         kByTrunk,
         trunk,
         {-30, 50},
         leanOverNeeded},
        {"lean_over_needed_back",
         "Lean beyond what this build needs, knees behind toes",
         "trunk inclination minus the balanced one with the knee over the toe",
         Unit::Degrees,
         kSideView,
         Of::Body,
         body,
         kByTrunk,
         trunk,
         {-30, 50},
         leanOverNeededBack},
        {"needed_lean",
         "Lean this build needs",
         "balanced trunk inclination at this depth",
         Unit::Degrees,
         kSideView,
         Of::Body,
         body,
         kByTrunk,
         trunk,
         {-20, 80},
         neededLeanAtBottom},
        {"usable_depth",
         "Usable depth: thigh from level",
         "thigh inclination before a foot leaves the floor or the tail tucks",
         Unit::Degrees,
         kSideView,
         Of::Body,
         thigh,
         kByThigh,
         feet,
         {-40, 60},
         usableDepth},
        {"depth_past_control",
         "Deeper than the feet stay down",
         "thigh inclination past where a foot leaves the floor",
         Unit::Degrees,
         kSideView,
         Of::Body,
         thigh,
         kByThigh,
         feet,
         {0, 60},
         depthPastControl},
    };
    return all;
}

}  // namespace zevo
