#pragma once

#include "core/session/edits/edit_kind.h"
#include "core/track/track.h"

namespace zevo {

/// How long something in the picture truly is, at the client's distance: the scale of all lengths.
struct ReferenceLength {
    bool second = false;
    KnownLength length;
    bool operator==(const ReferenceLength&) const = default;

    static constexpr const char* kName = "length";
    bool replaces(const ReferenceLength& earlier) const { return second == earlier.second; }
    Json write() const {
        return {{"second", second}, {"x1", length.x1}, {"y1", length.y1},
                {"x2", length.x2},  {"y2", length.y2}, {"cm", length.cm}};
    }
    static ReferenceLength read(const Json& o) {
        auto at = [&](const char* key) { return o.at(key).get<double>(); };
        return {isOfSecond(o), {at("x1"), at("y1"), at("x2"), at("y2"), at("cm")}};
    }
    void apply(auto& set) const { set.views[second].corrections.length = length; }
};

}  // namespace zevo
