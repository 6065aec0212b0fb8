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
    for (bool second : {false, true})
        if (!m_front && isFrontal(track(second).view)) m_front = computeFrontSeries(track(second));
    const std::string wanted = m_set.result.standard;
    chooseStandard(m_standards.front().id);
    chooseStandard(wanted);
    m_measure = keyMeasure();
    if (findingCount() > 0) selectFinding(0);
}

void ReviewPresenter::chooseStandard(const std::string& id) {
    for (const auto& s : m_standards)
        if (s.id == id) {
            m_standard = standardOf(result().context, s);
            judgeSet(m_set.result, s);
            m_finding = std::clamp(m_finding, 0, std::max(0, findingCount() - 1));
        }
}

QString ReviewPresenter::movementTitle() const {
    const SetContext& c = result().context;
    const Variation* v = c.movement.variation(c.variation);
    return text(c.movement.title) + (v ? ", " + text(v->title).toLower() : QString());
}

double ReviewPresenter::inSecond(double timeS) const {
    const auto& second = result().second;
    return second && second->together ? timeS + second->lagS() : timeS;
}

QString ReviewPresenter::keyMeasure() const {
    const auto& reps = result().reps;
    for (const auto& id : result().context.movement.measures)
        if (std::all_of(reps.begin(), reps.end(), [&](const auto& rep) { return rep.find(id) != nullptr; }))
            return text(id);
    return reps.front().measures.empty() ? QString() : text(reps.front().measures.front().id);
}

bool ReviewPresenter::measureIsSecond() const {
    const Measurement* m = current().find(m_measure.toStdString());
    return m && m->second;
}

Side ReviewPresenter::leg() const {
    return current().leg.value_or(m_set.track.near);
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

QString ReviewPresenter::faultTitle(const Finding& f) const {
    return adviceTitle(f.fault) + (f.side ? QString(", %1").arg(text(sideName(*f.side))) : QString());
}

QString ReviewPresenter::keyText(const MeasuredRep& rep, const Measurement& m) const {
    const long degrees = std::lround(m.value);
    QString words = valueText(m.value, m.unit, m_lengths);
    if (m.id == "thigh_angle")
        words = degrees == 0 ? "level"
                             : QString("%1° %2 level").arg(std::abs(degrees)).arg(degrees < 0 ? "below" : "above");
    else if (m.id == "trunk_lean")
        words += " of lean";
    else if (m.id == "bridge_line")
        words += " in line";
    else if (m.id == "knee_flexion")
        words += " knee";
    else if (m.id == "knee_ratio")
        words = "knees " + words + " of feet";
    else if (m.id == "lowering_s")
        words += " down";
    return rep.leg ? text(sideName(*rep.leg)) + " · " + words : words;
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
        const Side leg = rep.leg.value_or(track.near);
        const Vec2 hip = track.at(ofSide(Landmark::LeftHip, leg), at),
                   knee = track.at(ofSide(Landmark::LeftKnee, leg), at);
        t.hip = point(track.toPicture(hip));
        t.knee = point(track.toPicture(knee));
        for (const auto& o : m_outlines)
            if (std::abs(o.timeS - rep.bottomS) < 0.5 / track.rate)
                for (const auto& [x, y] : o.points) t.outline << QPointF(x, y);
        QStringList words{QString("Rep %1").arg(rep.index)};
        if (rep.kind != RepKind::Full) words.append(rep.kind == RepKind::Partial ? "partial" : "one and a half");
        if (t.leftOut) words.append("left out");
        const std::string key = keyMeasure().toStdString();
        const Band* band = standard().bandFor(key);
        if (const Measurement* m = rep.find(key)) {
            t.depth = keyText(rep, *m);
            words.append((key == "thigh_angle" ? "thigh " : "") + t.depth);
            if (band && (band->min || band->max)) t.depthVerdict = judge(*m, *band, standard().minConfidence).verdict;
            if (key == "thigh_angle" && band && band->max) {
                const double rad = *band->max * std::numbers::pi / 180, length = (hip - knee).norm();
                t.line = point(track.toPicture(knee + length * Vec2(-std::cos(rad), std::sin(rad))));
                t.hasLine = true;
            }
        }
        const bool scored = result().stop.level != StopAnswer::Level::Stop;
        if (rep.kind != RepKind::Partial && !t.leftOut && scored)
            for (const auto& b : standard().bands)
                if (const Measurement* m = rep.find(b.measure)) {
                    const Judgement j = judge(*m, b, standard().minConfidence);
                    const std::string& fault = j.above ? b.faultAbove : b.faultBelow;
                    const bool known = std::any_of(t.marks.begin(), t.marks.end(),
                                                   [&](const Mark& k) { return k.title == adviceTitle(fault); });
                    if (j.verdict == Verdict::Outside && !fault.empty() && !known)
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
    r.second = m.second;
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
    if (band) r.bandText = bandText(*band, m.unit);
    r.spoken = r.title + " " + r.text + ", " + verdictWord(r.judgement, r.judged) +
               (r.bandText.isEmpty() ? "" : ", band " + r.bandText);
    return r;
}

QString ReviewPresenter::bandText(const Band& band, Unit unit) const {
    auto edge = [&](double v) { return valueText(v, unit, m_lengths); };
    if (band.min && band.max) return edge(*band.min) + " to " + edge(*band.max);
    if (band.max) return "at most " + edge(*band.max);
    return band.min ? "at least " + edge(*band.min) : QString();
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

ReviewPresenter::Curve ReviewPresenter::curve() const {
    Curve c;
    const MeasuredRep& rep = current();
    const bool second = measureIsSecond();
    const Track& shown = track(second);
    const std::string measure = m_measure.toStdString();
    const CurveOf source =
        m_front && isFrontal(shown.view) ? curveOf(measure, *m_front) : curveOf(measure, result().series, leg());
    const MeasureDef* def = findMeasure(source.measure);
    c.title = def->title;
    c.unit = def->unit;
    const auto& phases = result().context.movement.phases;
    for (std::size_t i = 1; i < phases.size(); ++i) c.phases.append(text(phases[i]));
    auto clock = [&](double t) { return second ? inSecond(t) : t; };
    c.startS = clock(rep.startS), c.arriveS = clock(rep.arriveS), c.leaveS = clock(rep.leaveS),
    c.endS = clock(rep.endS);
    auto cut = [&](const MeasuredRep& r, double shift) {
        std::vector<QPointF> points;
        const std::size_t from = shown.sampleAt(clock(r.startS) - 0.3), to = shown.sampleAt(clock(r.endS) + 0.3);
        for (std::size_t i = from; i <= to; ++i)
            if (std::isfinite(source.values[i])) points.emplace_back(shown.timesS[i] + shift, source.values[i]);
        return points;
    };
    c.points = cut(rep, 0);
    for (const auto& other : result().reps)
        if (other.index != rep.index && other.kind != RepKind::Partial && !isLeftOut(other.index) &&
            other.leg == rep.leg)
            c.others.push_back(cut(other, rep.bottomS - other.bottomS));
    if (const Band* band = standard().bandFor(source.measure)) {
        c.hasMin = band->min.has_value(), c.hasMax = band->max.has_value();
        c.min = band->min.value_or(0), c.max = band->max.value_or(0);
    }
    return c;
}

}  // namespace zevo::app
