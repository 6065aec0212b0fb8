#include "core/serial/edit_json.h"

#include <array>
#include <cmath>
#include <limits>
#include <nlohmann/json.hpp>

namespace zevo {
namespace {

using nlohmann::json;

/// In the order of EditKind. Names stay: records hold them.
constexpr std::array kKinds{
    "facts",          "standard", "left_out",   "second_added", "second_removed", "second_nudged",  "second_apart",
    "landmark_moved", "trimmed",  "rep_bounds", "person",       "cue_given",      "cue_taken_back", "leg",
    "standing",       "length",   "note",       "mark"};
static_assert(kKinds.size() == std::variant_size_v<Edit>);

json optional(const auto& v) {
    return v ? json(*v) : json();
}
template <typename T>
std::optional<T> optionalAt(const json& o, const char* key) {
    const auto found = o.find(key);
    return found == o.end() || found->is_null() ? std::nullopt : std::optional<T>(found->get<T>());
}

json spanJson(const Span& s) {
    return {{"from_s", s.fromS}, {"to_s", s.toS}};
}
Span spanFrom(const json& o) {
    return {o.at("from_s").get<double>(), o.at("to_s").get<double>()};
}

/// In the order of Shirt.
constexpr std::array kShirts{"", "loose", "tight"};
/// In the order of SetKind.
constexpr std::array kSetKinds{"working", "warm_up", "test"};

json logJson(const SetLog& l) {
    return {{"kind", kSetKinds[static_cast<std::size_t>(l.kind)]},
            {"held", l.load.held},
            {"each_kg", l.load.eachKg},
            {"bar_kg", l.load.barKg},
            {"box_cm", l.boxCm},
            {"belt", l.belt},
            {"pole", l.pole},
            {"shoes", l.shoes},
            {"effort", optional(l.effort)},
            {"note", l.note}};
}
SetLog logFrom(const json& o) {
    SetLog l;
    const auto kind = std::find(kSetKinds.begin(), kSetKinds.end(), o.value("kind", "working"));
    if (kind != kSetKinds.end()) l.kind = static_cast<SetKind>(kind - kSetKinds.begin());
    l.load = {o.value("held", ""), o.value("each_kg", 0.0), o.value("bar_kg", 0.0)};
    l.boxCm = o.value("box_cm", 0.0);
    l.belt = o.value("belt", false), l.pole = o.value("pole", false);
    l.shoes = o.value("shoes", "");
    l.effort = optionalAt<int>(o, "effort");
    l.note = o.value("note", "");
    return l;
}

json payload(const FactsSet& e) {
    const SetFacts& f = e.facts;
    return {{"movement", f.movement},
            {"variation", f.variation},
            {"view", f.view},
            {"stature_cm", f.statureCm},
            {"load_share", f.loadShare},
            {"wedge_deg", f.wedgeDeg},
            {"ankle_limit_deg", optional(f.ankleLimitDeg)},
            {"stood_straight", f.stoodStraight},
            {"tempo", f.tempo ? json(tempoText(*f.tempo)) : json()},
            {"pain_before", optional(f.pain.before)},
            {"pain_after", optional(f.pain.after)},
            {"pain_sharp", f.pain.sharp},
            {"pain_place", f.pain.place},
            {"red_flags", f.pain.redFlags},
            {"cleared_flags", f.pain.cleared},
            {"choices", f.choices},
            {"felt", f.felt},
            {"mass_kg", f.massKg},
            {"shirt", kShirts[static_cast<std::size_t>(f.shirt)]},
            {"log", logJson(f.log)}};
}
json payload(const StandardChosen& e) {
    return {{"id", e.id}};
}
json payload(const SpanLeftOut& e) {
    json o = spanJson(e.span);
    o["out"] = e.out;
    return o;
}
json payload(const SecondAdded& e) {
    return {{"observation", e.observation}, {"together", e.together}};
}
json payload(const SecondRemoved&) {
    return json::object();
}
json payload(const SecondNudged& e) {
    return {{"nudge_s", e.nudgeS}};
}
json payload(const SecondApart& e) {
    return {{"together", e.together}};
}
json payload(const LandmarkMoved& e) {
    return {{"second", e.second}, {"at_s", e.point.atS}, {"landmark", static_cast<int>(e.point.landmark)},
            {"x", e.point.x},     {"y", e.point.y},      {"reach_s", e.point.reachS}};
}
json payload(const Trimmed& e) {
    json o = spanJson(e.span);
    o["second"] = e.second;
    return o;
}
json payload(const RepetitionSet& e) {
    json o = spanJson(e.reps.within);
    o["second"] = e.second;
    o["reps"] = json::array();
    for (const Span& r : e.reps.reps) o["reps"].push_back(spanJson(r));
    return o;
}
json payload(const LegNamed& e) {
    return {{"second", e.second}, {"at_s", e.leg.atS}, {"leg", sideName(e.leg.leg)}};
}
json payload(const StandingSet& e) {
    return {{"second", e.second}, {"at_s", e.atS}};
}
json payload(const LengthTold& e) {
    const ToldLength& l = e.length;
    return {{"second", e.second}, {"x1", l.x1}, {"y1", l.y1}, {"x2", l.x2}, {"y2", l.y2}, {"cm", l.cm}};
}
json payload(const NotePinned& e) {
    return {{"second", e.second}, {"at_s", e.atS}, {"text", e.text}};
}
json payload(const PersonChosen& e) {
    return {{"second", e.second}, {"at_s", e.atS}, {"x", e.x}, {"y", e.y}, {"observation", e.observation}};
}
/// Places to a hundredth of a pixel, times to a tenth of a millisecond: a path is long.
json payload(const PointMarked& e) {
    auto to = [](double v, double step) { return std::round(v / step) * step; };
    json o{{"second", e.second}, {"point", markName(e.mark.kind)}, {"nearer_cm", e.mark.nearerCm}};
    o["clicks"] = json::array();
    for (const MarkClick& c : e.mark.clicks) o["clicks"].push_back({c.atS, c.x, c.y});
    if (!e.mark.path) return o;
    json times = json::array(), xs = json::array(), ys = json::array();
    for (const MarkStep& s : *e.mark.path) {
        times.push_back(to(s.timeS, 1e-4));
        xs.push_back(s.held() ? json(to(s.x, 0.01)) : json());
        ys.push_back(s.held() ? json(to(s.y, 0.01)) : json());
    }
    o["path"] = {{"t_s", times}, {"x", xs}, {"y", ys}};
    return o;
}

json payload(const CueGiven& e) {
    return {{"fault", e.fault}, {"wording", e.wording}};
}
json payload(const CueTakenBack&) {
    return json::object();
}

SetFacts factsFrom(const json& o) {
    SetFacts f;
    f.movement = o.at("movement").get<std::string>();
    f.variation = o.value("variation", "");
    f.view = o.value("view", "auto");
    f.statureCm = o.value("stature_cm", 0.0);
    f.loadShare = o.value("load_share", 0.0);
    f.wedgeDeg = o.value("wedge_deg", 0.0);
    f.ankleLimitDeg = optionalAt<double>(o, "ankle_limit_deg");
    f.stoodStraight = o.value("stood_straight", false);
    if (const auto text = optionalAt<std::string>(o, "tempo"))
        if (const auto tempo = parseTempo(*text)) f.tempo = *tempo;
    f.pain.before = optionalAt<int>(o, "pain_before");
    f.pain.after = optionalAt<int>(o, "pain_after");
    f.pain.sharp = o.value("pain_sharp", false);
    f.pain.place = o.value("pain_place", "");
    f.pain.redFlags = o.value("red_flags", std::vector<std::string>());
    f.pain.cleared = o.value("cleared_flags", std::vector<std::string>());
    f.choices = o.value("choices", Choices());
    f.felt = o.value("felt", std::vector<std::string>());
    f.massKg = o.value("mass_kg", 0.0);
    const auto shirt = std::find(kShirts.begin(), kShirts.end(), o.value("shirt", ""));
    if (shirt != kShirts.end()) f.shirt = static_cast<Shirt>(shirt - kShirts.begin());
    if (o.contains("log")) f.log = logFrom(o.at("log"));
    if (o.value("warm_up", false)) f.log.kind = SetKind::WarmUp;  // as it was kept before there was a log
    return f;
}

PointMarked markFrom(const json& o, bool second) {
    const auto kind = markFromName(o.at("point").get<std::string>());
    if (!kind) throw std::out_of_range("point");
    Mark mark{*kind, o.value("nearer_cm", 0.0), {}, nullptr};
    for (const json& c : o.at("clicks")) mark.clicks.push_back({c.at(0), c.at(1), c.at(2)});
    if (o.contains("path")) {
        const json &times = o["path"].at("t_s"), &xs = o["path"].at("x"), &ys = o["path"].at("y");
        auto path = std::make_shared<std::vector<MarkStep>>();
        auto place = [](const json& v) {
            return v.is_null() ? std::numeric_limits<double>::quiet_NaN() : v.get<double>();
        };
        for (std::size_t i = 0; i < times.size(); ++i)
            path->push_back({times[i].get<double>(), place(xs.at(i)), place(ys.at(i))});
        mark.path = std::move(path);
    }
    return {second, std::move(mark)};
}

Edit editFrom(EditKind kind, const json& o) {
    const bool second = o.value("second", false);
    switch (kind) {
        case EditKind::FactsSet: return FactsSet{factsFrom(o)};
        case EditKind::StandardChosen: return StandardChosen{o.at("id").get<std::string>()};
        case EditKind::SpanLeftOut: return SpanLeftOut{spanFrom(o), o.value("out", true)};
        case EditKind::SecondAdded: return SecondAdded{o.at("observation").get<int>(), o.value("together", true)};
        case EditKind::SecondRemoved: return SecondRemoved{};
        case EditKind::SecondNudged: return SecondNudged{o.at("nudge_s").get<double>()};
        case EditKind::SecondApart: return SecondApart{o.at("together").get<bool>()};
        case EditKind::LandmarkMoved: {
            const int id = o.at("landmark").get<int>();
            if (id < 0 || id >= static_cast<int>(kLandmarkCount)) throw std::out_of_range("landmark");
            return LandmarkMoved{second,
                                 {o.at("at_s").get<double>(), static_cast<Landmark>(id), o.at("x").get<double>(),
                                  o.at("y").get<double>(), o.at("reach_s").get<double>()}};
        }
        case EditKind::Trimmed: return Trimmed{second, spanFrom(o)};
        case EditKind::RepetitionSet: {
            RepsByHand said{spanFrom(o), {}};
            if (!o.contains("reps")) said.reps = {said.within};
            for (const json& r : o.value("reps", json::array())) said.reps.push_back(spanFrom(r));
            return RepetitionSet{second, std::move(said)};
        }
        case EditKind::LegNamed:
            return LegNamed{second, {o.at("at_s").get<double>(), o.at("leg") == "left" ? Side::Left : Side::Right}};
        case EditKind::StandingSet: return StandingSet{second, o.at("at_s").get<double>()};
        case EditKind::LengthTold: {
            auto at = [&](const char* key) { return o.at(key).get<double>(); };
            return LengthTold{second, {at("x1"), at("y1"), at("x2"), at("y2"), at("cm")}};
        }
        case EditKind::NotePinned:
            return NotePinned{second, o.at("at_s").get<double>(), o.at("text").get<std::string>()};
        case EditKind::CueGiven: return CueGiven{o.at("fault").get<std::string>(), o.at("wording").get<std::string>()};
        case EditKind::CueTakenBack: return CueTakenBack{};
        case EditKind::PointMarked: return markFrom(o, second);
        case EditKind::PersonChosen: break;
    }
    return PersonChosen{second, o.at("at_s").get<double>(), o.at("x").get<double>(), o.at("y").get<double>(),
                        o.value("observation", 0)};
}

}  // namespace

std::pair<std::string, std::string> writeEdit(const Edit& edit) {
    return {kKinds[edit.index()], std::visit([](const auto& e) { return payload(e); }, edit).dump()};
}

Result<Edit> readEdit(const std::string& kind, const std::string& text) {
    const Error damaged{"What was changed in this set cannot be read. Was it made by a newer Zevo?", kind + " " + text};
    const auto found = std::find(kKinds.begin(), kKinds.end(), kind);
    const json o = json::parse(text, nullptr, false);
    if (found == kKinds.end() || !o.is_object()) return damaged;
    try {
        return editFrom(static_cast<EditKind>(found - kKinds.begin()), o);
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string writeNotices(const std::vector<Notice>& notices) {
    json out = json::array();
    for (const Notice& n : notices) {
        json o{{"kind", noticeName(n.kind)}};
        for (const Argument& a : n.arguments)
            o["arguments"].push_back(std::visit([](const auto& v) { return json(v); }, a));
        if (n.second) o["second"] = true;
        out.push_back(o);
    }
    return out.dump();
}

std::vector<Notice> readNotices(const std::string& text) {
    std::vector<Notice> out;
    const json all = json::parse(text, nullptr, false);
    if (!all.is_array()) return out;
    for (const json& o : all) {
        if (!o.is_object() || !o.contains("kind") || !o["kind"].is_string()) continue;
        const auto kind = noticeFromName(o["kind"].get<std::string>());
        if (!kind) continue;
        Notice n{*kind, {}, o.value("second", false)};
        for (const json& a : o.value("arguments", json::array())) {
            if (a.is_number()) n.arguments.emplace_back(a.get<double>());
            if (a.is_string()) n.arguments.emplace_back(a.get<std::string>());
        }
        out.push_back(std::move(n));
    }
    return out;
}

}  // namespace zevo
