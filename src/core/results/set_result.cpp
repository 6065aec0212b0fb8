#include "core/results/set_result.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace zevo {
namespace {

using nlohmann::json;

/// Four decimals are far below any error here and keep the file small.
json rounded(double v) {
    if (!std::isfinite(v)) return nullptr;
    return std::round(v * 1e4) / 1e4;
}

json rounded(const std::vector<double>& values) {
    json out = json::array();
    for (double v : values) out.push_back(rounded(v));
    return out;
}

}  // namespace

Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context) {
    Context seen = context.context;
    seen.family = familyOf(context.movement);
    auto track = buildTrack(frames, clip.width, clip.height, seen);
    if (!track) return track.error();
    if (track->view != ViewKind::Side)
        return Error{"This looks like a " + viewName(track->view) +
                         " view. Squat depth, trunk and heels are judged from the side: put the camera square to the "
                         "client's side, at hip height.",
                     "off square by " + std::to_string(static_cast<int>(track->offSquareDeg)) + " degrees"};
    MeasuredSet set;
    set.track = std::move(*track);
    SetResult& r = set.result;
    r.clip = clip;
    r.context = context;
    r.view = set.track.view;
    r.near = set.track.near;
    r.offSquareDeg = set.track.offSquareDeg;
    r.trackedShare = set.track.trackedShare;
    r.timesS = set.track.timesS;
    r.series = computeSeries(set.track);

    const double level = levelDoubt(set.track, r.series);
    const auto reps = findReps(set.track, r.series);
    if (reps.empty())
        return Error{
            "Not one whole repetition was found. Film from standing to standing, with the whole body in the picture.",
            ""};
    for (std::size_t i = 0; i < reps.size(); ++i) {
        const Rep& rep = reps[i];
        auto time = [&](std::size_t s) { return set.track.timesS[s]; };
        r.reps.push_back({rep.index, rep.kind, time(rep.start), time(rep.arrive), time(rep.bottom), time(rep.leave),
                          time(rep.end),
                          measureRep({set.track, r.series, rep, i + 1 < reps.size() ? &reps[i + 1] : nullptr, level})});
    }

    if (set.track.cmPerPixel <= 0)
        r.warnings.emplace_back("The client's stature is not known: lengths in centimetres were left out.");
    if (r.trackedShare < 0.95)
        r.warnings.push_back("The client was lost in " +
                             std::to_string(static_cast<int>(std::lround(100 * (1 - r.trackedShare)))) +
                             " % of the frames; values there are less sure.");
    if (level > 0)
        r.warnings.emplace_back(
            "The client seems to stand off balance: the camera may not be level, or a foot may be hidden. Leans of "
            "trunk, "
            "shin and thigh are less sure.");
    if (r.offSquareDeg > 15)
        r.warnings.push_back("The camera stands about " +
                             std::to_string(static_cast<int>(std::lround(r.offSquareDeg))) +
                             "° off a square side view; angles are less sure.");
    return set;
}

void judgeSet(SetResult& result, const Standard& standard) {
    result.standard = standard.id;
    std::vector<MeasuredRep> counted;
    for (const auto& rep : result.reps)
        if (std::find(result.leftOut.begin(), result.leftOut.end(), rep.index) == result.leftOut.end())
            counted.push_back(rep);
    result.findings = findFaults(counted, standard);
}

std::string toJson(const SetResult& r) {
    json out;
    out["schema"] = "zevo-result-1";
    out["clip"] = {{"frames", r.clip.frames},
                   {"duration_s", rounded(r.clip.durationS)},
                   {"width", r.clip.width},
                   {"height", r.clip.height},
                   {"rotation_deg", r.clip.rotationDeg}};
    out["movement"] = r.context.movement;
    out["standard"] = r.standard;
    out["model"] = r.context.model;
    out["stature_cm"] = r.context.context.statureCm;
    out["view"] = {
        {"kind", viewName(r.view)}, {"near_side", sideName(r.near)}, {"off_square_deg", rounded(r.offSquareDeg)}};
    out["tracked_share"] = rounded(r.trackedShare);
    out["reps"] = json::array();
    for (const auto& rep : r.reps) {
        json measures = json::object();
        for (const auto& m : rep.measures)
            measures[m.id] = {{"value", rounded(m.value)},
                              {"pm90", rounded(m.pm90)},
                              {"unit", unitName(m.unit)},
                              {"confidence", rounded(m.confidence)},
                              {"at_s", rounded(m.atS)}};
        out["reps"].push_back({{"index", rep.index},
                               {"kind", repKindName(rep.kind)},
                               {"start_s", rounded(rep.startS)},
                               {"bottom_s", rounded(rep.bottomS)},
                               {"end_s", rounded(rep.endS)},
                               {"measures", measures}});
    }
    if (!r.leftOut.empty()) out["left_out"] = r.leftOut;
    out["findings"] = json::array();
    for (const auto& f : r.findings)
        out["findings"].push_back({{"fault", f.fault},
                                   {"severity", severityName(f.severity)},
                                   {"reps", f.reps},
                                   {"measure", f.measure},
                                   {"at_s", rounded(f.atS)},
                                   {"value", rounded(f.value)},
                                   {"pm90", rounded(f.pm90)},
                                   {"edge", rounded(f.edge)}});
    out["series"] = {{"t_s", rounded(r.timesS)},
                     {"knee_flexion", rounded(r.series.kneeFlexion)},
                     {"hip_flexion", rounded(r.series.hipFlexion)},
                     {"trunk_lean", rounded(r.series.trunkLean)},
                     {"shin_angle", rounded(r.series.shinAngle)},
                     {"thigh_angle", rounded(r.series.thighAngle)}};
    out["warnings"] = r.warnings;
    return out.dump(1);
}

}  // namespace zevo
