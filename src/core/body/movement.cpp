#include "core/body/movement.h"

#include <map>
#include <nlohmann/json.hpp>

#include "core/base/json_reader.h"

namespace zevo {
namespace {

template <typename T>
T named(const Json& o, const char* key, const std::string& path, const std::map<std::string, T>& names) {
    const std::string value = textAt(o, key, path, true);
    const auto found = names.find(value);
    if (found != names.end()) return found->second;
    std::string known;
    for (const auto& [name, ignored] : names) known += (known.empty() ? "" : ", ") + name;
    throw Refused{path + "/" + key, "“" + value + "” is not one of " + known};
}

const std::map<std::string, Family> kFamilies{
    {"squat", Family::Squat}, {"lunge", Family::Lunge}, {"hinge", Family::Hinge}, {"bridge", Family::Bridge}};
const std::map<std::string, Drive> kDrives{
    {"sinking", Drive::Sinking}, {"folding", Drive::Folding}, {"hip-rise", Drive::HipRise}};
const std::map<std::string, LoadPlace> kLoads{{"none", LoadPlace::None},   {"chest", LoadPlace::Chest},
                                              {"front", LoadPlace::Front}, {"back", LoadPlace::Back},
                                              {"sides", LoadPlace::Sides}, {"overhead", LoadPlace::Overhead}};

}  // namespace

std::string familyName(Family family) {
    for (const auto& [name, value] : kFamilies)
        if (value == family) return name;
    return {};
}

const Variation* Movement::variation(const std::string& variationId) const {
    for (const auto& v : variations)
        if (v.id == variationId) return &v;
    return nullptr;
}

LoadPlace Movement::loadPlace(const std::string& variationId) const {
    const Variation* v = variation(variationId);
    return v ? v->load : LoadPlace::None;
}

Result<Movement> parseMovement(const std::string& text, const std::string& name) {
    return readJson<Movement>("The movement", text, name, "zevo-movement-1", [](const Json& root) {
        Movement m;
        m.id = textAt(root, "id", "", true);
        m.title = textAt(root, "title", "", true);
        m.family = named(root, "family", "", kFamilies);
        m.drive = named(root, "drive", "", kDrives);
        m.oneLeg = flagAt(root, "one_leg", "");
        m.steps = flagAt(root, "steps", "");
        m.sideways = flagAt(root, "sideways", "");
        m.travels = flagAt(root, "travels", "");
        m.phases = textsAt(root, "phases", "");
        if (m.phases.size() != 4) throw Refused{"/phases", "must name the four parts of a repetition"};
        m.measures = textsAt(root, "measures", "");
        m.standards = textsAt(root, "standards", "");
        m.setUp = textsAt(root, "set_up", "");
        m.advice = textAt(root, "advice", "", true);
        if (m.standards.empty()) throw Refused{"/standards", "must name at least one"};
        const Json& variations = listAt(root, "variations", "");
        for (std::size_t i = 0; i < variations.size(); ++i) {
            const std::string path = "/variations/" + std::to_string(i);
            m.variations.push_back({textAt(variations[i], "id", path, true), textAt(variations[i], "title", path, true),
                                    named(variations[i], "load", path, kLoads)});
        }
        return m;
    });
}

}  // namespace zevo
