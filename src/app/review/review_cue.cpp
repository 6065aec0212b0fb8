// What was said after a set, and whether it helped.
#include <QLabel>
#include <QPushButton>

#include "app/review/review_view.h"
#include "present/film_words.h"

namespace zevo::app {

void ReviewView::refine(std::shared_ptr<const Observation> seen) {
    m_refined = m_refining = true;
    m_document->refine(std::move(seen));
}

void ReviewView::giveCue() {
    const auto& s = m_card->saying();
    if (!hasSet() || !m_card->givenButton()->isVisibleTo(m_card)) return refreshRep();
    const std::string words = m_card->sentence().toStdString();
    const auto& given = m_document->state().edited.cue;
    if (given && given->wording == words) return m_document->apply(CueTakenBack{}, tr("the cue taken back"));
    m_document->apply(CueGiven{s.fault.toStdString(), words}, tr("the cue given"));
    emit cueGiven(s.fault);
}

void ReviewView::watchOnly() {
    if (hasSet()) m_document->apply(CueGiven{"", ""}, tr("nothing said"));
}

void ReviewView::refreshAnswer() {
    const auto& given = m_document->state().edited.cue;
    m_card->setGiven(given ? QString::fromStdString(given->wording) : QString(), given && !given->fault.empty());
    present::CueWords words;
    if (m_before) {
        std::vector<MeasuredRep> counted;
        for (const MeasuredRep& rep : presenter().result().reps)
            if (presenter().result().counts(rep)) counted.push_back(rep);
        words = present::cueWords(answerTo(m_before->cue, m_before->reps, counted, m_document->state().standard),
                                  m_document->catalogue().advice, presenter().lengths());
    }
    m_answer->setText(words.answer);
    m_answer->setVisible(!words.answer.isEmpty());
    m_how->setText(words.said.isEmpty() ? QString() : tr("After “%1”: %2").arg(words.said, words.how));
    m_how->setVisible(!words.answer.isEmpty());
}

}  // namespace zevo::app
