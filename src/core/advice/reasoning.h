#pragma once

#include <string>
#include <vector>

#include "core/advice/advice.h"
#include "core/judge/set_result.h"

namespace zevo {

/// The advice that fits one finding of a set, and how it was come to.
struct Counsel {
    std::string limiter;  ///< id; empty when no cause stood out
    /// What spoke for it; present/words.h says it: "only in reps 5–6 of 6 → tires rather than lacks the skill".
    struct Trace {
        Signs::Reps when = Signs::Reps::Any;
        std::vector<int> reps;  ///< that show the fault
        int of = 0;             ///< that could have
        std::optional<Side> oneSide;
        std::optional<bool> loaded;
        bool withOthers = false;  ///< together with other signs
        std::string why;          ///< the limiter's own words
    } trace;
    Advice advice;  ///< the fault's own, with what the limiter replaces
};

/// Takes the first limiter whose signs the set shows. Findings that could not be settled get the plain advice.
Counsel counselFor(const Finding& finding, const SetResult& result, const AdviceBook& book);

}  // namespace zevo
