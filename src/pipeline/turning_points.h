#pragma once

#include <atomic>
#include <string>

#include "pipeline/analyse_clip.h"

namespace zevo::pipeline {

/// The second look: asks the larger network and one trained elsewhere on three frames around every turning point of the
/// repetitions found so far, and keeps their raw answers in `seen.opinions`. What cannot be asked (a frame that is not
/// found again, a network that does not start) is left out: the set is as good as without.
void askAtTurningPoints(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                        const std::atomic<bool>& cancel, Observation& seen);

}  // namespace zevo::pipeline
