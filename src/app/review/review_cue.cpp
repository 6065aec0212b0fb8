// What was said after a set, and whether it helped.
#include <QDate>
#include <QLabel>
#include <QPushButton>

#include "app/review/review_view.h"
#include "present/film_words.h"

namespace zevo::app {

void ReviewView::takeOver(const Edits& known, const Edits& theirs, Observations seen, const std::map<int, int>& moved,
                          std::vector<record::Watchable> clips) {
    m_clips = std::move(clips);
    m_refining = true;
    m_document->rebase(known, theirs, std::move(seen), moved);
}

void ReviewView::setBeingRead(bool beingRead) {
    if (std::exchange(m_beingRead, beingRead) != beingRead && hasSet()) refreshAnswer();
}

void ReviewView::giveCue() {
    const auto& s = m_card->saying();
    if (!hasSet() || !m_card->givenButton()->isVisibleTo(m_card)) return refreshRep();
    const std::string words = m_card->sentence().toStdString();
    const auto& given = m_document->state().edited.cue;
    if (given && given->wording == words) return m_document->apply(CueRetracted{}, tr("the cue taken back"));
    m_document->apply(CueGiven{s.fault.toStdString(), words}, tr("the cue given"));
    emit cueGiven(s.fault);
}

void ReviewView::askOfNext(const Ask& wanted, bool take) {
    if (!hasSet()) return;
    const auto& edited = m_document->state().edited;
    Ask ask = wanted;
    ask.movement = m_document->facts().movement;
    if (!take) return m_document->apply(askLifted(ask), tr("what was lifted"));
    // What stood before this set stands again as it was; anything else is asked here and now.
    const bool again = std::find(edited.facts.asks.begin(), edited.facts.asks.end(), wanted) != edited.facts.asks.end();
    if (again) return m_document->apply(askTaken(wanted), tr("what is asked"));
    const PainCheck& pain = m_document->facts().pain;
    const PainSpots& hurts = pain.spots;
    const QString fault = m_card->saying().fault;
    if (wanted.why.empty())
        ask.why = !fault.isEmpty() ? fault.toStdString() : hurts.empty() ? std::string() : hurts.front().place;
    if (wanted.why.empty() && fault.isEmpty() && !hurts.empty()) ask.pain = pain.after ? pain.after : pain.before;
    ask.by = m_coach.toStdString();
    ask.on = QDate::currentDate().toString(Qt::ISODate).toStdString();
    m_document->apply(askTaken(ask), tr("what is asked"));
}

void ReviewView::refreshAsks() {
    const Asks after = asksAfter(m_document->state().edited);
    if (const Movement* movement = m_document->catalogue().movement(m_document->facts().movement)) {
        Asks here = after;
        std::erase_if(here, [&](const Ask& a) { return !rungOf(a, m_document->catalogue().asks, *movement); });
        m_card->setAsked(here);
        m_asks->setAsks(m_document->facts().asks, after, *movement, m_document->catalogue(), presenter().lengths());
    }
}

void ReviewView::watchOnly() {
    if (hasSet()) m_document->apply(CueGiven{"", ""}, tr("nothing said"));
}

void ReviewView::refreshAnswer() {
    const auto& given = m_document->state().edited.cue;
    m_card->setGiven(given ? QString::fromStdString(given->wording) : QString(), given && !given->fault.empty());
    present::CueWords words;
    if (m_before) {
        const auto counted = presenter().result().counted();
        const Standard& standard = m_document->state().standard;
        const Lengths lengths = presenter().lengths();
        if (m_before->cue.fault.empty()) {
            auto differences = differencesOf({m_before->baseline.sets, {counted}, {}, false, m_before->seenAlike},
                                             m_before->baseline.history, standard);
            std::erase_if(differences, [](const MeasureDifference& d) { return !d.judged; });
            words = present::trialWords(m_before->changes, differences, m_document->catalogue(),
                                        m_document->facts().movement, lengths, m_before->seenAlike);
        } else {
            const auto wordsFor = m_beingRead ? present::cueWordsSoFar : present::cueWords;
            words = wordsFor(
                answerTo(m_before->cue, m_before->baseline.sets, counted, m_before->baseline.history, standard),
                m_document->catalogue().advice, lengths, m_before->seenAlike);
            // Two things at once: what helped cannot be told apart.
            QStringList also;
            for (const auto& c : m_before->changes)
                also.append(present::changeText(c, m_document->catalogue(), m_document->facts().movement, lengths));
            if (!also.isEmpty()) words.brought += tr(" The set-up was changed as well: %1.").arg(also.join(", "));
        }
    }
    m_answer->setText(words.answer);
    m_answer->setVisible(!words.answer.isEmpty());
    QString how = words.said.isEmpty() ? QString() : tr("After “%1”: %2.").arg(words.said, words.how);
    if (!words.brought.isEmpty()) how += " " + words.brought.trimmed();
    m_how->setText(how);
    m_how->setToolTip(words.rule);
    m_how->setVisible(!words.answer.isEmpty());
}

void ReviewView::giveOwnWords(const QString& words) {
    const QString fault = m_card->saying().fault;
    m_document->apply(CueGiven{fault.toStdString(), words.toStdString()}, tr("the cue given"));
    emit cueGiven(fault);
    setFocus();
}

}  // namespace zevo::app
