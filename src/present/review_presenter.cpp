#include "present/review_presenter.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/degrees.h"
#include "present/overlay.h"

namespace zevo::present {
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

/// Outlines were drawn at the turning points found first; a correction may move those a little.
constexpr double kOutlineReachS = 0.15;

/// The measure that is drawn on the tiles as a line from the knee.
bool isDepth(MeasureId m) {
    return m && !m->sketch.empty() && m->sketch.front().draw == Draw::FromEdge;
}

QString tr(const char* words) {
    return QCoreApplication::translate("review", words);
}

QString whyUnsure(const Judgement& j) {
    switch (j.because) {
        case Because::PastEdge: return tr("its ± reaches back over the edge");
        case Because::NearEdge: return tr("its ± reaches over the edge");
        case Because::PoorlySeen: return tr("not seen well enough");
        case Because::Contradicted: return tr("another reading says otherwise");
        default: return {};
    }
}

}  // namespace

ReviewPresenter::ReviewPresenter(SetState state, std::shared_ptr<const Catalogue> catalogue)
    : m_state(std::move(state)), m_catalogue(std::move(catalogue)) {
    m_standards = m_catalogue->standardsFor(result().context.movement);
    m_measure = keyMeasure();
    if (findingCount() > 0) selectFinding(0);
}

void ReviewPresenter::setState(SetState state) {
    const bool sameMovement = state.set.result.context.movement.id == result().context.movement.id;
    m_state = std::move(state);
    m_standards = m_catalogue->standardsFor(result().context.movement);
    m_rep = std::clamp(m_rep, 0, static_cast<int>(result().reps.size()) - 1);
    m_finding = std::clamp(m_finding, 0, std::max(0, findingCount() - 1));
    if (!sameMovement || !current().find(m_measure)) m_measure = keyMeasure();
}

std::vector<ReviewPresenter::RepSpan> ReviewPresenter::spans(bool second) const {
    std::vector<RepSpan> out;
    const bool apart = second && filmedApart();
    const double shift = second && !apart ? inSecond(0) : 0;
    for (const auto& r : apart ? result().second->reps : result().reps)
        out.push_back({r.index, r.startS + shift, r.bottomS + shift, r.endS + shift});
    return out;
}

int ReviewPresenter::spanOfRep(bool second) const {
    return second && filmedApart() ? -1 : m_rep;
}

QString ReviewPresenter::movementTitle() const {
    return present::movementTitle(result().context.movement, result().context.variation);
}

double ReviewPresenter::inSecond(double timeS) const {
    const auto& second = result().second;
    return second && second->sameTake ? timeS + second->lagS() : timeS;
}

MeasureId ReviewPresenter::keyMeasure() const {
    const auto& reps = result().reps;
    for (const auto& id : result().context.movement.measures)
        if (const MeasureId m = MeasureId::named(id);
            std::all_of(reps.begin(), reps.end(), [&](const auto& rep) { return rep.find(m) != nullptr; }))
            return m;
    return reps.front().measures.empty() ? MeasureId() : reps.front().measures.front().measure;
}

bool ReviewPresenter::measureIsSecond() const {
    const Measurement* m = current().find(m_measure);
    return m && m->second;
}

Side ReviewPresenter::leg() const {
    return current().leg.value_or(set().track().near);
}

int ReviewPresenter::countedReps() const {
    const auto& reps = result().reps;
    return static_cast<int>(
        std::count_if(reps.begin(), reps.end(), [&](const auto& rep) { return result().counts(rep); }));
}

int ReviewPresenter::partialReps() const {
    const auto& reps = result().reps;
    return static_cast<int>(std::count_if(reps.begin(), reps.end(), [&](const auto& rep) {
        return rep.kind == RepKind::Partial && !result().isLeftOut(rep);
    }));
}

QString ReviewPresenter::countText() const {
    const int partial = partialReps();
    return repCount(countedReps()) + (partial > 0 ? tr(", %1 partial").arg(partial) : QString());
}

void ReviewPresenter::selectRep(int position) {
    m_rep = std::clamp(position, 0, static_cast<int>(result().reps.size()) - 1);
}

void ReviewPresenter::selectMeasure(const QString& id) {
    if (const MeasureId m = MeasureId::named(id.toStdString())) m_measure = m;
}

void ReviewPresenter::selectFinding(int index) {
    if (index < 0 || index >= findingCount()) return;
    m_finding = index;
    const Finding* found = shownFinding();
    if (!found) return;
    const Finding& f = *found;
    m_measure = f.measure;
    // The repetition that shows it best is the one the finding's moment lies in.
    const auto& reps = result().reps;
    for (std::size_t i = 0; i < reps.size(); ++i)
        if (std::find(f.reps.begin(), f.reps.end(), reps[i].index) != f.reps.end()) {
            m_rep = static_cast<int>(i);
            const Measurement* m = reps[i].find(f.measure);
            if (m && std::abs(m->atS - f.atS) < 1e-6) break;
        }
}

QString ReviewPresenter::faultTitle(const Finding& f) const {
    return text(advice().title(f.fault)) + (f.side ? QString(", %1").arg(text(sideName(*f.side))) : QString());
}

QString ReviewPresenter::levelText(double thighDeg) {
    const long degrees = std::lround(thighDeg);
    if (degrees == 0) return tr("level");
    return (degrees < 0 ? tr("%1° below level") : tr("%1° above level")).arg(std::abs(degrees));
}

QString ReviewPresenter::keyText(const MeasuredRep& rep, const Measurement& m) const {
    // The few that stand for a repetition are said shorter than their titles.
    static const std::map<std::string, const char*> kSaid{{"trunk_lean", QT_TR_NOOP("%1 of lean")},
                                                          {"bridge_line", QT_TR_NOOP("%1 in line")},
                                                          {"knee_flexion", QT_TR_NOOP("%1 knee")},
                                                          {"knee_ratio", QT_TR_NOOP("knees %1 of feet")},
                                                          {"lowering_s", QT_TR_NOOP("%1 down")}};
    const QString value = valueText(m.value, m.measure->unit, m_lengths);
    QString words = value;
    if (isDepth(m.measure)) {
        words = levelText(m.value);
    } else if (const auto said = kSaid.find(m.measure.name()); said != kSaid.end()) {
        words = tr(said->second).arg(value);
    }
    return rep.leg ? text(sideName(*rep.leg)) + " · " + words : words;
}

namespace {

/// Whether an outline has not lost the head or a foot: the points there lie in it, or nearly.
bool holdsBody(const QPolygonF& outline, const Track& track, std::size_t at) {
    if (outline.size() < 3) return false;
    const double nearly = 0.05 * track.bodyPx;
    auto held = [&](Landmark id) {
        const QPointF p = point(track.toPicture(track.at(id, at)));
        if (outline.containsPoint(p, Qt::OddEvenFill)) return true;
        return std::any_of(outline.begin(), outline.end(),
                           [&](const QPointF& q) { return QLineF(p, q).length() < nearly; });
    };
    return held(track.nearOf(Landmark::LeftEar)) && held(track.nearOf(Landmark::LeftAnkle)) &&
           held(track.nearOf(Landmark::LeftToe));
}

}  // namespace

std::vector<ReviewPresenter::Tile> ReviewPresenter::tiles() const {
    std::vector<Tile> out;
    const Track& track = set().track();
    const std::vector<Outline> none;
    const auto& outlines = m_state.first ? m_state.first->outlines : none;
    const auto& contours = m_state.first ? m_state.first->contours : none;
    // A line from the side means nothing on a picture from the front.
    const bool depthShows = track.view == ViewKind::Side || track.view == ViewKind::Oblique;
    for (const auto& rep : result().reps) {
        Tile t;
        t.number = rep.index;
        t.kind = rep.kind;
        t.leftOut = isLeftOut(rep);
        const std::size_t at = track.sampleAt(rep.bottomS);
        const Side leg = rep.leg.value_or(track.near);
        const Vec2 hip = track.at(ofSide(Landmark::LeftHip, leg), at),
                   knee = track.at(ofSide(Landmark::LeftKnee, leg), at);
        t.hip = point(track.toPicture(hip));
        t.knee = point(track.toPicture(knee));
        // The turning point's own; where that lost a part of them, those that were read beside it.
        for (const auto* lines : {&outlines, &contours})
            for (const auto& o : *lines) {
                if (!t.outline.isEmpty() || std::abs(o.timeS - rep.bottomS) >= kOutlineReachS) continue;
                for (const auto& [x, y] : o.points) t.outline << QPointF(x, y);
                if (!holdsBody(t.outline, track, at)) t.outline.clear();
            }
        if (t.outline.isEmpty()) {
            const Overlay body = skeletonOverlay(track, at);
            t.limbs = body.lines;
            t.limbs.insert(t.limbs.end(), body.ghosts.begin(), body.ghosts.end());
            t.limbs.emplace_back(point(track.toPicture(track.at(track.nearOf(Landmark::LeftShoulder), at))),
                                 point(track.toPicture(track.at(Landmark::Nose, at))));
        }
        QStringList words{QString("Rep %1").arg(rep.index)};
        if (rep.kind == RepKind::Partial) words.append("partial, " + partialText(rep));
        if (rep.kind == RepKind::Double) words.append("one and a half");
        if (t.leftOut) words.append("left out");
        const MeasureId key = keyMeasure();
        const Band* band = standard().bandFor(key);
        if (const Measurement* m = rep.find(key)) {
            t.depth = keyText(rep, *m);
            words.append((isDepth(key) ? "thigh " : "") + t.depth);
            t.depthMarked = band && (band->min || band->max);
            if (t.depthMarked) t.depthVerdict = judge(rep, *band, standard())->verdict;
            if (isDepth(key) && !m->second && depthShows && band && band->max) {
                const double rad = *band->max * kRadiansPerDegree, length = (hip - knee).norm();
                t.line = point(track.toPicture(knee + length * Vec2(-std::cos(rad), std::sin(rad))));
                t.hasLine = true;
            }
        }
        const bool scored = result().stop.scored();
        if (rep.kind != RepKind::Partial && !t.leftOut && scored)
            for (const auto& b : standard().bands)
                if (const auto j = judge(rep, b, standard())) {
                    const std::string& fault = j->above ? b.faultAbove : b.faultBelow;
                    const bool known = std::any_of(t.marks.begin(), t.marks.end(), [&](const Mark& k) {
                        return k.title == text(advice().title(fault));
                    });
                    if (j->verdict == Verdict::Outside && !fault.empty() && !known)
                        t.marks.push_back({text(advice().title(fault)), j->verdict, j->above});
                }
        for (const auto& m : t.marks) words.append(m.title.toLower());
        t.spoken = words.join(", ");
        out.push_back(std::move(t));
    }
    return out;
}

ReviewPresenter::Reading ReviewPresenter::readingOf(const MeasuredRep& rep, const Measurement& m) const {
    Reading r;
    const MeasureDef& def = *m.measure;
    r.measure = m.measure;
    r.id = def.id;
    r.title = def.title;
    r.term = def.term;
    r.unit = def.unit;
    r.value = m.value;
    r.pm90 = m.pm90;
    r.confidence = m.confidence;
    r.atS = m.atS;
    r.second = m.second;
    r.text = readingText(m.measure, m.value, m.pm90, m_lengths);
    if (m.withoutManual) r.withoutManual = readingText(m.measure, *m.withoutManual, m_lengths);
    double low = m.value - m.pm90, high = m.value + m.pm90;
    for (const auto& other : result().reps) {
        const Measurement* o = other.index == rep.index ? nullptr : other.find(m.measure);
        if (!o || other.kind == RepKind::Partial) continue;
        r.usualFrom = r.hasUsual ? std::min(r.usualFrom, o->value) : o->value;
        r.usualTo = r.hasUsual ? std::max(r.usualTo, o->value) : o->value;
        r.hasUsual = true;
    }
    const Band* band = standard().bandFor(m.measure);
    if (band) {
        r.hasMin = band->min.has_value();
        r.hasMax = band->max.has_value();
        r.min = band->min.value_or(0);
        r.max = band->max.value_or(0);
        r.judged = !band->faultAbove.empty() || !band->faultBelow.empty();
        if (r.judged) r.judgement = judge(rep, *band, standard()).value_or(Judgement{});
        if (r.judged && r.judgement.verdict == Verdict::Unsure) r.reason = whyUnsure(r.judgement);
        // The band is always on its scale, whatever the coach asks for.
        low = std::min(low, band->min.value_or(low));
        high = std::max(high, band->max.value_or(high));
    }
    low = std::min(low, def.scale.from);
    high = std::max(high, def.scale.to);
    r.scaleFrom = low;
    r.scaleTo = std::max(high, low + 1e-6);
    if (band) r.bandText = bandText(*band);
    r.spoken = r.title + " " + r.text + ", " + verdictWord(r.judgement, r.judged) +
               (r.withoutManual.isEmpty() ? "" : ", corrected; Zevo saw " + r.withoutManual) +
               (r.reason.isEmpty() ? "" : ", " + r.reason) + (r.bandText.isEmpty() ? "" : ", band " + r.bandText);
    return r;
}

QString ReviewPresenter::bandText(const Band& band) const {
    auto edge = [&](double v) { return readingText(band.measure, v, m_lengths); };
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
    if (!m_measure) return c;
    const bool second = measureIsSecond();
    const Track& shown = track(second);
    const CurveOf source = curveOf(m_measure, *set().view(second).series, leg());
    c.title = source.measure->title;
    c.unit = source.measure->unit;
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
        if (other.index != rep.index && other.kind != RepKind::Partial && !isLeftOut(other) && other.leg == rep.leg)
            c.others.push_back(cut(other, rep.bottomS - other.bottomS));
    if (const Band* band = standard().bandFor(source.measure)) {
        c.hasMin = band->min.has_value(), c.hasMax = band->max.has_value();
        c.min = band->min.value_or(0), c.max = band->max.value_or(0);
    }
    return c;
}

}  // namespace zevo::present
