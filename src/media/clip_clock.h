#pragma once

#include <cmath>
#include <cstdint>

namespace zevo::media {

/// Whole milliseconds are what a recording keeps of a moment. A live source's pictures carry them from the start, so
/// that the file, the poses and a second camera cannot round the same moment differently.
inline std::int64_t millisecondsOf(double timeS) {
    return std::llround(timeS * 1000);
}

/// Stamps that only grow and never leap. A source's clock may be set back, start again, or be ahead by hours for one
/// picture. A stamp a little behind the one before (two steps: pictures delivered out of order) is laid just after it.
/// One further back, or more than `longestGapS` ahead, is laid one step behind it, and later ones by the same amount
/// until they fit by themselves again.
class SteadyStamps {
  public:
    /// `stepS`: between two pictures at the promised rate; `leastS`: between two that would be one moment.
    SteadyStamps(double stepS, double longestGapS, double leastS)
        : m_stepS(stepS), m_longestGapS(longestGapS), m_leastS(leastS) {}

    double take(double stampS) {
        if (!m_any) {
            m_any = true;
            return m_lastS = stampS;
        }
        if (m_offsetS != 0 && fits(stampS)) m_offsetS = 0;
        const double laidS = stampS + m_offsetS;
        if (fits(laidS)) return m_lastS = laidS;
        if (laidS <= m_lastS && m_lastS - laidS <= 2 * m_stepS) return m_lastS += m_leastS;
        m_offsetS = m_lastS + m_stepS - stampS;
        return m_lastS += m_stepS;
    }
    /// What comes next is from another place of the source.
    void restart() { m_any = false, m_offsetS = 0; }

  private:
    bool fits(double timeS) const { return timeS > m_lastS && timeS - m_lastS <= m_longestGapS; }

    double m_stepS, m_longestGapS, m_leastS, m_lastS = 0, m_offsetS = 0;
    bool m_any = false;
};

/// The clock of a recording: it starts with its first picture, in whole milliseconds of the clock all live sources
/// share.
struct ClipClock {
    std::int64_t firstMs = 0;
    static ClipClock startingAt(double timeS) { return {millisecondsOf(timeS)}; }
    std::int64_t clipMs(double timeS) const { return millisecondsOf(timeS) - firstMs; }
    double clipS(double timeS) const { return static_cast<double>(clipMs(timeS)) / 1000; }
};

}  // namespace zevo::media
