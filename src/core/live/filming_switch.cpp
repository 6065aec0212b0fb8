#include "core/live/filming_switch.h"

#include <algorithm>

namespace zevo {

void FilmingSwitch::arm(bool afresh) {
    m_state = State::Waiting;
    m_reason = Reason::None;
    m_mayStart = afresh;
    m_handWasDown = false;
}

FilmingSwitch::Event FilmingSwitch::begin(double nowS, Reason why) {
    m_reason = why;
    m_sinceS = nowS;
    m_handWasDown = false;
    m_state = State::CountingIn;
    return Event::CountingIn;
}

FilmingSwitch::Event FilmingSwitch::end(Reason why) {
    m_reason = why;
    m_state = State::Off;
    return Event::End;
}

FilmingSwitch::Event FilmingSwitch::pressed(double nowS) {
    switch (m_state) {
        case State::Off:
        case State::Waiting: return begin(nowS, Reason::Key);
        case State::CountingIn: arm(false); return Event::Calling;
        case State::Filming: return end(Reason::Key);
    }
    return Event::None;
}

FilmingSwitch::Event FilmingSwitch::add(double nowS, const Seen& seen) {
    const bool hand = seen.handUpS >= m_rules.handS && m_handWasDown;
    if (seen.handUpS <= 0) m_handWasDown = true;
    switch (m_state) {
        case State::Off: break;
        case State::Waiting:
            if (seen.thereS > 0 && seen.stillS <= 0) m_mayStart = true;
            if (m_rules.startHand && hand) return begin(nowS, Reason::Hand);
            if (m_rules.startStill && seen.ready && m_mayStart && seen.stillS >= m_rules.startStillS)
                return begin(nowS, Reason::Still);
            break;
        case State::CountingIn:
            if (nowS - m_sinceS < m_rules.countInS) break;
            m_state = State::Filming;
            m_sinceS = nowS;
            return Event::Begin;
        case State::Filming: {
            if (m_rules.stopHand && hand) return end(Reason::Hand);
            if (m_rules.stopGone && seen.goneS >= m_rules.goneS) return end(Reason::Gone);
            // Stillness from before the beginning does not count.
            const double still = std::min(seen.stillS, nowS - m_sinceS);
            if (m_rules.stopStill && seen.atRest && seen.reps > 0 && still >= m_rules.stopStillS)
                return end(Reason::Still);
            if (m_rules.stopStill && seen.reps == 0 && still >= m_rules.nothingStillS) return end(Reason::Nothing);
            break;
        }
    }
    return Event::None;
}

double FilmingSwitch::countInLeftS(double nowS) const {
    return m_state == State::CountingIn ? std::max(0.0, m_rules.countInS - (nowS - m_sinceS)) : 0;
}

}  // namespace zevo
