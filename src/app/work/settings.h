#pragma once

#include <QString>

#include "present/words.h"

namespace zevo::app {

using present::Lengths;

/// The coach's choices, kept in the library folder (settings.ini).
struct Settings {
    bool dark = false;
    Lengths lengths = Lengths::Metric;
    QString model = "full";                 ///< lite, full or heavy
    QString movement = "squat", variation;  ///< what the next clip is measured as
};

Settings loadSettings(const QString& libraryFolder);
void saveSettings(const QString& libraryFolder, const Settings& settings);

}  // namespace zevo::app
