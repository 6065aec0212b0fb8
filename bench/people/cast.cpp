#include "bench/people/cast.h"

#include <algorithm>

#include "bench/common.h"
#include "catalog/data_files.h"

namespace bench {

using namespace zevo;

namespace {

struct CastDice : Dice {
    bool chance(double share) { return between(0, 1) < share; }
    template <class T>
    const T& one(const std::vector<T>& of) {
        return of[static_cast<std::size_t>(bits() % of.size())];
    }
    sim::Colour colour(int lo, int hi) {
        auto part = [&] { return static_cast<std::uint8_t>(between(lo, hi + 1)); };
        const auto r = part(), g = part(), b = part();
        return {r, g, b};
    }
    /// Of walls, floors and hair: grey with a tinge.
    sim::Colour muted(int lo, int hi) {
        const double tone = between(lo, hi), tinge = between(5, 45);
        auto part = [&] { return static_cast<std::uint8_t>(std::clamp(tone + between(-tinge, tinge), 0.0, 255.0)); };
        const auto r = part(), g = part(), b = part();
        return {r, g, b};
    }
    /// About usual more often than at the ends.
    double middling(double lo, double hi) { return (between(lo, hi) + between(lo, hi)) / 2; }
};

/// A seed that was looked at while something was being changed is spent: of half b numbers 0–89, 1001–1022 of the
/// trial, 1100–1105 (knees first) and 1200–1214 (from the front); all of half a.
constexpr std::uint64_t kSeed = 24000;
/// From this number on a lunge steps first and sinks afterwards, some more, some less.
constexpr int kStepsFrom = 30;

CastDice diceOf(Half half, int number, int what) {
    const std::uint64_t seed = kSeed + 100000ULL * (half == Half::Tables) + 10ULL * static_cast<std::uint64_t>(number);
    return {{std::mt19937_64(seed + static_cast<std::uint64_t>(what))}};
}

using Outfit = std::vector<const char*>;

const std::vector<Outfit>& outfits(Half half, bool female) {
    static const std::vector<Outfit> menA{{"male_casualsuit01"}, {"male_casualsuit04"}, {"male_casualsuit05"}},
        menB{{"male_casualsuit02"}, {"male_casualsuit03"}, {"male_casualsuit06"}, {"male_worksuit01"}},
        womenA{{"female_sportsuit01"}, {"Tightjeans", "VNeckTop"}, {"Tightjeans", "Sleeveless"}},
        womenB{{"female_casualsuit01"}, {"Tightjeans", "Tank_Top_01"}, {"Tightjeans", "short_tail_camo_tee"}};
    return half == Half::Calibration ? (female ? womenA : menA) : (female ? womenB : menB);
}

const std::vector<std::string>& hairs(Half half, bool female) {
    static const std::vector<std::string> menA{"short02", "short03", ""}, menB{"short01", "short04", "afro01"},
        womenA{"ponytail01", "bob01", "long01"}, womenB{"bob02", "Braid01", "curly2", "long2_alpha7"};
    return half == Half::Calibration ? (female ? womenA : menA) : (female ? womenB : menB);
}

/// Room, light and camera of one clip.
void film(Half half, int number, bool front, sim::ClipSpec& s) {
    CastDice dice = diceOf(half, number, 1);
    sim::Looks& l = s.scene.looks;
    const bool first = half == Half::Calibration;
    l.floor = dice.one(first ? std::vector<std::string>{"planks", "speckled"}
                             : std::vector<std::string>{"tiles", "plain", "planks"});
    l.wall = dice.one(first ? std::vector<std::string>{"boarded", "brick", "plain"}
                            : std::vector<std::string>{"stripes", "tiles", "plain"});
    l.mat = dice.chance(0.25);
    l.window = dice.chance(0.3), l.door = dice.chance(0.3), l.furnished = dice.chance(0.6);
    l.lightTurnDeg = dice.between(-150, 150);
    l.shadowSpread = dice.one(std::vector<int>{2, 3, 5});
    if (dice.chance(0.3)) l.exposureWander = dice.between(0.03, 0.12);
    l.darkNoise = static_cast<float>(dice.between(0, 1.5));
    if (dice.chance(0.3)) l.shakePx = dice.between(0.7, 3);
    s.scene.wall = dice.muted(90, 220), s.scene.floor = dice.muted(60, 200);
    s.scene.light = dice.between(0.55, 1.15), s.scene.noise = dice.between(1, 4);
    if (dice.chance(0.3)) s.scene.shutter = dice.between(0.2, 0.6);
    s.scene.seed = static_cast<std::uint64_t>(number) + 700 + (first ? 0 : 5000);
    s.video.quality = dice.one(std::vector<int>{20, 22, 25, 28});
    s.frameRate = dice.one(std::vector<double>{24, 25, 25, 30, 30, 30, 30, 50});
    if (dice.chance(0.08)) s.frameRate = dice.chance(0.3) ? 120 : 60;
    if (dice.chance(0.2)) s.jitter = 0.3;
    auto& c = s.scene.camera;
    const int tall = dice.one(std::vector<int>{480, 480, 540, 540, 720});
    c.height = dice.chance(0.08) ? 1080 : tall, c.width = c.height * 16 / 9 / 2 * 2;
    c.distanceM = dice.between(2.8, 4.2);
    c.focal = dice.between(1.15, 1.5) * c.distanceM / 3.4;
    if (dice.chance(0.2)) {  // a phone held upright
        std::swap(c.width, c.height);
        c.distanceM = dice.between(3.6, 4.6);
        c.focal = dice.between(0.95, 1.2) * c.distanceM / 3.4;
    }
    c.heightM = dice.between(0.6, 1.4);
    c.aimHeightM = 0.88 + dice.between(-0.08, 0.08);
    c.aimSideM = dice.between(-0.2, 0.2);
    if (dice.chance(0.4)) c.rollDeg = dice.between(-3, 3);
    const double off = dice.chance(0.15) ? dice.between(-20, 20) : dice.middling(-6, 6);
    const double square = front ? 0 : dice.chance(0.5) ? 90 : -90;
    c.azimuthDeg = square + off;
}

struct Kind {
    const char *movement, *variation;
};
const std::vector<Kind>& kinds() {
    static const std::vector<Kind> all{{"squat", ""},
                                       {"hinge", "romanian"},
                                       {"reverse-lunge", ""},
                                       {"bridge", ""},
                                       {"squat", "goblet"},
                                       {"split-squat", ""},
                                       {"hinge", ""},
                                       {"squat", "back-bar"},
                                       {"forward-lunge", ""},
                                       {"squat", "wide"},
                                       {"hinge", "stiff-leg"},
                                       {"squat", "box"},
                                       {"reverse-lunge", "goblet"},
                                       {"bridge", "thrust"},
                                       {"hinge", "dowel"}};
    return all;
}

bool holds(const std::string& v) {
    return v == "romanian" || v == "goblet" || v == "back-bar" || v == "dowel" || v == "stiff-leg";
}

/// Sound repetitions that differ, with the little a back bends anyway.
void move(Half half, int number, const Kind& kind, sim::MotionSpec& m) {
    CastDice dice = diceOf(half, number, 2);
    m.movement = kind.movement, m.variation = kind.variation;
    m.leadInS = dice.between(0.7, 1.3), m.leadOutS = dice.between(0.6, 1);
    m.stanceShare = dice.between(0.15, 0.22), m.toeOutDeg = dice.between(4, 22);
    const std::string variation = kind.variation;
    const double quick = dice.between(0.85, 1.25), lean = dice.between(50, 66), thigh = dice.between(-14, 4);
    for (int i = 0; i < 3; ++i) {
        sim::RepSpec r;
        r.lowerS = 1.75 * quick * dice.between(0.9, 1.1), r.liftS = 1.2 * quick * dice.between(0.9, 1.1);
        r.pauseS = dice.between(0.2, 0.6), r.topS = dice.between(0.4, 0.8);
        r.thighBottomDeg = thigh + dice.between(-4, 8);
        r.shinBottomDeg = dice.between(27, 36) + (variation == "goblet" ? 5 : 0);
        r.hingeLeanDeg = lean + dice.between(-5, 8);
        r.kneeBendDeg = variation == "stiff-leg" ? dice.between(6, 11) : dice.between(15, 24);
        r.frontKneeDeg = dice.between(82, 98), r.frontShinDeg = dice.between(2, 14);
        r.lungeLeanDeg = dice.between(2, 9);
        r.topAngleDeg = dice.between(168, 182);
        r.tuckDeg = dice.between(1, 4), r.roundDeg = dice.between(2, 5);
        if (variation == "wide") r.shinBottomDeg = 26;
        if (m.movement == "bridge") r.pauseS = dice.between(0.6, 1.2);
        m.reps.push_back(r);
    }
    if (number >= kStepsFrom) {
        CastDice steps = diceOf(half, number, 3);
        for (auto& r : m.reps) r.sinkAfter = steps.between(0.2, 0.6), r.stepShare = std::min(0.55, r.sinkAfter + 0.05);
    }
    if (variation == "wide") m.stanceShare = 0.30, m.toeOutDeg = 25;
    if (variation == "back-bar" || variation == "romanian") m.loadShare = 0.5;
    if (variation == "goblet") m.loadShare = 0.2;
}

void setUpFor(const std::string& movement, sim::CameraSpec& camera) {
    if (movement == "bridge") camera.heightM = 0.55, camera.aimHeightM = 0.42;
    if (movement.ends_with("lunge")) camera.distanceM += 0.5;  // who steps needs room
}

Result<sim::ClipSpec> clipOf(const HumanPackage& package, Half half, int number, const Kind& kind, bool front) {
    PersonSpec who = someone(half, number);
    who.handsClosed = holds(kind.variation);
    auto person = makePerson(package, who);
    if (!person) return person.error();
    sim::ClipSpec s;
    film(half, number, front, s);
    move(half, number, kind, s.motion);
    s.motion.body = person->body;
    s.motion.body.figure = "person";
    s.figure = person->figure;
    setUpFor(kind.movement, s.scene.camera);
    s.motion.workingLeg = front || s.scene.camera.azimuthDeg > 0 ? 1 : 0;
    return s;
}

std::string nameOf(Half half, int number) {
    return std::string(half == Half::Calibration ? "people-a" : "people-b") + std::to_string(number) + "-";
}

}  // namespace

std::string peopleFolder() {
    return ZEVO_PEOPLE_DIR;
}

PersonSpec someone(Half half, int number) {
    CastDice dice = diceOf(half, number, 0);
    PersonSpec p;
    p.female = number % 2 == 0;
    p.years = dice.between(18, 75);
    p.muscle = dice.middling(0.1, 0.95), p.weight = dice.middling(0.05, 0.95);
    p.proportions = dice.between(0.3, 1);
    p.statureCm = p.female ? 150 + 34 * dice.middling(0, 1) : 160 + 40 * dice.middling(0, 1);
    p.ancestry = dice.one(std::vector<std::string>{"african", "asian", "caucasian"});
    for (const char* name : dice.one(outfits(half, p.female))) {
        const auto tone = dice.colour(110, 255);
        p.clothes.push_back({name, tone});
    }
    p.clothes.push_back(
        {dice.one(half == Half::Calibration ? std::vector<std::string>{"shoes01", "shoes03", "shoes05"}
                                            : std::vector<std::string>{"shoes02", "shoes04", "shoes06"}),
         dice.colour(120, 255)});
    p.hair = {dice.one(hairs(half, p.female)), dice.muted(110, 250)};
    p.hipAheadCm = dice.between(-1, 1);
    p.eyebrows = "eyebrow00" + std::to_string(1 + static_cast<int>(dice.between(0, 9)));
    return p;
}

Result<std::vector<Case>> peopleSets(const HumanPackage& package, Half half, int first, int count) {
    std::vector<Case> out;
    for (int n = first; n < first + count; ++n) {
        const Kind& kind = kinds()[static_cast<std::size_t>(n) % kinds().size()];
        const bool front = n % 7 == 6 && std::string(kind.movement) == "squat";
        auto spec = clipOf(package, half, n, kind, front);
        if (!spec) return spec.error();
        Case c;
        c.spec = std::move(*spec);
        const auto known = catalog::loadMovement(kind.movement);
        if (!known) return known.error();
        c.family = familyName(known->family);
        c.view = front ? "front" : "side";
        c.name = nameOf(half, n) + kind.movement + (*kind.variation ? "-" : "") + kind.variation + "-" + c.view;
        out.push_back(std::move(c));
    }
    return out;
}

Result<sim::ClipSpec> bySomeone(const HumanPackage& package, Half half, int number, const sim::ClipSpec& clip) {
    PersonSpec who = someone(half, number);
    who.handsClosed = holds(clip.motion.variation);
    auto person = makePerson(package, who);
    if (!person) return person.error();
    const double square = std::abs(clip.scene.camera.azimuthDeg) < 45 ? 0 : clip.scene.camera.azimuthDeg > 0 ? 90 : -90;
    sim::ClipSpec s;
    film(half, number, square == 0, s);
    sim::CameraSpec& camera = s.scene.camera;
    const double off = camera.azimuthDeg - (square == 0 ? 0 : camera.azimuthDeg > 0 ? 90 : -90);
    camera.azimuthDeg = square + off;
    setUpFor(clip.motion.movement, camera);
    s.motion = clip.motion;
    s.motion.body = person->body;
    s.motion.body.figure = "person";
    s.figure = person->figure;
    return s;
}

}  // namespace bench
