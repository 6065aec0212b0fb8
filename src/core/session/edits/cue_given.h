#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// What the coach said to the client after this set, before the next.
struct CueGiven {
    std::string fault;    ///< the finding it is about; empty: nothing was said, watching
    std::string wording;  ///< as it stands on the card, or the coach's own
    bool operator==(const CueGiven&) const = default;

    static constexpr const char* kName = "cue_given";
    static constexpr bool kLeavesValues = true;
    bool replaces(const CueGiven&) const { return true; }
    Json write() const { return {{"fault", fault}, {"wording", wording}}; }
    static CueGiven read(const Json& o) {
        return {o.at("fault").get<std::string>(), o.at("wording").get<std::string>()};
    }
    void apply(auto& set) const { set.cue = *this; }
};

}  // namespace zevo
