// What the client's page says of them: which words and set-ups worked, own targets, what hurts.
#include <QLocale>
#include <algorithm>

#include "app/client/client_view.h"
#include "present/log_words.h"

namespace zevo::app {

using namespace present;

QString ClientView::cuesText() const {
    std::vector<CueScore> scores = m_file.scores;
    std::stable_sort(scores.begin(), scores.end(), [](const CueScore& a, const CueScore& b) {
        return a.worked - a.failed() > b.worked - b.failed();
    });
    QStringList out;
    for (const CueScore& s : scores)
        out.append(tr("<b>“%1”</b> %2 <span>(%3)</span>")
                       .arg(QString::fromStdString(s.wording).toHtmlEscaped(), scoreText(s),
                            QString::fromStdString(m_catalogue->advice.title(s.fault)).toLower().toHtmlEscaped()));
    return out.join("<br>");
}

QString ClientView::trialsText() const {
    QStringList out;
    constexpr std::size_t kMost = 6;
    for (auto t = m_file.ledger.trials.rbegin();
         t != m_file.ledger.trials.rend() && static_cast<std::size_t>(out.size()) < kMost; ++t) {
        QStringList what, told;
        for (const auto& c : t->changes) what.append(changeText(c, *m_catalogue, t->movement, m_lengths));
        for (const auto& d : t->differences)
            if (d.significant && told.size() < 2) told.append(differenceText(d, m_lengths));
        for (const auto& f : t->gone)
            told.append(tr("gone: %1").arg(QString::fromStdString(m_catalogue->advice.title(f)).toLower()));
        for (const auto& f : t->brought)
            told.append(tr("new: %1").arg(QString::fromStdString(m_catalogue->advice.title(f)).toLower()));
        if (told.isEmpty()) told.append(tr("no difference beyond noise"));
        if (!t->seenAlike) told = {tr("not filmed alike, left open")};
        out.append(tr("<b>%1</b> %2 <span>(%3)</span>")
                       .arg(what.join(", ").toHtmlEscaped(), told.join("; ").toHtmlEscaped(),
                            dayText(QDate::fromJulianDay(t->day))));
    }
    return out.join("<br>");
}

QString ClientView::targetsText() const {
    QStringList out;
    for (std::size_t i = 0; i < m_file.client.targets.size(); ++i) {
        const auto& t = m_file.client.targets[i];
        const MeasureId measure = MeasureId::named(t.measure.toStdString());
        const Movement* movement = m_catalogue->movement(t.movement.toStdString());
        if (!measure) continue;
        out.append(tr("%1, %2: <b>%3</b>, from %4. <a href=\"%5\">Forget it</a>")
                       .arg((movement ? QString::fromStdString(movement->title) : t.movement).toHtmlEscaped(),
                            QString::fromUtf8(measure->title), readingText(measure, t.value, m_lengths), dayText(t.on))
                       .arg(i));
    }
    return out.join("<br>");
}

QString ClientView::hurtsText() const {
    QStringList out;
    const QDate today = QDate::currentDate();
    for (const auto& f : m_file.client.flags) {
        const QString title = redFlagTitle(f.flag.toStdString());
        QString text = f.stands(today) ? tr("<b>%1</b> since %2, not cleared").arg(title, dayText(f.since)) : title;
        if (f.clearedOn) text += tr(", cleared on %1 by %2").arg(dayText(*f.clearedOn), f.clearedBy.toHtmlEscaped());
        if (!f.limits.isEmpty()) text += tr(" for: %1").arg(f.limits.toHtmlEscaped());
        if (f.clearedUntil) text += tr(", until %1").arg(dayText(*f.clearedUntil));
        if (f.overOn) text += tr(", no limits since %1 (%2)").arg(dayText(*f.overOn), f.overBy.toHtmlEscaped());
        out.append(text);
    }
    constexpr int kMost = 5;
    int told = 0;
    for (const auto& p : m_file.complaints) {
        if (++told > kMost) break;
        const QString where = p.spots.empty() ? QString() : ", " + painSpotsWords(p.spots).toLower();
        out.append(tr("%1: pain %2 of 10%3%4")
                       .arg(dayText(*p.askedOn))
                       .arg(p.score.value_or(0))
                       .arg(where, p.sharp ? tr(", sharp") : QString()));
    }
    // What was tried for it, newest first, and what is asked of them now.
    told = 0;
    for (auto set = m_file.log.rbegin(); set != m_file.log.rend() && told < kMost; ++set) {
        const auto trial = painTrialOf(fold(set->edits).facts, *m_catalogue, m_lengths);
        if (!trial) continue;
        ++told;
        out.append(tr("%1: %2. %3")
                       .arg(dayText(set->heldOn), trial->text().toHtmlEscaped(),
                            trial->answer == SubstituteAnswer::Keep ? tr("Kept.") : tr("No better.")));
    }
    const auto& places = painPlaces();
    for (const Ask& ask : m_file.log.empty() ? Asks() : asksAfter(fold(m_file.log.back().edits)))
        if (std::find(places.begin(), places.end(), ask.why) != places.end())
            if (const Movement* movement = m_catalogue->movement(ask.movement))
                if (const QString text = askText(ask, m_catalogue->asks, *movement, m_lengths); !text.isEmpty())
                    out.append(tr("%1, asked: <b>%2</b> <span>(%3)</span>")
                                   .arg(QString::fromStdString(movement->title).toHtmlEscaped(), text.toHtmlEscaped(),
                                        askOrigin(ask, m_catalogue->advice).toHtmlEscaped()));
    return out.join("<br>");
}

QString ClientView::dayText(const QDate& day) {
    return QLocale().toString(day, "d MMM yyyy");
}

}  // namespace zevo::app
