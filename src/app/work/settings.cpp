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
    s.camera = file.value("camera", s.camera).toString();
    s.startStill = file.value("start_still", s.startStill).toBool();
    s.stopStill = file.value("stop_still", s.stopStill).toBool();
    s.handStarts = file.value("hand_starts", s.handStarts).toBool();
    s.sounds = file.value("sounds", s.sounds).toBool();
    s.mirror = file.value("mirror", s.mirror).toBool();
    s.tempoGuide = file.value("tempo_guide", s.tempoGuide).toString();
    s.incoming = file.value("incoming", s.incoming).toString();
    s.coach = file.value("coach", s.coach).toString();
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
    file.setValue("camera", s.camera);
    file.setValue("start_still", s.startStill);
    file.setValue("stop_still", s.stopStill);
    file.setValue("hand_starts", s.handStarts);
    file.setValue("sounds", s.sounds);
    file.setValue("mirror", s.mirror);
    file.setValue("tempo_guide", s.tempoGuide);
    file.setValue("incoming", s.incoming);
    file.setValue("coach", s.coach);
}

SetFacts chosenMovement(const Settings& settings, const Catalogue& catalogue) {
    SetFacts facts;
    facts.movement = settings.movement.toStdString();
    const std::string variation = settings.variation.toStdString();
    if (const Movement* m = catalogue.movement(facts.movement); m && m->variation(variation))
        facts.variation = variation;
    return facts;
}

}  // namespace zevo::app
