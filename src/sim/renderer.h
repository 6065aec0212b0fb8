#pragma once

#include <cstdint>
#include <memory>

#include "core/picture.h"
#include "sim/mesh.h"

namespace zevo::sim {

/// A pinhole camera beside the client.
struct CameraSpec {
    int width = 1280;
    int height = 720;
    /// Where the camera stands, seen from the client: 90 = his right side, −90 = his left, 0 = in front.
    double azimuthDeg = 90;
    double distanceM = 3.3;
    double heightM = 1.0;
    double aimHeightM = 0.88;
    double focal = 1.25;  ///< focal length ÷ picture height
};

struct SceneSpec {
    CameraSpec camera;
    double noise = 2.0;      ///< sensor noise, standard deviation in 8-bit steps
    double light = 1.0;      ///< 1 = a well-lit room
    bool showClient = true;  ///< false: an empty room
    std::uint64_t seed = 1;
    Colour wall{205, 202, 194}, floor{168, 132, 96};
};

/// Draws the client in a lit room. The room is drawn once; a frame costs the figure and its shadow.
/// One instance per thread.
class Renderer {
  public:
    explicit Renderer(const SceneSpec& scene);
    ~Renderer();
    Renderer(Renderer&&) noexcept;
    /// Draws frame number `frame` (seeds the noise).
    void draw(const Mesh& mesh, long frame, Picture& out);
    /// Picture position of a world point, continuous pixels; false when behind the camera.
    bool project(const Vec3& world, double& x, double& y) const;

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::sim
