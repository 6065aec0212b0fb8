#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "core/body/outline.h"
#include "core/marks/marks.h"
#include "media/clip_writer.h"
#include "media/frame_source.h"
#include "sim/figure.h"
#include "sim/motion.h"
#include "sim/renderer.h"

namespace zevo::sim {

/// Everything a made-up clip is made from; the same spec gives the same pictures.
struct ClipSpec {
    MotionSpec motion;
    /// When set, this moves the client (a capture of a person, capture.h) and `motion` only gives body and clothes.
    std::shared_ptr<const Motion> capture;
    /// When set, this body is drawn instead of the one the motion's spec names (figure.h).
    std::shared_ptr<const Figure> figure;
    SceneSpec scene;
    media::WriteOptions video;
    double frameRate = 30;
    double startS = 0;  ///< the clip begins this far into the motion (a second camera switched on later)
    long frames = 0;    ///< no more than these; 0: the whole motion
    /// Uneven time stamps, as phones write them: each frame up to this share of a frame late.
    double jitter = 0;
    /// The faults this clip was made to show, by fault id (written into the truth file).
    std::vector<std::string> planted;
};

/// What moves the client of this spec.
std::shared_ptr<const Motion> motionOf(const ClipSpec& spec);

/// The body of this spec; an error where it cannot be made.
Result<std::shared_ptr<const Figure>> figureOf(const ClipSpec& spec);

/// Presentation times of the clip's frames.
std::vector<double> frameTimes(const ClipSpec& spec);

/// The 33 landmarks exactly where they are, projected by the spec's camera: a perfect pose estimator.
PoseFrame truePose(const Skeleton& skeleton, const Camera& camera, double timeS);
PoseFrames truePoses(const ClipSpec& spec);

/// Where what can be marked truly is in every frame, picture pixels, whether it is covered or not: ends of bars, bells
/// and sticks, tapes where the client wears them (looks.h).
Result<std::map<MarkKind, std::vector<MarkStep>>> trueMarks(const ClipSpec& spec);

/// Told (frames done, frames in all); returns false to stop.
using Progress = std::function<bool(long, long)>;

/// Renders on two threads and writes the clip. A stopped or failed run leaves no file. With `outlines` the client's
/// true outline in each frame is kept (picture pixels).
Result<void> makeClip(const ClipSpec& spec, const std::string& path, const Progress& progress = {},
                      std::vector<Outline>* outlines = nullptr);

/// The client's true outline in each frame, without a clip: what a perfect mask would give.
Result<std::vector<Outline>> trueOutlines(const ClipSpec& spec);

/// The virtual client as a source of frames: drawn as they are asked for, at the spec's frame rate.
Result<std::unique_ptr<media::FrameSource>> liveClient(const ClipSpec& spec);

/// The truth of every frame as JSON text (docs/formats.md): joint centres in the room and in the picture, angles,
/// outline, mass centre, phases, rep marks, and each rep's dials that are not at rest.
std::string truthJson(const ClipSpec& spec, const std::vector<Outline>& outlines = {});

/// Reads a spec from JSON text (docs/formats.md); errors name the field.
Result<ClipSpec> clipSpecFromJson(const std::string& text);

}  // namespace zevo::sim
