#include "core/base/json_reader.h"

namespace zevo {

std::string textAt(const Json& o, const char* key, const std::string& path, bool required) {
    if (!o.is_object()) throw Refused{path, "must be an object"};
    if (!o.contains(key)) {
        if (required) throw Refused{path + "/" + key, "is missing"};
        return {};
    }
    if (!o[key].is_string()) throw Refused{path + "/" + key, "must be text, not " + o[key].dump()};
    return o[key].get<std::string>();
}

std::optional<double> numberAt(const Json& o, const char* key, const std::string& path) {
    if (!o.contains(key)) return std::nullopt;
    if (!o[key].is_number()) throw Refused{path + "/" + key, "must be a number, not " + o[key].dump()};
    return o[key].get<double>();
}

bool flagAt(const Json& o, const char* key, const std::string& path) {
    if (!o.contains(key)) return false;
    if (!o[key].is_boolean()) throw Refused{path + "/" + key, "must be true or false, not " + o[key].dump()};
    return o[key].get<bool>();
}

const Json& listAt(const Json& o, const char* key, const std::string& path) {
    static const Json none = Json::array();
    if (!o.contains(key)) return none;
    if (!o[key].is_array()) throw Refused{path + "/" + key, "must be a list, not " + o[key].dump()};
    return o[key];
}

std::vector<std::string> textsAt(const Json& o, const char* key, const std::string& path) {
    std::vector<std::string> out;
    for (const Json& item : listAt(o, key, path)) {
        if (!item.is_string())
            throw Refused{path + "/" + key + "/" + std::to_string(out.size()), "must be text, not " + item.dump()};
        out.push_back(item.get<std::string>());
    }
    return out;
}

}  // namespace zevo
