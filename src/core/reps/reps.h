#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/series/series.h"

namespace zevo {

enum class RepKind { Full, Partial, Double };
std::string repKindName(RepKind kind);

/// One repetition as sample numbers of the track. Lowering start…arrive, bottom arrive…leave, lifting leave…end.
/// `bottom`, where angles are read, is the middle of what is nearly deepest: it can lie before the last of the sinking.
struct Rep {
    int index = 0;
    RepKind kind = RepKind::Full;
    std::size_t start = 0, arrive = 0, bottom = 0, leave = 0, end = 0;
    double depth = 0;         ///< deepest sinking, share of standing hip height
    std::optional<Side> leg;  ///< the one that worked, where one works at a time (working_leg.h)
};

struct RepOptions {
    /// A dip counts from this knee bend on; below is fidgeting. Quarter squats begin at about 40°
    /// (Schoenfeld 2010, from memory).
    double minKneeFlexion = 30;
    /// Bent less than this: partial whatever the others do.
    double partialKneeFlexion = 55;
    /// … but for a lunge that sinks by this share of the standing hip height (our choice, no source).
    double lungeDepth = 0.09;
    /// Sinking less than this share of the set's usual depth: partial.
    double partialShare = 0.5;
    /// Not rising above this share of the depth between two bottoms: one rep with two bottoms.
    /// Half-way up by the angle of the thigh is a third of the sinking.
    double doubleShare = 0.25;
};

/// Finds the repetitions of a squat-like set: bottoms as peaks of the sinking signal, boundaries where the
/// joints start and stop bending (speed of the mean of knee and hip).
/// Only whole repetitions count: one cut off by the clip's start or end is left out.
std::vector<Rep> findReps(const Track& track, const Series& series, const RepOptions& options = {});

}  // namespace zevo
