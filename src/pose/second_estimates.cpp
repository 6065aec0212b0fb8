#include "pose/second_estimates.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "core/base/vectors.h"
#include "pose/landmarker.h"
#include "pose/second_network.h"

namespace zevo::pose {
namespace {

class NetworkEstimates final : public SecondEstimator {
  public:
    NetworkEstimates(Landmarker larger, SecondNetwork second)
        : m_larger(std::move(larger)), m_second(std::move(second)) {}

    Result<SecondEstimate> larger(const PictureView& picture, const PoseFrame& near) override {
        if (!m_region) m_region = alongTrunk(near);
        SecondEstimate out{near.timeS, "heavy"};
        for (int pass = 0; pass < kMostPasses; ++pass) {
            auto reading = m_larger.read(picture, *m_region);
            if (!reading) return reading.error();
            if (!reading->pose.found || !std::isfinite(reading->nextRegion.size) || reading->nextRegion.size <= 8) {
                m_region.reset();
                return SecondEstimate{near.timeS, "heavy"};
            }
            out.points = reading->pose.points;
            const Region before = *std::exchange(m_region, reading->nextRegion);
            if (isAtRest(before, *m_region)) break;
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
    static constexpr int kMostPasses = 6;  ///< a bound for a region that never rests

    /// A square turned with the client, as the network was trained to see people. From an upright square it reads a
    /// leaning client as one who stands, and needs many looks to leave that.
    static Region alongTrunk(const PoseFrame& pose) {
        auto between = [&](Landmark a, Landmark b) {
            return Vec2((pose.at(a).x + pose.at(b).x) / 2, (pose.at(a).y + pose.at(b).y) / 2);
        };
        const Vec2 hips = between(Landmark::LeftHip, Landmark::RightHip),
                   shoulders = between(Landmark::LeftShoulder, Landmark::RightShoulder);
        double reach = 0;
        for (const auto& p : pose.points) reach = std::max(reach, (Vec2(p.x, p.y) - hips).norm());
        const Vec2 up = shoulders == hips ? Vec2(0, -1) : Vec2((shoulders - hips).normalized());
        const Vec2 end = hips + reach * up;
        return Region::fromPoints(hips.x(), hips.y(), end.x(), end.y());
    }

    static bool isAtRest(const Region& before, const Region& after) {
        constexpr double kStill = 0.01;
        return std::hypot(after.centreX - before.centreX, after.centreY - before.centreY) < kStill * after.size &&
               std::abs(after.size - before.size) < kStill * after.size;
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
