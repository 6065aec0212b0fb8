// What a review says in sentences: the card, the headline, what happens over the set, what limits it.
#include <algorithm>
#include <cmath>

#include "core/advice/reasoning.h"
#include "present/review_presenter.h"

namespace zevo::present {
namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

}  // namespace

/// Measures whose value lies inside in every repetition but whose ± does not, in the coach's words.
QStringList ReviewPresenter::unsureInside() const {
    QStringList out;
    for (const auto& band : standard().bands) {
        if (band.faultAbove.empty() && band.faultBelow.empty()) continue;
        const auto& reps = result().reps;
        const bool open = std::any_of(reps.begin(), reps.end(), [&](const MeasuredRep& rep) {
            const Measurement* m = result().counts(rep) ? rep.find(band.measure) : nullptr;
            return m && judge(*m, band, standard().minConfidence).verdict == Verdict::Unsure;
        });
        if (open) out.append(QString(band.measure->title).toLower());
    }
    return out;
}

ReviewPresenter::Saying ReviewPresenter::stopSaying() const {
    Saying s;
    const StopAnswer& stop = result().stop;
    s.stop = true;
    s.title = stopWords(stop).title;
    s.where = "before any advice";
    s.say = {"Stop here for today."};
    s.sayKinds = {"care"};
    s.why = stopWords(stop).text;
    s.change = {"No further set of this movement today."};
    s.prepare = {stop.refer ? "A licensed clinician decides when to go on."
                            : "Ask again next time, before the warm-up."};
    s.progress = "Start again lighter, when it is free of pain.";
    s.atS = current().bottomS;
    return s;
}

ReviewPresenter::Saying ReviewPresenter::saying() const {
    Saying s;
    if (result().stop.level == StopAnswer::Level::Stop) return stopSaying();
    if (result().findings.empty()) {
        s.clean = true;
        s.title = "Nothing to correct";
        s.where = QString("%1 by the standard “%2”")
                      .arg(repsText([&] {
                               std::vector<int> counted;
                               for (const auto& r : result().reps)
                                   if (result().counts(r)) counted.push_back(r.index);
                               return counted;
                           }()),
                           text(standard().title));
        s.say = {"Same again. Keep that tempo."};
        s.sayKinds = {"praise"};
        if (const QStringList open = unsureInside(); !open.isEmpty())
            s.why = QString("Not sure: %1. Look yourself there.").arg(open.join(", "));
        s.change = {"Nothing. Watch whether it stays clean in the last reps."};
        s.prepare = {"The usual warm-up is enough."};
        s.progress = "Two clean weeks at this weight, then the next step of the load ladder.";
        s.atS = current().bottomS;
        return s;
    }
    const Finding& f = result().findings[static_cast<std::size_t>(m_finding)];
    s.severity = f.severity;
    s.atS = f.atS;
    s.second = f.second;
    s.title = faultTitle(f);
    const bool apart = f.second && filmedApart();
    const auto& theirs = apart ? result().second->reps : result().reps;
    const auto all = std::count_if(theirs.begin(), theirs.end(), [&](const MeasuredRep& rep) {
        return apart ? rep.kind != RepKind::Partial : result().counts(rep);
    });
    s.where = repsText(f.reps) + QString(" of %1 · ").arg(all) +
              (f.severity == Severity::Clear   ? "clear"
               : f.severity == Severity::Watch ? "seen once, watch it"
                                               : "unsure");
    if (const Band* band = standard().bandFor(f.measure))
        s.why = QString("%1 %2 in %3; the standard: %4.")
                    .arg(f.measure->title, valueWithPm(f.value, f.pm90, f.measure->unit, m_lengths), repWith(f),
                         bandText(*band, f.measure->unit));
    const Counsel counsel = counselFor(f, result(), advice());
    const Advice& a = counsel.advice;
    s.term = text(a.term);
    s.trace = traceText(counsel);
    for (const auto& c : a.say) {
        s.say.append(text(c.text));
        s.sayKinds.append(text(c.kind));
    }
    for (const auto& c : a.change) s.change.append(text(c));
    for (const auto& d : a.prepare)
        s.prepare.append(QString("%1: %2, %3").arg(text(d.stage), text(d.text), text(d.dose)));
    s.progress = text(a.progress);
    if (f.severity == Severity::Unsure) s.unsure = text(a.unsure);
    return s;
}

QString ReviewPresenter::repWith(const Finding& f) const {
    const auto& reps = f.second && filmedApart() ? result().second->reps : result().reps;
    for (const auto& rep : reps)
        if (const Measurement* m = rep.find(f.measure); m && std::abs(m->atS - f.atS) < 1e-6)
            return QString("rep %1").arg(rep.index);
    return repsText(f.reps);
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
        std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2), values.end());
        parts.append(figures(values[values.size() / 2], 1));
    }
    return parts.join('-');
}

QString ReviewPresenter::findingTitle(int index) const {
    return index >= 0 && index < findingCount() ? faultTitle(result().findings[static_cast<std::size_t>(index)])
                                                : QString();
}

QString ReviewPresenter::headline() const {
    if (result().stop.level == StopAnswer::Level::Stop) return "Stopped for pain; not scored";
    if (result().findings.empty()) return "Clean";
    const Finding& f = result().findings.front();
    return (f.severity == Severity::Unsure ? "Unsure: " : "") + faultTitle(f) + " (" + repsText(f.reps) + ")";
}

double ReviewPresenter::tensionS() const {
    double sum = 0;
    for (const auto& rep : result().reps)
        if (const Measurement* m = rep.find("tension_s"); m && !isLeftOut(rep)) sum += m->value;
    return sum;
}

QStringList ReviewPresenter::notes() const {
    QStringList out;
    if (result().stop.level == StopAnswer::Level::Lighten) out.append(stopWords(result().stop).text);
    for (const Notice& n : result().notices) {
        QString line = sentence(n);
        if (n.kind == NoticeKind::SecondLeftOut && m_state.secondError) line += " " + sentence(*m_state.secondError);
        out.append(line);
    }
    if (const auto& second = result().second; second && second->together)
        out.append(QString("Second clip %1, lined up by the movement (agreement %2).")
                       .arg(lagText(second->lagS()), figures(second->alignment.agreement, 2)));
    return out;
}

}  // namespace zevo::present
