#pragma once

#include <QObject>
#include <map>

class QSoundEffect;
class QTextToSpeech;

namespace zevo::app {

/// The few sounds of filming. Silent, and nothing worse, where the machine has no loudspeaker.
class Sounds : public QObject {
    Q_OBJECT
  public:
    explicit Sounds(QObject* parent = nullptr);
    void setOn(bool on) { m_on = on; }
    /// "tick", "count", "go", "end", "right".
    void play(const QString& name);
    /// Says a number, where the machine has a voice; else nothing.
    void say(int number);
    bool hasVoice();

  signals:
    /// What was, or would have been, heard.
    void played(const QString& name);

  private:
    std::map<QString, QSoundEffect*> m_effects;
    bool m_on = true, m_asked = false;
    QTextToSpeech* m_voice = nullptr;
};

}  // namespace zevo::app
