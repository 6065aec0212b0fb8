#pragma once

#include <string>
#include <vector>

#include "core/advice/advice.h"
#include "core/results/set_result.h"

namespace zevo {

/// The advice that fits one finding of a set, and how it was come to.
struct Counsel {
    std::string limiter;  ///< id; empty when no cause stood out
    std::string trace;    ///< "only in reps 5–6 of 6 → tires rather than lacks the skill"
    Advice advice;        ///< the fault's own, with what the limiter replaces
};

/// Takes the first limiter whose signs the set shows. Findings that could not be settled get the plain advice.
Counsel counselFor(const Finding& finding, const SetResult& result, const AdviceBook& book);

/// "reps 3–6", "rep 2", "reps 1, 4".
std::string repsInWords(const std::vector<int>& reps);

}  // namespace zevo
