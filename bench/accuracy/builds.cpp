#include "bench/accuracy/builds.h"

#include <array>

namespace bench {

using namespace zevo;

namespace {

struct Build {
    double stature, girth, legs, trunk;
    bool loose, longSleeves;
    sim::Colour skin, shirt, shorts, shoe, hair;
};
const std::array<Build, 6> kBuilds{{
    {175, 1.00, 1.00, 1.00, false, false, {205, 152, 122}, {176, 52, 56}, {48, 56, 74}, {58, 92, 150}, {52, 34, 24}},
    {163, 0.95, 1.02, 0.97, false, true, {150, 104, 80}, {60, 96, 70}, {70, 60, 50}, {120, 60, 50}, {30, 22, 18}},
    {188, 1.12, 1.03, 0.98, true, false, {224, 180, 150}, {40, 60, 110}, {120, 110, 90}, {60, 60, 60}, {160, 120, 60}},
    {170, 1.10, 0.97, 1.03, false, false, {96, 64, 46}, {210, 200, 180}, {60, 30, 30}, {200, 196, 190}, {20, 16, 14}},
    {181, 0.90, 1.00, 1.05, true, true, {190, 140, 110}, {90, 90, 100}, {30, 40, 60}, {50, 110, 90}, {80, 60, 40}},
    {158, 1.05, 1.00, 1.00, false, false, {120, 84, 64}, {200, 150, 60}, {50, 70, 60}, {90, 40, 70}, {24, 18, 16}},
}};

constexpr double kRate = 25;

}  // namespace

sim::BodySpec bodyOf(int build, bool mesh) {
    const Build& b = kBuilds[static_cast<std::size_t>(build) % kBuilds.size()];
    sim::BodySpec body;
    body.statureCm = b.stature;
    body.girth = b.girth;
    body.legShare = b.legs;
    body.trunkShare = b.trunk;
    body.looseTrousers = b.loose;
    body.longSleeves = b.longSleeves;
    body.figure = mesh ? "mesh" : "drawn";
    body.skin = b.skin, body.shirt = b.shirt, body.shorts = b.shorts, body.shoe = b.shoe, body.hair = b.hair;
    return body;
}

sim::ClipSpec plainClip(int build, bool mesh, int number) {
    sim::ClipSpec s;
    s.motion.body = bodyOf(build, mesh);
    s.motion.leadInS = 0.8;
    s.motion.leadOutS = 0.7;
    s.frameRate = kRate;
    s.scene.camera.width = 854;
    s.scene.camera.height = 480;
    s.scene.camera.azimuthDeg = number % 2 == 0 ? 90 : -90;
    s.scene.seed = static_cast<std::uint64_t>(100 + number);
    return s;
}

sim::RepSpec quickRep() {
    sim::RepSpec r;
    r.lowerS = 1.7, r.pauseS = 0.4, r.liftS = 1.2, r.topS = 0.7;
    return r;
}

}  // namespace bench
