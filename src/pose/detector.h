#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/base/picture.h"
#include "pose/network.h"
#include "pose/region.h"

namespace zevo::pose {

/// A person found in a whole picture.
struct Detection {
    float score = 0;
    /// Box over head and upper body, picture pixels.
    double left = 0, top = 0, width = 0, height = 0;
    /// Where the landmark network should look.
    Region region;
};

/// The person detector: one pass over the whole picture, letterboxed to a square.
class Detector {
  public:
    static Result<Detector> create(const Graph& graph);
    /// Persons with a score ≥ ½, strongest first.
    Result<std::vector<Detection>> detect(const PictureView& picture);
    Network& network() { return m_network; }

  private:
    explicit Detector(Network network);
    Network m_network;
    std::vector<std::pair<float, float>> m_anchors;
};

}  // namespace zevo::pose
