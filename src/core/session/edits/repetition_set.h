#pragma once

#include "core/session/edits/edit_kind.h"
#include "core/session/measured_set.h"

namespace zevo {

/// Within a stretch the repetitions are these: none (it was no repetition), one (moved, added, joined), two (split).
struct RepetitionSet {
    bool second = false;
    RepsByHand reps;
    bool operator==(const RepetitionSet&) const = default;

    static constexpr const char* kName = "rep_bounds";
    static constexpr bool kIsAboutPerson = true;
    bool replaces(const RepetitionSet& earlier) const {
        return second == earlier.second && reps.within.fromS <= earlier.reps.within.fromS &&
               reps.within.toS >= earlier.reps.within.toS;
    }
    Json write() const {
        Json o = writeSpan(reps.within);
        o["second"] = second;
        o["reps"] = Json::array();
        for (const Span& r : reps.reps) o["reps"].push_back(writeSpan(r));
        return o;
    }
    static RepetitionSet read(const Json& o) {
        RepsByHand said{readSpan(o), {}};
        if (!o.contains("reps")) said.reps = {said.within};
        for (const Json& r : o.value("reps", Json::array())) said.reps.push_back(readSpan(r));
        return {isOfSecond(o), std::move(said)};
    }
    void apply(auto& set) const { set.views[second].byHand.push_back(reps); }
};

}  // namespace zevo
