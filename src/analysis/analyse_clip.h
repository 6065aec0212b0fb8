#pragma once

#include <atomic>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/body/landmarks.h"
#include "core/body/outline.h"
#include "core/result.h"
#include "core/results/set_result.h"
#include "pose/estimator.h"

namespace zevo::analysis {

struct AnalyseOptions {
    std::string modelDir;
    pose::ModelSize model = pose::ModelSize::Full;
    /// Workers, each with its own decoder and networks over its own stretch of the clip. A network uses one thread.
    int workers = 2;
};

struct Progress {
    long framesDone = 0;
    long framesInAll = 0;
    double secondsLeft = 0;  ///< estimate; 0 while unknown
    const char* stage = "";  ///< "Reading", "Outlines"
};

/// Told a few times a second from the calling thread.
using OnProgress = std::function<void(const Progress&)>;

/// Poses of every frame of a clip, in time order.
struct ClipPoses {
    ClipFacts clip;
    PoseFrames frames;
    std::vector<std::string> warnings;
};

/// media → pose: streams the clip through the workers. `cancel` may be set from any thread; the call then
/// returns an Error whose detail is "cancelled".
Result<ClipPoses> readPoses(const std::string& clip, const AnalyseOptions& options, const std::atomic<bool>& cancel,
                            const OnProgress& progress = {});

/// Outlines of the body at given moments of the clip.
Result<std::vector<Outline>> readOutlines(const std::string& clip, const ClipPoses& poses,
                                          const std::vector<double>& timesS, const std::string& modelDir,
                                          const std::atomic<bool>& cancel);

/// The whole way from a clip to a measured set (not yet judged).
struct AnalysedClip {
    ClipPoses poses;
    MeasuredSet set;
    std::optional<ClipPoses> second;
};
Result<AnalysedClip> analyseClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                 const std::atomic<bool>& cancel, const OnProgress& progress = {});

/// Reads another view of the same set and joins it (core/results/set_result.h).
Result<void> analyseSecondClip(AnalysedClip& set, const std::string& clip, bool together, double nudgeS,
                               const AnalyseOptions& options, const std::atomic<bool>& cancel,
                               const OnProgress& progress = {});

}  // namespace zevo::analysis
