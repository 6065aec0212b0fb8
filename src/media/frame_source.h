#pragma once

#include <memory>
#include <string>

#include "core/base/result.h"
#include "media/clip_reader.h"

namespace zevo::media {

/// What a source says about itself before the first frame. Sizes are of the upright picture at the source; delivered
/// pictures may be smaller.
struct SourceFacts {
    int width = 0, height = 0;
    double durationS = 0;  ///< 0 while unknown, as of a live source
    double frameRate = 30;
    long frames = 0;  ///< estimate; 0 while unknown
    int rotationDeg = 0;
    bool live = false;     ///< delivers at its own pace, now
    std::string filmedAt;  ///< ISO 8601 with its time zone, from the clip's own data; empty when it does not say
};

/// Where frames come from: a clip, the virtual client, a camera. Frames come in order; one thread at a time.
class FrameSource {
  public:
    virtual ~FrameSource() = default;
    virtual const SourceFacts& facts() const = 0;
    /// The next frame; false at the end.
    virtual Result<bool> next(VideoFrame& frame) = 0;
    /// Whether seek() means anything here.
    virtual bool canSeek() const { return false; }
    /// Afterwards next() delivers the first frame at or after `timeS`.
    virtual Result<void> seek(double timeS);
    /// Pieces that could not be decoded so far.
    virtual int damaged() const { return 0; }
};

/// A video file; see ClipReader.
Result<std::unique_ptr<FrameSource>> openClip(const std::string& path, const ReadOptions& options = {});

/// SHA-256 of a file's bytes as lower-case hex; empty when it cannot be read.
std::string sha256OfFile(const std::string& path);

}  // namespace zevo::media
