#pragma once

#include "core/session/edits/cue_given.h"
#include "core/session/edits/edit_kind.h"

namespace zevo {

/// What was said is taken back.
struct CueRetracted {
    bool operator==(const CueRetracted&) const = default;

    static constexpr const char* kName = "cue_taken_back";
    static constexpr bool kLeavesValues = true;
    bool replaces(const CueGiven&) const { return true; }
    Json write() const { return Json::object(); }
    static CueRetracted read(const Json&) { return {}; }
    void apply(auto& set) const { set.cue.reset(); }
};

}  // namespace zevo
