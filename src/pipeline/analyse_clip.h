#pragma once

#include <atomic>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/session/session.h"
#include "pipeline/frame_stage.h"
#include "pose/estimator.h"

namespace zevo::pipeline {

/// Workers that make good use of this machine: one a core, at most eight.
int workersHere();

struct AnalyseOptions {
    std::string modelDir;
    pose::ModelSize model = pose::ModelSize::Full;
    /// Workers, each with its own decoder and networks over its own stretch of the clip. A network uses one thread.
    int workers = workersHere();
    /// The person the coach chose; else the one nearest to the camera.
    std::optional<PersonAt> person = {};
    /// analyseClip() only: the line of the back as well.
    bool back = false;
    /// analyseClip() only: points to be followed, with their clicks.
    std::vector<Mark> marks = {};
};

/// What a job is at; the words are made in the window.
enum class Doing { Reading, Outlines, ViewingCopy, CheckingFile, Drawing, Opening, Following };

struct Progress {
    long framesDone = 0;
    long framesInAll = 0;
    double secondsLeft = 0;  ///< estimate; 0 while unknown
    Doing doing = Doing::Reading;
};

/// Wider pictures are scaled down on reading, to this many pixels.
inline constexpr int kWidestFrame = 1280;

/// Told a few times a second from the calling thread.
using OnProgress = std::function<void(const Progress&)>;

/// Streams a clip through the stages on several workers: poses of every frame in time order, shoes and head in
/// every repetition (of the movement in `context`), notices of the reading. Results are the same for any number of
/// workers within what the seams allow (a lead-in is blended). `cancel` may be set from any thread; the call then
/// answers that it was stopped.
Result<Observation> observeClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                const std::atomic<bool>& cancel, const OnProgress& progress = {});

/// When a clip was filmed, by its own account (ISO 8601); empty when it does not say.
std::string filmedAt(const std::string& clip);

/// Outlines of the body at given moments of the clip, each named by the moment it was wanted for.
Result<std::vector<Outline>> readOutlines(const std::string& clip, const PoseFrames& poses,
                                          const std::vector<double>& timesS, const std::string& modelDir,
                                          const std::atomic<bool>& cancel, const OnProgress& progress = {});

/// Outlines over the repetitions of a side view, about ten a second: what the line of the back is read from. Put into
/// `seen`; nothing in another view. It is a second way through the clip, after the answer: the network that follows the
/// pose does not draw outlines. Errors: stopped, or what readOutlines() says.
Result<void> readContours(const std::string& clip, const MeasuredView& view, Observation& seen,
                          const std::string& modelDir, const std::atomic<bool>& cancel,
                          const OnProgress& progress = {});

/// The whole way from a clip to a measured set (not yet judged).
struct AnalysedClip {
    Observation seen;
    MeasuredSet set;
    std::optional<Observation> second;
};
Result<AnalysedClip> analyseClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                 const std::atomic<bool>& cancel, const OnProgress& progress = {});

/// Reads another view of the same set and joins it (session/measured_set.h).
Result<void> analyseSecondClip(AnalysedClip& set, const std::string& clip, bool sameTake, double nudgeS,
                               const AnalyseOptions& options, const std::atomic<bool>& cancel,
                               const OnProgress& progress = {});

}  // namespace zevo::pipeline
