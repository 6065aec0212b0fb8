#include <algorithm>
#include <array>
#include <cmath>

#include "core/measures/reading.h"

namespace zevo {
namespace {

using L = Landmark;

/// Doubt about a leg's length at which nothing is left of the confidence, ÷ 1.2.
constexpr double kDoubtSpan = 0.15;

const std::vector<MeasureDef>& registry() {
    static const std::vector<MeasureDef> all = [] {
        std::vector<MeasureDef> list;
        for (const auto& part : {sagittalMeasures(), leanMeasures(), lungeMeasures(), hingeMeasures(), bridgeMeasures(),
                                 frontMeasures(), timeMeasures()})
            list.insert(list.end(), part.begin(), part.end());
        return list;
    }();
    return all;
}

bool named(const Movement& movement, const char* id) {
    const auto& list = movement.measures;
    return list.empty() || std::find(list.begin(), list.end(), id) != list.end();
}

Side sideOf(const MeasureDef& def, const MeasureInput& in) {
    if (def.of == Of::Left) return Side::Left;
    if (def.of == Of::Right) return Side::Right;
    return def.of == Of::WorkingLeg ? in.legSide() : in.track.near;
}

double confidenceOf(const MeasureDef& def, const MeasureInput& in, std::size_t at) {
    const Track& t = in.track;
    if (!t.observed[at]) return 0;
    const Side side = sideOf(def, in);
    double seen = 1, doubt = 0;
    for (L id : def.needs) seen = std::min<double>(seen, t.seen[static_cast<std::size_t>(ofSide(id, side))][at]);
    if (t.view != ViewKind::Side) return std::clamp(seen, 0.0, 1.0);
    // Past about 30° off square a projected sagittal angle is no longer that angle.
    const double square = std::clamp(1.2 - t.offSquareDeg / 50.0, 0.0, 1.0);
    // A leg that shows another length than at rest is hidden or misplaced, whatever the network thinks of it; unless it
    // steps to the side, towards the camera or away from it.
    const bool hipOnly = def.needs.size() == 1 && def.needs.front() == L::LeftHip;
    if (hipOnly || (in.movement.sideways && def.of == Of::Body)) return std::clamp(seen * square, 0.0, 1.0);
    for (L id : def.needs) {
        if (id == L::LeftKnee || id == L::LeftHip)
            doubt = std::max(doubt, lengthDoubt(t, {ofSide(L::LeftHip, side), ofSide(L::LeftKnee, side)}, at));
        if (id == L::LeftKnee || id == L::LeftAnkle)
            doubt = std::max(doubt, lengthDoubt(t, {ofSide(L::LeftKnee, side), ofSide(L::LeftAnkle, side)}, at));
    }
    const double rigid = std::clamp(1.2 - doubt / kDoubtSpan, 0.0, 1.0);
    return std::clamp(seen * square * rigid, 0.0, 1.0);
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
    return registry();
}

const MeasureDef* findMeasure(const std::string& id) {
    for (const auto& m : registry())
        if (id == m.id) return &m;
    return nullptr;
}

std::vector<Measurement> measureRep(const MeasureInput& in) {
    std::vector<Measurement> out;
    for (const auto& def : registry()) {
        if (!(def.views & viewBit(in.track.view)) || !named(in.movement, def.id)) continue;
        const auto read = def.read(in);
        if (!read) continue;
        const std::size_t at = std::min(read->sample, in.track.size() - 1);
        out.push_back({def.id, read->value, read->pm90, def.unit, confidenceOf(def, in, at), in.track.timesS[at]});
    }
    return out;
}

}  // namespace zevo
