#include "core/back/back_profile.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>

namespace zevo {
namespace {

constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();

BackProfile smoothed(const BackProfile& f) {
    constexpr std::array<double, 5> kWeights{0.06, 0.24, 0.4, 0.24, 0.06};  // σ = one station
    BackProfile out;
    for (int k = 0; k < kBackStations; ++k) {
        double sum = 0, weight = 0;
        for (int j = -2; j <= 2; ++j) {
            const int at = k + j;
            if (at < 0 || at >= kBackStations || std::isnan(f[static_cast<std::size_t>(at)])) continue;
            sum += kWeights[static_cast<std::size_t>(j + 2)] * f[static_cast<std::size_t>(at)];
            weight += kWeights[static_cast<std::size_t>(j + 2)];
        }
        out[static_cast<std::size_t>(k)] = std::isnan(f[static_cast<std::size_t>(k)]) ? kNaN : sum / weight;
    }
    return out;
}

double cross(const Vec2& a, const Vec2& b) {
    return a.x() * b.y() - a.y() * b.x();
}

}  // namespace

int stationAt(double u) {
    return std::clamp(static_cast<int>(std::lround((u - kFirstStation) / kStationStep)), 0, kBackStations - 1);
}

BackProfile profileOf(const std::vector<Vec2>& line) {
    constexpr double kInside = 0.02;
    BackProfile f;
    f.fill(kNaN);
    for (std::size_t i = 0; i < line.size(); ++i) {
        Vec2 a = line[i], b = line[(i + 1) % line.size()];
        if (a.x() > b.x()) std::swap(a, b);
        const int first = static_cast<int>(std::ceil((a.x() - kFirstStation) / kStationStep - 1e-9));
        for (int k = std::max(0, first); k < kBackStations && stationOf(k) <= b.x(); ++k) {
            const double w = b.x() > a.x() ? (stationOf(k) - a.x()) / (b.x() - a.x()) : 0;
            const double at = a.y() + w * (b.y() - a.y());
            if (at > kInside && !(at > f[static_cast<std::size_t>(k)])) f[static_cast<std::size_t>(k)] = at;
        }
    }
    return smoothed(f);
}

bool isSeen(const BackProfile& f) {
    constexpr double kFrom = -0.12, kTo = 1.0, kShare = 0.8;
    const auto seen = std::count_if(f.begin() + stationAt(kFrom), f.begin() + stationAt(kTo) + 1,
                                    [](double v) { return !std::isnan(v); });
    return static_cast<double>(seen) >= kShare * (stationAt(kTo) - stationAt(kFrom) + 1);
}

double sagitta(const BackProfile& f, double from, double at, double to) {
    auto near = [&](double u) {
        double sum = 0;
        int n = 0;
        for (int k = stationAt(u - 0.035); k <= stationAt(u + 0.035); ++k)
            if (!std::isnan(f[static_cast<std::size_t>(k)])) sum += f[static_cast<std::size_t>(k)], ++n;
        return n ? sum / n : kNaN;
    };
    const double w = (at - from) / (to - from);
    return near(at) - ((1 - w) * near(from) + w * near(to));
}

double StraightEdge::gapTo(const Vec2& place) const {
    return (at(place.x()) - place.y()) / std::sqrt(1 + slope() * slope());
}

/// The side of the upper hull of both that joins them (Andrew's monotone chain).
std::optional<StraightEdge> edgeOver(const std::vector<Vec2>& before, const std::vector<Vec2>& after) {
    if (before.empty() || after.empty()) return std::nullopt;
    std::vector<Vec2> all = before;
    all.insert(all.end(), after.begin(), after.end());
    std::sort(all.begin(), all.end(),
              [](const Vec2& a, const Vec2& b) { return a.x() < b.x() || (a.x() == b.x() && a.y() < b.y()); });
    std::vector<Vec2> hull;
    for (const Vec2& p : all) {
        while (hull.size() > 1 && cross(hull.back() - hull[hull.size() - 2], p - hull.back()) >= 0) hull.pop_back();
        hull.push_back(p);
    }
    const double border =
        std::max_element(before.begin(), before.end(), [](const Vec2& a, const Vec2& b) { return a.x() < b.x(); })->x();
    for (std::size_t i = 1; i < hull.size(); ++i)
        if (hull[i].x() > border) return StraightEdge{hull[i - 1], hull[i]};
    return std::nullopt;
}

std::vector<Vec2> stretchOf(const BackProfile& f, double from, double to) {
    std::vector<Vec2> out;
    for (int k = stationAt(from); k <= stationAt(to); ++k)
        if (const double v = f[static_cast<std::size_t>(k)]; !std::isnan(v)) out.emplace_back(stationOf(k), v);
    return out;
}

double hollowUnder(const BackProfile& f, double a0, double a1, double b0, double b1) {
    const auto edge = edgeOver(stretchOf(f, a0, a1), stretchOf(f, b0, b1));
    if (!edge) return kNaN;
    double gap = 0;
    for (const Vec2& p : stretchOf(f, edge->first.x(), edge->second.x())) gap = std::max(gap, edge->gapTo(p));
    return gap;
}

double unexplained(const BackProfile& f, const BackProfile& zero) {
    auto bend = [](double u, double at) { return -0.5 * std::sqrt((u - at) * (u - at) + 0.0036); };
    const int from = stationAt(0.06), to = stationAt(0.94), columns = 5;
    Eigen::MatrixXd a(to - from + 1, columns);
    Eigen::VectorXd b(to - from + 1);
    Eigen::Index rows = 0;
    for (int k = from; k <= to; ++k) {
        const auto i = static_cast<std::size_t>(k);
        const double u = stationOf(k), slope = (zero[i + 1] - zero[i - 1]) / (2 * kStationStep);
        if (std::isnan(slope) || std::isnan(f[i]) || std::isnan(zero[i])) continue;
        a(rows, 0) = 1, a(rows, 1) = u, a(rows, 2) = slope, a(rows, 3) = bend(u, 0.22), a(rows, 4) = bend(u, 0.55);
        b(rows++) = f[i] - zero[i];
    }
    if (rows < 3 * columns) return 1;
    const auto left = a.topRows(rows);
    const auto right = b.head(rows);
    const Eigen::VectorXd x = left.colPivHouseholderQr().solve(right);
    return std::sqrt((left * x - right).squaredNorm() / static_cast<double>(rows));
}

}  // namespace zevo
