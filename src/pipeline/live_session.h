#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "core/live/camera_check.h"
#include "core/live/live_set.h"
#include "core/live/presence.h"
#include "core/session/session.h"
#include "media/clip_recorder.h"
#include "media/live_source.h"
#include "pipeline/analyse_clip.h"
#include "pipeline/kept_pieces.h"
#include "pose/estimator.h"

namespace zevo::pipeline {

/// One picture of a live source and what was seen in it.
struct LiveFrameResult {
    std::shared_ptr<const Picture> picture;  ///< as delivered to the network
    double scale = 1;                        ///< the source's pixels for one of the picture
    double timeS = 0;                        ///< steadySeconds() when it was taken
    PoseFrame pose;                          ///< as the network saw it, the source's pixels
    PoseFrame drawn;                         ///< the same, calmed for drawing
    double stillS = 0, thereS = 0, goneS = 0, handUpS = 0;
    bool filming = false;
    double clipS = 0;      ///< on the clock of the recording
    LiveSet::Reading set;  ///< of this recording
    CameraCheck check;     ///< brought up to date twice a second while nothing is recorded
};

/// Counts since the source was opened, and of the recording under way or the last one.
struct LiveCounts {
    long taken = 0;                       ///< pictures the camera delivered
    long inferred = 0;                    ///< looked at by the network
    long recorded = 0;                    ///< written
    long dropped = 0;                     ///< of the recording, for want of room between camera and disk
    double cameraRate = 0, poseRate = 0;  ///< a second, over the last two
    double behindS = 0;                   ///< age of the last picture when its lines were ready
    long long queuedBytes = 0;
};

/// A recording that has ended.
struct Filmed {
    std::string path;
    media::SourceFacts facts;
    double firstS = 0;  ///< of its first picture on the clock all cameras share
    double durationS = 0;
    long frames = 0, dropped = 0;
    PoseFrames poses;                    ///< of the pictures that were reached, on the clip's clock
    std::shared_ptr<KeptPieces> pieces;  ///< null where there was no room to keep them
    std::string model, network;
    int people = 1;
    /// Why the recording ended before it was ended: disk full, camera unplugged. What was filmed is kept.
    std::optional<Error> broken;
};

/// What a recording holds of the time before its start.
inline constexpr double kRingS = 3;

/// A camera that is on: its pictures are followed as they come, and recorded while film() … endFilming(). Three
/// threads: one takes pictures and never waits for anything, one writes, one looks at the newest. What happened in the
/// last seconds before film() is part of the recording, so that a start that comes late misses nothing.
class LiveSession {
  public:
    struct Options {
        std::string modelDir;
        pose::ModelSize model = pose::ModelSize::Full;
        double ringS = kRingS;
        /// Between camera and disk; what does not fit is dropped and counted. Three minutes of drawn pictures at 720p.
        long long queueBytes = 256LL << 20;
        int maxSide = kWidestFrame;
        /// Between two pictures the network looks at; 0: all it can. A second camera is looked at now and then only, to
        /// check where it stands: its clip is measured afterwards.
        double followEveryS = 0;
        /// Where the estimator comes from; the network where nothing is said.
        std::function<Result<std::unique_ptr<pose::Estimator>>()> makeEstimator{};
    };
    /// Called on the following thread.
    using OnLook = std::function<void(LiveFrameResult&&)>;
    /// Something ended by itself: the camera (then nothing comes any more), or the recording. Any thread.
    using OnError = std::function<void(const Error&)>;

    static Result<std::unique_ptr<LiveSession>> start(std::unique_ptr<media::LiveSource> source, const Options& options,
                                                      OnLook onLook, OnError onTrouble);
    ~LiveSession();
    LiveSession(const LiveSession&) = delete;
    LiveSession& operator=(const LiveSession&) = delete;

    media::LiveSource& source();
    const media::SourceFacts& facts() const;
    /// What the client is about to do; the camera check speaks of it.
    void setMovement(const CheckedMovement& movement);
    /// Begins a recording at `path` (Matroska). `context`: what the repetitions are counted as. Error: cannot be
    /// written.
    Result<void> film(const std::string& path, const std::string& filmedAt, const SetContext& context);
    bool isFilming() const;
    /// Ends it, also after the camera has gone. Waits until everything taken before this call is on the disk and until
    /// the following thread has done with the pictures it was given; not for the window's thread. Error: nothing was
    /// being filmed.
    Result<Filmed> endFilming();
    LiveCounts counts() const;

  private:
    struct Impl;
    explicit LiveSession(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

/// What was seen live, as an observation: enough for the answer between two sets.
Observation observedLive(const Filmed& filmed, const SetContext& context);

/// The careful reading afterwards: pictures the network did not reach, pieces, other networks at the turning points.
/// The result is as that of observeClip() on the recorded file.
Result<Observation> observeFilmed(const Filmed& filmed, const SetContext& context, const AnalyseOptions& options,
                                  const std::atomic<bool>& cancel, const OnProgress& progress = {});

}  // namespace zevo::pipeline
