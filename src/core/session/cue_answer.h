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
    double p = 1;                        ///< see rankSum()
    bool gone = false;                   ///< the fault is not found any more
    std::vector<std::string> newFaults;  ///< clear now and not found before: what the cue may have brought
};

/// Compares two sets of one client, movement, camera and day by how far the measure of the cue lies past its band, so
/// that more is worse whichever way the fault goes. Within one client and camera what a reading gets wrong every time
/// is the same before and after and falls out: repetitions' own scatter decides, by rankSum() at p ≤ 0.1 (with three
/// against three repetitions all must lie apart), and differences under a fifth of the reading's ± get no word.
CueAnswer answerTo(const CueGiven& cue, const std::vector<MeasuredRep>& before, const std::vector<MeasuredRep>& now,
                   const Standard& standard);

}  // namespace zevo
