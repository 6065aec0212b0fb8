#pragma once

// Reading of the shipped and imported data files, with errors that name file, path and value.

#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace zevo {

using Json = nlohmann::json;

/// Thrown by the readers below and turned into an Error by readJson().
struct Refused {
    std::string path, problem;
};

std::string textAt(const Json& object, const char* key, const std::string& path, bool required);
std::optional<double> numberAt(const Json& object, const char* key, const std::string& path);
/// False when it is not there.
bool flagAt(const Json& object, const char* key, const std::string& path);
/// An empty list when it is not there.
std::vector<std::string> textsAt(const Json& object, const char* key, const std::string& path);
const Json& listAt(const Json& object, const char* key, const std::string& path);

/// Parses `text`, checks that it is an object of this schema, and calls `read`. `what` begins the message:
/// "The standard", `name` is the file.
template <typename T, typename Read>
Result<T> readJson(const std::string& what, const std::string& text, const std::string& name, const char* schema,
                   Read read) {
    auto refuse = [&](const std::string& path, const std::string& problem) {
        return Error{what + " “" + name + "” cannot be used: " + path + " " + problem + ".", name + path};
    };
    const Json root = Json::parse(text, nullptr, false);
    if (!root.is_object()) return refuse("the file", "is not a JSON object");
    try {
        if (const auto found = textAt(root, "schema", "", true); found != schema)
            return refuse("/schema", "must be " + std::string(schema) + ", not “" + found + "”");
        return read(root);
    } catch (const Refused& r) {
        return refuse(r.path, r.problem);
    } catch (const Json::exception& e) {
        return refuse("the file", e.what());
    }
}

}  // namespace zevo
