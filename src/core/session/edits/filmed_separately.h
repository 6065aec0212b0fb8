#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// Whether both views are of the same repetitions.
struct FilmedSeparately {
    bool sameTake = false;
    bool operator==(const FilmedSeparately&) const = default;

    static constexpr const char* kName = "second_apart";
    static constexpr bool kIsAboutSecondView = true;
    static constexpr bool kNeedsSecondView = true;
    bool replaces(const FilmedSeparately&) const { return true; }
    Json write() const { return {{"together", sameTake}}; }
    static FilmedSeparately read(const Json& o) { return {o.at("together").get<bool>()}; }
    void apply(auto& set) const {
        if (set.second) set.second->sameTake = sameTake;
    }
};

}  // namespace zevo
