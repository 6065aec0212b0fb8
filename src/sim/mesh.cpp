#include "sim/mesh.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace zevo::sim {

using std::numbers::pi;

void Mesh::clear() {
    vertices.clear();
    triangles.clear();
    groups.clear();
    textureOf.clear();
    textures.clear();
}

void Mesh::append(const Mesh& other) {
    const auto first = static_cast<std::uint32_t>(vertices.size());
    vertices.insert(vertices.end(), other.vertices.begin(), other.vertices.end());
    groups.insert(groups.end(), other.groups.begin(), other.groups.end());
    for (const auto& t : other.triangles) triangles.push_back({t[0] + first, t[1] + first, t[2] + first});
}

Eigen::Vector3f linear(Colour c) {
    static const auto table = [] {
        std::array<float, 256> t{};
        for (int v = 0; v < 256; ++v) t[static_cast<std::size_t>(v)] = std::pow(static_cast<float>(v) / 255.0F, 2.2F);
        return t;
    }();
    return {table[c.r], table[c.g], table[c.b]};
}

namespace {

void addGrid(Mesh& mesh, std::uint32_t first, int rows, int around, std::uint8_t group) {
    for (int r = 0; r + 1 < rows; ++r)
        for (int k = 0; k < around; ++k) {
            const auto a = first + static_cast<std::uint32_t>(r * around + k);
            const auto b = first + static_cast<std::uint32_t>(r * around + (k + 1) % around);
            const auto up = static_cast<std::uint32_t>(around);
            mesh.triangles.push_back({a, b, a + up});
            mesh.triangles.push_back({b, b + up, a + up});
            mesh.groups.push_back(group);
            mesh.groups.push_back(group);
        }
}

}  // namespace

void addTube(Mesh& mesh, const std::vector<Ring>& rings, const Paint& paint, int around) {
    if (rings.size() < 2) return;
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    const Eigen::Vector3f colour = linear(paint.colour);
    for (std::size_t r = 0; r < rings.size(); ++r) {
        const Ring& ring = rings[r];
        const Ring& before = rings[r == 0 ? 0 : r - 1];
        const Ring& after = rings[std::min(r + 1, rings.size() - 1)];
        for (int k = 0; k < around; ++k) {
            const double a = 2 * pi * k / around, c = std::cos(a), s = std::sin(a);
            auto at = [&](const Ring& q) -> Vec3 {
                return q.centre + q.radiusFront * c * q.front + q.radiusSide * s * q.side;
            };
            const Vec3 along = at(after) - at(before);
            const Vec3 tangent = -ring.radiusFront * s * ring.front + ring.radiusSide * c * ring.side;
            Vec3 normal = tangent.cross(along);
            const Vec3 outward = ring.radiusSide * c * ring.front + ring.radiusFront * s * ring.side;
            if (normal.squaredNorm() < 1e-18) normal = outward;
            if (normal.dot(outward) < 0) normal = -normal;
            mesh.vertices.push_back({at(ring).cast<float>(), normal.normalized().cast<float>(), colour, paint.fold});
        }
    }
    addGrid(mesh, first, static_cast<int>(rings.size()), around, paint.group);
    for (int end = 0; end < 2; ++end) {
        const std::size_t r = end == 0 ? 0 : rings.size() - 1;
        const Vec3 normal =
            (end == 0 ? rings[0].centre - rings[1].centre : rings[r].centre - rings[r - 1].centre).normalized();
        const auto hub = static_cast<std::uint32_t>(mesh.vertices.size());
        mesh.vertices.push_back({rings[r].centre.cast<float>(), normal.cast<float>(), colour, paint.fold});
        for (int k = 0; k < around; ++k) {
            const auto a = first + static_cast<std::uint32_t>(r * around + k);
            const auto b = first + static_cast<std::uint32_t>(r * around + (k + 1) % around);
            mesh.triangles.push_back({hub, a, b});
            mesh.groups.push_back(paint.group);
        }
    }
}

void addEllipsoid(Mesh& mesh, const Vec3& centre, const Vec3& a, const Vec3& b, const Vec3& c, const Paint& paint,
                  int around, double keep) {
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    const int rows = around / 2 + 1;
    const double low = std::asin(std::clamp(keep, -1.0, 1.0));
    const Eigen::Vector3f colour = linear(paint.colour);
    for (int r = 0; r < rows; ++r) {
        const double lat = low + (pi / 2 - low) * r / (rows - 1);
        for (int k = 0; k < around; ++k) {
            const double lon = 2 * pi * k / around;
            const double x = std::cos(lat) * std::cos(lon), y = std::sin(lat), z = std::cos(lat) * std::sin(lon);
            const Vec3 normal = x * a / a.squaredNorm() + y * b / b.squaredNorm() + z * c / c.squaredNorm();
            mesh.vertices.push_back({(centre + x * a + y * b + z * c).cast<float>(), normal.normalized().cast<float>(),
                                     colour, paint.fold});
        }
    }
    addGrid(mesh, first, rows, around, paint.group);
}

void addCapsule(Mesh& mesh, const Vec3& p, const Vec3& q, double rp, double rq, const Paint& paint, int around) {
    const Vec3 along = (q - p).normalized();
    const Vec3 any = std::abs(along.y()) < 0.9 ? Vec3(0, 1, 0) : Vec3(1, 0, 0);
    const Vec3 front = along.cross(any).normalized(), side = along.cross(front);
    std::vector<Ring> rings;
    for (int i = 0; i <= 4; ++i) {
        const double a = pi / 2 * (1 - i / 4.0);
        rings.push_back({p - along * rp * std::sin(a), front, side, rp * std::max(0.02, std::cos(a)),
                         rp * std::max(0.02, std::cos(a))});
    }
    for (int i = 0; i <= 4; ++i) {
        const double a = pi / 2 * i / 4.0;
        rings.push_back({q + along * rq * std::sin(a), front, side, rq * std::max(0.02, std::cos(a)),
                         rq * std::max(0.02, std::cos(a))});
    }
    addTube(mesh, rings, paint, around);
}

void addBox(Mesh& mesh, const Vec3& centre, const Vec3& half, const Paint& paint) {
    const Eigen::Vector3f colour = linear(paint.colour);
    for (int axis = 0; axis < 3; ++axis)
        for (double side : {-1.0, 1.0}) {
            const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
            Vec3 normal = Vec3::Zero();
            normal[axis] = side;
            const int u = (axis + 1) % 3, v = (axis + 2) % 3;
            for (int k = 0; k < 4; ++k) {
                Vec3 p = centre + half.cwiseProduct(normal);
                p[u] += (k == 1 || k == 2 ? 1 : -1) * half[u];
                p[v] += (k >= 2 ? 1 : -1) * half[v];
                mesh.vertices.push_back({p.cast<float>(), normal.cast<float>(), colour, 0});
            }
            mesh.triangles.push_back({first, first + 1, first + 2});
            mesh.triangles.push_back({first, first + 2, first + 3});
            mesh.groups.insert(mesh.groups.end(), 2, paint.group);
        }
}

}  // namespace zevo::sim
