// Points the coach marked (core/marks/marks.h): the way of the load, how fast it is lifted, tapes on hips, knees and
// back. They are read off the picture, not off the network's points; where a point was lost nothing is read.
#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/measures/reading.h"
#include "core/series/foot_extent.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;
using Line = MarkLines::Line;

/// A followed point is off by about so much, pixels of the picture as it was read, as half of a 90 % interval
/// (docs/measurements.md, “Marked points”).
constexpr double kMarkPx = calibrated("mark.px"), kReadPx = 1280;
/// The scale of lengths is known to this share (half widths of 90 %): stature in pixels, and for a bar's end where its
/// end really is.
constexpr double kScale = calibrated("mark.scale"), kNearerCm = calibrated("mark.nearer");
/// Half width of the 90 % interval of a lift's mean speed, share of it, and of one against another of the same set.
constexpr double kSpeedShare = calibrated("mark.speed"), kLossPm = calibrated("mark.loss");

double cm(const MeasureInput& in, double px) {
    return px * in.track.cmPerPixel;
}

/// The same in the clip's own pixels: larger pictures are made smaller before a point is followed in them.
double markPx(const MeasureInput& in) {
    return kMarkPx * std::max(1.0, std::max(in.track.pictureWidth, in.track.pictureHeight) / kReadPx);
}

/// The load over a whole repetition; null where it is not marked, was lost, or there is no scale to trust: what hides
/// the feet of a client whose size is contradicted hides what a load is held against.
const Line* load(const MeasureInput& in) {
    return in.marks && in.track.cmPerPixel > 0 && in.track.sizeContradictedBy == 0 ? in.marks->loadIn(in.rep) : nullptr;
}

/// A place of the load that lies so far from the picture's middle is moved by an error of how near it is.
double nearDoubt(const MeasureInput& in, const Line& line, std::size_t at) {
    const double fromMiddle = std::abs(line.seen[at].x() - in.track.pictureWidth / 2.0);
    const double doubt = *in.marks->load() == MarkKind::BarEnd ? kNearerCm : 0.4 * kNearerCm;
    return cm(in, fromMiddle) * doubt / in.marks->cameraCm();
}

/// How far the load's way is from a straight line up: its width.
std::optional<Reading> loadSway(const MeasureInput& in) {
    const Line* line = load(in);
    if (!line) return std::nullopt;
    std::optional<double> least, most;
    std::size_t at = in.rep.bottom;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i) {
        const double x = line->flat[i].x();
        if (std::isnan(x)) continue;
        if (!least || x < *least) least = x;
        if (!most || x > *most) most = x, at = i;
    }
    if (!most) return std::nullopt;
    const double value = cm(in, *most - *least);
    return reading(value, rootSumSquare({cm(in, markPx(in)), kScale * value}), at);
}

/// The load ahead of the middle of the foot: the furthest that is held for a fifth of a second, there or back.
std::optional<Reading> loadAheadOfFoot(const MeasureInput& in) {
    const Line* line = load(in);
    if (!line) return std::nullopt;
    const FootExtent foot = footExtent(in.track, PointSet::Flat);
    const double middle = 0.5 * (foot.heel + foot.toe);
    const std::size_t hold = std::max<std::size_t>(1, in.samples(0.2));
    std::optional<double> most;
    std::size_t at = in.rep.bottom;
    for (std::size_t i = in.rep.start; i + hold <= in.rep.end; ++i) {
        double least = line->flat[i].x();
        for (std::size_t k = i + 1; k <= i + hold; ++k)
            if (!(line->flat[k].x() >= least)) least = line->flat[k].x();
        if (!std::isnan(least) && (!most || least > *most)) most = least, at = i + hold / 2;
    }
    if (!most) return std::nullopt;
    // Where the middle of a foot is, is known to about 2 cm (landmarks of heel and toe lie inside the shoe).
    constexpr double kFootCm = calibrated("mark.foot");
    return reading(cm(in, *most - middle), rootSumSquare({kFootCm, cm(in, markPx(in)), nearDoubt(in, *line, at)}), at);
}

/// How far the front of the leg is behind the load: its line hip–knee–ankle at the load's height, pixels.
double aheadOfLeg(const MeasureInput& in, const Line& line, std::size_t at) {
    const Track& t = in.track;
    const Vec2 hip = t.flatAt(t.nearOf(L::LeftHip), at), knee = t.flatAt(t.nearOf(L::LeftKnee), at),
               ankle = t.flatAt(t.nearOf(L::LeftAnkle), at), p = line.flat[at];
    const bool above = p.y() > knee.y();
    const Vec2 &low = above ? knee : ankle, &high = above ? hip : knee;
    const double w = std::clamp((p.y() - low.y()) / std::max(1.0, high.y() - low.y()), 0.0, 1.0);
    return p.x() - (low.x() + w * (high.x() - low.x()));
}

/// The largest gap between load and leg, against the smallest of the same repetition: a leg's thickness and where the
/// bar's middle is cancel for the most part.
std::optional<Reading> loadOffLeg(const MeasureInput& in) {
    // Plates that come from the floor stand before the shins: where the network puts them then is 2 to 26 cm off.
    const Line* line = in.backCovered ? nullptr : load(in);
    if (!line) return std::nullopt;
    const std::size_t hold = std::max<std::size_t>(1, in.samples(0.1));
    std::vector<double> ahead;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i)
        if (!std::isnan(line->flat[i].x())) ahead.push_back(aheadOfLeg(in, *line, i));
    if (ahead.size() < 4 * hold) return std::nullopt;
    const double least = quantile(ahead, 0.1);
    std::size_t at = in.rep.start;
    double most = -1e9;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i)
        if (!std::isnan(line->flat[i].x()) && aheadOfLeg(in, *line, i) > most) most = aheadOfLeg(in, *line, i), at = i;
    // The thigh is thicker than the shank by about 3 cm from its axis to its front (project choice).
    constexpr double kThicker = 3, kLegCm = calibrated("mark.leg");
    return reading(cm(in, quantile(ahead, 0.95) - least) - kThicker, rootSumSquare({kLegCm, cm(in, markPx(in))}), at);
}

std::optional<Reading> loadSpeed(const MeasureInput& in) {
    if (!load(in)) return std::nullopt;
    const auto lift = in.marks->liftOf(in.rep);
    if (!lift) return std::nullopt;
    return reading(lift->meanMps, kSpeedShare * lift->meanMps, (lift->low + lift->high) / 2);
}

/// How much slower than the fastest lift so far: what tires. The scale cancels.
std::optional<Reading> loadSpeedLoss(const MeasureInput& in) {
    if (!load(in) || in.rep.index < 2) return std::nullopt;
    const auto lift = in.marks->liftOf(in.rep);
    if (!lift) return std::nullopt;
    return reading(1 - lift->meanMps / in.marks->fastestUpTo(in.rep), kLossPm, (lift->low + lift->high) / 2);
}

const Line* bell(const MeasureInput& in) {
    return in.marks && in.marks->load() == MarkKind::Bell ? load(in) : nullptr;
}

/// Height of the bell at its highest, after the back-swing: 0 hip, 1 shoulder of the standing client.
std::optional<Reading> bellHeight(const MeasureInput& in) {
    const Line* line = bell(in);
    if (!line) return std::nullopt;
    const double hip = in.track.standingFlatAt(in.track.nearOf(L::LeftHip)).y(),
                 shoulder = in.track.standingFlatAt(in.track.nearOf(L::LeftShoulder)).y();
    if (shoulder - hip < 1) return std::nullopt;
    const std::size_t to = std::min(in.next ? in.next->bottom : in.rep.end + in.samples(0.5), line->flat.size() - 1);
    std::optional<std::size_t> top;
    for (std::size_t i = in.rep.bottom; i <= to; ++i)
        if (!std::isnan(line->flat[i].y()) && (!top || line->flat[i].y() > line->flat[*top].y())) top = i;
    if (!top) return std::nullopt;
    constexpr double kJoint = calibrated("mark.start_hips");
    return reading((line->flat[*top].y() - hip) / (shoulder - hip),
                   rootSumSquare({kJoint, markPx(in) / (shoulder - hip)}), *top);
}

/// Height of the bell over the knee where it is furthest back, share of the shank: below 0 it passes under the knees.
std::optional<Reading> bellBack(const MeasureInput& in) {
    const Line* line = bell(in);
    if (!line) return std::nullopt;
    std::optional<std::size_t> back;
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i)
        if (!std::isnan(line->flat[i].x()) && (!back || line->flat[i].x() < line->flat[*back].x())) back = i;
    if (!back) return std::nullopt;
    const Vec2 knee = in.track.flatAt(in.track.nearOf(L::LeftKnee), *back),
               ankle = in.track.flatAt(in.track.nearOf(L::LeftAnkle), *back);
    const double shank = (knee - ankle).norm();
    if (shank < 1) return std::nullopt;
    constexpr double kKnee = calibrated("mark.bell");
    return reading((line->flat[*back].y() - knee.y()) / shank, rootSumSquare({kKnee, markPx(in) / shank}), *back);
}

/// How much higher the bell goes once the hips are straight than its speed at that moment carries it (v² / 2g:
/// conservation of energy; a bell that hangs on loose arms does not care how it is led). Above 1 the arms lift.
std::optional<Reading> bellLifted(const MeasureInput& in) {
    const Line* line = bell(in);
    if (!line) return std::nullopt;
    const auto& lean = in.series.trunkLean;
    const std::size_t end = std::min(in.next ? in.next->bottom : in.rep.end + in.samples(0.5), line->flat.size() - 1);
    double least = lean[in.rep.bottom];
    for (std::size_t i = in.rep.bottom; i <= std::min(end, in.rep.end); ++i) least = std::min(least, lean[i]);
    const double straight = least + 0.1 * (lean[in.rep.bottom] - least);
    std::size_t at = in.rep.bottom;
    while (at < end && lean[at] > straight) ++at;
    const std::size_t half = std::max<std::size_t>(1, in.samples(1.0 / 30));
    if (at < half || at + half > end) return std::nullopt;
    const Vec2 step = line->flat[at + half] - line->flat[at - half];
    const double seconds = in.track.timesS[at + half] - in.track.timesS[at - half];
    const double speed = cm(in, step.norm()) / 100 / seconds;
    double top = line->flat[at].y();
    for (std::size_t i = at; i <= end; ++i)
        if (line->flat[i].y() > top) top = line->flat[i].y();
    constexpr double kGravity = 9.81, kLeastM = 0.08;
    const double carries = speed * speed / (2 * kGravity), rises = cm(in, top - line->flat[at].y()) / 100;
    if (std::isnan(carries) || carries < kLeastM) return std::nullopt;  // a bell that is not thrown
    const double value = rises / carries;
    // The square of a speed doubles its error; the scale is in both, once and twice.
    const double pm =
        value * rootSumSquare({2 * kSpeedShare, kScale, cm(in, markPx(in)) / 100 / std::max(0.05, rises)});
    return reading(value, pm, at);
}

/// How long the bell stays within a hand's breadth of its highest place. What is thrown and left alone stays for
/// 2 √(2 h / g) = 0.29 s; arms that hold it up make it longer, arms that pull it down shorter.
std::optional<Reading> bellFloat(const MeasureInput& in) {
    constexpr double kHandCm = calibrated("mark.hand");
    const auto top = bellHeight(in);
    if (!top) return std::nullopt;
    const auto& flat = bell(in)->flat;
    auto up = [&](std::size_t i) { return cm(in, flat[top->sample].y() - flat[i].y()) < kHandCm; };
    std::size_t from = top->sample, to = top->sample;
    while (from > 0 && up(from - 1)) --from;
    while (to + 1 < flat.size() && up(to + 1)) ++to;
    // Where it was lost nobody knows how long it stayed.
    if (from == 0 || to + 1 == flat.size() || std::isnan(flat[from - 1].y() + flat[to + 1].y())) return std::nullopt;
    const double frame = 1 / in.track.rate, seconds = in.track.timesS[to] - in.track.timesS[from] + frame;
    // A picture at either end, and the scale: the time goes with the root of the height.
    return reading(seconds, rootSumSquare({frame, 0.5 * kScale * seconds}), top->sample);
}

/// Both tapes of a pair at a sample.
struct Pair {
    const Line *left = nullptr, *right = nullptr;
    Vec2 between(std::size_t at) const { return right->flat[at] - left->flat[at]; }
    bool held(std::size_t at) const { return !std::isnan(between(at).x()); }
};
std::optional<Pair> pairOf(const MeasureInput& in, MarkKind left, MarkKind right) {
    if (!in.marks) return std::nullopt;
    const Pair out{in.marks->of(left), in.marks->of(right)};
    if (!out.left || !out.right || !out.held(in.rep.bottom) || !out.held(in.rep.start)) return std::nullopt;
    // Tapes look alike: one that was lost on the way and taken up again may be another one.
    for (const Line* line : {out.left, out.right})
        if (line->heldShare(in.rep.start, in.rep.bottom) < MarkLines::kLeastHeld) return std::nullopt;
    return out;
}
/// Fall of the line from the client's left tape to their right one, degrees; right side lower +.
double fallOf(const Pair& pair, std::size_t at) {
    const Vec2 d = pair.between(at);
    return std::atan2(-d.y(), std::abs(d.x())) * kDegreesPerRadian;
}

/// Hip line from two tapes, against how it was before the repetition: tapes are not put on to a millimetre.
std::optional<Reading> hipLine(const MeasureInput& in) {
    const auto pair = pairOf(in, MarkKind::HipLeft, MarkKind::HipRight);
    if (!pair) return std::nullopt;
    const double before = pair->between(in.rep.start).norm(), now = pair->between(in.rep.bottom).norm();
    // Nearer to each other by more than a turn of 45° shows them, or further apart: one of them is not what it was.
    if (before < 10 || now < 0.7 * before || now > 1.2 * before) return std::nullopt;
    const double pm = markPx(in) / before * kDegreesPerRadian;
    return reading(fallOf(*pair, in.rep.bottom) - fallOf(*pair, in.rep.start), std::max(1.5, pm), in.rep.bottom);
}

/// Turn of the pelvis about the vertical, from how much nearer to each other the tapes show: small turns cannot be told
/// from none, and to which side is not in it.
std::optional<Reading> hipTurn(const MeasureInput& in) {
    const auto pair = pairOf(in, MarkKind::HipLeft, MarkKind::HipRight);
    if (!pair) return std::nullopt;
    const double before = pair->between(in.rep.start).norm(), now = pair->between(in.rep.bottom).norm();
    if (before < 10) return std::nullopt;
    auto turn = [](double share) { return std::acos(std::clamp(share, 0.0, 1.0)) * kDegreesPerRadian; };
    const double share = now / before, doubt = std::sqrt(2.0) * markPx(in) / before;
    const double value = turn(share);
    return reading(value, std::max(turn(share - doubt) - value, value - turn(share + doubt)), in.rep.bottom);
}

/// How far the knees are apart at the turning point, as a share of before.
std::optional<Reading> kneeGap(const MeasureInput& in) {
    const auto pair = pairOf(in, MarkKind::KneeLeft, MarkKind::KneeRight);
    if (!pair) return std::nullopt;
    const double before = pair->between(in.rep.start).norm(), now = pair->between(in.rep.bottom).norm();
    if (before < 10) return std::nullopt;
    return reading(now / before, rootSumSquare({std::sqrt(2.0) * markPx(in) / before, 0.03}), in.rep.bottom);
}

/// The gap between a marked stick and a tape under it, more than before the repetition.
std::optional<Reading> stickTape(const MeasureInput& in, MarkKind tape) {
    if (!in.marks || in.track.cmPerPixel <= 0) return std::nullopt;
    const Line *top = in.marks->of(MarkKind::StickTop), *low = in.marks->of(MarkKind::StickLow),
               *back = in.marks->of(tape);
    if (!top || !low || !back) return std::nullopt;
    auto gap = [&](std::size_t at) {
        const Vec2 along = top->flat[at] - low->flat[at], to = back->flat[at] - low->flat[at];
        return std::abs(along.x() * to.y() - along.y() * to.x()) / std::max(1.0, along.norm());
    };
    return reading(cm(in, gap(in.rep.bottom) - gap(in.rep.start)), cm(in, std::sqrt(3.0) * markPx(in)), in.rep.bottom);
}
std::optional<Reading> stickTapeHigh(const MeasureInput& in) {
    return stickTape(in, MarkKind::BackHigh);
}
std::optional<Reading> stickTapeLow(const MeasureInput& in) {
    return stickTape(in, MarkKind::BackLow);
}

}  // namespace

std::span<const MeasureDef> markMeasures() {
    using namespace row;
    static const std::vector<PointRead> none;
    static const std::vector<SketchPart> way{{Draw::LoadPath, kWrist}};
    static const std::vector<SketchPart> hips{{Draw::Tapes, {L::LeftHip, Role::Left}, {L::LeftHip, Role::Right}}};
    static const std::vector<SketchPart> knees{{Draw::Tapes, {L::LeftKnee, Role::Left}, {L::LeftKnee, Role::Right}}};
    static const std::vector<SketchPart> stick{{Draw::TapedStick, kNearHip, kEar}};
    static const std::vector<PointRead> foot = near({L::LeftAnkle}), leg = near({L::LeftKnee, L::LeftAnkle});
    auto def = [](const char* id, const char* title, const char* term, Unit unit, unsigned views,
                  const std::vector<PointRead>& reads, const CourseDef& course, const std::vector<SketchPart>& sketch,
                  Scale scale, std::optional<Reading> (*read)(const MeasureInput&), Of of = Of::Body) {
        return MeasureDef{id, title, term, unit, views, of, reads, course, sketch, scale, read};
    };
    auto ofLoad = [&](const char* id, const char* title, const char* term, Unit unit,
                      const std::vector<PointRead>& reads, Scale scale,
                      std::optional<Reading> (*read)(const MeasureInput&)) {
        return def(id, title, term, unit, kSideView, reads, kByDrive, way, scale, read);
    };
    constexpr unsigned kTowards = kFrontal | kFootEndView;
    static const std::vector<MeasureDef> all{
        ofLoad("load_sway", "Load off a straight line", "width of the load's path", Unit::Centimetres, none, {0, 40},
               loadSway),
        ofLoad("load_ahead_foot", "Load ahead of the mid-foot", "marked load ahead of the middle of the foot",
               Unit::Centimetres, foot, {-20, 40}, loadAheadOfFoot),
        ofLoad("load_off_leg", "Load leaves the leg",
               "largest gap of marked load and leg over the smallest, less 3 cm of thigh", Unit::Centimetres, leg,
               {-5, 30}, loadOffLeg),
        ofLoad("load_speed", "Speed of the lift", "mean concentric velocity of the marked load", Unit::MetresPerSecond,
               none, {0, 2}, loadSpeed),
        ofLoad("load_speed_loss", "Slower than the fastest rep", "velocity loss over the set", Unit::Share, none,
               {-0.1, 0.6}, loadSpeedLoss),
        ofLoad("bell_height", "Height of the bell", "bell at its highest, 0 hip … 1 shoulder", Unit::Share, none,
               {-0.5, 1.6}, bellHeight),
        ofLoad("bell_back", "Bell over the knees, behind", "bell over the knee at the back-swing, share of the shank",
               Unit::Share, leg, {-1, 1.5}, bellBack),
        ofLoad("bell_float", "Bell floats on top", "time within 10 cm of its highest place", Unit::Seconds, none,
               {0, 1}, bellFloat),
        ofLoad("bell_lifted", "Arms lift the bell", "rise after the hips are straight ÷ v² / 2g", Unit::Share, none,
               {0, 3}, bellLifted),
        def("hip_line_tape", "Hip line, by tapes", "pelvic obliquity from two tapes, change in the rep", Unit::Degrees,
            kTowards, none, kBySeparation, hips, {-15, 15}, hipLine, Of::BySign),
        def("hip_turn_tape", "Hips turn, by tapes", "pelvic rotation from two tapes, change in the rep", Unit::Degrees,
            kTowards, none, kBySeparation, hips, {0, 60}, hipTurn),
        def("knee_gap_tape", "Knees apart, by tapes", "distance of two tapes against before the rep", Unit::Share,
            kTowards, none, kBySeparation, knees, {0.4, 2}, kneeGap),
        def("stick_tape_high", "Stick and shoulder blades, by tape", "gap of stick and tape, more than before the rep",
            Unit::Centimetres, kSideView, none, kByTrunk, stick, {-5, 10}, stickTapeHigh),
        def("stick_tape_low", "Stick and sacrum, by tape", "gap of stick and tape, more than before the rep",
            Unit::Centimetres, kSideView, none, kByTrunk, stick, {-5, 10}, stickTapeLow)};
    return all;
}

}  // namespace zevo
