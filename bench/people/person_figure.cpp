// Dual quaternions (Kavan et al. 2007) with a little linear blending: alone the ones bulge a bent knee, the other
// lets it collapse. The spine bends along its whole length, low and high apart; the upper half of arm and thigh takes
// half of the turn about its length.
#include "bench/people/person_figure.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/degrees.h"
#include "sim/dual_blend.h"
#include "sim/skin_binding.h"

namespace bench {

using namespace zevo;
using sim::Place, sim::Places;

namespace {

using Turn = Eigen::Quaterniond;

constexpr int kSpine = 12;  ///< places along the spine, hips to shoulders
constexpr double kLinear = 0.25;

/// What moves a part of the body: a turn and where it takes one point.
struct Rigid {
    Turn turn = Turn::Identity();
    Vec3 shift = Vec3::Zero();
};

Rigid about(const Turn& turn, const Vec3& from, const Vec3& to) {
    return {turn, to - turn * from};
}

/// Bones of one side, from their first index on.
enum SideBone {
    Collar,
    UpperArm1,
    UpperArm2,
    Forearm,
    Hand,
    Finger0,
    Thigh1 = Finger0 + 15,
    Thigh2,
    Shank,
    Foot,
    Toes,
    kSideBones
};
constexpr int kNeck = kSpine, kHead = kNeck + 3, kSide = kHead + 1, kAll = kSide + 2 * kSideBones;

class PersonFigure final : public sim::Figure {
  public:
    PersonFigure(const HumanPackage& package, std::vector<Piece> pieces, const sim::Skeleton& standing, bool closed)
        : m_bind(sim::placesOf(standing)), m_standing(standing), m_closed(closed) {
        for (const auto& name : package.bones()) m_of.push_back(boneOf(name));
        readHands(package, pieces.back().mesh);
        for (const Piece& p : pieces) take(p);
    }

    void build(const sim::Skeleton& s, sim::Mesh& mesh) const override {
        mesh.clear();
        const std::array<Rigid, kAll> motion = motionOf(s);
        std::array<sim::DualMotion, kAll> duals;
        for (std::size_t b = 0; b < kAll; ++b) duals[b] = {motion[b].turn, motion[b].shift};
        mesh.vertices.reserve(m_vertices.size());
        for (const Vertex& v : m_vertices) {
            sim::DualBlend blend(duals[static_cast<std::size_t>(v.bone[0])]);
            Vec3 linear = Vec3::Zero();
            for (int k = 0; k < kMost && v.share[k] > 0; ++k) {
                const auto b = static_cast<std::size_t>(v.bone[k]);
                blend.add(duals[b], v.share[k]);
                linear += v.share[k] * (motion[b].turn * v.position + motion[b].shift);
            }
            Turn q;
            Vec3 shift;
            blend.read(q, shift);
            const Vec3 place = (1 - kLinear) * (q * v.position + shift) + kLinear * linear;
            mesh.vertices.push_back({place.cast<float>(), (q * v.normal).cast<float>(), v.colour, 0, v.uv});
        }
        mesh.triangles = m_triangles;
        mesh.groups = m_groups;
        mesh.textureOf = m_textureOf;
        mesh.textures = m_textures;
    }

  private:
    static constexpr int kMost = 6;
    struct Vertex {
        Vec3 position, normal;
        Eigen::Vector3f colour;
        Eigen::Vector2f uv;
        std::array<int, kMost> bone{};
        std::array<double, kMost> share{};
    };

    /// Ours for one of the package's; −1 stands for the spine, divided by height.
    static int boneOf(const std::string& name) {
        const auto dot = name.find('.');
        const std::string part = name.substr(0, dot);
        const int side = kSide + (dot != std::string::npos && name[dot + 1] == 'R' ? kSideBones : 0);
        auto is = [&](const char* start) { return part.rfind(start, 0) == 0; };
        if (is("root") || is("spine") || is("pelvis") || is("breast")) return -1;
        if (is("clavicle") || is("shoulder")) return side + Collar;
        if (is("upperarm")) return side + (part == "upperarm01" ? UpperArm1 : UpperArm2);
        if (is("lowerarm")) return side + Forearm;
        if (is("wrist") || is("metacarpal")) return side + Hand;
        if (is("finger")) return side + Finger0 + 3 * (part[6] - '1') + (part[8] - '1');
        if (is("upperleg")) return side + (part == "upperleg01" ? Thigh1 : Thigh2);
        if (is("lowerleg")) return side + Shank;
        if (is("foot")) return side + Foot;
        if (is("toe")) return side + Toes;
        if (is("neck")) return kNeck + (part[5] - '1');
        return kHead;
    }

    void readHands(const HumanPackage& package, const QuadMesh& body) {
        for (std::size_t i = 0; i < 2; ++i) {
            const std::string side = i == 0 ? ".L" : ".R";
            for (int f = 0; f < 5; ++f)
                for (int j = 0; j < 3; ++j)
                    m_knuckle[i][static_cast<std::size_t>(3 * f + j)] = package.joint(
                        "finger" + std::to_string(f + 1) + "-" + std::to_string(j + 1) + side + "____head",
                        body.vertices);
            m_acrossHand[i] = (m_knuckle[i][12] - m_knuckle[i][3]).normalized();
            m_collar[i] = package.joint("clavicle" + side + "____head", body.vertices);
        }
        for (std::size_t j = 0; j < 3; ++j)
            m_neck[j] = package.joint("neck0" + std::to_string(j + 1) + "____head", body.vertices);
    }

    void take(const Piece& piece) {
        const QuadMesh& mesh = piece.mesh;
        std::vector<Vec3> normals(mesh.vertices.size(), Vec3::Zero());
        auto at = [&](int v) -> const Vec3& { return mesh.vertices[static_cast<std::size_t>(v)]; };
        for (const auto& f : mesh.faces) {
            const Vec3 n = (at(f.vertex[2]) - at(f.vertex[0])).cross(at(f.vertex[3]) - at(f.vertex[1]));
            for (int v : f.vertex) normals[static_cast<std::size_t>(v)] += n;
        }
        m_textures.push_back(piece.texture);
        const auto texture = static_cast<std::uint8_t>(m_textures.size());
        std::map<std::pair<int, int>, std::uint32_t> corner;
        for (const auto& f : mesh.faces) {
            std::array<std::uint32_t, 4> c{};
            for (std::size_t k = 0; k < 4; ++k) {
                const auto [found, fresh] =
                    corner.try_emplace({f.vertex[k], f.uv[k]}, static_cast<std::uint32_t>(m_vertices.size()));
                if (fresh) m_vertices.push_back(vertexOf(piece, f.vertex[k], f.uv[k], normals));
                c[k] = found->second;
            }
            const bool right = at(f.vertex[0]).z() > 0;
            const std::uint8_t group = piece.group == sim::LeftShoe && right ? sim::RightShoe : piece.group;
            for (const auto& t : {std::array{c[0], c[1], c[2]}, std::array{c[0], c[2], c[3]}}) {
                if (t[0] == t[1] || t[1] == t[2] || t[0] == t[2]) continue;
                m_triangles.push_back(t);
                m_groups.push_back(group);
                m_textureOf.push_back(texture);
            }
        }
    }

    Vertex vertexOf(const Piece& piece, int vertex, int uv, const std::vector<Vec3>& normals) const {
        const auto n = static_cast<std::size_t>(vertex);
        Vertex out;
        out.position = piece.mesh.vertices[n];
        out.normal = normals[n].normalized();
        out.colour = sim::linear(piece.tint);
        if (!piece.mesh.uvs.empty()) out.uv = piece.mesh.uvs[static_cast<std::size_t>(uv)];
        std::map<int, double> share;
        if (piece.mesh.bones.empty())
            share[kHead] = 1;
        else
            for (std::size_t k = 0; k < 4; ++k) {
                const double w = piece.mesh.bones[n].share[k];
                if (w <= 0) continue;
                const int bone = m_of[static_cast<std::size_t>(piece.mesh.bones[n].bone[k])];
                if (bone >= 0) {
                    share[bone] += w;
                    continue;
                }
                const Vec3 up = m_standing.midShoulder - m_standing.midHip;
                const double along =
                    std::clamp((out.position - m_standing.midHip).dot(up) / up.squaredNorm(), 0.0, 1.0) * (kSpine - 1);
                const int low = std::min(static_cast<int>(along), kSpine - 2);
                share[low] += w * (low + 1 - along);
                share[low + 1] += w * (along - low);
            }
        std::vector<std::pair<double, int>> order;
        for (const auto& [bone, w] : share) order.emplace_back(w, bone);
        std::sort(order.rbegin(), order.rend());
        double sum = 0;
        for (std::size_t k = 0; k < order.size() && k < kMost; ++k) sum += order[k].first;
        for (std::size_t k = 0; k < order.size() && k < kMost; ++k)
            out.share[k] = order[k].first / sum, out.bone[k] = order[k].second;
        return out;
    }

    /// What a place of the standing body does to reach its place in a pose.
    Turn turnOf(const Places& now, int bone) const {
        const auto b = static_cast<std::size_t>(bone);
        return Turn(Eigen::Matrix3d(sim::axes(now[b]) * sim::axes(m_bind[b]).transpose()));
    }
    Rigid rigidOf(const Places& now, int bone) const {
        const auto b = static_cast<std::size_t>(bone);
        return about(turnOf(now, bone), m_bind[b].origin, now[b].origin);
    }

    /// Twelve turns from pelvis over the lumbar spine to the ribs, each where the ones below carry it.
    void bendSpine(const Places& now, const sim::Skeleton& s, std::array<Rigid, kAll>& out) const {
        const Turn pelvis = turnOf(now, sim::Pelvis), lumbar = turnOf(now, sim::Lumbar), ribs = turnOf(now, sim::Ribs);
        auto ramp = [](double x, double from, double to) {
            const double w = std::clamp((x - from) / (to - from), 0.0, 1.0);
            return w * w * (3 - 2 * w);
        };
        auto turnAt = [&](double t) {
            return pelvis.slerp(ramp(t, 0.10, 0.36), lumbar).slerp(ramp(t, 0.42, 0.82), ribs);
        };
        const Vec3 up = m_standing.midShoulder - m_standing.midHip;
        std::array<Vec3, kSpine> place;
        place[0] = s.midHip;
        for (int i = 1; i < kSpine; ++i)
            place[static_cast<std::size_t>(i)] =
                place[static_cast<std::size_t>(i - 1)] + turnAt((i - 0.5) / (kSpine - 1)) * up / (kSpine - 1);
        const Vec3 rest = s.midShoulder - place[kSpine - 1];
        for (int i = 0; i < kSpine; ++i) {
            const double t = static_cast<double>(i) / (kSpine - 1);
            const auto n = static_cast<std::size_t>(i);
            out[n] = about(turnAt(t), m_standing.midHip + t * up, place[n] + t * rest);
        }
    }

    /// From `from`'s turn on so that a limb points along its own way, half or wholly turned about its length.
    Turn half(const Turn& from, const Places& now, int bone) const {
        const auto b = static_cast<std::size_t>(bone);
        const Turn swing = Turn::FromTwoVectors(from * m_bind[b].along, now[b].along) * from;
        return swing.slerp(0.5, turnOf(now, bone));
    }

    std::array<Rigid, kAll> motionOf(const sim::Skeleton& s) const {
        const Places now = sim::placesOf(s);
        std::array<Rigid, kAll> out;
        bendSpine(now, s, out);
        const Rigid ribs = out[kSpine - 1], head = rigidOf(now, sim::Head);
        for (std::size_t j = 0; j < 3; ++j) {
            const double w = (static_cast<double>(j) + 0.7) / 3.4;
            const Vec3 byRibs = ribs.turn * m_neck[j] + ribs.shift, byHead = head.turn * m_neck[j] + head.shift;
            out[kNeck + j] = about(ribs.turn.slerp(w, head.turn), m_neck[j], (1 - w) * byRibs + w * byHead);
        }
        out[kHead] = head;
        for (std::size_t i = 0; i < 2; ++i) {
            const std::size_t side = kSide + i * kSideBones;
            const int n = static_cast<int>(i);
            const Vec3 neck = ribs.turn * m_collar[i] + ribs.shift;
            const Turn collar =
                Turn::FromTwoVectors(ribs.turn * (m_standing.shoulder[i] - m_collar[i]), s.shoulder[i] - neck) *
                ribs.turn;
            out[side + Collar] = about(collar, m_collar[i], neck);
            out[side + UpperArm1] =
                about(half(ribs.turn, now, sim::UpperArmL + n), m_standing.shoulder[i], s.shoulder[i]);
            out[side + UpperArm2] = rigidOf(now, sim::UpperArmL + n);
            out[side + Forearm] = rigidOf(now, sim::ForearmL + n);
            const Rigid hand = out[side + Hand] = out[side + Forearm];
            bendFingers(i, hand, out);
            const Turn pelvis = turnOf(now, sim::Pelvis);
            out[side + Thigh1] = about(half(pelvis, now, sim::ThighL + n), m_standing.hip[i], s.hip[i]);
            out[side + Thigh2] = rigidOf(now, sim::ThighL + n);
            out[side + Shank] = rigidOf(now, sim::ShankL + n);
            out[side + Foot] = rigidOf(now, sim::FootL + n);
            out[side + Toes] = rigidOf(now, sim::ToesL + n);
        }
        return out;
    }

    void bendFingers(std::size_t i, const Rigid& hand, std::array<Rigid, kAll>& out) const {
        const double each = (m_closed ? 62 : 14) * kRadiansPerDegree * (i == 0 ? -1 : 1);
        for (std::size_t f = 0; f < 5; ++f) {
            Rigid carries = hand;
            for (std::size_t j = 0; j < 3; ++j) {
                const Vec3& joint = m_knuckle[i][3 * f + j];
                const double share = f == 0 ? 0.35 : 1;  // the thumb lies over
                const Turn bent = carries.turn * Turn(Eigen::AngleAxisd(share * each, m_acrossHand[i]));
                carries = about(bent, joint, carries.turn * joint + carries.shift);
                out[kSide + i * kSideBones + Finger0 + 3 * f + j] = carries;
            }
        }
    }

    Places m_bind;
    sim::Skeleton m_standing;
    bool m_closed;
    std::vector<int> m_of;  ///< by the package's bone
    std::array<std::array<Vec3, 15>, 2> m_knuckle;
    std::array<Vec3, 2> m_acrossHand, m_collar;
    std::array<Vec3, 3> m_neck;
    std::vector<Vertex> m_vertices;
    std::vector<std::array<std::uint32_t, 3>> m_triangles;
    std::vector<std::uint8_t> m_groups, m_textureOf;
    std::vector<std::shared_ptr<const sim::Texture>> m_textures;
};

}  // namespace

std::shared_ptr<const sim::Figure> personFigure(const HumanPackage& package, std::vector<Piece> pieces,
                                                const sim::Skeleton& standing, bool handsClosed) {
    return std::make_shared<PersonFigure>(package, std::move(pieces), standing, handsClosed);
}

}  // namespace bench
