#pragma once

// Inner part of the skinned figure: its bones, where they lie in a skeleton, and which of them move a point of the
// mesh.

#include <array>
#include <vector>

#include "sim/skeleton.h"

namespace zevo::sim {

enum Bone {
    Pelvis,
    Lumbar,
    Ribs,
    Neck,
    Head,
    UpperArmL,
    UpperArmR,
    ForearmL,
    ForearmR,
    ThighL,
    ThighR,
    ShankL,
    ShankR,
    FootL,
    FootR,
    ToesL,
    ToesR,
    kBones
};

/// A bone's place: from its near joint along it, with the body's right as second direction.
struct Place {
    Vec3 origin = Vec3::Zero(), along = Vec3(0, 1, 0), side = Vec3(0, 0, 1);
    double length = 1;
};
using Places = std::array<Place, kBones>;

/// Axes of a place as columns: along, side, and the third.
Eigen::Matrix3d axes(const Place& place);
Places placesOf(const Skeleton& skeleton);

struct SkinVertex {
    Vec3 position = Vec3::Zero(), normal = Vec3::Zero();
    std::array<int, 4> bone{};
    std::array<double, 4> weight{};
};

/// Joint centres of a standing mesh (metres, facing +x, arms and legs apart) of this height.
Skeleton bindSkeleton(const std::vector<Vec3>& points, double stature);

/// How much each bone moves a point of the standing mesh, from where it lies along the chains of bones.
std::array<double, kBones> ownWeights(const Vec3& point, const Skeleton& bind, double stature);

}  // namespace zevo::sim
