#pragma once

#include <optional>

namespace zevo {

/// When filming begins and ends by itself. Every way can be turned off; a key or a click always works and goes past it.
struct FilmingRules {
    bool startStill = true, startHand = true;
    bool stopStill = true, stopGone = true, stopHand = true;
    double startStillS = 2;
    double stopStillS = 3;      ///< at rest, after at least one repetition
    double nothingStillS = 20;  ///< likewise without any repetition
    double goneS = 2;
    double handS = 0.8;
    double countInS = 3;  ///< between the start that was wanted and the first moment that counts
};

/// Decides, from what is seen, when to begin and to end. Times are seconds on one clock, growing.
class FilmingSwitch {
  public:
    enum class State { Off, Waiting, CountingIn, Filming };
    enum class Event { None, CountingIn, Begin, Calling, End };
    enum class Reason { None, Key, Still, Hand, Gone, Nothing };
    struct Seen {
        double thereS = 0, stillS = 0, handUpS = 0, goneS = 0;
        int reps = 0;  ///< of this set, partial ones too
        bool atRest = true;
        bool ready = true;  ///< nothing is wrong with the camera; while something is, nothing begins by itself
    };

    explicit FilmingSwitch(FilmingRules rules = {}) : m_rules(rules) {}
    void setRules(const FilmingRules& rules) { m_rules = rules; }
    const FilmingRules& rules() const { return m_rules; }
    /// Waits for the client. `afresh`: one who stands still already may begin at once; else they must have moved first,
    /// so that one who rests after a set does not start the next.
    void arm(bool afresh);
    void disarm() { m_state = State::Off; }
    /// A key, a click or the remote: begins, calls off the count-in, or ends.
    Event pressed(double nowS);
    Event add(double nowS, const Seen& seen);

    State state() const { return m_state; }
    /// Seconds to the beginning while counting in.
    double countInLeftS(double nowS) const;
    Reason reason() const { return m_reason; }

  private:
    Event begin(double nowS, Reason why);
    Event end(Reason why);

    FilmingRules m_rules;
    State m_state = State::Off;
    Reason m_reason = Reason::None;
    double m_sinceS = 0;
    bool m_mayStart = true, m_handWasDown = true;
};

}  // namespace zevo
