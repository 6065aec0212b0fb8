#pragma once

#include <array>
#include <optional>
#include <span>
#include <vector>

#include "core/base/vectors.h"

/// Geometry of one line of a back, free of whose it is. Places are (u, f): the station along the line from hip to
/// shoulder, and how far the outline lies from that line to the dorsal side, both in lengths of the trunk.
namespace zevo {

inline constexpr int kBackStations = 66;
inline constexpr double kFirstStation = -0.2, kStationStep = 0.02;
using BackProfile = std::array<double, kBackStations>;  ///< f at every station; NaN where the outline was not met

inline double stationOf(int k) {
    return kFirstStation + k * kStationStep;
}
/// The station nearest to a place.
int stationAt(double u);

/// Where a closed line is met first on the dorsal side, smoothed over one station.
BackProfile profileOf(const std::vector<Vec2>& closedLine);
/// Four fifths of the back were met.
bool isSeen(const BackProfile& f);

/// Bulge of a line at `at` over the straight line from `from` to `to`: each value a mean over ±0.035. NaN where one of
/// them was not seen. (Of a circle of radius r over a chord of length c it is the sagitta r − √(r² − c²/4).)
double sagitta(const BackProfile& f, double from, double at, double to);

/// A straight edge laid on two groups of places from outside, the first all before the second: where it touches each.
/// Nothing where one is empty.
struct StraightEdge {
    Vec2 first, second;
    double slope() const { return (second.y() - first.y()) / (second.x() - first.x()); }
    double at(double u) const { return first.y() + slope() * (u - first.x()); }
    /// How far a place lies under it, square to it.
    double gapTo(const Vec2& place) const;
};
std::optional<StraightEdge> edgeOver(const std::vector<Vec2>& before, const std::vector<Vec2>& after);

/// Places of a profile on a stretch, those that were met.
std::vector<Vec2> stretchOf(const BackProfile& f, double from, double to);
/// The largest gap under a straight edge that rests on [a0, a1] and on [b0, b1], between its two contacts; NaN where
/// either stretch was not seen.
double hollowUnder(const BackProfile& f, double a0, double a1, double b0, double b1);

/// What is left of the change from `zero` to `f` when everything a back can do is taken out by least squares: a shift
/// and a turn of the frame, sliding along itself, a bend at the loins and one between the shoulder blades. Root of the
/// mean square; 1 where too little was met to tell.
double unexplained(const BackProfile& f, const BackProfile& zero);

}  // namespace zevo
