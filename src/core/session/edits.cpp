#include "core/session/edits.h"

#include <algorithm>

namespace zevo {
namespace {

/// Whether an edit is about the second view: nothing of it holds for another clip.
bool isAboutSecond(const Edit& edit) {
    const auto k = kindOf(edit);
    if (k == EditKind::SecondAdded || k == EditKind::SecondRemoved || k == EditKind::SecondNudged ||
        k == EditKind::SecondApart)
        return true;
    return std::visit(
        [](const auto& e) {
            if constexpr (requires { e.second; })
                return e.second;
            else
                return false;
        },
        edit);
}

/// Whether an edit was made looking at the person who is followed: it means nothing for another one.
bool isAboutPerson(const Edit& edit, bool second) {
    auto inView = [&](const auto& e) { return e.second == second; };
    switch (kindOf(edit)) {
        case EditKind::LandmarkMoved: return inView(std::get<LandmarkMoved>(edit));
        case EditKind::RepetitionSet: return inView(std::get<RepetitionSet>(edit));
        case EditKind::LegNamed: return inView(std::get<LegNamed>(edit));
        case EditKind::StandingSet: return inView(std::get<StandingSet>(edit));
        case EditKind::PointMarked: return inView(std::get<PointMarked>(edit));
        case EditKind::PersonChosen: return inView(std::get<PersonChosen>(edit));
        default: return false;
    }
}

/// Whether a later edit leaves nothing of an earlier one.
bool replaces(const Edit& later, const Edit& earlier) {
    if (kindOf(later) == EditKind::SecondAdded || kindOf(later) == EditKind::SecondRemoved)
        return isAboutSecond(earlier);
    if (kindOf(later) == EditKind::PersonChosen) return isAboutPerson(earlier, std::get<PersonChosen>(later).second);
    if (kindOf(later) == EditKind::CueTakenBack) return kindOf(earlier) == EditKind::CueGiven;
    if (kindOf(later) != kindOf(earlier)) return false;
    switch (kindOf(later)) {
        case EditKind::FactsSet:
        case EditKind::StandardChosen:
        case EditKind::SecondNudged:
        case EditKind::CueGiven:
        case EditKind::SecondApart: return true;
        case EditKind::SpanLeftOut: return std::get<SpanLeftOut>(later).span == std::get<SpanLeftOut>(earlier).span;
        case EditKind::Trimmed: return std::get<Trimmed>(later).second == std::get<Trimmed>(earlier).second;
        case EditKind::LandmarkMoved: {
            const auto &a = std::get<LandmarkMoved>(later), &b = std::get<LandmarkMoved>(earlier);
            return a.second == b.second && a.point.landmark == b.point.landmark && a.point.atS == b.point.atS;
        }
        case EditKind::RepetitionSet: {
            const auto &a = std::get<RepetitionSet>(later), &b = std::get<RepetitionSet>(earlier);
            return a.second == b.second && a.reps.within.fromS <= b.reps.within.fromS &&
                   a.reps.within.toS >= b.reps.within.toS;
        }
        case EditKind::LegNamed: {
            const auto &a = std::get<LegNamed>(later), &b = std::get<LegNamed>(earlier);
            return a.second == b.second && a.leg.atS == b.leg.atS;
        }
        case EditKind::StandingSet: return std::get<StandingSet>(later).second == std::get<StandingSet>(earlier).second;
        case EditKind::LengthTold: return std::get<LengthTold>(later).second == std::get<LengthTold>(earlier).second;
        case EditKind::NotePinned: {
            const auto &a = std::get<NotePinned>(later), &b = std::get<NotePinned>(earlier);
            return a.second == b.second && a.atS == b.atS;
        }
        case EditKind::PointMarked: {
            const auto &a = std::get<PointMarked>(later), &b = std::get<PointMarked>(earlier);
            return a.second == b.second && a.mark.kind == b.mark.kind;
        }
        default: return false;
    }
}

}  // namespace

SetFacts nextSet(SetFacts facts) {
    facts.log.effort.reset();
    facts.log.note.clear();
    facts.felt.clear();
    facts.pain.after.reset();
    return facts;
}

Edits with(Edits edits, Edit edit) {
    std::erase_if(edits, [&](const Edit& e) { return replaces(edit, e); });
    edits.push_back(std::move(edit));
    return edits;
}

Edits without(const Edits& a, const Edits& b) {
    std::vector<bool> used(b.size());
    Edits out;
    for (const Edit& e : a) {
        std::size_t i = 0;
        while (i < b.size() && (used[i] || !(b[i] == e))) ++i;
        if (i < b.size())
            used[i] = true;
        else
            out.push_back(e);
    }
    return out;
}

Edits rebased(const Edits& base, const Edits& mine, const Edits& theirs, const std::map<int, int>& moved) {
    auto there = [&](Edits edits) {
        auto put = [&](int& place) {
            if (const auto to = moved.find(place); to != moved.end()) place = to->second;
        };
        for (Edit& e : edits) {
            if (auto* second = std::get_if<SecondAdded>(&e)) put(second->observation);
            if (auto* person = std::get_if<PersonChosen>(&e)) put(person->observation);
        }
        return edits;
    };
    Edits out = without(theirs, there(without(base, mine)));
    for (Edit& e : there(without(mine, base))) out = with(std::move(out), std::move(e));
    return out;
}

std::vector<bool> observationsSpokenOf(const Edits& edits) {
    std::vector<bool> out{true};
    auto speakOf = [&](int place) {
        if (place < 0) return;
        const auto at = static_cast<std::size_t>(place);
        if (at >= out.size()) out.resize(at + 1);
        out[at] = true;
    };
    const EditedSet edited = fold(edits);
    if (edited.second) speakOf(edited.second->observation);
    for (const auto& view : edited.views)
        if (view.person) speakOf(view.person->observation);
    return out;
}

EditedSet fold(const Edits& edits) {
    EditedSet out;
    struct Visitor {
        EditedSet& s;
        void operator()(const FactsSet& e) { s.facts = e.facts; }
        void operator()(const StandardChosen& e) { s.standard = e.id; }
        void operator()(const SpanLeftOut& e) {
            std::erase_if(s.leftOut, [&](const Span& o) { return o.fromS < e.span.toS && e.span.fromS < o.toS; });
            if (e.out) s.leftOut.push_back(e.span);
        }
        void operator()(const SecondAdded& e) {
            s.second = EditedSet::Second{e.observation, e.together, 0};
            s.views[1] = {};
        }
        void operator()(const SecondRemoved&) {
            s.second.reset();
            s.views[1] = {};
        }
        void operator()(const SecondNudged& e) {
            if (s.second) s.second->nudgeS = e.nudgeS;
        }
        void operator()(const SecondApart& e) {
            if (s.second) s.second->together = e.together;
        }
        void operator()(const LandmarkMoved& e) { s.views[e.second].corrections.moved.push_back(e.point); }
        void operator()(const Trimmed& e) { s.views[e.second].trimmed = e.span; }
        void operator()(const RepetitionSet& e) { s.views[e.second].byHand.push_back(e.reps); }
        void operator()(const PersonChosen& e) {
            auto& view = s.views[e.second];
            view.person = e;
            view.corrections.moved.clear();
            view.corrections.standingAtS.reset();
            view.byHand.clear();
            view.legs.clear();
            view.marks.clear();
        }
        void operator()(const LegNamed& e) { s.views[e.second].legs.push_back(e.leg); }
        void operator()(const StandingSet& e) { s.views[e.second].corrections.standingAtS = e.atS; }
        void operator()(const LengthTold& e) { s.views[e.second].corrections.length = e.length; }
        void operator()(const NotePinned& e) {
            if (e.text.empty()) return;
            auto& notes = s.views[e.second].notes;
            notes.insert(std::upper_bound(notes.begin(), notes.end(), e,
                                          [](const NotePinned& a, const NotePinned& b) { return a.atS < b.atS; }),
                         e);
        }
        void operator()(const PointMarked& e) {
            if (!e.mark.clicks.empty()) s.views[e.second].marks.push_back(e.mark);
        }
        void operator()(const CueGiven& e) { s.cue = e; }
        void operator()(const CueTakenBack&) { s.cue.reset(); }
    };
    for (const Edit& e : edits) std::visit(Visitor{out}, e);
    return out;
}

}  // namespace zevo
