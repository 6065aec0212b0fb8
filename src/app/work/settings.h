#pragma once

#include <QString>

#include "core/measures/measure.h"

namespace zevo::app {

enum class Lengths { Metric, Us };

/// The coach's choices, kept in the library folder (settings.ini).
struct Settings {
    bool dark = false;
    Lengths lengths = Lengths::Metric;
    QString model = "full";                 ///< lite, full or heavy
    QString movement = "squat", variation;  ///< what the next clip is measured as
};

Settings loadSettings(const QString& libraryFolder);
void saveSettings(const QString& libraryFolder, const Settings& settings);

/// A measured value for a person: sign only where it matters, unit, sensible decimals. "−14°", "4.8 cm", "1.9 in".
QString valueText(double value, Unit unit, Lengths lengths);
/// The same with its 90 % half width: "−14° ±8".
QString valueWithPm(double value, double pm90, Unit unit, Lengths lengths);
/// Stature in the coach's units: "178 cm", "5 ft 10 in".
QString statureText(double cm, Lengths lengths);
/// When the second clip of a set was switched on: "begun 0.34 s later".
QString lagText(double lagS);
/// A list of repetition numbers: "reps 3–6", "rep 2", "reps 1, 4".
QString repsText(const std::vector<int>& reps);

}  // namespace zevo::app
