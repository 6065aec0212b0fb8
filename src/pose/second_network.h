#pragma once

#include <array>
#include <string>
#include <vector>

#include "core/base/picture.h"
#include "core/body/landmarks.h"
#include "pose/network.h"

namespace zevo::pose {

/// A pose network of another origin than the one that is followed with: it was trained elsewhere, errs elsewhere, and
/// is asked where it matters. It gives 17 points, no heels or toes; all others keep presence 0.
///
/// Four heads at a quarter of the picture: where a person's middle is (weighted by how central it lies), where the 17
/// points lie from there, where each point is, and what is left below a quarter pixel. A point is where its map,
/// divided by its distance from the rough place plus 1.8, is highest.
class SecondNetwork {
  public:
    /// `modelDir` holds movenet-thunder.json and .bin.
    static Result<SecondNetwork> create(const std::string& modelDir);
    /// What it sees in the square around the points of `near`, a quarter larger than they reach.
    Result<std::array<LandmarkPoint, kLandmarkCount>> read(const PictureView& picture, const PoseFrame& near);

    static constexpr int kSide = 256, kCell = 4, kMap = kSide / kCell, kPoints = 17;
    /// From the four heads' values: places in cells (row, column) and scores. Public for tests.
    struct Heads {
        std::span<const float> middle, regression, heat, offset;  ///< logits for middle and heat
    };
    struct Place {
        double row = 0, column = 0, score = 0;
    };
    static std::array<Place, kPoints> decode(const Heads& heads, std::span<const float> central);

  private:
    SecondNetwork(Network network, std::vector<float> central)
        : m_network(std::move(network)), m_central(std::move(central)) {}
    Network m_network;
    std::vector<float> m_central;  ///< reciprocal of the distance from the picture's middle, by cell
};

}  // namespace zevo::pose
