#include "core/results/result_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/advice/reasoning.h"

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

json clipJson(const ClipFacts& clip) {
    return {{"frames", clip.frames},
            {"duration_s", rounded(clip.durationS)},
            {"width", clip.width},
            {"height", clip.height},
            {"rotation_deg", clip.rotationDeg}};
}

json repJson(const MeasuredRep& rep, const SetResult& r) {
    json measures = json::object();
    for (const auto& m : rep.measures) {
        measures[m.id] = {{"value", rounded(m.value)},
                          {"pm90", rounded(m.pm90)},
                          {"unit", unitName(m.unit)},
                          {"confidence", rounded(m.confidence)},
                          {"at_s", rounded(m.atS)}};
        if (r.second) measures[m.id]["view"] = viewName(m.second ? r.second->view : r.view);
    }
    json out{{"index", rep.index},
             {"kind", repKindName(rep.kind)},
             {"start_s", rounded(rep.startS)},
             {"bottom_s", rounded(rep.bottomS)},
             {"end_s", rounded(rep.endS)},
             {"measures", measures}};
    if (rep.leg) out["leg"] = sideName(*rep.leg);
    return out;
}

json adviceJson(const Counsel& c) {
    json say = json::array(), prepare = json::array();
    for (const auto& cue : c.advice.say) say.push_back({{"kind", cue.kind}, {"text", cue.text}});
    for (const auto& d : c.advice.prepare) prepare.push_back({{"stage", d.stage}, {"text", d.text}, {"dose", d.dose}});
    json out{{"title", c.advice.title},
             {"say", say},
             {"change", c.advice.change},
             {"prepare", prepare},
             {"progress", c.advice.progress}};
    if (!c.limiter.empty()) out["limiter"] = {{"id", c.limiter}, {"trace", c.trace}};
    return out;
}

json findingJson(const Finding& f, const SetResult& r, const AdviceBook* book) {
    json out{{"fault", f.fault},        {"severity", severityName(f.severity)},
             {"reps", f.reps},          {"measure", f.measure},
             {"at_s", rounded(f.atS)},  {"value", rounded(f.value)},
             {"pm90", rounded(f.pm90)}, {"edge", rounded(f.edge)}};
    if (f.side) out["side"] = sideName(*f.side);
    if (r.second) out["view"] = viewName(f.second ? r.second->view : r.view);
    if (!book || !book->count(f.fault)) return out;
    // What could not be settled gets no cue: what to film instead.
    if (f.severity == Severity::Unsure)
        out["advice"] = {{"title", book->at(f.fault).title}, {"unsure", book->at(f.fault).unsure}};
    else
        out["advice"] = adviceJson(counselFor(f, r, *book));
    return out;
}

json secondJson(const SecondView& s) {
    json out{{"clip", clipJson(s.clip)},
             {"view", viewName(s.view)},
             {"tracked_share", rounded(s.trackedShare)},
             {"together", s.together}};
    if (s.together) {
        out["lag_s"] = rounded(s.lagS());
        out["lag_found_s"] = rounded(s.alignment.lagS);
        out["agreement"] = rounded(s.alignment.agreement);
    }
    return out;
}

}  // namespace

std::string toJson(const SetResult& r, const AdviceBook* book) {
    json out;
    out["schema"] = "zevo-result-1";
    out["clip"] = clipJson(r.clip);
    out["movement"] = r.context.movement.id;
    if (!r.context.variation.empty()) out["variation"] = r.context.variation;
    if (r.context.tempo) out["tempo"] = tempoText(*r.context.tempo);
    if (!r.looksLike.empty()) out["looks_like"] = r.looksLike;
    out["standard"] = r.standard;
    out["model"] = r.context.model;
    out["stature_cm"] = r.context.context.statureCm;
    out["view"] = {
        {"kind", viewName(r.view)}, {"near_side", sideName(r.near)}, {"off_square_deg", rounded(r.offSquareDeg)}};
    out["tracked_share"] = rounded(r.trackedShare);
    if (r.second) out["second"] = secondJson(*r.second);
    out["reps"] = json::array();
    for (const auto& rep : r.reps) out["reps"].push_back(repJson(rep, r));
    if (r.second && !r.second->together)
        for (const auto& rep : r.second->reps) out["second"]["reps"].push_back(repJson(rep, r));
    if (!r.leftOut.empty()) out["left_out"] = r.leftOut;
    if (!r.stop.title.empty())
        out["stop"] = {{"title", r.stop.title},
                       {"text", r.stop.text},
                       {"scored", r.stop.level != StopAnswer::Level::Stop},
                       {"refer", r.stop.refer}};
    out["findings"] = json::array();
    for (const auto& f : r.findings) out["findings"].push_back(findingJson(f, r, book));
    out["drifts"] = json::array();
    for (const auto& d : r.drifts)
        out["drifts"].push_back({{"measure", d.measure},
                                 {"first_third", rounded(d.trend.first)},
                                 {"last_third", rounded(d.trend.last)},
                                 {"change", rounded(d.trend.change)},
                                 {"p", rounded(d.trend.p)},
                                 {"more_than_noise", d.moreThanNoise}});
    out["legs"] = json::array();
    for (const auto& l : r.legs) {
        json o{{"measure", l.measure},
               {"unit", unitName(l.unit)},
               {"left", rounded(l.comparison.left)},
               {"right", rounded(l.comparison.right)},
               {"difference", rounded(l.comparison.difference)},
               {"difference_pm90", rounded(l.comparison.differencePm)},
               {"more_than_noise", l.comparison.moreThanNoise}};
        if (l.comparison.index > 0)
            o["symmetry_index"] = {{"value", rounded(l.comparison.index)}, {"pm90", rounded(l.comparison.indexPm)}};
        out["legs"].push_back(o);
    }
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
