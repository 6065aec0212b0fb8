#include "core/judge/findings.h"

#include <algorithm>
#include <array>
#include <map>

namespace zevo {

/// Of the ±: so little over the edge names no fault by itself (ours).
constexpr double kBarelyOut = 0.05;

const Measurement* MeasuredRep::find(MeasureId measure) const {
    for (const auto& m : measures)
        if (m.measure == measure) return &m;
    return nullptr;
}

std::string depthLimitName(DepthLimit limit) {
    static constexpr std::array kNames{"none", "heels", "toes", "tail"};
    return kNames[static_cast<std::size_t>(limit)];
}

DepthLimit depthLimit(const MeasuredRep& rep) {
    const Measurement *usable = rep.find("usable_depth"), *reached = rep.find("thigh_angle");
    constexpr double kAsDeep = 3;  // degrees; they are means over stretches of different lengths
    if (!usable || !reached || usable->value < reached->value + kAsDeep) return DepthLimit::None;
    const Measurement *tail = rep.find("tuck_start"), *heel = rep.find("heel_rise"), *toe = rep.find("toe_rise");
    if (tail && tail->atS == usable->atS) return DepthLimit::Tail;
    return toe && (!heel || toe->value > heel->value) ? DepthLimit::Toes : DepthLimit::Heels;
}

bool isOfOneLeg(MeasureId m) {
    return m && (m->of == Of::WorkingLeg || m->of == Of::Left || m->of == Of::Right);
}

std::optional<Side> sideOf(const Measurement& m, const MeasuredRep& rep) {
    if (!m.measure || m.measure->of == Of::Body) return std::nullopt;
    if (m.measure->of == Of::BySign) return m.value > 0 ? Side::Right : Side::Left;
    if (m.measure->of == Of::WorkingLeg) return rep.leg;
    return m.measure->of == Of::Left ? Side::Left : Side::Right;
}

Judgement judge(const Measurement& m, const Band& band, double minConfidence) {
    Judgement j;
    auto consider = [&](double beyond, bool above) {
        if (j.because != Because::NoBand && beyond <= j.beyond) return;
        j = {Verdict::Inside, Because::ClearOfEdge, above, beyond};
    };
    if (band.max) consider(m.value - *band.max, true);
    if (band.min) consider(*band.min - m.value, false);
    if (j.because == Because::NoBand) return j;
    // The share of the interval value ± pm90 that lies past the edge.
    const double out = m.pm90 > 0 ? std::clamp((j.beyond + m.pm90) / (2 * m.pm90), 0.0, 1.0) : j.beyond > 0;
    if (j.beyond > m.pm90)
        j.verdict = m.confidence < minConfidence ? Verdict::Unsure : Verdict::Outside;
    else if (j.beyond > 0 || out > (band.careful ? 0.0 : kShareLetPass))
        j.verdict = Verdict::Unsure;
    if (j.verdict == Verdict::Unsure)
        j.because = j.beyond > m.pm90 ? Because::PoorlySeen : j.beyond > 0 ? Because::PastEdge : Because::NearEdge;
    return j;
}

std::optional<Judgement> judge(const MeasuredRep& rep, const Band& band, const Standard& standard) {
    const Measurement* m = rep.find(band.measure);
    if (!m) return std::nullopt;
    Judgement j = judge(*m, band, standard.minConfidence);
    if (band.witness.empty() || j.verdict == Verdict::Inside) return j;
    bool allSee = true, noneSees = true;
    for (MeasureId id : band.witness) {
        const Measurement* other = rep.find(id);
        const Band* edge = standard.bandFor(id);
        const bool heard = other && edge && other->confidence >= standard.minConfidence;
        const Judgement theirs = heard ? judge(*other, *edge, standard.minConfidence) : Judgement{};
        allSee = allSee && theirs.beyond > 0 && theirs.above == j.above;
        noneSees = noneSees && theirs.verdict == Verdict::Inside && theirs.because != Because::NoBand;
    }
    if (j.verdict == Verdict::Outside && !allSee) j.verdict = Verdict::Unsure, j.because = Because::Contradicted;
    if (j.because == Because::NearEdge && noneSees && !band.careful)
        j.verdict = Verdict::Inside, j.because = Because::ClearOfEdge;
    return j;
}

std::string severityName(Severity s) {
    switch (s) {
        case Severity::Clear: return "clear";
        case Severity::Watch: return "watch";
        case Severity::Unsure: break;
    }
    return "unsure";
}

std::vector<Finding> findFaults(const std::vector<MeasuredRep>& reps, const Standard& standard) {
    struct Seen {
        std::vector<int> out, unsure;
        double worstOut = 0, worstUnsure = 0;
        Finding best, bestUnsure;
    };
    using Key = std::pair<std::string, std::optional<Side>>;
    std::map<Key, Seen> seen;
    std::map<std::optional<Side>, int> worked;  // repetitions a leg had a chance to show a fault in
    int counted = 0;
    for (const auto& rep : reps) {
        if (rep.kind == RepKind::Partial) continue;
        ++counted;
        for (Side side : {Side::Left, Side::Right}) worked[side] += !rep.leg || *rep.leg == side;
        for (const auto& band : standard.bands) {
            const Measurement* m = rep.find(band.measure);
            if (!m) continue;
            const Judgement j = *judge(rep, band, standard);
            const std::string& fault = j.above ? band.faultAbove : band.faultBelow;
            if (j.verdict == Verdict::Inside || fault.empty()) continue;
            // What is over the edge by a sliver of its ± is drawn as unsure, like what only reaches over it, and is no
            // finding: it is as likely inside.
            const bool barely = j.because == Because::PastEdge && j.beyond < kBarelyOut * m->pm90;
            if ((j.because == Because::NearEdge || barely) && !band.careful) continue;
            if (j.verdict == Verdict::Unsure && band.measure->hardlySeen) continue;
            const std::optional<Side> side = sideOf(*m, rep);
            Seen& s = seen[{fault, side}];
            const Finding f{fault,     Severity::Unsure,
                            {},        band.measure,
                            m->atS,    m->value,
                            m->pm90,   j.above ? *band.max : *band.min,
                            band.rank, side,
                            m->second};
            const bool out = j.verdict == Verdict::Outside;
            auto& list = out ? s.out : s.unsure;
            const bool first = list.empty();
            if (list.empty() || list.back() != rep.index) list.push_back(rep.index);
            // Two measures can show one fault: compare them by how many of their own ± they are out.
            const double size = j.beyond / std::max(1e-6, m->pm90);
            double& worst = out ? s.worstOut : s.worstUnsure;
            if (first || size > worst) {
                worst = size;
                (out ? s.best : s.bestUnsure) = f;
            }
        }
    }
    std::vector<Finding> findings;
    worked[std::nullopt] = counted;
    for (auto& [key, s] : seen) {
        const bool ofLeg = isOfOneLeg(s.out.empty() ? s.bestUnsure.measure : s.best.measure);
        const int chances = ofLeg ? worked[key.second] : counted;
        const int out = static_cast<int>(s.out.size()), unsure = static_cast<int>(s.unsure.size());
        if (out > 0) {
            s.best.severity = out >= 2 || 3 * out >= chances ? Severity::Clear : Severity::Watch;
            s.best.reps = s.out;
            findings.push_back(s.best);
        } else if (2 * unsure >= chances) {
            s.bestUnsure.reps = s.unsure;
            findings.push_back(s.bestUnsure);
        }
    }
    sortFindings(findings);
    return findings;
}

void sortFindings(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return std::pair(a.severity, a.rank) < std::pair(b.severity, b.rank);
    });
}

}  // namespace zevo
