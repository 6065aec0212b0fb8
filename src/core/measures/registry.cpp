#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>

#include "core/body/anthropometry.h"
#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// Doubt about a leg's length at which nothing is left of the confidence, ÷ 1.2.
constexpr double kDoubtSpan = 0.15;

const std::vector<MeasureDef>& table() {
    static const std::vector<MeasureDef> all = [] {
        std::vector<MeasureDef> list;
        for (const auto& part : {sagittalMeasures(), footMeasures(), leanMeasures(), lungeMeasures(), hingeMeasures(),
                                 backMeasures(), markMeasures(), bridgeMeasures(), frontMeasures(), timeMeasures()})
            list.insert(list.end(), part.begin(), part.end());
        return list;
    }();
    return all;
}

bool named(const Movement& movement, const char* id) {
    const auto& list = movement.measures;
    return list.empty() || std::find(list.begin(), list.end(), id) != list.end();
}

/// The sides whose points are read: one, or both.
std::vector<Side> sidesOf(Role role, const MeasureInput& in) {
    if (role == Role::Both) return {Side::Left, Side::Right};
    return {sideOfRole(role, in.track.near, in.legSide())};
}

/// How much the leg's rigid parts that a point belongs to show another length than at rest.
double doubtAbout(const Track& t, L point, Side side, std::size_t at) {
    double doubt = 0;
    if (point == L::LeftKnee || point == L::LeftHip)
        doubt = std::max(doubt, segmentLengthDeviation(t, {ofSide(L::LeftHip, side), ofSide(L::LeftKnee, side)}, at));
    if (point == L::LeftKnee || point == L::LeftAnkle)
        doubt = std::max(doubt, segmentLengthDeviation(t, {ofSide(L::LeftKnee, side), ofSide(L::LeftAnkle, side)}, at));
    return doubt;
}

/// From the points the measure really reads: were they seen, is the camera square, do the legs keep their lengths.
double confidenceOf(const MeasureDef& def, const MeasureInput& in, std::size_t at) {
    const Track& t = in.track;
    if (!t.observed[at]) return 0;
    double seen = 1, doubt = 0;
    const bool hipOnly =
        std::all_of(def.reads.begin(), def.reads.end(), [](const PointRead& r) { return r.landmark == L::LeftHip; });
    for (const PointRead& r : def.reads)
        for (Side side : sidesOf(r.role, in)) {
            const L point = pointOf(r.landmark, side);
            if (!t.isManual(point, at)) seen = std::min<double>(seen, t.seen[static_cast<std::size_t>(point)][at]);
            // A leg that steps to the side, towards the camera or away from it, shows short and is none the worse.
            const bool turnsAway = in.movement.sideways && (def.of == Of::Body || r.role == Role::Other);
            if (t.view == ViewKind::Side && !hipOnly && !turnsAway)
                doubt = std::max(doubt, doubtAbout(t, r.landmark, side, at));
        }
    if (t.view != ViewKind::Side) return std::clamp(seen, 0.0, 1.0);
    // Past about 30° off square a projected sagittal angle is no longer that angle.
    const double square = std::clamp(1.2 - t.offSquareDeg() / 50.0, 0.0, 1.0);
    // A leg that shows another length than at rest is hidden or misplaced, whatever the network thinks of it.
    const double rigid = std::clamp(1.2 - doubt / kDoubtSpan, 0.0, 1.0);
    return std::clamp(seen * square * rigid, 0.0, 1.0);
}

/// The doubt about the moment a measure was read at.
const Track::Doubt* doubtAt(const MeasureInput& in, std::size_t at) {
    constexpr double kAboutS = 0.3;
    for (const auto& d : in.track.doubts)
        if (std::abs(d.timeS - in.track.timesS[at]) <= kAboutS) return &d;
    return nullptr;
}

/// Every point it reads was placed by the coach.
bool isManual(const MeasureDef& def, const MeasureInput& in, std::size_t at) {
    for (const PointRead& r : def.reads)
        for (Side side : sidesOf(r.role, in))
            if (!in.track.isManual(pointOf(r.landmark, side), at)) return false;
    return !def.reads.empty();
}

/// Below every standard's limit: shown, and not judged.
constexpr double kUnsureConfidence = 0.4;

/// Whether what it reads lies where the second look has it, in a view from the front (second_estimates.h): that look
/// tells the legs by itself.
bool isToldBySecondLook(const MeasureDef& def, const MeasureInput& in, std::size_t at) {
    const Track& t = in.track;
    if (t.view != ViewKind::Front || !t.asFollowed || def.reads.empty()) return false;
    for (const PointRead& r : def.reads)
        if (r.landmark != L::LeftKnee && r.landmark != L::LeftAnkle) return false;
    for (L ankle : {L::LeftAnkle, L::RightAnkle})
        if (t.at(ankle, at) == t.asFollowed->at(ankle, at)) return false;
    return true;
}

/// Whether it rests on an ankle that something hides: floor and eyes make the client far smaller than their trunk does,
/// so the feet are not where the network has them (track/body_size.h), however sure it is.
bool restsOnHiddenFeet(const MeasureDef& def, const MeasureInput& in, std::size_t at) {
    const Track& t = in.track;
    if (t.view != ViewKind::Side || t.sizeContradictedBy >= 0) return false;
    return std::any_of(def.reads.begin(), def.reads.end(), [&](const PointRead& r) {
        if (r.landmark != L::LeftAnkle) return false;
        for (Side side : sidesOf(r.role, in))
            if (!t.isManual(pointOf(r.landmark, side), at)) return true;
        return false;
    });
}

/// The points are another leg's, or none's, however sure the network is of them.
bool isNoKnee(const MeasureDef& def, double value) {
    return value < kNoKneeDeg && std::string_view(def.id).ends_with("knee_flexion");
}

bool isTime(const Measurement& m) {
    return m.measure->unit == Unit::Seconds || m.measure->unit == Unit::Milliseconds;
}

/// What two networks see differently is not known to better than they differ, and never said surely.
void widenForDisagreement(const Track::Doubt& doubt, Measurement& m) {
    if (isTime(m) || m.measure->reads.empty()) return;  // when, not where; or not read off the networks' points
    // A shoe is read in the picture, not from the networks' points.
    if (!m.measure->sketch.empty() && m.measure->sketch.front().draw == Draw::Rise) return;
    constexpr double kOtherUnits = 2;
    m.confidence = std::min(m.confidence, kUnsureConfidence);
    m.pm90 = m.measure->unit == Unit::Degrees ? std::max(m.pm90, doubt.degrees) : kOtherUnits * m.pm90;
}

}  // namespace

std::string unitName(Unit unit) {
    static constexpr std::array<const char*, 7> names{"deg", "cm", "s", "ms", "share", "m/s2", "m/s"};
    return names[static_cast<std::size_t>(unit)];
}

unsigned viewBit(ViewKind view) {
    switch (view) {
        case ViewKind::Front: return kFrontView;
        case ViewKind::Rear: return kRearView;
        case ViewKind::Oblique: return kObliqueView;
        case ViewKind::FootEnd: return kFootEndView;
        case ViewKind::Side: break;
    }
    return kSideView;
}

std::span<const MeasureDef> allMeasures() {
    return table();
}

MeasureId MeasureId::named(std::string_view name) {
    for (const auto& m : table())
        if (name == m.id) return MeasureId(&m);
    return {};
}

MeasureId ofOtherLeg(MeasureId measure) {
    if (!measure || (measure->of != Of::Left && measure->of != Of::Right)) return {};
    const Of other = measure->of == Of::Left ? Of::Right : Of::Left;
    for (const auto& m : table())
        if (m.of == other && std::string_view(m.term) == measure->term) return MeasureId(&m);
    return {};
}

std::string MeasureId::name() const {
    return m_row ? m_row->id : "";
}

std::size_t MeasureInput::samples(double seconds) const {
    return static_cast<std::size_t>(std::max(0.0, std::ceil(seconds * track.rate - 1e-6)));
}

Side sideOfRole(Role role, Side near, Side leg) {
    switch (role) {
        case Role::Working: return leg;
        case Role::Other: return otherSide(leg);
        case Role::Left: return Side::Left;
        case Role::Right: return Side::Right;
        case Role::Near:
        case Role::Both: break;
    }
    return near;
}

Landmark pointOf(Landmark left, Side side) {
    return left == L::Nose ? L::Nose : ofSide(left, side);
}

CurveOf curveOf(MeasureId measure, const ViewSeries& view, Side leg) {
    // What is read in every view stands on the knees: their bend from the side, their distance from the front.
    const bool sagittal = (measure->views & kSideView) != 0;
    if (sagittal && view.front && measure->course.fromFront)
        if (auto values = measure->course.fromFront(view); !values.empty()) return {measure, std::move(values)};
    if (sagittal && view.front)
        return {MeasureId::named(row::kBySeparation.measure), row::kBySeparation.values(view, leg)};
    if (!sagittal && !view.front) return {MeasureId::named(row::kByKnee.measure), row::kByKnee.values(view, leg)};
    const CourseDef& course = measure->course;
    return {course.measure ? MeasureId::named(course.measure) : measure, course.values(view, leg)};
}

namespace {

/// Whether the leg whose bend is timed was lost on the way: a thigh or shank that shows a third longer or shorter than
/// at rest, as no turn of it explains. When a movement begins and ends is then a guess.
bool legWasLost(const MeasureInput& in) {
    constexpr double kLost = 0.35;
    if (in.track.view != ViewKind::Side || in.track.drive != Drive::Sinking) return false;
    const L hip = in.track.nearOf(L::LeftHip), knee = in.track.nearOf(L::LeftKnee),
            ankle = in.track.nearOf(L::LeftAnkle);
    for (std::size_t i = in.rep.start; i <= in.rep.end; ++i)
        if (segmentLengthDeviation(in.track, {hip, knee}, i) > kLost ||
            segmentLengthDeviation(in.track, {knee, ankle}, i) > kLost)
            return true;
    return false;
}

}  // namespace

std::vector<Measurement> measureRep(const MeasureInput& in) {
    std::vector<Measurement> out;
    // Where left and right had to be told apart anew, points were between the two answers: none is where it belongs.
    const bool lost = legWasLost(in), mended = in.track.sideSwapFixedWithin(in.rep.start, in.rep.end);
    for (const auto& def : table()) {
        if (!(def.views & viewBit(in.track.view)) || !named(in.movement, def.id)) continue;
        const auto read = def.read(in);
        if (!read || !std::isfinite(read->value) || !std::isfinite(read->pm90)) continue;
        const std::size_t at = std::min(read->sample, in.track.size() - 1);
        Measurement m{MeasureId(&def), read->value, read->pm90, confidenceOf(def, in, at), in.track.timesS[at]};
        if (const Track::Doubt* doubt = doubtAt(in, at); doubt && !isManual(def, in, at))
            widenForDisagreement(*doubt, m);
        const bool ofSpeed = def.unit == Unit::MetresPerSecond || def.unit == Unit::MetresPerSecond2;
        if (in.track.sizeContradictedBy != 0 && !in.track.scaleCalibrated && (def.unit == Unit::Centimetres || ofSpeed))
            m.pm90 = std::hypot(m.pm90, calibrated("doubt.size.share") * m.value);
        if (mended && !isTime(m) && !isToldBySecondLook(def, in, at))
            m.confidence = std::min(m.confidence, kUnsureConfidence);
        if (isNoKnee(def, m.value) && !isManual(def, in, at)) m.confidence = std::min(m.confidence, kUnsureConfidence);
        if (!isTime(m) && restsOnHiddenFeet(def, in, at)) m.confidence = std::min(m.confidence, kUnsureConfidence);
        if (lost && (isTime(m) || ofSpeed)) m.confidence = std::min(m.confidence, kUnsureConfidence);
        out.push_back(m);
    }
    return out;
}

}  // namespace zevo
