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
