#include "sim/simulated_camera.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <optional>

#include "core/base/degrees.h"
#include "media/clip_recorder.h"

namespace zevo::sim {
namespace {

constexpr double kStillBeforeS = 1.0, kStillAfterS = 4.5;
constexpr int kRestFrames = 8;
/// A machine that slept does not get the pictures of the night.
constexpr double kLeftBehindS = 1;

/// One fault: which dial, how far at full size.
struct FaultDial {
    const char* fault;
    const char* families;  ///< movements it is for, parted by spaces
    bool front;
    double RepSpec::*dial;
    double rest, full;
};
/// About twice past the edges of data/standards.
constexpr FaultDial kFaults[] = {
    {"heels_rise", "squat split-squat", false, &RepSpec::heelRiseCm, 0, 5.5},
    {"depth_short", "squat", false, &RepSpec::thighBottomDeg, -12, 24},
    {"forward_lean", "squat", false, &RepSpec::extraLeanDeg, 0, 26},
    {"lowering_fast", "squat", false, &RepSpec::lowerS, 2.4, 0.8},
    {"trunk_low", "split-squat forward-lunge", false, &RepSpec::lungeLeanDeg, 6, 28},
    {"front_knee_open", "split-squat", false, &RepSpec::frontKneeDeg, 90, 60},
    {"hinge_squatted", "hinge", false, &RepSpec::kneeBendDeg, 18, 55},
    {"hinge_shallow", "hinge", false, &RepSpec::hingeLeanDeg, 62, 20},
    {"chin_up", "squat hinge", false, &RepSpec::neckDeg, 0, 42},
    {"bridge_low", "bridge", false, &RepSpec::topAngleDeg, 176, 148},
    {"knees_cave", "squat", true, &RepSpec::kneeInLeftCm, 0, 11},
    {"knees_cave", "split-squat", true, &RepSpec::kneeInRightCm, 0, 11},
    {"weight_shift", "squat", true, &RepSpec::shiftCm, 0, 6},
};

bool isFor(const FaultDial& f, const std::string& movement) {
    const std::string all = std::string(" ") + f.families + " ";
    return all.find(" " + movement + " ") != std::string::npos;
}

Colour mixed(unsigned look, unsigned k) {
    // Any spread will do that is the same for the same client.
    const unsigned h = (look * 2654435761U) ^ (k * 40503U * 2246822519U);
    auto part = [&](unsigned shift) { return static_cast<std::uint8_t>(50 + (h >> shift) % 140); };
    return {part(3), part(11), part(19)};
}

void place(const ClientDials& d, CameraSpec& c) {
    const Placement& p = d.camera;
    const bool lying = d.movement == "bridge";
    c.width = d.width;
    c.height = d.height;
    c.azimuthDeg = (d.front ? (lying ? 0 : 0) : 90) - p.turnDeg;
    c.distanceM = p.distanceM;
    c.heightM = p.heightM;
    c.aimHeightM = (lying ? 0.45 : 0.5 * d.statureCm / 100) + p.distanceM * std::tan(p.tiltDeg * kRadiansPerDegree);
    c.aimSideM = p.distanceM * std::tan(p.aimDeg * kRadiansPerDegree);
    c.rollDeg = p.rollDeg;
}

}  // namespace

std::vector<std::string> faultsOf(const std::string& movement, bool front) {
    std::vector<std::string> out;
    for (const FaultDial& f : kFaults)
        if (isFor(f, movement) && f.front == front) out.emplace_back(f.fault);
    return out;
}

double afterCue(double size, double listens) {
    return size * (1 - std::clamp(listens, 0.0, 1.0));
}

ClipSpec setOf(const ClientDials& d) {
    ClipSpec spec;
    MotionSpec& m = spec.motion;
    m.movement = d.movement;
    m.variation = d.variation;
    m.body.statureCm = d.statureCm;
    m.body.shirt = mixed(d.look, 1);
    m.body.shorts = mixed(d.look, 2);
    m.body.shoe = mixed(d.look, 3);
    m.leadInS = kStillBeforeS;
    m.leadOutS = kStillAfterS;
    RepSpec rep;
    rep.thighBottomDeg = -12;
    if (d.movement == "bridge") rep.pauseS = 2, rep.lowerS = 1.8, rep.liftS = 1.3;
    for (const FaultDial& f : kFaults)
        if (f.fault == d.fault && isFor(f, d.movement))
            rep.*f.dial = f.rest + std::clamp(d.size, 0.0, 1.0) * (f.full - f.rest);
    if (!d.fault.empty() && d.size > 0) spec.planted = {d.fault};
    // Nobody does the same repetition twice.
    for (int i = 0; i < d.reps; ++i) {
        RepSpec one = rep;
        const double sway = ((i * 7 + static_cast<int>(d.look)) % 5 - 2) / 2.0;
        one.lowerS *= 1 + 0.04 * sway;
        one.thighBottomDeg += 0.8 * sway;
        one.hingeLeanDeg += 0.8 * sway;
        one.frontKneeDeg += 0.8 * sway;
        m.reps.push_back(one);
    }
    SceneSpec& s = spec.scene;
    s.seed = d.look;
    s.light = d.camera.light;
    s.inFront = d.camera.inFront;
    s.bystander = d.camera.bystander;
    place(d, s.camera);
    spec.video.jpeg = true;
    return spec;
}

ClipSpec restOf(const ClientDials& d) {
    ClipSpec spec = setOf(d);
    spec.motion.reps.resize(1);  // the pose at rest depends on the first one
    spec.frames = kRestFrames;
    return spec;
}

Result<void> drawLiveClip(const ClipSpec& spec, const std::string& path, const Progress& progress) {
    return makeClip(spec, path, progress);
}

struct SimulatedCamera::Impl {
    mutable std::mutex mutex;
    std::condition_variable woken;
    media::SourceFacts facts;
    std::optional<media::LiveClip> clip;
    std::string rest, set;
    double pace = 1;
    bool moving = false, stopped = false, changed = false, unplugged = false;
    double nextS = 0;

    Result<void> openClip(const std::string& path) {
        auto opened = media::LiveClip::open(path);
        if (!opened) return opened.error();
        clip = std::move(*opened);
        return {};
    }
};

SimulatedCamera::SimulatedCamera(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
SimulatedCamera::~SimulatedCamera() = default;

Result<std::unique_ptr<SimulatedCamera>> SimulatedCamera::open(const std::string& rest, double pace) {
    auto impl = std::make_unique<Impl>();
    impl->rest = rest;
    impl->pace = pace;
    if (auto opened = impl->openClip(rest); !opened) return opened.error();
    impl->facts = impl->clip->facts();
    impl->facts.live = true;
    impl->facts.durationS = 0;
    impl->nextS = media::steadySeconds();
    return std::unique_ptr<SimulatedCamera>(new SimulatedCamera(std::move(impl)));
}

const media::SourceFacts& SimulatedCamera::facts() const {
    return m_impl->facts;
}

Result<bool> SimulatedCamera::next(media::LiveFrame& frame) {
    Impl& m = *m_impl;
    std::unique_lock lock(m.mutex);
    const double step = 1 / (m.facts.frameRate * m.pace);
    m.nextS += step;
    double now = media::steadySeconds();
    if (now - m.nextS > kLeftBehindS) m.nextS = now;
    while (!m.stopped && !m.unplugged && now < m.nextS) {
        m.woken.wait_for(lock, std::chrono::duration<double>(m.nextS - now));
        now = media::steadySeconds();
    }
    if (m.stopped) return false;
    if (m.unplugged)
        return Error{"This camera was unplugged. What was filmed so far is kept; plug it in again to go on.", "sim"};
    if (m.changed) {
        m.changed = false;
        if (auto opened = m.openClip(m.moving ? m.set : m.rest); !opened) return opened.error();
    }
    auto more = m.clip->next(frame);
    if (!more) return more.error();
    if (!*more) {
        m.moving = false;
        if (auto opened = m.openClip(m.rest); !opened) return opened.error();
        more = m.clip->next(frame);
        if (!more) return more.error();
        if (!*more) return Error{"The simulated camera has no pictures.", m.rest};
    }
    frame.timeS = m.nextS;
    return true;
}

void SimulatedCamera::stop() {
    const std::lock_guard lock(m_impl->mutex);
    m_impl->stopped = true;
    m_impl->woken.notify_all();
}
void SimulatedCamera::unplug() {
    const std::lock_guard lock(m_impl->mutex);
    m_impl->unplugged = true;
    m_impl->woken.notify_all();
}
void SimulatedCamera::setRest(const std::string& path) {
    const std::lock_guard lock(m_impl->mutex);
    m_impl->rest = path;
    m_impl->changed |= !m_impl->moving;
}
void SimulatedCamera::setSet(const std::string& path) {
    const std::lock_guard lock(m_impl->mutex);
    m_impl->set = path;
}
bool SimulatedCamera::hasSet() const {
    const std::lock_guard lock(m_impl->mutex);
    return !m_impl->set.empty();
}
bool SimulatedCamera::begin() {
    const std::lock_guard lock(m_impl->mutex);
    if (m_impl->set.empty() || m_impl->moving) return false;
    return m_impl->moving = m_impl->changed = true;
}
bool SimulatedCamera::isMoving() const {
    const std::lock_guard lock(m_impl->mutex);
    return m_impl->moving;
}

}  // namespace zevo::sim
