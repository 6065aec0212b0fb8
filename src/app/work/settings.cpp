#include "app/work/settings.h"

#include <QDir>
#include <QSettings>
#include <QStringList>
#include <cmath>

namespace zevo::app {
namespace {

struct Shown {
    double factor;
    int decimals;
    const char* suffix;
};

Shown shownAs(Unit unit, Lengths lengths) {
    const bool us = lengths == Lengths::Us;
    switch (unit) {
        case Unit::Degrees: return {1, 0, "°"};
        case Unit::Centimetres: return us ? Shown{1 / 2.54, 1, " in"} : Shown{1, 1, " cm"};
        case Unit::Seconds: return {1, 1, " s"};
        case Unit::Milliseconds: return {1, 0, " ms"};
        case Unit::Share: return {100, 0, " %"};
        case Unit::MetresPerSecond2: break;
    }
    return us ? Shown{1 / 0.3048, 0, " ft/s²"} : Shown{1, 1, " m/s²"};
}

/// Figures with a true minus sign; never "−0".
QString figures(double v, int decimals) {
    QString text = QString::number(std::abs(v), 'f', decimals);
    if (v < 0 && text.toDouble() != 0) text.prepend(QChar(0x2212));
    return text;
}

}  // namespace

Settings loadSettings(const QString& folder) {
    const QSettings file(QDir(folder).filePath("settings.ini"), QSettings::IniFormat);
    Settings s;
    s.dark = file.value("dark", s.dark).toBool();
    s.lengths = file.value("us_units", false).toBool() ? Lengths::Us : Lengths::Metric;
    s.model = file.value("model", s.model).toString();
    if (s.model != "lite" && s.model != "heavy") s.model = "full";
    return s;
}

void saveSettings(const QString& folder, const Settings& s) {
    QSettings file(QDir(folder).filePath("settings.ini"),
                   QSettings::IniFormat);  // QSettings replaces the file atomically
    file.setValue("dark", s.dark);
    file.setValue("us_units", s.lengths == Lengths::Us);
    file.setValue("model", s.model);
}

QString valueText(double value, Unit unit, Lengths lengths) {
    const Shown s = shownAs(unit, lengths);
    return figures(value * s.factor, s.decimals) + s.suffix;
}

QString valueWithPm(double value, double pm90, Unit unit, Lengths lengths) {
    const Shown s = shownAs(unit, lengths);
    // An uncertainty is not shown smaller than it is: it rounds up.
    const double step = std::pow(10.0, -s.decimals);
    const double pm = std::ceil(pm90 * s.factor / step - 1e-6) * step;
    const QString unitText = QString(s.suffix);
    const QString number = figures(value * s.factor, s.decimals);
    return unitText == "°" ? number + "° ±" + figures(pm, s.decimals)
                           : number + " ±" + figures(pm, s.decimals) + unitText;
}

QString statureText(double cm, Lengths lengths) {
    if (cm <= 0) return "stature not known";
    if (lengths == Lengths::Metric) return QString::number(std::lround(cm)) + " cm";
    const long inches = std::lround(cm / 2.54);
    return QString("%1 ft %2 in").arg(inches / 12).arg(inches % 12);
}

QString repsText(const std::vector<int>& reps) {
    QStringList parts;
    for (std::size_t i = 0; i < reps.size();) {
        std::size_t j = i;
        while (j + 1 < reps.size() && reps[j + 1] == reps[j] + 1) ++j;
        parts.append(
            j == i
                ? QString::number(reps[i])
                : QString("%1%2%3").arg(reps[i]).arg(j == i + 1 ? QString(", ") : QString(QChar(0x2013))).arg(reps[j]));
        i = j + 1;
    }
    return (reps.size() == 1 ? "rep " : "reps ") + parts.join(", ");
}

}  // namespace zevo::app
