#include "pose/estimator.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "pose/detector.h"
#include "pose/landmarker.h"

namespace zevo::pose {
namespace {

/// After a detection the first region is too small; it settles in three passes over the same frame.
constexpr int kSettlingPasses = 3;
constexpr int kLookAroundEvery = 60;  // frames between searches of the whole picture

class NetworkEstimator final : public Estimator {
  public:
    NetworkEstimator(Detector detector, Landmarker landmarker)
        : m_detector(std::move(detector)), m_landmarker(std::move(landmarker)) {}

    Result<PoseFrame> process(const PictureView& picture, double timeS) override {
        int passes = 1;
        if (!m_region) {
            auto people = m_detector.detect(picture);
            if (!people) return people.error();
            if (people->empty() && !m_chosen) {
                PoseFrame nobody;
                nobody.timeS = timeS;
                return nobody;
            }
            m_peopleSeen = std::max(m_peopleSeen, m_peopleNow = static_cast<int>(people->size()));
            m_region = m_chosen ? regionOfChosen(*people) : regionOfLargest(*people);
            passes = kSettlingPasses;
        }
        if (++m_sinceSearch >= kLookAroundEvery) {
            // Somebody may have walked in: only counted here, the client stays the one that is followed.
            m_sinceSearch = 0;
            auto people = m_detector.detect(picture);
            if (!people) return people.error();
            m_peopleSeen = std::max(m_peopleSeen, m_peopleNow = static_cast<int>(people->size()));
        }
        PoseFrame pose;
        for (int i = 0; i < passes && m_region; ++i) {
            auto reading = m_landmarker.read(picture, *m_region);
            if (!reading) return reading.error();
            pose = reading->pose;
            if (pose.found && std::isfinite(reading->nextRegion.size) && reading->nextRegion.size > 8)
                m_region = reading->nextRegion;
            else
                m_region.reset();
        }
        pose.timeS = timeS;
        return pose;
    }

    void reset() override { m_region.reset(); }
    void choose(double x, double y, double size) override {
        m_chosen = Region{x, y, size, 0};
        m_region.reset();
    }
    int peopleSeen() const override { return m_peopleSeen; }
    int peopleNow() const override { return m_peopleNow; }

  private:
    /// The largest stands nearest to the camera, and every worker on the clip picks the same one.
    static Region regionOfLargest(const std::vector<Detection>& people) {
        return std::max_element(people.begin(), people.end(),
                                [](const auto& a, const auto& b) { return a.region.size < b.region.size; })
            ->region;
    }
    Region regionOfChosen(const std::vector<Detection>& people) const {
        constexpr double kAtThePlace = 0.35;  // of the person's size
        const Region* nearest = &*m_chosen;
        double least = kAtThePlace * m_chosen->size;
        for (const Detection& d : people)
            if (const double far =
                    std::hypot(d.region.centreX - m_chosen->centreX, d.region.centreY - m_chosen->centreY);
                far < least)
                least = far, nearest = &d.region;
        return *nearest;
    }

    Detector m_detector;
    Landmarker m_landmarker;
    std::optional<Region> m_region, m_chosen;
    int m_peopleSeen = 0, m_peopleNow = 0;
    int m_sinceSearch = 0;
};

class NetworkOutlineReader final : public OutlineReader {
  public:
    explicit NetworkOutlineReader(Landmarker landmarker) : m_landmarker(std::move(landmarker)) {}

    Result<BodyMask> read(const PictureView& picture, const PoseFrame& pose) override {
        // As the region that follows the body: it turns with the trunk, and a body fills as much of it as the network
        // is used to. In an upright square the mask of a trunk that leans has holes, in a tighter one its edge is less
        // true (docs/measurements.md, “The back line”).
        constexpr double kRoom = 1.3;
        auto middle = [&](Landmark left) {
            const auto &a = pose.at(left), &b = pose.at(static_cast<Landmark>(static_cast<int>(left) + 1));
            return std::pair<double, double>((a.x + b.x) / 2, (a.y + b.y) / 2);
        };
        const auto [hipX, hipY] = middle(Landmark::LeftHip);
        const auto [shoulderX, shoulderY] = middle(Landmark::LeftShoulder);
        double reach = 1;
        for (const auto& p : pose.points) reach = std::max(reach, std::hypot(p.x - hipX, p.y - hipY));
        const double trunk = std::max(1e-3, std::hypot(shoulderX - hipX, shoulderY - hipY));
        const Region region = Region::fromPoints(hipX, hipY, hipX + (shoulderX - hipX) / trunk * kRoom * reach,
                                                 hipY + (shoulderY - hipY) / trunk * kRoom * reach);
        auto reading = m_landmarker.read(picture, region);
        if (!reading) return reading.error();
        return BodyMask{Landmarker::kSide, std::move(reading->body), region.centreX, region.centreY,
                        region.size,       region.rotation};
    }

  private:
    Landmarker m_landmarker;
};

Result<Graph> landmarkGraph(const std::string& dir, ModelSize size) {
    return loadGraph(dir + "/pose_landmark_" + modelName(size) + ".tflite");
}

}  // namespace

Result<ModelSize> modelSizeFromName(const std::string& name) {
    for (auto size : {ModelSize::Lite, ModelSize::Full, ModelSize::Heavy})
        if (modelName(size) == name) return size;
    return Error{"There is no pose model “" + name + "”: choose lite, full or heavy.", ""};
}

std::string modelName(ModelSize size) {
    switch (size) {
        case ModelSize::Lite: return "lite";
        case ModelSize::Heavy: return "heavy";
        case ModelSize::Full: break;
    }
    return "full";
}

Result<std::unique_ptr<Estimator>> makeNetworkEstimator(const std::string& modelDir, ModelSize size) {
    auto detectorGraph = loadGraph(modelDir + "/pose_detection.tflite");
    if (!detectorGraph) return detectorGraph.error();
    auto detector = Detector::create(*detectorGraph);
    if (!detector) return detector.error();
    auto graph = landmarkGraph(modelDir, size);
    if (!graph) return graph.error();
    auto landmarker = Landmarker::create(*graph);
    if (!landmarker) return landmarker.error();
    return std::unique_ptr<Estimator>(std::make_unique<NetworkEstimator>(std::move(*detector), std::move(*landmarker)));
}

Result<std::unique_ptr<OutlineReader>> makeOutlineReader(const std::string& modelDir) {
    auto graph = landmarkGraph(modelDir, ModelSize::Full);
    if (!graph) return graph.error();
    auto landmarker = Landmarker::create(*graph, Landmarker::Outline::Compute);
    if (!landmarker) return landmarker.error();
    return std::unique_ptr<OutlineReader>(std::make_unique<NetworkOutlineReader>(std::move(*landmarker)));
}

}  // namespace zevo::pose
