#include "present/overlay.h"

#include <cmath>

#include "core/base/degrees.h"
#include "core/series/foot_extent.h"
#include "core/series/mass_centre.h"

namespace zevo::present {
namespace {

using L = Landmark;

struct Sketch {
    const Track& track;
    std::size_t sample;
    const BackLine* back = nullptr;
    const MarkLines* marks = nullptr;
    Overlay out{};

    Vec2 near(L left) const { return track.at(track.nearOf(left), sample); }
    QPointF picture(const Vec2& p) const {
        const Vec2 q = track.toPicture(p);
        return {q.x(), q.y()};
    }
    double legLength() const {
        return (track.standingAt(track.nearOf(L::LeftHip)) - track.standingAt(track.nearOf(L::LeftAnkle))).norm();
    }

    void line(const Vec2& a, const Vec2& b) { out.lines.emplace_back(picture(a), picture(b)); }
    void ghost(const Vec2& a, const Vec2& b) { out.ghosts.emplace_back(picture(a), picture(b)); }
    void dot(const Vec2& p) { out.dots.push_back(picture(p)); }

    /// Arc at `centre` from direction a to direction b, the shorter way.
    void arc(const Vec2& centre, const Vec2& a, const Vec2& b) {
        auto direction = [&](const Vec2& d) {
            const QPointF p = picture(centre + d) - picture(centre);
            return std::atan2(-p.y(), p.x()) * kDegreesPerRadian;
        };
        const double from = direction(a);
        double span = direction(b) - from;
        span -= 360 * std::floor((span + 180) / 360);
        out.arc = Overlay::Arc{picture(centre), from, span};
    }

    void joint(const Vec2& a, const Vec2& centre, const Vec2& b) {
        line(a, centre);
        line(centre, b);
        for (const Vec2& p : {a, centre, b}) dot(p);
        // Flexion is the angle against the straight-on continuation of the first segment.
        const Vec2 on = centre + (centre - a) * 0.6;
        ghost(centre, on);
        arc(centre, on - centre, b - centre);
        out.label = picture(centre);
    }

    void fromVertical(const Vec2& a, const Vec2& b) {
        const Vec2 up(0, (b - a).norm());
        ghost(a, a + up);
        line(a, b);
        dot(a), dot(b);
        arc(a, up, b - a);
        out.label = picture(a + 0.55 * (b - a));
    }

    void rise(const Vec2& p, const Vec2& rest) {
        const double reach = 0.18 * legLength();
        ghost(Vec2(p.x() - reach, rest.y()), Vec2(p.x() + reach, rest.y()));
        line(Vec2(p.x(), rest.y()), p);
        dot(p);
        out.label = picture(p + Vec2(0, 0.06 * legLength()));
    }

    void path(L id, std::size_t around) {
        const std::size_t from = sample > around ? sample - around : 0;
        for (std::size_t i = from; i < sample; ++i)
            out.ghosts.emplace_back(picture(track.at(id, i)), picture(track.at(id, i + 1)));
        dot(track.at(id, sample));
        out.label = picture(track.at(id, sample));
    }

    void backLine(const Vec2& a, const Vec2& b, bool stick) {
        const auto drawn = back ? back->drawnAt(sample, stick) : BackLine::Drawn();
        if (drawn.outline.size() < 2) {
            line(a, b);
            dot(a), dot(b);
            out.label = picture(0.5 * (a + b));
            return;
        }
        for (std::size_t i = 1; i < drawn.outline.size(); ++i) line(drawn.outline[i - 1], drawn.outline[i]);
        ghost(drawn.edge[0], drawn.edge[1]);
        out.label = picture(drawn.outline[drawn.outline.size() / 2]);
    }

    /// Where a marked point is in this picture; nothing where it is not marked or was lost.
    std::optional<Vec2> marked(MarkKind kind) const {
        const auto* line = marks ? marks->of(kind) : nullptr;
        if (!line || std::isnan(line->seen[sample].x())) return std::nullopt;
        return line->seen[sample];
    }

    /// The load's way over the repetition, its place now, and a line up from the middle of the foot.
    void loadWay(const Vec2& otherwise) {
        const auto way = marks ? marks->wayAround(sample) : std::vector<Vec2>();
        for (std::size_t i = 1; i < way.size(); ++i)
            if (!std::isnan(way[i - 1].x()) && !std::isnan(way[i].x())) line(way[i - 1], way[i]);
        const auto kind = marks ? marks->load() : std::nullopt;
        const Vec2 here = kind ? marked(*kind).value_or(otherwise) : otherwise;
        const FootExtent foot = footExtent(track, PointSet::Seen);
        double top = here.y();
        for (const Vec2& p : way)
            if (p.y() > top) top = p.y();
        const double middle = 0.5 * (foot.heel + foot.toe);
        ghost(Vec2(middle, foot.floor), Vec2(middle, top));
        dot(here);
        out.label = picture(here);
    }

    void tapes(const Vec2& a, const Vec2& b) {
        line(a, b);
        dot(a), dot(b);
        const double middle = 0.5 * (a.y() + b.y());
        ghost(Vec2(a.x(), middle), Vec2(b.x(), middle));
        out.label = picture(0.5 * (a + b));
    }

    void tapedStick(const Vec2& a, const Vec2& b) {
        const Vec2 low = marked(MarkKind::StickLow).value_or(a), top = marked(MarkKind::StickTop).value_or(b);
        ghost(low, top);
        dot(low), dot(top);
        const Vec2 along = (top - low).normalized();
        for (MarkKind kind : {MarkKind::BackHigh, MarkKind::BackLow})
            if (const auto tape = marked(kind)) {
                line(*tape, low + along * (*tape - low).dot(along));
                dot(*tape);
            }
        out.label = picture(0.5 * (low + top));
    }

    void massOverFoot(const Band* band) {
        const Vec2 mass = massCentre(track, sample, PointSet::Seen);
        const FootExtent foot = footExtent(track, PointSet::Seen);
        auto along = [&](double share) -> Vec2 { return Vec2(foot.heel + share * foot.length(), foot.floor); };
        ghost(along(band && band->min ? *band->min : 0), along(band && band->max ? *band->max : 1));
        line(mass, Vec2(mass.x(), foot.floor));
        dot(mass);
        out.label = picture(mass);
    }
};

/// Draws one part of a measure's sketch.
void draw(Sketch& s, const SketchPart& part, const Band* band, Side leg) {
    auto idOf = [&](const PointRead& p) { return pointOf(p.landmark, sideOfRole(p.role, s.track.near, leg)); };
    auto at = [&](const PointRead& p) -> Vec2 { return s.track.at(idOf(p), s.sample); };
    const Vec2 a = at(part.a), b = at(part.b), c = at(part.c), d = at(part.d);
    switch (part.draw) {
        case Draw::Joint: s.joint(a, b, c); break;
        case Draw::FromVertical: s.fromVertical(a, b); break;
        case Draw::FromEdge: {
            const double length = (b - a).norm(), edge = (band && band->max ? *band->max : 0.0) / kDegreesPerRadian;
            const Vec2 target(-length * std::cos(edge), length * std::sin(edge));
            s.ghost(a, a + 1.25 * target);
            s.line(a, b);
            s.dot(a), s.dot(b);
            s.arc(a, target, b - a);
            s.out.label = s.picture(b + Vec2(-0.9, -0.35) * length);  // behind and below, clear of the lines
            break;
        }
        case Draw::Against:
            s.line(a, b);
            s.line(c, d);
            s.ghost(c, c + (b - a).normalized() * (d - c).norm());
            s.arc(c, b - a, d - c);
            for (const Vec2& p : {a, b, c, d}) s.dot(p);
            s.out.label = s.picture(c + 0.5 * (d - c));
            break;
        case Draw::Segment:
            s.line(a, b);
            s.dot(a), s.dot(b);
            if (s.out.label.isNull()) s.out.label = s.picture(a);
            break;
        case Draw::Apart:
            s.ghost(a, Vec2(a.x(), b.y()));
            s.line(Vec2(a.x(), b.y()), b);
            s.dot(a), s.dot(b);
            s.out.label = s.picture(b);
            break;
        case Draw::Rise: s.rise(a, s.track.standingAt(idOf(part.a))); break;
        case Draw::ToeTip: {
            const FootExtent foot = footExtent(s.track, PointSet::Seen);
            s.ghost(Vec2(foot.toe, foot.floor), Vec2(foot.toe, a.y() + 0.1 * s.legLength()));
            s.line(Vec2(foot.toe, a.y()), a);
            s.dot(a);
            s.out.label = s.picture(a);
            break;
        }
        case Draw::OverFoot: s.massOverFoot(band); break;
        case Draw::OverShin:
            s.line(c, b);
            s.ghost(Vec2(a.x(), c.y()), a);
            for (const Vec2& p : {a, b, c}) s.dot(p);
            s.out.label = s.picture(a);
            break;
        case Draw::Across:
        case Draw::Level:
            s.line(a, b);
            s.dot(a), s.dot(b);
            if (part.draw == Draw::Level) {
                const double middle = 0.5 * (a.y() + b.y());
                s.ghost(Vec2(a.x(), middle), Vec2(b.x(), middle));
            }
            s.out.label = s.picture(0.5 * (a + b));
            break;
        case Draw::LegOverToe:
            s.line(a, b);
            s.line(b, c);
            s.line(c, d);
            s.ghost(d, Vec2(d.x(), b.y()));  // where the knee would stand over the toe
            for (const Vec2& p : {b, c, d}) s.dot(p);
            s.out.label = s.picture(b);
            break;
        case Draw::TrunkOverFeet: {
            auto of = [&](L id) -> Vec2 { return s.track.at(id, s.sample); };
            const Vec2 feet = 0.5 * (of(L::LeftAnkle) + of(L::RightAnkle)),
                       trunk = 0.25 * (of(L::LeftHip) + of(L::RightHip) + of(L::LeftShoulder) + of(L::RightShoulder));
            s.ghost(feet, Vec2(feet.x(), trunk.y()));
            s.line(Vec2(feet.x(), trunk.y()), trunk);
            s.dot(trunk);
            s.out.label = s.picture(trunk);
            break;
        }
        case Draw::PlumbOf:
            s.ghost(a, Vec2(a.x(), c.y()));
            for (const Vec2& p : {a, b, c}) s.dot(p);
            s.out.label = s.picture(a);
            break;
        case Draw::Back:
        case Draw::Stick: s.backLine(a, b, part.draw == Draw::Stick); break;
        case Draw::LoadPath: s.loadWay(a); break;
        case Draw::Tapes: {
            const bool hips = part.a.landmark == L::LeftHip;
            s.tapes(s.marked(hips ? MarkKind::HipLeft : MarkKind::KneeLeft).value_or(a),
                    s.marked(hips ? MarkKind::HipRight : MarkKind::KneeRight).value_or(b));
            break;
        }
        case Draw::TapedStick: s.tapedStick(a, b); break;
        case Draw::Path: s.path(idOf(part.a), static_cast<std::size_t>(1.5 * s.track.rate)); break;
    }
}

/// What was read in space shows as no angle of the picture: the legs it was read from.
void drawLegs(Sketch& s) {
    for (const Side side : {Side::Left, Side::Right}) {
        auto at = [&](L left) -> Vec2 { return s.track.at(ofSide(left, side), s.sample); };
        s.line(at(L::LeftHip), at(L::LeftKnee));
        s.line(at(L::LeftKnee), at(L::LeftAnkle));
        for (const L point : {L::LeftHip, L::LeftKnee, L::LeftAnkle}) s.dot(at(point));
    }
    s.out.label = s.picture(0.5 * (s.track.at(L::LeftHip, s.sample) + s.track.at(L::RightHip, s.sample)));
}

}  // namespace

Overlay overlayFor(MeasureId measure, const Track& track, std::size_t sample, const Band* band, std::optional<Side> leg,
                   const BackLine* back, const MarkLines* marks) {
    Sketch s{track, std::min(sample, track.size() - 1), back, marks};
    if (!measure) return s.out;
    if (track.view == ViewKind::Front && measure->course.fromFront) {
        drawLegs(s);
        return s.out;
    }
    const Side side = leg.value_or(track.near);
    for (const SketchPart& part : measure->sketch) draw(s, part, band, side);
    return s.out;
}

Overlay skeletonOverlay(const Track& track, std::size_t sample) {
    Sketch s{track, std::min(sample, track.size() - 1)};
    static constexpr std::pair<L, L> kBones[] = {{L::LeftShoulder, L::LeftElbow}, {L::LeftElbow, L::LeftWrist},
                                                 {L::LeftShoulder, L::LeftHip},   {L::LeftHip, L::LeftKnee},
                                                 {L::LeftKnee, L::LeftAnkle},     {L::LeftAnkle, L::LeftHeel},
                                                 {L::LeftHeel, L::LeftToe},       {L::LeftAnkle, L::LeftToe}};
    const bool leftNear = track.near == Side::Left;
    for (const auto& [a, b] : kBones)
        for (const bool left : {true, false}) {
            auto of = [&](L id) { return s.picture(track.at(ofSide(id, left ? Side::Left : Side::Right), s.sample)); };
            (left == leftNear ? s.out.lines : s.out.ghosts).emplace_back(of(a), of(b));
        }
    return s.out;
}

QRectF bodyOver(const Track& track, std::size_t from, std::size_t to) {
    constexpr std::size_t kEvery = 3;
    QRectF out;
    for (std::size_t i = from; i <= to; i += kEvery)
        for (std::size_t id = 0; id < kLandmarkCount; ++id) {
            const Vec2 p = track.toPicture(track.points[id][i]);
            out |= QRectF(p.x() - 1, p.y() - 1, 2, 2);
        }
    const double air = 0.03 * track.bodyPx;
    return out.adjusted(-air, -air, air, air);
}

Overlay figureOver(const Track& shown, std::size_t sample, const Track& other, std::size_t otherSample, bool mirrored,
                   const Outline* outline) {
    auto middle = [](const Track& t, std::size_t at) -> Vec2 {
        return 0.5 * (t.at(L::LeftHip, at) + t.at(L::RightHip, at));
    };
    const bool side = shown.view == ViewKind::Side;
    const Vec2 here = side ? shown.at(shown.nearOf(L::LeftHip), sample) : middle(shown, sample),
               there = side ? other.at(other.nearOf(L::LeftHip), otherSample) : middle(other, otherSample);
    const double scale = other.bodyPx > 1 ? shown.bodyPx / other.bodyPx : 1;
    // Drawn in the other's own picture first, then moved: picture points back to the track's frame and into this one.
    auto moved = [&](const QPointF& p) {
        const Vec2 q = other.fromPicture(Vec2(p.x(), p.y()));
        Vec2 d = scale * (q - there);
        if (mirrored) d.x() = -d.x();
        const Vec2 out = shown.toPicture(here + d);
        return QPointF(out.x(), out.y());
    };
    Overlay out = skeletonOverlay(other, otherSample);
    if (outline)
        for (std::size_t i = 0; i < outline->points.size(); ++i) {
            const auto& [ax, ay] = outline->points[i];
            const auto& [bx, by] = outline->points[(i + 1) % outline->points.size()];
            out.ghosts.emplace_back(QPointF(ax, ay), QPointF(bx, by));
        }
    for (auto* lines : {&out.lines, &out.ghosts})
        for (QLineF& l : *lines) l = QLineF(moved(l.p1()), moved(l.p2()));
    return out;
}

}  // namespace zevo::present
