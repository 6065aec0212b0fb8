#include "pose/landmarker.h"

#include <algorithm>
#include <cmath>

namespace zevo::pose {
namespace {

constexpr int kRaw = 39;  // 33 body points and six helpers; 33 → 34 span the next region
constexpr int kHeat = 64;

float sigmoid(float v) {
    return 1.0F / (1.0F + std::exp(-v));
}

/// Moves (u, v) to the centre of mass of the heat map around it, when the map is confident there.
void refine(std::span<const float> heat, int point, double& u, double& v) {
    const int col0 = static_cast<int>(kHeat * u), row0 = static_cast<int>(kHeat * v);
    if (u < 0 || v < 0 || col0 >= kHeat || row0 >= kHeat) return;
    double sum = 0, sumCol = 0, sumRow = 0;
    float largest = 0;
    for (int row = std::max(0, row0 - 3); row <= std::min(kHeat - 1, row0 + 3); ++row)
        for (int col = std::max(0, col0 - 3); col <= std::min(kHeat - 1, col0 + 3); ++col) {
            const float w = sigmoid(heat[(static_cast<std::size_t>(row) * kHeat + col) * kRaw + point]);
            largest = std::max(largest, w);
            sum += w;
            sumCol += col * w;
            sumRow += row * w;
        }
    if (largest < 0.5F || sum <= 0) return;
    u = sumCol / sum / kHeat;
    v = sumRow / sum / kHeat;
}

}  // namespace

Result<Landmarker> Landmarker::create(const Graph& graph, Outline outline) {
    std::vector<std::string> wanted{"Identity", "Identity_1", "Identity_3", "Identity_4"};
    if (outline == Outline::Compute) wanted.emplace_back("Identity_2");
    auto network = Network::create(graph, wanted);
    if (!network) return network.error();
    if (network->input().size() != kSide * kSide * 3)
        return Error{"The landmark network's file is not the one Zevo ships. Install Zevo again.", "input size"};
    return Landmarker(std::move(*network));
}

Result<LandmarkReading> Landmarker::read(const PictureView& picture, const Region& region) {
    sampleRegion(picture, region, kSide, Border::Replicate, 1.0F / 255.0F, 0.0F, m_network.input());
    if (auto ran = m_network.run(); !ran) return ran.error();
    const auto raw = m_network.output("Identity");
    const auto flag = m_network.output("Identity_1");
    const auto heat = m_network.output("Identity_3");
    const auto world = m_network.output("Identity_4");
    if (raw.size() != kRaw * 5 || flag.empty() || heat.size() != kHeat * kHeat * kRaw || world.size() != kRaw * 3)
        return Error{"The landmark network's file is not the one Zevo ships. Install Zevo again.", "output size"};

    LandmarkReading out;
    out.pose.score = flag[0];
    out.pose.found = flag[0] >= 0.5F;
    const double c = std::cos(region.rotation), s = std::sin(region.rotation);
    double helper[2][2] = {};
    for (int k = 0; k < 35; ++k) {
        double u = raw[k * 5] / kSide, v = raw[k * 5 + 1] / kSide, x = 0, y = 0;
        refine(heat, k, u, v);
        region.toPicture(u, v, x, y);
        if (k >= 33) {
            helper[k - 33][0] = x;
            helper[k - 33][1] = y;
            continue;
        }
        out.pose.points[k] = {static_cast<float>(x), static_cast<float>(y), sigmoid(raw[k * 5 + 3]),
                              sigmoid(raw[k * 5 + 4])};
        const float wx = world[k * 3], wy = world[k * 3 + 1];
        out.pose.world[k] = {static_cast<float>(c * wx - s * wy), static_cast<float>(s * wx + c * wy),
                             world[k * 3 + 2]};
    }
    out.nextRegion = Region::fromPoints(helper[0][0], helper[0][1], helper[1][0], helper[1][1]);
    for (float logit : m_network.output("Identity_2")) out.body.push_back(sigmoid(logit));
    return out;
}

}  // namespace zevo::pose
