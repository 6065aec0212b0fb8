// The clothed body around a skeleton: tubes with measured half-widths along each limb, ellipsoids for head
// and seat. Radii are in centimetres at a stature of 175 cm and scale with stature and girth.
#include "sim/figure.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <initializer_list>
#include <numbers>

namespace zevo::sim {
namespace {

struct Section {
    double t, offset, front, side;
};

Section sectionAt(std::initializer_list<Section> table, double t) {
    const Section* s = table.begin();
    const Section* last = table.end() - 1;
    if (t <= s->t) return *s;
    while (s < last && (s + 1)->t < t) ++s;
    if (s == last) return *last;
    const double raw = (t - s->t) / ((s + 1)->t - s->t);
    const double w = raw * raw * (3 - 2 * raw);
    auto mix = [w](double a, double b) { return a + (b - a) * w; };
    return {t, mix(s->offset, (s + 1)->offset), mix(s->front, (s + 1)->front), mix(s->side, (s + 1)->side)};
}

const std::initializer_list<Section> kThigh{{0, .4, 8.8, 8.0},   {.25, .8, 8.4, 8.0}, {.5, 1.0, 7.5, 7.1},
                                            {.75, .6, 6.2, 5.8}, {.92, .3, 5.6, 5.3}, {1, .5, 5.5, 5.2}};
const std::initializer_list<Section> kShank{{0, .2, 5.4, 5.2},    {.12, -.4, 5.1, 5.0}, {.3, -1.4, 5.8, 5.5},
                                            {.5, -1.0, 5.0, 4.7}, {.75, -.4, 3.6, 3.4}, {.92, -.3, 3.4, 3.0},
                                            {1, -.4, 3.7, 3.3}};
const std::initializer_list<Section> kUpperArm{
    {0, 0, 5.6, 5.6}, {.3, 0, 5.0, 4.6}, {.6, 0, 4.5, 4.2}, {1, 0, 3.9, 3.8}};
const std::initializer_list<Section> kForearm{
    {0, 0, 3.9, 4.0}, {.22, 0, 4.3, 4.2}, {.6, 0, 3.4, 3.5}, {1, 0, 2.4, 2.9}};

/// A limb of two links as one tube that bends smoothly at the middle joint. `from`…`to` in 0…2 choose a part
/// of it (0 near end, 1 joint, 2 far end); `grow` widens it for cloth.
void addLimb(Mesh& mesh, const Vec3& near, const Vec3& joint, const Vec3& far, const Vec3& sideHint,
             std::initializer_list<Section> first, std::initializer_list<Section> second, double cm, double from,
             double to, double grow, const Paint& paint, double flare = 0) {
    const Vec3 d1 = (joint - near).normalized(), d2 = (far - joint).normalized();
    std::vector<Ring> rings;
    const int steps = std::max(4, static_cast<int>((to - from) * 15));
    for (int i = 0; i <= steps; ++i) {
        const double u = from + (to - from) * i / steps;
        constexpr double kSoft = 0.16;  // share of a link over which the bend is spread
        const double w = std::clamp((u - (1 - kSoft)) / (2 * kSoft), 0.0, 1.0);
        Vec3 centre = u < 1 ? near + (joint - near) * u : joint + (far - joint) * (u - 1);
        if (w > 0 && w < 1) {  // round the corner: quadratic curve through the bend
            const Vec3 a = joint - d1 * (joint - near).norm() * kSoft, b = joint + d2 * (far - joint).norm() * kSoft;
            const Vec3 curve = (1 - w) * (1 - w) * a + 2 * w * (1 - w) * joint + w * w * b;
            centre = 0.45 * centre + 0.55 * curve;
        }
        const Vec3 along = (d1 * (1 - w) + d2 * w).normalized();
        const Vec3 front = along.cross(sideHint).normalized();
        const Vec3 side = front.cross(along);
        const Section s = u < 1 ? sectionAt(first, u) : sectionAt(second, u - 1);
        // `front` of a hanging limb: along is downwards, so along × right points backwards.
        const double wide = grow + flare * (u - from) / (to - from);
        rings.push_back({centre - front * s.offset * cm, front, side, (s.front + wide) * cm, (s.side + wide) * cm});
    }
    addTube(mesh, rings, paint);
}

struct Builder {
    const Skeleton& s;
    const BodySpec& body;
    Mesh& mesh;
    double cm;     // one figure-centimetre in metres, lengths
    double thick;  // the same for thicknesses

    /// The spine as a line that bends softly: a place `along` it (metres above the mid-hip), its direction and the
    /// body's right there.
    struct SpinePlace {
        Vec3 centre, up, right;
    };
    SpinePlace spineAt(double along) const {
        const std::array<Vec3, 4> joint{s.midHip, s.lumbarLow, s.lumbarHigh, s.midShoulder};
        auto onLinks = [&](double a) -> Vec3 {
            for (std::size_t k = 0; k < 3; ++k) {
                const double length = (joint[k + 1] - joint[k]).norm();
                if (a < length || k == 2) return joint[k] + (joint[k + 1] - joint[k]) / length * a;
                a -= length;
            }
            return joint[3];
        };
        const double reach = 4 * cm * body.trunkShare;
        Vec3 centre = Vec3::Zero();
        for (int k = -2; k <= 2; ++k) centre += onLinks(along + reach * k / 2) / 5;
        const Vec3 up = (onLinks(along + reach) - onLinks(along - reach)).normalized();
        const double w = std::clamp(along / (50 * cm * body.trunkShare), 0.0, 1.0);
        return {centre, up, (s.pelvisRight * (1 - w) + s.chestRight * w).normalized()};
    }

    void shoe(int i) {
        const auto group = static_cast<std::uint8_t>(i == 0 ? LeftShoe : RightShoe);
        const Vec3 f = s.footForward[i];
        const Vec3 side = f.cross(Vec3(0, 1, 0)).normalized();
        const Vec3 up = side.cross(f).normalized();
        const Vec3 toeForward = (s.toe[i] - s.ball[i]).normalized();
        const Vec3 toeUp = side.cross(toeForward).normalized();
        struct Part {
            double at, low, high, half;
        };
        // Along the sole from the ankle; heights above the sole.
        auto ringAt = [&](const Part& p, const Vec3& origin, const Vec3& dir, const Vec3& u) {
            return Ring{origin + dir * p.at * cm + u * (p.low + p.high) / 2 * cm, u, side, (p.high - p.low) / 2 * cm,
                        p.half * cm};
        };
        const Vec3 soleUnderAnkle = s.ankle[i] - up * (0.048 * body.statureCm / 100);
        const Vec3 ball = soleUnderAnkle + f * 12.8 * cm;
        for (int layer = 0; layer < 2; ++layer) {
            const bool sole = layer == 0;
            const double lift = sole ? 0.0 : 1.0, grow = sole ? 0.35 : 0.0;
            auto tall = [&](double h) { return sole ? 2.0 : h; };
            std::vector<Ring> rings;
            for (const Part& p : {Part{-7.0, lift, tall(4.5), 1.6 + grow},
                                  {-6.6, lift, tall(6.5), 2.6 + grow},
                                  {-4.5, lift, tall(8.6), 3.4 + grow},
                                  {-1.0, lift, tall(8.8), 3.5 + grow},
                                  {3.0, lift, tall(8.0), 3.5 + grow},
                                  {7.5, lift, tall(6.4), 3.9 + grow},
                                  {11.5, lift, tall(5.2), 4.6 + grow}})
                rings.push_back(ringAt(p, soleUnderAnkle, f, up));
            for (const Part& p : {Part{1.0, lift, tall(4.9), 4.7 + grow},
                                  {4.0, lift, tall(4.4), 4.5 + grow},
                                  {7.0, lift, tall(3.6), 3.8 + grow},
                                  {8.8, lift, tall(2.9), 2.4 + grow},
                                  {9.3, lift, tall(2.3), 1.0 + grow}})
                rings.push_back(ringAt(p, ball, toeForward, toeUp));
            addTube(mesh, rings, {sole ? Colour{228, 228, 222} : body.shoe, group, 0}, 18);
        }
        for (int lace = 0; lace < 3; ++lace) {
            const Vec3 at = soleUnderAnkle + f * (4.2 + 2.4 * lace) * cm + up * (7.9 - 0.75 * lace) * cm;
            addCapsule(mesh, at - side * 1.6 * cm, at + side * 1.6 * cm, 0.4 * cm, 0.4 * cm,
                       {{235, 235, 230}, group, 0}, 6);
        }
    }

    void leg(int i) {
        const auto group = static_cast<std::uint8_t>(i == 0 ? LeftLeg : RightLeg);
        const Vec3 plane = s.footForward[i].cross(Vec3(0, 1, 0)).normalized();
        addLimb(mesh, s.hip[i], s.knee[i], s.ankle[i], plane, kThigh, kShank, thick, 0.0, 2.0, 0,
                {body.skin, group, 0});
        const Vec3 thighDown = (s.knee[i] - s.hip[i]).normalized(), shankDown = (s.ankle[i] - s.knee[i]).normalized();
        const Vec3 kneeFront =
            (thighDown - shankDown).squaredNorm() > 1e-4 ? (thighDown - shankDown).normalized() : s.footForward[i];
        addEllipsoid(mesh, s.knee[i] + kneeFront * 2.0 * thick, kneeFront * 3.4 * thick,
                     (thighDown + shankDown).normalized() * 3.6 * thick, plane * 3.2 * thick, {body.skin, group, 0},
                     12);
        // Socks and the leg of the shorts.
        addLimb(mesh, s.hip[i], s.knee[i], s.ankle[i], plane, kThigh, kShank, thick, 1.86, 2.0, 0.35,
                {{224, 222, 214}, group, 0});
        if (body.looseTrousers)
            addLimb(mesh, s.hip[i], s.knee[i], s.ankle[i], plane, kThigh, kShank, thick, 0.0, 1.93, 1.6,
                    {body.shorts, static_cast<std::uint8_t>(i == 0 ? LeftTrouser : RightTrouser), 1.2F}, 2.6);
        else
            addLimb(mesh, s.hip[i], s.knee[i], s.ankle[i], plane, kThigh, kShank, thick, 0.0, 0.58, 1.3,
                    {body.shorts, Shorts, 0.7F}, 1.2);
        // Seat: turned half-way between pelvis and thigh.
        const Vec3 up = (s.lumbarLow - s.midHip).normalized();
        const Vec3 mid = (up - thighDown).normalized();
        const Vec3 back = -mid.cross(s.pelvisRight).normalized();
        addEllipsoid(mesh, s.hip[i] + (back * 3.6 - up * 0.6) * thick, back * 8.3 * thick, mid * 9.8 * thick,
                     s.pelvisRight * 8.4 * thick, {body.shorts, Shorts, 0.6F});
    }

    void torso() {
        const Vec3 right = s.chestRight;
        const Vec3 chestUp = (s.midShoulder - s.lumbarHigh).normalized();
        auto tube = [&](std::initializer_list<Section> table, const Paint& paint) {
            // t: centimetres above the mid-hip along the spine at 175 cm.
            std::vector<Ring> rings;
            const double from = table.begin()->t, to = (table.end() - 1)->t;
            for (int i = 0; i <= 26; ++i) {
                const double t = from + (to - from) * i / 26;
                const SpinePlace place = spineAt(t * cm * body.trunkShare);
                const Vec3 front = place.up.cross(place.right).normalized();
                const Section q = sectionAt(table, t);
                rings.push_back(
                    {place.centre + front * q.offset * thick, front, place.right, q.front * thick, q.side * thick});
            }
            addTube(mesh, rings, paint, 28);
        };
        tube({{-6.5, 0, 5.0, 9.0},
              {-4.5, 0, 8.0, 12.5},
              {0, -.4, 10.6, 16.2},
              {6, -.6, 10.6, 16.0},
              {14, 0, 10.0, 14.6}},
             {body.shorts, Shorts, 0.4F});
        tube({{3.5, -.3, 11.5, 17.2},
              {9, 0, 11.0, 16.2},
              {17, .3, 10.6, 15.0},
              {26, .2, 11.2, 15.6},
              {36, 0, 12.2, 17.2},
              {43, -.6, 11.4, 17.4},
              {47.5, -1.2, 9.4, 15.4},
              {51.5, -1.5, 7.2, 10.0},
              {54, -1.0, 6.2, 7.0}},
             {body.shirt, Shirt, 1.0F});
        const Vec3 f = chestUp.cross(right).normalized();
        for (int i = 0; i < 2; ++i) {
            const double sign = i == 0 ? -1 : 1;
            addEllipsoid(mesh, s.midShoulder + (-chestUp * 13 + f * 4.6 + right * sign * 7.5) * thick, f * 7.2 * thick,
                         chestUp * 9 * thick, right * 8.2 * thick, {body.shirt, Shirt, 1.0F});
            addEllipsoid(mesh, s.midShoulder + (-chestUp * 9 - f * 5.4 + right * sign * 8) * thick, f * 6.4 * thick,
                         chestUp * 10 * thick, right * 7.6 * thick, {body.shirt, Shirt, 1.0F});
            addCapsule(mesh, s.shoulder[i] - right * sign * 2.5 * thick - chestUp * .8 * thick,
                       s.midShoulder + right * sign * 4 * thick + chestUp * 1.6 * thick, 5.0 * thick, 4.2 * thick,
                       {body.shirt, Shirt, 0.5F});
        }
        const Vec3 neckTop = s.headCentre - (s.headCentre - s.midShoulder).normalized() * 4 * cm;
        addCapsule(mesh, s.midShoulder + chestUp * 2 * cm, neckTop, 5.8 * thick, 5.3 * thick, {body.skin, Skin, 0}, 16);
    }

    void arm(int i) {
        const Vec3 right = s.chestRight;
        const auto group = static_cast<std::uint8_t>(i == 0 ? LeftArm : RightArm);
        const Vec3 plane =
            (right - (s.wrist[i] - s.shoulder[i]).normalized() * right.dot((s.wrist[i] - s.shoulder[i]).normalized()))
                .normalized();
        addLimb(mesh, s.shoulder[i], s.elbow[i], s.wrist[i], plane, kUpperArm, kForearm, thick, 0, 2, 0,
                {body.skin, group, 0});
        addLimb(mesh, s.shoulder[i], s.elbow[i], s.wrist[i], plane, kUpperArm, kForearm, thick, 0,
                body.longSleeves ? 1.94 : 0.62, 1.2, {body.shirt, Shirt, 0.8F}, body.longSleeves ? 0.2 : 0.9);
        addEllipsoid(mesh, s.shoulder[i] - right * (i == 0 ? -1 : 1) * 0.6 * thick, right * 6.0 * thick,
                     Vec3(0, 6.0 * thick, 0), Vec3(6.4 * thick, 0, 0), {body.shirt, Shirt, 0.5F});
        const Vec3 d = (s.wrist[i] - s.elbow[i]).normalized();
        const Vec3 thumbSide = d.cross(plane).normalized();
        const Vec3 palm = s.wrist[i] + d * 4.2 * cm;
        addEllipsoid(mesh, palm, d * 5.2 * cm, thumbSide * 4.0 * cm, plane * 1.9 * cm, {body.skin, group, 0}, 12);
        for (int k = 0; k < 4; ++k) {
            const Vec3 root = palm + d * 3.6 * cm + thumbSide * (k - 1.5) * 1.7 * cm;
            addCapsule(mesh, root, root + d * (k == 1 || k == 2 ? 7.2 : 5.8) * cm, 0.85 * cm, 0.7 * cm,
                       {body.skin, group, 0}, 7);
        }
        const double up = thumbSide.dot(Vec3(0, 1, 0)) >= 0 ? 1 : -1;
        addCapsule(mesh, palm + thumbSide * up * 2.4 * cm, palm + (d * 3.6 + thumbSide * up * 4.6) * cm, 1.1 * cm,
                   0.8 * cm, {body.skin, group, 0}, 7);
    }

    void head() {
        const Vec3 right = s.chestRight;
        const Vec3 f = [&] {
            const Vec3 toNose = s.nose - s.headCentre;
            const double tilt = std::atan2(0.028, 0.106);
            const Vec3 flat = toNose.normalized();
            return Vec3(std::cos(tilt) * flat + std::sin(tilt) * right.cross(flat)).normalized();
        }();
        const Vec3 u = right.cross(f).normalized();
        auto at = [&](double fx, double ux, double rx) -> Vec3 {
            return s.headCentre + (f * fx + u * ux + right * rx) * cm;
        };
        const Paint skin{body.skin, Skin, 0};
        addEllipsoid(mesh, at(-.4, 2.6, 0), f * 9.6 * cm, u * 9.4 * cm, right * 7.6 * cm, skin, 24);
        addEllipsoid(mesh, at(2.6, -3.6, 0), f * 6.6 * cm, u * 8.0 * cm, right * 6.0 * cm, skin, 20);
        addEllipsoid(mesh, at(6.6, -9.6, 0), f * 2.4 * cm, u * 2.2 * cm, right * 2.8 * cm, skin, 12);
        addCapsule(mesh, at(8.2, 1.2, 0), at(10.2, -2.9, 0), 1.0 * cm, 1.5 * cm, skin, 10);
        const Colour dark{static_cast<std::uint8_t>(body.skin.r * 0.62), static_cast<std::uint8_t>(body.skin.g * 0.48),
                          static_cast<std::uint8_t>(body.skin.b * 0.46)};
        addCapsule(mesh, at(8.6, -6.2, -2.1), at(8.6, -6.2, 2.1), 0.65 * cm, 0.65 * cm, {dark, Face, 0}, 8);
        for (double sign : {-1.0, 1.0}) {
            addEllipsoid(mesh, at(-.6, -.4, sign * 7.5), f * 2.2 * cm, u * 3.2 * cm, right * 1.2 * cm, skin, 12);
            addEllipsoid(mesh, at(7.75, .6, sign * 3.1), f * 1.1 * cm, u * .8 * cm, right * 1.5 * cm,
                         {{238, 236, 230}, Face, 0}, 10);
            addEllipsoid(mesh, at(8.45, .6, sign * 3.1), f * .6 * cm, u * .7 * cm, right * .7 * cm,
                         {{44, 34, 28}, Face, 0}, 8);
            addCapsule(mesh, at(8.4, 2.6, sign * 1.6), at(7.5, 2.9, sign * 4.6), .5 * cm, .4 * cm, {body.hair, Hair, 0},
                       7);
        }
        // Hair: a cap tilted back, a fuller crown and the nape, so that it does not read as a swim cap.
        const Vec3 back = (u * 0.80 - f * 0.60).normalized(), across = right,
                   fore = across.cross(back).normalized() * -1;
        addEllipsoid(mesh, at(-1.3, 3.0, 0), fore * 10.2 * cm, back * 10.1 * cm, across * 8.4 * cm,
                     {body.hair, Hair, 0.9F}, 26, -0.02);
        addEllipsoid(mesh, at(-2.4, 6.6, 0), f * 9.0 * cm, u * 6.6 * cm, right * 7.6 * cm, {body.hair, Hair, 0.9F}, 20);
        addEllipsoid(mesh, at(3.6, 8.4, 0), f * 4.6 * cm, u * 3.2 * cm, right * 6.0 * cm, {body.hair, Hair, 0.9F}, 16);
        addEllipsoid(mesh, at(-6.2, -1.6, 0), f * 3.6 * cm, u * 5.6 * cm, right * 6.2 * cm, {body.hair, Hair, 0.9F},
                     16);
        for (double sign : {-1.0, 1.0})
            addEllipsoid(mesh, at(1.4, 2.4, sign * 7.1), f * 1.6 * cm, u * 4.2 * cm, right * .9 * cm,
                         {body.hair, Hair, 0.9F}, 12);
    }
};

class DrawnFigure : public Figure {
  public:
    explicit DrawnFigure(const BodySpec& body) : m_body(body) {}
    void build(const Skeleton& skeleton, Mesh& mesh) const override { buildFigure(skeleton, m_body, mesh); }

  private:
    BodySpec m_body;
};

/// Debian's place of the mesh; ZEVO_FIGURE_MESH names another.
std::string meshFile() {
    const char* named = std::getenv("ZEVO_FIGURE_MESH");
    return named ? named : "/usr/share/assimp/models/Collada/human.zae";
}

}  // namespace

Result<std::shared_ptr<const Figure>> makeFigure(const BodySpec& body) {
    if (body.figure == "mesh") return makeSkinnedFigure(body, meshFile());
    return std::shared_ptr<const Figure>(std::make_shared<DrawnFigure>(body));
}

void addProps(const std::vector<Prop>& props, Mesh& mesh) {
    for (const Prop& p : props) {
        const Paint paint{p.colour, Thing, 0};
        switch (p.kind) {
            case Prop::Kind::Rod: {
                const Vec3 along = (p.b - p.a).normalized();
                const Vec3 any = std::abs(along.y()) < 0.9 ? Vec3(0, 1, 0) : Vec3(1, 0, 0);
                const Vec3 front = along.cross(any).normalized(), side = along.cross(front);
                addTube(mesh, {{p.a, front, side, p.radius, p.radius}, {p.b, front, side, p.radius, p.radius}}, paint);
                break;
            }
            case Prop::Kind::Ball:
                addEllipsoid(mesh, p.a, Vec3(p.b.x(), 0, 0), Vec3(0, p.b.y(), 0), Vec3(0, 0, p.b.z()), paint);
                break;
            case Prop::Kind::Box: addBox(mesh, p.a, p.b, paint); break;
        }
    }
}

void buildFigure(const Skeleton& skeleton, const BodySpec& body, Mesh& mesh) {
    mesh.clear();
    const double cm = body.statureCm / 175 / 100;
    Builder b{skeleton, body, mesh, cm, cm * body.girth};
    b.torso();
    b.head();
    for (int i = 0; i < 2; ++i) {
        b.shoe(i);
        b.leg(i);
        b.arm(i);
    }
}

}  // namespace zevo::sim
