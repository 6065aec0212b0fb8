#pragma once

#include "core/session/edits/edit_kind.h"
#include "core/track/track.h"

namespace zevo {

/// A point the coach placed by hand.
struct PointPlaced {
    bool second = false;
    ManualPoint point;
    bool operator==(const PointPlaced&) const = default;

    static constexpr const char* kName = "landmark_moved";
    static constexpr bool kIsAboutPerson = true;
    bool replaces(const PointPlaced& earlier) const {
        return second == earlier.second && point.landmark == earlier.point.landmark && point.atS == earlier.point.atS;
    }
    Json write() const {
        return {{"second", second}, {"at_s", point.atS}, {"landmark", static_cast<int>(point.landmark)},
                {"x", point.x},     {"y", point.y},      {"reach_s", point.reachS}};
    }
    static PointPlaced read(const Json& o) {
        const int id = o.at("landmark").get<int>();
        if (id < 0 || id >= static_cast<int>(kLandmarkCount)) throw std::out_of_range("landmark");
        return {isOfSecond(o),
                {o.at("at_s").get<double>(), static_cast<Landmark>(id), o.at("x").get<double>(),
                 o.at("y").get<double>(), o.at("reach_s").get<double>()}};
    }
    void apply(auto& set) const { set.views[second].corrections.moved.push_back(point); }
};

}  // namespace zevo
