#pragma once

#include "core/base/vectors.h"

namespace zevo::sim {

/// A pinhole camera beside the client.
struct CameraSpec {
    int width = 1280;
    int height = 720;
    /// Where the camera stands, seen from the client: 90 = their right side, −90 = their left, 0 = in front.
    double azimuthDeg = 90;
    double distanceM = 3.3;
    double heightM = 1.0;
    double aimHeightM = 0.88;
    double aimSideM = 0;  ///< aimed beside the client, to the picture's right +
    double rollDeg = 0;   ///< not level: picture turned clockwise +
    double focal = 1.25;  ///< focal length ÷ picture height
};

/// Where world points (skeleton.h) lie in the picture.
class Camera {
  public:
    explicit Camera(const CameraSpec& spec);
    const CameraSpec& spec() const { return m_spec; }
    /// Picture position of a world point, continuous pixels; false when behind the camera.
    bool project(const Vec3& world, double& x, double& y) const;

    const Vec3& eye() const { return m_eye; }
    /// Unit axes: to the picture's right, up, and into the picture.
    const Vec3& right() const { return m_right; }
    const Vec3& up() const { return m_up; }
    const Vec3& forward() const { return m_forward; }
    double focalPx() const { return m_spec.focal * m_spec.height; }

  private:
    CameraSpec m_spec;
    Vec3 m_eye, m_right, m_up, m_forward;
};

}  // namespace zevo::sim
