#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/judge/findings.h"
#include "core/session/edits.h"

namespace zevo {

enum class CueEffect {
    Worked,
    NoDifference,  ///< none beyond what repetitions of one set differ by
    Worse,
    CannotSay  ///< not read in both sets, or too few repetitions
};

/// Whether what the coach said changed what it was about.
struct CueAnswer {
    CueGiven cue;
    CueEffect effect = CueEffect::CannotSay;
    MeasureId measure;
    double before = 0, after = 0;        ///< medians over the repetitions that count
    double beforePm = 0, afterPm = 0;    ///< 90 % half widths of the two means, from the repetitions' own scatter
    double p = 1;                        ///< see alignedRankSum()
    bool gone = false;                   ///< the fault is not found any more
    std::vector<std::string> newFaults;  ///< clear now and not found before: what the cue may have brought
};

/// Compares two sets of one client, movement, camera and day by how far the measure of the cue lies past its band, so
/// that more is worse whichever way the fault goes. Within one client and camera what a reading gets wrong every time
/// is the same before and after and falls out: repetitions' own scatter decides, by alignedRankSum() (isTold() in
/// comparison.h; with three against three repetitions all must lie apart).
CueAnswer answerTo(const CueGiven& cue, const std::vector<MeasuredRep>& before, const std::vector<MeasuredRep>& now,
                   const Standard& standard);

}  // namespace zevo
