#pragma once

#include <optional>
#include <string>
#include <vector>

namespace zevo {

/// What the client said about the set. Nothing of it has to be filled in.
struct PainCheck {
    std::optional<int> before, after;  ///< 0–10
    bool sharp = false;
    std::vector<std::string> redFlags;  ///< ids of redFlags()

    bool operator==(const PainCheck&) const = default;
};

/// Ids of what always goes to licensed practice (common practice, no published source).
const std::vector<std::string>& redFlags();

/// What that means for the set; the words for it are made in src/present.
struct StopAnswer {
    enum class Level { GoOn, Lighten, Stop } level = Level::GoOn;
    enum class Reason { None, RedFlags, SharpPain, RisingPain, MuchPain, SomePain } reason = Reason::None;
    std::vector<std::string> redFlags;  ///< those named
    bool refer = false;                 ///< to a licensed clinician
};

/// 0–2 go on, 3–4 lighten or regress, 5 and more, rising to 3 or more, or sharp: stop; a red flag: no scoring, refer
/// (common practice, no published source).
StopAnswer stopAnswer(const PainCheck& check);

}  // namespace zevo
