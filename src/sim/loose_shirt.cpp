#include "sim/loose_shirt.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "sim/figure.h"
#include "sim/poser.h"

namespace zevo::sim {

void hangShirt(const BodySpec& body, const Skeleton& s, Mesh& mesh) {
    if (body.looseShirtCm <= 0) return;
    constexpr double kHem = -0.16, kShoulders = 0.92, kFoldM = 0.005, kFoldEveryM = 0.09;
    std::vector<char> cloth(mesh.vertices.size(), 0);
    for (std::size_t n = 0; n < mesh.triangles.size(); ++n)
        if (mesh.groups[n] == Shirt || mesh.groups[n] == Shorts)
            for (auto v : mesh.triangles[n]) cloth[v] = 1;
    const Vec3 trunk = s.midShoulder - s.midHip;
    const double length = trunk.norm(), lean = std::atan2(trunk.x(), trunk.y());
    for (std::size_t i = 0; i < cloth.size(); ++i) {
        if (!cloth[i]) continue;
        Mesh::Vertex& v = mesh.vertices[i];
        const Vec3 normal = v.normal.cast<double>();
        const double u = (v.position.cast<double>() - s.midHip).dot(trunk) / (length * length);
        if (u < kHem || u > kShoulders) continue;
        // Sleeves reach beyond the trunk's breadth; they are not what hangs here.
        if (std::abs((v.position.cast<double>() - s.midHip).dot(s.chestRight)) > 0.13 * body.statureCm / 100) continue;
        const double weight = ease((kShoulders - u) / 0.4) * ease((u - kHem) / 0.06);
        const double hang = body.looseShirtCm / 100 * 0.5 * (1 - normal.y());
        const double fold =
            kFoldM * std::sin(2 * std::numbers::pi * (u * length / kFoldEveryM + 1.5 * lean)) * (1 - 0.6 * normal.y());
        v.position += (weight * (hang + fold) * normal).cast<float>();
    }
}

}  // namespace zevo::sim
