#pragma once

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/body/landmarks.h"

namespace zevo::pipeline {

/// Which of the poses, in order of time, is of the picture at a moment; nothing where nobody was found in it.
inline std::optional<std::size_t> poseNear(const PoseFrames& poses, double timeS) {
    constexpr double kEarlierS = 1e-4, kSameS = 0.02;
    const auto at = std::lower_bound(poses.begin(), poses.end(), timeS - kEarlierS,
                                     [](const PoseFrame& f, double t) { return f.timeS < t; });
    if (at == poses.end() || !at->found || std::abs(at->timeS - timeS) > kSameS) return std::nullopt;
    return static_cast<std::size_t>(at - poses.begin());
}

}  // namespace zevo::pipeline
