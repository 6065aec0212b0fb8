// The anatomical figure: a mesh of a person standing with arms and legs apart, fitted to the client's proportions and
// bent by dual quaternions (Kavan et al. 2007), which keep the volume of a bent limb. Joint centres of the mesh are
// placed anatomically: ankle, knee, elbow and wrist in the middle of the limb's section, shoulder and hip by the usual
// shares of stature, the hip one centimetre ahead of the middle of its section. That choice is part of the truth of
// this figure: 2.7 cm there change the hip's angle by 3°.
#include <assimp/postprocess.h>
#include <assimp/scene.h>

#include <algorithm>
#include <array>
#include <assimp/Importer.hpp>
#include <cmath>
#include <map>

#include "sim/figure.h"
#include "sim/poser.h"

namespace zevo::sim {
namespace {

enum Bone {
    Pelvis,
    Lumbar,
    Ribs,
    Neck,
    Head,
    UpperArmL,
    UpperArmR,
    ForearmL,
    ForearmR,
    ThighL,
    ThighR,
    ShankL,
    ShankR,
    FootL,
    FootR,
    ToesL,
    ToesR,
    kBones
};

/// A bone's place: from its near joint along it, with the body's right as second direction.
struct Place {
    Vec3 origin = Vec3::Zero(), along = Vec3(0, 1, 0), side = Vec3(0, 0, 1);
    double length = 1;
};
using Places = std::array<Place, kBones>;

Place placeOf(const Vec3& from, const Vec3& to, const Vec3& side) {
    Place p;
    p.origin = from;
    p.length = (to - from).norm();
    p.along = (to - from) / p.length;
    p.side = (side - side.dot(p.along) * p.along).normalized();
    return p;
}

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

struct SkinVertex {
    Vec3 position = Vec3::Zero(), normal = Vec3::Zero();
    std::array<int, 4> bone{};
    std::array<double, 4> weight{};
};

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

/// Joint centres of the mesh as it stands.
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

/// How much each bone moves a point, from where it lies along the chains of bones.
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

struct Cloth {
    Colour colour;
    std::uint8_t group;
    double out;  ///< centimetres above the skin at 175 cm
    float fold;
};

class SkinnedFigure : public Figure {
  public:
    SkinnedFigure(const BodySpec& body, const aiScene& scene) : m_body(body) {
        for (unsigned m = 0; m < scene.mNumMeshes; ++m) readMesh(*scene.mMeshes[m]);
        double top = 0;
        for (const Vec3& p : m_points) top = std::max(top, p.y());
        m_bind = bindSkeleton(m_points, top);
        weigh(top);
        reshape(top);
        dress();
    }

    void build(const Skeleton& s, Mesh& mesh) const override {
        mesh.clear();
        const Places now = placesOf(s);
        struct Dual {
            Eigen::Quaterniond real, dual;
        };
        std::array<Dual, kBones> motion;
        for (int b = 0; b < kBones; ++b) {
            const Eigen::Matrix3d turn = axes(now[b]) * axes(m_fitted[b]).transpose();
            const Vec3 shift = now[b].origin - turn * m_fitted[b].origin;
            motion[b].real = Eigen::Quaterniond(turn);
            const Eigen::Quaterniond t(0, shift.x(), shift.y(), shift.z());
            motion[b].dual = Eigen::Quaterniond((t * motion[b].real).coeffs() * 0.5);
        }
        mesh.vertices.reserve(m_skin.size());
        for (std::size_t n = 0; n < m_skin.size(); ++n) {
            const SkinVertex& v = m_skin[n];
            const Eigen::Vector4d first = motion[v.bone[0]].real.coeffs();
            Eigen::Vector4d real = Eigen::Vector4d::Zero(), dual = Eigen::Vector4d::Zero();
            for (int k = 0; k < 4 && v.weight[k] > 0; ++k) {
                const Dual& d = motion[v.bone[k]];
                const double w = d.real.coeffs().dot(first) < 0 ? -v.weight[k] : v.weight[k];
                real += w * d.real.coeffs();
                dual += w * d.dual.coeffs();
            }
            const double size = real.norm();
            const Eigen::Quaterniond q(Eigen::Vector4d(real / size));
            const Eigen::Quaterniond e(Eigen::Vector4d(dual / size));
            const Vec3 shift = 2 * (q.w() * e.vec() - e.w() * q.vec() + q.vec().cross(e.vec()));
            mesh.vertices.push_back(
                {(q * v.position + shift).cast<float>(), (q * v.normal).cast<float>(), m_colour[n], m_fold[n]});
        }
        mesh.triangles = m_triangles;
        mesh.groups = m_groups;
    }

  private:
    void readMesh(const aiMesh& mesh) {
        const auto first = static_cast<std::uint32_t>(m_points.size());
        for (unsigned i = 0; i < mesh.mNumVertices; ++i) {
            const aiVector3D& p = mesh.mVertices[i];
            m_points.emplace_back(p.z, p.y, -p.x);  // the file faces +z
        }
        for (unsigned i = 0; i < mesh.mNumFaces; ++i)
            m_faces.push_back({mesh.mFaces[i].mIndices[0] + first, mesh.mFaces[i].mIndices[1] + first,
                               mesh.mFaces[i].mIndices[2] + first});
        if (first > 0 && m_firstEye == 0) m_firstEye = first;
    }

    /// Weights from the chains, then evened out along the mesh's edges.
    void weigh(double H) {
        std::vector<std::array<double, kBones>> w, next;
        for (const Vec3& p : m_points) w.push_back(ownWeights(p, m_bind, H));
        for (std::size_t i = m_firstEye; i < w.size(); ++i) w[i] = {}, w[i][Head] = 1;
        constexpr int kPasses = 6;
        for (int pass = 0; pass < kPasses; ++pass) {
            next = w;
            std::vector<int> count(w.size(), 1);
            for (const auto& f : m_faces)
                for (int k = 0; k < 3; ++k)
                    for (int other : {1, 2}) {
                        ++count[f[k]];
                        for (int b = 0; b < kBones; ++b) next[f[k]][b] += w[f[(k + other) % 3]][b];
                    }
            for (std::size_t i = 0; i < w.size(); ++i)
                for (int b = 0; b < kBones; ++b) w[i][b] = next[i][b] / count[i];
        }
        for (const auto& all : w) {
            SkinVertex v;
            std::array<int, kBones> order{};
            for (int b = 0; b < kBones; ++b) order[b] = b;
            std::partial_sort(order.begin(), order.begin() + 4, order.end(),
                              [&](int a, int b) { return all[a] > all[b]; });
            double sum = 0;
            for (int k = 0; k < 4; ++k) sum += all[order[k]];
            for (int k = 0; k < 4; ++k) v.bone[k] = order[k], v.weight[k] = all[order[k]] / sum;
            m_skin.push_back(v);
        }
    }

    /// The mesh with the client's segment lengths and girth, still standing as it did.
    void reshape(double H) {
        const Segments seg(m_body);
        const double thick = m_body.girth * seg.stature / H;
        const Places from = placesOf(m_bind);
        Skeleton fitted = m_bind;
        fitted.midHip = m_bind.midHip * (seg.stature / H);
        auto along = [](const Vec3& a, const Vec3& b, double length) { return Vec3((b - a).normalized() * length); };
        fitted.lumbarLow = fitted.midHip + along(m_bind.midHip, m_bind.midShoulder, 0.22 * seg.trunk);
        fitted.lumbarHigh = fitted.midHip + along(m_bind.midHip, m_bind.midShoulder, 0.55 * seg.trunk);
        fitted.midShoulder = fitted.midHip + along(m_bind.midHip, m_bind.midShoulder, seg.trunk);
        fitted.headCentre = fitted.midShoulder + (m_bind.headCentre - m_bind.midShoulder) * (seg.stature / H);
        fitted.nose = fitted.headCentre + (m_bind.nose - m_bind.headCentre) * (seg.stature / H);
        for (int i = 0; i < 2; ++i) {
            const double sign = i == 0 ? -1 : 1;
            fitted.hip[i] = fitted.midHip + Vec3(0, 0, sign * seg.hipHalf);
            fitted.knee[i] = fitted.hip[i] + along(m_bind.hip[i], m_bind.knee[i], seg.thigh);
            fitted.ankle[i] = fitted.knee[i] + along(m_bind.knee[i], m_bind.ankle[i], seg.shank);
            fitted.ball[i] = fitted.ankle[i] + (m_bind.ball[i] - m_bind.ankle[i]) * (seg.stature / H);
            fitted.toe[i] = fitted.ball[i] + (m_bind.toe[i] - m_bind.ball[i]) * (seg.stature / H);
            fitted.shoulder[i] = fitted.midShoulder + Vec3(0, 0, sign * seg.shoulderHalf);
            fitted.elbow[i] = fitted.shoulder[i] + along(m_bind.shoulder[i], m_bind.elbow[i], seg.upperArm);
            fitted.wrist[i] = fitted.elbow[i] + along(m_bind.elbow[i], m_bind.wrist[i], seg.forearm);
        }
        m_fitted = placesOf(fitted);
        const bool scaled[kBones] = {true, true, true, true, false, true, true, true, true, true, true, true, true};
        for (std::size_t n = 0; n < m_skin.size(); ++n) {
            SkinVertex& v = m_skin[n];
            v.position = Vec3::Zero();
            for (int k = 0; k < 4; ++k) {
                const Place &a = from[v.bone[k]], &b = m_fitted[v.bone[k]];
                const Vec3 local = axes(a).transpose() * (m_points[n] - a.origin);
                const double stretch = scaled[v.bone[k]] ? b.length / a.length : seg.stature / H;
                const double wide = scaled[v.bone[k]] ? thick : seg.stature / H;
                v.position +=
                    v.weight[k] * (b.origin + axes(b) * Vec3(local.x() * stretch, local.y() * wide, local.z() * wide));
            }
            v.normal = Vec3::Zero();
        }
        for (const auto& f : m_faces) {
            const Vec3 n =
                (m_skin[f[1]].position - m_skin[f[0]].position).cross(m_skin[f[2]].position - m_skin[f[0]].position);
            for (auto k : f) m_skin[k].normal += n;
        }
        for (auto& v : m_skin) v.normal.normalize();
    }

    /// Skin first, then each piece of clothing as a slightly larger copy of the faces it covers.
    void dress() {
        const double cm = m_body.statureCm / 175 / 100;
        const std::size_t bare = m_skin.size();
        const Colour dark{44, 34, 28}, white{236, 234, 228}, sole{228, 228, 222};
        for (std::size_t n = 0; n < bare; ++n) {
            Colour c = m_body.skin;
            if (n >= m_firstEye && m_firstEye > 0) c = std::abs(m_points[n].x() - 0.134) < 0.004 ? dark : white;
            m_colour.push_back(linear(c));
            m_fold.push_back(0);
        }
        std::vector<std::uint8_t> skinGroup(bare, Skin);
        for (std::size_t n = 0; n < bare; ++n) {
            const int b = m_skin[n].bone[0];
            if (b == ThighL || b == ShankL || b == FootL || b == ToesL) skinGroup[n] = LeftLeg;
            if (b == ThighR || b == ShankR || b == FootR || b == ToesR) skinGroup[n] = RightLeg;
            if (b == UpperArmL || b == ForearmL) skinGroup[n] = LeftArm;
            if (b == UpperArmR || b == ForearmR) skinGroup[n] = RightArm;
            if (b == Head) skinGroup[n] = Face;
        }
        for (const auto& f : m_faces) {
            m_triangles.push_back(f);
            m_groups.push_back(skinGroup[f[0]]);
        }
        const Cloth shirt{m_body.shirt, Shirt, 1.4, 1.0F}, hair{m_body.hair, Hair, 1.3, 0.9F};
        cover(shirt, [&](std::size_t n) {
            const double arm = alongBone(n, UpperArmL), fore = alongBone(n, ForearmL);
            const double sleeve = m_body.longSleeves ? (fore > 0.93 ? 0.0 : 1.0)
                                                     : (fore > -1 && fore > 0 ? 0.0
                                                        : arm < 0.62          ? 1.0
                                                                              : 0.0);
            if (isArm(n)) return sleeve > 0.5;
            const bool neck = std::abs(m_points[n].z()) < 0.085 && m_points[n].y() > m_bind.midShoulder.y() + 0.045;
            return isTrunk(n) && m_points[n].y() > m_bind.midHip.y() + 0.02 && !neck && n < m_firstEye;
        });
        const double legEnd = m_body.looseTrousers ? 1.93 : 0.56;
        for (int i = 0; i < 2; ++i) {
            const auto group =
                static_cast<std::uint8_t>(m_body.looseTrousers ? (i == 0 ? LeftTrouser : RightTrouser) : Shorts);
            cover({m_body.shorts, group, m_body.looseTrousers ? 3.0 : 1.8, 0.8F}, [&](std::size_t n) {
                if ((m_points[n].z() < 0) != (i == 0))
                    return std::abs(m_points[n].z()) < 0.004 && isTrunk(n) && m_points[n].y() < m_bind.lumbarLow.y();
                const int b = m_skin[n].bone[0];
                if (b == ThighL + i) return alongBone(n, ThighL) < legEnd;
                if (b == ShankL + i) return alongBone(n, ShankL) < legEnd - 1;
                return isTrunk(n) && m_points[n].y() < m_bind.lumbarLow.y();
            });
            const auto shoe = static_cast<std::uint8_t>(i == 0 ? LeftShoe : RightShoe);
            auto isFoot = [&](std::size_t n) {
                const int b = m_skin[n].bone[0];
                return (b == FootL + i || b == ToesL + i || b == ShankL + i) && m_points[n].y() < 0.062 * 1.66 * 0.9;
            };
            cover({m_body.shoe, shoe, 0.9, 0}, isFoot);
            cover({sole, shoe, 1.3, 0}, [&](std::size_t n) { return isFoot(n) && m_points[n].y() < 0.016; });
        }
        cover(hair, [&](std::size_t n) {
            const Vec3 p = m_points[n] - m_bind.headCentre;
            return m_skin[n].bone[0] == Head && n < m_firstEye && p.y() > 0.055 + 0.5 * (p.x() - 0.05) &&
                   p.y() > -0.06 && (p.x() < 0.02 || p.y() > 0.065);
        });
        for (std::size_t n = bare; n < m_skin.size(); ++n) {
            if (m_stiff[n - bare]) keepToFoot(m_skin[n]);
            m_skin[n].position += m_skin[n].normal * (m_out[n - bare] * cm);
        }
    }

    /// A shoe does not bend with the ankle: what the shank would move, the foot moves.
    static void keepToFoot(SkinVertex& v) {
        for (int k = 0; k < 4; ++k) {
            if (v.bone[k] == ShankL || v.bone[k] == ThighL) v.bone[k] = FootL;
            if (v.bone[k] == ShankR || v.bone[k] == ThighR) v.bone[k] = FootR;
        }
    }

    bool isTrunk(std::size_t n) const { return m_skin[n].bone[0] <= Neck; }
    bool isArm(std::size_t n) const { return m_skin[n].bone[0] >= UpperArmL && m_skin[n].bone[0] <= ForearmR; }

    /// Share of the way along a limb bone (given by its left one), in the standing mesh.
    double alongBone(std::size_t n, int left) const {
        const Places places = m_bindPlaces;
        const Place& p = places[static_cast<std::size_t>(left + (m_points[n].z() < 0 ? 0 : 1))];
        return (m_points[n] - p.origin).dot(p.along) / p.length;
    }

    template <typename Inside>
    void cover(const Cloth& cloth, Inside inside) {
        m_bindPlaces = placesOf(m_bind);
        std::map<std::uint32_t, std::uint32_t> copy;
        std::vector<char> in(m_points.size());
        for (std::size_t n = 0; n < in.size(); ++n) in[n] = inside(n);
        for (std::size_t i = 0; i < m_faces.size(); ++i) {
            // The file's faces are quadrangles, read as pairs of triangles: a hem must not cut through one.
            const auto& f = m_faces[i];
            const auto& twin = m_faces[std::min(i ^ 1U, m_faces.size() - 1)];
            if (in[f[0]] + in[f[1]] + in[f[2]] + in[twin[0]] + in[twin[1]] + in[twin[2]] < 4) continue;
            std::array<std::uint32_t, 3> t{};
            for (int k = 0; k < 3; ++k) {
                const auto [at, fresh] = copy.try_emplace(f[k], static_cast<std::uint32_t>(m_skin.size()));
                if (fresh) {
                    m_skin.push_back(m_skin[f[k]]);
                    m_colour.push_back(linear(cloth.colour));
                    m_fold.push_back(cloth.fold);
                    m_out.push_back(cloth.out);
                    m_stiff.push_back(cloth.group == LeftShoe || cloth.group == RightShoe);
                }
                t[k] = at->second;
            }
            m_triangles.push_back(t);
            m_groups.push_back(cloth.group);
        }
    }

    BodySpec m_body;
    std::vector<Vec3> m_points;  ///< of the file, world axes
    std::vector<std::array<std::uint32_t, 3>> m_faces, m_triangles;
    std::vector<std::uint8_t> m_groups;
    std::size_t m_firstEye = 0;
    Skeleton m_bind;
    Places m_fitted, m_bindPlaces;
    std::vector<SkinVertex> m_skin;
    std::vector<Eigen::Vector3f> m_colour;
    std::vector<float> m_fold;
    std::vector<double> m_out;  ///< of the clothes, as m_stiff
    std::vector<bool> m_stiff;
};

}  // namespace

Result<std::shared_ptr<const Figure>> makeSkinnedFigure(const BodySpec& body, const std::string& meshFile) {
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile(
        meshFile, aiProcess_Triangulate | aiProcess_JoinIdenticalVertices | aiProcess_PreTransformVertices);
    if (!scene || scene->mNumMeshes == 0 || scene->mMeshes[0]->mNumVertices < 1000)
        return Error{"The mesh figure needs the file human.zae of Debian's package assimp-testmodels.",
                     meshFile + ": " + importer.GetErrorString()};
    return std::shared_ptr<const Figure>(std::make_shared<SkinnedFigure>(body, *scene));
}

}  // namespace zevo::sim
