#pragma once

// The packaged parametric human: its mesh, its morphs, and what it can wear. Fetched by `bench/people/fetch`, used by
// benches only, nothing of it is part of Zevo.

#include <array>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/base/vectors.h"
#include "sim/mesh.h"

namespace bench {

/// Up to four bones that move a vertex.
struct BoneShares {
    std::array<int, 4> bone{};  ///< index in HumanPackage::bones()
    std::array<double, 4> share{};
};

/// A mesh of quadrangles with its places in a texture.
struct QuadMesh {
    struct Face {
        std::array<int, 4> vertex{}, uv{};
        int material = 0;
    };
    std::vector<zevo::Vec3> vertices;
    std::vector<Eigen::Vector2f> uvs;
    std::vector<Face> faces;
    std::vector<BoneShares> bones;  ///< one a vertex, or none
};

/// Clothes, shoes, hair, eyes: a mesh that lies on the body.
struct Proxy {
    QuadMesh mesh;
    std::vector<std::array<int, 3>> on;    ///< body vertices of each vertex
    std::vector<zevo::Vec3> weights, off;  ///< of those three; and how far off
    std::vector<char> hides;               ///< one a body vertex: what lies beneath
    std::shared_ptr<const zevo::sim::Texture> texture;

    /// Its vertices on a body of this shape.
    std::vector<zevo::Vec3> lieOn(const std::vector<zevo::Vec3>& body) const;
};

/// Lengths in the package's own unit, decimetres; x to the person's left, y up, z forward.
class HumanPackage {
  public:
    /// `folder`: node_modules of bench/people. The error says how to fetch it.
    static zevo::Result<std::shared_ptr<const HumanPackage>> open(const std::string& folder);

    const QuadMesh& body() const { return m_body; }
    const std::vector<std::string>& bones() const { return m_bones; }
    /// Materials of the body's faces by index; the visible skin is "body".
    const std::vector<std::string>& materials() const { return m_materials; }
    /// Where a joint lies in a body of this shape, such as "lowerleg01.L____head".
    zevo::Vec3 joint(const std::string& name, const std::vector<zevo::Vec3>& body) const;
    /// Adds `share` of a morph, named below data/targets and without its ending; false when there is none.
    bool morph(const std::string& name, double share, std::vector<zevo::Vec3>& body) const;
    /// `kind`: clothes, hair, eyes, eyebrows.
    zevo::Result<Proxy> proxy(const std::string& kind, const std::string& name) const;
    /// The skin named after age, ancestry and sex, such as "young_asian_female".
    zevo::Result<std::shared_ptr<const zevo::sim::Texture>> skin(const std::string& name) const;

  private:
    std::string m_folder;
    QuadMesh m_body;
    std::vector<std::string> m_bones, m_materials;
    std::map<std::string, std::vector<int>> m_joints;
    std::map<std::string, std::size_t> m_morphs;  ///< name → place in the file of morphs
};

}  // namespace bench
