#pragma once

#include <memory>
#include <string>

#include "core/base/picture.h"
#include "core/base/result.h"

namespace zevo::media {

struct WriteOptions {
    double frameRate = 30;      ///< nominal; the stamps given to write() are what is stored
    int quality = 20;           ///< x264 constant rate factor: smaller is better and larger
    int keyFrameInterval = 15;  ///< frames; short so that the stage can jump anywhere quickly
    const char* preset = "veryfast";
    bool jpeg = false;       ///< pictures that stand alone (live_source.h) instead of H.264; Matroska only
    int rotationTagDeg = 0;  ///< clockwise turn a player shall apply (a phone held upright stores 90)
};

/// Writes H.264, or JPEG pictures, into MP4 or Matroska (by the path's ending). The file appears under its name only
/// when finish() succeeded; until then it lies beside it as `NAME.part`, and is removed if never finished.
class ClipWriter {
  public:
    /// Width and height must be even.
    static Result<ClipWriter> create(const std::string& path, int width, int height, const WriteOptions& options = {});
    ClipWriter(ClipWriter&&) noexcept;
    ClipWriter& operator=(ClipWriter&&) noexcept;
    ~ClipWriter();

    /// Times must grow.
    Result<void> write(const PictureView& picture, double timeS);
    Result<void> finish();

  private:
    struct Impl;
    explicit ClipWriter(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::media
