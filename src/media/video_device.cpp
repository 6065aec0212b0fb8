#include "media/video_device.h"

#include <fcntl.h>
#include <linux/videodev2.h>
#include <poll.h>
#include <sys/eventfd.h>
#include <sys/ioctl.h>
#include <sys/mman.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstring>
#include <utility>
#include <vector>

namespace zevo::media {
namespace {

class FileDevice final : public VideoDevice {
  public:
    FileDevice(int file, int woken) : m_file(file), m_woken(woken) {}
    FileDevice(const FileDevice&) = delete;
    FileDevice& operator=(const FileDevice&) = delete;
    ~FileDevice() override {
        for (const auto& [address, length] : m_maps) munmap(address, length);
        close(m_file);
        close(m_woken);
    }

    int control(unsigned long request, void* argument) override {
        int done = 0;
        do done = ioctl(m_file, request, argument);
        while (done < 0 && errno == EINTR);
        return done < 0 ? -errno : 0;
    }

    int wait(int timeoutMs) override {
        std::array<pollfd, 2> files{{{m_file, POLLIN, 0}, {m_woken, POLLIN, 0}}};
        const int ready = poll(files.data(), files.size(), timeoutMs);
        if (ready < 0) return errno == EINTR ? 0 : -errno;
        if (files[1].revents) {
            std::uint64_t count = 0;
            [[maybe_unused]] const auto read_ = read(m_woken, &count, sizeof count);
            return 0;
        }
        if (files[0].revents & (POLLNVAL | POLLHUP)) return -ENODEV;
        return files[0].revents ? 1 : 0;
    }

    void wake() override {
        const std::uint64_t one = 1;
        [[maybe_unused]] const auto written = write(m_woken, &one, sizeof one);
    }

    const unsigned char* map(std::size_t length, long long offset) override {
        void* at = mmap(nullptr, length, PROT_READ | PROT_WRITE, MAP_SHARED, m_file, static_cast<off_t>(offset));
        if (at == MAP_FAILED) return nullptr;
        m_maps.emplace_back(at, length);
        return static_cast<const unsigned char*>(at);
    }

  private:
    int m_file, m_woken;
    std::vector<std::pair<void*, std::size_t>> m_maps;
};

}  // namespace

Result<std::unique_ptr<VideoDevice>> openVideoDevice(const std::string& path) {
    const int file = open(path.c_str(), O_RDWR | O_NONBLOCK | O_CLOEXEC);
    if (file < 0) {
        const int problem = errno;
        if (problem == EBUSY)
            return Error{"This camera is in use by another program. Close that one, or choose another camera.", path};
        if (problem == ENOENT || problem == ENODEV || problem == ENXIO)
            return Error{"This camera is not plugged in any more. Plug it in again, or choose another one.", path};
        if (problem == EACCES || problem == EPERM)
            return Error{"Zevo may not use this camera: your account lacks the right to (group “video”).", path};
        return Error{"This camera does not start.", path + ": " + std::strerror(problem)};
    }
    const int woken = eventfd(0, EFD_CLOEXEC | EFD_NONBLOCK);
    if (woken < 0) {
        close(file);
        return Error{"This camera does not start.", std::string("eventfd: ") + std::strerror(errno)};
    }
    return std::unique_ptr<VideoDevice>(std::make_unique<FileDevice>(file, woken));
}

}  // namespace zevo::media
