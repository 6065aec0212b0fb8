#include "core/live/presence.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/live/one_euro.h"

namespace zevo {
namespace {

constexpr double kEveryS = 0.1;
/// A person is not gone because one picture was blurred.
constexpr double kBlinkS = 0.3;
constexpr double kLookBackS = 1.0;
/// Of the person's size; ours. Drawn clients at rest stay below it, in any repetition they do not (test_live); what
/// people who stand and breathe do was not measured.
constexpr double kStillShare = 0.025;
constexpr double kHandAbove = 0.06;

constexpr std::array kWatched{Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftHip,
                              Landmark::RightHip,     Landmark::LeftKnee,      Landmark::RightKnee,
                              Landmark::LeftWrist,    Landmark::RightWrist};

/// Where both of a pair are seen the nearer one is enough: the far one is guessed and wanders.
double movedShare(const PoseFrame& a, const PoseFrame& b, double size) {
    double most = 0;
    for (std::size_t i = 0; i + 1 < kWatched.size(); i += 2) {
        const bool left = b.at(kWatched[i]).visibility >= b.at(kWatched[i + 1]).visibility;
        const Landmark id = kWatched[left ? i : i + 1];
        most = std::max<double>(most, std::hypot(a.at(id).x - b.at(id).x, a.at(id).y - b.at(id).y) / size);
    }
    return most;
}

bool oneHandUp(const PoseFrame& p, double size) {
    const double head = std::min({p.at(Landmark::Nose).y, p.at(Landmark::LeftEar).y, p.at(Landmark::RightEar).y});
    auto up = [&](Landmark wrist) { return p.at(wrist).visibility > 0.5F && head - p.at(wrist).y > kHandAbove * size; };
    return up(Landmark::LeftWrist) != up(Landmark::RightWrist);
}

}  // namespace

void Presence::add(const PoseFrame& pose) {
    m_nowS = pose.timeS;
    if (!pose.found) {
        if (!m_goneSince) m_goneSince = m_nowS;
        if (m_nowS - *m_goneSince > kBlinkS) {
            m_thereSince.reset(), m_stillSince.reset(), m_handSince.reset();
            m_recent.clear();
        }
        return;
    }
    m_goneSince.reset();
    if (!m_thereSince) m_thereSince = m_nowS;
    const double size = extentOf(pose);
    if (!(size > 1)) return;
    if (!oneHandUp(pose, size))
        m_handSince.reset();
    else if (!m_handSince)
        m_handSince = m_nowS;
    if (!m_recent.empty() && m_nowS - m_recent.back().timeS < kEveryS) return;
    while (!m_recent.empty() && m_nowS - m_recent.front().timeS > kLookBackS) m_recent.pop_front();
    const bool moved = std::any_of(m_recent.begin(), m_recent.end(), [&](const PoseFrame& before) {
        return movedShare(before, pose, size) > kStillShare;
    });
    if (moved)
        m_stillSince.reset();
    else if (!m_stillSince && !m_recent.empty())
        m_stillSince = m_recent.front().timeS;
    m_recent.push_back(pose);
}

double Presence::thereS() const {
    return m_thereSince ? m_nowS - *m_thereSince : 0;
}
double Presence::goneS() const {
    return !m_thereSince && m_goneSince ? m_nowS - *m_goneSince : 0;
}
double Presence::stillS() const {
    return m_stillSince ? m_nowS - *m_stillSince : 0;
}
double Presence::handUpS() const {
    return m_handSince ? m_nowS - *m_handSince : 0;
}

}  // namespace zevo
