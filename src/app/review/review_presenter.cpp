#include "app/review/review_presenter.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/measures/curve_of.h"

namespace zevo::app {
namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}
QPointF point(const Vec2& p) {
    return {p.x(), p.y()};
}

QString verdictWord(const Judgement& j, bool judged) {
    if (!judged) return "not judged";
    if (j.verdict == Verdict::Inside) return "inside the band";
    if (j.verdict == Verdict::Unsure) return "unsure";
    return j.above ? "above the band" : "below the band";
}

int order(const ReviewPresenter::Reading& r) {
    if (!r.judged) return 3;
    return r.judgement.verdict == Verdict::Outside ? 0 : (r.judgement.verdict == Verdict::Unsure ? 1 : 2);
}

}  // namespace

ReviewPresenter::ReviewPresenter(MeasuredSet set, std::vector<Outline> outlines, std::vector<Standard> standards,
                                 AdviceBook advice)
    : m_set(std::move(set)),
      m_outlines(std::move(outlines)),
      m_standards(std::move(standards)),
      m_advice(std::move(advice)) {
    const std::string wanted = m_set.result.standard;
    chooseStandard(m_standards.front().id);
    chooseStandard(wanted);
    if (findingCount() > 0) selectFinding(0);
}

void ReviewPresenter::chooseStandard(const std::string& id) {
    for (std::size_t i = 0; i < m_standards.size(); ++i)
        if (m_standards[i].id == id) {
            m_standard = i;
            judgeSet(m_set.result, m_standards[i]);
            m_finding = std::clamp(m_finding, 0, std::max(0, findingCount() - 1));
        }
}

void ReviewPresenter::setLeftOut(int rep, bool out) {
    auto& list = m_set.result.leftOut;
    std::erase(list, rep);
    if (out) list.push_back(rep);
    std::sort(list.begin(), list.end());
    chooseStandard(standard().id);
}

bool ReviewPresenter::isLeftOut(int rep) const {
    const auto& list = m_set.result.leftOut;
    return std::find(list.begin(), list.end(), rep) != list.end();
}

int ReviewPresenter::countedReps() const {
    return static_cast<int>(result().reps.size() - result().leftOut.size());
}

void ReviewPresenter::selectRep(int position) {
    m_rep = std::clamp(position, 0, static_cast<int>(result().reps.size()) - 1);
}

void ReviewPresenter::selectMeasure(const QString& id) {
    if (findMeasure(id.toStdString())) m_measure = id;
}

void ReviewPresenter::selectFinding(int index) {
    if (index < 0 || index >= findingCount()) return;
    m_finding = index;
    const Finding& f = result().findings[static_cast<std::size_t>(index)];
    selectMeasure(text(f.measure));
    // The repetition that shows it best is the one the finding's moment lies in.
    const auto& reps = result().reps;
    for (std::size_t i = 0; i < reps.size(); ++i)
        if (std::find(f.reps.begin(), f.reps.end(), reps[i].index) != f.reps.end()) {
            m_rep = static_cast<int>(i);
            const Measurement* m = reps[i].find(f.measure);
            if (m && std::abs(m->atS - f.atS) < 1e-6) break;
        }
}

QString ReviewPresenter::adviceTitle(const std::string& fault) const {
    const auto found = m_advice.find(fault);
    return found == m_advice.end() ? text(fault) : text(found->second.title);
}

QString ReviewPresenter::depthText(const Measurement& thigh) const {
    const long degrees = std::lround(thigh.value);
    if (degrees == 0) return "level";
    return QString("%1° %2 level").arg(std::abs(degrees)).arg(degrees < 0 ? "below" : "above");
}

std::vector<ReviewPresenter::Tile> ReviewPresenter::tiles() const {
    std::vector<Tile> out;
    const Track& track = m_set.track;
    for (const auto& rep : result().reps) {
        Tile t;
        t.number = rep.index;
        t.kind = rep.kind;
        t.leftOut = isLeftOut(rep.index);
        const std::size_t at = track.sampleAt(rep.bottomS);
        const Vec2 hip = track.at(track.nearOf(Landmark::LeftHip), at),
                   knee = track.at(track.nearOf(Landmark::LeftKnee), at);
        t.hip = point(track.toPicture(hip));
        t.knee = point(track.toPicture(knee));
        for (const auto& o : m_outlines)
            if (std::abs(o.timeS - rep.bottomS) < 0.5 / track.rate)
                for (const auto& [x, y] : o.points) t.outline << QPointF(x, y);
        QStringList words{QString("Rep %1").arg(rep.index)};
        if (rep.kind != RepKind::Full) words.append(rep.kind == RepKind::Partial ? "partial" : "one and a half");
        if (t.leftOut) words.append("left out");
        const Band* band = standard().bandFor("thigh_angle");
        if (const Measurement* m = rep.find("thigh_angle")) {
            t.depth = depthText(*m);
            words.append("thigh " + t.depth);
            if (band && band->max) {
                const double rad = *band->max * std::numbers::pi / 180, length = (hip - knee).norm();
                t.line = point(track.toPicture(knee + length * Vec2(-std::cos(rad), std::sin(rad))));
                t.hasLine = true;
                t.depthVerdict = judge(*m, *band, standard().minConfidence).verdict;
            }
        }
        if (rep.kind != RepKind::Partial && !t.leftOut)
            for (const auto& b : standard().bands)
                if (const Measurement* m = rep.find(b.measure)) {
                    const Judgement j = judge(*m, b, standard().minConfidence);
                    const std::string& fault = j.above ? b.faultAbove : b.faultBelow;
                    if (j.verdict == Verdict::Outside && !fault.empty())
                        t.marks.push_back({adviceTitle(fault), j.verdict, j.above});
                }
        for (const auto& m : t.marks) words.append(m.title.toLower());
        t.spoken = words.join(", ");
        out.push_back(std::move(t));
    }
    return out;
}

ReviewPresenter::Reading ReviewPresenter::readingOf(const MeasuredRep& rep, const Measurement& m) const {
    Reading r;
    const MeasureDef* def = findMeasure(m.id);
    r.id = text(m.id);
    r.title = def->title;
    r.term = def->term;
    r.unit = m.unit;
    r.value = m.value;
    r.pm90 = m.pm90;
    r.confidence = m.confidence;
    r.atS = m.atS;
    r.text = valueWithPm(m.value, m.pm90, m.unit, m_lengths);
    double low = m.value - m.pm90, high = m.value + m.pm90;
    for (const auto& other : result().reps) {
        const Measurement* o = other.index == rep.index ? nullptr : other.find(m.id);
        if (!o || other.kind == RepKind::Partial) continue;
        r.usualFrom = r.hasUsual ? std::min(r.usualFrom, o->value) : o->value;
        r.usualTo = r.hasUsual ? std::max(r.usualTo, o->value) : o->value;
        r.hasUsual = true;
    }
    const Band* band = standard().bandFor(m.id);
    if (band) {
        r.hasMin = band->min.has_value();
        r.hasMax = band->max.has_value();
        r.min = band->min.value_or(0);
        r.max = band->max.value_or(0);
        r.judged = !band->faultAbove.empty() || !band->faultBelow.empty();
        if (r.judged) r.judgement = judge(m, *band, standard().minConfidence);
        low = std::min(low, band->scaleFrom);
        high = std::max(high, band->scaleTo);
    }
    r.scaleFrom = low;
    r.scaleTo = std::max(high, low + 1e-6);
    auto edge = [&](double v) { return valueText(v, m.unit, m_lengths); };
    if (r.hasMin && r.hasMax)
        r.bandText = edge(r.min) + " to " + edge(r.max);
    else if (r.hasMax)
        r.bandText = "at most " + edge(r.max);
    else if (r.hasMin)
        r.bandText = "at least " + edge(r.min);
    r.spoken = r.title + " " + r.text + ", " + verdictWord(r.judgement, r.judged) +
               (r.bandText.isEmpty() ? "" : ", band " + r.bandText);
    return r;
}

std::vector<ReviewPresenter::Reading> ReviewPresenter::readings() const {
    std::vector<Reading> out;
    for (const auto& m : current().measures) out.push_back(readingOf(current(), m));
    auto ahead = [&](const Reading& a, const Reading& b) {
        if (order(a) != order(b)) return order(a) < order(b);
        if (order(a) > 1) return false;  // keep the registry's order among those that are fine
        return a.judgement.beyond / std::max(1e-6, a.pm90) > b.judgement.beyond / std::max(1e-6, b.pm90);
    };
    std::stable_sort(out.begin(), out.end(), ahead);
    return out;
}

ReviewPresenter::Saying ReviewPresenter::saying() const {
    Saying s;
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
    s.title = adviceTitle(f.fault);
    s.where = repsText(f.reps) + QString(" of %1 · ").arg(countedReps()) +
              (f.severity == Severity::Clear   ? "clear"
               : f.severity == Severity::Watch ? "seen once, watch it"
                                               : "unsure");
    for (const auto& rep : result().reps)
        if (const Measurement* m = rep.find(f.measure); m && std::abs(m->atS - f.atS) < 1e-6) {
            const Reading r = readingOf(rep, *m);
            s.why = QString("%1 %2 in rep %3; the standard: %4.").arg(r.title, r.text).arg(rep.index).arg(r.bandText);
            break;
        }
    const auto found = m_advice.find(f.fault);
    if (found == m_advice.end()) return s;
    const Advice& a = found->second;
    s.term = text(a.term);
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

QString ReviewPresenter::findingTitle(int index) const {
    return index >= 0 && index < findingCount() ? adviceTitle(result().findings[static_cast<std::size_t>(index)].fault)
                                                : QString();
}

QString ReviewPresenter::headline() const {
    if (result().findings.empty()) return "Clean";
    const Finding& f = result().findings.front();
    return (f.severity == Severity::Unsure ? "Unsure: " : "") + adviceTitle(f.fault) + " (" + repsText(f.reps) + ")";
}

double ReviewPresenter::tensionS() const {
    double sum = 0;
    for (const auto& rep : result().reps)
        if (const Measurement* m = rep.find("tension_s"); m && !isLeftOut(rep.index)) sum += m->value;
    return sum;
}

QStringList ReviewPresenter::notes() const {
    QStringList out;
    for (const auto& w : result().warnings) out.append(text(w));
    return out;
}

ReviewPresenter::Curve ReviewPresenter::curve() const {
    Curve c;
    const MeasuredRep& rep = current();
    const CurveOf source = curveOf(m_measure.toStdString(), result().series);
    c.title = findMeasure(source.measure)->title;
    c.unit = findMeasure(source.measure)->unit;
    c.startS = rep.startS, c.arriveS = rep.arriveS, c.leaveS = rep.leaveS, c.endS = rep.endS;
    const Track& track = m_set.track;
    auto cut = [&](const MeasuredRep& r, double shift) {
        std::vector<QPointF> points;
        const std::size_t from = track.sampleAt(r.startS - 0.3), to = track.sampleAt(r.endS + 0.3);
        for (std::size_t i = from; i <= to; ++i)
            if (std::isfinite(source.values[i])) points.emplace_back(track.timesS[i] + shift, source.values[i]);
        return points;
    };
    c.points = cut(rep, 0);
    for (const auto& other : result().reps)
        if (other.index != rep.index && other.kind != RepKind::Partial && !isLeftOut(other.index))
            c.others.push_back(cut(other, rep.bottomS - other.bottomS));
    if (const Band* band = standard().bandFor(source.measure)) {
        c.hasMin = band->min.has_value(), c.hasMax = band->max.has_value();
        c.min = band->min.value_or(0), c.max = band->max.value_or(0);
    }
    return c;
}

}  // namespace zevo::app
