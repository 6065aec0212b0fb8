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

#include "sim/dual_blend.h"
#include "sim/figure.h"
#include "sim/poser.h"
#include "sim/skin_binding.h"

namespace zevo::sim {
namespace {

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
        std::array<DualMotion, kBones> motion;
        for (int b = 0; b < kBones; ++b) {
            const Eigen::Matrix3d turn = axes(now[b]) * axes(m_fitted[b]).transpose();
            motion[b] = {Eigen::Quaterniond(turn), now[b].origin - turn * m_fitted[b].origin};
        }
        mesh.vertices.reserve(m_skin.size());
        for (std::size_t n = 0; n < m_skin.size(); ++n) {
            const SkinVertex& v = m_skin[n];
            DualBlend blend(motion[v.bone[0]]);
            for (int k = 0; k < 4 && v.weight[k] > 0; ++k) blend.add(motion[v.bone[k]], v.weight[k]);
            Eigen::Quaterniond q;
            Vec3 shift;
            blend.read(q, shift);
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
