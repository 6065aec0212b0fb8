#include "sim/camera.h"

#include <cmath>
#include <numbers>

namespace zevo::sim {

Camera::Camera(const CameraSpec& spec) : m_spec(spec) {
    const double a = spec.azimuthDeg * std::numbers::pi / 180;
    m_eye = Vec3(std::cos(a) * spec.distanceM, spec.heightM, std::sin(a) * spec.distanceM);
    m_forward = (Vec3(0, spec.aimHeightM, 0) - m_eye).normalized();
    m_right = m_forward.cross(Vec3(0, 1, 0)).normalized();
    m_up = m_right.cross(m_forward);
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
