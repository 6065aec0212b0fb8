#include "app/film/sounds.h"

#include <QAudioDevice>
#include <QMediaDevices>
#include <QSoundEffect>
#include <QUrl>
#ifdef ZEVO_SPEECH
#include <QTextToSpeech>
#endif

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

bool Sounds::hasVoice() {
#ifdef ZEVO_SPEECH
    if (!m_asked) {
        m_asked = true;
        // Qt's own stand-in speaks to nobody.
        for (const QString& engine : QTextToSpeech::availableEngines())
            if (engine != "mock" && !m_voice) {
                m_voice = new QTextToSpeech(engine, this);
                if (m_voice->availableVoices().isEmpty()) {
                    delete m_voice;
                    m_voice = nullptr;
                }
            }
    }
#endif
    return m_voice != nullptr;
}

void Sounds::say(int number) {
    if (!m_on) return;
    emit played(QString::number(number));
#ifdef ZEVO_SPEECH
    if (hasVoice()) m_voice->say(QString::number(number));
#endif
}

}  // namespace zevo::app
