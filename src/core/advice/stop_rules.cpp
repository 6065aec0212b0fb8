#include "core/advice/stop_rules.h"

#include <algorithm>

namespace zevo {
namespace {

constexpr int kLighten = 3, kStop = 5;

}  // namespace

const std::vector<RedFlag>& redFlags() {
    static const std::vector<RedFlag> all{{"numbness", "Numbness or tingling"},
                                          {"giving-way", "Giving way"},
                                          {"locking", "Locking"},
                                          {"swelling", "Swelling"},
                                          {"night-pain", "Pain at night"},
                                          {"surgery", "Recent surgery"},
                                          {"fall", "Injury in a fall"},
                                          {"pregnancy", "Pregnancy"},
                                          {"dizziness", "Dizziness, chest symptoms"}};
    return all;
}

StopAnswer stopAnswer(const PainCheck& c) {
    using Level = StopAnswer::Level;
    if (!c.redFlags.empty()) {
        std::string named;
        for (const auto& f : redFlags())
            if (std::find(c.redFlags.begin(), c.redFlags.end(), f.id) != c.redFlags.end())
                named += (named.empty() ? "" : ", ") + std::string(f.title);
        return {Level::Stop, "Stop. This set is not scored",
                named + ": see a licensed clinician before training goes on. Zevo coaches; it does not diagnose.",
                true};
    }
    const int worst = std::max(c.before.value_or(0), c.after.value_or(0));
    const bool rising = c.before && c.after && *c.after > *c.before;
    if (c.sharp || worst >= kStop || (rising && worst >= kLighten))
        return {Level::Stop, "Stop. This set is not scored",
                std::string(c.sharp  ? "Sharp pain"
                            : rising ? "Pain that rises"
                                     : "Pain of 5 or more") +
                    " ends the session for this movement. If it stays or comes back, a licensed clinician.",
                worst >= kStop || c.sharp};
    if (worst >= kLighten)
        return {Level::Lighten, "Lighten or make it easier",
                "Pain of 3 or 4: less load, less range or an easier variation, and ask again after the next set.",
                false};
    return {};
}

}  // namespace zevo
