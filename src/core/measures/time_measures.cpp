// Times and rebound: read in every view that shows the drive of the movement.
#include <cmath>

#include "core/base/calibration.h"
#include "core/measures/reading.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;

/// `least`: of a side view, seconds. Where slow movement begins is a matter of definition, and from the front the
/// sinking alone shows it.
std::optional<Reading> duration(const MeasureInput& in, std::size_t from, std::size_t to, double least) {
    const double v = static_cast<double>(to - from) / in.track.rate;
    const bool fromSide = in.track.view == ViewKind::Side;
    // A bridge has no clear end on the floor, and its top is a plateau.
    const bool lies = in.track.drive == Drive::HipRise;
    return reading(
        v, fromSide && !lies ? std::max(least, 0.14 * v) : std::max(least + calibrated("time.elsewhere"), 0.2 * v),
        from);
}
constexpr double kDownPm = calibrated("time.down"), kUpPm = calibrated("time.up"), kHeldPm = calibrated("time.held");
std::optional<Reading> thereTime(const MeasureInput& in) {
    return duration(in, in.rep.start, in.rep.arrive, in.track.drive == Drive::HipRise ? kUpPm : kDownPm);
}
std::optional<Reading> backTime(const MeasureInput& in) {
    return duration(in, in.rep.leave, in.rep.end, in.track.drive == Drive::HipRise ? kDownPm : kUpPm);
}
/// A bridge lifts first and lowers afterwards.
std::optional<Reading> loweringTime(const MeasureInput& in) {
    return in.track.drive == Drive::HipRise ? backTime(in) : thereTime(in);
}
std::optional<Reading> liftingTime(const MeasureInput& in) {
    return in.track.drive == Drive::HipRise ? thereTime(in) : backTime(in);
}
std::optional<Reading> pauseTime(const MeasureInput& in) {
    return duration(in, in.rep.arrive, in.rep.leave, kHeldPm);
}
std::optional<Reading> tensionTime(const MeasureInput& in) {
    return duration(in, in.rep.start, in.rep.end, kDownPm);
}

/// How hard the turning point throws the body back up: largest upward acceleration there, of the trunk's middle, in
/// hinges of the shoulders. Both sides together: a second derivative makes much of what a single point jitters.
std::optional<Reading> bounce(const MeasureInput& in) {
    const Track& t = in.track.followed();
    // Who stands still for that long at the turning point does not rebound: what jumps there is the landmarks.
    constexpr double kStillS = 0.6;
    if (t.cmPerPixel <= 0 || static_cast<double>(in.rep.leave - in.rep.arrive) > kStillS * t.rate) return std::nullopt;
    std::vector<L> moving{L::LeftShoulder, L::RightShoulder};
    if (t.drive != Drive::Folding) moving.insert(moving.end(), {L::LeftHip, L::RightHip});
    // From the turning point on: a hard stop before a pause is no rebound.
    const auto around = static_cast<std::size_t>(0.3 * t.rate), just = static_cast<std::size_t>(0.1 * t.rate);
    const std::size_t from = in.rep.bottom > just + 2 ? in.rep.bottom - just - 2 : 0;
    const std::size_t to = std::min(in.rep.leave + around, t.size() - 1);
    std::vector<double> height;
    for (std::size_t i = from; i <= to; ++i) {
        double sum = 0;
        for (L id : moving) sum += t.at(id, i).y();
        height.push_back(sum / static_cast<double>(moving.size()) * t.cmPerPixel / 100);
    }
    if (height.size() < 5) return std::nullopt;
    // The largest of many differences of differences is mostly what the points jitter, and always too large.
    constexpr double kCutoffHz = 4;
    height = smooth(height, t.rate, kCutoffHz);
    const auto acceleration = derivative(derivative(height, t.rate), t.rate);
    const std::size_t best = largestIn(acceleration, 2, acceleration.size() - 3);
    const double v = acceleration[best];
    return reading(v, calibrated("bounce.share") * std::abs(v) + calibrated("bounce"), from + best);
}

}  // namespace

std::span<const MeasureDef> timeMeasures() {
    using namespace row;
    constexpr unsigned kAny = kSideView | kFrontal | kObliqueView;
    static const std::vector<PointRead> hip = near({L::LeftHip});
    static const std::vector<SketchPart> path{{Draw::Path, kNearHip}};
    static const std::vector<MeasureDef> all{
        {"lowering_s",
         "Way down",
         "eccentric time",
         Unit::Seconds,
         kAny,
         Of::Body,
         hip,
         kByDrive,
         path,
         {0, 6},
         loweringTime},
        {"pause_s",
         "Pause at the turn",
         "pause at the turning point",
         Unit::Seconds,
         kAny,
         Of::Body,
         hip,
         kByDrive,
         path,
         {0, 6},
         pauseTime},
        {"lifting_s",
         "Way up",
         "concentric time",
         Unit::Seconds,
         kAny,
         Of::Body,
         hip,
         kByDrive,
         path,
         {0, 6},
         liftingTime},
        {"tension_s",
         "Working time",
         "time under tension of the rep",
         Unit::Seconds,
         kAny,
         Of::Body,
         hip,
         kByDrive,
         path,
         {0, 12},
         tensionTime},
        {"bounce",
         "Rebound at the bottom",
         "reversal acceleration",
         Unit::MetresPerSecond2,
         kSideView,
         Of::Body,
         both({L::LeftHip, L::LeftShoulder}),
         kByKnee,
         path,
         {0, 20},
         bounce},
    };
    return all;
}

}  // namespace zevo
