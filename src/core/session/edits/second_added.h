#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// Another clip of the set; nothing that was said of an earlier second view holds for it.
struct SecondAdded {
    int observation = 1;   ///< its place in the list of observations
    bool sameTake = true;  ///< false: filmed one after the other
    bool operator==(const SecondAdded&) const = default;

    static constexpr const char* kName = "second_added";
    static constexpr bool kIsAboutSecondView = true;
    static constexpr bool kNeedsSecondView = true;
    static constexpr bool kStartsSecondViewAnew = true;
    Json write() const { return {{"observation", observation}, {"together", sameTake}}; }
    static SecondAdded read(const Json& o) { return {o.at("observation").get<int>(), o.value("together", true)}; }
    void apply(auto& set) const {
        set.second.emplace();
        set.second->observation = observation, set.second->sameTake = sameTake;
        set.views[1] = {};
    }
};

}  // namespace zevo
