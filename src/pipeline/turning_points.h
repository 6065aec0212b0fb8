#pragma once

#include <atomic>
#include <string>

#include "pipeline/analyse_clip.h"

namespace zevo::pipeline {

/// The second look: asks the larger network and one trained elsewhere on three frames around every turning point in
/// `found`, and keeps their raw answers in `seen.secondEstimates`. Repetitions that could not be asked about (a frame
/// that is not found again, a network that does not start) are named in `seen.notices`.
void estimateAtTurningPoints(const std::string& clip, const MeasuredView& found, const AnalyseOptions& options,
                             const std::atomic<bool>& cancel, Observation& seen);

}  // namespace zevo::pipeline
