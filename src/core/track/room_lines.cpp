#include "core/track/room_lines.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/degrees.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

using Eigen::Vector3d;

/// Edges further off upright or level than this are neither.
constexpr double kMeantWithinDeg = 18;
/// Frames, corners and shelves are plumb within this; a shorter edge is read less well: half a pixel at its end.
constexpr double kPlumbDeg = 0.4, kEndPx = 0.5;
/// Phones are held more or less level, look down or up a little, and film along a wall (common practice, no source).
/// Only where edges leave it open does this decide. Roll, pitch, turn of the wall, degrees.
const Vector3d kUsualDeg(2.5, 5, 12), kMostDeg(10, 16, 40);
/// Least length of agreeing plumb edges, in heights of the picture and a picture, and share of all that could be meant.
constexpr double kLeastPlumb = 0.15, kLeastAgreeing = 0.35;

struct Edge {
    double x, y;    ///< of its middle, from the picture's, in focal lengths
    double dx, dy;  ///< where it runs, length 1
    double length;  ///< in heights of the picture
    double sdDeg;
    bool plumb;
};

/// In the camera's frame: x right, y down, z ahead.
Vector3d directionOf(bool plumb, const Vector3d& heldDeg) {
    const Vector3d a = heldDeg * kRadiansPerDegree;
    const Vector3d down(0, std::cos(a[1]), std::sin(a[1])), ahead(0, -std::sin(a[1]), std::cos(a[1]));
    const Vector3d d = plumb ? down : Vector3d(std::cos(a[2]), 0, 0) + std::sin(a[2]) * ahead;
    return {d.x() * std::cos(a[0]) + d.y() * std::sin(a[0]), d.y() * std::cos(a[0]) - d.x() * std::sin(a[0]), d.z()};
}

/// How far an edge runs off where lines of its kind run there, degrees.
double offBy(const Edge& e, const Vector3d& direction) {
    const double px = direction.x() - e.x * direction.z(), py = direction.y() - e.y * direction.z();
    return std::atan2(e.dx * py - e.dy * px, e.dx * px + e.dy * py) * kDegreesPerRadian;
}

double offBy(const Edge& e, const Vector3d& plumb, const Vector3d& level) {
    return offBy(e, e.plumb ? plumb : level);
}

double scoreOf(std::span<const Edge> edges, const Vector3d& held) {
    constexpr double kWide = 1.2;  // degrees: the grid is coarse
    const Vector3d plumb = directionOf(true, held), level = directionOf(false, held);
    double sum = 0;
    for (const Edge& e : edges) {
        const double z = offBy(e, plumb, level) / kWide;
        if (z * z < 16) sum += e.length * std::exp(-0.5 * z * z);
    }
    return sum * std::exp(-0.05 * held.cwiseQuotient(kUsualDeg).squaredNorm());
}

Vector3d startOf(std::span<const Edge> edges) {
    Vector3d best = Vector3d::Zero();
    double highest = -1;
    for (double roll = -kMostDeg[0]; roll <= kMostDeg[0]; roll += 1)
        for (double pitch = -15; pitch <= 15; pitch += 3)
            for (double turn = -30; turn <= 30; turn += 10)
                if (const double score = scoreOf(edges, {roll, pitch, turn}); score > highest)
                    highest = score, best = {roll, pitch, turn};
    return best;
}

struct Step {
    Vector3d by;
    Eigen::Matrix3d covariance;  ///< degrees²
};

/// Weighted least squares once (Cauchy weights), with what is usual as one more observation.
Step stepFrom(std::span<const Edge> edges, int views, const Vector3d& held) {
    constexpr double kSlope = 0.05;
    Eigen::Matrix3d h = kUsualDeg.cwiseProduct(kUsualDeg).cwiseInverse().asDiagonal();
    Vector3d g = -h * held;
    std::array<std::pair<Vector3d, Vector3d>, 3> moved;
    for (int k = 0; k < 3; ++k) {
        const Vector3d there = held + kSlope * Vector3d::Unit(k);
        moved[static_cast<std::size_t>(k)] = {directionOf(true, there), directionOf(false, there)};
    }
    const Vector3d plumb = directionOf(true, held), level = directionOf(false, held);
    for (const Edge& e : edges) {
        const double off = offBy(e, plumb, level), z = off / (2 * e.sdDeg);
        const double weight = 1 / (e.sdDeg * e.sdDeg * (1 + z * z) * views);
        Vector3d slope;
        for (int k = 0; k < 3; ++k) {
            const auto& [p, l] = moved[static_cast<std::size_t>(k)];
            slope[k] = (offBy(e, p, l) - off) / kSlope;
        }
        h += weight * slope * slope.transpose();
        g -= weight * off * slope;
    }
    return {h.ldlt().solve(g), h.inverse()};
}

/// The edge of the picture itself, or of bars beside it: always level, however the camera is held.
bool isOfThePicture(const RoomLine& l, double width, double height) {
    constexpr double kMargin = 0.015, kWhole = 0.9, kStraightPx = 1.5;
    const double across = std::abs(l.x2 - l.x1), down = std::abs(l.y2 - l.y1);
    auto along = [&](double from, double to, double turned, double length, double wide, double full) {
        if (turned > kStraightPx) return false;
        const bool atBorder = std::max(from, to) < kMargin * wide || std::min(from, to) > (1 - kMargin) * wide;
        return atBorder || length > kWhole * full;
    };
    return along(l.x1, l.x2, across, down, width, height) || along(l.y1, l.y2, down, across, height, width);
}

}  // namespace

std::vector<RoomLine> roomWithout(const PoseFrames& poses, std::span<const RoomLine> lines) {
    std::vector<double> xs, ys, knees;
    for (const auto& f : poses) {
        if (!f.found) continue;
        for (const auto& p : f.points) xs.push_back(p.x), ys.push_back(p.y);
        for (const Landmark knee : {Landmark::LeftKnee, Landmark::RightKnee}) knees.push_back(f.at(knee).y);
    }
    if (xs.empty()) return {lines.begin(), lines.end()};
    // A point thrown far off for a moment does not hide half of the room.
    constexpr double kThrown = 0.005;
    const double left = quantile(xs, kThrown), right = quantile(xs, 1 - kThrown), top = quantile(ys, kThrown),
                 bottom = quantile(ys, 1 - kThrown);
    // Boards and joints of a floor run towards the camera and look upright there. Where the floor ends behind a client
    // lies over their knees in the picture only for a camera higher than theirs that looks down.
    const double floor = median(knees);
    const double around = 0.06 * std::max(right - left, bottom - top);
    std::vector<RoomLine> out;
    for (const RoomLine& l : lines) {
        const double x = (l.x1 + l.x2) / 2, y = (l.y1 + l.y2) / 2;
        const bool covered = x > left - around && x < right + around && y > top - 2 * around && y < bottom + around;
        if (!covered && y < floor) out.push_back(l);
    }
    return out;
}

std::optional<CameraHold> cameraHold(std::span<const RoomLine> lines, int views, int pictureWidth, int pictureHeight,
                                     double focalPx) {
    if (pictureHeight <= 0 || focalPx <= 0 || views < 1) return std::nullopt;
    const double most = std::tan(kMeantWithinDeg * kRadiansPerDegree);
    std::vector<Edge> edges;
    for (const RoomLine& l : lines) {
        double dx = l.x2 - l.x1, dy = l.y2 - l.y1;
        const double length = std::hypot(dx, dy);
        const bool plumb = std::abs(dx) < most * std::abs(dy), level = std::abs(dy) < most * std::abs(dx);
        if (length < 1 || (!plumb && !level) || isOfThePicture(l, pictureWidth, pictureHeight)) continue;
        if (plumb ? dy < 0 : dx < 0) dx = -dx, dy = -dy;
        edges.push_back({((l.x1 + l.x2) / 2.0 - pictureWidth / 2.0) / focalPx,
                         ((l.y1 + l.y2) / 2.0 - pictureHeight / 2.0) / focalPx, dx / length, dy / length,
                         length / pictureHeight, std::hypot(kPlumbDeg, kEndPx / length * kDegreesPerRadian), plumb});
    }
    if (edges.empty()) return std::nullopt;
    Vector3d held = startOf(edges);
    for (int i = 0; i < 10; ++i) held += stepFrom(edges, views, held).by;
    if ((held.cwiseAbs() - kMostDeg).maxCoeff() > 0) return std::nullopt;

    double agreeing = 0, meant = 0;
    const Vector3d plumb = directionOf(true, held);
    for (const Edge& e : edges) {
        if (!e.plumb) continue;
        meant += e.length;
        if (std::abs(offBy(e, plumb)) < 3 * e.sdDeg) agreeing += e.length;
    }
    if (agreeing < kLeastPlumb * views || agreeing < kLeastAgreeing * meant) return std::nullopt;
    const Eigen::Matrix3d spread = stepFrom(edges, views, held).covariance;
    return CameraHold{held[0], held[1], 1.645 * std::hypot(std::sqrt(spread(0, 0)), 0.1),
                      1.645 * std::sqrt(spread(1, 1))};
}

}  // namespace zevo
