#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "core/body/outline.h"
#include "core/body/second_estimate.h"

namespace zevo {

/// Poses of a clip as a CBOR map (RFC 8949): "schema" "zevo-poses-2", "frames" n, and byte strings of little-endian
/// values, one array a quantity: "time_s" f64[n], "found" u8[n], "score" f32[n], "points" f32[n·33·4] (x, y,
/// visibility, presence), "world" f32[n·33·3], "feet" f32[n·4·3] (x, y, score), "stretch" i32[n·4];
/// since shoes are read as turned strips also "shoe_states" u8[n·4] (not looked, unclear, read) and "shoes" f32[n·4·4]
/// (rise, half, apart: pixels; likeness); since heads are laid over their pictures at rest also "heads_read" u8[n] and
/// "heads" f32[n·3] (turn: degrees; likeness; apart: degrees).
std::vector<std::uint8_t> writePoses(const PoseFrames& poses);
/// Error: damaged, or of another schema. Never reads past the block, whatever it says of itself.
Result<PoseFrames> readPoses(std::span<const std::uint8_t> block);

/// SecondEstimates likewise: "schema" "zevo-opinions-1", "time_s" f64[n], "network" u8[n] (0 heavy, 1 second), "points"
/// f32[n·33·4].
std::vector<std::uint8_t> writeSecondEstimates(const std::vector<SecondEstimate>& secondEstimates);
Result<std::vector<SecondEstimate>> readSecondEstimates(std::span<const std::uint8_t> block);

/// Outlines likewise: "schema" "zevo-outlines-2", "time_s" f64[n], "points" u32[n] (how many each has), "xy" f32[…].
std::vector<std::uint8_t> writeOutlines(const std::vector<Outline>& outlines);
Result<std::vector<Outline>> readOutlines(std::span<const std::uint8_t> block);

}  // namespace zevo
