#pragma once

#include <memory>
#include <string>

#include "core/base/picture.h"
#include "core/base/result.h"

namespace zevo::media {

/// What a clip says about itself. Sizes are of the upright picture: rotation and pixel aspect undone.
struct ClipInfo {
    int width = 0;
    int height = 0;
    double durationS = 0;   ///< of the video stream; 0 when the file does not say
    double frameRate = 0;   ///< average, frames a second
    long frames = 0;        ///< as stated or estimated from duration; the exact number is known after reading
    int rotationDeg = 0;    ///< clockwise turn that was undone: 0, 90, 180 or 270
    bool mirrored = false;  ///< the file asked for a mirror image; undone as well
    std::string filmedAt;   ///< ISO 8601, from the file's own data; empty when it does not say
};

struct VideoFrame {
    long index = 0;    ///< number of frames delivered since the last seek
    double timeS = 0;  ///< presentation time, 0 = start of the video stream
    Picture picture;   ///< upright, square pixels, 8-bit RGB
};

struct ReadOptions {
    /// Longest side of the delivered pictures; larger clips are scaled down while being converted.
    int maxSide = 1920;
};

/// Streams the frames of any video file FFmpeg can read; holds one frame at a time.
/// Time stamps are the file's own (variable rate honoured). The file is opened read-only.
class ClipReader {
  public:
    static Result<ClipReader> open(const std::string& path, const ReadOptions& options = {});
    ClipReader(ClipReader&&) noexcept;
    ClipReader& operator=(ClipReader&&) noexcept;
    ~ClipReader();

    const ClipInfo& info() const;
    /// The next frame; false at the end. A damaged stretch is skipped and counted, never an error.
    Result<bool> next(VideoFrame& frame);
    /// Like next() without the conversion to RGB: moves on and tells the time only.
    Result<bool> skip(double& timeS);
    /// Afterwards next() delivers the first frame at or after `timeS`.
    Result<void> seek(double timeS);
    /// Decoding errors met so far: above 0 the clip is damaged or cut short.
    int damagedPackets() const;

  private:
    struct Impl;
    explicit ClipReader(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

/// Longest distance in frames between two pictures that decode alone; reads packets only, no decoding.
Result<int> longestKeyFrameGap(const std::string& path);

}  // namespace zevo::media
