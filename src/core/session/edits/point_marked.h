#pragma once

#include "core/marks/marks.h"
#include "core/session/edits/edit_kind.h"

namespace zevo {

/// A point marked in a view and followed through its clip; with no click left it is taken off. The path is kept with
/// it: following needs the video, and the record does not.
struct PointMarked {
    bool second = false;
    Mark mark;
    bool operator==(const PointMarked&) const = default;

    static constexpr const char* kName = "mark";
    static constexpr bool kIsAboutPerson = true;
    bool replaces(const PointMarked& earlier) const {
        return second == earlier.second && mark.kind == earlier.mark.kind;
    }
    /// Places to a hundredth of a pixel, times to a tenth of a millisecond: a path is long.
    Json write() const {
        auto to = [](double v, double step) { return std::round(v / step) * step; };
        Json o{{"second", second}, {"point", markName(mark.kind)}, {"nearer_cm", mark.nearerCm}};
        o["clicks"] = Json::array();
        for (const MarkClick& c : mark.clicks) o["clicks"].push_back({c.atS, c.x, c.y});
        if (!mark.path) return o;
        Json times = Json::array(), xs = Json::array(), ys = Json::array();
        for (const MarkStep& s : *mark.path) {
            times.push_back(to(s.timeS, 1e-4));
            xs.push_back(s.held() ? Json(to(s.x, 0.01)) : Json());
            ys.push_back(s.held() ? Json(to(s.y, 0.01)) : Json());
        }
        o["path"] = {{"t_s", times}, {"x", xs}, {"y", ys}};
        return o;
    }
    static PointMarked read(const Json& o) {
        const auto kind = markFromName(o.at("point").get<std::string>());
        if (!kind) throw std::out_of_range("point");
        Mark mark{*kind, o.value("nearer_cm", 0.0), {}, nullptr};
        for (const Json& c : o.at("clicks")) mark.clicks.push_back({c.at(0), c.at(1), c.at(2)});
        if (o.contains("path")) {
            const Json &times = o["path"].at("t_s"), &xs = o["path"].at("x"), &ys = o["path"].at("y");
            auto path = std::make_shared<std::vector<MarkStep>>();
            auto place = [](const Json& v) {
                return v.is_null() ? std::numeric_limits<double>::quiet_NaN() : v.get<double>();
            };
            for (std::size_t i = 0; i < times.size(); ++i)
                path->push_back({times[i].get<double>(), place(xs.at(i)), place(ys.at(i))});
            mark.path = std::move(path);
        }
        return {isOfSecond(o), std::move(mark)};
    }
    void apply(auto& set) const {
        if (!mark.clicks.empty()) set.views[second].marks.push_back(mark);
    }
};

}  // namespace zevo
