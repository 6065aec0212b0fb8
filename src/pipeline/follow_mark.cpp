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

/// How far two ways may be apart where they speak of the same point, pixels of a picture kWidestFrame wide.
constexpr double kAgreePx = 3;
/// Pictures held at once on the way back, seconds: about 60 MB at 30 a second.
constexpr double kPieceS = 2;

/// One picture of the stretch and where each way had the point in it.
struct Moment {
    double timeS = 0;
    std::optional<Vec2> on, back, check;
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
        double end = toS, newest = std::numeric_limits<double>::infinity();
        while (end > fromS) {
            const double begin = std::max(fromS, end - kPieceS);
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
class Way {
  public:
    Way(const Mark& mark, double scale, double half)
        : m_clicks(mark.clicks), m_scale(scale), m_half(half), m_least(leastOf(mark.kind)), m_look(lookOf(mark.kind)) {}
    void beginAt(const Grey& picture, const Vec2& at) { m_follower.emplace(picture, at, m_look); }
    bool hasBegun() const { return m_follower.has_value(); }
    /// Where the point is in the next picture; `came`: where it was thought to be in a picture with a click, before the
    /// click put it right.
    std::optional<Vec2> take(double timeS, const Grey& picture, std::optional<Vec2>* came = nullptr) {
        std::optional<Vec2> at;
        if (m_follower)
            if (const auto step = m_follower->follow(picture); step.held) at = step.at;
        for (const MarkClick& c : m_clicks) {
            if (std::abs(c.atS - timeS) > m_half) continue;
            if (came) *came = at;
            at = Vec2(c.x, c.y) / m_scale;
            m_follower.emplace(picture, *at, m_look);
            m_plain = m_plain || m_follower->structure() < m_least;
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
/// main one has strayed there is what the check misses the click by.
void settleEnd(std::vector<Moment*>& moments, std::optional<Vec2> Moment::*main, std::optional<Vec2> Moment::*check,
               const std::optional<Vec2>& home, const Vec2& click) {
    if (!home) return;  // the way back was lost itself: nothing is known against the way out but its own checks
    const double missed = (*home - click).norm();
    if (missed <= kAgreePx) return;
    for (Moment* m : moments) {
        if (!(m->*main)) continue;
        const double apart = m->*check ? (*(m->*main) - *(m->*check)).norm() : 0;
        if (missed - apart > kAgreePx) (m->*main).reset();
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
    auto tell = [&] {
        if (progress && ++done % 10 == 0) progress({done, std::max(done, inAll), 0, Doing::Following});
    };
    int width = 0;
    auto scaleOf = [&](const Grey& g) {
        width = g->width;
        return static_cast<double>(pictureWidth) / std::max(1, width);
    };
    std::optional<Way> on, back, check;
    auto whole = pictures->forwards(first, within.toS, [&](double t, const Grey& g) {
        if (!on) on.emplace(mark, scaleOf(g), half);
        at(t).on = on->take(t, g);
        tell();
    });
    if (!whole) return whole.error();
    if (!on || !on->hasBegun()) return Error{"There is no picture at the place that was marked.", clip};
    if (on->plain()) return refusal(NoticeKind::MarkNotSeen, {std::string(markName(mark.kind))});
    std::optional<Vec2> homeOfEnd;
    whole = pictures->backwards(within.fromS, within.toS, [&](double t, const Grey& g) {
        if (!back) back.emplace(mark, scaleOf(g), half);
        Moment& m = at(t);
        if (!back->hasBegun() && t > last + half && m.on) {
            back->beginAt(g, *m.on);
            m.back = m.on;
        } else {
            std::optional<Vec2> came;
            m.back = back->take(t, g, &came);
            if (std::abs(t - last) <= half) homeOfEnd = came;
        }
        tell();
    });
    if (!whole) return whole.error();
    std::optional<Vec2> homeOfBegin;
    whole = pictures->forwards(within.fromS, first, [&](double t, const Grey& g) {
        if (!check) check.emplace(mark, scaleOf(g), half);
        Moment& m = at(t);
        if (!check->hasBegun() && t < first - half && m.back) {
            check->beginAt(g, *m.back);
            m.check = m.back;
        } else {
            std::optional<Vec2> came;
            m.check = check->take(t, g, &came);
            if (std::abs(t - first) <= half) homeOfBegin = came;
        }
        tell();
    });
    if (!whole) return whole.error();

    const double scale = static_cast<double>(pictureWidth) / std::max(1, width);
    auto placeOf = [&](const MarkClick& c) -> Vec2 { return Vec2(c.x, c.y) / scale; };
    std::vector<Moment*> before, after;
    for (auto& [key, m] : moments) {
        if (m.timeS < first - half) before.push_back(&m);
        if (m.timeS > last + half) after.push_back(&m);
    }
    settleEnd(after, &Moment::on, &Moment::back, homeOfEnd, placeOf(mark.clicks.back()));
    settleEnd(before, &Moment::back, &Moment::check, homeOfBegin, placeOf(mark.clicks.front()));

    auto path = std::make_shared<std::vector<MarkStep>>();
    constexpr double kLost = std::numeric_limits<double>::quiet_NaN();
    for (const auto& [key, m] : moments) {
        std::optional<Vec2> place;
        if (m.timeS < first - half) {
            place = m.back;
        } else if (m.timeS > last + half) {
            place = m.on;
        } else if (m.on && m.back) {
            // Nearer to the click it comes from, a way has gathered less.
            const auto next = std::lower_bound(mark.clicks.begin(), mark.clicks.end(), m.timeS - half,
                                               [](const MarkClick& c, double t) { return c.atS < t; });
            const double to = next == mark.clicks.end() ? last : next->atS,
                         from = next == mark.clicks.begin() ? first : std::prev(next)->atS;
            const double w = to > from ? std::clamp((m.timeS - from) / (to - from), 0.0, 1.0) : 0;
            if ((*m.on - *m.back).norm() <= kAgreePx) place = Vec2((1 - w) * *m.on + w * *m.back);
        } else {
            place = m.on ? m.on : m.back;
        }
        path->push_back({m.timeS, place ? place->x() * scale : kLost, place ? place->y() * scale : kLost});
    }
    mark.path = std::move(path);
    return mark;
}

}  // namespace zevo::pipeline
