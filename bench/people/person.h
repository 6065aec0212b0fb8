#pragma once

// One lifelike person for the benches.

#include <memory>
#include <string>
#include <vector>

#include "bench/people/package.h"
#include "sim/body.h"
#include "sim/figure.h"

namespace bench {

/// Who somebody is and what they wear.
struct PersonSpec {
    bool female = false;
    double years = 30;                   ///< 18…75
    double muscle = 0.5, weight = 0.5;   ///< 0…1, 0.5 usual
    double proportions = 0.5;            ///< 0…1
    double statureCm = 172;              ///< barefoot
    std::string ancestry = "caucasian";  ///< african, asian, caucasian: names of the package's morphs and skins
    struct Piece {
        std::string name;
        zevo::sim::Colour tint{255, 255, 255};  ///< its texture is multiplied by this
    };
    std::vector<Piece> clothes;  ///< shoes among them
    Piece hair;                  ///< without a name: none
    std::string eyebrows = "eyebrow001";
    bool handsClosed = false;
    /// The hip's centre this much ahead of its usual place: nobody's is known to the centimetre, and 1 cm is about 1°
    /// of hip and trunk.
    double hipAheadCm = 0;
};

struct Person {
    zevo::sim::BodySpec body;  ///< stature and the lengths between the joints of the figure
    std::shared_ptr<const zevo::sim::Figure> figure;
};

/// Joints lie where the package puts them, after the morphs, but the hips. Those are 19–24 cm apart in the package, and
/// in its men four tenths of the body's depth from behind, 9 cm before the hindmost point. Here they are apart by
/// Harrington et al. 2007 (J Biomech 40:595, from memory: 0.33 × pelvis width + 7.3 mm each) with a pelvis of 14 % of
/// the stature, about 17 cm; and 1 cm before the middle of the section, as in the virtual client's mesh: 13 cm before
/// the hindmost point at 175 cm, where seat makers have it (the H-point of SAE J826, 13.5 cm, from memory).
zevo::Result<Person> makePerson(const HumanPackage& package, const PersonSpec& spec);

}  // namespace bench
