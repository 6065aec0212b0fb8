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
const std::map<std::string, Hands> kHands{{"free", Hands::Free}, {"front", Hands::Front},       {"sides", Hands::Sides},
                                          {"back", Hands::Back}, {"overhead", Hands::Overhead}, {"stick", Hands::Stick},
                                          {"post", Hands::Post}};

/// Where a weight is held, so are the hands, unless the file says otherwise.
Hands handsAt(LoadPlace load) {
    switch (load) {
        case LoadPlace::Chest:
        case LoadPlace::Front: return Hands::Front;
        case LoadPlace::Back: return Hands::Back;
        case LoadPlace::Sides: return Hands::Sides;
        case LoadPlace::Overhead: return Hands::Overhead;
        case LoadPlace::None: break;
    }
    return Hands::Free;
}

}  // namespace

std::string handsName(Hands hands) {
    for (const auto& [name, value] : kHands)
        if (value == hands) return name;
    return {};
}

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

Hands Movement::hands(const std::string& variationId) const {
    const Variation* v = variation(variationId);
    return v ? v->hands : Hands::Free;
}

bool Movement::needsRoom(const std::string& variationId) const {
    const Variation* v = variation(variationId);
    return v && v->room;
}

bool Movement::isFromFloor(const std::string& variationId) const {
    const Variation* v = variation(variationId);
    return v && v->fromFloor;
}

bool Movement::swings(const std::string& variationId) const {
    const Variation* v = variation(variationId);
    return v && v->swings;
}

std::vector<std::string> Movement::setUpOf(const std::string& variationId) const {
    std::vector<std::string> out = setUp;
    if (const Variation* v = variation(variationId)) out.insert(out.end(), v->setUp.begin(), v->setUp.end());
    return out;
}

bool names(const std::vector<std::string>& idsOrFamilies, const Movement& m) {
    return std::any_of(idsOrFamilies.begin(), idsOrFamilies.end(),
                       [&](const std::string& name) { return name == m.id || name == familyName(m.family); });
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
        m.camera = textsAt(root, "camera", "");
        m.setUp = textsAt(root, "set_up", "");
        if (m.standards.empty()) throw Refused{"/standards", "must name at least one"};
        const Json& variations = listAt(root, "variations", "");
        for (std::size_t i = 0; i < variations.size(); ++i) {
            const std::string path = "/variations/" + std::to_string(i);
            const Json& o = variations[i];
            Variation v;
            v.id = textAt(o, "id", path, true), v.title = textAt(o, "title", path, true);
            v.load = named(o, "load", path, kLoads);
            v.hands = o.contains("hands") ? named(o, "hands", path, kHands) : handsAt(v.load);
            v.room = flagAt(o, "room", path);
            v.fromFloor = flagAt(o, "from_floor", path);
            v.swings = flagAt(o, "swings", path);
            v.setUp = textsAt(o, "set_up", path);
            m.variations.push_back(std::move(v));
        }
        return m;
    });
}

}  // namespace zevo
