#include "core/serial/seen_from_json.h"

#include <array>
#include <nlohmann/json.hpp>

namespace zevo {

std::string writeSeenFrom(const std::vector<SeenFrom>& views) {
    auto out = nlohmann::json::array();
    for (const SeenFrom& v : views)
        out.push_back({{"read_by", v.readBy},
                       {"view", viewName(v.view)},
                       {"near", sideName(v.near)},
                       {"off_square_deg", v.offSquareDeg},
                       {"body_share", v.bodyShare},
                       {"across_share", v.acrossShare},
                       {"down_share", v.downShare},
                       {"picture_shape", v.pictureShape},
                       {"by_length", v.byLength}});
    return out.dump();
}

std::vector<SeenFrom> readSeenFrom(const std::string& text) {
    std::vector<SeenFrom> out;
    try {
        for (const auto& j : nlohmann::json::parse(text)) {
            SeenFrom v;
            v.readBy = j.at("read_by");
            const std::string view = j.at("view");
            bool known = false;
            for (ViewKind kind :
                 {ViewKind::Side, ViewKind::Front, ViewKind::Rear, ViewKind::Oblique, ViewKind::FootEnd})
                if (viewName(kind) == view) v.view = kind, known = true;
            if (!known) return {};
            v.near = j.at("near").get<std::string>() == sideName(Side::Left) ? Side::Left : Side::Right;
            v.offSquareDeg = j.at("off_square_deg");
            v.bodyShare = j.at("body_share");
            v.acrossShare = j.at("across_share");
            v.downShare = j.at("down_share");
            v.pictureShape = j.at("picture_shape");
            v.byLength = j.at("by_length");
            out.push_back(std::move(v));
        }
    } catch (const nlohmann::json::exception&) {
        return {};
    }
    return out;
}

}  // namespace zevo
