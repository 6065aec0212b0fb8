#pragma once

#include <memory>
#include <string>

#include "core/base/result.h"
#include "sim/mesh.h"
#include "sim/skeleton.h"

namespace zevo::sim {

/// A body that can be put into any pose. Safe to use from several threads at once.
class Figure {
  public:
    virtual ~Figure() = default;
    /// Replaces `mesh` by the body in this pose, without what it holds (addProps).
    virtual void build(const Skeleton& skeleton, Mesh& mesh) const = 0;
};

/// The figure a body spec names: "drawn" from primitives, or "mesh", an anatomical mesh skinned to the same skeleton.
/// Two makings, because what the pose network makes of a drawn body depends on how it is drawn. The mesh is not part
/// of Zevo: it comes from Debian's package assimp-testmodels (human.zae, a MakeHuman export); an error says so where
/// it is missing.
Result<std::shared_ptr<const Figure>> makeFigure(const BodySpec& body);

/// The drawn figure without the detour over makeFigure.
void buildFigure(const Skeleton& skeleton, const BodySpec& body, Mesh& mesh);

/// The mesh read from a file Assimp knows, in metres, facing +z, arms and legs apart (see skinned_figure.cpp).
Result<std::shared_ptr<const Figure>> makeSkinnedFigure(const BodySpec& body, const std::string& meshFile);

/// Adds bars, bells, boxes and benches to a mesh.
void addProps(const std::vector<Prop>& props, Mesh& mesh);

/// Groups of the client's pieces: shading is smooth inside one and sharp at its edge.
enum Group : std::uint8_t {
    Skin = 1,
    Shirt = 2,
    Shorts = 3,
    Hair = 4,
    Face = 5,
    LeftTrouser = 6,
    RightTrouser = 7,
    LeftShoe = 8,
    RightShoe = 9,
    LeftLeg = 10,
    RightLeg = 11,
    LeftArm = 12,
    RightArm = 13,
    Trim = 14,
    Thing = 15
};

}  // namespace zevo::sim
