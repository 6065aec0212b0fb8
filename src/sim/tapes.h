#pragma once

#include <map>
#include <vector>

#include "core/marks/marks.h"
#include "sim/camera.h"
#include "sim/figure.h"
#include "sim/skeleton.h"

namespace zevo::sim {

/// Pieces of tape stuck to the virtual client: on both hip bones and knee caps, between the shoulder blades and on the
/// sacrum, the last two on the side that faces the camera. Those on bone (hips, sacrum) go with the pelvis, the others
/// with one point of the skin or of the cloth. `body` in what follows: the client's mesh before anything was added to
/// it.
class Tapes {
  public:
    /// Sticks them on, in the pose of a moment at rest, where the camera sees them: `near`: 0 left, 1 right; `behind`:
    /// those of the hips on the back of the pelvis.
    Tapes(const Mesh& body, const Skeleton& atRest, double statureCm, int near, bool behind);
    /// Adds them to a mesh: dark rings with a light dot, five centimetres across.
    void add(const Mesh& body, const Skeleton& s, Mesh& mesh) const;
    /// Where they are, room.
    std::map<MarkKind, Vec3> places(const Mesh& body, const Skeleton& s) const;

  private:
    /// A place and the way out of the skin there.
    struct Spot {
        Vec3 at = Vec3::Zero(), out = Vec3::Zero();
    };
    std::map<MarkKind, Spot> spots(const Mesh& body, const Skeleton& s) const;
    std::map<MarkKind, std::size_t> m_vertices;  ///< on skin
    std::map<MarkKind, Spot> m_onPelvis;         ///< on bone, in the pelvis's own axes
};

/// Where a bar's near end, a bell's middle and a stick's ends are, room; nothing of what is not there. `toCamera`: of
/// the room, level.
std::map<MarkKind, Vec3> thingsMarked(const Skeleton& s, const Vec3& toCamera);

}  // namespace zevo::sim
