// What a review says in sentences besides its card (review_card.cpp): the headline, what happens over the set, what
// limits it.
#include <QCoreApplication>
#include <algorithm>
#include <array>
#include <cmath>

#include "core/advice/reasoning.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/signal/filter.h"
#include "present/review_presenter.h"

namespace zevo::present {
namespace {

QString tr(const char* words) {
    return QCoreApplication::translate("words", words);
}

bool isDepth(MeasureId measure) {
    return measure && measure.name() == "thigh_angle";
}

}  // namespace

/// Why a repetition does not count: "turned back 14° above the line, about 6 cm".
QString ReviewPresenter::partialText(const MeasuredRep& rep) const {
    const MeasureId key = keyMeasure();
    const Measurement* m = rep.find(key);
    const Band* band = standard().bandFor(key);
    if (!m || !band || !(band->max || band->min)) return tr("partial");
    const bool above = band->max && m->value > *band->max, below = band->min && m->value < *band->min;
    if (!above && !below) return tr("partial: not all of the way back");
    const double short_ = above ? m->value - *band->max : *band->min - m->value;
    QString said = tr("turned back %1 before the line").arg(valueText(short_, key->unit, m_lengths));
    const double stature = result().context.context.statureCm;
    if (isDepth(key) && stature > 0) {
        const double cm = proportion::kThigh * stature *
                          (std::sin(m->value * kRadiansPerDegree) - std::sin(*band->max * kRadiansPerDegree));
        const QString about =
            m_lengths == Lengths::Us ? valueText(cm, Unit::Centimetres, m_lengths) : tr("%1 cm").arg(figures(cm, 0));
        said = tr("turned back %1 above the line, about %2").arg(valueText(short_, key->unit, m_lengths), about);
    }
    return said;
}

const MeasuredRep* ReviewPresenter::repOf(const Finding& f) const {
    const auto& reps = f.second && filmedApart() ? result().second->reps : result().reps;
    for (const auto& rep : reps)
        if (const Measurement* m = rep.find(f.measure); m && std::abs(m->atS - f.atS) < 1e-6) return &rep;
    return nullptr;
}

QString ReviewPresenter::repWith(const Finding& f) const {
    const MeasuredRep* rep = repOf(f);
    return rep ? QString("rep %1").arg(rep->index) : repsText(f.reps);
}

QStringList ReviewPresenter::overTheSet() const {
    QStringList out;
    auto number = [&](double v, Unit unit) { return valueText(v, unit, m_lengths); };
    for (const auto& d : result().drifts) {
        if (d.moreThanNoise)
            out.append(QString("%1: %2 in the first third, %3 in the last. It drifts.")
                           .arg(d.measure->title, number(d.trend.first, d.measure->unit),
                                number(d.trend.last, d.measure->unit)));
    }
    if (out.isEmpty())
        out.append(result().drifts.empty() ? "Five reps or more are needed to tell whether something drifts."
                                           : "Nothing drifts over the set by more than noise.");
    for (const auto& l : result().legs) {
        if (!l.comparison.moreThanNoise) continue;
        const Unit unit = l.measure->unit;
        QString line = QString("%1: left %2, right %3.")
                           .arg(QString(l.measure->title).remove("Left ").remove("left "),
                                number(l.comparison.left, unit), number(l.comparison.right, unit));
        if (l.comparison.index > 0)
            line += QString(" Symmetry %1 ±%2 %.")
                        .arg(std::lround(l.comparison.index))
                        .arg(static_cast<int>(std::ceil(l.comparison.indexPm)));
        out.append(line);
    }
    if (const auto& asked = result().context.tempo; asked)
        out.append(QString("Tempo asked %1, done %2 (median; down-pause-up, s).").arg(tempoWords(*asked), tempoDone()));
    if (!result().legs.empty() && std::none_of(result().legs.begin(), result().legs.end(),
                                               [](const auto& l) { return l.comparison.moreThanNoise; }))
        out.append("Left and right differ by no more than noise.");
    return out;
}

QString ReviewPresenter::tempoDone() const {
    QStringList parts;
    for (const char* id : {"lowering_s", "pause_s", "lifting_s"}) {
        std::vector<double> values;
        for (const auto& rep : result().reps)
            if (const Measurement* m = rep.find(id); m && result().counts(rep)) values.push_back(m->value);
        if (values.empty()) return "not read";
        parts.append(figures(median(std::move(values)), 1));
    }
    return parts.join('-');
}

QString ReviewPresenter::findingTitle(int index) const {
    const auto first = leads();
    if (index < 0 || index >= findingCount()) return {};
    if (index < static_cast<int>(first.size())) return leadSaying(first[static_cast<std::size_t>(index)]).title;
    return faultTitle(result().findings[static_cast<std::size_t>(index) - first.size()]);
}

QString ReviewPresenter::headline() const {
    if (result().stop.level == StopAnswer::Level::HelpNow) return "Stopped: medical help";
    if (!result().stop.scored()) return "Stopped for pain; not scored";
    QStringList parts;
    const auto trial = painTrial();
    if (trial && trial->answer == SubstituteAnswer::Keep)
        parts.append(trial->text());
    else if (result().stop.level == StopAnswer::Level::Lighten)
        parts.append("Hurts a little: lighten");
    if (!result().findings.empty()) {
        const Finding& f = result().findings.front();
        parts.append((f.severity == Severity::Unsure ? "Unsure: " : "") + faultTitle(f) + " (" + repsText(f.reps) +
                     ")");
    }
    parts.append(notJudged());
    return parts.isEmpty() ? "Clean" : parts.join(" · ");
}

double ReviewPresenter::tensionS() const {
    double sum = 0;
    for (const auto& rep : result().reps)
        if (const Measurement* m = rep.find("tension_s"); m && !isLeftOut(rep)) sum += m->value;
    return sum;
}

QStringList ReviewPresenter::notes() const {
    QStringList out;
    const auto level = result().stop.level;
    if (level == StopAnswer::Level::Lighten || level == StopAnswer::Level::Care)
        out.append(stopWords(result().stop).text);
    for (const auto& rep : result().reps)
        if (rep.kind == RepKind::Partial && !isLeftOut(rep))
            out.append(tr("Rep %1 does not count: %2.").arg(rep.index).arg(partialText(rep)));
    for (const Notice& n : result().notices) {
        QString line = sentence(n);
        if (n.kind == NoticeKind::SecondLeftOut && m_state.secondError) line += " " + sentence(*m_state.secondError);
        out.append(line);
    }
    if (const auto& second = result().second; second && second->sameTake)
        out.append(QString("Second clip %1, lined up by the movement (agreement %2).")
                       .arg(lagText(second->lagS()), figures(second->alignment.agreement, 2)));
    return out;
}

}  // namespace zevo::present
