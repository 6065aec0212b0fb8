#include "pipeline/room_reader.h"

#include "core/track/perspective.h"
#include "media/frame_source.h"
#include "vision/straight_edges.h"

namespace zevo::pipeline {

std::optional<CameraHold> readRoom(const std::string& clip, const PoseFrames& poses) {
    constexpr int kWidest = 1280;
    if (poses.empty()) return std::nullopt;
    auto source = media::openClip(clip, {kWidest});
    if (!source) return std::nullopt;
    const media::SourceFacts facts = (*source)->facts();
    std::vector<RoomLine> lines;
    int views = 0;
    media::VideoFrame frame;
    for (double share : {0.0, 0.5, 0.9}) {
        const double atS = poses.front().timeS + share * (poses.back().timeS - poses.front().timeS);
        if (share > 0 && !(*source)->seek(atS)) continue;
        const auto got = (*source)->next(frame);
        if (!got || !*got) continue;
        ++views;
        const float scale = static_cast<float>(facts.width) / static_cast<float>(frame.picture.width);
        for (const RoomLine& l : straightEdges(frame.picture.view()))
            lines.push_back({l.x1 * scale, l.y1 * scale, l.x2 * scale, l.y2 * scale});
    }
    return cameraHold(roomWithout(poses, lines), views, facts.width, facts.height,
                      assumedFocalPx(facts.width, facts.height));
}

}  // namespace zevo::pipeline
