#include "pipeline/virtual_client.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <cstdint>
#include <filesystem>
#include <mutex>
#include <set>
#include <sstream>
#include <tuple>

#include "pipeline/barrier.h"

namespace zevo::pipeline {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t kMostKept = 16;

/// All that the pictures depend on. A change of the figure itself is a change of kDrawnAs.
constexpr int kDrawnAs = 1;
std::string nameOf(const sim::ClientDials& d, const char* what) {
    std::ostringstream all;
    const sim::Placement& p = d.camera;
    all << kDrawnAs << '|' << d.movement << '|' << d.variation << '|' << d.fault << '|' << d.size << '|' << d.front
        << '|' << d.reps << '|' << d.statureCm << '|' << d.look << '|' << d.width << 'x' << d.height << '|'
        << p.distanceM << '|' << p.heightM << '|' << p.turnDeg << '|' << p.aimDeg << '|' << p.tiltDeg << '|'
        << p.rollDeg << '|' << p.light << '|' << p.inFront << '|' << p.bystander;
    std::uint64_t h = 1469598103934665603ULL;  // FNV-1a, 64 bits
    for (unsigned char c : all.str()) h = (h ^ c) * 1099511628211ULL;
    std::ostringstream name;
    name << what << '-' << std::hex << h << ".mkv";
    return name.str();
}

void keepSmall(const fs::path& folder) {
    std::error_code ignored;
    std::vector<fs::directory_entry> all;
    for (const auto& entry : fs::directory_iterator(folder, ignored))
        if (entry.path().extension() == ".mkv") all.push_back(entry);
    if (all.size() <= kMostKept) return;
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
        std::error_code none;
        return a.last_write_time(none) < b.last_write_time(none);
    });
    for (std::size_t i = 0; i + kMostKept < all.size(); ++i) fs::remove(all[i].path(), ignored);
}

/// Two jobs may want the same clip: the second waits for the first and finds it drawn.
class OneAtATime {
  public:
    explicit OneAtATime(std::string path) : m_path(std::move(path)) {
        std::unique_lock lock(s_mutex);
        s_done.wait(lock, [&] { return s_busy.insert(m_path).second; });
    }
    OneAtATime(const OneAtATime&) = delete;
    OneAtATime& operator=(const OneAtATime&) = delete;
    ~OneAtATime() {
        const std::lock_guard lock(s_mutex);
        s_busy.erase(m_path);
        s_done.notify_all();
    }

  private:
    std::string m_path;
    static inline std::mutex s_mutex;
    static inline std::condition_variable s_done;
    static inline std::set<std::string> s_busy;
};

Result<std::string> drawn(const sim::ClipSpec& spec, const std::string& folder, const std::string& name,
                          const std::atomic<bool>& cancel, const OnProgress& progress) {
    return guarded([&]() -> Result<std::string> {
        std::error_code problem;
        fs::create_directories(folder, problem);
        const fs::path path = fs::path(folder) / name;
        const OneAtATime alone(path.string());
        if (fs::exists(path, problem)) {
            fs::last_write_time(path, fs::file_time_type::clock::now(), problem);
            return path.string();
        }
        const auto begin = std::chrono::steady_clock::now();
        auto tell = [&](long done, long all) {
            const double spent = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            if (progress && done % 5 == 0)
                progress(
                    {done, all, spent / static_cast<double>(done) * static_cast<double>(all - done), Doing::Drawing});
            return !cancel;
        };
        if (auto made = sim::drawLiveClip(spec, path.string(), tell); !made)
            return cancel ? refusal(NoticeKind::Stopped) : made.error();
        keepSmall(folder);
        return path.string();
    });
}

}  // namespace

std::vector<CameraChoice> choicesOf(const std::vector<media::CameraInfo>& cameras) {
    std::vector<CameraChoice> out;
    auto idOf = [](const std::string& device, const media::CameraMode& m) {
        std::ostringstream id;
        id << device << ' ' << m.width << 'x' << m.height << ' ' << m.rate << ' ' << m.format;
        return id.str();
    };
    for (const media::CameraInfo& camera : cameras) {
        const media::CameraMode best = media::bestMode(camera.modes);
        std::vector<media::CameraMode> modes{best};
        for (const media::CameraMode& m : camera.modes) {
            // Of the same size the quickest, and of those the one that need not be encoded.
            auto same = std::find_if(modes.begin(), modes.end(),
                                     [&](const auto& o) { return o.width == m.width && o.height == m.height; });
            if (same == modes.end())
                modes.push_back(m);
            else if (same != modes.begin() && std::tuple(m.rate, m.encoded) > std::tuple(same->rate, same->encoded))
                *same = m;
        }
        for (const media::CameraMode& m : modes)
            out.push_back({idOf(camera.device, m), camera.name, camera.device, m, m == best});
    }
    out.push_back({"simulated", "", "", {}, true});
    return out;
}

std::vector<CameraChoice> camerasToChoose() {
    return choicesOf(media::camerasHere());
}

Result<std::string> drawnRest(const sim::ClientDials& dials, const std::string& folder,
                              const std::atomic<bool>& cancel) {
    sim::ClientDials rest = dials;
    rest.fault.clear();
    rest.size = 0;
    rest.reps = 1;
    return drawn(sim::restOf(rest), folder, nameOf(rest, "rest"), cancel, {});
}

Result<std::string> drawnSet(const sim::ClientDials& dials, const std::string& folder, const std::atomic<bool>& cancel,
                             const OnProgress& progress) {
    return drawn(sim::setOf(dials), folder, nameOf(dials, "set"), cancel, progress);
}

sim::Placement moved(sim::Placement p, CameraMove move, double amount) {
    switch (move) {
        case CameraMove::None: break;
        case CameraMove::Back: p.distanceM += amount; break;
        case CameraMove::Nearer: p.distanceM = std::max(1.0, p.distanceM - amount); break;
        case CameraMove::Up: p.heightM += amount; break;
        case CameraMove::Down: p.heightM = std::max(0.1, p.heightM - amount); break;
        case CameraMove::AimLeft: p.aimDeg -= amount; break;
        case CameraMove::AimRight: p.aimDeg += amount; break;
        case CameraMove::AimUp: p.tiltDeg += amount; break;
        case CameraMove::AimDown: p.tiltDeg -= amount; break;
        case CameraMove::WalkLeft: p.turnDeg -= amount; break;
        case CameraMove::WalkRight: p.turnDeg += amount; break;
        case CameraMove::LevelLeft: p.rollDeg -= amount; break;
        case CameraMove::LevelRight: p.rollDeg += amount; break;
    }
    return p;
}

}  // namespace zevo::pipeline
