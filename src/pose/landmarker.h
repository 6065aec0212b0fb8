#pragma once

#include <optional>
#include <vector>

#include "core/base/picture.h"
#include "core/body/landmarks.h"
#include "pose/network.h"
#include "pose/region.h"

namespace zevo::pose {

/// What the landmark network says about one region.
struct LandmarkReading {
    PoseFrame pose;
    Region nextRegion;  ///< where to look in the next frame
    /// 256 × 256 probabilities of "body" over the region; filled only by a Landmarker made for outlines.
    std::vector<float> body;
};

/// The landmark network with its heat-map refinement.
class Landmarker {
  public:
    enum class Outline { Skip, Compute };
    static Result<Landmarker> create(const Graph& graph, Outline outline = Outline::Skip);
    Result<LandmarkReading> read(const PictureView& picture, const Region& region);
    Network& network() { return m_network; }

    static constexpr int kSide = 256;

  private:
    explicit Landmarker(Network network) : m_network(std::move(network)) {}
    Network m_network;
};

}  // namespace zevo::pose
