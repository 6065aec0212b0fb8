#include "bench/accuracy/builds.h"

#include <array>

#include "bench/common.h"

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
/// Of the looks; a seed that was looked at while something was being changed is spent.
constexpr std::uint64_t kSeed = 51000;

struct LooksDice : Dice {
    bool chance(double share) { return between(0, 1) < share; }
    template <class T, std::size_t N>
    T one(const std::array<T, N>& of) {
        return of[static_cast<std::size_t>(bits() % N)];
    }
    sim::Colour colour(int lo, int hi) {
        auto part = [&] { return static_cast<std::uint8_t>(between(lo, hi + 1)); };
        const auto r = part(), g = part(), b = part();
        return {r, g, b};
    }
};

/// Shoes, clothes, floor, walls, light, shadows that move, sharpness and a hand that shakes, by chance.
void randomLooks(sim::ClipSpec& s, LooksDice dice) {
    using Name = const char*;
    sim::Looks& l = s.scene.looks;
    l.floor = dice.one(std::array<Name, 5>{"planks", "tiles", "stripes", "speckled", "plain"});
    l.mat = dice.chance(0.3);
    l.lightTurnDeg = dice.between(-150, 150);
    l.shadowSpread = dice.one(std::array{1, 1, 3, 5});
    l.shoes = dice.one(std::array<Name, 6>{"plain", "plain", "two-tone", "stripes", "speckled", "socks"});
    if (dice.chance(0.3)) {
        l.bandWidthM = dice.between(0.1, 0.5), l.bandAtM = dice.between(-1.2, -0.4);
        l.bandSpeed = dice.between(0.05, 0.5), l.bandDark = dice.between(0.3, 0.8);
    }
    if (dice.chance(0.25))
        l.sunWidthM = dice.between(0.1, 0.4), l.sunAtM = dice.between(-0.2, 0.2), l.sunBright = dice.between(0.3, 1.2);
    if (dice.chance(0.25)) l.shakePx = dice.between(0.7, 2.7);
    s.scene.floor = dice.colour(50, 210);
    s.scene.wall = dice.colour(90, 220);
    s.scene.light = dice.between(0.5, 1.2);
    s.scene.noise = dice.between(1.5, 4);
    s.video.quality = dice.one(std::array{18, 23, 28, 33});
    sim::BodySpec& body = s.motion.body;
    body.shirt = dice.colour(30, 220), body.shorts = dice.colour(20, 160);
    body.shoe = dice.chance(0.15) ? s.scene.floor : dice.colour(20, 240);
}

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

sim::ClipSpec plainClip(int build, bool mesh, int number, ByChance looks) {
    sim::ClipSpec s;
    s.motion.body = bodyOf(build, mesh);
    s.motion.leadInS = 0.8;
    s.motion.leadOutS = 0.7;
    s.frameRate = kRate;
    s.scene.camera.width = 854;
    s.scene.camera.height = 480;
    s.scene.camera.azimuthDeg = number % 2 == 0 ? 90 : -90;
    s.scene.seed = static_cast<std::uint64_t>(100 + number);
    if (looks == ByChance::Yes) randomLooks(s, {{std::mt19937_64(kSeed + static_cast<std::uint64_t>(number))}});
    return s;
}

sim::RepSpec quickRep() {
    sim::RepSpec r;
    r.lowerS = 1.7, r.pauseS = 0.4, r.liftS = 1.2, r.topS = 0.7;
    return r;
}

}  // namespace bench
