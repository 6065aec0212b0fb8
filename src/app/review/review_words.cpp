// What a review says in sentences: the card, the headline, what happens over the set, what limits it.
#include <algorithm>
#include <cmath>

#include "app/review/review_presenter.h"
#include "core/advice/reasoning.h"

namespace zevo::app {
namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

}  // namespace

ReviewPresenter::Saying ReviewPresenter::stopSaying() const {
    Saying s;
    const StopAnswer& stop = result().stop;
    s.stop = true;
    s.title = text(stop.title);
    s.where = "before any advice";
    s.say = {"Stop here for today."};
    s.sayKinds = {"care"};
    s.why = text(stop.text);
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
                                   if (!isLeftOut(r.index)) counted.push_back(r.index);
                               return counted;
                           }()),
                           text(standard().title));
        s.say = {"Same again. Keep that tempo."};
        s.sayKinds = {"praise"};
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
    s.where = repsText(f.reps) + QString(" of %1 · ").arg(countedReps()) +
              (f.severity == Severity::Clear   ? "clear"
               : f.severity == Severity::Watch ? "seen once, watch it"
                                               : "unsure");
    const MeasureDef* def = findMeasure(f.measure);
    if (const Band* band = standard().bandFor(f.measure); def && band)
        s.why = QString("%1 %2 in %3; the standard: %4.")
                    .arg(def->title, valueWithPm(f.value, f.pm90, def->unit, m_lengths), repWith(f),
                         bandText(*band, def->unit));
    const Counsel counsel = counselFor(f, result(), m_advice);
    const Advice& a = counsel.advice;
    s.term = text(a.term);
    s.trace = text(counsel.trace);
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
    const auto& reps = f.second && !result().second->together ? result().second->reps : result().reps;
    for (const auto& rep : reps)
        if (const Measurement* m = rep.find(f.measure); m && std::abs(m->atS - f.atS) < 1e-6)
            return QString("rep %1").arg(rep.index);
    return repsText(f.reps);
}

QStringList ReviewPresenter::overTheSet() const {
    QStringList out;
    auto number = [&](double v, Unit unit) { return valueText(v, unit, m_lengths); };
    for (const auto& d : result().drifts) {
        const MeasureDef* def = findMeasure(d.measure);
        if (d.moreThanNoise)
            out.append(QString("%1: %2 in the first third, %3 in the last. It drifts.")
                           .arg(def->title, number(d.trend.first, def->unit), number(d.trend.last, def->unit)));
    }
    if (out.isEmpty())
        out.append(result().drifts.empty() ? "Five reps or more are needed to tell whether something drifts."
                                           : "Nothing drifts over the set by more than noise.");
    for (const auto& l : result().legs) {
        const MeasureDef* def = findMeasure(l.measure);
        if (!def) def = findMeasure(l.measure + "_left");
        if (!def || !l.comparison.moreThanNoise) continue;
        QString line = QString("%1: left %2, right %3.")
                           .arg(QString(def->title).remove("Left ").remove("left "), number(l.comparison.left, l.unit),
                                number(l.comparison.right, l.unit));
        if (l.comparison.index > 0)
            line += QString(" Symmetry %1 ±%2 %.")
                        .arg(std::lround(l.comparison.index))
                        .arg(static_cast<int>(std::ceil(l.comparison.indexPm)));
        out.append(line);
    }
    if (const auto& asked = result().context.tempo; asked)
        out.append(
            QString("Tempo asked %1, done %2 (median; down-pause-up, s).").arg(text(tempoText(*asked)), tempoDone()));
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
            if (const Measurement* m = rep.find(id); m && !isLeftOut(rep.index)) values.push_back(m->value);
        if (values.empty()) return "not read";
        std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2), values.end());
        parts.append(QString::number(values[values.size() / 2], 'f', 1));
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
        if (const Measurement* m = rep.find("tension_s"); m && !isLeftOut(rep.index)) sum += m->value;
    return sum;
}

QStringList ReviewPresenter::notes() const {
    QStringList out;
    if (result().stop.level == StopAnswer::Level::Lighten) out.append(text(result().stop.text));
    for (const auto& w : result().warnings) out.append(text(w));
    if (const auto& second = result().second; second && second->together)
        out.append(QString("Second clip %1, lined up by the movement (agreement %2).")
                       .arg(lagText(second->lagS()))
                       .arg(second->alignment.agreement, 0, 'f', 2));
    return out;
}

}  // namespace zevo::app
