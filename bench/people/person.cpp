#include "bench/people/person.h"

#include <algorithm>
#include <cmath>

#include "bench/people/person_figure.h"

namespace bench {

using namespace zevo;

namespace {

/// Shares of the corners a morph is made for.
struct Shares {
    std::vector<std::pair<std::string, double>> of;
};

Shares threeOf(double x, const char* low, const char* middle, const char* high) {
    const double least = std::max(0.0, 1 - 2 * x), most = std::max(0.0, 2 * x - 1);
    return {{{low, least}, {middle, 1 - least - most}, {high, most}}};
}

/// The shape of a person of this sex, age and build, in the package's frame and unit.
Result<std::vector<Vec3>> shapeOf(const HumanPackage& package, const PersonSpec& spec) {
    std::vector<Vec3> body = package.body().vertices;
    const std::string sex = spec.female ? "female" : "male";
    const double old = std::clamp((spec.years - 25) / 65, 0.0, 1.0);
    const Shares ages{{{"young", 1 - old}, {"old", old}}};
    const Shares muscles = threeOf(spec.muscle, "minmuscle", "averagemuscle", "maxmuscle");
    const Shares weights = threeOf(spec.weight, "minweight", "averageweight", "maxweight");
    for (const auto& [age, byAge] : ages.of) {
        if (byAge <= 0) continue;
        if (!package.morph("macrodetails/" + spec.ancestry + "-" + sex + "-" + age, byAge, body))
            return Error{"A morph of the packaged people is missing.", spec.ancestry};
        for (const auto& [muscle, byMuscle] : muscles.of)
            for (const auto& [weight, byWeight] : weights.of) {
                const double share = byAge * byMuscle * byWeight;
                if (share <= 0) continue;
                const std::string corner = sex + "-" + age + "-" + muscle + "-" + weight;
                package.morph("macrodetails/universal-" + corner, share, body);
                const double ideal = 2 * spec.proportions - 1;
                package.morph(
                    "macrodetails/proportions/" + corner + (ideal > 0 ? "-idealproportions" : "-uncommonproportions"),
                    share * std::abs(ideal), body);
            }
    }
    return body;
}

/// Into the benches' frame: metres, x forward, y up, z to the person's right.
Vec3 turned(const Vec3& p, double scale) {
    return scale * Vec3(p.z(), p.y(), -p.x());
}

}  // namespace

Result<Person> makePerson(const HumanPackage& package, const PersonSpec& spec) {
    auto shape = shapeOf(package, spec);
    if (!shape) return shape.error();
    std::vector<char> seen(shape->size(), 0);
    for (const auto& f : package.body().faces)
        if (package.materials()[static_cast<std::size_t>(f.material)] == "body")
            for (int v : f.vertex) seen[static_cast<std::size_t>(v)] = 1;
    double low = 1e9, high = -1e9;
    for (std::size_t n = 0; n < seen.size(); ++n)
        if (seen[n]) low = std::min(low, (*shape)[n].y()), high = std::max(high, (*shape)[n].y());
    const double scale = spec.statureCm / 100 / (high - low);

    std::vector<Piece> pieces;
    auto add = [&](const std::string& kind, const PersonSpec::Piece& what, sim::Group group) -> Result<void> {
        auto proxy = package.proxy(kind, what.name);
        if (!proxy) return proxy.error();
        Piece piece{.mesh = proxy->mesh, .texture = proxy->texture, .tint = what.tint, .group = group};
        piece.mesh.vertices = proxy->lieOn(*shape);
        for (Vec3& p : piece.mesh.vertices) p = turned(p, scale);
        for (std::size_t n = 0; n < proxy->hides.size() && n < seen.size(); ++n)
            if (proxy->hides[n]) seen[n] = 0;
        if (kind != "clothes" && piece.mesh.bones.size() != piece.mesh.vertices.size()) piece.mesh.bones.clear();
        pieces.push_back(std::move(piece));
        return {};
    };
    for (const auto& c : spec.clothes)
        if (auto ok = add("clothes", c, c.name.find("shoes") != std::string::npos ? sim::LeftShoe : sim::Shirt); !ok)
            return ok.error();
    if (!spec.hair.name.empty())
        if (auto ok = add("hair", spec.hair, sim::Hair); !ok) return ok.error();
    if (auto ok = add("eyes", {"Low-Poly"}, sim::Face); !ok) return ok.error();
    if (auto ok = add("eyebrows", {spec.eyebrows}, sim::Hair); !ok) return ok.error();
    const std::string age = spec.years < 36 ? "young" : spec.years < 58 ? "middleage" : "old";
    auto skin = package.skin(age + "_" + spec.ancestry + "_" + (spec.female ? "female" : "male"));
    if (!skin) return skin.error();
    Piece body{.mesh = package.body(), .texture = *skin, .tint = {255, 255, 255}, .group = sim::Skin};
    body.mesh.vertices = *shape;
    for (Vec3& p : body.mesh.vertices) p = turned(p, scale);
    std::erase_if(body.mesh.faces, [&](const QuadMesh::Face& f) {
        return package.materials()[static_cast<std::size_t>(f.material)] != "body";
    });
    pieces.push_back(std::move(body));

    // On the floor, with whatever they stand on.
    double floor = 1e9;
    for (const Piece& p : pieces)
        for (const auto& f : p.mesh.faces)
            for (int v : f.vertex) floor = std::min(floor, p.mesh.vertices[static_cast<std::size_t>(v)].y());
    for (Piece& p : pieces)
        for (Vec3& v : p.mesh.vertices) v.y() -= floor;

    Person out;
    out.body.statureCm = spec.statureCm;
    const double H = spec.statureCm / 100, k = H / 1.75;
    sim::Skeleton s;
    auto joint = [&](const std::string& name) {
        Vec3 p = turned(package.joint(name, *shape), scale);
        p.y() -= floor;
        return p;
    };
    sim::BodyLengths lengths;
    const Piece& shoes = *std::max_element(pieces.begin(), pieces.end(), [](const Piece& a, const Piece& b) {
        return (a.group == sim::LeftShoe) < (b.group == sim::LeftShoe);  // barefoot: the body is as good
    });
    for (std::size_t i = 0; i < 2; ++i) {
        const std::string side = i == 0 ? ".L" : ".R";
        const double sign = i == 0 ? -1 : 1;
        s.hip[i] = joint("upperleg01" + side + "____head");
        s.hip[i].z() = sign * (0.33 * 0.14 * H + 0.0073);
        double back = 1e9, front = -1e9;
        for (const auto& f : pieces.back().mesh.faces)
            for (int v : f.vertex) {
                const Vec3& p = pieces.back().mesh.vertices[static_cast<std::size_t>(v)];
                if (std::abs(p.y() - s.hip[i].y()) > 0.012 * H || p.z() * sign < 0 || p.z() * sign > 0.16 * H) continue;
                back = std::min(back, p.x()), front = std::max(front, p.x());
            }
        s.hip[i].x() = (back + front) / 2 + 0.006 * H + spec.hipAheadCm / 100;
        s.knee[i] = joint("lowerleg01" + side + "____head");
        s.ankle[i] = joint("foot" + side + "____head");
        const Vec3 tip = joint("toe2-3" + side + "____tail");
        s.footForward[i] = Vec3(tip.x() - s.ankle[i].x(), 0, tip.z() - s.ankle[i].z()).normalized();
        double heel = 0, toe = 0;
        for (const Vec3& v : shoes.mesh.vertices)
            if (v.z() * sign > 0 && v.y() < s.ankle[i].y()) {
                const double along = (v - s.ankle[i]).dot(s.footForward[i]);
                heel = std::min(heel, along), toe = std::max(toe, along);
            }
        // Heel and tip of the toes a little inside the shoe.
        lengths.footPointHeight = 0.022 * k;
        lengths.heelBack = -heel - 0.012 * k;
        lengths.ballAhead = (joint("toe2-1" + side + "____head") - s.ankle[i]).dot(s.footForward[i]);
        lengths.toeAhead = toe - 0.015 * k - lengths.ballAhead;
        const double down = s.ankle[i].y() - lengths.footPointHeight;
        s.heel[i] = s.ankle[i] - lengths.heelBack * s.footForward[i] - Vec3(0, down, 0);
        s.ball[i] = s.ankle[i] + lengths.ballAhead * s.footForward[i] - Vec3(0, down, 0);
        s.toe[i] = s.ball[i] + lengths.toeAhead * s.footForward[i];
        s.shoulder[i] = joint("upperarm01" + side + "____head");
        s.elbow[i] = joint("lowerarm01" + side + "____head");
        s.wrist[i] = joint("wrist" + side + "____head");
    }
    // The ears stick out furthest at the head's sides.
    const Vec3 skull = joint("head____head"), eye = (joint("eye.L____head") + joint("eye.R____head")) / 2;
    for (std::size_t i = 0; i < 2; ++i) {
        const double sign = i == 0 ? -1 : 1;
        Vec3 best = eye;
        double far = -1;
        for (const auto& f : package.body().faces) {
            if (package.materials()[static_cast<std::size_t>(f.material)] != "body") continue;
            const Vec3& p = pieces.back().mesh.vertices[static_cast<std::size_t>(f.vertex[0])];
            if (p.y() > skull.y() && std::abs(p.y() - eye.y()) < 0.04 && p.z() * sign > far)
                best = p, far = p.z() * sign;
        }
        s.ear[i] = best;
    }
    s.midHip = (s.hip[0] + s.hip[1]) / 2, s.midShoulder = (s.shoulder[0] + s.shoulder[1]) / 2;
    s.lumbarLow = s.midHip + 0.22 * (s.midShoulder - s.midHip);
    s.lumbarHigh = s.midHip + 0.55 * (s.midShoulder - s.midHip);
    s.headCentre = (s.ear[0] + s.ear[1]) / 2 + Vec3(0, 0.005 * k, 0);
    s.nose = s.headCentre + k * Vec3(0.106, -0.028, 0);  // the gaze of the virtual client's own head

    auto mean = [](double a, double b) { return (a + b) / 2; };
    auto both = [&](const std::array<Vec3, 2>& a, const std::array<Vec3, 2>& b) {
        return mean((a[0] - b[0]).norm(), (a[1] - b[1]).norm());
    };
    lengths.ankleHeight = mean(s.ankle[0].y(), s.ankle[1].y());
    lengths.thigh = both(s.hip, s.knee), lengths.shank = both(s.knee, s.ankle);
    lengths.trunk = (s.midShoulder - s.midHip).norm();
    lengths.hipHalf = (s.hip[1] - s.hip[0]).norm() / 2,
    lengths.shoulderHalf = (s.shoulder[1] - s.shoulder[0]).norm() / 2;
    lengths.upperArm = both(s.shoulder, s.elbow), lengths.forearm = both(s.elbow, s.wrist);
    lengths.neck = (s.headCentre - s.midShoulder - k * Vec3(0.02, 0.02, 0)).norm();
    out.body.lengths = lengths;
    // Last: what the clothes hide was needed until here.
    std::erase_if(pieces.back().mesh.faces, [&](const QuadMesh::Face& f) {
        return std::none_of(f.vertex.begin(), f.vertex.end(),
                            [&](int v) { return seen[static_cast<std::size_t>(v)] != 0; });
    });
    out.figure = personFigure(package, std::move(pieces), s, spec.handsClosed);
    return out;
}

}  // namespace bench
