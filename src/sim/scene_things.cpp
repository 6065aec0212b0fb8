#include "sim/scene_things.h"

#include <array>
#include <random>

namespace zevo::sim {

std::vector<Prop> thingsInFront(const SceneSpec& scene) {
    const Camera camera(scene.camera);
    const Vec3 toCamera = Vec3(camera.eye().x(), 0, camera.eye().z()).normalized();
    const Vec3 across(std::abs(toCamera.z()), 0, std::abs(toCamera.x()));  // along the picture, room axes
    if (scene.inFront == "post") {
        const Vec3 foot = 0.75 * toCamera + 0.10 * across;
        return {{Prop::Kind::Rod, foot, foot + Vec3(0, 2.2, 0), 0.035, {64, 70, 84}}};
    }
    if (scene.inFront == "bench")
        return {{Prop::Kind::Box,
                 0.80 * toCamera + Vec3(0, 0.19, 0) + 0.32 * across,
                 Vec3(0.10, 0.19, 0.10) + 0.35 * across,
                 0,
                 {92, 74, 66}}};
    return {};
}

namespace {

/// Shelves with things on them, a plant, a rack and a bench along the back wall.
void furnish(const ClipSpec& spec, const Vec3& away, const Vec3& across, std::vector<Prop>& out) {
    std::mt19937_64 dice(spec.scene.seed * 7 + 5);
    auto between = [&](double lo, double hi) {
        return lo + (hi - lo) * static_cast<double>(dice() >> 11) / static_cast<double>(1ULL << 53);
    };
    auto tone = [&](int lo, int hi) {
        auto one = [&] { return static_cast<std::uint8_t>(between(lo, hi)); };
        const auto r = one(), g = one(), b = one();
        return Colour{r, g, b};
    };
    auto box = [&](double u, double y, double v, double halfU, double halfY, double halfV, Colour c) {
        const Vec3 half = (halfU * across + halfV * away).cwiseAbs() + Vec3(0, halfY, 0);
        out.push_back({Prop::Kind::Box, u * across + v * away + Vec3(0, y, 0), half, 0, c});
    };
    const double shelfAt = between(-1.3, 1.3);
    for (int board = 0; board < 3; ++board) {
        const double y = 0.45 + 0.4 * board;
        box(shelfAt, y, 1.7, 0.5, 0.012, 0.15, {150, 116, 76});
        for (double u = -0.42; u < 0.45;) {
            const double half = between(0.02, 0.08), tall = between(0.05, 0.15);
            if (between(0, 1) < 0.8) box(shelfAt + u + half, y + 0.012 + tall, 1.68, half, tall, 0.1, tone(30, 230));
            u += 2 * half + between(0, 0.06);
        }
    }
    const double plantAt = between(-1.5, 1.5);
    box(plantAt, 0.17, 1.5, 0.15, 0.17, 0.15, tone(60, 200));
    for (int leaf = 0; leaf < 14; ++leaf) {
        const Vec3 foot = plantAt * across + 1.5 * away + Vec3(0, 0.34, 0);
        const Vec3 tip =
            foot + between(-0.35, 0.35) * across + between(-0.3, 0.1) * away + Vec3(0, between(0.25, 0.8), 0);
        out.push_back({Prop::Kind::Rod, foot, tip, 0.012, {48, 104, 52}});
        out.push_back({Prop::Kind::Ball, tip, Vec3(0.05, 0.07, 0.05), 0, {62, 128, 62}});
    }
    const double rackAt = between(-1.4, 1.4);
    for (double side : {-0.55, 0.55}) {
        const Vec3 foot = (rackAt + side) * across + 1.35 * away;
        out.push_back({Prop::Kind::Rod, foot, foot + Vec3(0, 2.1, 0), 0.03, {58, 60, 66}});
    }
    out.push_back({Prop::Kind::Rod,
                   (rackAt - 0.55) * across + 1.35 * away + Vec3(0, 2.05, 0),
                   (rackAt + 0.55) * across + 1.35 * away + Vec3(0, 2.05, 0),
                   0.025,
                   {58, 60, 66}});
    const double benchAt = between(-1.2, 1.2);
    box(benchAt, 0.4, 1.15, 0.55, 0.045, 0.13, tone(20, 90));
    for (double side : {-0.45, 0.45}) box(benchAt + side, 0.18, 1.15, 0.03, 0.18, 0.1, {70, 72, 76});
}

}  // namespace

std::vector<Prop> furniture(const ClipSpec& spec) {
    std::vector<Prop> out;
    if (!spec.scene.looks.furnished) return out;
    const Camera camera(spec.scene.camera);
    const Vec3 away = Vec3(camera.forward().x(), 0, camera.forward().z()).normalized();
    furnish(spec, away, away.cross(Vec3(0, 1, 0)), out);
    return out;
}

std::vector<Prop> thingsBehind(const ClipSpec& spec) {
    if (!spec.scene.looks.clutter) return {};
    const Camera camera(spec.scene.camera);
    const Vec3 away = Vec3(camera.forward().x(), 0, camera.forward().z()).normalized();
    const BodySpec& body = spec.motion.body;
    const std::array<Colour, 3> colours{body.shirt, body.shorts, {96, 92, 88}};
    std::mt19937_64 dice(spec.scene.seed);
    auto between = [&](double lo, double hi) {
        return lo + (hi - lo) * static_cast<double>(dice() >> 11) / static_cast<double>(1ULL << 53);
    };
    std::vector<Prop> out;
    for (int i = 0; i < 14; ++i) {
        const double w = between(0.05, 0.2), h = between(0.08, 0.3);
        const Vec3 at = 0.7 * away + between(-0.9, 0.9) * camera.right() + Vec3(0, between(0.35, 1.5), 0);
        const Vec3 half = (w * camera.right() + 0.05 * away).cwiseAbs() + Vec3(0, h, 0);
        out.push_back({Prop::Kind::Box, at, half, 0, colours[dice() % colours.size()]});
    }
    return out;
}

}  // namespace zevo::sim
