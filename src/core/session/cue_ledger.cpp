#include "core/session/cue_ledger.h"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace zevo {
namespace {

std::string number(double v) {
    std::ostringstream out;
    out << v;
    return out.str();
}

std::string choiceOf(const Choices& choices, const char* id) {
    const auto found = choices.find(id);
    return found == choices.end() ? std::string() : found->second;
}

bool has(const std::vector<Finding>& findings, const std::string& fault) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.fault == fault; });
}

SetUpTrial trialOf(const LedgerSet& before, const LedgerSet& after, std::vector<SetUpChange> changes,
                   const Standard& standard) {
    SetUpTrial out{before.id, after.id, after.day, fold(after.edits).facts.movement, std::move(changes), {}, {}, {}};
    const auto was = before.counted(), is = after.counted();
    out.differences = differencesOf(was, is, was, after.sameCamera);
    std::erase_if(out.differences, [&](const MeasureDifference& d) { return !standard.bandFor(d.measure); });
    const auto found = findFaults(was, standard), now = findFaults(is, standard);
    for (const Finding& f : found)
        if (f.severity == Severity::Clear && !has(now, f.fault)) out.gone.push_back(f.fault);
    for (const Finding& f : now)
        if (f.severity == Severity::Clear && !has(found, f.fault)) out.brought.push_back(f.fault);
    return out;
}

}  // namespace

std::vector<MeasuredRep> LedgerSet::counted() const {
    const EditedSet edited = fold(edits);
    std::vector<MeasuredRep> out;
    for (const MeasuredRep& rep : reps) {
        const bool left = std::any_of(edited.leftOut.begin(), edited.leftOut.end(),
                                      [&](const Span& span) { return span.holds(rep.bottomS); });
        if (!left && rep.kind != RepKind::Partial) out.push_back(rep);
    }
    return out;
}

std::vector<SetUpChange> setUpChanges(const SetFacts& a, const SetFacts& b) {
    using W = SetUpChange::What;
    std::vector<SetUpChange> out;
    auto text = [&](W what, const std::string& from, const std::string& to) {
        if (from != to) out.push_back({what, from, to});
    };
    auto value = [&](W what, double from, double to) {
        if (std::abs(from - to) > 1e-9) out.push_back({what, number(from), number(to)});
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
    return out;
}

Ledger ledgerOf(const std::vector<LedgerSet>& sets, const Catalogue& catalogue) {
    Ledger out;
    for (std::size_t i = 0; i < sets.size(); ++i) {
        const EditedSet edited = fold(sets[i].edits);
        const auto next =
            std::find_if(sets.begin() + static_cast<std::ptrdiff_t>(i) + 1, sets.end(), [&](const auto& s) {
                return s.day == sets[i].day && fold(s.edits).facts.movement == edited.facts.movement && !s.reps.empty();
            });
        if (next == sets.end()) continue;
        const EditedSet after = fold(next->edits);
        const auto standard = standardFor(after, catalogue);
        if (!standard) continue;
        const auto changes = setUpChanges(edited.facts, after.facts);
        const bool said = edited.cue && !edited.cue->fault.empty();
        if (said)
            out.cues.push_back({sets[i].id, next->id, sets[i].day,
                                answerTo(*edited.cue, sets[i].counted(), next->counted(), *standard), changes});
        else if (!changes.empty())
            out.trials.push_back(trialOf(sets[i], *next, changes, *standard));
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
        if (!t.also.empty() || t.answer.effect == CueEffect::CannotSay)
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
        return s.worked > 0 ? 0 : s.failed() >= kFailedTwice ? 2 : 1;
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
