#pragma once

#include <string>

#include "core/base/picture.h"
#include "sim/mesh.h"
#include "sim/skeleton.h"

namespace zevo::sim {

/// How a scene looks, apart from who is in it and what they do: what measuring must not depend on. The plain looks are
/// those of all clips made before there were others.
struct Looks {
    std::string floor = "planks";  ///< planks, tiles, stripes, speckled, plain
    bool mat = true;
    double lightTurnDeg = 0;  ///< of the key light about the vertical, from where it usually stands
    int shadowSpread = 1;     ///< softness: 1 hard … 5
    /// A shadow that wanders over floor, shoes and legs: somebody passing the window.
    double bandWidthM = 0, bandAtM = 0, bandSpeed = 0, bandDark = 0.6;  ///< m/s; 0 width: none
    /// A patch of sun on floor and shoes, that stays.
    double sunWidthM = 0, sunAtM = 0, sunBright = 0.8;
    std::string shoes = "plain";   ///< plain, two-tone, stripes, speckled, socks
    double shakePx = 0;            ///< of a camera held in the hand
    bool tapes = false;            ///< tape on hip bones, knees, sacrum and between the shoulder blades
    std::string wall = "boarded";  ///< boarded, plain, brick, stripes, tiles
    bool window = false;           ///< behind the client, so bright that it shows nothing
    bool door = false;             ///< behind the client, in a strong colour
    bool furnished = false;        ///< shelves, plants, racks and a bench along the walls
    double exposureWander = 0;     ///< share by which the camera's exposure wanders
    float darkNoise = 0;           ///< how much more the dark parts are noisy than the bright
    bool clutter = false;          ///< shelves and hanging things of the clothes' colours right behind the client

    /// Share of the key light at a place `acrossM` along the picture's right, at a time.
    float keyLight(float acrossM, double timeS) const;
    /// What the light is multiplied by at a time.
    float exposureAt(double timeS) const;
    /// Tone of the floor at a place, 1 = its colour.
    float floorTone(float acrossM, float awayM) const;
};

/// Paints the shoes of a figure that has been built.
void paintShoes(const Looks& looks, const Skeleton& skeleton, Mesh& mesh);

/// Moves the picture as a hand would that holds the camera.
void shake(const Looks& looks, double timeS, Picture& picture);

/// Empty, or what is not known about them.
std::string problemOf(const Looks& looks);

}  // namespace zevo::sim
