#pragma once

#include <string>
#include <vector>

#include "core/session/comparison.h"
#include "core/session/edits.h"

namespace zevo {

enum class CueEffect {
    Worked,
    NoDifference,  ///< none beyond what sets differ by when nothing is said
    Worse,
    CannotSay  ///< not read in three repetitions of both
};

/// Whether what the coach said changed what it was about.
struct CueAnswer {
    CueGiven cue;
    CueEffect effect = CueEffect::CannotSay;
    MeasureId measure;
    bool bothLegs = false;               ///< the mean of `measure` and its twin of the other leg
    int earlierSets = 0;                 ///< how many sets without the cue it was held against
    double before = 0, after = 0;        ///< means
    double beforePm = 0, afterPm = 0;    ///< 90 % half widths of the two, with what sets differ by
    double p = 1;                        ///< see testChange(); Holm's correction where several measures see the fault
    bool gone = false;                   ///< the fault is not found any more
    std::vector<std::string> newFaults;  ///< clear now and not found before: what the cue may have brought
};

/// Compares the set after a cue with `before`: the sets before it in which the cue was not yet in force, oldest first,
/// the one it was given after last. Against their mean and not against that last one alone, because a coach speaks up
/// after a set that went badly, and the next one is better by itself (regression to the mean). Legs are taken together:
/// whichever went worse is not picked out. `history`: for how much sets scatter by themselves. All of one client,
/// movement, set-up and camera, so that what a reading gets wrong every time falls out.
CueAnswer answerTo(const CueGiven& cue, const std::vector<RepsOfSet>& before, const RepsOfSet& now,
                   const SetHistory& history, const Standard& standard);

}  // namespace zevo
