#include "app/work/settings.h"

#include <QDir>
#include <QSettings>

namespace zevo::app {

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

}  // namespace zevo::app
