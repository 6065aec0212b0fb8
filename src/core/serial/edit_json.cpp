#include "core/serial/edit_json.h"

#include <nlohmann/json.hpp>
#include <optional>

namespace zevo {
namespace {

using nlohmann::json;

/// Goes through the kinds of edits for the one with a name.
template <std::size_t at = 0>
std::optional<Edit> editNamed(const std::string& name, const json& payload) {
    if constexpr (at < std::variant_size_v<Edit>) {
        using Kind = std::variant_alternative_t<at, Edit>;
        return name == Kind::kName ? Edit(Kind::read(payload)) : editNamed<at + 1>(name, payload);
    }
    return std::nullopt;
}

}  // namespace

std::pair<std::string, std::string> writeEdit(const Edit& edit) {
    return std::visit([](const auto& e) { return std::pair<std::string, std::string>(e.kName, e.write().dump()); },
                      edit);
}

Result<Edit> readEdit(const std::string& kind, const std::string& text) {
    const Error damaged{"What was changed in this set cannot be read. Was it made by a newer Zevo?", kind + " " + text};
    const json payload = json::parse(text, nullptr, false);
    if (!payload.is_object()) return damaged;
    try {
        auto edit = editNamed(kind, payload);
        return edit ? Result<Edit>(std::move(*edit)) : Result<Edit>(damaged);
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
