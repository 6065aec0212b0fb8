#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/base/result.h"
#include "core/session/session.h"

namespace zevo {

/// What was seen in a clip as one CBOR map (RFC 8949): "schema" "zevo-observation-1", "clip" (frames, duration_s,
/// width, height, rotation_deg, camera_hold: null or roll and pitch with their ±), "engine", "model", "network",
/// "notices" (JSON text), and as byte strings the blocks of pose_record.h: "poses", "opinions", "outlines", "contours".
std::vector<std::uint8_t> writeObservation(const Observation& observation);
/// Error: damaged, or of another schema.
Result<Observation> readObservation(std::span<const std::uint8_t> block);

}  // namespace zevo
