#include "core/live/one_euro.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace zevo {
namespace {

/// The paper's own value for the cutoff of the speed.
constexpr double kSpeedCutoffHz = 1;
/// Ours: half or less of the shaking at rest is left (test_live), and a move is followed. In body heights.
constexpr double kMinCutoffHz = 1.5, kBeta = 8;

double smoothing(double cutoffHz, double stepS) {
    const double r = 2 * std::numbers::pi * cutoffHz * stepS;
    return r / (r + 1);
}

template <std::size_t... I>
std::array<std::array<OneEuro, 2>, kLandmarkCount> filters(std::index_sequence<I...>) {
    return {((void)I, std::array<OneEuro, 2>{OneEuro(kMinCutoffHz, kBeta), OneEuro(kMinCutoffHz, kBeta)})...};
}

}  // namespace

double OneEuro::filter(double value, double timeS) {
    if (!m_last || timeS <= m_last->timeS) {
        m_last = Last{timeS, value, 0};
        return value;
    }
    const double step = timeS - m_last->timeS;
    const double speed = (value - m_last->value) / step;
    const double a = smoothing(kSpeedCutoffHz, step);
    const double smoothSpeed = a * speed + (1 - a) * m_last->speed;
    const double b = smoothing(m_minCutoff + m_beta * std::abs(smoothSpeed), step);
    const double out = b * value + (1 - b) * m_last->value;
    m_last = Last{timeS, out, smoothSpeed};
    return out;
}

SmoothPose::SmoothPose() : m_filters(filters(std::make_index_sequence<kLandmarkCount>())) {}

PoseFrame SmoothPose::filter(const PoseFrame& pose, double bodyPx) {
    PoseFrame out = pose;
    if (!pose.found || !(bodyPx > 0)) {
        for (auto& pair : m_filters)
            for (auto& f : pair) f.reset();
        return out;
    }
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        out.points[i].x = static_cast<float>(bodyPx * m_filters[i][0].filter(pose.points[i].x / bodyPx, pose.timeS));
        out.points[i].y = static_cast<float>(bodyPx * m_filters[i][1].filter(pose.points[i].y / bodyPx, pose.timeS));
    }
    return out;
}

}  // namespace zevo
