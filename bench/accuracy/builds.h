#pragma once

#include "sim/clip_maker.h"

namespace bench {

/// The body of one of six builds and clothes, in one of the two makings.
zevo::sim::BodySpec bodyOf(int build, bool mesh);

/// Whether shoes, clothes, floor, light and sharpness are drawn by chance or are the plain ones.
enum class ByChance { No, Yes };

/// 480p from the side (odd numbers from the left), 25 frames a second; no reps yet.
zevo::sim::ClipSpec plainClip(int build, bool mesh, int number, ByChance looks);

/// A rep with quick but clean times.
zevo::sim::RepSpec quickRep();

}  // namespace bench
