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
        bool felt = false;        ///< where the client felt it
        std::string why;          ///< the limiter's own words
    } trace;
    std::vector<std::string> ruledOut;  ///< what it is not, though its signs are there: the limiters' own words
    Advice advice;                      ///< what fits the situation and the likely cause
};

/// The limiter whose signs the set shows, whose card holds here, and for which most speaks: what the client felt more
/// than other faults, how it goes over the set and which leg, those more than a load (the weights are ours). Of equals
/// the first in the order of the cards. Findings that could not be settled get the plain advice.
Counsel counselFor(const Finding& finding, const SetResult& result, const AdviceBook& book);

/// What is said to a clean set, to one that was felt in the wrong place, or to a client whom something hurts a little.
Advice adviceWithoutFinding(const char* card, const SetResult& result, const AdviceBook& book);

}  // namespace zevo
