#include "core/reps/reps.h"

#include <algorithm>
#include <cmath>

#include "core/body/anthropometry.h"
#include "core/signal/filter.h"
#include "core/signal/peaks.h"

namespace zevo {
namespace {

constexpr double kStillSpeed = 5.0;  // degrees a second: slow sway of standing people and jitter of the landmarks
constexpr double kMinPartialDepth = 0.04;
/// Degrees of bending that go with sinking by the whole hip height: a deep squat bends 130° and sinks by about half.
constexpr double kFrontBendDeg = 240;

struct Valleys {
    std::size_t before, after;  // highest standing either side of a bottom
};

std::size_t lowest(const std::vector<double>& d, std::size_t from, std::size_t to) {
    return static_cast<std::size_t>(std::min_element(d.begin() + static_cast<std::ptrdiff_t>(from),
                                                     d.begin() + static_cast<std::ptrdiff_t>(to) + 1) -
                                    d.begin());
}

/// Where movement begins or ends, walking from the fastest sample to `limit`. The first hundredths of a smooth
/// movement drown in the jitter, so the edge is carried on from where the speed passes a half and a tenth of its
/// top: in the least-jerk profile of human reaching (Flash & Hogan 1985, from memory) those lie at 22.9 % and
/// 8.7 % of the way, so the edge is 0.61 of their distance further out. An abrupt stop has them close together.
std::size_t edgeOfMovement(const std::vector<double>& speed, std::size_t fastest, std::size_t limit, double sign) {
    const std::ptrdiff_t step = limit < fastest ? -1 : 1;
    auto reach = [&](double level) {
        auto i = static_cast<std::ptrdiff_t>(fastest);
        while (i != static_cast<std::ptrdiff_t>(limit) && sign * speed[static_cast<std::size_t>(i)] > level) i += step;
        return i;
    };
    const double top = sign * speed[fastest];
    const auto half = reach(0.5 * top), tenth = reach(std::max(kStillSpeed, 0.1 * top));
    const auto further = std::llround(0.61 * static_cast<double>(std::abs(tenth - half)));
    const auto left = std::abs(static_cast<std::ptrdiff_t>(limit) - tenth);
    return static_cast<std::size_t>(tenth + step * std::min<std::ptrdiff_t>(further, left));
}

/// The same by how much of the way is made, from rest (`limit`) to the turning point: for a movement in which a point
/// jumps, and the speed falls to a tenth of its top in the middle of the way. In the least-jerk profile 3 and 8.3 % of
/// the way are made at 15.8 and 22.9 % of its time, so the edge is 2.2 of their distance further out.
std::size_t edgeByWay(const std::vector<double>& bend, std::size_t turn, std::size_t limit) {
    const std::ptrdiff_t step = limit < turn ? 1 : -1;  // from rest towards the turning point
    const double all = bend[turn] - bend[limit];
    auto share = [&](std::ptrdiff_t i) { return (bend[static_cast<std::size_t>(i)] - bend[limit]) / all; };
    const auto rest = static_cast<std::ptrdiff_t>(limit), end = static_cast<std::ptrdiff_t>(turn);
    std::ptrdiff_t i = rest;
    while (i != end && share(i) < 0.3) i += step;
    while (i != rest && share(i) > 0.083) i -= step;
    const std::ptrdiff_t more = i;
    while (i != rest && share(i) > 0.03) i -= step;
    const auto further = std::llround(2.2 * static_cast<double>(std::abs(more - i)));
    return static_cast<std::size_t>(i - step * std::min<std::ptrdiff_t>(further, std::abs(i - rest)));
}

/// How far apart the feet are along the way the client faces.
double strideAt(const Track& t, std::size_t i) {
    return std::abs(t.at(Landmark::LeftAnkle, i).x() - t.at(Landmark::RightAnkle, i).x());
}

/// Whether the feet are together somewhere in [from, to] and apart at the turning point: a lunge that steps, not one
/// that begins split.
bool stepsWithin(const Track& t, std::size_t from, std::size_t to, std::size_t bottom) {
    constexpr double kTogether = 0.4;  // of the stride
    if (t.family != Family::Lunge || t.view != ViewKind::Side) return false;
    double least = strideAt(t, bottom);
    for (std::size_t i = from; i <= to; ++i) least = std::min(least, strideAt(t, i));
    return least < kTogether * strideAt(t, bottom);
}

/// From a place on the way, on towards `limit` until the depth is near rest or stands: a bump of less than half a
/// second, where the points were lost for a moment, is passed over. `throughStands`: who steps lands, and stands for a
/// moment with their hips lower than at rest before they sink.
std::size_t backToRest(const std::vector<double>& depth, std::size_t at, std::size_t limit, double near, double rate,
                       bool throughStands) {
    constexpr double kBumpS = 0.4;
    const auto bump = static_cast<std::size_t>(kBumpS * rate);
    const bool back = limit < at;
    while (at != limit && depth[at] > near) {
        std::size_t next = at;
        for (std::size_t k = 1; k <= bump && next == at; ++k) {
            if (k > (back ? at - limit : limit - at)) break;
            const std::size_t i = back ? at - k : at + k;
            if (depth[i] < depth[at]) next = i;
        }
        if (next == at && !throughStands) break;
        at = next != at ? next : back ? at - 1 : at + 1;
    }
    return at;
}

/// Samples at which the client was seen upside down: hips far higher than at rest, and knees bent as none bends. In the
/// air of a jump hips are up there, too, with sound knees.
std::vector<bool> lostWhere(const Series& series, double rate) {
    constexpr double kFarUp = -0.2, kUp = -0.02,
                     kAroundS = 0.15;  // of the hip's height; points are thrown there and back
    const auto& depth = series.depth;
    const auto around = static_cast<std::size_t>(kAroundS * rate);
    std::vector<bool> lost(depth.size());
    for (std::size_t i = 0; i < depth.size(); ++i) {
        if (depth[i] >= kFarUp) continue;
        std::size_t from = i, to = i;
        while (from > 0 && depth[from - 1] < kUp) --from;
        while (to + 1 < depth.size() && depth[to + 1] < kUp) ++to;
        i = to;
        auto noKnee = [&](std::size_t k) {
            return std::min(series.legs[0].kneeFlexion[k], series.legs[1].kneeFlexion[k]) < kNoKneeDeg;
        };
        std::size_t impossible = 0;
        for (std::size_t k = from; k <= to; ++k) impossible += noKnee(k);
        if (2 * impossible < to - from + 1) continue;
        for (std::size_t k = from - std::min(around, from); k <= std::min(to + around, depth.size() - 1); ++k)
            lost[k] = true;
    }
    return lost;
}

/// What lies between is taken as even; at an end of the clip as the nearest value.
std::vector<double> bridged(std::vector<double> values, const std::vector<bool>& lost) {
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (!lost[i]) continue;
        std::size_t to = i;
        while (to < values.size() && lost[to]) ++to;
        const bool first = i == 0, last = to == values.size();
        if (first && last) return values;
        const double before = values[first ? to : i - 1], after = values[last ? i - 1 : to];
        const auto steps = static_cast<double>(to - i + 1);
        for (std::size_t k = i; k < to; ++k)
            values[k] = before + (after - before) * static_cast<double>(k - i + 1) / steps;
        i = to;
    }
    return values;
}

}  // namespace

std::string repKindName(RepKind kind) {
    switch (kind) {
        case RepKind::Partial: return "partial";
        case RepKind::Double: return "double";
        case RepKind::Full: break;
    }
    return "full";
}

std::vector<Rep> findReps(const Track& track, const Series& series, const RepOptions& options) {
    const auto lost =
        track.drive == Drive::Sinking ? lostWhere(series, track.rate) : std::vector<bool>(series.depth.size());
    const auto sunk = bridged(series.depth, lost);
    const auto depth = smooth(sunk, track.rate, std::min(4.0, 0.2 * track.rate));
    // Where movement starts and stops is read from the bending, not from the sinking: at the top a joint can
    // bend by 20° before the hip has sunk by 2 %.
    std::vector<double> bend(series.kneeFlexion.size());
    for (std::size_t i = 0; i < bend.size(); ++i) {
        switch (track.drive) {
            case Drive::Sinking: bend[i] = 0.5 * (series.kneeFlexion[i] + series.hipFlexion[i]); break;
            case Drive::Folding: bend[i] = series.trunkLean[i]; break;
            case Drive::HipRise: bend[i] = -series.hipFlexion[i]; break;
        }
    }
    const bool byKnee = track.drive == Drive::Sinking && track.view == ViewKind::Side;
    // From the front a bend hardly shows, and in a lunge each leg bends in its own time, a stepping one in the air:
    // there the sinking itself is what is timed.
    if (isFrontal(track.view) || track.view == ViewKind::FootEnd || track.family == Family::Lunge)
        for (std::size_t i = 0; i < bend.size(); ++i) bend[i] = kFrontBendDeg * sunk[i];
    bend = bridged(std::move(bend), lost);
    bend = smooth(bend, track.rate, std::min(4.0, 0.2 * track.rate));
    const auto speed = derivative(bend, track.rate);
    auto peaks = findPeaks(depth, kMinPartialDepth, kMinPartialDepth);
    // One leg may stay straight; the other one tells that it is a repetition. A knee that is lost at the very bottom,
    // behind a plate, was bent just before.
    const auto around = static_cast<std::size_t>(0.4 * track.rate);
    auto bentAt = [&](std::size_t at) {
        const bool oneLeg = track.family == Family::Lunge;
        double most = series.kneeFlexion[at];
        for (std::size_t i = at - std::min(around, at); i <= std::min(at + around, series.kneeFlexion.size() - 1); ++i)
            most = std::max(most, oneLeg ? std::max(series.legs[0].kneeFlexion[i], series.legs[1].kneeFlexion[i])
                                         : series.kneeFlexion[i]);
        return most;
    };
    // The bend of a leg behind the other one is read too small, or not at all: who sinks as deep as in a lunge has made
    // one.
    auto sinksAsInALunge = [&](double d) { return track.family == Family::Lunge && d >= options.lungeDepth; };
    if (byKnee)
        std::erase_if(peaks, [&](const Peak& p) {
            return bentAt(p.index) < options.minKneeFlexion && !sinksAsInALunge(p.height);
        });
    if (peaks.empty()) return {};

    // Bottoms that are not separated by standing up belong to one repetition.
    struct Group {
        std::size_t first, last, deepest;
    };
    std::vector<Group> groups;
    for (const auto& p : peaks) {
        if (!groups.empty()) {
            Group& g = groups.back();
            const double between = depth[lowest(depth, g.last, p.index)];
            if (between > options.doubleShare * std::min(depth[g.deepest], p.height)) {
                g.last = p.index;
                if (p.height > depth[g.deepest]) g.deepest = p.index;
                continue;
            }
        }
        groups.push_back({p.index, p.index, p.index});
    }

    // The bottoms of a one-and-a-half are alike; a shallower dip on the way is not one of them. Nor is the landing of a
    // long step, however low the hips come there: the leg that reaches out is straight.
    constexpr double kAlike = 0.75, kBentAlike = 0.6, kBoth = 40;
    auto lessBent = [&](std::size_t at) {
        return std::min(series.legs[0].kneeFlexion[at], series.legs[1].kneeFlexion[at]);
    };
    for (Group& g : groups) {
        const bool bothBend = byKnee && track.family == Family::Lunge && lessBent(g.deepest) > kBoth;
        auto alike = [&](const Peak& p) {
            return p.index >= g.first && p.index <= g.last && p.height >= kAlike * depth[g.deepest] &&
                   (!bothBend || lessBent(p.index) >= kBentAlike * lessBent(g.deepest));
        };
        const auto first = std::find_if(peaks.begin(), peaks.end(), alike);
        const auto last = std::find_if(peaks.rbegin(), peaks.rend(), alike);
        g.first = first->index, g.last = last->index;
    }

    std::vector<Rep> reps;
    for (std::size_t g = 0; g < groups.size(); ++g) {
        const std::size_t before = g == 0 ? 0 : groups[g - 1].last;
        const std::size_t after = g + 1 == groups.size() ? depth.size() - 1 : groups[g + 1].first;
        const std::size_t from = g == 0 ? 0 : lowest(depth, before, groups[g].first);
        const std::size_t to = g + 1 == groups.size() ? after : lowest(depth, groups[g].last, after);
        const Group& group = groups[g];
        Rep rep;
        rep.depth = depth[group.deepest];
        // Cut off by the clip: it must come from, and go back to, nearly upright.
        if (depth[lowest(depth, from, group.first)] > options.doubleShare * rep.depth ||
            depth[lowest(depth, group.last, to)] > options.doubleShare * rep.depth)
            continue;

        std::size_t fastestDown = group.first, fastestUp = group.last;
        for (std::size_t i = from; i <= group.first; ++i)
            if (speed[i] > speed[fastestDown]) fastestDown = i;
        for (std::size_t i = group.last; i <= to; ++i)
            if (speed[i] < speed[fastestUp]) fastestUp = i;
        rep.start = edgeOfMovement(speed, fastestDown, from, 1);
        rep.arrive = edgeOfMovement(speed, fastestDown, group.first, 1);
        rep.leave = edgeOfMovement(speed, fastestUp, group.last, -1);
        rep.end = edgeOfMovement(speed, fastestUp, to, -1);
        // A way that is made in two goes, a step and then a sinking, is not over with the faster of them.
        constexpr double kNearly = 0.1, kAtRest = 0.03;
        const bool lunges = track.family == Family::Lunge;  // where a step begins is a matter of definition
        const double far = (1 - kNearly) * rep.depth, near = (lunges ? kNearly : kAtRest) * rep.depth;
        while (rep.arrive < group.first && depth[rep.arrive] < far) ++rep.arrive;
        while (rep.leave > group.last && depth[rep.leave] < far) --rep.leave;
        rep.start =
            backToRest(depth, rep.start, from, near, track.rate, stepsWithin(track, before, rep.start, group.deepest));
        rep.end = backToRest(depth, rep.end, to, near, track.rate, stepsWithin(track, rep.end, after, group.deepest));
        // At an edge next to nothing of the way is made.
        constexpr double kMadeAtEdge = 0.05;
        auto isInside = [&](std::size_t edge, std::size_t rest) {
            const double all = bend[group.deepest] - bend[rest];
            return all > 0 && bend[edge] - bend[rest] > kMadeAtEdge * all;
        };
        if (!lunges && track.drive != Drive::Folding) {
            if (isInside(rep.start, from)) rep.start = std::min(rep.start, edgeByWay(bend, group.deepest, from));
            if (isInside(rep.end, to)) rep.end = std::max(rep.end, edgeByWay(bend, group.deepest, to));
        }
        rep.arrive = std::min(rep.arrive, group.deepest);
        rep.leave = std::max(rep.leave, group.deepest);
        rep.bottom = group.deepest;
        if (group.first == group.last) {
            // A held bottom is a plateau: read it in the middle of what is within 1.5 % of the deepest point.
            const double flat = rep.depth * 0.985;
            std::size_t a = group.deepest, b = group.deepest;
            while (a > from && depth[a - 1] >= flat) --a;
            while (b < to && depth[b + 1] >= flat) ++b;
            rep.bottom = std::clamp((a + b) / 2, rep.start, rep.end);
        } else {
            rep.kind = RepKind::Double;
        }
        reps.push_back(rep);
    }

    std::vector<double> depths;
    for (const auto& r : reps) depths.push_back(r.depth);
    const double usual = quantile(depths, 0.75);
    for (std::size_t i = 0; i < reps.size(); ++i) {
        Rep& r = reps[i];
        r.index = static_cast<int>(i) + 1;
        if ((byKnee && !sinksAsInALunge(r.depth) && bentAt(r.bottom) < options.partialKneeFlexion) ||
            r.depth < options.partialShare * usual)
            r.kind = RepKind::Partial;
    }
    return reps;
}

}  // namespace zevo
