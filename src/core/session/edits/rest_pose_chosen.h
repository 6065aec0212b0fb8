#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// When the client stood (or lay) at rest; what was taken for it before is not used any more.
struct RestPoseChosen {
    bool second = false;
    double atS = 0;
    bool operator==(const RestPoseChosen&) const = default;

    static constexpr const char* kName = "standing";
    static constexpr bool kIsAboutPerson = true;
    bool replaces(const RestPoseChosen& earlier) const { return second == earlier.second; }
    Json write() const { return {{"second", second}, {"at_s", atS}}; }
    static RestPoseChosen read(const Json& o) { return {isOfSecond(o), o.at("at_s").get<double>()}; }
    void apply(auto& set) const { set.views[second].corrections.standingAtS = atS; }
};

}  // namespace zevo
