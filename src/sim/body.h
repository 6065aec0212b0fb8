#pragma once

#include <cstdint>
#include <optional>
#include <string>

namespace zevo::sim {

struct Colour {
    std::uint8_t r = 0, g = 0, b = 0;
};

/// Lengths of one person from joint centre to joint centre, metres.
struct BodyLengths {
    double ankleHeight = 0, shank = 0, thigh = 0, trunk = 0, hipHalf = 0, shoulderHalf = 0, upperArm = 0, forearm = 0;
    double heelBack = 0, ballAhead = 0, toeAhead = 0, footPointHeight = 0;  ///< as in Segments
    double neck = 0;
};

/// Build and clothes of the virtual client. Lengths are shares of the usual proportion (segments.h).
struct BodySpec {
    double statureCm = 175;
    double girth = 1.0;     ///< scales all radii
    double legShare = 1.0;  ///< scales thigh and shank
    double trunkShare = 1.0;
    double armShare = 1.0;
    bool looseTrousers = false;  ///< to the ankle and wide, instead of shorts
    bool longSleeves = false;    ///< to the wrist
    double looseShirtCm = 0;     ///< how far an untucked shirt hangs off where the skin faces down; 0: it lies on
    std::optional<BodyLengths> lengths;  ///< of a person whose own are known; else the usual shares of stature
    std::string figure = "drawn";        ///< "drawn" from tubes and ellipsoids, or "mesh": a skinned anatomical mesh
    Colour skin{205, 152, 122}, shirt{176, 52, 56}, shorts{48, 56, 74}, shoe{58, 92, 150}, hair{52, 34, 24};
};

}  // namespace zevo::sim
