#include "pipeline/follow_mark.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <map>
#include <optional>

#include "media/frame_source.h"
#include "vision/point_follower.h"

namespace zevo::pipeline {
namespace {

/// How far two ways may be apart where they speak of the same point, pixels of the pictures as they are read.
constexpr double kAgreePx = 3;
/// Pictures held at once on the way back: about 60 MB, whatever the rate.
constexpr double kPiecePictures = 60;

using Place = std::optional<Vec2>;
/// One picture of the stretch, where each way had the point in it, and what comes of them.
struct Moment {
    double timeS = 0;
    Place on, back, check, settled;
};
/// By time, in tenths of a millisecond: the same picture comes by up to three times.
using Moments = std::map<long, Moment>;

using Grey = std::shared_ptr<const GreyPicture>;

/// The pictures of a stretch, forwards or piece by piece backwards.
class Pictures {
  public:
    static Result<Pictures> open(const std::string& clip, const std::atomic<bool>& cancel) {
        auto source = media::openClip(clip, {kWidestFrame});
        if (!source) return source.error();
        return Pictures(std::move(*source), cancel);
    }

    using OnPicture = std::function<void(double timeS, const Grey&)>;
    Result<void> forwards(double fromS, double toS, const OnPicture& each) {
        if (auto sought = m_source->seek(std::max(0.0, fromS - half())); !sought) return sought.error();
        media::VideoFrame frame;
        for (;;) {
            if (*m_cancel) return refusal(NoticeKind::Stopped);
            const auto got = m_source->next(frame);
            if (!got) return got.error();
            if (!*got || frame.timeS > toS + half()) return {};
            each(frame.timeS, std::make_shared<const GreyPicture>(greyOf(frame.picture.view())));
        }
    }
    Result<void> backwards(double fromS, double toS, const OnPicture& each) {
        const double pieceS = 2 * half() * kPiecePictures;
        double end = toS, newest = std::numeric_limits<double>::infinity();
        while (end > fromS) {
            const double begin = std::max(fromS, end - pieceS);
            std::vector<std::pair<double, Grey>> piece;
            auto kept = forwards(begin, end, [&](double t, const Grey& g) {
                if (t < newest - 1e-6) piece.emplace_back(t, g);
            });
            if (!kept) return kept;
            for (auto p = piece.rbegin(); p != piece.rend(); ++p) each(p->first, p->second);
            if (!piece.empty()) newest = piece.front().first;
            end = begin;
        }
        return {};
    }
    double half() const { return 0.5 / std::max(1.0, m_source->facts().frameRate); }

  private:
    Pictures(std::unique_ptr<media::FrameSource> source, const std::atomic<bool>& cancel)
        : m_source(std::move(source)), m_cancel(&cancel) {}
    std::unique_ptr<media::FrameSource> m_source;
    const std::atomic<bool>* m_cancel;
};

bool isLoad(MarkKind kind) {
    return kind == MarkKind::BarEnd || kind == MarkKind::Bell;
}
/// A load is followed by whatever edge it has. What is marked as tape has to be as clear as tape: cloth drifts, the
/// same way there and back, so that no second look would notice.
double leastOf(MarkKind kind) {
    return isLoad(kind) ? PointFollower::kLeastStructure : PointFollower::kLeastOfTape;
}
PointFollower::Look lookOf(MarkKind kind) {
    return isLoad(kind) ? PointFollower::Look::Changes : PointFollower::Look::Stays;
}

/// One way through the pictures: begins anew at every click it comes by.
class TrackingPass {
  public:
    TrackingPass(const Mark& mark, double scale, double half)
        : m_clicks(mark.clicks), m_scale(scale), m_half(half), m_least(leastOf(mark.kind)), m_look(lookOf(mark.kind)) {}
    void beginAt(const Grey& picture, const Vec2& at) { m_follower.emplace(picture, at, m_look); }
    bool hasBegun() const { return m_follower.has_value(); }
    /// Where the point is in the next picture; `came`: where it was thought to be in a picture with a click, before the
    /// click put it right.
    Place take(double timeS, const Grey& picture, Place* came) {
        Place at;
        if (m_follower)
            if (const auto step = m_follower->follow(picture); step.held) at = step.at;
        for (const MarkClick& c : m_clicks) {
            if (std::abs(c.atS - timeS) > m_half) continue;
            if (came) *came = at;
            at = Vec2(c.x, c.y) / m_scale;
            m_follower.emplace(picture, *at, m_look);
            m_plain = m_plain || m_follower->minEigenvalue() < m_least;
        }
        return at;
    }
    /// A click lay on a place that looks like its surroundings.
    bool plain() const { return m_plain; }

  private:
    const std::vector<MarkClick>& m_clicks;
    double m_scale, m_half, m_least;
    PointFollower::Look m_look;
    std::optional<PointFollower> m_follower;
    bool m_plain = false;
};

/// What lies beyond the last click (or before the first): `main` was followed away from it, `check` back to it from the
/// far end, where it began on the main one. Near the far end the two agree because they began together; how far the
/// main one has strayed there is what the check misses the click by. A check that was lost on its way says nothing of
/// what lies behind that: there the main one counts as lost as well.
void mergeTail(const std::vector<Moment*>& moments, Place Moment::*main, Place Moment::*check, const Place& home,
               const Vec2& click) {
    for (Moment* m : moments) {
        if (!(m->*main)) continue;
        const double apart = m->*check ? (*(m->*main) - *(m->*check)).norm() : 0;
        const bool strayed = home ? (*home - click).norm() - apart > kAgreePx : (m->*check).has_value();
        if (!strayed) m->settled = m->*main;
    }
}

/// What lies between two clicks, by both ways: where they agree, weighed by how far each has come. A way alone, where
/// the other was lost (something covers the point), counts while the two have nowhere between these clicks disagreed.
void settleBetween(const std::vector<Moment*>& moments, double fromS, double toS) {
    auto apart = [](const Moment* m) { return m->on && m->back ? (*m->on - *m->back).norm() : 0.0; };
    const bool agree =
        std::none_of(moments.begin(), moments.end(), [&](const Moment* m) { return apart(m) > kAgreePx; });
    for (Moment* m : moments) {
        const double w = toS > fromS ? std::clamp((m->timeS - fromS) / (toS - fromS), 0.0, 1.0) : 0;
        if (m->on && m->back && apart(m) <= kAgreePx)
            m->settled = Vec2((1 - w) * *m->on + w * *m->back);
        else if (agree)
            m->settled = m->on ? m->on : m->back;
    }
}

}  // namespace

Span markedSpan(const MeasuredView& view, const Mark& mark) {
    constexpr double kAroundS = 1;
    const auto& times = view.track->timesS;
    Span out{times.front(), times.back()};
    if (!view.reps.empty())
        out = {std::max(out.fromS, times[view.reps.front().start] - kAroundS),
               std::min(out.toS, times[view.reps.back().end] + kAroundS)};
    for (const MarkClick& c : mark.clicks) out.fromS = std::min(out.fromS, c.atS), out.toS = std::max(out.toS, c.atS);
    return out;
}

Result<Mark> followMark(const std::string& clip, Mark mark, const Span& within, int pictureWidth,
                        const std::atomic<bool>& cancel, const OnProgress& progress) {
    if (mark.clicks.empty()) return mark;
    auto pictures = Pictures::open(clip, cancel);
    if (!pictures) return pictures.error();
    const double first = mark.clicks.front().atS, last = mark.clicks.back().atS;
    const double half = pictures->half();
    Moments moments;
    auto at = [&](double t) -> Moment& {
        Moment& m = moments[std::lround(t * 1e4)];
        m.timeS = t;
        return m;
    };
    long done = 0;
    // There from the first click, back over all of it, and once more up to the first click.
    const auto inAll =
        static_cast<long>(((within.toS - first) + (within.toS - within.fromS) + (first - within.fromS)) / (2 * half));
    double scale = 1;
    /// A way's step in a picture: it begins at a click, or where another way had the point at the far end. Where it
    /// thought the point to be when it came by `homeS` is its `home`.
    struct Traversal {
        Place Moment::*into, Moment::*begin;
        double homeS;
        std::optional<TrackingPass> way{};
        Place home{};
    };
    auto visit = [&](Traversal& traversal, double t, const Grey& g) {
        scale = static_cast<double>(pictureWidth) / std::max(1, g->width);
        if (!traversal.way) traversal.way.emplace(mark, scale, half);
        Moment& m = at(t);
        const bool atHome = std::abs(t - traversal.homeS) <= half;
        if (traversal.begin && !traversal.way->hasBegun() && !atHome && m.*traversal.begin) {
            traversal.way->beginAt(g, *(m.*traversal.begin));
            m.*traversal.into = m.*traversal.begin;
        } else {
            m.*traversal.into = traversal.way->take(t, g, atHome ? &traversal.home : nullptr);
        }
        if (progress && ++done % 10 == 0) progress({done, std::max(done, inAll), 0, Doing::Following});
    };
    Traversal on{&Moment::on, nullptr, first}, back{&Moment::back, &Moment::on, last},
        check{&Moment::check, &Moment::back, first};
    auto along = [&](Traversal& traversal) { return [&](double t, const Grey& g) { visit(traversal, t, g); }; };
    if (auto went = pictures->forwards(first, within.toS, along(on)); !went) return went.error();
    if (!on.way || !on.way->hasBegun()) return Error{"There is no picture at the place that was marked.", clip};
    if (on.way->plain()) return refusal(NoticeKind::MarkNotSeen, {std::string(markName(mark.kind))});
    // Not from beyond the clip's end, where every piece would be looked for in vain.
    const double endS = std::min(within.toS, moments.rbegin()->second.timeS + half);
    if (auto went = pictures->backwards(within.fromS, endS, along(back)); !went) return went.error();
    if (auto went = pictures->forwards(within.fromS, first, along(check)); !went) return went.error();

    auto placeOf = [&](const MarkClick& c) -> Vec2 { return Vec2(c.x, c.y) / scale; };
    auto those = [&](double fromS, double toS) {
        std::vector<Moment*> out;
        for (auto& [key, m] : moments)
            if (m.timeS > fromS && m.timeS < toS) out.push_back(&m);
        return out;
    };
    constexpr double kEver = std::numeric_limits<double>::infinity();
    mergeTail(those(last + half, kEver), &Moment::on, &Moment::back, back.home, placeOf(mark.clicks.back()));
    mergeTail(those(-kEver, first - half), &Moment::back, &Moment::check, check.home, placeOf(mark.clicks.front()));
    for (std::size_t i = 0; i < mark.clicks.size(); ++i) {
        const double fromS = mark.clicks[i].atS, toS = mark.clicks[std::min(i + 1, mark.clicks.size() - 1)].atS;
        settleBetween(those(fromS - 1.01 * half, toS + 1.01 * half), fromS, toS);
    }

    auto path = std::make_shared<std::vector<MarkStep>>();
    constexpr double kLost = std::numeric_limits<double>::quiet_NaN();
    for (const auto& [key, m] : moments)
        path->push_back(
            {m.timeS, m.settled ? m.settled->x() * scale : kLost, m.settled ? m.settled->y() * scale : kLost});
    mark.path = std::move(path);
    return mark;
}

}  // namespace zevo::pipeline
