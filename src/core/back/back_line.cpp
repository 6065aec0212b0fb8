#include "core/back/back_line.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/calibration.h"
#include "core/body/anthropometry.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using L = Landmark;
constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();

/// Limits beyond which nothing is read (docs/measurements.md, “The back line”).
constexpr double kMostOffSquareDeg = calibrated("back.most_off_square"), kLeastTrunkPx = calibrated("back.least_trunk"),
                 kLeastArmInside = calibrated("back.arm_inside"), kMostResidual = calibrated("back.residual"),
                 kLeastContrast = calibrated("back.contrast"), kMostRival = calibrated("back.rival");
constexpr std::size_t kLeastZero = 6;

/// Middle of a pair of points.
Vec2 middleOf(const Track& t, L left, std::size_t i) {
    return 0.5 * (t.at(left, i) + t.at(ofSide(left, Side::Right), i));
}
Vec2 middleAtRest(const Track& t, L left) {
    return 0.5 * (t.standingAt(left) + t.standingAt(ofSide(left, Side::Right)));
}

/// The frame of a moment.
struct Frame {
    Vec2 hip, e, n;
    double length;
    Vec2 at(const Vec2& p) const { return {(p - hip).dot(e) / length, (p - hip).dot(n) / length}; }
};
Frame frameAt(const Track& t, double length, std::size_t i) {
    const Vec2 hip = middleOf(t, L::LeftHip, i), shoulder = middleOf(t, L::LeftShoulder, i);
    const Vec2 e = (shoulder - hip).normalized();
    return {0.5 * (hip + shoulder) - 0.5 * length * e, e, Vec2(-e.y(), e.x()), length};
}

/// The outline's places in the track's frame: x ahead, y up.
std::vector<Vec2> placesOf(const Track& t, const Outline& o) {
    std::vector<Vec2> out;
    out.reserve(o.points.size());
    for (const auto& [x, y] : o.points) out.push_back(t.fromPicture(Vec2(x, y)));
    return out;
}

constexpr double kSeatFrom = -0.12, kSeatTo = 0.30, kBladesFrom = 0.60, kBladesTo = 0.98, kAboveShoulders = 1.02;
/// A lying client's seat is pressed up by the thighs, their shoulders by the floor: the edge may rest a little further
/// out.
constexpr double kLyingSeatFrom = -0.20, kLyingBladesFrom = 0.55, kLyingBladesTo = 1.0;

/// The gaps of a stick along head, shoulder blades and seat. It lies on two of the three; which two is a matter of
/// which one is furthest in, so each gap is against the line over the other two.
void readStick(const std::vector<Vec2>& line, const Vec2& ear, BackMoment& m) {
    constexpr double kHead = 0.34;
    const auto seat = stretchOf(m.f, kSeatFrom, kSeatTo), blades = stretchOf(m.f, kBladesFrom, kBladesTo);
    std::vector<Vec2> head;
    for (const Vec2& p : line)
        if ((p - ear).norm() < kHead && p.x() > kAboveShoulders) head.push_back(p);
    auto gap = [](const std::optional<StraightEdge>& stick, const std::vector<Vec2>& under) {
        double least = kNaN;
        for (const Vec2& p : under)
            if (const double g = stick ? stick->gapTo(p) : kNaN; !(g > least)) least = g;
        return least;
    };
    m.headGap = gap(edgeOver(seat, blades), head);
    m.bladesGap = gap(edgeOver(seat, head), blades);
    m.seatGap = gap(edgeOver(blades, head), seat);
}

double medianOf(const std::vector<const BackMoment*>& of, double BackMoment::*value) {
    std::vector<double> v;
    for (const BackMoment* m : of)
        if (!std::isnan(m->*value)) v.push_back(m->*value);
    return v.empty() ? kNaN : median(v);
}

BackMoment middleOf(const std::vector<const BackMoment*>& of) {
    BackMoment out;
    for (std::size_t k = 0; k < kBackStations; ++k) {
        std::vector<double> v;
        for (const BackMoment* m : of)
            if (!std::isnan(m->f[k])) v.push_back(m->f[k]);
        out.f[k] = v.empty() ? kNaN : median(v);
    }
    for (double BackMoment::*value :
         {&BackMoment::lowSag, &BackMoment::highSag, &BackMoment::hollow, &BackMoment::headGap, &BackMoment::bladesGap,
          &BackMoment::seatGap, &BackMoment::armInside, &BackMoment::residual, &BackMoment::contrast,
          &BackMoment::rival})
        out.*value = medianOf(of, value);
    return out;
}

}  // namespace

const char* backDoubtName(BackDoubt doubt) {
    static constexpr std::array kNames{"none",  "no-outline", "off-square", "small", "covered", "ask",
                                       "loose", "arm",        "cluttered",  "faint", "few",     "unread"};
    return kNames[static_cast<std::size_t>(doubt)];
}

BackDoubt exclusionReason(Shirt shirt, bool covered) {
    if (covered) return BackDoubt::Covered;
    if (shirt == Shirt::Tight) return BackDoubt::None;
    return shirt == Shirt::Loose ? BackDoubt::Loose : BackDoubt::NotAsked;
}

BackLine::BackLine(std::shared_ptr<const Track> kept, std::shared_ptr<const ViewSeries> series,
                   std::span<const Rep> reps, std::span<const Outline> outlines)
    : m_keptTrack(std::move(kept)),
      m_keptSeries(std::move(series)),
      m_track(*m_keptTrack),
      m_series(m_keptSeries->side) {
    const Track& track = m_track;
    m_trunkPx = (middleAtRest(track, L::LeftShoulder) - middleAtRest(track, L::LeftHip)).norm();
    constexpr double kTrunkShare = proportion::kShoulderHeight - proportion::kHipHeight;
    m_cmPerTrunk = track.cmPerPixel > 0 ? kTrunkShare * track.bodyPx * track.cmPerPixel : 0;
    if (outlines.empty() || track.view != ViewKind::Side) {
        m_doubt = BackDoubt::NoOutline;
        return;
    }
    readMoments(outlines);
    readZero(reps);
    if (track.offSquareDeg() > kMostOffSquareDeg)
        m_doubt = BackDoubt::OffSquare;
    else if (m_trunkPx < kLeastTrunkPx)
        m_doubt = BackDoubt::TooSmall;
}

void BackLine::readMoments(std::span<const Outline> outlines) {
    const Track& t = m_track;
    const bool lying = t.drive == Drive::HipRise;
    const Vec2 shoulderAtRest = middleAtRest(t, L::LeftShoulder);
    for (const Outline& o : outlines) {
        if (o.points.size() < 20) continue;
        BackMoment m;
        m.timeS = o.timeS;
        m.sample = t.sampleAt(o.timeS);
        if (!t.observed[m.sample]) continue;
        const Frame frame = frameAt(t, m_trunkPx, m.sample);
        const auto places = placesOf(t, o);
        std::vector<Vec2> line;
        line.reserve(places.size());
        for (const Vec2& p : places) line.push_back(frame.at(p));
        m.f = profileOf(line);
        if (!isSeen(m.f)) continue;
        m.lowSag = sagitta(m.f, 0.06, 0.30, 0.94);
        m.highSag = sagitta(m.f, 0.22, 0.58, 0.94);
        m.hollow = lying ? hollowUnder(m.f, kLyingSeatFrom, kSeatTo, kLyingBladesFrom, kLyingBladesTo)
                         : hollowUnder(m.f, kSeatFrom, kSeatTo, kBladesFrom, kBladesTo);
        if (t.drive == Drive::Folding) readStick(line, frame.at(t.at(t.nearOf(L::LeftEar), m.sample)), m);
        readEdges(o, line, m);
        for (L joint : {L::LeftElbow, L::LeftWrist}) {
            const Vec2 at = frame.at(t.at(t.nearOf(joint), m.sample));
            if (at.x() <= 0 || at.x() >= 1) continue;
            if (const double back = m.f[static_cast<std::size_t>(stationAt(at.x()))]; !std::isnan(back))
                m.armInside = std::min(m.armInside, back - at.y());
        }
        if (lying) {
            // The belly's outline over pelvis, low back and middle back; the shoulders stay where they lie.
            std::array<double, 3> rise{};
            constexpr std::array<double, 3> kOver{0.15, 0.40, 0.65};
            for (std::size_t k = 0; k < 3; ++k) {
                const Vec2 at = shoulderAtRest - (1 - kOver[k]) * m_trunkPx * frame.e;
                double top = kNaN;
                for (std::size_t i = 0; i < places.size(); ++i) {
                    Vec2 a = places[i], b = places[(i + 1) % places.size()];
                    if (a.x() > b.x()) std::swap(a, b);
                    if (at.x() < a.x() || at.x() > b.x() || b.x() - a.x() < 1e-9) continue;
                    const double y = a.y() + (at.x() - a.x()) / (b.x() - a.x()) * (b.y() - a.y());
                    if (y > at.y() && !(y > top)) top = y;
                }
                rise[k] = top;
            }
            m_frontRise.push_back(rise);
        }
        m_moments.push_back(m);
    }
}

/// How clear the edge of the back is in the picture. Where it was looked at and no point of the outline lies on the
/// line of the back, it is none.
void BackLine::readEdges(const Outline& outline, const std::vector<Vec2>& line, BackMoment& m) const {
    constexpr double kOnIt = 0.03;
    if (outline.edges.size() != line.size()) return;
    std::vector<double> contrast, rival;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (line[i].x() < kSeatFrom || line[i].x() > kBladesTo) continue;
        const double back = m.f[static_cast<std::size_t>(stationAt(line[i].x()))];
        if (std::isnan(back) || std::abs(back - line[i].y()) > kOnIt) continue;
        contrast.push_back(outline.edges[i].contrast), rival.push_back(outline.edges[i].rival);
    }
    m.contrast = contrast.empty() ? 0 : quantile(contrast, 0.1);
    m.rival = rival.empty() ? 0 : quantile(rival, 0.75);
}

bool BackLine::isZero(const BackMoment& m, std::span<const Rep> reps) const {
    const auto rep =
        std::find_if(reps.begin(), reps.end(), [&](const Rep& r) { return m.sample >= r.start && m.sample <= r.end; });
    if (rep == reps.end()) return false;
    switch (m_track.drive) {
        case Drive::Sinking: {
            // A shallow squat or a lunge turns where a deep one is on its way: there it is halfway of its own.
            constexpr double kFromDeg = 70, kToDeg = 105, kClearDeg = 10;
            const double hip = m_series.hipFlexion[m.sample],
                         share = m_series.depth[m.sample] / std::max(1e-9, rep->depth);
            if (m_series.hipFlexion[rep->bottom] < kToDeg + kClearDeg) return share > 0.30 && share < 0.70;
            return hip > kFromDeg && hip < kToDeg;
        }
        case Drive::Folding: {
            const double lean = m_series.trunkLean[m.sample];
            return lean > 20 && lean < 45;
        }
        case Drive::HipRise: break;
    }
    const double share = m_series.depth[m.sample] / std::max(1e-9, rep->depth);
    return share > 0.40 && share < 0.75;
}

void BackLine::readZero(std::span<const Rep> reps) {
    std::vector<const BackMoment*> zero, rest;
    for (const BackMoment& m : m_moments) {
        if (isZero(m, reps)) zero.push_back(&m);
        if (!reps.empty() && m.sample < reps.front().start) rest.push_back(&m);
    }
    if (zero.size() < kLeastZero) {
        m_doubt = BackDoubt::TooFew;
        return;
    }
    m_zero = middleOf(zero);
    m_restSeen = !rest.empty();
    m_rest = m_restSeen ? middleOf(rest) : m_zero;
    for (BackMoment& m : m_moments) m.residual = unexplained(m.f, m_zero.f);
    if (doubtAt(reps.front().bottom) == BackDoubt::None) m_first = around(m_track.timesS[reps.front().bottom]);
}

BackLine::Drawn BackLine::drawnAt(std::size_t sample, bool stick) const {
    constexpr double kNearS = 0.11;
    Drawn out;
    const double atS = m_track.timesS[std::min(sample, m_track.size() - 1)];
    const auto nearest = std::min_element(
        m_moments.begin(), m_moments.end(),
        [&](const BackMoment& a, const BackMoment& b) { return std::abs(a.timeS - atS) < std::abs(b.timeS - atS); });
    if (nearest == m_moments.end() || std::abs(nearest->timeS - atS) > kNearS) return out;
    const Frame frame = frameAt(m_track, m_trunkPx, std::min(sample, m_track.size() - 1));
    auto place = [&](double u, double f) -> Vec2 { return frame.hip + m_trunkPx * (u * frame.e + f * frame.n); };
    for (int k = 0; k < kBackStations; ++k)
        if (const double f = nearest->f[static_cast<std::size_t>(k)]; !std::isnan(f))
            out.outline.push_back(place(stationOf(k), f));
    if (const auto edge =
            edgeOver(stretchOf(nearest->f, kSeatFrom, kSeatTo), stretchOf(nearest->f, kBladesFrom, kBladesTo)))
        out.edge = {place(kSeatFrom, edge->at(kSeatFrom)),
                    place(stick ? 1.6 : kBladesTo, edge->at(stick ? 1.6 : kBladesTo))};
    return out;
}

std::optional<BackReading> BackLine::around(double timeS, double halfS) const {
    if (m_doubt == BackDoubt::NoOutline || m_doubt == BackDoubt::TooFew) return std::nullopt;
    std::vector<const BackMoment*> near;
    for (const BackMoment& m : m_moments)
        if (std::abs(m.timeS - timeS) <= halfS + 1e-6) near.push_back(&m);
    if (near.empty()) return std::nullopt;
    const BackMoment m = middleOf(near);
    const double cm = m_cmPerTrunk;
    return BackReading{(m.lowSag - m_zero.lowSag) * cm,
                       (m.highSag - m_zero.highSag) * cm,
                       (m_zero.hollow - m.hollow) * cm,
                       (m.headGap - m_rest.headGap) * cm,
                       (m.bladesGap - m_rest.bladesGap) * cm,
                       (m.seatGap - m_rest.seatGap) * cm,
                       m.residual,
                       m.armInside,
                       m.contrast,
                       m.rival,
                       static_cast<int>(near.size())};
}

BackDoubt BackLine::doubtAt(std::size_t sample) const {
    if (m_doubt != BackDoubt::None) return m_doubt;
    const auto there = around(m_track.timesS[std::min(sample, m_track.size() - 1)]);
    if (!there) return BackDoubt::NoOutline;
    // A lying client's arms lie on the floor beside them: the outline under their back is clear of them.
    const bool lying = m_track.drive == Drive::HipRise;
    if (!lying && (there->armInside < kLeastArmInside || m_zero.armInside < kLeastArmInside)) return BackDoubt::Arm;
    if (there->residual > kMostResidual) return BackDoubt::Cluttered;
    return there->contrast < kLeastContrast || there->rival > kMostRival ? BackDoubt::Faint : BackDoubt::None;
}

BackDoubt BackLine::doubtAt(std::size_t sample, Shirt shirt, bool covered) const {
    const BackDoubt before = exclusionReason(shirt, covered);
    return before != BackDoubt::None ? before : doubtAt(sample);
}

std::optional<double> BackLine::hollowAtTop(std::size_t from, std::size_t to) const {
    if (m_doubt != BackDoubt::None || m_cmPerTrunk <= 0 || !m_restSeen || m_rest.armInside < kLeastArmInside)
        return std::nullopt;
    std::vector<const BackMoment*> top;
    for (const BackMoment& m : m_moments)
        if (m.sample >= from && m.sample <= to) top.push_back(&m);
    if (top.empty()) return std::nullopt;
    const BackMoment there = middleOf(top);
    if (there.armInside < kLeastArmInside || there.contrast < kLeastContrast) return std::nullopt;
    const double hollow = (there.hollow - m_rest.hollow) * m_cmPerTrunk;
    return std::isnan(hollow) ? std::nullopt : std::optional(hollow);
}

template <typename Value>
std::optional<std::size_t> BackLine::passesForGood(const Rep& rep, double limit, double fromHipDeg,
                                                   Value&& value) const {
    constexpr double kSmoothS = 0.08;
    std::vector<std::pair<const BackMoment*, double>> way;
    for (const BackMoment& m : m_moments)
        if (const double v = value(m); m.sample >= rep.start && m.sample <= rep.bottom && !std::isnan(v))
            way.push_back({&m, v});
    std::optional<std::size_t> from;
    double before = 0, beforeS = 0;
    for (const auto& [at, unsmoothed] : way) {
        double sum = 0, weight = 0;
        for (const auto& [m, v] : way) {
            const double d = (m->timeS - at->timeS) / kSmoothS, w = std::exp(-0.5 * d * d);
            sum += w * v, weight += w;
        }
        const double now = sum / weight;
        const bool first = at == way.front().first;
        if (now <= limit || m_series.hipFlexion[at->sample] <= fromHipDeg) {
            from.reset();
        } else if (!from) {
            // Between two pictures: where the straight line between their readings passes the limit.
            const double w = first || before >= limit ? 1 : (limit - before) / std::max(1e-9, now - before);
            from = m_track.sampleAt(first ? at->timeS : beforeS + w * (at->timeS - beforeS));
        }
        before = now, beforeS = at->timeS;
    }
    return from;
}

std::optional<std::size_t> BackLine::tuckBegins(const Rep& rep) const {
    constexpr double kLostCm = 0.5, kFromHipDeg = 88;
    if (m_cmPerTrunk <= 0) return std::nullopt;
    return passesForGood(rep, kLostCm, kFromHipDeg,
                         [&](const BackMoment& m) { return (m_zero.hollow - m.hollow) * m_cmPerTrunk; });
}

std::optional<std::size_t> BackLine::stickLeaves(const Rep& rep, double endCm, double bladesCm) const {
    constexpr double kAnyHip = -360;
    if (m_cmPerTrunk <= 0) return std::nullopt;
    return passesForGood(rep, 0, kAnyHip, [&](const BackMoment& m) {
        const double ends = std::max(m.headGap - m_rest.headGap, m.seatGap - m_rest.seatGap) * m_cmPerTrunk,
                     blades = (m.bladesGap - m_rest.bladesGap) * m_cmPerTrunk;
        return std::max(ends - endCm, blades - bladesCm);
    });
}

std::optional<double> BackLine::floorOrder(const Rep& rep, bool lowering) const {
    if (m_frontRise.size() != m_moments.size()) return std::nullopt;
    constexpr double kRestS = 0.35, kAfterS = 0.1, kLeastRise = 0.02, kLeastS = 0.2;
    const std::size_t from = lowering ? rep.leave : rep.start, to = lowering ? rep.end : rep.arrive,
                      floor = lowering ? rep.end : rep.start;
    // Rest beside the repetition, top at its turning point.
    std::array<std::vector<double>, 3> rest, top;
    std::vector<std::size_t> way;
    for (std::size_t i = 0; i < m_moments.size(); ++i) {
        const std::size_t at = m_moments[i].sample;
        const auto& r = m_frontRise[i];
        if (std::any_of(r.begin(), r.end(), [](double v) { return std::isnan(v); })) continue;
        if (at >= from && at <= to + static_cast<std::size_t>(kAfterS * m_track.rate)) way.push_back(i);
        const bool beside = lowering ? at + 2 >= floor : at <= floor + 2;
        for (std::size_t k = 0; k < 3; ++k) {
            if (beside && std::abs(m_moments[i].timeS - m_track.timesS[floor]) < kRestS) rest[k].push_back(r[k]);
            if (at >= rep.arrive && at <= rep.leave) top[k].push_back(r[k]);
        }
    }
    if (way.size() < 4 || rest[0].empty() || top[0].empty()) return std::nullopt;
    // When each is halfway between rest and top.
    std::array<double, 3> half{};
    for (std::size_t k = 0; k < 3; ++k) {
        const double low = median(rest[k]), high = median(top[k]), wanted = 0.5 * (low + high);
        if (high - low < kLeastRise * m_trunkPx) return std::nullopt;  // it hardly rises: no half to find
        half[k] = kNaN;
        for (std::size_t n = 1; n < way.size(); ++n) {
            const double a = m_frontRise[way[n - 1]][k], b = m_frontRise[way[n]][k];
            const bool passes = lowering ? a > wanted && b <= wanted : a < wanted && b >= wanted;
            if (!passes) continue;
            const double ta = m_moments[way[n - 1]].timeS, tb = m_moments[way[n]].timeS;
            half[k] = ta + (wanted - a) / (b - a) * (tb - ta);
            if (!lowering) break;  // of the way down the last time counts
        }
        if (std::isnan(half[k])) return std::nullopt;
    }
    const double lasts = m_track.timesS[to] - m_track.timesS[from];
    if (lasts < kLeastS) return std::nullopt;
    const double later = 0.5 * ((half[1] - half[0]) + (half[2] - half[0])) / lasts;
    return lowering ? -later : later;
}

}  // namespace zevo
