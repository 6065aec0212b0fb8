#include "bench/accuracy/fronts.h"

#include <array>

#include "bench/accuracy/builds.h"
#include "bench/common.h"

namespace bench {

using namespace zevo;

namespace {

/// People of the grid and of the fault trial are others.
constexpr int kFirstPerson = 1200;

std::uint64_t seedOf(const HumanPackage* package, Half half, int number) {
    const std::uint64_t whose = !package ? 200000 : half == Half::Tables ? 100000 : 0;
    return 7700 + 31 * static_cast<std::uint64_t>(number) + whose;
}

}  // namespace

Result<std::vector<Case>> frontSets(const HumanPackage* package, Half half, int first, int count) {
    static constexpr std::array<const char*, 6> kVariations{"", "", "goblet", "wide", "", "box"};
    std::vector<Case> out;
    for (int n = first; n < first + count; ++n) {
        Dice dice{std::mt19937_64(seedOf(package, half, n))};
        if (dice.between(0, 1) < 0.25) continue;  // from behind
        Case c;
        c.spec = plainClip(n % 6, n % 2 == 1, 900 + n, ByChance::Yes);
        sim::MotionSpec& m = c.spec.motion;
        m.variation = kVariations[static_cast<std::size_t>(dice.between(0, kVariations.size()))];
        m.leadInS = dice.between(0.7, 1.2), m.leadOutS = 0.6;
        m.stanceShare = dice.between(0.13, 0.24), m.toeOutDeg = dice.between(2, 28);
        if (m.variation == "wide") m.stanceShare = 0.30, m.toeOutDeg = 25;
        const double depth = dice.between(-22, 25);
        for (int k = 0; k < 3; ++k) {
            sim::RepSpec r = quickRep();
            r.thighBottomDeg = depth + dice.between(-8, 8);
            r.shinBottomDeg = dice.between(22, 38);
            r.kneeInLeftCm = dice.between(-3, 4), r.kneeInRightCm = dice.between(-3, 4);
            m.reps.push_back(r);
        }
        auto& camera = c.spec.scene.camera;
        camera.azimuthDeg = 0;
        if (package) {
            auto filmed = bySomeone(*package, half, kFirstPerson + n, c.spec);
            if (!filmed) return filmed.error();
            c.spec = std::move(*filmed);
        } else {
            camera.heightM = dice.between(0.6, 1.4), camera.distanceM = dice.between(2.6, 4.2);
            camera.azimuthDeg = dice.between(-6, 6);
        }
        c.family = "squat", c.view = "front";
        c.name = (!package ? "front-" : half == Half::Tables ? "front-b" : "front-a") + std::to_string(n);
        out.push_back(std::move(c));
    }
    return out;
}

void standShinsUpright(std::vector<Case>& sets) {
    for (Case& c : sets) {
        c.name += "-upright";
        for (auto& r : c.spec.motion.reps) r.shinBottomDeg = 6 + (r.shinBottomDeg - 22) / 2;
    }
}

}  // namespace bench
