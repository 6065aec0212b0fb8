#include "core/advice/advice.h"

#include "core/base/json_reader.h"

namespace zevo {
namespace {

std::vector<Cue> cuesAt(const Json& o, const std::string& path) {
    std::vector<Cue> out;
    for (const Json& c : listAt(o, "say", path)) {
        const std::string at = path + "/say/" + std::to_string(out.size());
        out.push_back({textAt(c, "kind", at, true), textAt(c, "text", at, true)});
        if (const auto& kind = out.back().kind; kind != "external" && kind != "internal" && kind != "image")
            throw Refused{at + "/kind", "“" + kind + "” is not external, internal or image"};
    }
    return out;
}

std::vector<Drill> drillsAt(const Json& o, const std::string& path) {
    std::vector<Drill> out;
    for (const Json& d : listAt(o, "prepare", path)) {
        const std::string at = path + "/prepare/" + std::to_string(out.size());
        out.push_back({textAt(d, "stage", at, true), textAt(d, "text", at, true), textAt(d, "dose", at, true)});
        if (const auto& stage = out.back().stage; stage != "release" && stage != "activate" && stage != "integrate")
            throw Refused{at + "/stage", "“" + stage + "” is not release, activate or integrate"};
    }
    return out;
}

Signs signsAt(const Json& o, const std::string& path) {
    Signs s;
    const std::string reps = textAt(o, "reps", path, false);
    if (reps == "late")
        s.reps = Signs::Reps::Late;
    else if (reps == "from-first")
        s.reps = Signs::Reps::FromFirst;
    else if (!reps.empty())
        throw Refused{path + "/reps", "“" + reps + "” is not late or from-first"};
    s.oneSide = flagAt(o, "one_side", path);
    if (o.contains("loaded")) s.loaded = flagAt(o, "loaded", path);
    s.with = textsAt(o, "with", path);
    s.without = textsAt(o, "without", path);
    s.measures = textsAt(o, "measures", path);
    return s;
}

Advice adviceAt(const std::string& fault, const Json& o, const std::string& path) {
    Advice a;
    a.fault = fault;
    a.title = textAt(o, "title", path, true);
    a.term = textAt(o, "term", path, true);
    a.unsure = textAt(o, "unsure", path, true);
    a.progress = textAt(o, "progress", path, true);
    a.say = cuesAt(o, path);
    a.change = textsAt(o, "change", path);
    a.prepare = drillsAt(o, path);
    if (a.say.size() < 2) throw Refused{path + "/say", "needs at least two wordings"};
    if (a.change.empty()) throw Refused{path + "/change", "is missing or empty"};
    if (a.prepare.empty()) throw Refused{path + "/prepare", "is missing or empty"};
    for (const Json& l : listAt(o, "limiters", path)) {
        const std::string at = path + "/limiters/" + std::to_string(a.limiters.size());
        Limiter limiter;
        limiter.id = textAt(l, "id", at, true);
        limiter.why = textAt(l, "why", at, true);
        if (!l.contains("when") || !l["when"].is_object()) throw Refused{at + "/when", "must be an object"};
        limiter.signs = signsAt(l["when"], at + "/when");
        limiter.say = cuesAt(l, at);
        limiter.change = textsAt(l, "change", at);
        limiter.prepare = drillsAt(l, at);
        limiter.progress = textAt(l, "progress", at, false);
        a.limiters.push_back(std::move(limiter));
    }
    return a;
}

}  // namespace

Result<AdviceBook> parseAdvice(const std::string& source, const std::string& name) {
    return readJson<AdviceBook>("The advice file", source, name, "zevo-advice-2", [](const Json& root) {
        if (!root.contains("faults") || !root["faults"].is_object()) throw Refused{"/faults", "must be an object"};
        AdviceBook book;
        for (const auto& [fault, o] : root["faults"].items()) book[fault] = adviceAt(fault, o, "/faults/" + fault);
        return book;
    });
}

}  // namespace zevo
