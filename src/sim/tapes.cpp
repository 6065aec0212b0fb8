#include "sim/tapes.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace zevo::sim {
namespace {

constexpr double kRadius = 0.025, kDot = 0.011, kThick = 0.002;
const Colour kInk{24, 24, 28}, kDotColour{236, 236, 230};

/// The outermost point of body and clothes along a direction, near a line from `from` that way.
std::size_t reached(const Mesh& body, const Vec3& from, const Vec3& way) {
    const Vec3 along = way.normalized();
    std::size_t best = 0;
    double most = -1;
    for (double near : {0.012, 0.02, 0.04, 0.1}) {
        for (std::size_t i = 0; i < body.vertices.size(); ++i) {
            const Vec3 d = body.vertices[i].position.cast<double>() - from;
            const double ahead = d.dot(along), aside = (d - ahead * along).norm();
            if (ahead >= 0 && ahead < 0.3 && aside < near && ahead > most) most = ahead, best = i;
        }
        if (most >= 0) break;
    }
    return best;
}

/// Across, up and ahead of the pelvis, as columns.
Eigen::Matrix3d pelvisAxes(const Skeleton& s) {
    const Vec3 right = s.pelvisRight.normalized(), up = (s.lumbarLow - s.midHip).normalized(),
               ahead = up.cross(right).normalized();
    Eigen::Matrix3d axes;
    axes << right, ahead.cross(right) * -1, ahead;
    return axes;
}

void addDisc(Mesh& mesh, const Vec3& at, const Vec3& normal, double radius, Colour colour) {
    constexpr int kAround = 18;
    const Vec3 across = normal.unitOrthogonal(), up = normal.cross(across);
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    const Eigen::Vector3f n = normal.cast<float>(), c = linear(colour);
    mesh.vertices.push_back({at.cast<float>(), n, c, 0});
    for (int k = 0; k < kAround; ++k) {
        const double a = 2 * std::numbers::pi * k / kAround;
        mesh.vertices.push_back({Vec3(at + radius * (std::cos(a) * across + std::sin(a) * up)).cast<float>(), n, c, 0});
    }
    for (std::uint32_t k = 0; k < kAround; ++k) {
        mesh.triangles.push_back({first, first + 1 + k, first + 1 + (k + 1) % kAround});
        mesh.groups.push_back(Thing);
    }
}

}  // namespace

Tapes::Tapes(const Mesh& body, const Skeleton& s, double statureCm, int near, bool behind) {
    const double k = statureCm / 175;
    const Vec3 up = (s.midShoulder - s.midHip).normalized(), right = s.pelvisRight,
               front = up.cross(s.chestRight).normalized();
    const Eigen::Matrix3d axes = pelvisAxes(s);
    auto stick = [&](MarkKind kind, const Vec3& from, const Vec3& way) {
        const std::size_t v = reached(body, from, way);
        if (kind != MarkKind::HipLeft && kind != MarkKind::HipRight && kind != MarkKind::BackLow) {
            m_vertices[kind] = v;
            return;
        }
        // A little off the skin, which slides over the bone.
        constexpr double kOff = 0.008;
        const Vec3 out = body.vertices[v].normal.cast<double>().normalized();
        m_onPelvis[kind] = {axes.transpose() * (body.vertices[v].position.cast<double>() + kOff * out - s.midHip),
                            axes.transpose() * out};
    };
    for (int i = 0; i < 2; ++i) {
        const double side = i == 0 ? -1 : 1;
        stick(i == 0 ? MarkKind::HipLeft : MarkKind::HipRight,
              s.midHip + (0.07 * up + (behind ? 0.07 : 0.115) * side * right) * k, behind ? -front : front);
        stick(i == 0 ? MarkKind::KneeLeft : MarkKind::KneeRight, s.knee[i], front);
    }
    const Vec3 out = (near == 0 ? -1 : 1) * s.chestRight;
    const Vec3 aside = -0.55 * front + 0.85 * out;
    stick(MarkKind::BackHigh, s.midHip + 0.72 * (s.midShoulder - s.midHip) - 0.05 * front * k, aside);
    stick(MarkKind::BackLow, s.midHip + 0.02 * up * k - 0.05 * front * k, aside);
}

std::map<MarkKind, Tapes::Spot> Tapes::spots(const Mesh& body, const Skeleton& s) const {
    std::map<MarkKind, Spot> out;
    for (const auto& [kind, at] : m_vertices)
        if (at < body.vertices.size())
            out[kind] = {body.vertices[at].position.cast<double>(),
                         body.vertices[at].normal.cast<double>().normalized()};
    const Eigen::Matrix3d axes = pelvisAxes(s);
    for (const auto& [kind, spot] : m_onPelvis) out[kind] = {s.midHip + axes * spot.at, axes * spot.out};
    return out;
}

void Tapes::add(const Mesh& body, const Skeleton& s, Mesh& mesh) const {
    for (const auto& [kind, spot] : spots(body, s)) {
        addDisc(mesh, spot.at + kThick * spot.out, spot.out, kRadius, kInk);
        addDisc(mesh, spot.at + 2 * kThick * spot.out, spot.out, kDot, kDotColour);
    }
}

std::map<MarkKind, Vec3> Tapes::places(const Mesh& body, const Skeleton& s) const {
    std::map<MarkKind, Vec3> out;
    for (const auto& [kind, spot] : spots(body, s)) out[kind] = spot.at + 2 * kThick * spot.out;
    return out;
}

std::map<MarkKind, Vec3> thingsMarked(const Skeleton& s, const Vec3& toCamera) {
    std::map<MarkKind, Vec3> out;
    for (const Prop& p : s.props) {
        if (p.kind == Prop::Kind::Ball && !out.contains(MarkKind::Bell)) out[MarkKind::Bell] = p.a;
        if (p.kind != Prop::Kind::Rod) continue;
        const Vec3 line = p.b - p.a;
        // A bar lies across, a stick along the back; plates are rods as well, and short.
        if (line.norm() < 0.5) continue;
        if (std::abs(line.normalized().z()) > 0.9)
            out[MarkKind::BarEnd] = line.dot(toCamera) > 0 ? p.b : p.a;
        else if (p.radius < 0.015)
            out[MarkKind::StickLow] = p.a, out[MarkKind::StickTop] = p.b;
    }
    return out;
}

}  // namespace zevo::sim
