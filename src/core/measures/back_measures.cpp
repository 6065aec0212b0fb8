// The line of the back, from the body's outline (core/back/back_line.h). All are read only where the shirt is known to
// lie on, but for the order of a bridge, which cloth does not change, and the drift of one client between repetitions.
#include <cmath>

#include "core/base/calibration.h"
#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// Half widths of the 90 % interval, from figures that nothing was chosen on (docs/measurements.md, “The back line”).
constexpr double kTuckPm = calibrated("back.tuck"), kTuckStartPm = calibrated("back.tuck_start"),
                 kTuckHipPm = calibrated("back.tuck_hip"), kLowPm = calibrated("back.low"),
                 kHighPm = calibrated("back.high"), kDriftPm = calibrated("back.drift"),
                 kStickPm = calibrated("back.stick"), kOrderPm = calibrated("back.order"),
                 kArchPm = calibrated("back.arch"), kChestPm = calibrated("back.chest"),
                 kStickLeanPm = calibrated("back.stick_lean"), kTopPm = calibrated("back.top");
/// A tuck whose beginning is worth a word, cm.
constexpr double kTucked = 1.0;
/// Of what two witnesses of one bend differ by, what goes into the ±: half of it is how far each is from their mean,
/// and 0.7 of that half is one standard deviation of a mean of two.
constexpr double kShareOfDifference = 0.35;
/// Off square by a degree, the bulge of a low back reads that much more or less, cm (virtual clients 7° off: 1.1 cm).
constexpr double kPerDegreeOff = calibrated("back.off_square");

/// What is read around the turning point; nothing where something stands against it.
std::optional<BackReading> atTurn(const MeasureInput& in, bool evenLoose = false) {
    if (!in.back || in.back->cmPerTrunk() <= 0) return std::nullopt;
    const Shirt shirt = evenLoose ? Shirt::Tight : in.shirt;
    if (in.back->doubtAt(in.rep.bottom, shirt, in.backCovered) != BackDoubt::None) return std::nullopt;
    return in.back->around(in.track.timesS[in.rep.bottom]);
}

double offSquare(const MeasureInput& in) {
    return kPerDegreeOff * in.track.offSquareDeg();
}

/// A bend at either place raises both bulges; the two are told apart by how much each raises them (drawn and
/// anatomical figure, ours: low 0.092 and 0.02 cm a degree, high 0.085 and 0.125).
double highAlone(const BackReading& b) {
    return b.highCm - 0.21 * b.lowCm;
}
/// The low back by two witnesses, as in the squat: its bulge without what the upper back does to it, and the hollow
/// lost, of which an upper back that rounds takes nine tenths of its own bulge.
struct Low {
    double byBulge = 0, byHollow = 0;
    double both() const { return 0.5 * (byBulge + byHollow); }
};
Low lowAlone(const BackReading& b) {
    return {b.lowCm - 0.68 * b.highCm, b.hollowCm - 0.9 * std::max(0.0, highAlone(b))};
}

/// Rounding of the low back at the bottom of a squat, by two witnesses that fail differently: the hollow under a
/// straight edge that is lost (needs no landmark), and the bulge over its neighbours (does not saturate when the back
/// is flat). Their mean; what they differ by is in the ±. What an upper back that rounds does to both is taken off
/// where it is there: in the noise of one that does not, it would only add to theirs.
std::optional<Reading> tuck(const MeasureInput& in) {
    constexpr double kRounded = 0.6;
    const auto back = atTurn(in);
    if (!back || in.track.drive != Drive::Sinking) return std::nullopt;
    const bool rounds = highAlone(*back) > kRounded;
    const Low low = rounds ? lowAlone(*back) : Low{back->lowCm, back->hollowCm};
    // What is taken off is known no better than the upper back is: 0.68 of it from one witness, 0.9 from the other.
    const double takenOff = rounds ? 0.5 * (0.68 + 0.9) * kHighPm : 0;
    return reading(low.both(),
                   rootSumSquare({kTuckPm, offSquare(in), kShareOfDifference * (low.byHollow - low.byBulge), takenOff}),
                   in.rep.bottom);
}

std::optional<std::size_t> tuckBegins(const MeasureInput& in) {
    const auto size = tuck(in);
    if (!size || size->value < kTucked) return std::nullopt;
    return in.back->tuckBegins(in.rep);
}
std::optional<Reading> tuckStartHip(const MeasureInput& in) {
    const auto at = tuckBegins(in);
    if (!at) return std::nullopt;
    return reading(meanAround(in.series.hipFlexion, *at, in.samples(1.0 / 30)), kTuckHipPm, *at);
}

std::optional<Reading> lowRound(const MeasureInput& in) {
    const auto back = atTurn(in);
    if (!back) return std::nullopt;
    const Low low = lowAlone(*back);
    return reading(low.both(),
                   rootSumSquare({kLowPm, offSquare(in), kShareOfDifference * (low.byBulge - low.byHollow)}),
                   in.rep.bottom);
}
std::optional<Reading> highRound(const MeasureInput& in) {
    const auto back = atTurn(in);
    if (!back) return std::nullopt;
    return reading(highAlone(*back), kHighPm, in.rep.bottom);
}
/// Squats and lunges: how much the upper back rounds from halfway down on, and the chest drops with it.
std::optional<Reading> chestDrop(const MeasureInput& in) {
    const auto back = in.track.drive == Drive::Sinking ? atTurn(in) : std::nullopt;
    if (!back) return std::nullopt;
    return reading(highAlone(*back), kChestPm, in.rep.bottom);
}
/// The same against the first repetition: what build and cloth do is in both.
std::optional<Reading> highDrift(const MeasureInput& in) {
    const auto back = atTurn(in, true);
    if (!back || !in.back->first() || in.rep.index < 2) return std::nullopt;
    return reading(back->highCm - in.back->first()->highCm, kDriftPm, in.rep.bottom);
}

/// Gaps under a stick along the back at the turning point, more than at rest. A stick rests on two of three places; a
/// broken line opens a gap at its upper end or at its lower one, and which of the two the hands let go is not in the
/// picture: the end is named where the back bends, low or high.
enum class Contact { Head, Shoulders, Sacrum };
std::optional<Reading> stickGap(const MeasureInput& in, Contact contact) {
    const auto back = atTurn(in);
    if (!back) return std::nullopt;
    const bool low = lowAlone(*back).both() > kLowPm && lowAlone(*back).both() > highAlone(*back);
    double gap = back->bladesCm;
    if (contact == Contact::Head) gap = low ? std::min(0.0, back->headCm) : back->headCm;
    if (contact == Contact::Sacrum) gap = low ? back->seatCm : std::min(0.0, back->seatCm);
    return reading(gap, kStickPm, in.rep.bottom);
}
std::optional<Reading> stickHead(const MeasureInput& in) {
    return stickGap(in, Contact::Head);
}
std::optional<Reading> stickShoulders(const MeasureInput& in) {
    return stickGap(in, Contact::Shoulders);
}
std::optional<Reading> stickSacrum(const MeasureInput& in) {
    return stickGap(in, Contact::Sacrum);
}

/// The lean at which a stick along the back is left by the first of its three contacts, for good.
std::optional<Reading> stickLostLean(const MeasureInput& in) {
    if (!atTurn(in)) return std::nullopt;
    constexpr double kBladesCm = 6;
    const auto at = in.back->stickLeaves(in.rep, kStickPm, kBladesCm);
    if (!at) return std::nullopt;
    return reading(meanAround(in.series.trunkLean, *at, in.samples(1.0 / 30)), kStickLeanPm, *at);
}

/// How much hollower the low back is at the top of a hinge than at rest before the first one. The trunk thrown back is
/// another matter (top_trunk_lean); a back that is arched from the start shows nothing.
std::optional<Reading> topHollow(const MeasureInput& in) {
    if (!in.back || in.shirt != Shirt::Tight || in.backCovered) return std::nullopt;
    const auto [from, to] = topSpan(in);
    const auto hollow = in.back->hollowAtTop(from, to);
    if (!hollow) return std::nullopt;
    return reading(*hollow, kTopPm, (from + to) / 2);
}

/// How much later low and middle back leave the floor than the pelvis, and how much earlier they meet it.
std::optional<Reading> floorOrder(const MeasureInput& in, bool lowering) {
    if (!in.back || in.back->doubt() == BackDoubt::OffSquare) return std::nullopt;
    const auto order = in.back->floorOrder(in.rep, lowering);
    if (!order) return std::nullopt;
    const std::size_t from = lowering ? in.rep.leave : in.rep.start, to = lowering ? in.rep.end : in.rep.arrive;
    return reading(*order, kOrderPm, from + (to - from) / 2);
}
std::optional<Reading> liftOrder(const MeasureInput& in) {
    return floorOrder(in, false);
}
std::optional<Reading> lowerOrder(const MeasureInput& in) {
    return floorOrder(in, true);
}

/// How much hollower the low back is at the top than half-way up. A rib cage that tips back does the same: the two are
/// not told apart. A back that comes up piece by piece is rolled up half-way: no line of its own to hold it against.
std::optional<Reading> topArch(const MeasureInput& in) {
    constexpr double kPieceByPiece = 0.05;
    const auto back = atTurn(in);
    if (!back || in.back->floorOrder(in.rep, false).value_or(1) > kPieceByPiece) return std::nullopt;
    return reading(-back->hollowCm, kArchPm, in.rep.bottom);
}

}  // namespace

std::optional<Reading> tuckStart(const MeasureInput& in) {
    const auto at = tuckBegins(in);
    if (!at) return std::nullopt;
    return reading(meanAround(in.series.thighAngle, *at, in.samples(1.0 / 30)), kTuckStartPm, *at);
}

std::span<const MeasureDef> backMeasures() {
    using namespace row;
    static const std::vector<PointRead> trunk = near({L::LeftShoulder});
    static const std::vector<SketchPart> line{{Draw::Back, kNearHip, kShoulder}}, stick{{Draw::Stick, kNearHip, kEar}};
    auto def = [](const char* id, const char* title, const char* term, Unit unit, const CourseDef& course,
                  const std::vector<SketchPart>& sketch, Scale scale,
                  std::optional<Reading> (*read)(const MeasureInput&)) {
        return MeasureDef{id, title, term, unit, kSideView, Of::Body, trunk, course, sketch, scale, read};
    };
    static const std::vector<MeasureDef> all{
        def("low_back_tuck", "Tail tucks under", "low back outline, change from mid-way down to the bottom",
            Unit::Centimetres, kByThigh, line, {-2, 5}, tuck),
        def("tuck_start", "Depth where the tuck begins", "thigh inclination where the low back begins to round",
            Unit::Degrees, kByThigh, line, {-40, 60}, tuckStart),
        def("tuck_start_hip", "Hip bend where the tuck begins", "hip flexion where the low back begins to round",
            Unit::Degrees, kHipCourse, line, {40, 160}, tuckStartHip),
        def("chest_drop", "Chest drops", "upper back outline, change from mid-way down", Unit::Centimetres, kByTrunk,
            line, {-3, 5}, chestDrop),
        def("low_back_round", "Low back rounds", "low back outline, change from early in the hinge; arched −",
            Unit::Centimetres, kByTrunk, line, {-3, 5}, lowRound),
        def("upper_back_round", "Upper back rounds", "upper back outline, change from early in the hinge",
            Unit::Centimetres, kByTrunk, line, {-3, 5}, highRound),
        def("upper_back_drift", "Upper back rounds more than in rep 1", "upper back outline against the first rep",
            Unit::Centimetres, kByTrunk, line, {-4, 4}, highDrift),
        def("stick_head", "Head off the line of the back", "gap under a virtual stick at the head, more than at rest",
            Unit::Centimetres, kByTrunk, stick, {-12, 8}, stickHead),
        def("stick_shoulders", "Shoulder blades off the line", "gap at the shoulder blades, more than at rest",
            Unit::Centimetres, kByTrunk, stick, {-4, 10}, stickShoulders),
        def("stick_sacrum", "Low back off the line", "gap at the seat, more than at rest", Unit::Centimetres, kByTrunk,
            stick, {-12, 8}, stickSacrum),
        def("stick_lost_lean", "Lean where the stick is lost", "trunk inclination where a stick's first contact opens",
            Unit::Degrees, kByTrunk, stick, {0, 100}, stickLostLean),
        def("top_hollow", "Low back arches at the top", "low back outline at the top, change from rest",
            Unit::Centimetres, kByTrunk, line, {-3, 5}, topHollow),
        def("bridge_order", "Back leaves the floor after the pelvis", "lag of low and mid back, share of the lift",
            Unit::Share, kByTrunk, line, {-0.1, 0.25}, liftOrder),
        def("bridge_order_down", "Back meets the floor before the pelvis",
            "lead of low and mid back, share of the way down", Unit::Share, kByTrunk, line, {-0.1, 0.25}, lowerOrder),
        def("bridge_arch", "Low back hollows at the top", "low back outline, change from half-way up",
            Unit::Centimetres, kByTrunk, line, {-3, 5}, topArch),
    };
    return all;
}

}  // namespace zevo
