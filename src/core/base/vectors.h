#pragma once

#include <Eigen/Core>
#include <Eigen/Geometry>

namespace zevo {

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d;

}  // namespace zevo
