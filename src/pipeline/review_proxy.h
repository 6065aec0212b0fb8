#pragma once

#include <atomic>
#include <string>

#include "pipeline/analyse_clip.h"

namespace zevo::pipeline {

/// True when jumping about in the clip would be slow: key frames far apart (phones write one every few seconds).
Result<bool> needsReviewProxy(const std::string& clip);

/// Writes a copy that is quick to jump about in (a key frame every 12 frames, longest side ≤ 1280, same time
/// stamps). The clip itself is only read. Appears under its name only when complete.
Result<void> makeReviewProxy(const std::string& clip, const std::string& out, const std::atomic<bool>& cancel,
                             const OnProgress& progress = {});

}  // namespace zevo::pipeline
