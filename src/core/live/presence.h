#pragma once

#include <deque>
#include <optional>

#include "core/body/landmarks.h"

namespace zevo {

/// Whether the client is there, stands (or lies) still, or has a hand up; from poses as they come, in time order.
class Presence {
  public:
    void add(const PoseFrame& pose);
    /// For how long they have been there without a break, s; 0 = nobody.
    double thereS() const;
    /// For how long nobody has been there, s.
    double goneS() const;
    /// For how long they have not moved, s: no joint of trunk and legs, and neither wrist, went further than a small
    /// share of their size.
    double stillS() const;
    /// For how long one wrist has been clearly above the head while they stand, s. Both: a movement with the arms up.
    double handUpS() const;

  private:
    double m_nowS = 0;
    std::optional<double> m_thereSince, m_goneSince, m_handSince;
    std::deque<PoseFrame> m_recent;  ///< a few a second are enough
    std::optional<double> m_stillSince;
};

}  // namespace zevo
