// What the film page says and draws at a moment.
#include <QCheckBox>
#include <QLabel>
#include <QLocale>

#include "app/film/film_view.h"
#include "core/judge/tempo.h"
#include "present/film_words.h"
#include "present/words.h"

namespace zevo::app {
namespace {

using Phase = Filming::Phase;

/// The check looks at the last second, twice a second; and the pictures from the new place have to be drawn.
constexpr double kSettledS = 2.2;
/// The first repetition begins this long after the picture begins to count.
constexpr double kTempoLeadS = 1.5, kTempoRestS = 1;
/// Each line of what comes before the first repetition stands so long.
constexpr double kLineS = 4;

}  // namespace

QString FilmView::tempoWord(int phase) const {
    const Movement* movement = m_catalogue->movement(m_facts.movement);
    if (phase == 1) return tr("hold");
    if (phase > 2) return {};
    // A bridge lifts first, and the effort goes with the breath out.
    const bool up = (phase == 2) != (movement && movement->drive == Drive::HipRise);
    const auto breath = m_bands.choices.find("breath");
    if (breath == m_bands.choices.end() || breath->second != "down-up") return up ? tr("up") : tr("down");
    return up ? tr("up, breathe out") : tr("down, breathe in");
}

std::optional<CameraAdvice> FilmView::watch(LiveCanvas::Scene& s) const {
    if (!m_look) return std::nullopt;
    const QString allTheSame = tr(" · Space films all the same");
    if (m_look->timeS - m_movedS < kSettledS) {
        // What is said next is about where it stands now.
        s.sentence = tr("The camera is being moved");
        return std::nullopt;
    }
    if (!m_look->check.good()) {
        const CameraAdvice& first = m_look->check.problems.front();
        s.sentence = present::cameraSentence(first, m_settings.lengths);
        s.reason = present::cameraReason(first.problem) + allTheSame;
        s.move = first.move;
        if (first.problem == CameraProblem::CutOff || first.problem == CameraProblem::TooNear)
            s.room = m_look->check.room;
        return first;
    }
    if (m_filming->hasSecond() && m_secondLook && !m_secondLook->check.good()) {
        const CameraAdvice& other = m_secondLook->check.problems.front();
        s.sentence = tr("Second: %1").arg(present::cameraSentence(other, m_settings.lengths));
        s.reason = present::cameraReason(other.problem) + allTheSame;
    } else if (!m_filming->isClientReady()) {
        s.sentence = tr("The virtual client gets ready: %1 %").arg(m_ready);
    } else if (!m_painTap->isHidden()) {
        s.right = true;
        s.sentence = tr("Does anything hurt today?");
        s.reason = tr("Once a day, before the first set · a digit, or a tap below");
    } else if (!m_stop.scored()) {
        const auto words = present::stopWords(m_stop);
        s.sentence = words.title;
        s.reason = words.text;
    } else {
        s.right = true;
        s.sentence = m_settings.startStill ? tr("Right. Stand still to begin") : tr("Right. Space to begin");
        s.reason = tr("%1 view").arg(QString::fromStdString(viewName(m_look->check.view)));
        if (const QString asked = present::asksText(m_facts, *m_catalogue, m_settings.lengths); !asked.isEmpty())
            s.reason += tr(" · asked: %1").arg(asked);
        if (const QString care = careText(); !care.isEmpty()) s.reason = care;
    }
    return std::nullopt;
}

void FilmView::follow(LiveCanvas::Scene& s) {
    const Movement* movement = m_catalogue->movement(m_facts.movement);
    if (!m_look || !movement) return;
    if (m_look->set.view == ViewKind::Side) s.line = present::liveLine(m_look->drawn, *movement, m_bands);
    if (m_showCue->isChecked()) s.cue = m_cue;
    const auto tempo = parseTempo(m_settings.tempoGuide.toStdString());
    if (!tempo) return;
    // Between two pictures the target goes on. A bridge lifts first, and its target goes up.
    const bool lifts = movement->drive == Drive::HipRise;
    const double since = m_look->clipS + (media::steadySeconds() - m_look->timeS) - pipeline::kRingS - kTempoLeadS;
    s.tempo = present::tempoAt(since, lifts ? tempo->liftS : tempo->lowerS, tempo->pauseS,
                               lifts ? tempo->lowerS : tempo->liftS, kTempoRestS);
    const int beat = s.tempo->rep * 1000 + s.tempo->phase * 100 + static_cast<int>(std::ceil(s.tempo->leftS));
    if (beat != m_lastBeat && s.tempo->phase < 3) m_sounds->play("tick");
    m_lastBeat = beat;
    s.tempoWord = tempoWord(s.tempo->phase);
    if (lifts) s.tempo->share = 1 - s.tempo->share;
}

QString FilmView::stateText() const {
    const auto counts = m_filming->counts();
    if (!m_filming->isOpen() || counts.cameraRate <= 0) return {};
    const QLocale locale;
    QString state = tr("%1 pictures a second, %2 looked at, lines %3 ms behind")
                        .arg(locale.toString(counts.cameraRate, 'f', 0), locale.toString(counts.poseRate, 'f', 0),
                             locale.toString(1000 * counts.behindS, 'f', 0));
    if (m_filming->phase() == Phase::Filming) state += tr(", %n dropped", "", static_cast<int>(counts.dropped));
    // Below fifteen a second turning points are missed live; the answer still has every picture.
    if (counts.poseRate > 0 && counts.poseRate < 15)
        state += tr(". This machine is slow for this network: “Quick” on the first page follows better.");
    return state;
}

void FilmView::refresh() {
    LiveCanvas::Scene s;
    s.phase = m_filming->phase();
    s.mirrored = m_settings.mirror;
    s.countInS = m_filming->countInLeftS();
    if (m_look) {
        s.reps = m_look->set.reps;
        s.partial = m_look->set.partial;
        s.clipS = m_look->clipS;
        s.tensionS = m_look->set.tensionS;
    }
    std::optional<CameraAdvice> advice;
    switch (s.phase) {
        case Phase::Off:
            if (m_consent->isVisible()) break;
            s.sentence = tr("The camera is off");
            s.reason = tr("Space switches it on");
            break;
        case Phase::Opening: s.sentence = tr("The camera is being opened"); break;
        case Phase::Ending: s.sentence = tr("Measuring"); break;
        case Phase::Watching:
            advice = watch(s);
            // One line at a time, for three metres; nothing of it while something has to be asked first.
            if (m_painTap->isHidden() && m_stop.scored() && !m_before.isEmpty())
                s.before = m_before[static_cast<qsizetype>(media::steadySeconds() / kLineS) % m_before.size()];
            if (m_endedS >= 0) s.restS = media::steadySeconds() - m_endedS;
            break;
        case Phase::Filming: follow(s); break;
        case Phase::CountingIn: {
            const int beat = static_cast<int>(std::ceil(s.countInS));
            if (beat != m_lastBeat && beat > 0) m_sounds->play("count");
            m_lastBeat = beat;
            break;
        }
    }
    m_virtual->setAdvice(advice);
    m_canvas->setScene(s);
    if (m_display->isVisible()) m_display->setScene(s);
    m_state->setText(stateText());
}

}  // namespace zevo::app
