#pragma once

#include <QString>

#include "core/session/session.h"
#include "present/words.h"

namespace zevo::app {

using present::Lengths;

/// The coach's choices, kept in the library folder (settings.ini).
struct Settings {
    bool dark = false;
    Lengths lengths = Lengths::Metric;
    QString model = "full";                 ///< lite, full or heavy
    QString movement = "squat", variation;  ///< what the next clip is measured as
    QString camera;                         ///< "simulated" or a device; empty: none was chosen yet
    bool startStill = true, stopStill = true, handStarts = true, sounds = true, mirror = false;
    QString tempoGuide;  ///< "4-1-1"; empty: none
    QString incoming;    ///< folder that is watched for clips; empty: none
    QString coach;       ///< who works at this computer: stands with every edit; empty: nobody said
};

Settings loadSettings(const QString& libraryFolder);
void saveSettings(const QString& libraryFolder, const Settings& settings);
/// What the next clip or set is measured as; a variation nobody knows any more is left out.
SetFacts chosenMovement(const Settings& settings, const Catalogue& catalogue);

}  // namespace zevo::app
