#include "core/judge/set_result.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace zevo {
namespace {

/// Measured values of the judged measures in the repetitions that count, by measure.
std::map<MeasureId, std::vector<const Measurement*>> valuesOf(const std::vector<MeasuredRep>& reps) {
    std::map<MeasureId, std::vector<const Measurement*>> out;
    for (const auto& rep : reps)
        if (rep.kind != RepKind::Partial)
            for (const auto& m : rep.measures) out[m.measure].push_back(&m);
    return out;
}

void findDrifts(const std::vector<MeasuredRep>& counted, const Standard& standard, SetResult& result) {
    constexpr double kChance = 0.05;
    result.drifts.clear();
    for (const auto& [id, list] : valuesOf(counted)) {
        if (!standard.bandFor(id) || list.size() < 5) continue;
        std::vector<double> values;
        double pm = 0;
        for (const auto* m : list) values.push_back(m->value), pm += m->pm90 / static_cast<double>(list.size());
        const Trend trend = trendOf(values);
        // Most of a reading's error repeats from rep to rep; what changes is this share of the ±
        // (docs/measurements.md).
        constexpr double kJitterShare = 0.44;
        result.drifts.push_back({id, trend, trend.p < kChance && std::abs(trend.change) > kJitterShare * pm});
    }
    std::stable_sort(result.drifts.begin(), result.drifts.end(),
                     [](const Drift& a, const Drift& b) { return a.moreThanNoise > b.moreThanNoise; });
}

/// Measures of the right leg go with those of the left: they are rows of their own that differ in nothing else.
MeasureId leftOfPair(MeasureId m) {
    if (m->of != Of::Right) return m;
    const std::string name = m.name();
    const auto cut = name.rfind("right");
    return cut == std::string::npos ? m : MeasureId::named(name.substr(0, cut) + "left");
}

void compareLegs(const std::vector<MeasuredRep>& counted, SetResult& result) {
    result.legs.clear();
    std::map<MeasureId, std::array<std::vector<const Measurement*>, 2>> byLeg;
    for (const auto& rep : counted) {
        if (rep.kind == RepKind::Partial) continue;
        for (const auto& m : rep.measures) {
            // Times and the trunk belong to the leg that works as well.
            const std::optional<Side> side = isOfOneLeg(m.measure) ? sideOf(m, rep) : rep.leg;
            if (side) byLeg[leftOfPair(m.measure)][static_cast<std::size_t>(*side)].push_back(&m);
        }
    }
    for (const auto& [id, sides] : byLeg) {
        if (sides[0].empty() || sides[1].empty()) continue;
        std::array<std::vector<double>, 2> values;
        double pm = 0;
        for (std::size_t k = 0; k < 2; ++k)
            for (const auto* m : sides[k]) values[k].push_back(m->value), pm = std::max(pm, m->pm90);
        result.legs.push_back({id, compareSides(values[0], values[1], pm)});
    }
}

/// Repetitions of `reps` in which a measure was settled.
int settledIn(const std::vector<MeasuredRep>& reps, const Band& band, const Standard& standard, const SetResult& r,
              int& read) {
    int settled = 0;
    for (const auto& rep : reps) {
        const auto judged = r.counts(rep) ? judge(rep, band, standard) : std::nullopt;
        if (!judged) continue;
        ++read;
        settled += judged->settled();
    }
    return settled;
}

std::vector<NotJudged> notJudgedIn(const SetResult& r, const Standard& standard) {
    std::vector<NotJudged> out;
    const bool apart = r.second && !r.second->sameTake;
    const auto counted = [&](const std::vector<MeasuredRep>& reps) {
        return static_cast<int>(
            std::count_if(reps.begin(), reps.end(), [&](const MeasuredRep& rep) { return r.counts(rep); }));
    };
    for (const MeasureId measure : standard.leading) {
        const Band* band = standard.bandFor(measure);
        if (!band || (band->faultAbove.empty() && band->faultBelow.empty())) continue;
        NotJudged n{measure, NotJudged::Why::NotRead, 0, counted(r.reps)};
        int read = 0;
        n.judged = settledIn(r.reps, *band, standard, r, read);
        if (apart)
            if (const int theirs = settledIn(r.second->reps, *band, standard, r, read);
                theirs * n.of > n.judged * counted(r.second->reps))
                n.judged = theirs, n.of = counted(r.second->reps);
        if (static_cast<double>(n.judged) >= kShareJudged * n.of) continue;
        const bool shown =
            (measure->views & viewBit(r.view)) || (r.second && (measure->views & viewBit(r.second->view)));
        n.why = read > n.judged ? NotJudged::Why::Unsettled : shown ? NotJudged::Why::NotRead : NotJudged::Why::View;
        out.push_back(n);
    }
    return out;
}

}  // namespace

bool SetResult::clean() const {
    return stop.level == StopAnswer::Level::GoOn && findings.empty() && notJudged.empty();
}

std::vector<MeasuredRep> countedOf(const std::vector<MeasuredRep>& reps, const std::vector<Span>& leftOut) {
    std::vector<MeasuredRep> out;
    for (const MeasuredRep& rep : reps)
        if (rep.kind != RepKind::Partial &&
            std::none_of(leftOut.begin(), leftOut.end(), [&](const Span& s) { return s.holds(rep.bottomS); }))
            out.push_back(rep);
    return out;
}

std::vector<MeasuredRep> SetResult::counted() const {
    return countedOf(reps, leftOut);
}

bool SetResult::isLeftOut(const MeasuredRep& rep) const {
    return std::any_of(leftOut.begin(), leftOut.end(), [&](const Span& s) { return s.holds(rep.bottomS); });
}

Standard standardOf(const SetContext& context, const Standard& whole) {
    const Standard out = whole.forSet(context.movement.id, context.variation);
    return context.tempo ? withTempo(out, *context.tempo, context.movement.drive) : out;
}

void judgeSet(SetResult& result, const Standard& whole) {
    const Standard standard = standardOf(result.context, whole);
    result.standard = standard.id;
    result.stop = stopAnswer(result.context.pain);
    std::vector<MeasuredRep> counted;
    for (const auto& rep : result.reps)
        if (!result.isLeftOut(rep)) counted.push_back(rep);
    result.findings.clear();
    result.notJudged = notJudgedIn(result, standard);
    result.choices = standard.choices;
    result.changed = standard.changed;
    findDrifts(counted, standard, result);
    compareLegs(counted, result);
    if (!result.stop.scored()) return;
    result.findings = findFaults(counted, standard);
    if (result.second && !result.second->sameTake) {
        const auto more = findFaults(result.second->reps, standard);
        result.findings.insert(result.findings.end(), more.begin(), more.end());
        sortFindings(result.findings);
    }
}

}  // namespace zevo
