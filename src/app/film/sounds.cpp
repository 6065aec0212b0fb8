#include "app/film/sounds.h"

#include <QAudioDevice>
#include <QMediaDevices>
#include <QSoundEffect>
#include <QUrl>

namespace zevo::app {

Sounds::Sounds(QObject* parent) : QObject(parent) {}

void Sounds::play(const QString& name) {
    if (!m_on) return;
    emit played(name);
    // Asked for late: opening a sound system costs half a second, and many coaches film in silence.
    if (m_effects.empty() && QMediaDevices::audioOutputs().isEmpty()) return;
    QSoundEffect*& effect = m_effects[name];
    if (!effect) {
        effect = new QSoundEffect(this);
        effect->setSource(QUrl("qrc:/sounds/" + name + ".wav"));
    }
    effect->play();
}

}  // namespace zevo::app
