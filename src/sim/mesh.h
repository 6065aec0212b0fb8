#pragma once

#include <algorithm>
#include <cstdint>
#include <memory>
#include <vector>

#include "core/base/vectors.h"
#include "sim/body.h"

namespace zevo::sim {

/// Pieces of a bystander have the group of the client's piece plus this.
inline constexpr std::uint8_t kBystanderGroups = 32;

/// A picture laid on a surface; the last of four channels is how far it hides what is behind (cloth that ends, hair).
struct Texture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgba;
    bool seeThrough = false;  ///< some of it hides nothing
    /// Offset in `rgba` of the pixel at u to the right and v up, both 0…1.
    std::size_t at(float u, float v) const {
        const auto place = [](float share, int size) {
            return std::clamp(static_cast<int>(share * size), 0, size - 1);
        };
        return 4 * (static_cast<std::size_t>(place(1 - v, height)) * width + place(u, width));
    }
};

/// Triangles with smooth normals. `group` keeps shading smooth inside one piece of cloth or skin and sharp
/// at its edge.
struct Mesh {
    struct Vertex {
        Eigen::Vector3f position, normal, colour;  ///< colour linear 0…1
        float fold = 0;                            ///< strength of cloth folds here
        Eigen::Vector2f uv{0, 0};                  ///< place in the texture, where there is one
    };
    std::vector<Vertex> vertices;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::uint8_t> groups;  ///< one a triangle: 1…14 the client, 15 things, beyond that bystanders
    /// Of the first triangles, index of their texture plus one, 0: the corners' colours. Shorter than the triangles
    /// when the rest has none. A texture's colour is multiplied by the corners'.
    std::vector<std::uint8_t> textureOf;
    std::vector<std::shared_ptr<const Texture>> textures;

    /// Null where the triangle has none.
    const Texture* texture(std::size_t triangle) const {
        const auto n = triangle < textureOf.size() ? textureOf[triangle] : 0;
        return n == 0 ? nullptr : textures[n - 1U].get();
    }

    void clear();
    /// Without its textures.
    void append(const Mesh& other);
};

/// One cross-section of a tube: an ellipse around `centre` in the plane of `front` and `side`.
struct Ring {
    Vec3 centre, front, side;
    double radiusFront = 0, radiusSide = 0;
};

struct Paint {
    Colour colour;
    std::uint8_t group = 0;
    float fold = 0;
};

/// A tube through the rings, closed by flat caps.
void addTube(Mesh& mesh, const std::vector<Ring>& rings, const Paint& paint, int around = 20);
/// An ellipsoid with half axes given as vectors; `keep` in −1…1 cuts away everything below that height on axis b.
void addEllipsoid(Mesh& mesh, const Vec3& centre, const Vec3& a, const Vec3& b, const Vec3& c, const Paint& paint,
                  int around = 18, double keep = -1.0);
/// A rounded cone from p (radius rp) to q (radius rq).
void addCapsule(Mesh& mesh, const Vec3& p, const Vec3& q, double rp, double rq, const Paint& paint, int around = 12);

/// An upright box.
void addBox(Mesh& mesh, const Vec3& centre, const Vec3& half, const Paint& paint);

/// Display colour to linear light.
Eigen::Vector3f linear(Colour c);

}  // namespace zevo::sim
