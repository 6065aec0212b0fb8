#pragma once

#include <functional>
#include <string>
#include <vector>

#include "core/body/landmarks.h"
#include "core/result.h"
#include "media/clip_writer.h"
#include "sim/renderer.h"
#include "sim/squat_motion.h"

namespace zevo::sim {

/// Everything a made-up clip is made from; the same spec gives the same pictures.
struct ClipSpec {
    SquatSpec motion;
    SceneSpec scene;
    media::WriteOptions video;
    double frameRate = 30;
    /// Uneven time stamps, as phones write them: each frame up to this share of a frame late.
    double jitter = 0;
    /// The faults this clip was made to show, by fault id (written into the truth file).
    std::vector<std::string> planted;
};

/// Presentation times of the clip's frames.
std::vector<double> frameTimes(const ClipSpec& spec);

/// The 33 landmarks exactly where they are, projected by the spec's camera: a perfect pose estimator.
PoseFrame truePose(const Skeleton& skeleton, const Camera& camera, double timeS);
PoseFrames truePoses(const ClipSpec& spec);

/// Told (frames done, frames in all); returns false to stop.
using Progress = std::function<bool(long, long)>;

/// Renders on two threads and writes the clip. A stopped or failed run leaves no file.
Result<void> makeClip(const ClipSpec& spec, const std::string& path, const Progress& progress = {});

/// True joint positions, angles, phases and rep marks of every frame as JSON text (docs/formats.md).
std::string truthJson(const ClipSpec& spec);

/// Reads a spec from JSON text (docs/formats.md); errors name the field.
Result<ClipSpec> clipSpecFromJson(const std::string& text);

}  // namespace zevo::sim
