#include "core/serial/camera_hold_json.h"

#include <nlohmann/json.hpp>

namespace zevo {

using nlohmann::json;

json holdJson(const std::optional<CameraHold>& hold) {
    if (!hold) return nullptr;
    return {{"roll_deg", hold->rollDeg},
            {"pitch_deg", hold->pitchDeg},
            {"roll_pm90", hold->rollPm90},
            {"pitch_pm90", hold->pitchPm90}};
}

std::optional<CameraHold> holdFrom(const json& hold) {
    if (hold.is_null()) return std::nullopt;
    return CameraHold{hold.at("roll_deg"), hold.at("pitch_deg"), hold.at("roll_pm90"), hold.at("pitch_pm90")};
}

std::string writeHold(const std::optional<CameraHold>& hold) {
    return holdJson(hold).dump();
}

std::optional<CameraHold> readHold(const std::string& text) {
    try {
        return holdFrom(json::parse(text));
    } catch (const json::exception&) {
        return std::nullopt;
    }
}

}  // namespace zevo
