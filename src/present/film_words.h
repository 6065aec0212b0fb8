#pragma once

#include <QString>

#include "core/live/camera_check.h"
#include "core/live/filming_switch.h"
#include "core/session/cue_ledger.h"
#include "present/log_words.h"

namespace zevo::present {

/// What to do with the camera, one short sentence to be read from three metres: "Lower the camera about 20 cm".
QString cameraSentence(const CameraAdvice& advice, Lengths lengths);
/// Why, in a few words for who stands near: "It looks down on them: knees and hips shift against each other".
QString cameraReason(CameraProblem problem);
/// Why a recording ended: "stood still", "left the picture"; empty for a key.
QString endedBecause(FilmingSwitch::Reason reason);

/// What a cue did, in one line for the top of the answer, and how that was decided.
struct CueWords {
    QString answer;   ///< "Worked. Heel off the floor: 5.5 ±0.4 cm → 0.6 ±0.2 cm"
    QString how;      ///< "more than the reps of one set differ by themselves (by chance: 0.2 %)"
    QString said;     ///< the wording that was given, or what was changed in the set-up
    QString brought;  ///< what is there now and was not before; empty: nothing
    QString rule;     ///< how such a verdict comes about, with its source
};
/// Of sets that were not `seenAlike`: the two values, and no word of what the cue did or brought.
CueWords cueWords(const CueAnswer& answer, const AdviceBook& book, Lengths lengths, bool seenAlike = true);
/// The same while the careful reading of the set is still to come: what cannot be said is not said yet.
CueWords cueWordsSoFar(const CueAnswer& answer, const AdviceBook& book, Lengths lengths, bool seenAlike);

/// The same of a change of the set-up, with nothing said: what differs more than noise.
CueWords trialWords(const std::vector<SetUpChange>& changes, const std::vector<MeasureDifference>& differences,
                    const Catalogue& catalogue, const std::string& movement, Lengths lengths, bool seenAlike = true);

/// What is looked at and said before the first repetition, a line each: what was asked for, then how the movement and
/// the variation are set up, then what the choices tell the client.
QStringList beforeFirstRep(const SetFacts& facts, const Choices& choices, const Catalogue& catalogue, Lengths lengths);

/// "1280 × 720, 30 a second".
QString modeText(int width, int height, double rate);

}  // namespace zevo::present
