#pragma once

#include <cstddef>
#include <memory>
#include <string>

#include "core/base/result.h"
#include "media/live_source.h"

namespace zevo::media {

/// What Zevo asks of a video device, and nothing more: the calls of the kernel's video interface (V4L2), so that a
/// made-up device can stand in for a camera that stalls, is pulled out, or sends rubbish.
class VideoDevice {
  public:
    virtual ~VideoDevice() = default;
    /// ioctl(2); 0, or the negative errno. Never blocks: the device is open for non-blocking use.
    virtual int control(unsigned long request, void* argument) = 0;
    /// Waits until a picture can be fetched or wake() was called: 1 where a picture is there (or the device has
    /// something to say), 0 after `timeoutMs` or a wake, or the negative errno.
    virtual int wait(int timeoutMs) = 0;
    /// Ends a wait(), now or the next one; from any thread.
    virtual void wake() = 0;
    /// mmap(2) of one of the device's buffers; null where it fails. It is taken back with the device.
    virtual const unsigned char* map(std::size_t length, long long offset) = 0;
};

/// A device file, open for non-blocking use. Error: not there, in use, not allowed.
Result<std::unique_ptr<VideoDevice>> openVideoDevice(const std::string& path);

/// Films with a device: negotiates the mode, takes pictures as they come, lets go of it at the end. JPEG passes
/// through; raw pictures are encoded. A picture that is cut off, marked as damaged, or of another size than was agreed
/// is left out; where nothing else comes for `stuckS` seconds, that is an error. Stamps are the driver's own, where
/// they are on the clock all live sources share, else the moment of arrival.
Result<std::unique_ptr<LiveSource>> filmWith(std::unique_ptr<VideoDevice> device, const CameraMode& mode,
                                             double stuckS = 5);

}  // namespace zevo::media
