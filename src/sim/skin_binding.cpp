#include "sim/skin_binding.h"

#include <algorithm>
#include <cmath>

namespace zevo::sim {
namespace {

Place placeOf(const Vec3& from, const Vec3& to, const Vec3& side) {
    Place p;
    p.origin = from;
    p.length = (to - from).norm();
    p.along = (to - from) / p.length;
    p.side = (side - side.dot(p.along) * p.along).normalized();
    return p;
}

}  // namespace

Eigen::Matrix3d axes(const Place& p) {
    Eigen::Matrix3d m;
    m << p.along, p.side, p.along.cross(p.side);
    return m;
}

Places placesOf(const Skeleton& s) {
    Places b;
    b[Pelvis] = placeOf(s.midHip, s.lumbarLow, s.pelvisRight);
    b[Lumbar] = placeOf(s.lumbarLow, s.lumbarHigh, s.pelvisRight + s.chestRight);
    b[Ribs] = placeOf(s.lumbarHigh, s.midShoulder, s.chestRight);
    b[Neck] = placeOf(s.midShoulder, s.headCentre, s.chestRight);
    const Vec3 gaze = (s.nose - s.headCentre).normalized();
    b[Head] = placeOf(s.headCentre, s.headCentre + 0.1 * s.chestRight.cross(gaze).normalized(), s.chestRight);
    for (int i = 0; i < 2; ++i) {
        const Vec3 upper = s.elbow[i] - s.shoulder[i], fore = s.wrist[i] - s.elbow[i];
        // The axis of the elbow; of a straight arm the chest's right, about which a hanging arm bends.
        Vec3 axis = upper.normalized().cross(fore.normalized());
        axis = axis + 0.05 * s.chestRight;
        b[UpperArmL + i] = placeOf(s.shoulder[i], s.elbow[i], axis);
        b[ForearmL + i] = placeOf(s.elbow[i], s.wrist[i], axis);
        const Vec3 plane = s.footForward[i].cross(Vec3(0, 1, 0)).normalized();
        b[ThighL + i] = placeOf(s.hip[i], s.knee[i], plane);
        b[ShankL + i] = placeOf(s.knee[i], s.ankle[i], plane);
        b[FootL + i] = placeOf(s.ankle[i], s.ball[i], plane);
        b[ToesL + i] = placeOf(s.ball[i], s.toe[i], plane);
    }
    return b;
}

namespace {

double ramp(double x, double from, double to) {
    const double w = std::clamp((x - from) / (to - from), 0.0, 1.0);
    return w * w * (3 - 2 * w);
}

/// Middle of the mesh's section in a slab, on the client's left (−1) or right (+1).
Vec3 sectionMiddle(const std::vector<Vec3>& points, double sign, auto inSlab) {
    Vec3 low(1e9, 1e9, 1e9), high(-1e9, -1e9, -1e9);
    for (const Vec3& p : points)
        if (p.z() * sign > 0 && inSlab(p)) {
            low = low.cwiseMin(p);
            high = high.cwiseMax(p);
        }
    return (low + high) / 2;
}

}  // namespace

Skeleton bindSkeleton(const std::vector<Vec3>& points, double stature) {
    Skeleton s;
    const double H = stature;
    for (int i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        auto level = [&](double share, double half = 0.012) {
            Vec3 m = sectionMiddle(points, sign, [&](const Vec3& p) {
                return std::abs(p.y() - share * H) < half * H && std::abs(p.z()) < 0.16 * H;
            });
            m.y() = share * H;
            return m;
        };
        s.ankle[i] = level(0.042);
        s.knee[i] = level(0.275);
        s.hip[i] = level(0.520);
        s.hip[i] = Vec3(s.hip[i].x() + 0.006 * H, 0.520 * H, sign * 0.050 * H);
        s.heel[i] = Vec3(s.ankle[i].x() - 0.03 * H, 0.01 * H, s.ankle[i].z());
        const Vec3 out(0, 0, sign * 0.012 * H);
        s.ball[i] = s.ankle[i] + Vec3(0.073 * H, -0.030 * H, 0) + out;
        s.toe[i] = s.ball[i] + Vec3(0.045 * H, -0.001 * H, 0) + 0.5 * out;
        s.footForward[i] = Vec3(1, 0, 0);
        auto arm = [&](double share) {
            return sectionMiddle(points, sign,
                                 [&](const Vec3& p) { return std::abs(std::abs(p.z()) - share * H) < 0.008 * H; });
        };
        s.shoulder[i] = Vec3(-0.008 * H, 0.800 * H, sign * 0.100 * H);
        s.elbow[i] = arm(0.187);
        s.wrist[i] = arm(0.258);
        s.ear[i] = Vec3(0.027 * H, 0.922 * H, sign * 0.045 * H);
    }
    s.midHip = (s.hip[0] + s.hip[1]) / 2;
    s.midShoulder = (s.shoulder[0] + s.shoulder[1]) / 2;
    s.lumbarLow = s.midHip + 0.22 * (s.midShoulder - s.midHip);
    s.lumbarHigh = s.midHip + 0.55 * (s.midShoulder - s.midHip);
    s.headCentre = (s.ear[0] + s.ear[1]) / 2 + Vec3(0, 0.003 * H, 0);
    s.nose = s.headCentre + Vec3(0.061 * H, -0.016 * H, 0);
    return s;
}

std::array<double, kBones> ownWeights(const Vec3& p, const Skeleton& s, double H) {
    std::array<double, kBones> w{};
    const int i = p.z() < 0 ? 0 : 1;
    auto past = [&](const Vec3& joint, const Vec3& direction, double half) {
        const double d = (p - joint).dot(direction.normalized());
        return ramp(d, -half * H, half * H);
    };
    // Arm: beyond the shoulder and near its axis (the flank lies below the shoulder too).
    const Vec3 armAxis = (s.elbow[i] - s.shoulder[i]).normalized();
    const Vec3 off = p - s.shoulder[i];
    const double fromAxis = (off - off.dot(armAxis) * armAxis).norm();
    const bool beyondElbow = off.dot(armAxis) > 0.12 * H && std::abs(p.z()) > 0.14 * H && p.y() > 0.45 * H;
    const double arm =
        past(s.shoulder[i], armAxis, 0.028) * (beyondElbow ? 1.0 : 1 - ramp(fromAxis, 0.044 * H, 0.066 * H));
    const double fore = past(s.elbow[i], armAxis + (s.wrist[i] - s.elbow[i]).normalized(), 0.022);
    w[UpperArmL + i] = arm * (1 - fore);
    w[ForearmL + i] = arm * fore;
    double rest = 1 - arm;
    // Leg: below the fold of the groin, which slants down to the middle.
    const Vec3 groin = Vec3(0, -1, 0.25 * (i == 0 ? -1 : 1));
    const double leg =
        past(s.hip[i], groin, 0.042) * ramp(std::abs(p.z()), 0.0, 0.016 * H) * (p.y() < 0.55 * H ? 1.0 : 0.0);
    const double shank = past(s.knee[i], s.ankle[i] - s.knee[i], 0.026);
    const double foot = past(s.ankle[i], Vec3(0.45, -1, 0), 0.014);
    const double toes = past(s.ball[i], Vec3(1, 0, 0), 0.010);
    w[ThighL + i] = rest * leg * (1 - shank);
    w[ShankL + i] = rest * leg * shank * (1 - foot);
    w[FootL + i] = rest * leg * shank * foot * (1 - toes);
    w[ToesL + i] = rest * leg * shank * foot * toes;
    rest *= 1 - leg;
    const Vec3 up = (s.midShoulder - s.midHip).normalized();
    const double lumbar = past(s.lumbarLow, up, 0.035), ribs = past(s.lumbarHigh, up, 0.04);
    const double neck = past(s.midShoulder + Vec3(0.0, 0.028 * H, 0), Vec3(0.25, 1, 0), 0.022);
    const double head = past(Vec3(0.02 * H, 0.885 * H, 0), Vec3(0.2, 1, 0), 0.022);
    w[Pelvis] = rest * (1 - lumbar);
    w[Lumbar] = rest * lumbar * (1 - ribs);
    w[Ribs] = rest * lumbar * ribs * (1 - neck);
    w[Neck] = rest * lumbar * ribs * neck * (1 - head);
    w[Head] = rest * lumbar * ribs * neck * head;
    return w;
}

}  // namespace zevo::sim
