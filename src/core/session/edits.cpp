#include "core/session/edits.h"

#include <algorithm>

namespace zevo {
namespace {

/// Whether a later edit leaves nothing of an earlier one.
bool replaces(const Edit& later, const Edit& earlier) {
    if (kindOf(later) == EditKind::SecondAdded || kindOf(later) == EditKind::SecondRemoved) {
        const auto k = kindOf(earlier);
        return k == EditKind::SecondAdded || k == EditKind::SecondRemoved || k == EditKind::SecondNudged ||
               k == EditKind::SecondApart;
    }
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
        default: return false;
    }
}

}  // namespace

Edits with(Edits edits, Edit edit) {
    std::erase_if(edits, [&](const Edit& e) { return replaces(edit, e); });
    edits.push_back(std::move(edit));
    return edits;
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
        void operator()(const SecondAdded& e) { s.second = EditedSet::Second{e.observation, e.together, 0}; }
        void operator()(const SecondRemoved&) { s.second.reset(); }
        void operator()(const SecondNudged& e) {
            if (s.second) s.second->nudgeS = e.nudgeS;
        }
        void operator()(const SecondApart& e) {
            if (s.second) s.second->together = e.together;
        }
        void operator()(const LandmarkMoved& e) { s.views[e.second].moved.push_back(e.point); }
        void operator()(const Trimmed& e) { s.views[e.second].trimmed = e.span; }
        void operator()(const RepetitionSet& e) { s.views[e.second].byHand.push_back(e.bounds); }
        void operator()(const PersonChosen&) {}
        void operator()(const CueGiven& e) { s.cue = e; }
        void operator()(const CueTakenBack&) { s.cue.reset(); }
    };
    for (const Edit& e : edits) std::visit(Visitor{out}, e);
    return out;
}

}  // namespace zevo
