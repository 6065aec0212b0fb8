#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>

#include "core/track/room_lines.h"

namespace zevo {

/// How a camera was held as a JSON object (`roll_deg pitch_deg roll_pm90 pitch_pm90`), null where the room did not
/// tell.
nlohmann::json holdJson(const std::optional<CameraHold>& hold);
/// Nothing where it is null. Throws nlohmann::json::exception where it is anything else.
std::optional<CameraHold> holdFrom(const nlohmann::json& hold);

/// The same as text, and back; nothing where it cannot be read.
std::string writeHold(const std::optional<CameraHold>& hold);
std::optional<CameraHold> readHold(const std::string& text);

}  // namespace zevo
