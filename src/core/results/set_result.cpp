#include "core/results/set_result.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "core/measures/front_series.h"
#include "core/measures/sinking.h"
#include "core/reps/proposal.h"
#include "core/reps/working_leg.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

std::string percent(double share) {
    return std::to_string(static_cast<int>(std::lround(100 * share)));
}

/// The client's planar balance from his segments at rest and the ankle bend he showed or was measured to have.
std::optional<BalanceModel> balanceOf(const Track& t, const Series& series, const std::vector<Rep>& reps,
                                      const SetContext& context) {
    if (t.view != ViewKind::Side || t.family != Family::Squat || t.bodyPx < 1) return std::nullopt;
    auto length = [&](Landmark a, Landmark b) {
        return (t.standingFlatAt(t.nearOf(a)) - t.standingFlatAt(t.nearOf(b))).norm() / t.bodyPx;
    };
    BalanceModel m;
    m.shank = length(Landmark::LeftKnee, Landmark::LeftAnkle);
    m.thigh = length(Landmark::LeftHip, Landmark::LeftKnee);
    m.trunk = length(Landmark::LeftShoulder, Landmark::LeftHip);
    // Knees that point outwards make the thighs look shorter at the bottom than at rest.
    std::vector<double> shown;
    for (const Rep& r : reps)
        shown.push_back(
            (t.flatAt(t.nearOf(Landmark::LeftHip), r.bottom) - t.flatAt(t.nearOf(Landmark::LeftKnee), r.bottom))
                .norm() /
            t.bodyPx / m.thigh);
    constexpr double kMostOutDeg = 50;
    m.thighsOutDeg = std::min(kMostOutDeg, std::acos(std::clamp(median(shown), 0.0, 1.0)) * 180 / std::numbers::pi);
    m.wedgeDeg = context.wedgeDeg;
    m.load = context.movement.loadPlace(context.variation);
    m.loadShare = context.loadShare;
    if (context.ankleLimitDeg) m.ankleLimitDeg = *context.ankleLimitDeg, m.ankleOpenDeg = 0;
    for (const Rep& r : reps)
        m.ankleLimitDeg = std::max(m.ankleLimitDeg, shinInItsPlane(m, series.shinAngle[r.bottom] - context.wedgeDeg));
    return m;
}

/// What a view by itself does not tell; empty for the side.
std::string viewNote(ViewKind view) {
    switch (view) {
        case ViewKind::Oblique:
            return "Seen at an angle, between side and front: only repetitions and times are judged. Film from the "
                   "side for depth, trunk and heels, from the front for knees, stance and hips.";
        case ViewKind::Front: return "Seen from the front: depth, trunk and heels need a side view.";
        case ViewKind::Rear: return "Seen from the back: depth, trunk and heels need a side view.";
        case ViewKind::FootEnd: return "Seen from the foot end: the height of the hips and the times need a side view.";
        case ViewKind::Side: break;
    }
    return {};
}

void warnAbout(MeasuredSet& set, double level) {
    SetResult& r = set.result;
    const Track& t = set.track;
    auto warn = [&](const std::string& text) { r.warnings.push_back(text); };
    if (t.cmPerPixel <= 0) warn("The client's stature is not known: lengths in centimetres were left out.");
    if (r.trackedShare < 0.95)
        warn("The client was lost in " + percent(1 - r.trackedShare) + " % of the frames; values there are less sure.");
    if (level > 0)
        warn(
            "The client seems to stand off balance: the camera may not be level, or a foot may be hidden. Leans of "
            "trunk, shin and thigh are less sure.");
    if (t.view == ViewKind::Side && r.offSquareDeg > 15)
        warn("The camera stands about " + std::to_string(std::lround(r.offSquareDeg)) +
             "° off a square side view; angles are less sure.");
    const std::string note = viewNote(t.view);
    if (!note.empty()) warn(note);
    if (isFrontal(t.view))
        warn(
            "Whether one hip drops cannot be read surely from a picture (±14°): look yourself, or tape both hip "
            "bones.");
}

/// A lying client seen from the foot end is often misread: legs taken for each other or the head for a foot. His shanks
/// then change their length from picture to picture, and planted feet their places, which real ones do not.
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

/// Measured values of the judged measures in the repetitions that count, by measure.
std::map<std::string, std::vector<const Measurement*>> valuesOf(const std::vector<MeasuredRep>& reps) {
    std::map<std::string, std::vector<const Measurement*>> out;
    for (const auto& rep : reps)
        if (rep.kind != RepKind::Partial)
            for (const auto& m : rep.measures) out[m.id].push_back(&m);
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
        constexpr double kJitterShare = 0.38;
        result.drifts.push_back({id, trend, trend.p < kChance && std::abs(trend.change) > kJitterShare * pm});
    }
    std::stable_sort(result.drifts.begin(), result.drifts.end(),
                     [](const Drift& a, const Drift& b) { return a.moreThanNoise > b.moreThanNoise; });
}

void compareLegs(const std::vector<MeasuredRep>& counted, SetResult& result) {
    result.legs.clear();
    std::map<std::string, std::array<std::vector<const Measurement*>, 2>> byLeg;
    for (const auto& rep : counted) {
        if (rep.kind == RepKind::Partial) continue;
        for (const auto& m : rep.measures) {
            std::string id = m.id;
            std::optional<Side> side = sideOf(m, rep);
            // Times and the trunk belong to the leg that works as well.
            if (!side) side = rep.leg;
            for (const char* end : {"_left", "_right"})
                if (id.ends_with(end)) id.erase(id.size() - std::string(end).size());
            if (side) byLeg[id][static_cast<std::size_t>(*side)].push_back(&m);
        }
    }
    for (const auto& [id, sides] : byLeg) {
        if (sides[0].empty() || sides[1].empty()) continue;
        std::array<std::vector<double>, 2> values;
        double pm = 0;
        for (std::size_t k = 0; k < 2; ++k)
            for (const auto* m : sides[k]) values[k].push_back(m->value), pm = std::max(pm, m->pm90);
        result.legs.push_back({id, sides[0].front()->unit, compareSides(values[0], values[1], pm)});
    }
}

/// What a set without a repetition of the chosen movement looks like instead; empty when nothing fits.
std::string otherFamily(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context) {
    using Way = std::pair<Family, Drive>;
    for (const auto& [family, drive] : {Way{Family::Squat, Drive::Sinking}, Way{Family::Hinge, Drive::Folding},
                                        Way{Family::Bridge, Drive::HipRise}}) {
        if (family == context.movement.family) continue;
        Context as = context.context;
        as.family = family, as.drive = drive;
        const auto track = buildTrack(frames, clip.width, clip.height, as);
        if (!track) continue;
        const Series series = computeSeries(*track);
        const std::string looks = looksLike(*track, series, findReps(*track, series));
        if (looks == familyName(family) || (looks == "lunge" && family == Family::Squat)) return looks;
    }
    return {};
}

}  // namespace

Result<MeasuredSet> measureSet(const PoseFrames& frames, const ClipFacts& clip, const SetContext& context) {
    Context seen = context.context;
    seen.family = context.movement.family;
    seen.drive = context.movement.drive;
    auto track = buildTrack(frames, clip.width, clip.height, seen);
    if (!track) return track.error();
    MeasuredSet set;
    set.track = std::move(*track);
    const Track& t = set.track;
    if (t.view == ViewKind::FootEnd && !legsAreBelievable(t))
        return Error{
            "From the foot end the legs could not be told apart surely enough. Film the bridge from the side; "
            "whether knees and hips stay level has to be seen by eye.",
            "foot-end"};
    SetResult& r = set.result;
    r.clip = clip;
    r.context = context;
    r.view = t.view;
    r.near = t.near;
    r.offSquareDeg = t.offSquareDeg;
    r.trackedShare = t.trackedShare;
    r.timesS = t.timesS;
    r.series = computeSeries(t);
    std::optional<FrontSeries> front;
    if (isFrontal(t.view) || t.view == ViewKind::FootEnd) front = computeFrontSeries(t);

    const double level = levelDoubt(t, r.series);
    auto reps = findReps(t, r.series);
    if (reps.empty()) {
        const std::string looks = otherFamily(frames, clip, context);
        if (!looks.empty())
            return Error{"Not one whole " + familyName(context.movement.family) + " was found: this looks like a " +
                             looks + ". Choose that movement and open the clip again.",
                         "looks like " + looks};
        return Error{"Not one whole repetition was found. Film from " +
                         std::string(t.drive == Drive::HipRise ? "lying to lying" : "standing to standing") +
                         ", with the whole body in the picture.",
                     ""};
    }
    nameWorkingLegs(t, context.movement, reps);
    const auto balance = balanceOf(t, r.series, reps, context);
    for (std::size_t i = 0; i < reps.size(); ++i) {
        const Rep& rep = reps[i];
        auto time = [&](std::size_t s) { return t.timesS[s]; };
        const MeasureInput input{
            t,     r.series,         front ? &*front : nullptr,    rep, i + 1 < reps.size() ? &reps[i + 1] : nullptr,
            level, context.movement, balance ? &*balance : nullptr};
        r.reps.push_back({rep.index, rep.kind, time(rep.start), time(rep.arrive), time(rep.bottom), time(rep.leave),
                          time(rep.end), rep.leg, measureRep(input)});
    }
    const std::string looks = looksLike(t, r.series, reps);
    if (!looks.empty() && looks != familyName(context.movement.family)) r.looksLike = looks;
    warnAbout(set, level);
    return set;
}

Result<void> joinSecondView(MeasuredSet& set, const PoseFrames& frames, const ClipFacts& clip, bool together,
                            double nudgeS) {
    SetContext context = set.result.context;
    context.context.view = "auto";
    auto other = measureSet(frames, clip, context);
    if (!other) return Error{"The second clip: " + other.error().message, other.error().detail};
    const bool firstFrontal = isFrontal(set.track.view), secondFrontal = isFrontal(other->track.view);
    if (set.track.view == other->track.view || (firstFrontal && secondFrontal))
        return Error{"Both clips show the client from the same side. One should show the side, the other the front.",
                     viewName(other->track.view)};
    SecondView second{clip,
                      other->track.view,
                      other->track.trackedShare,
                      alignCourses({set.track.timesS, sinkingOf(set.track, PointSet::Flat)},
                                   {other->track.timesS, sinkingOf(other->track, PointSet::Flat)}),
                      nudgeS,
                      together,
                      std::move(other->result.reps)};
    for (auto& rep : second.reps)
        for (auto& m : rep.measures) m.second = true;
    if (together) {
        // The turning point may be read at either end of a hold; the repetition as a whole lies where it lies.
        const double lag = second.lagS();
        auto shared = [lag](const MeasuredRep& a, const MeasuredRep& b) {
            const double both = std::min(a.endS, b.endS - lag) - std::max(a.startS, b.startS - lag);
            return both / std::max(1e-3, std::min(a.endS - a.startS, b.endS - b.startS));
        };
        int joined = 0;
        for (auto& rep : set.result.reps)
            for (const auto& theirs : second.reps) {
                if (shared(rep, theirs) < 0.5) continue;
                ++joined;
                for (const auto& m : theirs.measures)
                    if (!rep.find(m.id)) rep.measures.push_back(m);
                break;
            }
        if (joined == 0)
            return Error{"The two clips have no repetition in common. If they were filmed one after the other, say so.",
                         "lag " + std::to_string(second.lagS())};
        if (joined < static_cast<int>(set.result.reps.size()))
            set.result.warnings.push_back("The second clip shows " + std::to_string(joined) + " of the " +
                                          std::to_string(set.result.reps.size()) + " repetitions.");
    }
    // What a view does not tell is no limit of the set when the other clip shows the side; all else the second clip was
    // warned about holds for the set as well.
    auto& warnings = set.result.warnings;
    if (other->track.view == ViewKind::Side) std::erase(warnings, viewNote(set.track.view));
    for (const std::string& w : other->result.warnings)
        if (w != viewNote(other->track.view) && std::find(warnings.begin(), warnings.end(), w) == warnings.end())
            warnings.push_back(w);
    set.secondTrack = std::move(other->track);
    set.result.second = std::move(second);
    return {};
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
        if (std::find(result.leftOut.begin(), result.leftOut.end(), rep.index) == result.leftOut.end())
            counted.push_back(rep);
    result.findings.clear();
    findDrifts(counted, standard, result);
    compareLegs(counted, result);
    if (result.stop.level == StopAnswer::Level::Stop) return;
    result.findings = findFaults(counted, standard);
    if (result.second && !result.second->together) {
        const auto more = findFaults(result.second->reps, standard);
        result.findings.insert(result.findings.end(), more.begin(), more.end());
        sortFindings(result.findings);
    }
}

}  // namespace zevo
