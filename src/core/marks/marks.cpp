#include "core/marks/marks.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

#include "core/base/number_text.h"
#include "core/signal/filter.h"
#include "core/track/perspective.h"

namespace zevo {
namespace {

constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
/// A stature for the camera's distance where nobody said one, cm.
constexpr double kUsualStatureCm = 172;
/// Longer without the point is a gap: nothing is put in its place.
constexpr double kBridgedS = 0.12;
/// A load in the hand moves faster than a joint (Winter's 6 Hz is for those; ours).
constexpr double kCutoffHz = 8;

/// In the order of MarkKind.
constexpr std::array<const char*, kMarkKinds> kNames{"bar_end",    "bell",      "hip_left",  "hip_right", "knee_left",
                                                     "knee_right", "stick_top", "stick_low", "back_high", "back_low"};

/// "1.2,640,410".
std::optional<MarkClick> clickFrom(const std::string& text) {
    std::istringstream parts(text);
    std::array<double, 3> values{};
    std::string part;
    for (double& value : values) {
        if (!std::getline(parts, part, ',')) return std::nullopt;
        const auto number = numberFrom(part);
        if (!number) return std::nullopt;
        value = *number;
    }
    if (!parts.eof()) return std::nullopt;
    return MarkClick{values[0], values[1], values[2]};
}

/// Smoothed between its gaps.
void smoothRuns(std::vector<double>& values, double rate) {
    constexpr std::size_t kLeast = 6;
    std::size_t from = 0;
    while (from < values.size()) {
        while (from < values.size() && std::isnan(values[from])) ++from;
        std::size_t to = from;
        while (to < values.size() && !std::isnan(values[to])) ++to;
        if (to - from >= kLeast) {
            const auto run =
                smooth(std::span<const double>(values).subspan(from, to - from), rate, std::min(kCutoffHz, 0.3 * rate));
            std::copy(run.begin(), run.end(), values.begin() + static_cast<std::ptrdiff_t>(from));
        }
        from = to;
    }
}

}  // namespace

const char* markName(MarkKind kind) {
    return kNames[static_cast<std::size_t>(kind)];
}

std::optional<MarkKind> markFromName(std::string_view name) {
    const auto found = std::find(kNames.begin(), kNames.end(), name);
    if (found == kNames.end()) return std::nullopt;
    return static_cast<MarkKind>(found - kNames.begin());
}

bool isMarkedIn(MarkKind kind, ViewKind view) {
    switch (kind) {
        case MarkKind::BarEnd:
        case MarkKind::Bell:
        case MarkKind::StickTop:
        case MarkKind::StickLow:
        case MarkKind::BackHigh:
        case MarkKind::BackLow: return view == ViewKind::Side;
        case MarkKind::HipLeft:
        case MarkKind::HipRight:
        case MarkKind::KneeLeft:
        case MarkKind::KneeRight: break;
    }
    return isFrontal(view) || view == ViewKind::FootEnd;
}

double usuallyNearerCm(MarkKind kind) {
    switch (kind) {
        case MarkKind::BarEnd: return 110;
        case MarkKind::Bell:
        case MarkKind::StickTop:
        case MarkKind::StickLow: return 0;
        default: return 10;
    }
}

Mark Mark::clicked(const MarkClick& click) const {
    Mark out = *this;
    out.path = nullptr;
    std::erase_if(out.clicks, [&](const MarkClick& c) { return std::abs(c.atS - click.atS) < kOneClickS; });
    out.clicks.insert(std::upper_bound(out.clicks.begin(), out.clicks.end(), click,
                                       [](const MarkClick& a, const MarkClick& b) { return a.atS < b.atS; }),
                      click);
    return out;
}

std::vector<std::pair<double, double>> Mark::gaps() const {
    std::vector<std::pair<double, double>> out;
    if (!path) return out;
    bool open = false;
    for (const MarkStep& s : *path) {
        if (!s.held() && !open) out.emplace_back(s.timeS, s.timeS);
        open = !s.held();
        if (open) out.back().second = s.timeS;
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const auto& a, const auto& b) { return a.second - a.first > b.second - b.first; });
    return out;
}

bool Mark::operator==(const Mark& o) const {
    // A path follows from clip and clicks alone; the same clicks after another following are still another path.
    return kind == o.kind && nearerCm == o.nearerCm && clicks == o.clicks && path == o.path;
}

Result<std::vector<Mark>> marksFromText(const std::string& text, std::optional<double> barNearerCm) {
    std::vector<Mark> out;
    std::istringstream all(text);
    for (std::string one; std::getline(all, one, ';');) {
        const auto at = one.find('@');
        const auto kind = markFromName(one.substr(0, at));
        const auto click = at == std::string::npos ? std::nullopt : clickFrom(one.substr(at + 1));
        if (!kind || !click) {
            std::string known;
            for (const char* name : kNames) known += std::string(" ") + name;
            return Error{"A mark is written POINT@SECONDS,X,Y, as in bell@1.2,640,410; points are" + known + ".", one};
        }
        auto mark = std::find_if(out.begin(), out.end(), [&](const Mark& m) { return m.kind == *kind; });
        if (mark == out.end()) {
            const bool said = barNearerCm && *kind == MarkKind::BarEnd;
            out.push_back({*kind, said ? *barNearerCm : usuallyNearerCm(*kind), {}, nullptr});
            mark = out.end() - 1;
        }
        *mark = mark->clicked(*click);
    }
    return out;
}

double MarkLines::Line::heldShare(std::size_t from, std::size_t to) const {
    if (to < from || to >= seen.size()) return 0;
    std::size_t held = 0;
    for (std::size_t i = from; i <= to; ++i) held += !std::isnan(seen[i].x());
    return static_cast<double>(held) / static_cast<double>(to - from + 1);
}

MarkLines::MarkLines(std::shared_ptr<const Track> track, std::span<const Rep> reps, std::span<const Mark> marks)
    : m_track(std::move(track)), m_reps(reps.begin(), reps.end()) {
    const Track& t = *m_track;
    const double focal = assumedFocalPx(t.pictureWidth, t.pictureHeight);
    const double cmPerPixel = t.cmPerPixel > 0 ? t.cmPerPixel : kUsualStatureCm / std::max(1.0, t.bodyPx);
    m_cameraCm = focal * cmPerPixel;
    const Vec2 middle(t.pictureWidth / 2.0, t.pictureHeight / 2.0);
    for (const Mark& mark : marks) {
        if (!mark.path || mark.path->size() < 2) continue;
        std::vector<double> times, xs, ys;
        for (const MarkStep& s : *mark.path) {
            const Vec2 p = s.held() ? t.fromPicture(Vec2(s.x, s.y)) : Vec2(kNone, kNone);
            times.push_back(s.timeS), xs.push_back(p.x()), ys.push_back(p.y());
        }
        auto x = resample(times, xs, t.timesS, kBridgedS), y = resample(times, ys, t.timesS, kBridgedS);
        smoothRuns(x, t.rate), smoothRuns(y, t.rate);
        Line line;
        line.nearer = std::clamp(mark.nearerCm / m_cameraCm, -0.4, 0.4);
        for (std::size_t i = 0; i < t.size(); ++i) {
            line.seen.emplace_back(x[i], y[i]);
            line.flat.push_back(middle + (line.seen.back() - middle) * (1 - line.nearer));
        }
        m_lines[static_cast<std::size_t>(mark.kind)] = std::move(line);
    }
    for (const Rep& rep : m_reps) {
        const auto lift = liftOf(rep);
        m_speeds.push_back(lift ? lift->meanMps : 0);
    }
}

const MarkLines::Line* MarkLines::of(MarkKind kind) const {
    const auto& line = m_lines[static_cast<std::size_t>(kind)];
    return line ? &*line : nullptr;
}

std::optional<MarkKind> MarkLines::load() const {
    for (MarkKind kind : {MarkKind::BarEnd, MarkKind::Bell})
        if (of(kind)) return kind;
    return std::nullopt;
}

const MarkLines::Line* MarkLines::loadIn(const Rep& rep) const {
    const Line* line = loadLine();
    return line && line->heldShare(rep.start, rep.end) >= kLeastHeld ? line : nullptr;
}

std::optional<MarkLines::Lift> MarkLines::liftOf(const Rep& rep) const {
    constexpr double kLeastRiseCm = 8;
    const Line* line = loadIn(rep);
    if (!line || m_track->cmPerPixel <= 0) return std::nullopt;
    auto y = [&](std::size_t i) { return line->flat[i].y(); };
    Lift lift{0, rep.start, rep.start};
    for (std::size_t i = rep.start; i <= rep.end; ++i)
        if (y(i) < y(lift.low) || std::isnan(y(lift.low))) lift.low = i;
    lift.high = lift.low;
    for (std::size_t i = lift.low; i <= rep.end; ++i)
        if (y(i) > y(lift.high)) lift.high = i;
    const double rise = y(lift.high) - y(lift.low);
    if (rise * m_track->cmPerPixel < kLeastRiseCm) return std::nullopt;
    // From a twentieth of the rise to nineteen: a load that rests below, or is held above, does not count as slow.
    auto passes = [&](double share) {
        const double level = y(lift.low) + share * rise;
        // From above, so that what is put down again half-way is not the start.
        std::size_t i = lift.high;
        while (i > lift.low && !(y(i - 1) < level)) --i;
        if (i == lift.low) return m_track->timesS[i];
        const double w = (level - y(i - 1)) / std::max(1e-9, y(i) - y(i - 1));
        return m_track->timesS[i - 1] + w * (m_track->timesS[i] - m_track->timesS[i - 1]);
    };
    const double seconds = passes(0.95) - passes(0.05);
    if (seconds <= 0) return std::nullopt;
    lift.meanMps = 0.9 * rise * m_track->cmPerPixel / 100 / seconds;
    return lift;
}

std::vector<int> MarkLines::swingsBetweenRests() const {
    constexpr double kStillS = 0.3, kStillCm = 2;
    std::vector<int> out;
    const Line* line = loadLine();
    if (!line || m_track->cmPerPixel <= 0) return out;
    const double still = kStillCm / m_track->cmPerPixel,
                 knee = m_track->standingFlatAt(m_track->nearOf(Landmark::LeftKnee)).y();
    const auto hold = static_cast<std::size_t>(std::ceil(kStillS * m_track->rate));
    auto rests = [&](const Rep& rep) {
        std::size_t since = rep.start;
        for (std::size_t i = rep.start; i <= rep.end; ++i) {
            const Vec2 step = line->flat[i] - line->flat[since];
            // NaN-safe: a lost point restarts the window.
            if (!(line->flat[i].y() < knee && step.norm() < still)) since = i;
            if (i - since >= hold) return true;
        }
        return false;
    };
    for (const Rep& rep : m_reps) {
        if (out.empty() || rests(rep)) out.push_back(0);
        ++out.back();
    }
    return out;
}

double MarkLines::fastestUpTo(const Rep& rep) const {
    double out = 0;
    for (std::size_t i = 0; i < m_reps.size() && m_reps[i].start <= rep.start; ++i) out = std::max(out, m_speeds[i]);
    return out;
}

std::vector<Vec2> MarkLines::wayAround(std::size_t sample) const {
    std::vector<Vec2> out;
    const Line* line = loadLine();
    if (!line) return out;
    const auto back = static_cast<std::size_t>(1.5 * m_track->rate);
    std::size_t from = sample > back ? sample - back : 0, to = sample;
    for (const Rep& rep : m_reps)
        if (sample >= rep.start && sample <= rep.end) from = rep.start, to = rep.end;
    to = std::min(to + 1, line->seen.size());
    out.assign(line->seen.begin() + static_cast<std::ptrdiff_t>(from),
               line->seen.begin() + static_cast<std::ptrdiff_t>(to));
    return out;
}

}  // namespace zevo
