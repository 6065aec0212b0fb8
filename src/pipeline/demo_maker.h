#pragma once

#include <atomic>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/judge/asks.h"
#include "pipeline/analyse_clip.h"

namespace zevo::pipeline {

/// One made-up set of the demo scenario (data/demo/larkmoor.json).
struct DemoSet {
    std::string client, note, movement, variation, standard, clipName;
    std::string story;  ///< what happened, one sentence
    double statureCm = 0;
    std::string specJson;  ///< what the virtual client does
    double loadShare = 0, wedgeDeg = 0;
    bool looseShirt = false;
    Asks asks;                             ///< what was asked of it
    std::vector<Mark> marks;               ///< what the coach clicked, in the first clip
    std::vector<std::string> planted;      ///< fault ids the clip was made to show
    int reps = 0;                          ///< repetitions it shows
    std::string frontName, frontSpecJson;  ///< the same set by a second camera in front; empty = none
};

/// The demo scenario as shipped, or another file of the same form.
Result<std::vector<DemoSet>> loadDemo(const std::string& file = {});

/// Draws a spec's clip into `path` (and the truth beside it as NAME.truth.json). Nothing is left after a stop.
Result<void> makeDemoClip(const std::string& specJson, const std::string& path, const std::atomic<bool>& cancel,
                          const OnProgress& progress = {});

/// Where a demo clip can be read: one that ships with Zevo and was drawn from just this spec, one already in `folder`,
/// or one drawn into it now.
Result<std::string> demoClip(const std::string& name, const std::string& specJson, const std::string& folder,
                             const std::atomic<bool>& cancel, const OnProgress& progress = {});

/// File name of a shipped clip: a short sum of its spec's text stands before the ending, so that one drawn from another
/// spec is not taken for it.
std::string shippedName(const std::string& name, const std::string& specJson);

}  // namespace zevo::pipeline
