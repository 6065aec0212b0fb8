#pragma once

// What the key light reaches; not for use outside src/sim.

#include <Eigen/Core>
#include <vector>

#include "sim/mesh.h"

namespace zevo::sim {

/// A corner whose normal points away by more than this is not seen (or lit); the rest allows for smooth normals.
inline constexpr float kFacingAway = -0.25F;

/// The scene as a far light sees it: how near to the light the nearest surface lies, over 2.6 m around the client.
class ShadowMap {
  public:
    ShadowMap() = default;
    /// `toLight`: unit, from the client.
    explicit ShadowMap(const Eigen::Vector3f& toLight);
    /// Where a place of the room lies in the map: two pixels, and how near to the light.
    Eigen::Vector3f place(const Eigen::Vector3f& world) const;
    void fill(const Mesh& mesh);
    /// Share of the light that reaches such a place, this much nearer to the light: 0 shadow … 1 lit.
    float lit(const Eigen::Vector3f& place, float nearer, int spread) const;

  private:
    Eigen::Vector3f m_toLight = Eigen::Vector3f::Zero(), m_x = m_toLight, m_y = m_toLight;
    std::vector<float> m_nearest;
    int m_x0 = 0, m_x1 = -1, m_y0 = 0, m_y1 = -1;  ///< part of it that holds anything
};

}  // namespace zevo::sim
