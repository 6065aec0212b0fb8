#include "vision/turned_strip.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "core/base/degrees.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kFoot = 48;  ///< canvas pixels
constexpr double kBehind = 0.75, kAhead = 0.55, kAbove = 1.15, kBelow = 0.55;
constexpr int kWidth = static_cast<int>((kBehind + 1 + kAhead) * kFoot),
              kHeight = static_cast<int>((kAbove + kBelow) * kFoot);
constexpr double kHeelX = kBehind * kFoot, kHeelY = kAbove * kFoot;

constexpr double kLeastTurn = -6, kMostTurn = 30, kTurnStep = 2;  // degrees
constexpr int kShift = 2;                                         // pixels along and across the strip
constexpr int kWindows = 6;
constexpr double kWindowWide = 0.16;
constexpr double kGrain = 6.0 * 6.0;  // grey levels², added to both variances
constexpr std::array<std::pair<double, double>, 2> kStrips{{{0.03, 0.22}, {0.05, 0.26}}};

// A reading is taken when …
constexpr double kLeastScore = 0.45, kLeastOfSelf = 0.5;  // … the strip is found,
constexpr double kLeastRise = -0.035;                     // … not below the floor,
constexpr double kMostHalf = 0.06;                        // … nowhere else nearly as well,
constexpr double kMostApart = 0.05;  // … by both strips alike, or one inside the other's interval.
constexpr double kOtherInside = 0.025;
// Rises that are told apart: a quarter of a centimetre of a 20 cm foot.
constexpr double kBin = 0.0125, kLowestBin = -0.10, kHighestBin = 0.45;

struct Rgb {
    float c[3];
};

template <typename Value>
Rgb sample(const std::vector<Value>& rgb, int width, int height, double x, double y) {
    const double sx = std::clamp(x - 0.5, 0.0, width - 1.001), sy = std::clamp(y - 0.5, 0.0, height - 1.001);
    const int ix = static_cast<int>(sx), iy = static_cast<int>(sy);
    const auto fx = static_cast<float>(sx - ix), fy = static_cast<float>(sy - iy);
    const Value* p = rgb.data() + 3 * (static_cast<std::size_t>(iy) * static_cast<std::size_t>(width) +
                                       static_cast<std::size_t>(ix));
    const Value* q = p + 3 * width;
    Rgb out;
    for (int k = 0; k < 3; ++k)
        out.c[k] = (1 - fy) * ((1 - fx) * static_cast<float>(p[k]) + fx * static_cast<float>(p[k + 3])) +
                   fy * ((1 - fx) * static_cast<float>(q[k]) + fx * static_cast<float>(q[k + 3]));
    return out;
}

/// Windows are this many pixels wide: eight columns added up side by side go through the processor at once.
constexpr int kWindow = 8;
static_assert(kWindow == static_cast<int>(kWindowWide * kFoot + 0.5));

/// A grid of colours, a plane a colour.
struct Strip {
    int wide = 0, high = 0;
    std::array<std::vector<float>, 3> plane;
    Strip(int w, int h) : wide(w), high(h) {
        for (auto& p : plane) p.reserve(static_cast<std::size_t>(w) * static_cast<std::size_t>(h));
    }
    void add(const Rgb& colour) {
        for (std::size_t k = 0; k < 3; ++k) plane[k].push_back(colour.c[k]);
    }
    const float* row(std::size_t colour, int x, int y) const {
        return plane[colour].data() + static_cast<std::ptrdiff_t>(y) * wide + x;
    }
};

using Columns = std::array<float, kWindow>;
float sumOf(const Columns& c) {
    float sum = 0;
    for (float v : c) sum += v;
    return sum;
}

/// A strip to be found again: its windows without their means, and how much each varies.
class Held {
  public:
    explicit Held(const Strip& strip) : m_high(strip.high) {
        const int last = std::max(0, strip.wide - kWindow);
        for (std::size_t w = 0; w < kWindows; ++w) {
            m_at[w] = last * static_cast<int>(w) / (kWindows - 1);
            for (std::size_t k = 0; k < 3; ++k) {
                auto& values = m_values[w][k];
                for (int y = 0; y < m_high; ++y)
                    values.insert(values.end(), strip.row(k, m_at[w], y), strip.row(k, m_at[w], y) + kWindow);
                float mean = 0;
                for (float v : values) mean += v;
                mean /= static_cast<float>(values.size());
                for (float& v : values) v -= mean, m_varies[w] += v * v;
            }
        }
    }
    /// Mean over windows of the correlation with `other` shifted by (dx, dy), clipped to 0…1; colours together, each
    /// without its mean in the window.
    double likeness(const Strip& other, int dx, int dy) const {
        const auto n = static_cast<float>(kWindow * m_high);
        const float grain = static_cast<float>(kGrain) * n;
        double sum = 0;
        for (std::size_t w = 0; w < kWindows; ++w) {
            float varies = 0, shared = 0;
            for (std::size_t k = 0; k < 3; ++k) {
                Columns plain{}, squared{}, with{};
                const float* held = m_values[w][k].data();
                for (int y = 0; y < m_high; ++y, held += kWindow) {
                    const float* seen = other.row(k, m_at[w] + dx, y + dy);
                    for (std::size_t x = 0; x < kWindow; ++x) {
                        plain[x] += seen[x];
                        squared[x] += seen[x] * seen[x];
                        with[x] += held[x] * seen[x];
                    }
                }
                const float total = sumOf(plain);
                varies += sumOf(squared) - total * total / n;
                shared += sumOf(with);
            }
            sum += std::clamp(shared / std::sqrt((m_varies[w] + grain) * (std::max(0.0F, varies) + grain)), 0.0F, 1.0F);
        }
        return sum / kWindows;
    }

  private:
    int m_high;
    std::array<int, kWindows> m_at{};
    std::array<std::array<std::vector<float>, 3>, kWindows> m_values;
    std::array<float, kWindows> m_varies{};
};

/// Where a parabola through three evenly spaced values has its top, in steps from the middle one.
double top(double before, double at, double after) {
    const double bend = before - 2 * at + after;
    return bend < -1e-9 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
}

}  // namespace

TurnedStrip::Colours TurnedStrip::onCanvas(const FramePiece& view) const {
    Colours out{kWidth, kHeight, std::vector<float>(static_cast<std::size_t>(kWidth) * kHeight * 3)};
    // Pictures in which the foot is larger than the canvas are read as means over several places, else grain is kept.
    const int grid = std::max(1, static_cast<int>(std::lround(1 / m_scale)));
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x)
            for (int s = 0; s < grid * grid; ++s) {
                const double cx = x + (s % grid + 0.5) / grid, cy = y + (s / grid + 0.5) / grid;
                const double along = (cx - kHeelX) / m_scale, up = (cy - kHeelY) / m_scale;
                const Rgb c = sample(view.picture.rgb, view.picture.width, view.picture.height,
                                     m_shoe.heel.x() + (m_mirrored ? -along : along) - view.origin.x(),
                                     m_shoe.heel.y() + up - view.origin.y());
                for (int k = 0; k < 3; ++k)
                    out.rgb[3 * static_cast<std::size_t>(y * kWidth + x) + static_cast<std::size_t>(k)] +=
                        c.c[k] / static_cast<float>(grid * grid);
            }
    return out;
}

/// The lowest edge of the shoe: never simply the strongest, which may be where upper and sole meet.
bool TurnedStrip::findSole() {
    std::vector<double> edge(static_cast<std::size_t>(kWidth) * kHeight, 0.0);
    auto grey = [&](int x, int y, int k) {
        // A small blur: a half, and a quarter from either side.
        double v = 0;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const int px = std::clamp(x + dx, 0, kWidth - 1), py = std::clamp(y + dy, 0, kHeight - 1);
                v += (dx ? 0.25 : 0.5) * (dy ? 0.25 : 0.5) *
                     m_reference.rgb[3 * static_cast<std::size_t>(py * kWidth + px) + static_cast<std::size_t>(k)];
            }
        return v;
    };
    for (int y = 1; y + 1 < kHeight; ++y)
        for (int x = 1; x + 1 < kWidth; ++x) {
            double norm = 0;
            for (int k = 0; k < 3; ++k) {
                double sobel = 0;
                for (int dx = -1; dx <= 1; ++dx)
                    sobel += (dx ? 1 : 2) * (grey(x + dx, y + 1, k) - grey(x + dx, y - 1, k));
                norm += sobel * sobel / 64;
            }
            edge[static_cast<std::size_t>(y * kWidth + x)] = std::sqrt(norm);
        }
    constexpr double kStrongest = 60;
    auto score = [&](double y0, double slope) {
        double sum = 0;
        int n = 0;
        for (double x = kHeelX - 0.10 * kFoot; x <= kHeelX + 0.80 * kFoot; x += 1, ++n) {
            const double y = y0 + slope * (x - kHeelX) - 0.5;
            const int iy = static_cast<int>(std::floor(y));
            if (iy < 0 || iy + 1 >= kHeight) continue;
            const double f = y - iy;
            const auto column = static_cast<std::size_t>(x);
            const double e = (1 - f) * edge[static_cast<std::size_t>(iy * kWidth) + column] +
                             f * edge[static_cast<std::size_t>((iy + 1) * kWidth) + column];
            sum += std::sqrt(std::min(e, kStrongest));
        }
        return n > 0 ? sum / n : 0.0;
    };
    const double along = std::abs(m_shoe.toe.x() - m_shoe.heel.x());
    if (along < 1) return false;
    const double landmarks = (m_shoe.toe.y() - m_shoe.heel.y()) / along;
    double best = -1;
    for (double slope = landmarks - 0.16; slope <= landmarks + 0.161; slope += 0.02)
        for (double y = kHeelY - 0.04 * kFoot; y <= kHeelY + 0.45 * kFoot; y += 0.5)
            if (const double s = score(y, slope); s > best) best = s, m_soleY = y, m_slope = slope;
    // How far below it there is still an edge.
    const double line = m_soleY, slope = m_slope;
    double lower = 0;
    for (double d = 0.5; d <= 0.20 * kFoot; d += 0.5) {
        double here = 0;
        for (double b = slope - 0.05; b <= slope + 0.051; b += 0.025) here = std::max(here, score(line + d, b));
        if (here < 0.5 * best) break;
        lower = d;
    }
    constexpr double kBlur = 0.065;
    m_soleY = line + std::max(0.0, lower - kBlur * kFoot);
    constexpr double kFlat = 0.25;
    return std::abs(m_slope) <= kFlat;
}

Vec2 TurnedStrip::at(double u, double v) const {
    const double x = kHeelX + u * kFoot;
    return {x, m_soleY + m_slope * (x - kHeelX) - v * kFoot};
}

TurnedStrip::TurnedStrip(const StandingShoe& shoe, const std::vector<const FramePiece*>& before) : m_shoe(shoe) {
    constexpr std::size_t kFewest = 3, kMostSelf = 7;
    if (before.size() < kFewest || shoe.length() < kLeastFootPx) return;
    m_scale = kFoot / shoe.length();
    m_mirrored = shoe.toe.x() < shoe.heel.x();
    std::vector<Colours> views;
    for (const FramePiece* v : before) views.push_back(onCanvas(*v));
    m_reference = views.front();
    std::vector<float> stack(views.size());
    for (std::size_t i = 0; i < m_reference.rgb.size(); ++i) {
        for (std::size_t k = 0; k < views.size(); ++k) stack[k] = views[k].rgb[i];
        std::nth_element(stack.begin(), stack.begin() + static_cast<std::ptrdiff_t>(stack.size() / 2), stack.end());
        m_reference.rgb[i] = stack[stack.size() / 2];
    }
    if (!findSole()) return;
    m_readable = true;
    for (std::size_t e = 0; e < 2; ++e)
        for (std::size_t s = 0; s < 2; ++s) {
            std::vector<double> scores;
            for (std::size_t k = 0; k < std::min(views.size(), kMostSelf); ++k) {
                Vec2 shift = Vec2::Zero();
                shift = steadied(views[k], kEnds[e], shift);
                scores.push_back(find(views[k], shift, kEnds[e], kStrips[s].first, kStrips[s].second, 0).score);
            }
            m_self[e][s] = median(scores);
        }
}

/// How far the part that stays down lies from where it lay in the reference.
Vec2 TurnedStrip::steadied(const Colours& seen, const End& end, Vec2& last) const {
    constexpr double kLow = -0.10, kHigh = 0.20, kSure = 0.6;
    const int reach = static_cast<int>(0.10 * kFoot);
    Strip strip(static_cast<int>((end.steadyTo - end.steadyFrom) * kFoot), static_cast<int>((kHigh - kLow) * kFoot));
    Strip wide(strip.wide + 2 * reach, strip.high + 2 * reach);
    const Vec2 corner = at(end.steadyFrom, kHigh);
    auto place = [&](int x, int y) {
        const double px = corner.x() + x;
        return Vec2(px, corner.y() + y + m_slope * x);
    };
    for (int y = 0; y < strip.high; ++y)
        for (int x = 0; x < strip.wide; ++x) {
            const Vec2 p = place(x, y);
            strip.add(sample(m_reference.rgb, kWidth, kHeight, p.x(), p.y()));
        }
    for (int y = -reach; y < strip.high + reach; ++y)
        for (int x = -reach; x < strip.wide + reach; ++x) {
            const Vec2 p = place(x, y) + last;
            wide.add(sample(seen.rgb, kWidth, kHeight, p.x(), p.y()));
        }
    const Held held(strip);
    double best = -1;
    int bx = 0, by = 0;
    std::vector<double> scores(static_cast<std::size_t>((2 * reach + 1) * (2 * reach + 1)));
    auto score = [&](int dx, int dy) -> double& {
        return scores[static_cast<std::size_t>((dy + reach) * (2 * reach + 1) + dx + reach)];
    };
    for (int dy = -reach; dy <= reach; ++dy)
        for (int dx = -reach; dx <= reach; ++dx) {
            score(dx, dy) = held.likeness(wide, dx + reach, dy + reach);
            if (score(dx, dy) > best) best = score(dx, dy), bx = dx, by = dy;
        }
    if (best < kSure || std::abs(bx) == reach || std::abs(by) == reach) return last;
    last += Vec2(bx + top(score(bx - 1, by), best, score(bx + 1, by)),
                 by + top(score(bx, by - 1), best, score(bx, by + 1)));
    return last;
}

TurnedStrip::Found TurnedStrip::find(const Colours& seen, const Vec2& shift, const End& end, double low, double high,
                                     double self) const {
    Strip strip(static_cast<int>((end.to - end.from) * kFoot), static_cast<int>(std::lround((high - low) * kFoot)));
    const Vec2 ball = at(end.pivot, 0);
    // Grid along the sole, from its left end up to its upper edge.
    auto place = [&](int x, int y) {
        const double u = end.from + (x + 0.5) / kFoot, v = high - (y + 0.5) / kFoot;
        return at(u, v);
    };
    for (int y = 0; y < strip.high; ++y)
        for (int x = 0; x < strip.wide; ++x) {
            const Vec2 p = place(x, y);
            strip.add(sample(m_reference.rgb, kWidth, kHeight, p.x(), p.y()));
        }
    const Held held(strip);
    constexpr int kTurns = static_cast<int>((kMostTurn - kLeastTurn) / kTurnStep) + 1;
    constexpr int kBins = static_cast<int>((kHighestBin - kLowestBin) / kBin) + 1;
    std::array<double, kBins> byRise;
    byRise.fill(-1);
    std::array<double, kTurns> byTurn{}, shiftAt{};
    const double arm = std::abs(end.farEnd - end.pivot);
    int bestTurn = 0;
    for (int k = 0; k < kTurns; ++k) {
        const double turn = kLeastTurn + kTurnStep * k, angle = end.sense * turn * kRadiansPerDegree;
        const double c = std::cos(angle), s = std::sin(angle);
        Strip wide(strip.wide + 2 * kShift, strip.high + 2 * kShift);
        for (int y = -kShift; y < strip.high + kShift; ++y)
            for (int x = -kShift; x < strip.wide + kShift; ++x) {
                const Vec2 d = place(x, y) - ball;
                // Turned so that what lies behind the ball goes up (pictures count downwards).
                const Vec2 p = ball + shift + Vec2(c * d.x() - s * d.y(), s * d.x() + c * d.y());
                wide.add(sample(seen.rgb, kWidth, kHeight, p.x(), p.y()));
            }
        byTurn[static_cast<std::size_t>(k)] = -1;
        for (int dy = -kShift; dy <= kShift; ++dy)
            for (int dx = -kShift; dx <= kShift; ++dx) {
                const double score = held.likeness(wide, dx + kShift, dy + kShift);
                const double rise = std::sin(turn * kRadiansPerDegree) * arm - dy / kFoot;
                const int bin = static_cast<int>(std::lround((rise - kLowestBin) / kBin));
                if (bin >= 0 && bin < kBins)
                    byRise[static_cast<std::size_t>(bin)] = std::max(byRise[static_cast<std::size_t>(bin)], score);
                if (score > byTurn[static_cast<std::size_t>(k)])
                    byTurn[static_cast<std::size_t>(k)] = score, shiftAt[static_cast<std::size_t>(k)] = -dy / kFoot;
            }
        if (byTurn[static_cast<std::size_t>(k)] > byTurn[static_cast<std::size_t>(bestTurn)]) bestTurn = k;
    }
    Found out;
    const auto b = static_cast<std::size_t>(bestTurn);
    out.score = byTurn[b];
    const double part = bestTurn > 0 && bestTurn + 1 < kTurns ? top(byTurn[b - 1], byTurn[b], byTurn[b + 1]) : 0.0;
    out.rise = std::sin((kLeastTurn + kTurnStep * (bestTurn + part)) * kRadiansPerDegree) * arm + shiftAt[b];
    const double nearly = out.score - std::max(0.02, 0.25 * (1 - out.score));
    for (int i = 0; i < kBins; ++i)
        if (byRise[static_cast<std::size_t>(i)] >= nearly)
            out.half = std::max(out.half, std::abs(kLowestBin + kBin * i - out.rise));
    out.valid =
        out.score >= kLeastScore && out.score >= kLeastOfSelf * self && out.rise >= kLeastRise && out.half <= kMostHalf;
    return out;
}

ShoeReading TurnedStrip::readEnd(const Colours& seen, std::size_t which, bool& risen) {
    const End& end = kEnds[which];
    m_shift[which] = steadied(seen, end, m_shift[which]);
    std::array<Found, 2> found;
    for (std::size_t s = 0; s < 2; ++s)
        found[s] = find(seen, m_shift[which], end, kStrips[s].first, kStrips[s].second, m_self[which][s]);
    constexpr double kRisen = 0.05;  // 1 cm
    risen = std::max(found[0].rise, found[1].rise) >= kRisen;
    ShoeReading out;
    out.state = ShoeReading::State::Unclear;
    const double px = kFoot / m_scale;  // the foot in the frame
    auto take = [&](double rise, double half, double apart, double like) {
        out = {ShoeReading::State::Read, static_cast<float>(rise * px), static_cast<float>(half * px),
               static_cast<float>(apart * px), static_cast<float>(like)};
    };
    const double apart = std::abs(found[0].rise - found[1].rise);
    auto like = [&](std::size_t s) { return m_self[which][s] > 0 ? found[s].score / m_self[which][s] : 0.0; };
    if (found[0].valid && found[1].valid) {
        if (apart <= kMostApart)
            take(0.5 * (found[0].rise + found[1].rise), std::max(found[0].half, found[1].half), apart,
                 0.5 * (like(0) + like(1)));
    } else if (found[0].valid || found[1].valid) {
        const std::size_t s = found[0].valid ? 0 : 1;
        if (apart <= found[1 - s].half + kOtherInside) take(found[s].rise, found[s].half, apart, like(s));
    }
    return out;
}

TurnedStrip::Lift TurnedStrip::read(const FramePiece& view) {
    Lift out;
    if (!m_readable) return out;
    const Colours seen = onCanvas(view);
    bool heelUp = false, toeUp = false;
    out.heel = readEnd(seen, kHeel, heelUp);
    // A toe is asked for only where the heel holds still: the strip that steadies it would go up with the heel.
    if (heelUp)
        out.toe.state = ShoeReading::State::Unclear;
    else
        out.toe = readEnd(seen, kToe, toeUp);
    return out;
}

}  // namespace zevo
