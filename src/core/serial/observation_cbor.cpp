#include "core/serial/observation_cbor.h"

#include <nlohmann/json.hpp>

#include "core/serial/camera_hold_json.h"
#include "core/serial/edit_json.h"
#include "core/serial/pose_record.h"

namespace zevo {
namespace {

using nlohmann::json;

constexpr const char* kSchema = "zevo-observation-1";

std::span<const std::uint8_t> bytesOf(const json& block) {
    return block.get_binary();
}

}  // namespace

std::vector<std::uint8_t> writeObservation(const Observation& o) {
    return json::to_cbor(json{{"schema", kSchema},
                              {"clip",
                               {{"frames", o.clip.frames},
                                {"duration_s", o.clip.durationS},
                                {"width", o.clip.width},
                                {"height", o.clip.height},
                                {"rotation_deg", o.clip.rotationDeg},
                                {"camera_hold", holdJson(o.clip.hold)}}},
                              {"engine", o.engine},
                              {"model", o.model},
                              {"network", o.network},
                              {"notices", writeNotices(o.notices)},
                              {"poses", json::binary(writePoses(o.poses))},
                              {"opinions", json::binary(writeSecondEstimates(o.secondEstimates))},
                              {"outlines", json::binary(writeOutlines(o.outlines))},
                              {"contours", json::binary(writeOutlines(o.contours))}});
}

Result<Observation> readObservation(std::span<const std::uint8_t> block) {
    const Error damaged{"What was seen in this clip cannot be read: the file is damaged, or from another Zevo.", {}};
    try {
        const json root = json::from_cbor(block.begin(), block.end());
        if (root.at("schema") != kSchema) return damaged;
        Observation o;
        const json& clip = root.at("clip");
        o.clip = {
            clip.at("frames"),       clip.at("duration_s"),
            clip.at("width"),        clip.at("height"),
            clip.at("rotation_deg"), clip.contains("camera_hold") ? holdFrom(clip.at("camera_hold")) : std::nullopt};
        o.engine = root.at("engine"), o.model = root.at("model"), o.network = root.at("network");
        o.notices = readNotices(root.at("notices"));
        auto poses = readPoses(bytesOf(root.at("poses")));
        if (!poses) return poses.error();
        o.poses = std::move(*poses);
        auto secondEstimates = readSecondEstimates(bytesOf(root.at("opinions")));
        if (!secondEstimates) return secondEstimates.error();
        o.secondEstimates = std::move(*secondEstimates);
        for (auto [name, into] : {std::pair{"outlines", &o.outlines}, {"contours", &o.contours}}) {
            auto lines = readOutlines(bytesOf(root.at(name)));
            if (!lines) return lines.error();
            *into = std::move(*lines);
        }
        return o;
    } catch (const json::exception& e) {
        return Error{damaged.message, e.what()};
    }
}

}  // namespace zevo
