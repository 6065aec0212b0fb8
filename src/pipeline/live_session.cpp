#include "pipeline/live_session.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <condition_variable>
#include <deque>
#include <limits>
#include <mutex>
#include <thread>

#include "core/live/one_euro.h"
#include "media/clip_clock.h"
#include "media/clip_recorder.h"
#include "pipeline/barrier.h"
#include "pipeline/frame_stage.h"
#include "vision/picture_facts.h"

namespace zevo::pipeline {
namespace {

using media::LiveFrame;
using media::steadySeconds;

/// Pictures that wait for the network; more would only make the lines lag behind.
constexpr std::size_t kMostWaiting = 2;
/// A camera that sends nothing for so long has gone (media); stamps further ahead are wrong.
constexpr double kLongestGapS = 10;
constexpr double kCheckEveryS = 0.5, kCheckOverS = 1.0;
/// Poses of the moments before a start are kept a little longer than their pictures.
constexpr double kMoreThanRingS = 0.5;

/// Events a second over the last two.
class Rate {
  public:
    void add(double timeS) {
        m_times.push_back(timeS);
        while (timeS - m_times.front() > 2) m_times.pop_front();
    }
    double perSecond() const {
        if (m_times.size() < 5) return 0;
        return static_cast<double>(m_times.size() - 1) / (m_times.back() - m_times.front());
    }

  private:
    std::deque<double> m_times;
};

}  // namespace

struct LiveSession::Impl {
    Options options;
    OnLook onLook;
    OnError onTrouble;
    std::unique_ptr<media::LiveSource> source;
    std::unique_ptr<pose::Estimator> estimator;
    std::string network;

    mutable std::mutex mutex;  // guards everything below but what is said to belong to one thread
    std::condition_variable taken, written, followed;
    bool stopping = false;
    std::deque<LiveFrame> ring;     // the last seconds, oldest first
    std::deque<LiveFrame> waiting;  // for the network
    std::deque<LiveFrame> queue;    // for the disk
    LiveCounts counts;
    Rate cameraRate, poseRate;
    CheckedMovement movement;
    bool following = false;    // a picture is being looked at right now
    double followedS = -1e18;  // the one handed to the network last
    std::optional<Error> cameraGone;

    struct Recording {
        media::ClipRecorder recorder;
        std::string path;
        media::ClipClock clock;
        bool ending = false;  // no more pictures are taken in
        bool busy = false;    // the writer is at work on one
        bool full = false;    // the writer cannot go on
        std::optional<Error> broken;
    };
    std::optional<Recording> recording;
    // Handed to the following thread when a recording begins, and taken back when it ends.
    std::shared_ptr<LiveSet> set;
    std::shared_ptr<KeptPieces> pieces;
    media::ClipClock setClock;
    std::atomic<bool> piecesLost{false};

    std::deque<PoseFrame> recent;  // poses on the shared clock; following thread, or under the mutex while it waits

    std::jthread taker, writer, follower;

    void take() {
        media::SteadyStamps stamps(1 / std::max(1.0, source->facts().frameRate), kLongestGapS, 1e-3);
        std::int64_t lastMs = std::numeric_limits<std::int64_t>::min();
        for (;;) {
            LiveFrame frame;
            auto more = guarded([&] { return source->next(frame); });
            std::unique_lock lock(mutex);
            if (stopping) return;
            if (!more || !*more) {
                cameraGone = more ? Error{"This camera was switched off.", ""} : more.error();
                if (recording && !recording->broken) recording->broken = cameraGone;
                written.notify_all();
                const Error error = *cameraGone;
                lock.unlock();
                return onTrouble(error);
            }
            // If the source's clock jumps, it is rebased; clip times stay monotonic, in whole milliseconds.
            lastMs = std::max(lastMs + 1, media::millisecondsOf(stamps.take(frame.timeS)));
            frame.timeS = static_cast<double>(lastMs) / 1000;
            ++counts.taken;
            cameraRate.add(steadySeconds());
            ring.push_back(frame);
            while (frame.timeS - ring.front().timeS > options.ringS) ring.pop_front();
            // At the end of a recording the network is let finish what it has.
            if ((!recording || !recording->ending) && frame.timeS - followedS >= options.followEveryS) {
                waiting.push_back(frame);
                followedS = frame.timeS;
            }
            if (waiting.size() > kMostWaiting) waiting.pop_front();
            if (recording && !recording->ending && !recording->broken) enqueue(frame);
            taken.notify_all();
        }
    }

    void enqueue(const LiveFrame& frame) {
        const auto size = static_cast<long long>(frame.jpeg->size());
        if (counts.queuedBytes + size > options.queueBytes) {
            ++counts.dropped;
            return;
        }
        counts.queuedBytes += size;
        queue.push_back(frame);
    }

    void write() {
        std::unique_lock lock(mutex);
        for (;;) {
            taken.wait(lock, [&] { return stopping || (recording && !queue.empty()); });
            if (queue.empty()) {
                if (stopping) return;
                continue;
            }
            if (!recording) {
                queue.clear();
                counts.queuedBytes = 0;
                continue;
            }
            const LiveFrame frame = std::move(queue.front());
            queue.pop_front();
            recording->busy = true;
            lock.unlock();
            auto done = guarded([&] { return recording->recorder.write(frame); });
            lock.lock();
            counts.queuedBytes -= static_cast<long long>(frame.jpeg->size());
            recording->busy = false;
            if (done) {
                ++counts.recorded;
            } else {
                recording->broken = done.error();
                recording->full = true;
                queue.clear();
                counts.queuedBytes = 0;
                lock.unlock();
                onTrouble(done.error());
                lock.lock();
            }
            written.notify_all();
        }
    }

    void follow() {
        media::LiveDecoder decoder(options.maxSide);
        SmoothPose smooth;
        Presence presence;
        CameraCheck check;
        double checkedS = -1e9;
        PictureFacts facts;
        facts.width = source->facts().width;
        facts.height = source->facts().height;
        facts.promisedRate = source->facts().frameRate;
        for (;;) {
            LiveFrame frame;
            std::shared_ptr<LiveSet> liveSet;
            media::ClipClock clock;
            CheckedMovement about;
            {
                std::unique_lock lock(mutex);
                following = false;
                followed.notify_all();
                taken.wait(lock, [&] { return stopping || !waiting.empty(); });
                if (stopping) return;
                frame = std::move(waiting.front());
                waiting.pop_front();
                following = true;
                liveSet = set;
                clock = setClock;
                about = movement;
                facts.frameRate = cameraRate.perSecond();
            }
            media::VideoFrame picture;
            if (!decoder.decode(frame, picture)) continue;
            auto seen = guarded([&] { return estimator->process(picture.picture.view(), frame.timeS); });
            if (!seen) continue;
            const double scale = static_cast<double>(source->facts().width) / picture.picture.width;
            const double clipS = liveSet ? clock.clipS(frame.timeS) : 0;
            if (liveSet && pieces && !piecesLost) {
                PoseFrame at = *seen;
                at.timeS = clipS;
                // Without room for all of them shoes and heads are read from the clip afterwards, none from some.
                piecesLost = !pieces->add(picture.picture.view(), at);
            }
            LiveFrameResult look;
            look.timeS = frame.timeS;
            look.scale = scale;
            look.pose = *seen;
            for (auto& p : look.pose.points) p.x *= static_cast<float>(scale), p.y *= static_cast<float>(scale);
            look.drawn = smooth.filter(look.pose, look.pose.found ? extentOf(look.pose) : 0);
            presence.add(look.pose);
            if (liveSet) {
                PoseFrame at = look.pose;
                at.timeS = clipS;
                liveSet->add(at);
                look.set = liveSet->reading();
                look.filming = true;
                look.clipS = clipS;
            } else if (frame.timeS - checkedS >= kCheckEveryS) {
                checkedS = frame.timeS;
                const PictureQuality quality = qualityOf(picture.picture.view());
                facts.brightness = quality.brightness;
                facts.sharpness = quality.sharpness;
                facts.people = estimator->peopleNow();
                if (facts.frameRate <= 0) facts.frameRate = facts.promisedRate;
                const auto from = std::lower_bound(recent.begin(), recent.end(), frame.timeS - kCheckOverS,
                                                   [](const PoseFrame& f, double t) { return f.timeS < t; });
                PoseFrames last(from, recent.end());
                last.push_back(look.pose);
                check = checkCamera(last, facts, about);
            }
            look.check = check;
            look.stillS = presence.stillS(), look.thereS = presence.thereS();
            look.goneS = presence.goneS(), look.handUpS = presence.handUpS();
            look.picture = std::make_shared<const Picture>(std::move(picture.picture));
            {
                const std::lock_guard lock(mutex);
                recent.push_back(look.pose);
                while (frame.timeS - recent.front().timeS > options.ringS + kMoreThanRingS) recent.pop_front();
                ++counts.inferred;
                poseRate.add(steadySeconds());
                counts.behindS = steadySeconds() - frame.timeS;
            }
            onLook(std::move(look));
        }
    }
};

LiveSession::LiveSession(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}

Result<std::unique_ptr<LiveSession>> LiveSession::start(std::unique_ptr<media::LiveSource> source,
                                                        const Options& options, OnLook onLook, OnError onTrouble) {
    auto impl = std::make_unique<Impl>();
    auto estimator =
        options.makeEstimator ? options.makeEstimator() : pose::makeNetworkEstimator(options.modelDir, options.model);
    if (!estimator) return estimator.error();
    impl->estimator = std::move(*estimator);
    impl->network =
        media::sha256OfFile(options.modelDir + "/pose_landmark_" + pose::modelName(options.model) + ".tflite");
    impl->options = options;
    impl->source = std::move(source);
    impl->onLook = std::move(onLook);
    impl->onTrouble = std::move(onTrouble);
    Impl* inside = impl.get();
    std::unique_ptr<LiveSession> out(new LiveSession(std::move(impl)));
    inside->taker = std::jthread([inside] { inside->take(); });
    inside->writer = std::jthread([inside] { inside->write(); });
    inside->follower = std::jthread([inside] { inside->follow(); });
    return out;
}

LiveSession::~LiveSession() {
    Impl& m = *m_impl;
    {
        const std::lock_guard lock(m.mutex);
        m.stopping = true;
    }
    m.source->stop();
    m.taken.notify_all();
    m.taker = {}, m.follower = {}, m.writer = {};
    // Still filming: the file gets its end, so that the next start finds a whole one.
    if (m.recording) (void)m.recording->recorder.finish();
}

media::LiveSource& LiveSession::source() {
    return *m_impl->source;
}
const media::SourceFacts& LiveSession::facts() const {
    return m_impl->source->facts();
}
void LiveSession::setMovement(const CheckedMovement& movement) {
    const std::lock_guard lock(m_impl->mutex);
    m_impl->movement = movement;
}
bool LiveSession::isFilming() const {
    const std::lock_guard lock(m_impl->mutex);
    return m_impl->recording.has_value();
}

LiveCounts LiveSession::counts() const {
    const std::lock_guard lock(m_impl->mutex);
    LiveCounts out = m_impl->counts;
    out.cameraRate = m_impl->cameraRate.perSecond();
    out.poseRate = m_impl->poseRate.perSecond();
    return out;
}

Result<void> LiveSession::film(const std::string& path, const std::string& filmedAt, const SetContext& context) {
    Impl& m = *m_impl;
    if (isFilming()) return Error{"A set is being filmed already.", path};
    auto recorder = media::ClipRecorder::create(path, facts(), filmedAt);
    if (!recorder) return recorder.error();
    auto set = std::make_shared<LiveSet>(context, facts().width, facts().height);
    auto pieces = std::make_shared<KeptPieces>();
    std::unique_lock lock(m.mutex);
    if (m.cameraGone) return *m.cameraGone;
    // Between two pictures of the following thread, so that every frame belongs to exactly one side.
    m.followed.wait(lock, [&] { return m.stopping || !m.following; });
    if (m.ring.empty()) return Error{"The camera has not sent a picture yet.", path};
    m.counts.recorded = m.counts.dropped = 0;
    const double firstS = m.ring.front().timeS;
    const auto clock = media::ClipClock::startingAt(firstS);
    m.recording.emplace(Impl::Recording{std::move(*recorder), path, clock, false, false, false, std::nullopt});
    for (const LiveFrame& frame : m.ring) m.enqueue(frame);
    m.setClock = clock;
    m.piecesLost = false;
    for (PoseFrame pose : m.recent) {
        if (clock.clipMs(pose.timeS) < 0) continue;
        pose.timeS = clock.clipS(pose.timeS);
        set->add(pose);
    }
    m.set = std::move(set);
    m.pieces = std::move(pieces);
    lock.unlock();
    m.taken.notify_all();
    return {};
}

Result<Filmed> LiveSession::endFilming() {
    Impl& m = *m_impl;
    std::unique_lock lock(m.mutex);
    if (!m.recording) return Error{"Nothing is being filmed.", ""};
    Impl::Recording& r = *m.recording;
    r.ending = true;
    m.written.wait(lock, [&] { return m.stopping || ((m.queue.empty() || r.full) && !r.busy); });
    // The following thread is let finish what it was given, also when the camera has gone: it may be inside the
    // estimator and the shoe stage, which end with the set. The next picture it looks at is one before a set.
    m.followed.wait(lock, [&] { return !m.following && (m.stopping || m.waiting.empty()); });
    Filmed out;
    out.path = r.path;
    out.facts = facts();
    out.firstS = static_cast<double>(r.clock.firstMs) / 1000;
    if (!m.piecesLost) out.pieces = m.pieces;
    const auto set = std::move(m.set);
    m.set.reset();
    m.pieces.reset();
    out.frames = r.recorder.frames();
    out.durationS = r.recorder.seconds();
    out.dropped = m.counts.dropped;
    out.broken = r.broken;
    out.model = pose::modelName(m.options.model);
    out.network = m.network;
    out.people = m.estimator->peopleSeen();
    media::ClipRecorder recorder = std::move(r.recorder);
    m.recording.reset();
    m.queue.clear();
    m.counts.queuedBytes = 0;
    lock.unlock();
    auto finished = recorder.finish();
    if (!finished && !out.broken) out.broken = finished.error();
    // Pictures taken after the last one that was written are not part of the clip.
    for (const PoseFrame& pose : set->poses())
        if (media::millisecondsOf(pose.timeS) <= media::millisecondsOf(out.durationS)) out.poses.push_back(pose);
    return out;
}

}  // namespace zevo::pipeline
