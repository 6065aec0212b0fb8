#pragma once

#include <vector>

#include "sim/clip_maker.h"

namespace zevo::sim {

/// Things that stand between the camera and the client.
std::vector<Prop> thingsInFront(const SceneSpec& scene);
/// Shelves, a plant, a rack and a bench along the wall of a furnished room; empty in others.
std::vector<Prop> furniture(const ClipSpec& spec);
/// What stands and hangs right behind the client in a room that is not tidy, in the colours they wear.
std::vector<Prop> thingsBehind(const ClipSpec& spec);

}  // namespace zevo::sim
