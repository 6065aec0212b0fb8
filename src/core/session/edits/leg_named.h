#pragma once

#include "core/session/edits/edit_kind.h"
#include "core/session/measured_set.h"

namespace zevo {

/// Which leg worked in the repetition at a moment.
struct LegNamed {
    bool second = false;
    LegByHand leg;
    bool operator==(const LegNamed&) const = default;

    static constexpr const char* kName = "leg";
    static constexpr bool kIsAboutPerson = true;
    bool replaces(const LegNamed& earlier) const { return second == earlier.second && leg.atS == earlier.leg.atS; }
    Json write() const { return {{"second", second}, {"at_s", leg.atS}, {"leg", sideName(leg.leg)}}; }
    static LegNamed read(const Json& o) {
        return {isOfSecond(o), {o.at("at_s").get<double>(), o.at("leg") == "left" ? Side::Left : Side::Right}};
    }
    void apply(auto& set) const { set.views[second].legs.push_back(leg); }
};

}  // namespace zevo
