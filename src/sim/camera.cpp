#include "sim/camera.h"

#include <cmath>

#include "core/base/degrees.h"

namespace zevo::sim {

Camera::Camera(const CameraSpec& spec) : m_spec(spec) {
    const double a = spec.azimuthDeg * kRadiansPerDegree;
    m_eye = Vec3(std::cos(a) * spec.distanceM, spec.heightM, std::sin(a) * spec.distanceM);
    m_forward = (Vec3(0, spec.aimHeightM, 0) - m_eye).normalized();
    m_right = m_forward.cross(Vec3(0, 1, 0)).normalized();
    m_forward = (Vec3(0, spec.aimHeightM, 0) + spec.aimSideM * m_right - m_eye).normalized();
    const Vec3 level = m_forward.cross(Vec3(0, 1, 0)).normalized(), upright = level.cross(m_forward);
    const double roll = spec.rollDeg * kRadiansPerDegree;
    // A camera turned clockwise shows the world turned the other way.
    m_right = std::cos(roll) * level - std::sin(roll) * upright;
    m_up = std::sin(roll) * level + std::cos(roll) * upright;
}

bool Camera::project(const Vec3& world, double& x, double& y) const {
    const Vec3 q = world - m_eye;
    const double depth = q.dot(m_forward);
    if (depth < 0.05) return false;
    x = m_spec.width / 2.0 + focalPx() * q.dot(m_right) / depth;
    y = m_spec.height / 2.0 - focalPx() * q.dot(m_up) / depth;
    return true;
}

}  // namespace zevo::sim
