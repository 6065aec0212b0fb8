// What hurts, on the film page: asked once a day before the first set, and what may begin because of it.
#include "app/film/film_view.h"
#include "core/advice/reasoning.h"
#include "present/words.h"

namespace zevo::app {

using Phase = Filming::Phase;

void FilmView::askWhatHurts() {
    const QDate today = QDate::currentDate();
    const bool wentOn = m_stop.scored();
    m_stop = stopAnswer(store::painOf(m_client, today));
    m_painTap->ask(m_client, today);
    if (!m_client.consent) m_painTap->hide();
    m_filming->setBegins(!m_painTap->isHidden()          ? Filming::Begins::Not
                         : m_stop.scored() && !m_covered ? Filming::Begins::ByItself
                                                         : Filming::Begins::ByKey);
    // Named in the middle of a set: it ends here. What was known before, and filmed all the same, goes on.
    const bool moving = m_filming->phase() == Phase::Filming || m_filming->phase() == Phase::CountingIn;
    if (moving && wentOn && !m_stop.scored()) m_filming->press();
    refresh();
}

void FilmView::setCovered(bool covered) {
    m_covered = covered;
    if (m_entered) askWhatHurts();
}

void FilmView::takePain(int score) {
    store::Client client = m_client;
    client.complaint.score = score;
    client.complaint.askedOn = QDate::currentDate();
    client.complaint.sharp = false;
    // What hurt last time is not said to hurt again.
    if (score == 0) client.complaint.spots.clear();
    emit clientChanged(client);
    setFocus();
    // Where it hurts matters from the pain on that asks for something else.
    const auto reason = stopAnswer(store::painOf(client, QDate::currentDate())).reason;
    if (reason == StopAnswer::Reason::SomePain || reason == StopAnswer::Reason::MuchPain) emit placesWanted();
}

QString FilmView::careText() const {
    const QString rule = present::stopWords(m_stop).text;
    const Movement* movement = m_catalogue->movement(m_facts.movement);
    if (m_stop.level != StopAnswer::Level::Lighten || !movement) return rule;
    SetFacts facts = m_facts;
    facts.pain = store::painOf(m_client, QDate::currentDate());
    SetResult planned;
    planned.context = contextOf(facts, *movement);
    planned.choices = m_bands.choices;
    planned.stop = m_stop;
    const auto change = adviceWithoutFinding(kPainCard, planned, m_catalogue->advice).change;
    if (change.empty()) return rule;
    QString text = tr("Lighten: %1").arg(QString::fromStdString(change.front().text));
    if (!m_stop.spots.empty()) text = tr("%1. %2").arg(present::painSpotsWords(m_stop.spots), text);
    for (const auto& limit : m_stop.limits) text += tr(" Cleared for: %1.").arg(QString::fromStdString(limit));
    return text;
}

}  // namespace zevo::app
