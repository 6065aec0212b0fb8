#pragma once

#include <cstdint>
#include <memory>

#include "core/picture.h"
#include "sim/camera.h"
#include "sim/mesh.h"

namespace zevo::sim {

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

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::sim
