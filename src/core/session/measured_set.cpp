#include "core/session/measured_set.h"

#include <algorithm>
#include <cmath>

#include "core/base/degrees.h"
#include "core/reps/proposal.h"
#include "core/reps/working_leg.h"
#include "core/series/sinking.h"
#include "core/session/view_notices.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

/// The client's planar balance from their segments at rest and the ankle bend they showed or were measured to have.
///
/// A segment's length is half what the points show and half what people of their stature have (anthropometry.h): people
/// differ from the table by some 4 % (common practice, no source), the points by 5–10 % (docs/measurements.md, “What
/// the needed lean rests on”), and the mean of two independent witnesses errs less than either.
std::optional<BalanceModel> balanceOf(const Track& t, const Series& series, const std::vector<Rep>& reps,
                                      const SetContext& context) {
    if (t.view != ViewKind::Side || t.family != Family::Squat || t.bodyPx < 1) return std::nullopt;
    auto length = [&](Landmark a, Landmark b) {
        return (t.standingFlatAt(t.nearOf(a)) - t.standingFlatAt(t.nearOf(b))).norm() / t.bodyPx;
    };
    BalanceModel m;
    const double thighSeen = length(Landmark::LeftHip, Landmark::LeftKnee);
    m.shank = 0.5 * (m.shank + length(Landmark::LeftKnee, Landmark::LeftAnkle));
    m.thigh = 0.5 * (m.thigh + thighSeen);
    m.trunk = 0.5 * (m.trunk + length(Landmark::LeftShoulder, Landmark::LeftHip));
    // Knees that point outwards make the thighs look shorter at the bottom than at rest.
    std::vector<double> shown;
    for (const Rep& r : reps)
        shown.push_back(
            (t.flatAt(t.nearOf(Landmark::LeftHip), r.bottom) - t.flatAt(t.nearOf(Landmark::LeftKnee), r.bottom))
                .norm() /
            t.bodyPx / std::max(1e-3, thighSeen));
    constexpr double kMostOutDeg = 50;
    m.thighsOutDeg = std::min(kMostOutDeg, std::acos(std::clamp(median(shown), 0.0, 1.0)) * kDegreesPerRadian);
    m.wedgeDeg = context.wedgeDeg;
    m.load = context.movement.loadPlace(context.variation);
    m.arms = context.arms;
    m.aim = context.toesLight ? kAimHeels : kAimMiddle;
    m.loadShare = context.loadShare;
    if (context.ankleLimitDeg) m.ankleLimitDeg = *context.ankleLimitDeg, m.ankleOpenDeg = 0;
    // What the ankles show in most repetitions: one misread shin must not lend them an ankle they do not have.
    std::vector<double> bends;
    for (const Rep& r : reps) bends.push_back(shinInItsPlane(m, series.shinAngle[r.bottom] - context.wedgeDeg));
    m.ankleLimitDeg = std::max(m.ankleLimitDeg, median(bends));
    return m;
}

/// A lying client seen from the foot end is often misread: legs taken for each other or the head for a foot. Their
/// shanks then change their length from picture to picture, and planted feet their places, which real ones do not.
bool legsAreBelievable(const Track& t) {
    constexpr double kMostSpread = 0.5;  // of a shank's usual length, between its 10th and 90th percentile
    for (Side side : {Side::Left, Side::Right}) {
        std::vector<double> shank;
        for (std::size_t i = 0; i < t.size(); ++i)
            shank.push_back(
                (t.at(ofSide(Landmark::LeftAnkle, side), i) - t.at(ofSide(Landmark::LeftKnee, side), i)).norm());
        const double usual = median(shank);
        if (!(usual > 1) || quantile(shank, 0.9) - quantile(shank, 0.1) > kMostSpread * usual) return false;
    }
    auto leftFirst = [&](std::size_t i) {
        return t.at(Landmark::LeftAnkle, i).x() < t.at(Landmark::RightAnkle, i).x();
    };
    for (std::size_t i = 1; i < t.size(); ++i)
        if (leftFirst(i) != leftFirst(0)) return false;
    return true;
}

/// What a set without a repetition of the chosen movement looks like instead; empty when nothing fits.
std::string otherFamily(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context) {
    using Way = std::pair<Family, Drive>;
    for (const auto& [family, drive] : {Way{Family::Squat, Drive::Sinking}, Way{Family::Hinge, Drive::Folding},
                                        Way{Family::Bridge, Drive::HipRise}}) {
        if (family == context.movement.family) continue;
        Context as = context.context;
        as.family = family, as.drive = drive;
        const auto track = buildTrack(frames, clip.width, clip.height, as, {}, clip.hold);
        if (!track) continue;
        const Series series = computeSeries(*track);
        const std::string looks = looksLike(*track, series, findReps(*track, series));
        if (looks == familyName(family) || (looks == "lunge" && family == Family::Squat)) return looks;
    }
    return {};
}

/// The bounds of a repetition put where the coach says: what was found inside them makes way.
void setByHand(const Track& t, const Series& series, std::span<const RepsByHand> byHand, std::vector<Rep>& reps) {
    for (const RepsByHand& said : byHand) {
        std::erase_if(reps, [&](const Rep& r) { return said.within.holds(t.timesS[r.bottom]); });
        for (const Span& span : said.reps) {
            Rep rep;
            rep.start = t.sampleAt(span.fromS), rep.end = t.sampleAt(span.toS);
            // Repetitions share their ends at most. One that reaches into another begins behind it, or ends before it;
            // a moment both share is the turning point of the earlier one alone.
            bool shares = false;
            for (const Rep& other : reps) {
                if (other.bottom < rep.start + (rep.end - rep.start) / 2)
                    shares |= other.end >= rep.start, rep.start = std::max(rep.start, other.end);
                else
                    rep.end = std::min(rep.end, other.start);
            }
            if (rep.end <= rep.start + 2) continue;
            const auto first = series.depth.begin() + static_cast<std::ptrdiff_t>(rep.start + (shares ? 1 : 0)),
                       last = series.depth.begin() + static_cast<std::ptrdiff_t>(rep.end) + 1;
            rep.bottom = static_cast<std::size_t>(std::max_element(first, last) - series.depth.begin());
            rep.depth = series.depth[rep.bottom];
            constexpr double kNearly = 0.9;  // of the depth: there
            rep.arrive = rep.leave = rep.bottom;
            while (rep.arrive > rep.start && series.depth[rep.arrive - 1] > kNearly * rep.depth) --rep.arrive;
            while (rep.leave < rep.end && series.depth[rep.leave + 1] > kNearly * rep.depth) ++rep.leave;
            reps.push_back(rep);
        }
    }
    std::sort(reps.begin(), reps.end(), [](const Rep& a, const Rep& b) { return a.start < b.start; });
    for (std::size_t i = 0; i < reps.size(); ++i) reps[i].index = static_cast<int>(i) + 1;
}

void nameByHand(const Track& t, std::span<const LegByHand> legs, std::vector<Rep>& reps) {
    for (const LegByHand& said : legs)
        for (Rep& rep : reps)
            if (said.atS >= t.timesS[rep.start] && said.atS <= t.timesS[rep.end]) rep.leg = said.leg;
}

}  // namespace

Result<void> findRepetitions(MeasuredView& view, const PoseFrames& frames, const SetContext& context,
                             const ByHand& byHand) {
    // When a turning point was reached and left is read off the points as they were followed (Track::asFollowed).
    const Track& t = view.track->followed();
    const Series followed = view.track->asFollowed ? computeSeries(t) : Series();
    const Series& series = view.track->asFollowed ? followed : view.series->side;
    if (t.view == ViewKind::FootEnd && !legsAreBelievable(t)) return refusal(NoticeKind::LegsNotToldApart);
    // Before repetitions are looked for in the wrong thing: does the picture contradict the movement?
    if (const auto refused = contradictionAtRest(t, context.movement))
        return refusal(refused->kind, refused->arguments);
    auto reps = findReps(t, series);
    setByHand(t, series, byHand.reps, reps);
    if (reps.empty()) {
        const std::string looks = otherFamily(frames, view.clip, context);
        if (!looks.empty())
            return refusal(NoticeKind::OtherMovement, {familyName(context.movement.family), looks},
                           "looks like " + looks);
        return refusal(NoticeKind::NoRepetition, {std::string(t.drive == Drive::HipRise ? "lying" : "standing")});
    }
    if (const auto refused = contradictionInMotion(t, series, context.movement, reps))
        return refusal(refused->kind, refused->arguments);
    nameWorkingLegs(*view.track, context.movement, reps);
    nameByHand(*view.track, byHand.legs, reps);
    view.reps = std::move(reps);
    const std::string looks = looksLike(t, series, view.reps);
    view.looksLike = !looks.empty() && looks != familyName(context.movement.family) ? looks : std::string();
    return {};
}

void measureRepetitions(MeasuredView& view, const SetContext& context) {
    const Track& t = *view.track;
    const ViewSeries& series = *view.series;
    view.balance = balanceOf(t, series.side, view.reps, context);
    view.measured.clear();
    for (std::size_t i = 0; i < view.reps.size(); ++i) {
        const Rep& rep = view.reps[i];
        auto time = [&](std::size_t s) { return t.timesS[s]; };
        const MeasureInput input{t,
                                 series.side,
                                 series.front ? &*series.front : nullptr,
                                 rep,
                                 i + 1 < view.reps.size() ? &view.reps[i + 1] : nullptr,
                                 series.levelDoubtDeg,
                                 context.movement,
                                 view.balance ? &*view.balance : nullptr,
                                 context.stoodStraight,
                                 view.back.get(),
                                 context.shirt,
                                 backIsCovered(context),
                                 view.marks.get(),
                                 context.movement.hands(context.variation)};
        view.measured.push_back({rep.index, rep.kind, time(rep.start), time(rep.arrive), time(rep.bottom),
                                 time(rep.leave), time(rep.end), rep.leg, measureRep(input)});
    }
    sayWhatLimits(view, context);
}

void readBack(MeasuredView& view, std::span<const Outline> contours) {
    view.back = contours.empty() || view.track->view != ViewKind::Side
                    ? nullptr
                    : std::make_shared<const BackLine>(view.track, view.series, view.reps, contours);
}

void readMarks(MeasuredView& view, std::span<const Mark> marks) {
    view.marks = marks.empty() ? nullptr : std::make_shared<const MarkLines>(view.track, view.reps, marks);
}

Result<MeasuredView> measureView(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context,
                                 std::span<const SecondEstimate> secondEstimates, std::span<const Outline> contours) {
    Context seen = context.context;
    seen.family = context.movement.family;
    seen.drive = context.movement.drive;
    auto track = buildTrack(frames, clip.width, clip.height, seen, secondEstimates, clip.hold);
    if (!track) return track.error();
    MeasuredView view;
    view.clip = clip;
    view.track = std::make_shared<const Track>(std::move(*track));
    view.series = std::make_shared<const ViewSeries>(computeViewSeries(*view.track));
    if (auto found = findRepetitions(view, frames, context); !found) return found.error();
    readBack(view, contours);
    measureRepetitions(view, context);
    return view;
}

MeasuredSet setOf(MeasuredView first, const SetContext& context) {
    MeasuredSet set;
    SetResult& r = set.result;
    const Track& t = *first.track;
    r.clip = first.clip;
    r.context = context;
    r.view = t.view;
    r.near = t.near;
    r.offSquareDeg = t.offSquareDeg();
    r.trackedShare = t.trackedShare;
    r.reps = first.measured;
    r.looksLike = first.looksLike;
    r.notices = first.notices;
    set.first = std::move(first);
    return set;
}

Result<void> joinView(MeasuredSet& set, MeasuredView other, bool sameTake, double nudgeS) {
    const Track &mine = set.track(), &theirs = *other.track;
    if (mine.view == theirs.view || (isFrontal(mine.view) && isFrontal(theirs.view)))
        return refusal(NoticeKind::SameView, {}, viewName(theirs.view));
    SecondView second{other.clip,
                      theirs.view,
                      theirs.trackedShare,
                      alignCourses({mine.timesS, sinkingOf(mine, PointSet::Flat)},
                                   {theirs.timesS, sinkingOf(theirs, PointSet::Flat)}),
                      nudgeS,
                      sameTake,
                      other.measured};
    for (auto& rep : second.reps)
        for (auto& m : rep.measures) m.second = true;
    SetResult joinedSet = set.result;
    if (sameTake) {
        // The turning point may be read at either end of a hold; the repetition as a whole lies where it lies.
        const double lag = second.lagS();
        auto shared = [lag](const MeasuredRep& a, const MeasuredRep& b) {
            const double both = std::min(a.endS, b.endS - lag) - std::max(a.startS, b.startS - lag);
            return both / std::max(1e-3, std::min(a.endS - a.startS, b.endS - b.startS));
        };
        int joined = 0;
        for (auto& rep : joinedSet.reps)
            for (const auto& seen : second.reps) {
                if (shared(rep, seen) < 0.5) continue;
                ++joined;
                for (const auto& m : seen.measures) {
                    const auto mine = std::find_if(rep.measures.begin(), rep.measures.end(),
                                                   [&](const Measurement& k) { return k.measure == m.measure; });
                    if (mine == rep.measures.end())
                        rep.measures.push_back(m);
                    else if (theirs.view == ViewKind::Side && m.measure->course.fromFront)
                        *mine = m;  // told from the front only where nothing shows it from the side
                }
                break;
            }
        if (joined == 0) return refusal(NoticeKind::NothingInCommon, {}, "lag " + std::to_string(second.lagS()));
        if (joined < static_cast<int>(joinedSet.reps.size()))
            joinedSet.notices.push_back({NoticeKind::SecondShowsFewer,
                                         {static_cast<double>(joined), static_cast<double>(joinedSet.reps.size())}});
    }
    // What a view does not tell is no limit of the set when the other clip shows the side; all else the second clip is
    // limited by holds for the set as well.
    auto& notices = joinedSet.notices;
    if (theirs.view == ViewKind::Side)
        std::erase_if(notices, [&](const Notice& n) { return n.kind == viewNotice(mine.view); });
    for (const Notice& n : other.notices)
        if (n.kind != viewNotice(theirs.view) && std::find(notices.begin(), notices.end(), n) == notices.end())
            notices.push_back(n);
    joinedSet.second = std::move(second);
    set.result = std::move(joinedSet);
    set.other = std::move(other);
    return {};
}

Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context,
                               std::span<const SecondEstimate> secondEstimates) {
    auto view = measureView(frames, clip, context, secondEstimates);
    if (!view) return view.error();
    return setOf(std::move(*view), context);
}

Result<void> joinSecondView(MeasuredSet& set, const PoseFrames& frames, const ClipFacts& clip, bool sameTake,
                            double nudgeS, std::span<const SecondEstimate> secondEstimates) {
    SetContext context = set.result.context;
    context.context.view = "auto";
    auto other = measureView(frames, clip, context, secondEstimates);
    if (!other) {
        Error error = other.error();
        if (error.notice) error.notice->second = true;
        return error;
    }
    return joinView(set, std::move(*other), sameTake, nudgeS);
}

}  // namespace zevo
