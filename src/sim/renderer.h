#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "core/base/picture.h"
#include "sim/camera.h"
#include "sim/looks.h"
#include "sim/mesh.h"

namespace zevo::sim {

struct SceneSpec {
    CameraSpec camera;
    double noise = 2.0;      ///< sensor noise, standard deviation in 8-bit steps
    double light = 1.0;      ///< 1 = a well-lit room
    bool showClient = true;  ///< false: an empty room
    double shutter = 0;      ///< motion blur: share of the frame time the shutter is open
    std::string inFront;  ///< stands between camera and client: "" nothing, "post" of a rack, "bench" before the shins
    bool bystander = false;  ///< somebody stands in the back of the room
    std::uint64_t seed = 1;
    Colour wall{205, 202, 194}, floor{168, 132, 96};
    Looks looks;
};

/// Draws the client in a lit room. The room is drawn once; a frame costs the figure and its shadow.
/// One instance per thread.
class Renderer {
  public:
    explicit Renderer(const SceneSpec& scene);
    ~Renderer();
    Renderer(Renderer&&) noexcept;
    /// Puts things into the room that stay where they are and behind the client. They are lit once; no shadow of the
    /// client falls on them.
    void furnish(const Mesh& things);
    /// Draws frame number `frame` (seeds the noise) as it looks at a time.
    void draw(const Mesh& mesh, long frame, Picture& out, double timeS = 0);
    /// Where the client (not their load, not a bystander) was visible in the last frame drawn: 0 or 1 for each block of
    /// kMaskStep × kMaskStep pixels.
    static constexpr int kMaskStep = 2;
    void mask(std::vector<float>& inside, int& width, int& height) const;

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::sim
