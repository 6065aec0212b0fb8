#include "sim/capture.h"

#include <assimp/scene.h>

#include <algorithm>
#include <array>
#include <assimp/Importer.hpp>
#include <cmath>
#include <map>
#include <numeric>

#include "sim/poser.h"

namespace zevo::sim {
namespace {

const char* const kJoints[] = {"LeftUpLeg",   "RightUpLeg",   "LeftLeg", "RightLeg", "LeftFoot",    "RightFoot",
                               "LeftToeBase", "RightToeBase", "LeftArm", "RightArm", "LeftForeArm", "RightForeArm",
                               "LeftHand",    "RightHand",    "Spine",   "Spine1",   "Head"};
enum Joint {
    Hip = 0,
    Knee = 2,
    Ankle = 4,
    Ball = 6,
    Shoulder = 8,
    Elbow = 10,
    Wrist = 12,
    Spine = 14,
    Spine1,
    HeadBase,
    kCount
};
using Positions = std::array<Vec3, kCount>;

/// Animated transforms of the nodes, walked once a frame.
class Walker {
  public:
    explicit Walker(const aiScene& scene) : m_scene(scene) {
        const aiAnimation& a = *scene.mAnimations[0];
        for (unsigned i = 0; i < a.mNumChannels; ++i) m_channels[a.mChannels[i]->mNodeName.C_Str()] = a.mChannels[i];
        for (int j = 0; j < kCount; ++j) m_index[kJoints[j]] = j;
    }
    bool complete() const {
        return std::all_of(m_index.begin(), m_index.end(),
                           [&](const auto& j) { return m_scene.mRootNode->FindNode(j.first.c_str()) != nullptr; });
    }
    Positions at(unsigned frame) const {
        Positions out{};
        walk(*m_scene.mRootNode, aiMatrix4x4(), frame, out);
        return out;
    }

  private:
    void walk(const aiNode& node, const aiMatrix4x4& parent, unsigned frame, Positions& out) const {
        aiMatrix4x4 local = node.mTransformation;
        if (const auto found = m_channels.find(node.mName.C_Str()); found != m_channels.end()) {
            const aiNodeAnim& c = *found->second;
            const aiVector3D place = c.mPositionKeys[std::min(frame, c.mNumPositionKeys - 1)].mValue;
            const aiQuaternion turn = c.mRotationKeys[std::min(frame, c.mNumRotationKeys - 1)].mValue;
            local = aiMatrix4x4(aiVector3D(1, 1, 1), turn, place);
        }
        const aiMatrix4x4 here = parent * local;
        if (const auto found = m_index.find(node.mName.C_Str()); found != m_index.end())
            out[static_cast<std::size_t>(found->second)] = Vec3(here.a4, here.b4, here.c4);
        for (unsigned i = 0; i < node.mNumChildren; ++i) walk(*node.mChildren[i], here, frame, out);
    }

    const aiScene& m_scene;
    std::map<std::string, const aiNodeAnim*> m_channels;
    std::map<std::string, int> m_index;
};

class Capture : public Motion {
  public:
    Capture(std::vector<Positions> frames, double rate, const CaptureOptions& options)
        : m_rate(rate), m_statureCm(options.statureCm), m_frames(std::move(frames)) {
        BodySpec body;
        body.statureCm = m_statureCm;
        const Segments seg(body);
        const Positions& first = m_frames.front();
        const double leg = (first[Hip] - first[Knee]).norm() + (first[Knee] - first[Ankle]).norm();
        const double scale = (seg.thigh + seg.shank) / leg;
        // Facing: across the hips, on average.
        Vec3 across = Vec3::Zero();
        for (const auto& p : m_frames) across += p[Hip + 1] - p[Hip];
        const double heading = std::atan2(across.x(), across.z());
        const Eigen::AngleAxisd turn(-heading, Vec3(0, 1, 0));
        double low = 1e9;
        Vec3 middle = Vec3::Zero();
        for (auto& p : m_frames) {
            for (Vec3& joint : p) joint = turn * (joint * scale);
            low = std::min({low, p[Ball].y(), p[Ball + 1].y()});
            middle += (p[Hip] + p[Hip + 1]) / 2 / static_cast<double>(m_frames.size());
        }
        for (auto& p : m_frames) {
            Vec3 away = middle;
            if (options.stayInPlace) away = (p[Ankle] + p[Ankle + 1]) / 2;
            away.y() = low - seg.footPointHeight;
            for (Vec3& joint : p) joint -= away;
        }
    }

    double durationS() const override { return static_cast<double>(m_frames.size() - 1) / m_rate; }
    const std::vector<RepTruth>& reps() const override { return m_reps; }

    Skeleton at(double timeS) const override {
        const double x = std::clamp(timeS * m_rate, 0.0, static_cast<double>(m_frames.size() - 1));
        const auto k = std::min(static_cast<std::size_t>(x), m_frames.size() - 2);
        const double w = x - static_cast<double>(k);
        Positions p;
        for (std::size_t j = 0; j < p.size(); ++j) p[j] = m_frames[k][j] * (1 - w) + m_frames[k + 1][j] * w;
        return skeletonOf(p);
    }

  private:
    Skeleton skeletonOf(const Positions& p) const {
        BodySpec body;
        body.statureCm = m_statureCm;
        const Segments seg(body);
        Skeleton s;
        auto pair = [&](Joint j) { return std::array<Vec3, 2>{p[j], p[j + 1]}; };
        s.hip = pair(Hip), s.knee = pair(Knee), s.ankle = pair(Ankle), s.ball = pair(Ball);
        s.shoulder = pair(Shoulder), s.elbow = pair(Elbow), s.wrist = pair(Wrist);
        s.midHip = (s.hip[0] + s.hip[1]) / 2;
        s.midShoulder = (s.shoulder[0] + s.shoulder[1]) / 2;
        s.lumbarLow = p[Spine], s.lumbarHigh = p[Spine1];
        s.pelvisRight = (s.hip[1] - s.hip[0]).normalized();
        s.chestRight = (s.shoulder[1] - s.shoulder[0]).normalized();
        const Vec3 ribs = (s.midShoulder - s.lumbarHigh).normalized(),
                   neck = (p[HeadBase] - s.midShoulder).normalized();
        const Vec3 headUp = (0.5 * ribs + 0.5 * neck).normalized(), gaze = headUp.cross(s.chestRight).normalized();
        s.headCentre = s.midShoulder + seg.scale * (0.165 * headUp + 0.02 * gaze);
        s.nose = s.headCentre + seg.scale * (0.106 * gaze - 0.028 * headUp);
        const double down = seg.ankleHeight - seg.footPointHeight, rest = std::atan2(down, seg.ballAhead);
        for (int i = 0; i < 2; ++i) {
            const Vec3 side = s.chestRight * (i == 0 ? -1 : 1);
            s.ear[i] = s.headCentre + seg.scale * (0.074 * side - 0.005 * headUp);
            // Sole: the line ankle–ball, raised by the angle it has in a flat foot.
            const Vec3 toBall = (s.ball[i] - s.ankle[i]).normalized();
            const Vec3 axis = toBall.cross(Vec3(0, 1, 0)).normalized();
            s.footForward[i] = Eigen::AngleAxisd(rest, axis) * toBall;
            const Vec3 up = axis.cross(s.footForward[i]).normalized();
            s.heel[i] = s.ankle[i] - seg.heelBack * s.footForward[i] - down * up;
            Vec3 toes = s.footForward[i];
            toes.y() = std::min(0.0, toes.y());
            s.toe[i] = s.ball[i] + seg.toeAhead * Vec3(toes.x(), 0, toes.z()).normalized();
        }
        s.massCentre = massCentreOf(s, 0);
        return s;
    }

    double m_rate, m_statureCm;
    std::vector<Positions> m_frames;
    std::vector<RepTruth> m_reps;
};

}  // namespace

Result<std::shared_ptr<const Motion>> loadCapture(const std::string& bvhFile, const CaptureOptions& options) {
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile(bvhFile, 0);
    const Error bad{"This motion capture could not be read.", bvhFile + ": " + importer.GetErrorString()};
    if (!scene || scene->mNumAnimations == 0 || !Walker(*scene).complete()) return bad;
    const aiAnimation& animation = *scene->mAnimations[0];
    const double rate = animation.mTicksPerSecond > 0 ? animation.mTicksPerSecond : 120;
    const auto count = static_cast<unsigned>(animation.mDuration) + 1;
    const auto from = static_cast<unsigned>(std::max(0.0, options.fromS * rate));
    const auto to = static_cast<unsigned>(std::min(static_cast<double>(count), options.toS * rate));
    if (to < from + 2) return bad;
    const Walker walker(*scene);
    std::vector<Positions> frames;
    for (unsigned f = from; f < to; ++f) frames.push_back(walker.at(f));
    return std::shared_ptr<const Motion>(std::make_shared<Capture>(std::move(frames), rate, options));
}

}  // namespace zevo::sim
