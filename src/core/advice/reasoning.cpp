#include "core/advice/reasoning.h"

#include <algorithm>

namespace zevo {
namespace {

/// The repetitions that were judged, for this finding's leg, in their order.
std::vector<int> chancesOf(const Finding& f, const SetResult& r) {
    const auto& reps = f.second && r.second && !r.second->sameTake ? r.second->reps : r.reps;
    std::vector<int> out;
    for (const auto& rep : reps) {
        // Spans are left out on the first view's clock; a second clip filmed apart has none.
        const bool counts = &reps == &r.reps ? r.counts(rep) : rep.kind != RepKind::Partial;
        const bool works = !f.side || !isOfOneLeg(f.measure) || !rep.leg || *rep.leg == *f.side;
        if (counts && works) out.push_back(rep.index);
    }
    return out;
}

bool found(const SetResult& r, const std::vector<std::string>& faults) {
    return std::any_of(r.findings.begin(), r.findings.end(), [&](const Finding& f) {
        return f.severity != Severity::Unsure && std::find(faults.begin(), faults.end(), f.fault) != faults.end();
    });
}

/// Clean repetitions before somebody is called tired (common practice, no source).
constexpr std::ptrdiff_t kCleanBefore = 3;

/// Late: the first half of the set, and three repetitions of it, were clean.
bool isLate(const Finding& f, const std::vector<int>& chances) {
    if (f.reps.empty()) return false;
    const auto first = std::find(chances.begin(), chances.end(), f.reps.front());
    const auto before = first - chances.begin();
    return first != chances.end() && before >= kCleanBefore &&
           2 * before >= static_cast<std::ptrdiff_t>(chances.size());
}

/// Whether the leg that does not show the fault worked, was read, and was not found at fault, not even perhaps.
bool otherLegDidWell(const Finding& f, const SetResult& r) {
    if (!f.side || !isOfOneLeg(f.measure)) return false;
    const Side other = otherSide(*f.side);
    const bool alsoFound = std::any_of(r.findings.begin(), r.findings.end(),
                                       [&](const Finding& o) { return o.fault == f.fault && o.side == other; });
    if (alsoFound) return false;
    // A measure of whichever leg works is its own twin.
    const MeasureId twin = ofOtherLeg(f.measure), measure = twin ? twin : f.measure;
    return std::any_of(r.reps.begin(), r.reps.end(), [&](const MeasuredRep& rep) {
        const bool works = !rep.leg || *rep.leg == other;
        return r.counts(rep) && works && rep.find(measure) != nullptr;
    });
}

/// What a sign says for a cause. Ours: what only the client can tell, then what differs between repetitions, legs and
/// faults of the same set, then what holds for every repetition.
constexpr int kFeltSays = 4, kOthersSay = 3, kLateSays = 3, kOneSideSays = 3, kLoadSays = 2, kAlwaysSays = 1;

struct Matcher {
    const Finding& finding;
    const SetResult& result;
    std::vector<int> chances;
    Counsel::Trace trace;  ///< what speaks for the limiter
    int evidence = 0;      ///< how much that is

    bool holds(const Signs& s) {
        trace = {s.reps, finding.reps, static_cast<int>(chances.size()), {}, {}, false, false, {}};
        evidence = 0;
        switch (s.reps) {
            case Signs::Reps::Any: break;
            case Signs::Reps::Late:
                if (!isLate(finding, chances)) return false;
                evidence += kLateSays;
                break;
            case Signs::Reps::FromFirst:
                if (chances.empty() || finding.reps.empty() || finding.reps.front() != chances.front()) return false;
                evidence += kAlwaysSays;
                break;
        }
        if (s.oneSide) {
            if (!otherLegDidWell(finding, result)) return false;
            trace.oneSide = finding.side;
            evidence += kOneSideSays;
        }
        if (s.loaded) {
            const bool loaded = result.context.loaded();
            if (loaded != *s.loaded) return false;
            trace.loaded = loaded;
            evidence += kLoadSays;
        }
        if (!s.with.empty()) {
            if (!found(result, s.with)) return false;
            trace.withOthers = true;
            evidence += kOthersSay;
        }
        if (!s.without.empty()) {
            if (found(result, s.without)) return false;
            evidence += kAlwaysSays;
        }
        if (!s.felt.empty()) {
            const auto& felt = result.context.felt;
            const bool there = std::any_of(felt.begin(), felt.end(), [&](const std::string& place) {
                return std::find(s.felt.begin(), s.felt.end(), place) != s.felt.end();
            });
            if (!there) return false;
            trace.felt = true;
            evidence += kFeltSays;
        }
        return s.measures.empty() ||
               std::find(s.measures.begin(), s.measures.end(), finding.measure.name()) != s.measures.end();
    }
};

}  // namespace

Counsel counselFor(const Finding& finding, const SetResult& result, const AdviceBook& book) {
    Counsel c;
    Situation situation = situationOf(result);
    situation.measure = finding.measure;
    situation.above = finding.value > finding.edge;
    if (finding.severity != Severity::Unsure) {
        Matcher matcher{finding, result, chancesOf(finding, result), {}};
        int most = -1;
        for (const Card& card : book.cards) {
            if (card.fault != finding.fault || !card.limiter || !card.when.holds(situation)) continue;
            const Limiter& limiter = *card.limiter;
            if (!matcher.holds(limiter.signs)) continue;
            const auto& lacks = limiter.signs.lacks;
            if (std::any_of(lacks.begin(), lacks.end(), [&](const auto& aid) { return situation.uses(aid); })) {
                if (std::find(c.ruledOut.begin(), c.ruledOut.end(), limiter.against) == c.ruledOut.end())
                    c.ruledOut.push_back(limiter.against);
                continue;
            }
            if (matcher.evidence <= most) continue;
            most = matcher.evidence;
            c.limiter = limiter.id;
            c.trace = matcher.trace;
            c.trace.why = limiter.why;
        }
        situation.limiter = c.limiter;
    }
    c.advice = adviceFor(finding.fault, situation, book);
    return c;
}

Advice adviceWithoutFinding(const char* card, const SetResult& result, const AdviceBook& book) {
    return adviceFor(card, situationOf(result), book);
}

}  // namespace zevo
