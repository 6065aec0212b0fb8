#include "sim/shadow_map.h"

#include <algorithm>
#include <cmath>

namespace zevo::sim {
namespace {

using V3 = Eigen::Vector3f;
constexpr int kSide = 640;
constexpr float kSpanM = 2.6F;

}  // namespace

ShadowMap::ShadowMap(const V3& toLight)
    : m_toLight(toLight),
      m_x(toLight.cross(V3(0, 1, 0)).normalized()),
      m_y(m_x.cross(toLight)),
      m_nearest(static_cast<std::size_t>(kSide) * kSide) {}

V3 ShadowMap::place(const V3& world) const {
    const V3 q = world - V3(0, 0.85F, 0);
    constexpr float kScale = kSide / kSpanM;
    return {q.dot(m_x) * kScale + kSide / 2.0F, q.dot(m_y) * kScale + kSide / 2.0F, q.dot(m_toLight)};
}

void ShadowMap::fill(const Mesh& mesh) {
    std::fill(m_nearest.begin(), m_nearest.end(), -1e9F);
    std::vector<V3> p(mesh.vertices.size());
    std::vector<char> dark(mesh.vertices.size());
    m_x0 = m_y0 = kSide, m_x1 = m_y1 = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        p[i] = place(mesh.vertices[i].position);
        dark[i] = mesh.vertices[i].normal.dot(m_toLight) < kFacingAway;
        m_x0 = std::min(m_x0, static_cast<int>(p[i].x())), m_x1 = std::max(m_x1, static_cast<int>(p[i].x()));
        m_y0 = std::min(m_y0, static_cast<int>(p[i].y())), m_y1 = std::max(m_y1, static_cast<int>(p[i].y()));
    }
    for (const auto& t : mesh.triangles) {
        const V3 &a = p[t[0]], &b = p[t[1]], &c = p[t[2]];
        if (dark[t[0]] && dark[t[1]] && dark[t[2]]) continue;  // its lit side casts the shadow
        const float area = (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
        if (std::abs(area) < 1e-6F) continue;
        const float inverse = 1 / area, step0 = (b.y() - c.y()) * inverse, step1 = (c.y() - a.y()) * inverse;
        const int x0 = std::max(0, static_cast<int>(std::min({a.x(), b.x(), c.x()}))),
                  x1 = std::min(kSide - 1, static_cast<int>(std::max({a.x(), b.x(), c.x()})) + 1);
        const int y0 = std::max(0, static_cast<int>(std::min({a.y(), b.y(), c.y()}))),
                  y1 = std::min(kSide - 1, static_cast<int>(std::max({a.y(), b.y(), c.y()})) + 1);
        for (int y = y0; y <= y1; ++y) {
            const float px = x0 + 0.5F, py = y + 0.5F;
            float w0 = ((b.x() - px) * (c.y() - py) - (b.y() - py) * (c.x() - px)) * inverse;
            float w1 = ((c.x() - px) * (a.y() - py) - (c.y() - py) * (a.x() - px)) * inverse;
            for (int x = x0; x <= x1; ++x, w0 += step0, w1 += step1) {
                const float w2 = 1 - w0 - w1;
                if (w0 < 0 || w1 < 0 || w2 < 0) continue;
                float& s = m_nearest[static_cast<std::size_t>(y) * kSide + x];
                s = std::max(s, w0 * a.z() + w1 * b.z() + w2 * c.z());
            }
        }
    }
}

float ShadowMap::lit(const V3& place, float nearer, int spread) const {
    const int x = static_cast<int>(place.x()), y = static_cast<int>(place.y());
    const float depth = place.z() + nearer;
    if (x < 3 * spread || y < 3 * spread || x >= kSide - 3 * spread || y >= kSide - 3 * spread) return 1;
    if (x < m_x0 - spread || x > m_x1 + spread || y < m_y0 - spread || y > m_y1 + spread) return 1;
    int open = 0;
    for (int j = -1; j <= 1; ++j)
        for (int i = -1; i <= 1; ++i)
            open += m_nearest[static_cast<std::size_t>(y + j * spread) * kSide + x + i * spread] < depth;
    return open / 9.0F;
}

}  // namespace zevo::sim
