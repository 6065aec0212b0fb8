#include "sim/room.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "sim/surface.h"

namespace zevo::sim {

using V3 = Eigen::Vector3f;

RoomPainter::RoomPainter(const SceneSpec& scene, const V3& eye, const V3& forward)
    : m_scene(scene),
      m_eye(eye),
      m_level(V3(forward.x(), 0, forward.z()).normalized()),
      m_across(m_level.cross(V3(0, 1, 0))) {
    const auto seed = static_cast<std::uint32_t>(scene.seed);
    m_windowAt = -1.2F + 2.4F * unit(seed * 31 + 1);
    m_doorAt = -1.3F + 2.6F * unit(seed * 31 + 2);
    constexpr std::array<Colour, 5> kStrong{
        {{176, 40, 36}, {30, 84, 160}, {232, 178, 30}, {34, 122, 66}, {28, 30, 34}}};
    m_door = linear(kStrong[hash(seed * 31 + 3) % kStrong.size()]);
}

V3 RoomPainter::wallColour(float u, float height, float grain) const {
    const std::string& wall = m_scene.looks.wall;
    const V3 base = linear(m_scene.wall);
    if (wall == "plain") return base;
    if (wall == "brick") {
        constexpr float kTall = 0.075F, kLong = 0.24F;
        const int row = static_cast<int>(std::floor(height / kTall));
        const float along = u / kLong + (row & 1 ? 0.5F : 0.0F);
        const int brick = static_cast<int>(std::floor(along));
        const float inRow = height / kTall - static_cast<float>(row), inBrick = along - static_cast<float>(brick);
        if (inRow < 0.13F || inBrick < 0.045F) return linear({188, 182, 172});
        const float tone = 0.7F + 0.5F * unit(static_cast<std::uint32_t>(row * 613 + brick + 100000));
        return V3(base.x() * tone, base.y() * tone * 0.82F, base.z() * tone * 0.74F) * (0.9F + 0.2F * grain);
    }
    if (wall == "stripes") return static_cast<int>(std::floor(u / 0.16F)) & 1 ? base : V3(base * 0.62F);
    if (wall == "tiles") {
        const float x = u / 0.15F - std::floor(u / 0.15F), y = height / 0.15F - std::floor(height / 0.15F);
        return height > 1.5F ? base : x < 0.03F || y < 0.03F ? V3(base * 0.6F) : linear({224, 226, 224});
    }
    if (height < 0.95F) {  // boarded lower half
        const float board = u / 0.22F - std::floor(u / 0.22F);
        return linear({176, 178, 166}) * (board < 0.03F ? 0.75F : 1.0F);
    }
    return height < 0.99F ? linear({150, 128, 100}) : base;
}

Surface RoomPainter::meet(const V3& d, float grain) const {
    const Looks& looks = m_scene.looks;
    const float toBack = (kBackWallM - m_eye.dot(m_level)) / std::max(1e-4F, d.dot(m_level));
    const float toFloor = d.y() < -1e-4F ? -m_eye.y() / d.y() : 1e9F;
    const float toSide = std::abs(d.dot(m_across)) > 1e-4F
                             ? (std::copysign(kSideWallM, d.dot(m_across)) - m_eye.dot(m_across)) / d.dot(m_across)
                             : 1e9F;
    const float t = std::min({toBack, toFloor, toSide > 0 ? toSide : 1e9F});
    Surface s;
    s.place = m_eye + d * t;
    const float u = s.across = s.place.dot(m_across), v = s.away = s.place.dot(m_level), height = s.place.y();
    if (t == toFloor) {
        s.normal = V3(0, 1, 0);
        s.colour = linear(m_scene.floor) * looks.floorTone(u, v);
        if (looks.mat && std::abs(u) < 1.05F && std::abs(v) < 0.48F) {
            const bool edge = std::abs(u) > 1.02F || std::abs(v) > 0.45F;
            s.colour = linear({86, 98, 92}) * (edge ? 0.8F : 1.0F + 0.05F * grain);
        }
    } else if (t == toBack) {
        s.normal = -m_level;
        s.colour = height < 0.11F ? V3(linear({232, 228, 218}) * (height > 0.10F ? 0.7F : 1.0F))
                                  : wallColour(u, height, grain);
        if (looks.door && std::abs(u - m_doorAt) < 0.46F && height < 2.05F)
            s.colour = std::abs(u - m_doorAt) > 0.42F ? linear({226, 222, 212}) : m_door;
        if (looks.window && std::abs(u - m_windowAt) < 0.62F && height > 0.85F && height < 2.0F) {
            const bool bar = std::abs(u - m_windowAt) > 0.57F || std::abs(u - m_windowAt) < 0.02F || height < 0.89F;
            s.colour = linear({222, 220, 214});
            if (!bar) s.glow = V3(1.3F, 1.35F, 1.4F);
        }
    } else {
        s.normal = m_across * (d.dot(m_across) > 0 ? -1.0F : 1.0F);
        s.colour = height < 0.11F ? linear({232, 228, 218}) : V3(linear(m_scene.wall) * 0.92F);
    }
    return s;
}

}  // namespace zevo::sim
