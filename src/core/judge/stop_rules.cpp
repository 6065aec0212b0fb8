#include "core/judge/stop_rules.h"

#include <algorithm>

namespace zevo {
namespace {

constexpr int kLighten = 3, kStop = 5;

}  // namespace

const std::vector<std::string>& redFlags() {
    static const std::vector<std::string> all{"numbness", "giving-way", "locking",   "swelling", "night-pain",
                                              "surgery",  "fall",       "pregnancy", "dizziness"};
    return all;
}

StopAnswer stopAnswer(const PainCheck& c) {
    using Level = StopAnswer::Level;
    using Reason = StopAnswer::Reason;
    if (!c.redFlags.empty()) {
        StopAnswer answer{Level::Stop, Reason::RedFlags, {}, true};
        for (const auto& f : redFlags())
            if (std::find(c.redFlags.begin(), c.redFlags.end(), f) != c.redFlags.end()) answer.redFlags.push_back(f);
        return answer;
    }
    const int worst = std::max(c.before.value_or(0), c.after.value_or(0));
    const bool rising = c.before && c.after && *c.after > *c.before;
    if (c.sharp || worst >= kStop || (rising && worst >= kLighten))
        return {Level::Stop,
                c.sharp  ? Reason::SharpPain
                : rising ? Reason::RisingPain
                         : Reason::MuchPain,
                {},
                worst >= kStop || c.sharp};
    if (worst >= kLighten) return {Level::Lighten, Reason::SomePain, {}, false};
    return {};
}

}  // namespace zevo
