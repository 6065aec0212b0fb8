#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// The school the set is judged by.
struct StandardChosen {
    std::string id;
    bool operator==(const StandardChosen&) const = default;

    static constexpr const char* kName = "standard";
    static constexpr bool kLeavesValues = true;
    static constexpr bool kOnlyJudges = true;
    bool replaces(const StandardChosen&) const { return true; }
    Json write() const { return {{"id", id}}; }
    static StandardChosen read(const Json& o) { return {o.at("id").get<std::string>()}; }
    void apply(auto& set) const { set.standard = id; }
};

}  // namespace zevo
