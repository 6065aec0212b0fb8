#include "pose/second_network.h"

#include <algorithm>
#include <cmath>

#include "pose/region.h"
#include "pose/tfjs_file.h"

namespace zevo::pose {
namespace {

constexpr const char* kPrefix = "StatefulPartitionedCall/";
const std::string kMiddle = std::string(kPrefix) + "center_0/conv2d_4/BiasAdd",
                  kRegression = std::string(kPrefix) + "kpt_regress_0/conv2d_6/BiasAdd",
                  kHeat = std::string(kPrefix) + "kpt_heatmap_0/conv2d_5/BiasAdd",
                  kOffset = std::string(kPrefix) + "kpt_offset_0/conv2d_7/BiasAdd";

/// The order of its points.
constexpr std::array<Landmark, SecondNetwork::kPoints> kOrder{
    Landmark::Nose,         Landmark::LeftEye,       Landmark::RightEye,  Landmark::LeftEar,    Landmark::RightEar,
    Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftElbow, Landmark::RightElbow, Landmark::LeftWrist,
    Landmark::RightWrist,   Landmark::LeftHip,       Landmark::RightHip,  Landmark::LeftKnee,   Landmark::RightKnee,
    Landmark::LeftAnkle,    Landmark::RightAnkle};

double sigmoid(double v) {
    return 1 / (1 + std::exp(-v));
}

}  // namespace

Result<SecondNetwork> SecondNetwork::create(const std::string& modelDir) {
    const std::string json = modelDir + "/movenet-thunder.json", weights = modelDir + "/movenet-thunder.bin";
    auto graph = loadTfjsGraph(json, weights, std::string(kPrefix) + "sub_1", {1, kSide, kSide, 3},
                               {kMiddle, kRegression, kHeat, kOffset});
    if (!graph) return graph.error();
    auto central = loadTfjsConstant(json, weights, "ConstantFolding/StatefulPartitionedCall/truediv_2_recip");
    if (!central) return central.error();
    auto network = Network::create(*graph);
    if (!network) return network.error();
    constexpr std::size_t kCells = static_cast<std::size_t>(kMap) * kMap;
    if (network->input().size() != std::size_t{kSide} * kSide * 3 || central->size() != kCells)
        return Error{"The second network's file is not the one Zevo ships. Install Zevo again.", "sizes"};
    return SecondNetwork(std::move(*network), std::move(*central));
}

std::array<SecondNetwork::Place, SecondNetwork::kPoints> SecondNetwork::decode(const Heads& h,
                                                                               std::span<const float> central) {
    constexpr std::size_t kCells = static_cast<std::size_t>(kMap) * kMap;
    std::size_t person = 0;
    double best = -1;
    for (std::size_t i = 0; i < kCells; ++i)
        if (const double v = sigmoid(h.middle[i]) * central[i]; v > best) best = v, person = i;
    const double row = static_cast<double>(person / kMap), column = static_cast<double>(person % kMap);
    std::array<Place, kPoints> out;
    for (std::size_t k = 0; k < kPoints; ++k) {
        const double roughRow = row + h.regression[person * 2 * kPoints + 2 * k],
                     roughColumn = column + h.regression[person * 2 * kPoints + 2 * k + 1];
        std::size_t at = 0;
        double highest = -1;
        for (std::size_t i = 0; i < kCells; ++i) {
            constexpr double kNear = 1.8;
            const double far =
                std::hypot(static_cast<double>(i / kMap) - roughRow, static_cast<double>(i % kMap) - roughColumn);
            if (const double v = sigmoid(h.heat[i * kPoints + k]) / (far + kNear); v > highest) highest = v, at = i;
        }
        out[k] = {static_cast<double>(at / kMap) + h.offset[at * 2 * kPoints + 2 * k],
                  static_cast<double>(at % kMap) + h.offset[at * 2 * kPoints + 2 * k + 1],
                  sigmoid(h.heat[at * kPoints + k])};
    }
    return out;
}

Result<std::array<LandmarkPoint, kLandmarkCount>> SecondNetwork::read(const PictureView& picture,
                                                                      const PoseFrame& near) {
    double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
    for (const auto& p : near.points) {
        left = std::min<double>(left, p.x), right = std::max<double>(right, p.x);
        top = std::min<double>(top, p.y), bottom = std::max<double>(bottom, p.y);
    }
    constexpr double kRoom = 1.25;
    const Region region{(left + right) / 2, (top + bottom) / 2, kRoom * std::max(right - left, bottom - top), 0};
    sampleRegion(picture, region, kSide, Border::Black, 2.0F / 255.0F, -1.0F, m_network.input());
    if (auto ran = m_network.run(); !ran) return ran.error();
    const Heads heads{m_network.output(kMiddle), m_network.output(kRegression), m_network.output(kHeat),
                      m_network.output(kOffset)};
    constexpr std::size_t kCells = static_cast<std::size_t>(kMap) * kMap;
    if (heads.middle.size() != kCells || heads.heat.size() != kCells * kPoints ||
        heads.regression.size() != kCells * 2 * kPoints || heads.offset.size() != kCells * 2 * kPoints)
        return Error{"The second network's file is not the one Zevo ships. Install Zevo again.", "output sizes"};
    std::array<LandmarkPoint, kLandmarkCount> out{};
    const auto places = decode(heads, m_central);
    for (std::size_t k = 0; k < kPoints; ++k) {
        double x = 0, y = 0;
        region.toPicture(places[k].column / kMap, places[k].row / kMap, x, y);
        out[static_cast<std::size_t>(kOrder[k])] = {static_cast<float>(x), static_cast<float>(y),
                                                    static_cast<float>(places[k].score), 1.0F};
    }
    return out;
}

}  // namespace zevo::pose
