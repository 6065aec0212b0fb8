#include "app/work/settings.h"

#include <QDir>
#include <QSettings>
#include <QStringList>
#include <cmath>

#include "core/advice/reasoning.h"

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
        case Unit::MetresPerSecond: return us ? Shown{1 / 0.3048, 1, " ft/s"} : Shown{1, 2, " m/s"};
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
    s.movement = file.value("movement", s.movement).toString();
    s.variation = file.value("variation", s.variation).toString();
    if (s.model != "lite" && s.model != "heavy") s.model = "full";
    return s;
}

void saveSettings(const QString& folder, const Settings& s) {
    QSettings file(QDir(folder).filePath("settings.ini"),
                   QSettings::IniFormat);  // QSettings replaces the file atomically
    file.setValue("dark", s.dark);
    file.setValue("us_units", s.lengths == Lengths::Us);
    file.setValue("model", s.model);
    file.setValue("movement", s.movement);
    file.setValue("variation", s.variation);
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

QString lagText(double lagS) {
    // A clip that was switched on later shows every moment earlier on its own clock.
    return QString("begun %1 s %2").arg(std::abs(lagS), 0, 'f', 2).arg(lagS < 0 ? "later" : "earlier");
}

QString repsText(const std::vector<int>& reps) {
    return QString::fromStdString(repsInWords(reps));
}

}  // namespace zevo::app
