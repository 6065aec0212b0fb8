// Cameras and their modes, by V4L2's own calls.
#include <fcntl.h>
#include <linux/videodev2.h>
#include <sys/ioctl.h>
#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <tuple>

#include "media/live_source.h"

namespace zevo::media {
namespace {

/// A device file that closes itself.
class Device {
  public:
    explicit Device(const std::string& path) : m_file(open(path.c_str(), O_RDWR | O_NONBLOCK | O_CLOEXEC)) {}
    Device(const Device&) = delete;
    Device& operator=(const Device&) = delete;
    ~Device() {
        if (m_file >= 0) close(m_file);
    }
    bool isOpen() const { return m_file >= 0; }
    template <typename What>
    bool ask(unsigned long request, What& what) const {
        int done = 0;
        do done = ioctl(m_file, request, &what);
        while (done < 0 && errno == EINTR);
        return done >= 0;
    }

  private:
    int m_file;
};

/// The formats Zevo can film with; the others are left out.
struct Format {
    std::uint32_t code;
    const char* name;
    bool encoded;
};
constexpr Format kFormats[] = {{V4L2_PIX_FMT_MJPEG, "mjpeg", true},   {V4L2_PIX_FMT_JPEG, "mjpeg", true},
                               {V4L2_PIX_FMT_YUYV, "yuyv422", false}, {V4L2_PIX_FMT_UYVY, "uyvy422", false},
                               {V4L2_PIX_FMT_NV12, "nv12", false},    {V4L2_PIX_FMT_YUV420, "yuv420p", false},
                               {V4L2_PIX_FMT_RGB24, "rgb24", false},  {V4L2_PIX_FMT_BGR24, "bgr24", false}};

void addRates(const Device& device, std::uint32_t code, CameraMode mode, std::vector<CameraMode>& out) {
    v4l2_frmivalenum interval{};
    interval.pixel_format = code;
    interval.width = static_cast<std::uint32_t>(mode.width);
    interval.height = static_cast<std::uint32_t>(mode.height);
    bool any = false;
    for (; device.ask(VIDIOC_ENUM_FRAMEINTERVALS, interval); ++interval.index) {
        const v4l2_fract& step =
            interval.type == V4L2_FRMIVAL_TYPE_DISCRETE ? interval.discrete : interval.stepwise.min;
        if (step.numerator == 0) continue;
        mode.rate = static_cast<double>(step.denominator) / step.numerator;
        out.push_back(mode);
        any = true;
        if (interval.type != V4L2_FRMIVAL_TYPE_DISCRETE) break;
    }
    if (!any) out.push_back(mode);
}

std::vector<CameraMode> modesOf(const Device& device) {
    std::vector<CameraMode> out;
    v4l2_fmtdesc format{};
    format.type = V4L2_BUF_TYPE_VIDEO_CAPTURE;
    for (; device.ask(VIDIOC_ENUM_FMT, format); ++format.index) {
        const auto* known = std::find_if(std::begin(kFormats), std::end(kFormats),
                                         [&](const Format& f) { return f.code == format.pixelformat; });
        if (known == std::end(kFormats)) continue;
        v4l2_frmsizeenum size{};
        size.pixel_format = format.pixelformat;
        for (; device.ask(VIDIOC_ENUM_FRAMESIZES, size); ++size.index) {
            CameraMode mode{0, 0, 30, known->encoded, known->name};
            if (size.type == V4L2_FRMSIZE_TYPE_DISCRETE) {
                mode.width = static_cast<int>(size.discrete.width);
                mode.height = static_cast<int>(size.discrete.height);
                addRates(device, format.pixelformat, mode, out);
            } else {
                // Any size within limits: the ones that are filmed with.
                for (const auto& [w, h] : {std::pair{1920u, 1080u}, {1280u, 720u}, {960u, 540u}, {640u, 480u}})
                    if (w <= size.stepwise.max_width && h <= size.stepwise.max_height && w >= size.stepwise.min_width) {
                        mode.width = static_cast<int>(w), mode.height = static_cast<int>(h);
                        addRates(device, format.pixelformat, mode, out);
                    }
                break;
            }
        }
    }
    std::erase_if(out, [](const CameraMode& m) { return m.width % 2 || m.height % 2 || m.width < 320; });
    return out;
}

}  // namespace

std::vector<CameraInfo> camerasHere() {
    std::vector<CameraInfo> out;
    std::error_code ignored;
    for (const auto& entry : std::filesystem::directory_iterator("/dev", ignored)) {
        const std::string path = entry.path().string();
        if (path.rfind("/dev/video", 0) != 0) continue;
        const Device device(path);
        v4l2_capability can{};
        if (!device.isOpen() || !device.ask(VIDIOC_QUERYCAP, can)) continue;
        const std::uint32_t caps = can.capabilities & V4L2_CAP_DEVICE_CAPS ? can.device_caps : can.capabilities;
        if (!(caps & V4L2_CAP_VIDEO_CAPTURE) || !(caps & V4L2_CAP_STREAMING)) continue;
        CameraInfo camera{path, reinterpret_cast<const char*>(can.card), modesOf(device)};
        if (!camera.modes.empty()) out.push_back(std::move(camera));
    }
    std::sort(out.begin(), out.end(), [](const CameraInfo& a, const CameraInfo& b) { return a.device < b.device; });
    return out;
}

CameraMode bestMode(const std::vector<CameraMode>& modes) {
    constexpr double kWantedRate = 30;
    constexpr int kWantedHeight = 720;
    auto badness = [](const CameraMode& m) {
        // Fewer than 25 a second lose the turning points; more than 60 only fill the disk.
        const double rate = m.rate < 25 ? 100 * (kWantedRate - m.rate) : std::abs(m.rate - kWantedRate);
        const int size = m.height < kWantedHeight ? 3 * (kWantedHeight - m.height) : m.height - kWantedHeight;
        return std::tuple(rate + size, !m.encoded);
    };
    CameraMode best;
    for (const CameraMode& m : modes)
        if (best.width == 0 || badness(m) < badness(best)) best = m;
    return best;
}

}  // namespace zevo::media
