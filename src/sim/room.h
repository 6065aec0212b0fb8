#pragma once

// What stands still behind the client; not for use outside src/sim.

#include <Eigen/Core>

#include "sim/renderer.h"

namespace zevo::sim {

/// How far the walls stand from the client.
inline constexpr float kBackWallM = 1.9F, kSideWallM = 2.7F;

/// What a ray meets in the room.
struct Surface {
    Eigen::Vector3f place, normal, colour;           ///< colour: linear, before any light
    Eigen::Vector3f glow = Eigen::Vector3f::Zero();  ///< light of its own
    float across = 0, away = 0;                      ///< of the place, from the client: to the right and back
};

/// Floor, walls and what is on them, as a camera at `eye` that looks along `forward` sees them.
class RoomPainter {
  public:
    RoomPainter(const SceneSpec& scene, const Eigen::Vector3f& eye, const Eigen::Vector3f& forward);
    /// `grain`: 0…1 by chance, for what is rough.
    Surface meet(const Eigen::Vector3f& direction, float grain) const;

  private:
    Eigen::Vector3f wallColour(float u, float height, float grain) const;

    const SceneSpec& m_scene;
    Eigen::Vector3f m_eye, m_level, m_across;
    float m_windowAt = 0, m_doorAt = 0;
    Eigen::Vector3f m_door;
};

}  // namespace zevo::sim
