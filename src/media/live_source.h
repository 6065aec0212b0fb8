#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "media/frame_source.h"

namespace zevo::media {

/// One picture as a camera delivers it: still encoded, each decodable alone (JPEG), so that it can be recorded without
/// being encoded again, and any of them may be left out by who only wants to look.
struct LiveFrame {
    double timeS = 0;  ///< on the clock of this machine that all live sources share (steadySeconds())
    std::shared_ptr<const std::vector<std::uint8_t>> jpeg;
};

/// A clock that never jumps: seconds since some moment before this program began.
double steadySeconds();

/// A camera, or what stands in for one. Delivers at its own pace; next() waits for the next picture. One thread reads;
/// stop() may come from any.
class LiveSource {
  public:
    virtual ~LiveSource() = default;
    /// Size, promised frame rate, live = true.
    virtual const SourceFacts& facts() const = 0;
    /// The next picture; false when the source was stopped. Error: unplugged, taken away, stuck; in plain words.
    virtual Result<bool> next(LiveFrame& frame) = 0;
    virtual void stop() = 0;
};

/// One way a camera can film.
struct CameraMode {
    int width = 0, height = 0;
    double rate = 30;
    bool encoded = false;  ///< delivers JPEG; else raw pictures that Zevo encodes
    std::string format;    ///< "mjpeg", "yuyv422": FFmpeg's name of the form of its pictures
    bool operator==(const CameraMode&) const = default;
};

struct CameraInfo {
    std::string device;  ///< "/dev/video0"
    std::string name;    ///< as the camera calls itself
    std::vector<CameraMode> modes;
};

/// Cameras that are plugged in now, asked through V4L2's own calls. Those without a usable mode are left out.
std::vector<CameraInfo> camerasHere();
/// The mode to film with: 720p at 30 a second where it can, JPEG rather than raw, else what comes nearest.
CameraMode bestMode(const std::vector<CameraMode>& modes);

/// Opens a camera (video_device.h). Errors: in use by another program, not there any more, mode refused.
Result<std::unique_ptr<LiveSource>> openCamera(const std::string& device, const CameraMode& mode);
/// A made-up picture source of libavdevice (`lavfi`), for machines without a camera and for tests: "testsrc=…".
Result<std::unique_ptr<LiveSource>> openPattern(const std::string& graph);

/// Makes pictures of live frames. One instance a thread.
class LiveDecoder {
  public:
    /// Pictures with a side over `maxSide` come smaller, by eighths.
    explicit LiveDecoder(int maxSide = 1280);
    ~LiveDecoder();
    LiveDecoder(LiveDecoder&&) noexcept;
    /// Error: not a picture.
    Result<void> decode(const LiveFrame& frame, VideoFrame& out);

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

/// Encodes single pictures as JPEG, fast. One instance a thread; width and height must be even.
class JpegEncoder {
  public:
    static Result<JpegEncoder> create(int width, int height);
    ~JpegEncoder();
    JpegEncoder(JpegEncoder&&) noexcept;
    Result<LiveFrame> encode(const PictureView& picture, double timeS);

    struct Impl;

  private:
    explicit JpegEncoder(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::media
