#pragma once

#include <cstdint>
#include <string>

namespace zevo::sim {

struct Colour {
    std::uint8_t r = 0, g = 0, b = 0;
};

/// Build and clothes of the virtual client. Lengths are shares of the usual proportion (segments.h).
struct BodySpec {
    double statureCm = 175;
    double girth = 1.0;     ///< scales all radii
    double legShare = 1.0;  ///< scales thigh and shank
    double trunkShare = 1.0;
    double armShare = 1.0;
    bool looseTrousers = false;    ///< to the ankle and wide, instead of shorts
    bool longSleeves = false;      ///< to the wrist
    double looseShirtCm = 0;       ///< how far an untucked shirt hangs off where the skin faces down; 0: it lies on
    std::string figure = "drawn";  ///< "drawn" from tubes and ellipsoids, or "mesh": a skinned anatomical mesh
    Colour skin{205, 152, 122}, shirt{176, 52, 56}, shorts{48, 56, 74}, shoe{58, 92, 150}, hair{52, 34, 24};
};

}  // namespace zevo::sim
