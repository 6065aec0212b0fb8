#pragma once

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <random>
#include <string>
#include <vector>

#include "core/judge/set_result.h"
#include "sim/clip_maker.h"

namespace bench {

class Watch {
  public:
    double seconds() const { return std::chrono::duration<double>(std::chrono::steady_clock::now() - m_begin).count(); }

  private:
    std::chrono::steady_clock::time_point m_begin = std::chrono::steady_clock::now();
};

inline double middle(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

inline double meanSize(const std::vector<double>& v) {
    double sum = 0;
    for (double x : v) sum += std::abs(x);
    return v.empty() ? 0 : sum / static_cast<double>(v.size());
}

/// The size below which a share of the errors lies.
inline double sizeAt(std::vector<double> v, double share) {
    for (double& x : v) x = std::abs(x);
    std::sort(v.begin(), v.end());
    return v.empty() ? 0 : v[std::min(v.size() - 1, static_cast<std::size_t>(share * static_cast<double>(v.size())))];
}

/// Numbers by chance, drawn by hand: the library's distributions differ between its versions, and a table has to be
/// drawn again the same.
struct Dice {
    std::mt19937_64 bits;
    double between(double lo, double hi) {
        return lo + (hi - lo) * static_cast<double>(bits() >> 11) / static_cast<double>(1ULL << 53);
    }
};

/// What the network or the renderer gave, kept for the next run.
inline std::vector<std::uint8_t> bytesOf(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}
inline void keepBytes(const std::filesystem::path& file, const std::vector<std::uint8_t>& block) {
    std::ofstream(file, std::ios::binary)
        .write(reinterpret_cast<const char*>(block.data()), static_cast<std::streamsize>(block.size()));
}
inline zevo::ClipFacts factsOf(const zevo::sim::ClipSpec& spec) {
    zevo::ClipFacts f;
    f.width = spec.scene.camera.width, f.height = spec.scene.camera.height;
    return f;
}

/// A side-view set at 720p30 as a coach would film it, drawn once and kept for the next run of the same bench.
inline std::string sideClip(int reps) {
    const auto path = std::filesystem::temp_directory_path() / ("zevo-bench-side-" + std::to_string(reps) + ".mp4");
    if (std::filesystem::exists(path)) return path.string();
    zevo::sim::ClipSpec spec;
    spec.motion.reps.resize(static_cast<std::size_t>(reps));
    if (auto made = zevo::sim::makeClip(spec, path.string()); !made) {
        std::fprintf(stderr, "%s\n", made.error().message.c_str());
        std::exit(1);
    }
    return path.string();
}

}  // namespace bench
