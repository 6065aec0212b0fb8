#pragma once

#include <memory>
#include <string>

#include "core/base/result.h"
#include "media/live_source.h"

namespace zevo::media {

/// Writes live frames into a Matroska file as they come, without encoding them again. While it is written the file is
/// called NAME.part; what is in it can be read at any moment, and at most the last second is missing when the program
/// or the machine dies. finish() gives it its name.
class ClipRecorder {
  public:
    /// `filmedAt`: ISO 8601 with time zone, kept in the file. Error: folder not writable, disk full.
    static Result<ClipRecorder> create(const std::string& path, const SourceFacts& facts, const std::string& filmedAt);
    ClipRecorder(ClipRecorder&&) noexcept;
    ClipRecorder& operator=(ClipRecorder&&) noexcept;
    /// Leaves NAME.part as it is: what was filmed is never thrown away by an accident.
    ~ClipRecorder();

    /// Frames in order; the first one is moment 0 of the clip. Error: disk full (what was written stays readable).
    Result<void> write(const LiveFrame& frame);
    /// Ends the file and gives it its name. Also after a failed write, to keep what was filmed.
    Result<void> finish();
    long frames() const;
    double seconds() const;
    long long bytes() const;

  private:
    struct Impl;
    explicit ClipRecorder(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

/// What can be read of a recording that was broken off is written anew as `path`, with its length and index; the old
/// file goes when that has succeeded. Answers the frames that were saved; 0: nothing was in it, and it is left alone.
Result<long> recoverClip(const std::string& partPath, const std::string& path);

/// Reads a JPEG clip back as live frames, without pace; `timeS` counts from its first frame.
class LiveClip {
  public:
    static Result<LiveClip> open(const std::string& path);
    LiveClip(LiveClip&&) noexcept;
    LiveClip& operator=(LiveClip&&) noexcept;
    ~LiveClip();
    const SourceFacts& facts() const;
    /// False at the end.
    Result<bool> next(LiveFrame& frame);
    Result<void> rewind();

  private:
    struct Impl;
    explicit LiveClip(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::media
