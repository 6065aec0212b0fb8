// A camera by the kernel's own video interface: buffers that the driver fills and Zevo hands back.
#include <linux/videodev2.h>
#include <turbojpeg.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <cmath>
#include <cstring>
#include <optional>

#include "media/jpeg_encoder.h"
#include "media/turbo_handle.h"
#include "media/video_device.h"

namespace zevo::media {
namespace {

/// Enough for a reader that is late by a picture or two; more would only hold older ones.
constexpr unsigned kBuffers = 4;
/// Between two looks at the clock while nothing comes.
constexpr int kWaitMs = 200;
/// A driver's stamp further than this from the moment of arrival is on another clock.
constexpr double kPlausibleS = 1;

struct Form {
    std::uint32_t code;
    const char* name;  ///< as CameraMode::format has it
    AVPixelFormat pixels;
};
constexpr Form kForms[] = {
    {V4L2_PIX_FMT_MJPEG, "mjpeg", AV_PIX_FMT_NONE},     {V4L2_PIX_FMT_JPEG, "mjpeg", AV_PIX_FMT_NONE},
    {V4L2_PIX_FMT_YUYV, "yuyv422", AV_PIX_FMT_YUYV422}, {V4L2_PIX_FMT_UYVY, "uyvy422", AV_PIX_FMT_UYVY422},
    {V4L2_PIX_FMT_NV12, "nv12", AV_PIX_FMT_NV12},       {V4L2_PIX_FMT_YUV420, "yuv420p", AV_PIX_FMT_YUV420P},
    {V4L2_PIX_FMT_RGB24, "rgb24", AV_PIX_FMT_RGB24},    {V4L2_PIX_FMT_BGR24, "bgr24", AV_PIX_FMT_BGR24}};

Error camera(const std::string& sentence, int code) {
    return {sentence, std::strerror(-code)};
}
Error gone(int code) {
    return camera("This camera was unplugged. What was filmed so far is kept; plug it in again to go on.", code);
}

/// Length of the picture up to its end mark; 0 where that is missing. Drivers may fill up the rest of a buffer.
std::size_t wholeJpeg(const unsigned char* data, std::size_t size) {
    if (size < 4 || data[0] != 0xff || data[1] != 0xd8) return 0;
    while (size > 2 && data[size - 1] == 0) --size;
    return data[size - 2] == 0xff && data[size - 1] == 0xd9 ? size : 0;
}

class CameraSource final : public LiveSource {
  public:
    CameraSource(std::unique_ptr<VideoDevice> device, double stuckS) : m_device(std::move(device)), m_stuckS(stuckS) {}
    ~CameraSource() override {
        if (!m_streaming) return;
        int type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
        m_device->control(VIDIOC_STREAMOFF, &type);
    }

    Result<void> begin(const CameraMode& mode) {
        v4l2_capability can{};
        if (const int code = m_device->control(VIDIOC_QUERYCAP, &can); code < 0)
            return camera("This camera does not start.", code);
        if (auto agreed = agree(mode); !agreed) return agreed;
        if (auto mapped = mapBuffers(); !mapped) return mapped;
        int type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
        if (const int code = m_device->control(VIDIOC_STREAMON, &type); code < 0)
            return code == -EBUSY
                       ? camera("This camera is in use by another program. Close that one, or choose another camera.",
                                code)
                       : camera("This camera does not start.", code);
        m_streaming = true;
        return {};
    }

    const SourceFacts& facts() const override { return m_facts; }
    void stop() override {
        m_stopped = true;
        m_device->wake();
    }

    Result<bool> next(LiveFrame& frame) override {
        const double sinceS = steadySeconds();
        for (;;) {
            if (m_stopped) return false;
            if (steadySeconds() - sinceS > m_stuckS)
                return Error{"This camera sends no pictures any more. Another program may have taken it.",
                             m_badly ? "what it sent was damaged or of another size" : "nothing came"};
            const int ready = m_device->wait(kWaitMs);
            if (m_stopped) return false;
            if (ready < 0) return gone(ready);
            if (ready == 0) continue;
            v4l2_buffer filled{};
            filled.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
            filled.memory = V4L2_MEMORY_MMAP;
            if (const int code = m_device->control(VIDIOC_DQBUF, &filled); code < 0) {
                if (code == -EAGAIN) continue;
                if (code == -EIO) continue;  // this picture was lost on its way; the next may come
                return gone(code);
            }
            auto taken = take(filled);
            if (const int code = m_device->control(VIDIOC_QBUF, &filled); code < 0) return gone(code);
            if (!taken) return taken.error();
            m_badly = !taken->has_value();
            if (!*taken) continue;
            frame = std::move(**taken);
            return true;
        }
    }

  private:
    /// The driver may answer with another size or rate than was asked for: what it says holds.
    Result<void> agree(const CameraMode& mode) {
        v4l2_format format{};
        format.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
        const auto asked =
            std::find_if(std::begin(kForms), std::end(kForms), [&](const Form& f) { return mode.format == f.name; });
        format.fmt.pix.width = static_cast<std::uint32_t>(mode.width);
        format.fmt.pix.height = static_cast<std::uint32_t>(mode.height);
        format.fmt.pix.pixelformat = asked == std::end(kForms) ? V4L2_PIX_FMT_MJPEG : asked->code;
        format.fmt.pix.field = V4L2_FIELD_ANY;
        if (const int code = m_device->control(VIDIOC_S_FMT, &format); code < 0)
            return code == -EBUSY
                       ? camera("This camera is in use by another program. Close that one, or choose another camera.",
                                code)
                       : camera("This camera cannot film like that. Choose another camera.", code);
        const v4l2_pix_format& pix = format.fmt.pix;
        const auto form = std::find_if(std::begin(kForms), std::end(kForms),
                                       [&](const Form& f) { return f.code == pix.pixelformat; });
        if (form == std::end(kForms))
            return Error{"The pictures of this camera are in a form Zevo cannot read.",
                         std::to_string(pix.pixelformat)};
        m_pixels = form->pixels;
        m_stride = static_cast<int>(pix.bytesperline);
        m_facts.width = static_cast<int>(pix.width);
        m_facts.height = static_cast<int>(pix.height);
        m_facts.live = true;
        m_facts.frameRate = mode.rate > 0 ? mode.rate : 30;
        if (m_facts.width < 16 || m_facts.height < 16)
            return Error{"This camera sends no pictures.", std::to_string(m_facts.width)};
        v4l2_streamparm rate{};
        rate.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
        rate.parm.capture.timeperframe = {1000, static_cast<std::uint32_t>(std::lround(m_facts.frameRate * 1000))};
        if (m_device->control(VIDIOC_S_PARM, &rate) >= 0) {
            const v4l2_fract& step = rate.parm.capture.timeperframe;
            if (step.numerator > 0 && step.denominator > 0)
                m_facts.frameRate = static_cast<double>(step.denominator) / step.numerator;
        }
        return m_pixels == AV_PIX_FMT_NONE ? Result<void>() : m_jpeg.open(m_facts.width, m_facts.height);
    }

    Result<void> mapBuffers() {
        v4l2_requestbuffers wanted{};
        wanted.count = kBuffers;
        wanted.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
        wanted.memory = V4L2_MEMORY_MMAP;
        if (const int code = m_device->control(VIDIOC_REQBUFS, &wanted); code < 0)
            return camera("This camera is in use by another program. Close that one, or choose another camera.", code);
        for (unsigned i = 0; i < wanted.count; ++i) {
            v4l2_buffer buffer{};
            buffer.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
            buffer.memory = V4L2_MEMORY_MMAP;
            buffer.index = i;
            if (const int code = m_device->control(VIDIOC_QUERYBUF, &buffer); code < 0)
                return camera("This camera does not start.", code);
            const unsigned char* at = m_device->map(buffer.length, buffer.m.offset);
            if (!at) return Error{"There is not enough memory.", "buffers of the camera"};
            m_buffers.emplace_back(at, buffer.length);
            if (const int code = m_device->control(VIDIOC_QBUF, &buffer); code < 0)
                return camera("This camera does not start.", code);
        }
        return m_buffers.empty() ? Result<void>(Error{"This camera does not start.", "no buffers"}) : Result<void>();
    }

    /// The picture in a filled buffer; nothing where it cannot be used.
    Result<std::optional<LiveFrame>> take(const v4l2_buffer& filled) {
        const std::optional<LiveFrame> none;
        if (filled.index >= m_buffers.size() || (filled.flags & V4L2_BUF_FLAG_ERROR)) return none;
        const auto [data, length] = m_buffers[filled.index];
        const std::size_t size = std::min<std::size_t>(filled.bytesused, length);
        const double timeS = stampOf(filled);
        if (m_pixels == AV_PIX_FMT_NONE) {
            const std::size_t whole = wholeJpeg(data, size);
            if (whole == 0 || !isOfThisSize(data, whole)) return none;
            return std::optional(
                LiveFrame{timeS, std::make_shared<const std::vector<std::uint8_t>>(data, data + whole)});
        }
        std::uint8_t* planes[4] = {};
        int strides[4] = {};
        const int needed = av_image_fill_arrays(planes, strides, data, m_pixels, m_facts.width, m_facts.height, 1);
        // Rows of the packed forms may be longer than their pixels.
        const bool packed = !(av_pix_fmt_desc_get(m_pixels)->flags & AV_PIX_FMT_FLAG_PLANAR);
        std::size_t wants = static_cast<std::size_t>(std::max(0, needed));
        if (packed && m_stride > strides[0])
            strides[0] = m_stride,
            wants = static_cast<std::size_t>(m_stride) * static_cast<std::size_t>(m_facts.height);
        if (needed < 0 || size < wants) return none;
        auto encoded = m_jpeg.encode(planes, strides, m_facts.height, m_pixels, timeS);
        if (!encoded) return encoded.error();
        return std::optional(std::move(*encoded));
    }

    bool isOfThisSize(const unsigned char* data, std::size_t size) {
        int width = 0, height = 0, sampling = 0, colours = 0;
        return tjDecompressHeader3(m_header.get(), data, size, &width, &height, &sampling, &colours) == 0 &&
               width == m_facts.width && height == m_facts.height;
    }

    double stampOf(const v4l2_buffer& filled) const {
        const double now = steadySeconds();
        if ((filled.flags & V4L2_BUF_FLAG_TIMESTAMP_MASK) != V4L2_BUF_FLAG_TIMESTAMP_MONOTONIC) return now;
        // CLOCK_MONOTONIC, which is what std::chrono::steady_clock reads on Linux.
        const double taken =
            static_cast<double>(filled.timestamp.tv_sec) + static_cast<double>(filled.timestamp.tv_usec) * 1e-6;
        return std::abs(now - taken) < kPlausibleS ? taken : now;
    }

    std::unique_ptr<VideoDevice> m_device;
    double m_stuckS;
    SourceFacts m_facts;
    AVPixelFormat m_pixels = AV_PIX_FMT_NONE;
    int m_stride = 0;
    std::vector<std::pair<const unsigned char*, std::size_t>> m_buffers;
    JpegEncoder::Impl m_jpeg;
    TurboHandle m_header{tjInitDecompress()};
    std::atomic<bool> m_stopped{false};
    bool m_streaming = false, m_badly = false;
};

}  // namespace

Result<std::unique_ptr<LiveSource>> filmWith(std::unique_ptr<VideoDevice> device, const CameraMode& mode,
                                             double stuckS) {
    keepFfmpegQuiet();
    auto source = std::make_unique<CameraSource>(std::move(device), stuckS);
    if (auto begun = source->begin(mode); !begun) return begun.error();
    return std::unique_ptr<LiveSource>(std::move(source));
}

Result<std::unique_ptr<LiveSource>> openCamera(const std::string& device, const CameraMode& mode) {
    auto opened = openVideoDevice(device);
    if (!opened) return opened.error();
    return filmWith(std::move(*opened), mode);
}

}  // namespace zevo::media
