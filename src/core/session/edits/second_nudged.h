#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// The second view is shifted against the first.
struct SecondNudged {
    double nudgeS = 0;  ///< in all, added to the lag found
    bool operator==(const SecondNudged&) const = default;

    static constexpr const char* kName = "second_nudged";
    static constexpr bool kIsAboutSecondView = true;
    static constexpr bool kNeedsSecondView = true;
    bool replaces(const SecondNudged&) const { return true; }
    Json write() const { return {{"nudge_s", nudgeS}}; }
    static SecondNudged read(const Json& o) { return {o.at("nudge_s").get<double>()}; }
    void apply(auto& set) const {
        if (set.second) set.second->nudgeS = nudgeS;
    }
};

}  // namespace zevo
