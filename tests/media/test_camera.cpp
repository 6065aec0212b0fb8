// A camera that stalls, is pulled out, jumps in time, answers with another size, or sends pictures that are cut off: a
// made-up video device plays each, through the kernel's own calls.
#include <linux/videodev2.h>

#include <cerrno>
#include <condition_variable>
#include <cstring>
#include <deque>
#include <mutex>
#include <thread>

#include "media/clip_clock.h"
#include "media/video_device.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::media;

namespace {

constexpr int kWidth = 320, kHeight = 240;

std::vector<std::uint8_t> jpeg(int width = kWidth, int height = kHeight) {
    auto encoder = JpegEncoder::create(width, height);
    const Picture p = made::blobs(width, height, 0, 0);
    return *encoder->encode(p.view(), 0)->jpeg;
}

/// What the device does, seen from outside.
struct Script {
    struct Shot {
        std::vector<std::uint8_t> bytes;
        double takenS = 0;  ///< on the monotonic clock; 0: now
        std::uint32_t flags = 0;
        bool otherClock = false;
    };
    std::mutex mutex;
    std::condition_variable changed;
    std::deque<Shot> shots;
    bool pulledOut = false, woken = false, streaming = false, gone = false;
    int width = kWidth, height = kHeight;  ///< that the driver agrees to
    std::uint32_t form = V4L2_PIX_FMT_MJPEG;
    int busyAt = 0;  ///< the call that answers EBUSY

    void shoot(Shot shot) {
        const std::lock_guard lock(mutex);
        shots.push_back(std::move(shot));
        changed.notify_all();
    }
    void pull() {
        const std::lock_guard lock(mutex);
        pulledOut = true;
        changed.notify_all();
    }
};

class FakeDevice final : public VideoDevice {
  public:
    explicit FakeDevice(std::shared_ptr<Script> script) : m_script(std::move(script)) {}
    ~FakeDevice() override { m_script->gone = true; }

    int control(unsigned long request, void* argument) override {
        Script& s = *m_script;
        const std::lock_guard lock(s.mutex);
        if (s.pulledOut) return -ENODEV;
        if (static_cast<int>(request) == s.busyAt) return -EBUSY;
        switch (request) {
            case VIDIOC_QUERYCAP: return 0;
            case VIDIOC_S_FMT: {
                auto& pix = static_cast<v4l2_format*>(argument)->fmt.pix;
                pix.width = static_cast<std::uint32_t>(s.width), pix.height = static_cast<std::uint32_t>(s.height);
                pix.pixelformat = s.form;
                pix.bytesperline = s.form == V4L2_PIX_FMT_YUYV ? pix.width * 2 + 32 : 0;  // padded rows
                return 0;
            }
            case VIDIOC_S_PARM: return 0;
            case VIDIOC_REQBUFS:
                m_buffers.resize(static_cast<v4l2_requestbuffers*>(argument)->count,
                                 std::vector<unsigned char>(400000));
                return 0;
            case VIDIOC_QUERYBUF: {
                auto& b = *static_cast<v4l2_buffer*>(argument);
                b.length = static_cast<std::uint32_t>(m_buffers[b.index].size());
                b.m.offset = b.index;
                return 0;
            }
            case VIDIOC_QBUF: m_free.push_back(static_cast<v4l2_buffer*>(argument)->index); return 0;
            case VIDIOC_STREAMON: s.streaming = true; return 0;
            case VIDIOC_STREAMOFF: s.streaming = false; return 0;
            case VIDIOC_DQBUF: {
                if (s.shots.empty() || m_free.empty()) return -EAGAIN;
                auto& b = *static_cast<v4l2_buffer*>(argument);
                const Script::Shot shot = std::move(s.shots.front());
                s.shots.pop_front();
                b.index = m_free.front();
                m_free.pop_front();
                std::copy(shot.bytes.begin(), shot.bytes.end(), m_buffers[b.index].begin());
                b.bytesused = static_cast<std::uint32_t>(shot.bytes.size());
                b.flags = shot.flags | (shot.otherClock ? 0U : V4L2_BUF_FLAG_TIMESTAMP_MONOTONIC);
                const double at = shot.takenS != 0 ? shot.takenS : steadySeconds();
                b.timestamp.tv_sec = static_cast<long>(at);
                b.timestamp.tv_usec = static_cast<long>((at - std::floor(at)) * 1e6);
                return 0;
            }
            default: return -EINVAL;
        }
    }
    int wait(int timeoutMs) override {
        Script& s = *m_script;
        std::unique_lock lock(s.mutex);
        s.changed.wait_for(lock, std::chrono::milliseconds(timeoutMs),
                           [&] { return s.pulledOut || s.woken || !s.shots.empty(); });
        if (s.pulledOut) return -ENODEV;
        if (std::exchange(s.woken, false)) return 0;
        return s.shots.empty() ? 0 : 1;
    }
    void wake() override {
        const std::lock_guard lock(m_script->mutex);
        m_script->woken = true;
        m_script->changed.notify_all();
    }
    const unsigned char* map(std::size_t, long long offset) override {
        return m_buffers[static_cast<std::size_t>(offset)].data();
    }

  private:
    std::shared_ptr<Script> m_script;
    std::vector<std::vector<unsigned char>> m_buffers;
    std::deque<std::uint32_t> m_free;
};

CameraMode mjpeg() {
    return {kWidth, kHeight, 30, true, "mjpeg"};
}

Result<std::unique_ptr<LiveSource>> film(const std::shared_ptr<Script>& script, const CameraMode& mode = mjpeg(),
                                         double stuckS = 5) {
    return filmWith(std::make_unique<FakeDevice>(script), mode, stuckS);
}

}  // namespace

class TestCamera : public QObject {
    Q_OBJECT
  private slots:
    void picturesComeWithTheTimeTheyWereTaken() {
        auto script = std::make_shared<Script>();
        auto camera = film(script);
        QVERIFY2(bool(camera), camera ? "" : made::words(camera.error()));
        QCOMPARE((*camera)->facts().width, kWidth);
        LiveFrame frame;
        // Delivered late: the stamp is still that of the driver, not of the delivery.
        const double takenS = steadySeconds() - 0.8;
        script->shoot({jpeg(), takenS});
        QVERIFY(*(*camera)->next(frame));
        NEAR(frame.timeS, takenS, 2e-6);
        VideoFrame picture;
        QVERIFY(bool(LiveDecoder().decode(frame, picture)));
        QCOMPARE(picture.picture.width, kWidth);
        // Of another clock, or hours off: the moment of arrival.
        for (Script::Shot shot :
             {Script::Shot{jpeg(), 123.0, 0, true}, Script::Shot{jpeg(), steadySeconds() + 26 * 3600}}) {
            script->shoot(shot);
            const double now = steadySeconds();
            QVERIFY(*(*camera)->next(frame));
            QVERIFY(frame.timeS >= now && frame.timeS < now + 5);
        }
        camera->reset();
        QVERIFY(script->gone && !script->streaming);
    }

    /// It sends nothing: stop() ends the wait at once, and without it the wait ends by itself.
    void aStalledCameraIsLetGo() {
        auto script = std::make_shared<Script>();
        auto camera = film(script, mjpeg(), 3600);
        QVERIFY(bool(camera));
        std::jthread later([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(50));
            (*camera)->stop();
        });
        LiveFrame frame;
        const auto more = (*camera)->next(frame);
        QVERIFY(more && !*more);
        auto stalled = film(std::make_shared<Script>(), mjpeg(), 0.3);
        const auto gone = (*stalled)->next(frame);
        QVERIFY(!gone && gone.error().message.find("no pictures any more") != std::string::npos);
    }

    void pulledOutIsSaid() {
        auto script = std::make_shared<Script>();
        auto camera = film(script);
        std::jthread later([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(50));
            script->pull();
        });
        LiveFrame frame;
        const auto gone = (*camera)->next(frame);
        QVERIFY(!gone && gone.error().message.find("unplugged") != std::string::npos);
    }

    /// Cut off, damaged, of another size, or no picture at all: left out; the next good one comes. Where only such
    /// come, that is said.
    void whatCannotBeUsedIsLeftOut() {
        auto script = std::make_shared<Script>();
        auto camera = film(script, mjpeg(), 0.4);
        auto cut = jpeg();
        cut.resize(cut.size() / 2);
        script->shoot({cut});
        script->shoot({jpeg(640, 480)});
        script->shoot({{}});
        script->shoot({std::vector<std::uint8_t>(200, 7)});
        script->shoot({jpeg(), 0, V4L2_BUF_FLAG_ERROR});
        auto padded = jpeg();
        const std::size_t size = padded.size();
        padded.resize(size + 500);  // as drivers fill up their buffers
        script->shoot({padded});
        LiveFrame frame;
        QVERIFY(*(*camera)->next(frame));
        QCOMPARE(frame.jpeg->size(), size);
        for (int i = 0; i < 50; ++i) script->shoot({cut});
        const auto only = (*camera)->next(frame);
        QVERIFY(!only && only.error().detail.find("damaged") != std::string::npos);
    }

    /// The driver agrees to something else than was asked for: that is what is filmed.
    void theDriversSizeHolds() {
        auto script = std::make_shared<Script>();
        script->width = 640, script->height = 480;
        auto camera = film(script);
        QCOMPARE((*camera)->facts().width, 640);
        script->shoot({jpeg(640, 480)});
        LiveFrame frame;
        QVERIFY(*(*camera)->next(frame));
        auto odd = std::make_shared<Script>();
        odd->form = V4L2_PIX_FMT_H264;
        QVERIFY(!film(odd));
    }

    /// Raw pictures, rows padded by the driver.
    void rawPicturesAreEncoded() {
        auto script = std::make_shared<Script>();
        script->form = V4L2_PIX_FMT_YUYV;
        auto camera = film(script, {kWidth, kHeight, 30, false, "yuyv422"});
        QVERIFY2(bool(camera), camera ? "" : made::words(camera.error()));
        std::vector<std::uint8_t> raw((kWidth * 2 + 32) * kHeight, 0);
        for (int y = 0; y < kHeight; ++y)
            for (int x = 0; x < kWidth; ++x) {
                raw[static_cast<std::size_t>(y * (kWidth * 2 + 32) + 2 * x)] = x < kWidth / 2 ? 40 : 200;
                raw[static_cast<std::size_t>(y * (kWidth * 2 + 32) + 2 * x + 1)] = 128;
            }
        script->shoot({{raw.begin(), raw.begin() + 500}});  // cut off
        script->shoot({raw});
        LiveFrame frame;
        QVERIFY(*(*camera)->next(frame));
        VideoFrame picture;
        QVERIFY(bool(LiveDecoder().decode(frame, picture)));
        for (int y : {5, kHeight - 5}) {
            QVERIFY(picture.picture.at(20, y)[0] < 60);
            QVERIFY(picture.picture.at(kWidth - 20, y)[0] > 180);
        }
    }

    void aCameraInUseIsSaid() {
        for (unsigned long call : {VIDIOC_S_FMT, VIDIOC_REQBUFS, VIDIOC_STREAMON}) {
            auto script = std::make_shared<Script>();
            script->busyAt = static_cast<int>(call);
            const auto refused = film(script);
            QVERIFY(!refused && refused.error().message.find("in use") != std::string::npos);
        }
        const auto none = openCamera("/dev/no-such-video", mjpeg());
        QVERIFY(!none && none.error().message.find("not plugged in") != std::string::npos);
    }

    void largePicturesAreDecodedSmaller() {
        const LiveFrame frame{0, std::make_shared<const std::vector<std::uint8_t>>(jpeg(1920, 1080))};
        VideoFrame picture;
        QVERIFY(bool(LiveDecoder(1280).decode(frame, picture)));
        QCOMPARE(picture.picture.width, 1200);  // five eighths
        QCOMPARE(picture.picture.height, 675);
        // The same picture, only smaller: means of a part agree.
        VideoFrame whole;
        QVERIFY(bool(LiveDecoder(1920).decode(frame, whole)));
        auto mean = [](const Picture& p, double x, double y) {
            double sum = 0;
            const int side = p.width / 40;
            for (int v = 0; v < side; ++v)
                for (int u = 0; u < side; ++u) sum += p.at(int(x * p.width) + u, int(y * p.height) + v)[1];
            return sum / (side * side);
        };
        for (double x : {0.1, 0.5, 0.9})
            for (double y : {0.1, 0.5, 0.9}) NEAR(mean(picture.picture, x, y), mean(whole.picture, x, y), 6);
        QVERIFY(!LiveDecoder().decode({0, std::make_shared<const std::vector<std::uint8_t>>(300, 9)}, picture));
    }

    void stampsGrowAndNeverLeap() {
        const double step = 1.0 / 30;
        auto laid = [&](const std::vector<double>& stamps) {
            SteadyStamps s(step, 10, 1e-3);
            std::vector<double> out;
            for (double t : stamps) out.push_back(s.take(t));
            return out;
        };
        // As they come, where nothing is wrong.
        const std::vector<double> good{5, 5.033, 5.07, 5.1, 9};
        QCOMPARE(laid(good), good);
        // One that is 26 hours ahead is laid a step on, and the ones after it are as they were.
        const auto ahead = laid({0, step, 26 * 3600.0, 3 * step, 4 * step});
        NEAR(ahead[2], 2 * step, 1e-9);
        NEAR(ahead[3], 3 * step, 1e-9);
        NEAR(ahead[4], 4 * step, 1e-9);
        // A clock that was set back goes on from where it was; pictures out of order lie just behind each other.
        const auto back = laid({100, 100.033, 40, 40.033, 40.067});
        NEAR(back[2], 100.033 + step, 1e-9);
        NEAR(back[4] - back[3], 0.034, 1e-9);
        const auto jitter = laid({0, 0.033, 0.03, 0.066});
        NEAR(jitter[2], 0.034, 1e-9);
        NEAR(jitter[3], 0.066, 1e-9);
        for (const auto& all : {ahead, back, jitter}) QVERIFY(std::is_sorted(all.begin(), all.end()));
    }

    /// One moment, one number of milliseconds, whoever counts from where.
    void aClipsClockHasNoRoundingOfItsOwn() {
        for (double first : {1234.0005, 1234.4999, 99999.9995}) {
            const auto clock = ClipClock::startingAt(first);
            QCOMPARE(clock.clipMs(first), std::int64_t{0});
            for (int ms = 0; ms < 4000; ms += 7) {
                const double t = static_cast<double>(clock.firstMs + ms) / 1000;
                QCOMPARE(clock.clipMs(t), std::int64_t{ms});
                QCOMPARE(millisecondsOf(clock.clipS(t)), std::int64_t{ms});
            }
        }
    }
};

ZEVO_SUITE(TestCamera, "camera")
#include "test_camera.moc"
