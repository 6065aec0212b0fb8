#include "core/advice/reasoning.h"

#include <algorithm>

namespace zevo {
namespace {

/// The repetitions that were judged, for this finding's leg, in their order.
std::vector<int> chancesOf(const Finding& f, const SetResult& r) {
    const auto& reps = f.second && r.second && !r.second->together ? r.second->reps : r.reps;
    std::vector<int> out;
    for (const auto& rep : reps) {
        // Spans are left out on the first view's clock; a second clip filmed apart has none.
        const bool counts = &reps == &r.reps ? r.counts(rep) : rep.kind != RepKind::Partial;
        const bool works = !f.side || !rep.leg || *rep.leg == *f.side;
        if (counts && works) out.push_back(rep.index);
    }
    return out;
}

bool found(const SetResult& r, const std::vector<std::string>& faults) {
    return std::any_of(r.findings.begin(), r.findings.end(), [&](const Finding& f) {
        return f.severity != Severity::Unsure && std::find(faults.begin(), faults.end(), f.fault) != faults.end();
    });
}

/// Late: the first half of the set was clean, and it was long enough to tell.
bool isLate(const Finding& f, const std::vector<int>& chances) {
    if (chances.size() < 4 || f.reps.empty()) return false;
    const auto first = std::find(chances.begin(), chances.end(), f.reps.front());
    return first != chances.end() && 2 * (first - chances.begin()) >= static_cast<std::ptrdiff_t>(chances.size());
}

struct Matcher {
    const Finding& finding;
    const SetResult& result;
    std::vector<int> chances;
    Counsel::Trace trace;  ///< what speaks for the limiter

    bool holds(const Signs& s) {
        trace = {s.reps, finding.reps, static_cast<int>(chances.size()), {}, {}, false, {}};
        switch (s.reps) {
            case Signs::Reps::Any: break;
            case Signs::Reps::Late:
                if (!isLate(finding, chances)) return false;
                break;
            case Signs::Reps::FromFirst:
                if (chances.empty() || finding.reps.empty() || finding.reps.front() != chances.front()) return false;
                break;
        }
        if (s.oneSide) {
            const bool both = std::any_of(result.findings.begin(), result.findings.end(), [&](const Finding& f) {
                return f.fault == finding.fault && f.side && finding.side && *f.side != *finding.side &&
                       f.severity != Severity::Unsure;
            });
            if (!finding.side || both) return false;
            trace.oneSide = finding.side;
        }
        if (s.loaded) {
            const bool loaded = result.context.movement.loadPlace(result.context.variation) != LoadPlace::None;
            if (loaded != *s.loaded) return false;
            trace.loaded = loaded;
        }
        if (!s.with.empty()) {
            if (!found(result, s.with)) return false;
            trace.withOthers = true;
        }
        if (!s.without.empty() && found(result, s.without)) return false;
        return s.measures.empty() ||
               std::find(s.measures.begin(), s.measures.end(), finding.measure.name()) != s.measures.end();
    }
};

}  // namespace

Counsel counselFor(const Finding& finding, const SetResult& result, const AdviceBook& book) {
    Counsel c;
    const auto plain = book.find(finding.fault);
    if (plain == book.end()) return c;
    c.advice = plain->second;
    if (finding.severity == Severity::Unsure) return c;
    Matcher matcher{finding, result, chancesOf(finding, result), {}};
    for (const Limiter& l : plain->second.limiters) {
        if (!matcher.holds(l.signs)) continue;
        c.limiter = l.id;
        c.trace = matcher.trace;
        c.trace.why = l.why;
        if (!l.say.empty()) c.advice.say = l.say;
        if (!l.change.empty()) c.advice.change = l.change;
        if (!l.prepare.empty()) c.advice.prepare = l.prepare;
        if (!l.progress.empty()) c.advice.progress = l.progress;
        break;
    }
    return c;
}

}  // namespace zevo
