#include "core/session/cue_ledger.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/number_text.h"

namespace zevo {
namespace {

std::string choiceOf(const Choices& choices, const char* id) {
    const auto found = choices.find(id);
    return found == choices.end() ? std::string() : found->second;
}

bool containsFault(const std::vector<Finding>& findings, const std::string& fault) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.fault == fault; });
}

bool seenAlike(const LedgerSet& a, const LedgerSet& b) {
    return comparabilityIssues(a.seenFrom, b.seenFrom).empty();
}

/// A set with what was done to it in force.
struct Known {
    const LedgerSet* set = nullptr;
    EditedSet edited;
    bool wasSaid() const { return edited.cue && !edited.cue->fault.empty(); }
    /// About any fault, where `fault` is empty.
    bool wasSaidAbout(const std::string& fault) const {
        return fault.empty() ? wasSaid() : edited.cue && edited.cue->fault == fault;
    }
};

/// Measured sets of the movement of `at`, up to it, oldest first; the last two dozen.
std::vector<Known> upTo(const std::vector<LedgerSet>& sets, std::size_t at) {
    constexpr std::size_t kMost = 24;
    std::vector<Known> out;
    const std::string movement = fold(sets[at].edits).facts.movement;
    for (std::size_t i = at + 1; i-- > 0 && out.size() < kMost;) {
        if (!sets[i].measured) continue;
        Known known{&sets[i], fold(sets[i].edits)};
        if (known.edited.facts.movement == movement) out.push_back(std::move(known));
    }
    std::reverse(out.begin(), out.end());
    return out;
}

constexpr long kSixWeeks = 42;

SetHistory historyOf(const std::vector<Known>& known, const std::vector<std::string>& without) {
    SetHistory out;
    const Known* last = nullptr;
    for (const Known& k : known) {
        if (std::find(without.begin(), without.end(), k.set->id) !=
            without.end()) {  // what was said after it stands between its neighbours all the same
            last = nullptr;
            continue;
        }
        const bool goesOn = last && !last->wasSaid() && k.set->day - last->set->day <= kSixWeeks &&
                            setUpChanges(last->edited.facts, k.edited.facts).empty() && seenAlike(*last->set, *k.set);
        if (!goesOn) out.emplace_back();
        out.back().push_back(k.set->counted());
        last = &k;
    }
    return out;
}

SetUpTrial trialOf(const LedgerSet& before, const LedgerSet& after, const Baseline& baseline,
                   std::vector<SetUpChange> changes, const Standard& standard) {
    SetUpTrial out{before.id, after.id, after.day, fold(after.edits).facts.movement, std::move(changes), {}, {}, {}};
    const auto was = before.counted(), is = after.counted();
    out.seenAlike = seenAlike(before, after);
    out.differences = differencesOf({baseline.sets, {is}, {}, false, out.seenAlike}, baseline.history, standard);
    std::erase_if(out.differences, [](const MeasureDifference& d) { return !d.judged; });
    const auto found = findFaults(was, standard), now = findFaults(is, standard);
    for (const Finding& f : found)
        if (f.severity == Severity::Clear && !containsFault(now, f.fault)) out.gone.push_back(f.fault);
    for (const Finding& f : now)
        if (f.severity == Severity::Clear && !containsFault(found, f.fault)) out.brought.push_back(f.fault);
    return out;
}

/// What was asked of one kind in a set's movement, whoever asked it and why.
std::string askedOf(const SetFacts& facts, const std::string& kind) {
    const Ask* a = standing(facts.asks, kind, facts.movement);
    return a ? a->kind + "/" + a->rung + "/" + (a->amount ? numberText(*a->amount) : std::string()) : std::string();
}

}  // namespace

std::vector<SetUpChange> setUpChanges(const SetFacts& a, const SetFacts& b) {
    using W = SetUpChange::What;
    std::vector<SetUpChange> out;
    auto text = [&](W what, const std::string& from, const std::string& to) {
        if (from != to) out.push_back({what, from, to});
    };
    auto value = [&](W what, double from, double to) {
        if (std::abs(from - to) > 1e-9) out.push_back({what, numberText(from), numberText(to)});
    };
    auto flag = [&](W what, bool from, bool to) { value(what, from, to); };
    value(W::Wedge, a.wedgeDeg, b.wedgeDeg);
    text(W::Stance, choiceOf(a.choices, "stance"), choiceOf(b.choices, "stance"));
    text(W::Toes, choiceOf(a.choices, "toes"), choiceOf(b.choices, "toes"));
    text(W::Arms, choiceOf(a.choices, "arms"), choiceOf(b.choices, "arms"));
    text(W::LoadPlace, a.variation, b.variation);
    value(W::Box, a.log.boxCm, b.log.boxCm);
    flag(W::Pole, a.log.pole, b.log.pole);
    flag(W::Belt, a.log.belt, b.log.belt);
    text(W::Shoes, a.log.shoes, b.log.shoes);
    value(W::Load, a.log.load.totalKg(), b.log.load.totalKg());
    std::set<std::string> kinds;
    for (const Asks* asks : {&a.asks, &b.asks})
        for (const Ask& ask : *asks) kinds.insert(ask.kind);
    for (const std::string& kind : kinds) text(W::Asked, askedOf(a, kind), askedOf(b, kind));
    return out;
}

std::vector<std::pair<std::size_t, std::size_t>> trialPairs(const std::vector<LedgerSet>& sets) {
    std::vector<EditedSet> edited;
    for (const LedgerSet& s : sets) edited.push_back(fold(s.edits));
    std::vector<std::pair<std::size_t, std::size_t>> out;
    for (std::size_t i = 0; i < sets.size(); ++i)
        for (std::size_t next = i + 1; next < sets.size() && sets[next].day == sets[i].day; ++next) {
            if (edited[next].facts.movement != edited[i].facts.movement || !sets[next].measured) continue;
            const bool said = edited[i].cue && !edited[i].cue->fault.empty();
            if (said || !setUpChanges(edited[i].facts, edited[next].facts).empty()) out.emplace_back(i, next);
            break;
        }
    return out;
}

SetHistory historyOf(const std::vector<LedgerSet>& sets, std::size_t at, const std::vector<std::string>& without) {
    return historyOf(upTo(sets, at), without);
}

Baseline baselineOf(const std::vector<LedgerSet>& sets, std::size_t at, const std::string& fault) {
    constexpr std::size_t kMost = 6;
    const std::vector<Known> known = upTo(sets, at);
    Baseline out;
    if (known.empty() || known.back().set != &sets[at]) return out;
    out.history = historyOf(known, {});
    // How often the fault was spoken of before each, on its day.
    std::vector<int> said(known.size());
    for (std::size_t i = 1; i < known.size(); ++i)
        if (known[i - 1].set->day == known[i].set->day) said[i] = said[i - 1] + known[i - 1].wasSaidAbout(fault);
    const Known& last = known.back();
    for (std::size_t i = known.size(); i-- > 0 && out.sets.size() < kMost;) {
        const Known& k = known[i];
        const bool near = said.back() == 0 ? last.set->day - k.set->day <= kSixWeeks : last.set->day == k.set->day;
        if (!near) break;
        if (said[i] != said.back() || !setUpChanges(k.edited.facts, last.edited.facts).empty() ||
            !seenAlike(*k.set, *last.set))
            continue;
        out.sets.push_back(k.set->counted());
    }
    std::reverse(out.sets.begin(), out.sets.end());
    return out;
}

Ledger ledgerOf(const std::vector<LedgerSet>& sets, const Catalogue& catalogue) {
    Ledger out;
    for (const auto& [i, next] : trialPairs(sets)) {
        const LedgerSet &before = sets[i], &after = sets[next];
        const EditedSet edited = fold(before.edits), then = fold(after.edits);
        const auto standard = standardFor(then, catalogue);
        if (!standard) continue;
        auto changes = setUpChanges(edited.facts, then.facts);
        const bool said = edited.cue && !edited.cue->fault.empty();
        const Baseline baseline = baselineOf(sets, i, said ? edited.cue->fault : std::string());
        if (said)
            out.cues.push_back({before.id, after.id, before.day,
                                answerTo(*edited.cue, baseline.sets, after.counted(), baseline.history, *standard),
                                std::move(changes), seenAlike(before, after)});
        else
            out.trials.push_back(trialOf(before, after, baseline, std::move(changes), *standard));
    }
    return out;
}

std::vector<CueScore> scoresOf(const std::vector<CueTrial>& trials) {
    std::vector<CueScore> out;
    for (const CueTrial& t : trials) {
        const CueGiven& cue = t.answer.cue;
        auto at = std::find_if(out.begin(), out.end(),
                               [&](const CueScore& s) { return s.fault == cue.fault && s.wording == cue.wording; });
        if (at == out.end()) at = out.insert(out.end(), {cue.fault, cue.wording});
        if (!t.counts())
            ++at->open;
        else if (t.answer.effect == CueEffect::Worked)
            ++at->worked;
        else if (t.answer.effect == CueEffect::Worse)
            ++at->worse;
        else
            ++at->noDifference;
    }
    return out;
}

std::vector<std::size_t> bestFirst(const std::vector<std::string>& wordings, const std::string& fault,
                                   const std::vector<CueScore>& scores) {
    constexpr int kFailedTwice = 2;
    auto scoreOf = [&](std::size_t i) {
        const auto found = std::find_if(scores.begin(), scores.end(), [&](const CueScore& s) {
            return s.fault == fault && s.wording == wordings[i];
        });
        return found == scores.end() ? CueScore{fault, wordings[i]} : *found;
    };
    auto shelf = [&](std::size_t i) {
        const CueScore s = scoreOf(i);
        return s.failed() >= kFailedTwice && s.failed() > s.worked ? 2 : s.worked > 0 ? 0 : 1;
    };
    std::vector<std::size_t> out(wordings.size());
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = i;
    std::stable_sort(out.begin(), out.end(), [&](std::size_t a, std::size_t b) {
        if (shelf(a) != shelf(b)) return shelf(a) < shelf(b);
        const CueScore x = scoreOf(a), y = scoreOf(b);
        return shelf(a) == 0 && x.worked - x.failed() > y.worked - y.failed();
    });
    return out;
}

}  // namespace zevo
