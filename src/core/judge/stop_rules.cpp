#include "core/judge/stop_rules.h"

#include <algorithm>

namespace zevo {
namespace {

constexpr int kLighten = 3, kStop = 5, kMuchRise = 3;

bool contains(const std::vector<std::string>& list, const std::string& item) {
    return std::find(list.begin(), list.end(), item) != list.end();
}

}  // namespace

const std::vector<RedFlag>& redFlags() {
    using enum FlagLevel;
    static const std::vector<RedFlag> all{
        {"chest", HelpNow},   {"fainting", HelpNow},  {"headache", HelpNow}, {"bladder", HelpNow},
        {"saddle", HelpNow},  {"no-weight", Refer},   {"weakness", Refer},   {"calf", Refer},
        {"fever", Refer},     {"numbness", Refer},    {"leg-pain", Refer},   {"giving-way", Refer},
        {"locking", Refer},   {"swelling", Refer},    {"night-pain", Refer}, {"fall", Refer},
        {"dizziness", Refer}, {"pregnancy", Cleared}, {"surgery", Cleared},
    };
    return all;
}

std::optional<FlagLevel> levelOfFlag(const std::string& id) {
    for (const RedFlag& f : redFlags())
        if (id == f.id) return f.level;
    return std::nullopt;
}

const std::vector<std::string>& painPlaces() {
    static const std::vector<std::string> all{"knee-front", "knee-inner", "knee-outer", "rear-knee", "hip-front",
                                              "hip-outer",  "low-back",   "mid-back",   "neck",      "shoulder",
                                              "elbow",      "wrist",      "ankle",      "foot"};
    return all;
}

const std::vector<std::string>& feltPlaces() {
    static const std::vector<std::string> all{"front-thigh", "hamstring", "inner-thigh", "rear-leg", "seat",
                                              "hip-front",   "knee",      "calf",        "foot",     "low-back",
                                              "mid-back",    "neck",      "shoulder",    "belly",    "foot-rolls"};
    return all;
}

StopAnswer stopAnswer(const PainCheck& c) {
    using Level = StopAnswer::Level;
    using Reason = StopAnswer::Reason;
    StopAnswer flagged{Level::GoOn, Reason::None, {}, c.place, true};
    for (const RedFlag& f : redFlags()) {
        if (!contains(c.redFlags, f.id)) continue;
        flagged.redFlags.push_back(f.id);
        flagged.reason = Reason::RedFlags;
        flagged.level = std::max(flagged.level, f.level == FlagLevel::HelpNow ? Level::HelpNow : Level::Stop);
    }
    if (!flagged.redFlags.empty()) return flagged;
    const int worst = std::max(c.before.value_or(0), c.after.value_or(0));
    // A rise from little to 3 or 4 asks for an easier version and the same test again; a large one stops.
    const bool rising = c.rose() && (*c.after - *c.before >= kMuchRise || (c.roseBefore && *c.after >= kLighten));
    if (c.sharp || worst >= kStop || rising)
        return {Level::Stop,
                c.sharp  ? Reason::SharpPain
                : rising ? Reason::RisingPain
                         : Reason::MuchPain,
                {},
                c.place,
                worst >= kStop || c.sharp};
    if (worst >= kLighten) return {Level::Lighten, Reason::SomePain, {}, c.place, false};
    for (const RedFlag& f : redFlags())
        if (f.level == FlagLevel::Cleared && contains(c.cleared, f.id))
            return {Level::Care, Reason::Cleared, {f.id}, c.place, false};
    return {Level::GoOn, Reason::None, {}, c.place, false};
}

}  // namespace zevo
