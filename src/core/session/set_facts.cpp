#include "core/session/set_facts.h"

#include <algorithm>
#include <array>
#include <nlohmann/json.hpp>

namespace zevo {
namespace {

using nlohmann::json;

json optional(const auto& v) {
    return v ? json(*v) : json();
}
template <typename T>
std::optional<T> optionalAt(const json& o, const char* key) {
    const auto found = o.find(key);
    return found == o.end() || found->is_null() ? std::nullopt : std::optional<T>(found->get<T>());
}

/// In the order of Shirt.
constexpr std::array kShirts{"", "loose", "tight"};
/// In the order of SetKind.
constexpr std::array kSetKinds{"working", "warm_up", "test"};

json asksJson(const Asks& asks) {
    json out = json::array();
    for (const Ask& a : asks) out.push_back(writeAsk(a));
    return out;
}
Asks asksFrom(const json& list) {
    Asks out;
    for (const json& o : list) out = with(std::move(out), readAsk(o));
    return out;
}

json substituteJson(const std::optional<Substitute>& s) {
    if (!s) return nullptr;
    return {{"of", s->of}, {"variation", s->variation}, {"why", s->why}, {"pain", optional(s->pain)}, {"by", s->by},
            {"on", s->on}};
}
std::optional<Substitute> substituteFrom(const json& o) {
    if (!o.is_object()) return std::nullopt;
    return Substitute{o.at("of").get<std::string>(), o.value("variation", ""), o.value("why", ""),
                      optionalAt<int>(o, "pain"),    o.value("by", ""),        o.value("on", "")};
}

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
            {"ended_by", l.endedBy},
            {"planned_reps", l.plannedReps},
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
    l.endedBy = o.value("ended_by", "");
    l.plannedReps = o.value("planned_reps", 0);
    l.note = o.value("note", "");
    return l;
}

}  // namespace

SetFacts nextSet(SetFacts facts) {
    facts.log.effort.reset();
    facts.log.endedBy.clear();
    facts.log.note.clear();
    facts.felt.clear();
    facts.pain.roseBefore |= facts.pain.rose();
    facts.pain.after.reset();
    return facts;
}

json writeFacts(const SetFacts& f) {
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
            {"pain_place", painSpotsText(f.pain.spots)},
            {"red_flags", f.pain.redFlags},
            {"cleared_flags", f.pain.cleared},
            {"cleared_for", f.pain.limits},
            {"pain_rose_before", f.pain.roseBefore},
            {"choices", f.choices},
            {"felt", f.felt},
            {"mass_kg", f.massKg},
            {"shirt", kShirts[static_cast<std::size_t>(f.shirt)]},
            {"asks", asksJson(f.asks)},
            {"substitute", substituteJson(f.substitute)},
            {"log", logJson(f.log)}};
}
SetFacts readFacts(const json& o) {
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
    f.pain.spots = painSpotsFrom(o.value("pain_place", ""));
    f.pain.redFlags = o.value("red_flags", std::vector<std::string>());
    f.pain.roseBefore = o.value("pain_rose_before", false);
    f.pain.cleared = o.value("cleared_flags", std::vector<std::string>());
    f.pain.limits = o.value("cleared_for", std::vector<std::string>());
    f.choices = o.value("choices", Choices());
    f.felt = o.value("felt", std::vector<std::string>());
    f.massKg = o.value("mass_kg", 0.0);
    const auto shirt = std::find(kShirts.begin(), kShirts.end(), o.value("shirt", ""));
    if (shirt != kShirts.end()) f.shirt = static_cast<Shirt>(shirt - kShirts.begin());
    f.asks = asksFrom(o.value("asks", json::array()));
    if (o.contains("substitute")) f.substitute = substituteFrom(o.at("substitute"));
    if (o.contains("log")) f.log = logFrom(o.at("log"));
    if (o.value("warm_up", false)) f.log.kind = SetKind::WarmUp;  // as it was kept before there was a log
    return f;
}

}  // namespace zevo
