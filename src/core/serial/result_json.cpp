#include "core/serial/result_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/serial/camera_hold_json.h"

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
    json out{{"frames", clip.frames},
             {"duration_s", rounded(clip.durationS)},
             {"width", clip.width},
             {"height", clip.height},
             {"rotation_deg", clip.rotationDeg}};
    if (clip.hold) {
        out["camera"] = holdJson(clip.hold);
        for (auto& value : out["camera"]) value = rounded(value.get<double>());
    }
    return out;
}

json repJson(const MeasuredRep& rep, const SetResult& r) {
    json measures = json::object();
    for (const auto& m : rep.measures) {
        measures[m.measure.name()] = {{"value", rounded(m.value)},
                                      {"pm90", rounded(m.pm90)},
                                      {"unit", unitName(m.measure->unit)},
                                      {"confidence", rounded(m.confidence)},
                                      {"at_s", rounded(m.atS)}};
        if (r.second) measures[m.measure.name()]["view"] = viewName(m.second ? r.second->view : r.view);
    }
    json out{{"index", rep.index},
             {"kind", repKindName(rep.kind)},
             {"start_s", rounded(rep.startS)},
             {"arrive_s", rounded(rep.arriveS)},
             {"bottom_s", rounded(rep.bottomS)},
             {"leave_s", rounded(rep.leaveS)},
             {"end_s", rounded(rep.endS)},
             {"measures", measures}};
    if (rep.leg) out["leg"] = sideName(*rep.leg);
    if (const auto limit = depthLimit(rep); limit != DepthLimit::None) out["depth_limit"] = depthLimitName(limit);
    return out;
}

json adviceJson(const Counsel& c, const FaultWords& fault, const ResultWords& words) {
    json say = json::array(), change = json::array(), prepare = json::array();
    for (const Change& line : c.advice.change) change.push_back(line.text);
    for (const auto& cue : c.advice.say) say.push_back({{"kind", cue.kind}, {"text", cue.text}});
    for (const auto& d : c.advice.prepare) prepare.push_back({{"stage", d.stage}, {"text", d.text}, {"dose", d.dose}});
    json out{{"title", fault.title},
             {"say", say},
             {"change", change},
             {"prepare", prepare},
             {"progress", c.advice.progress}};
    if (!c.limiter.empty()) out["limiter"] = {{"id", c.limiter}, {"trace", words.trace(c)}};
    return out;
}

json findingJson(const Finding& f, const SetResult& r, const AdviceBook* book, const ResultWords& words) {
    json out{{"fault", f.fault},        {"severity", severityName(f.severity)},
             {"reps", f.reps},          {"measure", f.measure.name()},
             {"at_s", rounded(f.atS)},  {"value", rounded(f.value)},
             {"pm90", rounded(f.pm90)}, {"edge", rounded(f.edge)}};
    if (f.side) out["side"] = sideName(*f.side);
    if (r.second) out["view"] = viewName(f.second ? r.second->view : r.view);
    const FaultWords* fault = book ? book->fault(f.fault) : nullptr;
    if (!fault) return out;
    // What could not be settled gets no cue: what to film instead.
    if (f.severity == Severity::Unsure)
        out["advice"] = {{"title", fault->title}, {"unsure", fault->unsure}};
    else
        out["advice"] = adviceJson(counselFor(f, r, *book), *fault, words);
    return out;
}

json secondJson(const SecondView& s) {
    json out{{"clip", clipJson(s.clip)},
             {"view", viewName(s.view)},
             {"tracked_share", rounded(s.trackedShare)},
             {"together", s.sameTake}};
    if (s.sameTake) {
        out["lag_s"] = rounded(s.lagS());
        out["lag_found_s"] = rounded(s.alignment.lagS);
        out["agreement"] = rounded(s.alignment.agreement);
    }
    return out;
}

}  // namespace

std::string toJson(const MeasuredSet& set, const ResultWords& words, const AdviceBook* book) {
    const SetResult& r = set.result;
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
    if (r.second && !r.second->sameTake)
        for (const auto& rep : r.second->reps) out["second"]["reps"].push_back(repJson(rep, r));
    std::vector<int> leftOut;
    for (const auto& rep : r.reps)
        if (r.isLeftOut(rep)) leftOut.push_back(rep.index);
    if (!leftOut.empty()) out["left_out"] = leftOut;
    if (r.stop.level != StopAnswer::Level::GoOn)
        out["stop"] = {{"title", words.stop(r.stop).first},
                       {"text", words.stop(r.stop).second},
                       {"scored", r.stop.scored()},
                       {"refer", r.stop.refer}};
    out["choices"] = r.choices;
    for (const Ask& ask : r.context.asks) out["asks"].push_back(writeAsk(ask));
    out["clean"] = r.clean();
    out["not_judged"] = json::array();
    for (const NotJudged& n : r.notJudged) {
        static constexpr std::array kWhy{"view", "not_read", "unsettled"};
        out["not_judged"].push_back({{"measure", n.measure.name()},
                                     {"why", kWhy[static_cast<std::size_t>(n.why)]},
                                     {"judged", n.judged},
                                     {"of", n.of}});
    }
    out["findings"] = json::array();
    for (const auto& f : r.findings) out["findings"].push_back(findingJson(f, r, book, words));
    out["drifts"] = json::array();
    for (const auto& d : r.drifts)
        out["drifts"].push_back({{"measure", d.measure.name()},
                                 {"first_third", rounded(d.trend.first)},
                                 {"last_third", rounded(d.trend.last)},
                                 {"change", rounded(d.trend.change)},
                                 {"p", rounded(d.trend.p)},
                                 {"more_than_noise", d.moreThanNoise}});
    out["legs"] = json::array();
    for (const auto& l : r.legs) {
        std::string name = l.measure.name();
        if (l.measure->of == Of::Left) name.erase(name.rfind("_left"));
        json o{{"measure", name},
               {"unit", unitName(l.measure->unit)},
               {"left", rounded(l.comparison.left)},
               {"right", rounded(l.comparison.right)},
               {"difference", rounded(l.comparison.difference)},
               {"difference_pm90", rounded(l.comparison.differencePm)},
               {"more_than_noise", l.comparison.moreThanNoise}};
        if (l.comparison.index > 0)
            o["symmetry_index"] = {{"value", rounded(l.comparison.index)}, {"pm90", rounded(l.comparison.indexPm)}};
        out["legs"].push_back(o);
    }
    const Series& series = set.series();
    out["series"] = {{"t_s", rounded(set.track().timesS)},        {"knee_flexion", rounded(series.kneeFlexion)},
                     {"hip_flexion", rounded(series.hipFlexion)}, {"trunk_lean", rounded(series.trunkLean)},
                     {"shin_angle", rounded(series.shinAngle)},   {"thigh_angle", rounded(series.thighAngle)}};
    out["warnings"] = json::array();
    for (const Notice& n : r.notices) out["warnings"].push_back(words.notice(n));
    return out.dump(1);
}

}  // namespace zevo
