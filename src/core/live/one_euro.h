#pragma once

#include <array>
#include <optional>

#include "core/body/landmarks.h"

namespace zevo {

/// The One Euro filter (Casiez, Roussel and Vogel 2012): a low-pass whose cutoff grows with speed, so that what stands
/// still does not shake and what moves does not lag. For drawing only; nothing is measured on its output.
class OneEuro {
  public:
    /// `minCutoffHz`: cutoff at rest; `beta`: how fast it opens with speed (1/unit).
    OneEuro(double minCutoffHz, double beta) : m_minCutoff(minCutoffHz), m_beta(beta) {}
    double filter(double value, double timeS);
    void reset() { m_last.reset(); }

  private:
    double m_minCutoff, m_beta;
    struct Last {
        double timeS, value, speed;
    };
    std::optional<Last> m_last;
};

/// A pose for drawing: every point through two of these.
class SmoothPose {
  public:
    SmoothPose();
    /// `bodyPx`: size of the person, so that the filter behaves alike for near and far.
    PoseFrame filter(const PoseFrame& pose, double bodyPx);

  private:
    std::array<std::array<OneEuro, 2>, kLandmarkCount> m_filters;
};

}  // namespace zevo
