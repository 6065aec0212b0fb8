#include "pipeline/turning_points.h"

#include <algorithm>
#include <cmath>
#include <thread>

#include "core/track/second_estimates.h"
#include "media/frame_source.h"
#include "pipeline/barrier.h"
#include "pipeline/pose_near.h"
#include "pose/second_estimates.h"

namespace zevo::pipeline {
namespace {

/// Frames before and after the turning point.
constexpr int kApart = 2;

/// Which networks are asked besides the one that was followed.
struct Asked {
    bool larger = true, second = true;
};

Result<void> estimateAround(media::FrameSource& source, pose::SecondEstimator& reader, const Observation& seen,
                            double bottomS, Asked asked, std::vector<SecondEstimate>& out) {
    const double frameS = 1 / std::max(1.0, source.facts().frameRate);
    reader.reset();
    if (!source.seek(std::max(0.0, bottomS - (kApart + 0.5) * frameS))) return {};
    media::VideoFrame frame;
    for (int i = 0; i <= 2 * kApart; ++i) {
        const auto more = source.next(frame);
        if (!more || !*more) return {};
        const auto at = i % kApart == 0 ? poseNear(seen.poses, frame.timeS) : std::nullopt;
        if (!at) continue;
        const float scale = static_cast<float>(source.facts().width) / static_cast<float>(frame.picture.width);
        PoseFrame near = seen.poses[*at];
        for (auto& p : near.points) p.x /= scale, p.y /= scale;
        for (const bool second : {false, true}) {
            if (second ? !asked.second : !asked.larger) continue;
            auto estimate =
                second ? reader.second(frame.picture.view(), near) : reader.larger(frame.picture.view(), near);
            if (!estimate) return estimate.error();
            for (auto& p : estimate->points) p.x *= scale, p.y *= scale;
            out.push_back(std::move(*estimate));
        }
    }
    return {};
}

}  // namespace

void estimateAtTurningPoints(const std::string& clip, const MeasuredView& found, const AnalyseOptions& options,
                             const std::atomic<bool>& cancel, Observation& seen) {
    if (!secondEstimatesHelp(found.track->family, found.track->view)) return;
    // From the front only the larger network is a witness of a squat, and only the other one of a lunge.
    const bool lunge = found.track->family == Family::Lunge, front = isFrontal(found.track->view);
    const Asked asked{options.model != pose::ModelSize::Heavy && !(front && lunge), !front || lunge};
    if (!asked.larger && !asked.second) return;
    std::vector<double> bottoms;
    for (const Rep& rep : found.reps) bottoms.push_back(found.track->timesS[rep.bottom]);
    const auto workers = static_cast<std::size_t>(
        std::clamp<long>(options.workers, 1, std::max<long>(1, static_cast<long>(bottoms.size()))));
    std::vector<std::vector<SecondEstimate>> parts(workers);
    {
        std::vector<std::jthread> threads;
        for (std::size_t w = 0; w < workers; ++w)
            threads.emplace_back([&, w] {
                (void)guarded([&]() -> Result<void> {
                    auto reader = pose::makeSecondEstimator(options.modelDir);
                    if (!reader) return reader.error();
                    auto source = media::openClip(clip, {kWidestFrame});
                    if (!source) return source.error();
                    for (std::size_t i = w; i < bottoms.size() && !cancel; i += workers)
                        if (auto done = estimateAround(**source, **reader, seen, bottoms[i], asked, parts[w]); !done)
                            return done;
                    return {};
                });
            });
    }
    for (auto& part : parts) std::move(part.begin(), part.end(), std::back_inserter(seen.secondEstimates));
    std::stable_sort(seen.secondEstimates.begin(), seen.secondEstimates.end(),
                     [](const SecondEstimate& a, const SecondEstimate& b) { return a.timeS < b.timeS; });
    constexpr double kAboutS = 0.2;
    std::string unasked;
    for (std::size_t i = 0; i < bottoms.size(); ++i)
        if (std::none_of(seen.secondEstimates.begin(), seen.secondEstimates.end(), [&](const SecondEstimate& o) {
                return o.network == (asked.second ? "second" : "heavy") && std::abs(o.timeS - bottoms[i]) < kAboutS;
            }))
            unasked += (unasked.empty() ? "" : ", ") + std::to_string(found.reps[i].index);
    if (!unasked.empty()) seen.notices.push_back({NoticeKind::NotLookedTwice, {unasked}});
}

}  // namespace zevo::pipeline
