// Reading of the advice files.
#include <algorithm>

#include "core/advice/advice.h"
#include "core/base/json_reader.h"

namespace zevo {
namespace {

constexpr const char *kFaultsSchema = "zevo-faults-1", *kClaimsSchema = "zevo-claims-1", *kCardsSchema = "zevo-cards-1";

const Json& objectAt(const Json& o, const char* key, const std::string& path) {
    if (!o.contains(key) || !o[key].is_object()) throw Refused{path + "/" + key, "must be an object"};
    return o[key];
}

void mustBeOneOf(const std::string& value, std::initializer_list<const char*> known, const std::string& path) {
    std::string list;
    for (const char* k : known) {
        if (value == k) return;
        list += (list.empty() ? "" : ", ") + std::string(k);
    }
    throw Refused{path, "“" + value + "” is not one of " + list};
}

MeasureId measureAt(const Json& o, const char* key, const std::string& path) {
    const std::string name = textAt(o, key, path, true);
    const MeasureId measure = MeasureId::named(name);
    if (!measure) throw Refused{path + "/" + key, "“" + name + "” is not a measure Zevo knows"};
    return measure;
}

When whenAt(const Json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
    static const std::vector<std::string> known{"family",    "movement", "variation", "school", "hands",
                                                "complaint", "felt",     "room",      "choice", "level",
                                                "aids",      "lacks",    "shoes",     "loaded", "effort_from"};
    for (const auto& [key, ignored] : o.items())
        if (std::find(known.begin(), known.end(), key) == known.end())
            throw Refused{path + "/" + key, "is not a condition Zevo knows"};
    When w;
    w.families = textsAt(o, "family", path);
    w.movements = textsAt(o, "movement", path);
    w.variations = textsAt(o, "variation", path);
    w.schools = textsAt(o, "school", path);
    w.hands = textsAt(o, "hands", path);
    w.complaints = textsAt(o, "complaint", path);
    w.felt = textsAt(o, "felt", path);
    w.levels = textsAt(o, "level", path);
    for (const std::string& level : w.levels) mustBeOneOf(level, {"free", "lighten", "care", "stop"}, path + "/level");
    w.aids = textsAt(o, "aids", path), w.lacks = textsAt(o, "lacks", path);
    for (const auto* list : {&w.aids, &w.lacks})
        for (const std::string& aid : *list) mustBeOneOf(aid, {"wedge", "box", "pole"}, path + "/aids");
    w.shoes = textsAt(o, "shoes", path);
    if (o.contains("loaded")) w.loaded = flagAt(o, "loaded", path);
    if (const auto effort = numberAt(o, "effort_from", path)) w.effortFrom = static_cast<int>(*effort);
    if (o.contains("room")) w.room = flagAt(o, "room", path);
    if (o.contains("choice"))
        for (const auto& [choice, ignored] : objectAt(o, "choice", path).items())
            w.choices[choice] = textsAt(o["choice"], choice.c_str(), path + "/choice");
    return w;
}

Signs signsAt(const Json& o, const std::string& path) {
    Signs s;
    if (const std::string reps = textAt(o, "reps", path, false); !reps.empty()) {
        mustBeOneOf(reps, {"late", "from-first"}, path + "/reps");
        s.reps = reps == "late" ? Signs::Reps::Late : Signs::Reps::FromFirst;
    }
    s.oneSide = flagAt(o, "one_side", path);
    if (o.contains("loaded")) s.loaded = flagAt(o, "loaded", path);
    s.with = textsAt(o, "with", path);
    s.without = textsAt(o, "without", path);
    s.measures = textsAt(o, "measures", path);
    s.felt = textsAt(o, "felt", path);
    s.lacks = textsAt(o, "lacks", path);
    return s;
}

/// What a change asks of the next set; whether the book knows it is the tests' business: cards are read without it.
std::optional<Ask> askAt(const Json& o, const std::string& path) {
    if (!o.contains("ask")) return std::nullopt;
    const Json& ask = objectAt(o, "ask", path);
    const std::string at = path + "/ask";
    return Ask{textAt(ask, "kind", at, true), textAt(ask, "rung", at, true), numberAt(ask, "amount", at)};
}

/// The movement that is done instead; whether there is one of that name is the tests' business as well.
std::optional<Instead> insteadAt(const Json& o, const std::string& path) {
    if (!o.contains("instead")) return std::nullopt;
    const Json& instead = objectAt(o, "instead", path);
    const std::string at = path + "/instead";
    return Instead{textAt(instead, "movement", at, true), textAt(instead, "variation", at, false)};
}

/// Reads cards against the faults and claims they may name.
struct CardReader {
    const AdviceBook& book;

    std::vector<std::string> claimsAt(const Json& o, const std::string& path) const {
        auto out = textsAt(o, "claims", path);
        for (const auto& id : out)
            if (std::none_of(book.claims.begin(), book.claims.end(), [&](const Claim& c) { return c.id == id; }))
                throw Refused{path + "/claims", "“" + id + "” is not a claim of the table"};
        return out;
    }

    Card cardAt(const Json& o, const std::string& family, const std::string& path) const {
        if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
        Card c;
        c.fault = textAt(o, "fault", path, true);
        if (!book.fault(c.fault)) throw Refused{path + "/fault", "“" + c.fault + "” is not a fault Zevo names"};
        if (o.contains("when")) c.when = whenAt(o["when"], path + "/when");
        if (!family.empty() && c.when.families.empty()) c.when.families = {family};
        if (o.contains("limiter")) {
            const Json& l = objectAt(o, "limiter", path);
            const std::string at = path + "/limiter";
            c.limiter = Limiter{textAt(l, "id", at, true), signsAt(objectAt(l, "signs", at), at + "/signs"),
                                textAt(l, "why", at, true), textAt(l, "against", at, false)};
            if (!c.limiter->signs.lacks.empty() && c.limiter->against.empty())
                throw Refused{at + "/against", "must say why an aid rules it out"};
        }
        for (const Json& s : listAt(o, "say", path)) {
            const std::string at = path + "/say/" + std::to_string(c.say.size());
            c.say.push_back({textAt(s, "kind", at, true), textAt(s, "text", at, true), claimsAt(s, at)});
            mustBeOneOf(c.say.back().kind, {"external", "internal", "image"}, at + "/kind");
        }
        for (const Json& s : listAt(o, "change", path)) {
            const std::string at = path + "/change/" + std::to_string(c.change.size());
            c.change.push_back({textAt(s, "text", at, true), claimsAt(s, at), askAt(s, at), insteadAt(s, at)});
        }
        for (const Json& s : listAt(o, "prepare", path)) {
            const std::string at = path + "/prepare/" + std::to_string(c.prepare.size());
            c.prepare.push_back({textAt(s, "stage", at, true), textAt(s, "text", at, true), textAt(s, "dose", at, true),
                                 claimsAt(s, at)});
            mustBeOneOf(c.prepare.back().stage, {"release", "activate", "integrate"}, at + "/stage");
        }
        c.progress = textAt(o, "progress", path, false);
        return c;
    }
};

}  // namespace

Result<std::map<std::string, FaultWords>> parseFaults(const std::string& text, const std::string& name) {
    using Faults = std::map<std::string, FaultWords>;
    return readJson<Faults>("The file of faults", text, name, kFaultsSchema, [](const Json& root) {
        Faults out;
        for (const auto& [id, o] : objectAt(root, "faults", "").items()) {
            const std::string path = "/faults/" + id;
            if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
            FaultWords w;
            w.title = textAt(o, "title", path, true);
            w.term = textAt(o, "term", path, true);
            w.unsure = textAt(o, "unsure", path, true);
            w.view = textAt(o, "view", path, false);
            if (!w.view.empty()) mustBeOneOf(w.view, {"side", "front", "foot-end"}, path + "/view");
            if (o.contains("picture")) {
                const Json& picture = objectAt(o, "picture", path);
                w.figure = textAt(picture, "figure", path + "/picture", true);
                const Json& turned = objectAt(picture, "turned", path + "/picture");
                for (const auto& [part, ignored] : turned.items())
                    w.turned[part] = numberAt(turned, part.c_str(), path + "/picture/turned").value_or(0);
            }
            out[id] = std::move(w);
        }
        return out;
    });
}

Result<std::vector<Claim>> parseClaims(const std::string& text, const std::string& name) {
    using Claims = std::vector<Claim>;
    return readJson<Claims>("The table of claims", text, name, kClaimsSchema, [](const Json& root) {
        Claims out;
        for (const Json& o : listAt(root, "claims", "")) {
            const std::string path = "/claims/" + std::to_string(out.size());
            Claim c;
            c.id = textAt(o, "id", path, true);
            for (const Json& p : listAt(o, "pushes", path)) {
                const std::string at = path + "/pushes/" + std::to_string(c.pushes.size());
                const std::string to = textAt(p, "to", at, true);
                mustBeOneOf(to, {"up", "down"}, at + "/to");
                c.pushes.push_back({measureAt(p, "measure", at), to == "up"});
            }
            for (const Json& w : listAt(o, "never", path))
                c.never.push_back(whenAt(w, path + "/never/" + std::to_string(c.never.size())));
            c.setOnly = flagAt(o, "set_only", path);
            c.words = textsAt(o, "words", path);
            out.push_back(std::move(c));
        }
        return out;
    });
}

Result<std::vector<Card>> parseCards(const std::string& text, const std::string& name, const AdviceBook& book) {
    using Cards = std::vector<Card>;
    return readJson<Cards>("The file of cards", text, name, kCardsSchema, [&](const Json& root) {
        const CardReader reader{book};
        const std::string family = textAt(root, "family", "", false);
        Cards out;
        for (const Json& o : listAt(root, "cards", ""))
            out.push_back(reader.cardAt(o, family, "/cards/" + std::to_string(out.size())));
        return out;
    });
}

}  // namespace zevo
