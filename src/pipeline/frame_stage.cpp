#include "pipeline/frame_stage.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "core/base/contour.h"
#include "pose/region.h"

namespace zevo::pipeline {
namespace {

class PoseStage final : public FrameStage {
  public:
    PoseStage(std::unique_ptr<pose::Estimator> estimator, std::string model, std::string network,
              std::optional<PersonAt> person)
        : m_estimator(std::move(estimator)),
          m_model(std::move(model)),
          m_network(std::move(network)),
          m_person(person) {}
    Result<void> begin(const media::SourceFacts& facts) override {
        m_sourceWidth = facts.width;
        return {};
    }
    Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) override {
        if (const auto person = std::exchange(m_person, std::nullopt)) {
            const double k = m_sourceWidth > 0 ? static_cast<double>(frame.picture.width) / m_sourceWidth : 1;
            m_estimator->choose(k * person->x, k * person->y, k * person->size);
        }
        auto pose = m_estimator->process(frame.picture.view(), frame.timeS);
        if (!pose) return pose.error();
        seen = *pose;
        return {};
    }
    Result<void> finish(Observation& o) override {
        o.model = m_model;
        o.network = m_network;
        if (m_estimator->peopleSeen() > 1) o.notices.push_back({NoticeKind::MorePeople, {}});
        return {};
    }
    void discard() override { m_estimator->reset(); }

  private:
    std::unique_ptr<pose::Estimator> m_estimator;
    std::string m_model, m_network;
    std::optional<PersonAt> m_person;  ///< not told yet
    int m_sourceWidth = 0;
};

/// How clear an edge of the picture is at a point of an outline; `across`: square to the outline, as long as one of the
/// mask's pixels.
Outline::Edge edgeAt(const PictureView& picture, const Vec2& at, const Vec2& across) {
    auto colourAt = [&](const Vec2& p, int channel) {
        const int x = std::clamp(static_cast<int>(p.x()), 0, picture.width - 1),
                  y = std::clamp(static_cast<int>(p.y()), 0, picture.height - 1);
        return static_cast<int>(picture.rgb[static_cast<std::ptrdiff_t>(y) * picture.stride + x * 3 + channel]);
    };
    /// Largest over the channels of the mean difference between two sides.
    auto mostOf = [&](const std::array<std::pair<Vec2, Vec2>, 3>& pairs) {
        int most = 0;
        for (int channel = 0; channel < 3; ++channel) {
            int sum = 0;
            for (const auto& [one, other] : pairs) sum += colourAt(one, channel) - colourAt(other, channel);
            most = std::max(most, std::abs(sum) / 3);
        }
        return most;
    };
    auto sides = [&](double off) { return std::pair<Vec2, Vec2>(at + off * across, at - off * across); };
    const int contrast = mostOf({sides(1.0), sides(1.6), sides(2.2)});  // clear of the edge itself
    // How strongly the picture changes across, here and up to four of the mask's pixels away: where something of the
    // body's colour lies behind it, the mask runs over to the next edge, and its own is left inside.
    const Vec2 tangent(across.y(), -across.x());
    auto changeAt = [&](double off) {
        auto about = [&](double aside) {
            const Vec2 p = at + off * across + aside * tangent;
            return std::pair<Vec2, Vec2>(p + 0.6 * across, p - 0.6 * across);
        };
        return mostOf({about(-1), about(0), about(1)});
    };
    int own = 1, other = 0;
    for (double off = -1; off <= 1; off += 0.5) own = std::max(own, changeAt(off));
    for (double off = 2; off <= 4; off += 0.5) other = std::max({other, changeAt(off), changeAt(-off)});
    return {static_cast<std::uint8_t>(contrast), static_cast<std::uint8_t>(std::min(255, 128 * other / own))};
}

class OutlineStage final : public FrameStage {
  public:
    OutlineStage(std::unique_ptr<pose::OutlineReader> reader, std::vector<double> moments)
        : m_reader(std::move(reader)), m_moments(std::move(moments)) {}
    Result<void> begin(const media::SourceFacts& facts) override {
        m_facts = facts;
        return {};
    }
    Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) override {
        const double half = 0.5 / std::max(1.0, m_facts.frameRate);
        while (m_next < m_moments.size() && frame.timeS >= m_moments[m_next] - half) {
            Outline outline{m_moments[m_next++], {}};
            if (seen.found)
                if (auto drawn = draw(frame, seen, outline); !drawn) return drawn;
            m_outlines.push_back(std::move(outline));
        }
        return {};
    }
    Result<void> finish(Observation& o) override {
        o.outlines = std::move(m_outlines);
        return {};
    }
    void discard() override { m_outlines.clear(); }

  private:
    Result<void> draw(const media::VideoFrame& frame, const PoseFrame& seen, Outline& outline) {
        auto mask = m_reader->read(frame.picture.view(), seen);
        if (!mask) return mask.error();
        const double scale = static_cast<double>(m_facts.width) / std::max(1, frame.picture.width);
        const pose::Region region{mask->centreX, mask->centreY, mask->size, mask->rotation};
        constexpr double kTolerance = 0.06;  // of the mask's pixels: a fifth of what the mask itself is off
        const auto line = simplified(largestContour(mask->inside, mask->side, mask->side, 0.5F), kTolerance);
        auto toPicture = [&](const Vec2& p) {
            Vec2 out;
            region.toPicture(p.x() / mask->side, p.y() / mask->side, out.x(), out.y());
            return out;
        };
        for (std::size_t i = 0; i < line.size(); ++i) {
            const Vec2 at = toPicture(line[i]);
            outline.points.emplace_back(static_cast<float>(at.x() * scale), static_cast<float>(at.y() * scale));
            const Vec2 along = line[(i + 1) % line.size()] - line[(i + line.size() - 1) % line.size()];
            const Vec2 across = Vec2(-along.y(), along.x()).normalized();
            outline.edges.push_back(edgeAt(frame.picture.view(), at, toPicture(line[i] + across) - at));
        }
        return {};
    }

    std::unique_ptr<pose::OutlineReader> m_reader;
    std::vector<double> m_moments;
    std::size_t m_next = 0;
    media::SourceFacts m_facts;
    std::vector<Outline> m_outlines;
};

class RecordedPoses final : public FrameStage {
  public:
    explicit RecordedPoses(PoseFrames poses) : m_poses(std::move(poses)) {}
    Result<void> begin(const media::SourceFacts& facts) override {
        m_facts = facts;
        return {};
    }
    Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) override {
        const auto at = std::lower_bound(m_poses.begin(), m_poses.end(), frame.timeS - 1e-4,
                                         [](const PoseFrame& f, double t) { return f.timeS < t; });
        if (at == m_poses.end() || std::abs(at->timeS - frame.timeS) > 0.5 / std::max(1.0, m_facts.frameRate))
            return {};
        seen = *at;
        // Records hold the source's pixels; stages speak of the delivered picture's.
        const float k = static_cast<float>(frame.picture.width) / static_cast<float>(std::max(1, m_facts.width));
        for (auto& p : seen.points) p.x *= k, p.y *= k;
        for (auto& p : seen.feet) p.x *= k, p.y *= k;
        return {};
    }

  private:
    PoseFrames m_poses;
    media::SourceFacts m_facts;
};

}  // namespace

Result<std::unique_ptr<FrameStage>> makePoseStage(const std::string& modelDir, pose::ModelSize model,
                                                  const std::optional<PersonAt>& person) {
    auto estimator = pose::makeNetworkEstimator(modelDir, model);
    if (!estimator) return estimator.error();
    const std::string name = pose::modelName(model);
    return std::unique_ptr<FrameStage>(std::make_unique<PoseStage>(
        std::move(*estimator), name, media::sha256OfFile(modelDir + "/pose_landmark_" + name + ".tflite"), person));
}

Result<std::unique_ptr<FrameStage>> makeOutlineStage(const std::string& modelDir, std::vector<double> momentsS) {
    auto reader = pose::makeOutlineReader(modelDir);
    if (!reader) return reader.error();
    return std::unique_ptr<FrameStage>(std::make_unique<OutlineStage>(std::move(*reader), std::move(momentsS)));
}

std::unique_ptr<FrameStage> makeRecordedPoses(PoseFrames poses) {
    return std::make_unique<RecordedPoses>(std::move(poses));
}

Result<PoseFrames> runFrames(media::FrameSource& source, const FrameStages& stages, const FrameRun& run) {
    PoseFrames out;
    media::VideoFrame frame;
    while (!(run.cancel && *run.cancel)) {
        auto more = source.next(frame);
        if (!more) return more.error();
        if (!*more || frame.timeS >= run.toS) break;
        PoseFrame seen;
        seen.timeS = frame.timeS;
        for (const auto& stage : stages)
            if (auto done = stage->process(frame, seen); !done) return done.error();
        // Large pictures are scaled down on reading: back to the source's own pixels.
        const float scale = static_cast<float>(source.facts().width) / static_cast<float>(frame.picture.width);
        for (auto& p : seen.points) p.x *= scale, p.y *= scale;
        for (auto& p : seen.feet) p.x *= scale, p.y *= scale;
        out.push_back(seen);
        if (run.done) run.done(frame.timeS);
    }
    return out;
}

Result<Observation> observe(media::FrameSource& source, const FrameStages& stages, const std::atomic<bool>& cancel,
                            const std::function<void(double timeS)>& done) {
    auto giveUp = [&](Error error) {
        for (const auto& s : stages) s->discard();
        return error;
    };
    for (const auto& s : stages)
        if (auto begun = s->begin(source.facts()); !begun) return giveUp(begun.error());
    auto poses = runFrames(source, stages, {1e18, &cancel, done});
    if (!poses) return giveUp(poses.error());
    if (cancel) return giveUp(refusal(NoticeKind::Stopped));
    Observation o;
    o.poses = std::move(*poses);
    if (o.poses.empty()) return giveUp(refusal(NoticeKind::NoPicture));
    const double first = o.poses.front().timeS, last = o.poses.back().timeS;
    const double step = o.poses.size() > 1 ? (last - first) / static_cast<double>(o.poses.size() - 1) : 0;
    o.clip = {static_cast<long>(o.poses.size()), last - first + step, source.facts().width, source.facts().height,
              source.facts().rotationDeg};
    for (const auto& s : stages)
        if (auto finished = s->finish(o); !finished) return giveUp(finished.error());
    if (source.damaged() > 0) o.notices.push_back({NoticeKind::ClipDamaged, {}});
    return o;
}

}  // namespace zevo::pipeline
