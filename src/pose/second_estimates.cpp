#include "pose/second_estimates.h"

#include <cmath>
#include <optional>

#include "pose/landmarker.h"
#include "pose/second_network.h"

namespace zevo::pose {
namespace {

class NetworkEstimates final : public SecondEstimator {
  public:
    NetworkEstimates(Landmarker larger, SecondNetwork second)
        : m_larger(std::move(larger)), m_second(std::move(second)) {}

    Result<SecondEstimate> larger(const PictureView& picture, const PoseFrame& near) override {
        // The square around the body to begin with; then where the network itself would look.
        constexpr int kSettlingPasses = 2;
        int passes = 1;
        if (!m_region) m_region = around(near), passes = kSettlingPasses;
        SecondEstimate out{near.timeS, "heavy"};
        for (int i = 0; i < passes; ++i) {
            auto reading = m_larger.read(picture, *m_region);
            if (!reading) return reading.error();
            if (!reading->pose.found || !std::isfinite(reading->nextRegion.size) || reading->nextRegion.size <= 8) {
                m_region.reset();
                return SecondEstimate{near.timeS, "heavy"};
            }
            out.points = reading->pose.points;
            m_region = reading->nextRegion;
        }
        return out;
    }

    Result<SecondEstimate> second(const PictureView& picture, const PoseFrame& near) override {
        auto points = m_second.read(picture, near);
        if (!points) return points.error();
        return SecondEstimate{near.timeS, "second", *points};
    }

    void reset() override { m_region.reset(); }

  private:
    static Region around(const PoseFrame& pose) {
        double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
        for (const auto& p : pose.points) {
            left = std::min<double>(left, p.x), right = std::max<double>(right, p.x);
            top = std::min<double>(top, p.y), bottom = std::max<double>(bottom, p.y);
        }
        constexpr double kRoom = 1.25;
        return {(left + right) / 2, (top + bottom) / 2, kRoom * std::max(right - left, bottom - top), 0};
    }

    Landmarker m_larger;
    SecondNetwork m_second;
    std::optional<Region> m_region;
};

}  // namespace

Result<std::unique_ptr<SecondEstimator>> makeSecondEstimator(const std::string& modelDir) {
    auto graph = loadGraph(modelDir + "/pose_landmark_heavy.tflite");
    if (!graph) return graph.error();
    auto larger = Landmarker::create(*graph);
    if (!larger) return larger.error();
    auto second = SecondNetwork::create(modelDir);
    if (!second) return second.error();
    return std::unique_ptr<SecondEstimator>(std::make_unique<NetworkEstimates>(std::move(*larger), std::move(*second)));
}

}  // namespace zevo::pose
