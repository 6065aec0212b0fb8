#include "core/standards/standard.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/measures/measure.h"

namespace zevo {
namespace {

using nlohmann::json;

struct Refused {
    std::string path, problem;
};

std::string text(const json& o, const char* key, const std::string& path, bool required) {
    if (!o.contains(key)) {
        if (required) throw Refused{path + "/" + key, "is missing"};
        return {};
    }
    if (!o[key].is_string()) throw Refused{path + "/" + key, "must be text, not " + o[key].dump()};
    return o[key].get<std::string>();
}

std::optional<double> number(const json& o, const char* key, const std::string& path) {
    if (!o.contains(key)) return std::nullopt;
    if (!o[key].is_number()) throw Refused{path + "/" + key, "must be a number, not " + o[key].dump()};
    return o[key].get<double>();
}

Band readBand(const json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object"};
    Band b;
    b.measure = text(o, "measure", path, true);
    if (!findMeasure(b.measure)) throw Refused{path + "/measure", "“" + b.measure + "” is not a measure Zevo knows"};
    b.min = number(o, "min", path);
    b.max = number(o, "max", path);
    if (b.min && b.max && *b.min > *b.max) throw Refused{path + "/min", "is larger than max"};
    b.faultBelow = text(o, "fault_below", path, false);
    b.faultAbove = text(o, "fault_above", path, false);
    if (!b.faultBelow.empty() && !b.min) throw Refused{path + "/min", "is missing but fault_below is given"};
    if (!b.faultAbove.empty() && !b.max) throw Refused{path + "/max", "is missing but fault_above is given"};
    b.rank = static_cast<int>(number(o, "rank", path).value_or(100));
    if (o.contains("careful")) {
        if (!o["careful"].is_boolean()) throw Refused{path + "/careful", "must be true or false"};
        b.careful = o["careful"].get<bool>();
    }
    if (!o.contains("scale") || !o["scale"].is_array() || o["scale"].size() != 2 || !o["scale"][0].is_number() ||
        !o["scale"][1].is_number())
        throw Refused{path + "/scale", "must be two numbers"};
    b.scaleFrom = o["scale"][0];
    b.scaleTo = o["scale"][1];
    if (!(b.scaleFrom < b.scaleTo)) throw Refused{path + "/scale", "must run from the smaller to the larger number"};
    return b;
}

}  // namespace

const Band* Standard::bandFor(const std::string& measure) const {
    for (const auto& b : bands)
        if (b.measure == measure) return &b;
    return nullptr;
}

Result<Standard> parseStandard(const std::string& source, const std::string& name) {
    const json root = json::parse(source, nullptr, false);
    auto refuse = [&](const std::string& path, const std::string& problem) {
        return Error{"The standard “" + name + "” cannot be used: " + path + " " + problem + ".", name + path};
    };
    if (!root.is_object()) return refuse("the file", "is not a JSON object");
    try {
        if (text(root, "schema", "", true) != "zevo-standard-1") return refuse("/schema", "must be zevo-standard-1");
        Standard s;
        s.id = text(root, "id", "", true);
        s.movement = text(root, "movement", "", true);
        s.title = text(root, "title", "", true);
        s.reason = text(root, "reason", "", true);
        s.minConfidence = number(root, "min_confidence", "").value_or(0.5);
        if (!root.contains("bands") || !root["bands"].is_array()) return refuse("/bands", "must be a list");
        for (std::size_t i = 0; i < root["bands"].size(); ++i) {
            s.bands.push_back(readBand(root["bands"][i], "/bands/" + std::to_string(i)));
            for (std::size_t k = 0; k < i; ++k)
                if (s.bands[k].measure == s.bands[i].measure)
                    return refuse("/bands/" + std::to_string(i), "judges a measure a second time");
        }
        return s;
    } catch (const Refused& r) {
        return refuse(r.path, r.problem);
    } catch (const json::exception& e) {
        return refuse("the file", e.what());
    }
}

}  // namespace zevo
