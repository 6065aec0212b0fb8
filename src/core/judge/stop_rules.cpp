#include "core/judge/stop_rules.h"

#include <algorithm>
#include <iterator>
#include <sstream>
#include <string_view>

namespace zevo {
namespace {

constexpr int kLighten = 3, kStop = 5, kMuchRise = 3;
/// By BodySide.
constexpr std::string_view kSides[]{"", "left", "right", "both"};

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

bool hasSides(const std::string& place) {
    return place != "low-back" && place != "mid-back" && place != "neck";
}

std::string painSpotsText(const PainSpots& spots) {
    std::string out;
    for (const PainSpot& s : spots) {
        if (!out.empty()) out += ' ';
        out += s.place;
        if (s.side != BodySide::NotSaid) out += ':' + std::string(kSides[static_cast<std::size_t>(s.side)]);
    }
    return out;
}

PainSpots painSpotsFrom(const std::string& text) {
    PainSpots out;
    std::istringstream words(text);
    for (std::string word; words >> word && out.size() < kMostPainSpots;) {
        const auto colon = word.find(':');
        PainSpot spot{word.substr(0, colon)};
        if (!contains(painPlaces(), spot.place)) continue;
        if (colon != std::string::npos && hasSides(spot.place)) {
            const auto* side = std::find(std::begin(kSides), std::end(kSides), word.substr(colon + 1));
            if (side != std::end(kSides)) spot.side = static_cast<BodySide>(side - std::begin(kSides));
        }
        out.push_back(std::move(spot));
    }
    return out;
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
    auto answer = [&](Level level, Reason reason, bool refer) {
        StopAnswer a;
        a.level = level, a.reason = reason, a.spots = c.spots, a.limits = c.limits, a.refer = refer;
        return a;
    };
    StopAnswer flagged = answer(Level::GoOn, Reason::None, true);
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
        return answer(Level::Stop,
                      c.sharp  ? Reason::SharpPain
                      : rising ? Reason::RisingPain
                               : Reason::MuchPain,
                      worst >= kStop || c.sharp);
    if (worst >= kLighten) return answer(Level::Lighten, Reason::SomePain, false);
    // A clearance that was written down with limits holds whatever the flag was.
    StopAnswer cared = answer(Level::Care, Reason::Cleared, false);
    for (const RedFlag& f : redFlags())
        if (contains(c.cleared, f.id) && (f.level == FlagLevel::Cleared || !c.limits.empty()))
            cared.redFlags.push_back(f.id);
    if (!cared.redFlags.empty()) return cared;
    return answer(Level::GoOn, Reason::None, false);
}

SubstituteAnswer substituteAnswer(int before, int after) {
    return after < before && after < kLighten ? SubstituteAnswer::Keep : SubstituteAnswer::Next;
}

}  // namespace zevo
