#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/session/session.h"
#include "media/frame_source.h"
#include "pose/estimator.h"

namespace zevo::pipeline {

/// One thing that is done with every frame of a source: follow the body, keep pieces of it, draw outlines. The same
/// stages serve a clip in a job, a live source at its own pace and tests. Calls come in this order from one thread:
/// begin(), process() for every frame, then finish() or, when the work was given up, discard().
class FrameStage {
  public:
    virtual ~FrameStage() = default;
    virtual Result<void> begin(const media::SourceFacts&) { return {}; }
    /// Adds to what was seen in this frame. Places are in the delivered picture's pixels; they are brought to the
    /// source's own when all stages have seen the frame.
    virtual Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) = 0;
    /// Adds what belongs to the whole view.
    virtual Result<void> finish(Observation&) { return {}; }
    virtual void discard() {}
};
using FrameStages = std::vector<std::unique_ptr<FrameStage>>;

/// Who is meant where several people are in the picture, in the source's own pixels; `size`: about how large.
struct PersonAt {
    double x = 0, y = 0, size = 0;
};
/// Follows the body with the networks.
Result<std::unique_ptr<FrameStage>> makePoseStage(const std::string& modelDir, pose::ModelSize model,
                                                  const std::optional<PersonAt>& person = {});
/// Outlines of the body at chosen moments, growing; each keeps the moment it was wanted for.
Result<std::unique_ptr<FrameStage>> makeOutlineStage(const std::string& modelDir, std::vector<double> momentsS);
/// Poses from a record in the place of the networks, matched by time.
std::unique_ptr<FrameStage> makeRecordedPoses(PoseFrames poses);

/// Frames of [from, to) of a source through the stages, in order. `done` is told the time of every frame.
struct FrameRun {
    double toS = 1e18;
    const std::atomic<bool>* cancel = nullptr;
    std::function<void(double timeS)> done;
};
Result<PoseFrames> runFrames(media::FrameSource& source, const FrameStages& stages, const FrameRun& run);

/// A source from beginning to end: begin, all frames, finish, or discard when something failed or was stopped.
Result<Observation> observe(media::FrameSource& source, const FrameStages& stages, const std::atomic<bool>& cancel,
                            const std::function<void(double timeS)>& done = {});

}  // namespace zevo::pipeline
