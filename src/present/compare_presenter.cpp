#include "present/compare_presenter.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace zevo::present {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("compare", text);
}

/// How far a value lies past its band; 0 inside.
double beyond(double value, const Band& band) {
    if (band.max && value > *band.max) return value - *band.max;
    if (band.min && value < *band.min) return *band.min - value;
    return 0;
}

bool isOfTime(MeasureId m) {
    return m->unit == Unit::Seconds || m->unit == Unit::Milliseconds || m->unit == Unit::MetresPerSecond ||
           m->unit == Unit::MetresPerSecond2;
}

}  // namespace

ComparePresenter::ComparePresenter(CompareSide before, CompareSide after, std::shared_ptr<const Catalogue> catalogue,
                                   std::vector<LedgerSet> sets)
    : m_before(std::move(before)),
      m_after(std::move(after)),
      m_catalogue(std::move(catalogue)),
      m_sets(std::move(sets)) {
    choose();
}

void ComparePresenter::setSide(bool after, CompareSide side) {
    (after ? m_after : m_before) = std::move(side);
    choose();
}

void ComparePresenter::swap() {
    std::swap(m_before, m_after);
    choose();
}

std::vector<MeasuredRep> ComparePresenter::repsOf(bool after) const {
    const CompareSide& s = side(after);
    const SetResult& r = s.state.set.result;
    std::vector<MeasuredRep> out;
    if (s.rep)
        return {r.reps[static_cast<std::size_t>(std::clamp<int>(*s.rep, 0, static_cast<int>(r.reps.size()) - 1))]};
    out = r.counted();
    if (s.leg) std::erase_if(out, [&](const MeasuredRep& rep) { return rep.leg != s.leg; });
    return out;
}

/// What is shown when sides change: the measure that differs most.
void ComparePresenter::choose() {
    m_differences = differences();
    const bool known =
        std::any_of(m_differences.begin(), m_differences.end(), [&](const auto& d) { return d.measure == m_measure; });
    if (!known) m_measure = m_differences.empty() ? MeasureId() : m_differences.front().measure;
    showReps();
}

/// For each side the repetition in the middle by the measure.
void ComparePresenter::showReps() {
    for (bool after : {false, true}) {
        auto reps = repsOf(after);
        if (reps.empty()) reps = side(after).state.set.result.reps;
        std::stable_sort(reps.begin(), reps.end(), [&](const MeasuredRep& a, const MeasuredRep& b) {
            const Measurement *x = a.find(m_measure), *y = b.find(m_measure);
            return x && y ? x->value < y->value : x != nullptr && y == nullptr;
        });
        m_shown[after] = reps[reps.size() / 2];
    }
}

void ComparePresenter::setPhase(double phase) {
    m_phase = std::clamp(phase, 0.0, 3.0);
}

const MeasuredRep& ComparePresenter::shownRep(bool after) const {
    return m_shown[after];
}

double ComparePresenter::timeS(bool after) const {
    return timeAt(m_shown[after], m_phase);
}

void ComparePresenter::selectMeasure(MeasureId measure) {
    if (!measure) return;
    m_measure = measure;
    showReps();
}

void ComparePresenter::nextMeasure() {
    const auto& all = m_differences;
    for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].measure == m_measure) return selectMeasure(all[(i + 1) % all.size()].measure);
}

Overlay ComparePresenter::overlay(bool after) const {
    const SetState& s = side(after).state;
    const MeasuredRep& rep = m_shown[after];
    const Measurement* m = rep.find(m_measure);
    if (!m || m->second) return {};
    const Track& t = s.set.track();
    return overlayFor(m_measure, t, t.sampleAt(timeS(after)), standard().bandFor(m_measure), rep.leg,
                      s.set.first.back.get(), s.set.first.marks.get());
}

Overlay ComparePresenter::otherFigure(bool after) const {
    const Track &here = side(after).state.set.track(), &there = side(!after).state.set.track();
    const auto &rep = m_shown[after], &other = m_shown[!after];
    const bool otherLeg = rep.leg && other.leg && *rep.leg != *other.leg;
    // As it was read beside the repetitions, ten times a second.
    constexpr double kNearS = 0.06;
    const double atS = timeS(!after);
    const Outline* outline = nullptr;
    for (const Outline& o : side(!after).state.first->contours)
        if (!o.points.empty() && std::abs(o.timeS - atS) <= kNearS &&
            (!outline || std::abs(o.timeS - atS) < std::abs(outline->timeS - atS)))
            outline = &o;
    return figureOver(here, here.sampleAt(timeS(after)), there, there.sampleAt(atS), otherLeg && isFrontal(here.view),
                      outline);
}

QString ComparePresenter::valueOf(bool after) const {
    const Measurement* m = m_shown[after].find(m_measure);
    return m ? readingText(m_measure, m->value, m->pm90, m_lengths) : QString();
}

std::vector<MeasureDifference> ComparePresenter::differences() const {
    const bool sameSet = m_before.state.first == m_after.state.first;
    SidesCompared sides{{repsOf(false)}, {repsOf(true)}, {}, sameSet, issues().empty()};
    const bool parts = m_before.rep || m_after.rep || m_before.leg || m_after.leg;
    if (parts) sides.partOf = {m_before.state.set.result.counted()};
    if (parts && !sameSet) sides.partOf.push_back(m_after.state.set.result.counted());
    SetHistory history;
    // Without both, so that it says the same either way round.
    if (!sameSet && !m_sets.empty()) history = historyOf(m_sets, m_sets.size() - 1, {m_before.set, m_after.set});
    auto all = differencesOf(sides, history, standard());
    // What a coach asked for comes before what is only measured, and where before when.
    auto shelf = [&](const MeasureDifference& d) {
        const Band* band = standard().bandFor(d.measure);
        const bool moved = band && beyond(d.before, *band) != beyond(d.after, *band);
        return (d.significant ? 0 : 10) + (moved ? 0 : band ? 1 : 2) + (isOfTime(d.measure) ? 3 : 0);
    };
    std::stable_sort(all.begin(), all.end(),
                     [&](const MeasureDifference& a, const MeasureDifference& b) { return shelf(a) < shelf(b); });
    return all;
}

std::vector<ComparePresenter::Row> ComparePresenter::rows() const {
    std::vector<Row> out;
    for (const MeasureDifference& d : m_differences) {
        Row row;
        const MeasureDef& info = *d.measure;
        row.measure = d.measure;
        row.title = QString::fromUtf8(info.title);
        row.before = readingText(d.measure, d.before, d.beforePm, m_lengths);
        row.after = readingText(d.measure, d.after, d.afterPm, m_lengths);
        row.significant = d.significant;
        const QString by = changeText(d.before, d.after, info.unit, m_lengths);
        if (const Band* band = standard().bandFor(d.measure)) {
            const double was = beyond(d.before, *band), is = beyond(d.after, *band);
            row.moved = was != is;
            row.better = is < was;
        }
        row.change = d.judged && !d.significant ? tr("within noise")
                     : d.change() > 0           ? tr("%1 more").arg(by)
                                                : tr("%1 less").arg(by);
        if (!d.judged) row.change += tr(", nothing asked");
        if (d.significant && row.moved) row.change += row.better ? tr(", better") : tr(", worse");
        row.spoken = tr("%1: before %2, after %3, %4").arg(row.title, row.before, row.after, row.change);
        out.push_back(std::move(row));
    }
    return out;
}

QStringList ComparePresenter::sentences() const {
    QStringList out;
    int within = 0;
    constexpr int kMost = 4;
    if (!issues().empty()) return {tr("Not filmed alike, so no verdict: what differs is in the table")};
    for (const MeasureDifference& d : m_differences) within += d.judged && !d.significant;
    for (const Row& r : rows()) {
        if (!r.significant) continue;
        if (out.size() < kMost) out.append(tr("%1: %2").arg(r.title, r.change));
    }
    if (out.isEmpty()) out.append(tr("Nothing differs by more than noise"));
    if (within > 0 && out.size() <= kMost) out.append(tr("Within noise: %1 more").arg(within));
    return out;
}

std::vector<ComparabilityIssue> ComparePresenter::issues() const {
    if (m_before.state.first == m_after.state.first) return {};
    return comparabilityIssues(seenFrom(m_before.state), seenFrom(m_after.state));
}

QStringList ComparePresenter::warnings() const {
    QStringList out;
    for (ComparabilityIssue issue : issues()) out.append(comparabilityText(issue));
    if (m_before.state.set.result.context.movement.id != m_after.state.set.result.context.movement.id)
        out.append(tr("two different movements"));
    return out;
}

ComparePresenter::Curve ComparePresenter::curve() const {
    Curve c;
    if (!m_measure) return c;
    for (bool after : {false, true}) {
        const SetState& s = side(after).state;
        const MeasuredRep& rep = m_shown[after];
        const Measurement* m = rep.find(m_measure);
        const bool second = m && m->second && s.set.other;
        const MeasuredView& view = s.set.view(second);
        const CurveOf source = curveOf(m_measure, *view.series, rep.leg.value_or(view.track->near));
        c.title = QString::fromUtf8(source.measure->title);
        c.unit = source.measure->unit;
        const double later = second && s.set.result.second ? s.set.result.second->lagS() : 0;
        auto& points = after ? c.after : c.before;
        constexpr int kPoints = 90;
        for (int i = 0; i <= kPoints; ++i) {
            const double phase = 3.0 * i / kPoints;
            const double value = source.values[view.track->sampleAt(timeAt(rep, phase) + later)];
            if (std::isfinite(value)) points.emplace_back(phase, value);
        }
        if (const Band* band = standard().bandFor(source.measure)) c.min = band->min, c.max = band->max;
    }
    const auto& phases = m_after.state.set.result.context.movement.phases;
    for (std::size_t i = 1; i < phases.size(); ++i) c.phases.append(QString::fromStdString(phases[i]));
    return c;
}

QString ComparePresenter::sideText(bool after) const {
    const CompareSide& s = side(after);
    const int number = m_shown[after].index;
    const auto count = repsOf(after).size();
    const QString leg = !s.leg ? QString() : *s.leg == Side::Left ? tr("left leg, ") : tr("right leg, ");
    if (s.rep) return tr("rep %1 of %2").arg(number).arg(s.state.set.result.reps.size());
    return leg + tr("%1, shown: rep %2").arg(present::repCount(static_cast<int>(count))).arg(number);
}

}  // namespace zevo::present
