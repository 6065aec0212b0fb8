#include <algorithm>
#include <array>
#include <cmath>

#include "core/measures/error_model.h"
#include "core/measures/measure.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;

/// A joint misplaced by a share of a segment turns it by up to that many radians.
constexpr double kDegreesPerShare = 57.3;
/// Doubt about a leg's length at which nothing is left of the confidence, ÷ 1.2.
constexpr double kDoubtSpan = 0.15;

double meanAround(const std::vector<double>& s, std::size_t at, std::size_t half = 2) {
    const std::size_t a = at > half ? at - half : 0, b = std::min(at + half, s.size() - 1);
    double sum = 0;
    for (std::size_t i = a; i <= b; ++i) sum += s[i];
    return sum / static_cast<double>(b - a + 1);
}

std::size_t largestIn(const std::vector<double>& s, std::size_t from, std::size_t to) {
    return static_cast<std::size_t>(std::max_element(s.begin() + static_cast<std::ptrdiff_t>(from),
                                                     s.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                    s.begin());
}

/// A joint or line angle at the bottom, with its error from two lines (or one, given twice).
bool readAngle(const MeasureInput& in, const std::vector<double>& s, Quantity quantity, L a0, L a1, L b0, L b1,
               double& value, double& pm, std::size_t& at) {
    at = in.rep.bottom;
    value = meanAround(s, at);
    const Track& t = in.track;
    const SegmentAngle a{t.nearOf(a0), t.nearOf(a1)}, b{t.nearOf(b0), t.nearOf(b1)};
    const bool joint = a0 != b0 || a1 != b1;
    const double doubt = lengthDoubt(t, a, at) + (joint ? lengthDoubt(t, b, at) : 0.0);
    pm = together({jitterOfLine(t, a, at), joint ? jitterOfLine(t, b, at) : 0.0,
                   joint ? 0.0 : kLevelError + in.levelDoubtDeg,
                   allowed(allowanceOf(t.family, quantity), in.series.kneeFlexion[at]),
                   foreshortening(std::min(60.0, std::abs(value)), t.offSquareDeg), doubt * kDegreesPerShare});
    return std::isfinite(value);
}

bool kneeFlexionAtBottom(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return readAngle(in, in.series.kneeFlexion, Quantity::Knee, L::LeftHip, L::LeftKnee, L::LeftKnee, L::LeftAnkle, v,
                     pm, at);
}
bool hipFlexionAtBottom(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return readAngle(in, in.series.hipFlexion, Quantity::Hip, L::LeftShoulder, L::LeftHip, L::LeftHip, L::LeftKnee, v,
                     pm, at);
}
bool trunkLeanAtBottom(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return readAngle(in, in.series.trunkLean, Quantity::Trunk, L::LeftHip, L::LeftShoulder, L::LeftHip, L::LeftShoulder,
                     v, pm, at);
}
bool shinAngleAtBottom(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return readAngle(in, in.series.shinAngle, Quantity::Shin, L::LeftAnkle, L::LeftKnee, L::LeftAnkle, L::LeftKnee, v,
                     pm, at);
}
bool thighAngleAtBottom(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return readAngle(in, in.series.thighAngle, Quantity::Thigh, L::LeftKnee, L::LeftHip, L::LeftKnee, L::LeftHip, v, pm,
                     at);
}

/// How much further the trunk leans than the shins: long thighs and short ankles raise it, so does folding.
bool leanBeyondShins(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    double trunk = 0, shin = 0, pmTrunk = 0, pmShin = 0;
    if (!trunkLeanAtBottom(in, trunk, pmTrunk, at) || !shinAngleAtBottom(in, shin, pmShin, at)) return false;
    v = trunk - shin;
    pm = std::hypot(pmTrunk, pmShin);
    return true;
}

/// The most a foot point rises for at least 0.15 s during the repetition. Read from the shoe followed in the picture
/// where that held for most of the rep; else from the landmarks, which are far less sure (error_model.h).
bool liftOfFoot(const MeasureInput& in, const std::vector<double>& s, const std::vector<bool>& followed, double& v,
                double& pm, std::size_t& at) {
    if (in.track.cmPerPixel <= 0) return false;
    std::size_t held = 0;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i) held += followed[i];
    const bool byShoe = static_cast<double>(held) >= 0.6 * static_cast<double>(in.rep.end - in.rep.start + 1);
    const auto hold = std::max<std::size_t>(1, static_cast<std::size_t>(0.15 * in.track.rate));
    v = -1e9;
    for (std::size_t i = in.rep.start; i + hold <= in.rep.end; ++i) {
        double least = 1e9;
        for (std::size_t k = i; k <= i + hold; ++k) least = byShoe && !followed[k] ? -1e9 : std::min(least, s[k]);
        if (least > v) {
            v = least;
            at = i + hold / 2;
        }
    }
    const Allowance& allowance = byShoe ? kShoeLiftAllowance : kLandmarkLiftAllowance;
    pm = together({allowance.still, allowance.deep * std::max(0.0, v)});
    return v > -1e8;
}
bool heelRise(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return liftOfFoot(in, in.series.heelRise, in.series.heelFollowed, v, pm, at);
}
bool toeRise(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return liftOfFoot(in, in.series.toeRise, in.series.toeFollowed, v, pm, at);
}

bool kneePastToe(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    if (in.track.cmPerPixel <= 0) return false;
    at = in.rep.bottom;
    v = meanAround(in.series.kneePastToe, at);
    // Both ends of the error: where the foot ends (foot_extent.h) and where the knee is (docs/measurements.md).
    const double jitter =
        1.645 * in.track.noisePx[static_cast<std::size_t>(in.track.nearOf(L::LeftKnee))] * in.track.cmPerPixel;
    pm = together({jitter, 4.0});
    return std::isfinite(v);
}

bool massOverFoot(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    at = in.rep.bottom;
    v = meanAround(in.series.massOverFoot, at, 4);
    pm = 0.18;  // 90th percentile of the errors of both figures; see docs/measurements.md
    return std::isfinite(v);
}

bool neckChange(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    at = in.rep.bottom;
    v = meanAround(in.series.neckChange, at, 4);
    pm = 11.0;  // head landmarks against the trunk; see docs/measurements.md
    return std::isfinite(v);
}

/// Time from one joint having made a quarter of its way to the other: knee before hip is +.
bool kneeLead(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    auto quarter = [&](const std::vector<double>& s) {
        const double from = meanAround(s, in.rep.start), to = meanAround(s, in.rep.arrive);
        const double level = from + 0.25 * (to - from);
        for (std::size_t i = in.rep.start; i < in.rep.arrive; ++i)
            if ((s[i] < level) != (s[i + 1] < level)) {
                const double w = (level - s[i]) / (s[i + 1] - s[i]);
                return static_cast<double>(i) + w;
            }
        return std::nan("");
    };
    const double hip = quarter(in.series.hipFlexion), knee = quarter(in.series.kneeFlexion);
    if (std::isnan(hip) || std::isnan(knee)) return false;
    v = (hip - knee) / in.track.rate * 1000;
    const double lowering = static_cast<double>(in.rep.arrive - in.rep.start) / in.track.rate;
    pm = std::max(40.0, 30.0 * lowering);  // slow descents cross the quarter mark less sharply
    at = static_cast<std::size_t>(std::min(hip, knee));
    return true;
}

bool duration(const MeasureInput& in, std::size_t from, std::size_t to, double& v, double& pm, std::size_t& at) {
    v = static_cast<double>(to - from) / in.track.rate;
    pm = std::max(0.22, 0.12 * v);  // where slow movement begins is a matter of definition
    at = from;
    return true;
}
bool loweringTime(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return duration(in, in.rep.start, in.rep.arrive, v, pm, at);
}
bool pauseTime(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return duration(in, in.rep.arrive, in.rep.leave, v, pm, at);
}
bool liftingTime(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return duration(in, in.rep.leave, in.rep.end, v, pm, at);
}
bool tensionTime(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    return duration(in, in.rep.start, in.rep.end, v, pm, at);
}

/// How hard the bottom throws the hips back up: largest upward acceleration there.
bool bounce(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    if (in.track.cmPerPixel <= 0) return false;
    const L hip = in.track.nearOf(L::LeftHip);
    const std::size_t from = in.rep.arrive > static_cast<std::size_t>(0.3 * in.track.rate)
                                 ? in.rep.arrive - static_cast<std::size_t>(0.3 * in.track.rate)
                                 : 0;
    const std::size_t to = std::min(in.rep.leave + static_cast<std::size_t>(0.3 * in.track.rate), in.track.size() - 1);
    std::vector<double> height;
    for (std::size_t i = from; i <= to; ++i) height.push_back(in.track.at(hip, i).y() * in.track.cmPerPixel / 100);
    if (height.size() < 5) return false;
    const auto acceleration = derivative(derivative(height, in.track.rate), in.track.rate);
    const std::size_t best = largestIn(acceleration, 2, acceleration.size() - 3);
    v = acceleration[best];
    at = from + best;
    pm = 0.3 * std::abs(v) + 0.9;
    return true;
}

/// The top after the lift: from the end of this rep to the start of the next (or one second).
std::pair<std::size_t, std::size_t> topSpan(const MeasureInput& in) {
    const std::size_t last = in.track.size() - 1;
    const std::size_t to =
        in.next ? in.next->start : std::min(last, in.rep.end + static_cast<std::size_t>(in.track.rate));
    return {std::min(in.rep.end, last), std::max(std::min(in.rep.end, last), to)};
}
bool topKneeFlexion(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    const auto [from, to] = topSpan(in);
    const auto& s = in.series.kneeFlexion;
    at = static_cast<std::size_t>(std::min_element(s.begin() + static_cast<std::ptrdiff_t>(from),
                                                   s.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                  s.begin());
    v = meanAround(s, at);
    pm = together({allowanceOf(in.track.family, Quantity::Knee).still,
                   jitterOfLine(in.track, {in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftKnee)}, at)});
    return std::isfinite(v);
}
bool topTrunkLean(const MeasureInput& in, double& v, double& pm, std::size_t& at) {
    const auto [from, to] = topSpan(in);
    const auto& s = in.series.trunkLean;
    at = static_cast<std::size_t>(std::min_element(s.begin() + static_cast<std::ptrdiff_t>(from),
                                                   s.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                  s.begin());
    v = meanAround(s, at);
    pm = together({allowanceOf(in.track.family, Quantity::Trunk).still, kLevelError + in.levelDoubtDeg,
                   jitterOfLine(in.track, {in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftShoulder)}, at)});
    return std::isfinite(v);
}

const std::vector<MeasureDef>& registry() {
    static const std::vector<L> leg{L::LeftHip, L::LeftKnee, L::LeftAnkle}, trunk{L::LeftHip, L::LeftShoulder};
    static const std::vector<L> body{L::LeftShoulder, L::LeftHip, L::LeftKnee, L::LeftAnkle, L::LeftHeel, L::LeftToe};
    static const std::vector<MeasureDef> all{
        {"thigh_angle",
         "Depth: thigh from level",
         "thigh inclination at the bottom",
         Unit::Degrees,
         {L::LeftHip, L::LeftKnee},
         thighAngleAtBottom},
        {"knee_flexion", "Knee bend", "knee flexion", Unit::Degrees, leg, kneeFlexionAtBottom},
        {"hip_flexion",
         "Hip bend",
         "hip flexion",
         Unit::Degrees,
         {L::LeftShoulder, L::LeftHip, L::LeftKnee},
         hipFlexionAtBottom},
        {"trunk_lean", "Trunk lean", "trunk inclination from vertical", Unit::Degrees, trunk, trunkLeanAtBottom},
        {"shin_angle",
         "Shin lean",
         "ankle dorsiflexion, shin from vertical",
         Unit::Degrees,
         {L::LeftKnee, L::LeftAnkle},
         shinAngleAtBottom},
        {"lean_over_shin", "Lean beyond the shins", "trunk minus shin inclination", Unit::Degrees, body,
         leanBeyondShins},
        {"heel_rise", "Heel off the floor", "heel rise", Unit::Centimetres, {L::LeftHeel}, heelRise},
        {"toe_rise", "Toes off the floor", "toe rise", Unit::Centimetres, {L::LeftToe}, toeRise},
        {"knee_past_toe",
         "Knee ahead of toes",
         "knee travel past the toe tip",
         Unit::Centimetres,
         {L::LeftKnee, L::LeftToe},
         kneePastToe},
        {"mass_over_foot", "Balance over the foot", "mass centre, 0 heel … 1 toe tip", Unit::Share, body, massOverFoot},
        {"neck_change",
         "Head off the trunk line",
         "neck extension against standing",
         Unit::Degrees,
         {L::LeftEar, L::LeftShoulder},
         neckChange},
        {"knee_lead", "Knees start before hips", "knee onset before hip onset", Unit::Milliseconds, body, kneeLead},
        {"lowering_s", "Way down", "eccentric time", Unit::Seconds, {L::LeftHip}, loweringTime},
        {"pause_s", "Pause below", "pause at the bottom", Unit::Seconds, {L::LeftHip}, pauseTime},
        {"lifting_s", "Way up", "concentric time", Unit::Seconds, {L::LeftHip}, liftingTime},
        {"tension_s", "Working time", "time under tension of the rep", Unit::Seconds, {L::LeftHip}, tensionTime},
        {"bounce",
         "Rebound at the bottom",
         "reversal acceleration of the hip",
         Unit::MetresPerSecond2,
         {L::LeftHip},
         bounce},
        {"top_knee_flexion", "Knees at the top", "knee flexion standing", Unit::Degrees, leg, topKneeFlexion},
        {"top_trunk_lean", "Trunk at the top", "trunk inclination standing", Unit::Degrees, trunk, topTrunkLean},
    };
    return all;
}

}  // namespace

std::string unitName(Unit unit) {
    static constexpr std::array<const char*, 6> names{"deg", "cm", "s", "ms", "share", "m/s2"};
    return names[static_cast<std::size_t>(unit)];
}

std::span<const MeasureDef> sideMeasures() {
    return registry();
}

const MeasureDef* findMeasure(const std::string& id) {
    for (const auto& m : registry())
        if (id == m.id) return &m;
    return nullptr;
}

std::vector<Measurement> measureRep(const MeasureInput& in) {
    std::vector<Measurement> out;
    // Past about 30° off square a projected sagittal angle is no longer that angle.
    const double square = std::clamp(1.2 - in.track.offSquareDeg / 50.0, 0.0, 1.0);
    for (const auto& def : registry()) {
        Measurement m{def.id, 0, 0, def.unit, 0, 0};
        std::size_t at = in.rep.bottom;
        if (!def.read(in, m.value, m.pm90, at) || !std::isfinite(m.value)) continue;
        double seen = 1;
        for (L id : def.needs) {
            const auto& s = in.track.seen[static_cast<std::size_t>(in.track.nearOf(id))];
            seen = std::min<double>(seen, s[std::min(at, s.size() - 1)]);
        }
        // A leg that shows another length than at rest is hidden or misplaced, whatever the network thinks of it.
        const std::size_t when = std::min(at, in.track.size() - 1);
        double doubt = 0;
        for (L id : def.needs) {
            if (id == L::LeftKnee || id == L::LeftHip)
                doubt = std::max(
                    doubt, lengthDoubt(in.track, {in.track.nearOf(L::LeftHip), in.track.nearOf(L::LeftKnee)}, when));
            if (id == L::LeftKnee || id == L::LeftAnkle)
                doubt = std::max(
                    doubt, lengthDoubt(in.track, {in.track.nearOf(L::LeftKnee), in.track.nearOf(L::LeftAnkle)}, when));
        }
        const double rigid = std::clamp(1.2 - doubt / kDoubtSpan, 0.0, 1.0);
        const bool observed = in.track.observed[std::min(at, in.track.observed.size() - 1)];
        m.confidence = observed ? std::clamp(seen * square * rigid, 0.0, 1.0) : 0.0;
        m.atS = in.track.timesS[std::min(at, in.track.size() - 1)];
        out.push_back(m);
    }
    return out;
}

}  // namespace zevo
