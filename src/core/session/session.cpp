#include "core/session/session.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <set>

namespace zevo {

SetContext contextOf(const SetFacts& f, const Movement& movement, const std::string& model) {
    SetContext c;
    c.context.statureCm = f.statureCm;
    c.context.view = f.view;
    c.context.family = movement.family;
    c.context.drive = movement.drive;
    c.movement = movement;
    c.variation = movement.variation(f.variation) ? f.variation : std::string();
    c.model = model;
    c.loadShare = f.heldShare();
    c.ankleLimitDeg = f.ankleLimitDeg;
    c.wedgeDeg = f.wedgeDeg;
    c.stoodStraight = f.stoodStraight;
    c.tempo = f.tempo;
    c.pain = f.pain;
    c.felt = f.felt;
    c.shirt = f.shirt;
    c.asks = f.asks;
    c.heldKg = f.log.load.totalKg();
    c.boxCm = f.log.boxCm, c.pole = f.log.pole, c.shoes = f.log.shoes, c.effort = f.log.effort;
    return c;
}

namespace {

/// A set is set up as it is asked, or as it was before.
void setUp(SetFacts& facts, const Ask& ask, const AskRung& rung, bool lifted) {
    if (!rung.variation.empty()) {
        if (!lifted && facts.variation.empty()) facts.variation = rung.variation;
        if (lifted && facts.variation == rung.variation) facts.variation.clear();
    }
    const double amount = lifted ? 0 : amountOf(ask, rung).value_or(0);
    switch (rung.sets) {
        case AskRung::Sets::Nothing: break;
        case AskRung::Sets::BoxCm: facts.log.boxCm = amount; break;
        case AskRung::Sets::WedgeDeg: facts.wedgeDeg = amount; break;
        case AskRung::Sets::Pole: facts.log.pole = !lifted; break;
    }
}

/// The school as it judges this set.
Standard schoolOf(const Standard& school, const SetFacts& facts, const Movement& movement, const Catalogue& catalogue) {
    const Standard chosen = withChoices(school, catalogue.choices, facts.choices, movement);
    const std::string known = movement.variation(facts.variation) ? facts.variation : std::string();
    return withAsks(chosen.forSet(movement.id, judgedAs(known, chosen.choices, catalogue.choices, movement)),
                    catalogue.asks, facts.asks, movement);
}

/// Poses inside a trimmed span, or all of them.
PoseFrames within(const PoseFrames& poses, const Span& span) {
    PoseFrames out;
    for (const auto& f : poses)
        if (span.holds(f.timeS)) out.push_back(f);
    return out;
}

/// What a view is made from besides its observation.
struct ViewWish {
    const EditedSet::View& edits;
    Context context;
    const SetContext& set;
};

struct ViewBefore {
    const MeasuredView* view = nullptr;  ///< of the same observation
    const EditedSet::View* edits = nullptr;
    const SetContext* set = nullptr;
    bool kept = false;
};

bool sameTrackInputs(const Context& a, const Context& b) {
    return a.statureCm == b.statureCm && a.view == b.view && a.family == b.family && a.drive == b.drive;
}
bool sameRepetitionInputs(const SetContext& a, const SetContext& b) {
    return a.movement.id == b.movement.id;
}
bool sameMeasureInputs(const SetContext& a, const SetContext& b) {
    return a.variation == b.variation && a.loadShare == b.loadShare && a.wedgeDeg == b.wedgeDeg &&
           a.ankleLimitDeg == b.ankleLimitDeg && a.arms == b.arms && a.toesLight == b.toesLight &&
           a.stoodStraight == b.stoodStraight && a.shirt == b.shirt;
}

/// Marks the values that the coach's points changed with what the network had in their place.
void markCorrected(const std::vector<MeasuredRep>& withoutManual, const Track& track, std::vector<MeasuredRep>& reps) {
    for (MeasuredRep& rep : reps) {
        const auto same = std::find_if(withoutManual.begin(), withoutManual.end(), [&](const MeasuredRep& o) {
            return o.bottomS >= rep.startS && o.bottomS <= rep.endS;
        });
        if (same == withoutManual.end()) continue;
        const bool touched = std::any_of(
            track.manualPoints.begin(), track.manualPoints.end(),
            [&](const ManualPoint& m) { return m.atS + m.reachS >= rep.startS && m.atS - m.reachS <= rep.endS; });
        for (Measurement& m : rep.measures)
            if (const Measurement* was = same->find(m.measure);
                touched && was && (was->value != m.value || was->pm90 != m.pm90))
                m.withoutManual = was->value;
    }
}

Result<MeasuredView> makeView(const Observation& seen, const ViewWish& wish, const ViewBefore& before, bool kept,
                              Stage& from);

/// What the view comes to without the points the coach moved: from the state before where nothing else changed, so
/// that dragging a point measures once and not twice. Nothing where it cannot be measured without them.
std::shared_ptr<const std::vector<MeasuredRep>> withoutManualBy(const Observation& seen, const ViewWish& wish,
                                                                const ViewBefore& before) {
    EditedSet::View bare = wish.edits;
    bare.corrections.moved.clear();
    if (before.view && !before.kept && sameTrackInputs(before.set->context, wish.context) &&
        sameRepetitionInputs(*before.set, wish.set) && sameMeasureInputs(*before.set, wish.set)) {
        EditedSet::View was = *before.edits;
        const bool wasBare = was.corrections.moved.empty();
        was.corrections.moved.clear();
        if (was == bare && wasBare) return std::make_shared<const std::vector<MeasuredRep>>(before.view->measured);
        if (was == bare && before.view->withoutManual) return before.view->withoutManual;
    }
    Stage ignored = Stage::Clean;
    auto view = makeView(seen, {bare, wish.context, wish.set}, {}, false, ignored);
    if (!view) return nullptr;
    return std::make_shared<const std::vector<MeasuredRep>>(std::move(view->measured));
}

/// Makes one view from the first part that changed; `from` tells which.
Result<MeasuredView> makeView(const Observation& seen, const ViewWish& wish, const ViewBefore& before, bool kept,
                              Stage& from) {
    from = Stage::Clean;
    const bool sameFrames = before.view && before.edits->trimmed == wish.edits.trimmed;
    if (sameFrames) from = Stage::Track;
    if (sameFrames && before.edits->corrections == wish.edits.corrections && before.view->track &&
        sameTrackInputs(before.set->context, wish.context))
        from = Stage::Repetitions;
    if (from == Stage::Repetitions && !before.kept && before.edits->byHand == wish.edits.byHand &&
        before.edits->legs == wish.edits.legs && sameRepetitionInputs(*before.set, wish.set))
        from = Stage::Measures;
    if (from == Stage::Measures && sameMeasureInputs(*before.set, wish.set) && before.edits->marks == wish.edits.marks)
        from = Stage::Nothing;
    if (from == Stage::Nothing) return *before.view;

    MeasuredView view;
    if (before.view) view = *before.view;
    view.clip = seen.clip;
    const PoseFrames trimmed = wish.edits.trimmed ? within(seen.poses, *wish.edits.trimmed) : PoseFrames();
    const PoseFrames& frames = wish.edits.trimmed ? trimmed : seen.poses;
    if (from == Stage::Clean) {
        auto cleaned = cleanPoses(frames, seen.clip.width, seen.clip.height, seen.clip.hold);
        if (!cleaned) return cleaned.error();
        view.cleaned = std::make_shared<const CleanedPoses>(std::move(*cleaned));
    }
    if (from <= Stage::Track) {
        auto track = finishTrack(*view.cleaned, frames, wish.context, wish.edits.corrections, seen.secondEstimates);
        if (!track) return track.error();
        view.track = std::make_shared<const Track>(std::move(*track));
        view.series = std::make_shared<const ViewSeries>(computeViewSeries(*view.track));
        assert(view.series->side.depth.size() == view.track->size());
    }
    if (kept) return view;  // repetitions and values are taken from the record
    if (from <= Stage::Repetitions) {
        view.reps.clear();
        if (auto found = findRepetitions(view, frames, wish.set, {wish.edits.byHand, wish.edits.legs}); !found)
            return found.error();
        readBack(view, seen.contours);
    }
    readMarks(view, wish.edits.marks);
    measureRepetitions(view, wish.set);
    if (wish.edits.corrections.moved.empty()) {
        view.withoutManual = nullptr;
        return view;
    }
    if (auto seenAlone = withoutManualBy(seen, wish, before)) {
        view.withoutManual = std::move(seenAlone);
        markCorrected(*view.withoutManual, *view.track, view.measured);
    }
    return view;
}

/// Chooses the school: the one asked for, else the movement's default.
Result<Standard> schoolFor(const EditedSet& edited, const Movement& movement, const Catalogue& catalogue,
                           bool& missing) {
    const auto standards = catalogue.standardsFor(movement);
    if (standards.empty()) return Error{"There is no standard for this movement.", movement.id};
    const auto named =
        std::find_if(standards.begin(), standards.end(), [&](const Standard& s) { return s.id == edited.standard; });
    const bool known = std::any_of(catalogue.standards.begin(), catalogue.standards.end(),
                                   [&](const Standard& s) { return s.id == edited.standard; });
    // One that is there but made for another movement waits until that movement is chosen again.
    missing = !edited.standard.empty() && !known;
    return named == standards.end() ? standards.front() : *named;
}

}  // namespace

const Movement* Catalogue::movement(const std::string& id) const {
    const auto found = std::find_if(movements.begin(), movements.end(), [&](const Movement& m) { return m.id == id; });
    return found == movements.end() ? nullptr : &*found;
}

SetFacts askedAnew(SetFacts facts, Asks asks, const Catalogue& catalogue) {
    const Movement* movement = catalogue.movement(facts.movement);
    auto setUpWhere = [&](const Asks& these, const Asks& notIn, bool lifted) {
        for (const Ask& ask : these)
            if (const AskRung* rung = movement ? rungOf(ask, catalogue.asks, *movement) : nullptr;
                rung && std::find(notIn.begin(), notIn.end(), ask) == notIn.end())
                setUp(facts, ask, *rung, lifted);
    };
    setUpWhere(facts.asks, asks, true);
    setUpWhere(asks, facts.asks, false);
    facts.asks = std::move(asks);
    return facts;
}

SetFacts atMovement(SetFacts facts, const std::string& movement, const std::string& variation,
                    const Catalogue& catalogue) {
    const bool other = facts.movement != movement;
    Asks asks = facts.asks;
    if (other) facts = askedAnew(std::move(facts), {}, catalogue);
    facts.movement = movement;
    facts.variation = variation;
    if (!other) return facts;
    facts.substitute.reset();
    return askedAnew(std::move(facts), std::move(asks), catalogue);
}

SetFacts factsAfter(const EditedSet& set, const Catalogue& catalogue) {
    return askedAnew(nextSet(set.facts), asksAfter(set), catalogue);
}

bool judges(const Standard& standard, const Movement& movement) {
    return standard.movement == movement.id || standard.movement == familyName(movement.family);
}

std::vector<Standard> Catalogue::standardsFor(const Movement& m) const {
    std::vector<Standard> out;
    auto take = [&](const Standard& s) {
        if (judges(s, m) && std::none_of(out.begin(), out.end(), [&](const Standard& o) { return o.id == s.id; }))
            out.push_back(s);
    };
    for (const auto& id : m.standards)
        for (const Standard& s : standards)
            if (s.id == id) take(s);
    // A shipped school of the family that the movement does not name is not offered; the coach's own are.
    for (const Standard& s : standards)
        if (s.own) take(s);
    return out;
}

std::optional<Standard> standardFor(const EditedSet& edited, const Catalogue& catalogue) {
    const Movement* movement = catalogue.movement(edited.facts.movement);
    if (!movement) return std::nullopt;
    bool missing = false;
    auto school = schoolFor(edited, *movement, catalogue, missing);
    if (!school) return std::nullopt;
    return standardOf(contextOf(edited.facts, *movement), schoolOf(*school, edited.facts, *movement, catalogue));
}

Result<SetState> recompute(const Observations& observations, const Edits& edits, const Catalogue& catalogue,
                           const SetState* before, const KeptValues* kept, bool strictSecond) {
    assert(!observations.empty());
    SetState state;
    state.edited = fold(edits);
    const EditedSet& e = state.edited;
    const Movement* movement = catalogue.movement(e.facts.movement);
    if (!movement) return refusal(NoticeKind::UnknownMovement, {e.facts.movement});
    // Where the coach chose a person, what was seen of that one.
    auto seenOf = [&](bool second, int otherwise) {
        const auto& person = e.views[second].person;
        const int at = person && person->observation > 0 ? person->observation : otherwise;
        const auto i = static_cast<std::size_t>(at);
        return i < observations.size() && observations[i] ? observations[i]
                                                          : observations[static_cast<std::size_t>(otherwise)];
    };
    state.first = seenOf(false, 0);
    auto school = schoolFor(e, *movement, catalogue, state.standardMissing);
    if (!school) return school.error();
    state.wholeStandard = school->id;
    const std::string schoolTitle = school->title;
    *school = schoolOf(*school, e.facts, *movement, catalogue);
    SetContext context = contextOf(e.facts, *movement, state.first->model);
    context.arms = armsOf(school->choices);
    context.toesLight = toesLight(school->choices);
    state.kept = kept != nullptr;

    auto beforeOf = [&](bool second, const std::shared_ptr<const Observation>& seen) -> ViewBefore {
        if (!before || (second ? before->second : before->first) != seen) return {};
        if (second && !before->set.other) return {};
        return {&before->set.view(second), &before->edited.views[second], &before->set.result.context, before->kept};
    };
    Stage firstFrom = Stage::Clean, secondFrom = Stage::Nothing;
    auto first = makeView(*state.first, {e.views[0], context.context, context}, beforeOf(false, state.first),
                          state.kept, firstFrom);
    if (!first) return first.error();
    if (kept) {
        first->measured = kept->reps;
        first->notices = {{NoticeKind::OlderEngine, {static_cast<double>(kept->engine)}}};
    }
    state.set = setOf(std::move(*first), context);
    state.set.result.notices.insert(state.set.result.notices.end(), state.first->notices.begin(),
                                    state.first->notices.end());

    const bool wantsSecond =
        e.second && e.second->observation > 0 && e.second->observation < static_cast<int>(observations.size());
    if (wantsSecond) {
        state.second = seenOf(true, e.second->observation);
        SetContext seconds = context;
        seconds.context.view = "auto";
        auto theirs = makeView(*state.second, {e.views[1], seconds.context, seconds}, beforeOf(true, state.second),
                               state.kept, secondFrom);
        Result<void> joined = theirs ? Result<void>() : Result<void>(theirs.error());
        if (theirs && kept) theirs->measured = kept->secondReps;
        if (theirs) joined = joinView(state.set, std::move(*theirs), e.second->sameTake, e.second->nudgeS);
        if (!joined) {
            Error why = joined.error();
            const bool ofItsOwn = why.notice && why.notice->kind != NoticeKind::SameView &&
                                  why.notice->kind != NoticeKind::NothingInCommon;
            if (why.notice && ofItsOwn) why.notice->second = true;
            if (strictSecond) return why;
            state.secondError = why;
            state.set.result.notices.push_back({NoticeKind::SecondLeftOut, {}});
        } else {
            for (Notice n : state.second->notices) {
                n.second = true;
                state.set.result.notices.push_back(n);
            }
        }
    } else {
        state.second = nullptr;
    }

    if (state.standardMissing)
        state.set.result.notices.push_back({NoticeKind::StandardMissing, {e.standard, schoolTitle}});
    state.set.result.leftOut = e.leftOut;
    state.standard = standardOf(context, *school);
    judgeSet(state.set.result, *school);
    state.from = std::min(firstFrom, secondFrom);
    if (state.from == Stage::Nothing) state.from = Stage::Judgement;
    return state;
}

Differences differencesBetween(const SetResult& before, const SetResult& after) {
    Differences d;
    auto counted = [](const SetResult& r) {
        return static_cast<int>(
            std::count_if(r.reps.begin(), r.reps.end(), [&](const MeasuredRep& rep) { return r.counts(rep); }));
    };
    d.repsBefore = counted(before), d.repsAfter = counted(after);
    auto faults = [](const SetResult& r) {
        std::set<std::string> out;
        for (const auto& f : r.findings)
            if (f.severity != Severity::Unsure) out.insert(f.fault);
        return out;
    };
    const auto was = faults(before), is = faults(after);
    std::set_difference(was.begin(), was.end(), is.begin(), is.end(), std::back_inserter(d.faultsGone));
    std::set_difference(is.begin(), is.end(), was.begin(), was.end(), std::back_inserter(d.faultsNew));
    constexpr double kWorthAWord = 0.1;
    for (const auto& rep : after.reps)
        for (const auto& old : before.reps) {
            if (old.bottomS < rep.startS || old.bottomS > rep.endS) continue;
            for (const auto& m : rep.measures)
                if (const Measurement* o = old.find(m.measure);
                    o && std::abs(o->value - m.value) > kWorthAWord * std::max(m.pm90, 1e-9))
                    d.values.push_back({rep.index, m.measure, o->value, m.value, m.pm90});
        }
    std::stable_sort(d.values.begin(), d.values.end(), [](const ValueChange& a, const ValueChange& b) {
        return std::abs(a.after - a.before) * b.pm90 > std::abs(b.after - b.before) * a.pm90;
    });
    return d;
}

}  // namespace zevo
