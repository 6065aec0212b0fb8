#pragma once

#include <array>
#include <vector>

#include "core/base/picture.h"
#include "core/body/landmarks.h"
#include "vision/patch_match.h"

namespace zevo {

/// Follows the heel and toe end of both shoes through the frames of a clip, in the picture itself.
///
/// The pose network sees a person in 256 pixels, so that one of its pixels is about 2 cm and a heel that stays down
/// can read as 3 cm up. A planted foot hardly moves and turns by a few degrees, so a patch of the shoe found again
/// in the full picture by normalised cross-correlation tells its rise far better. Each frame is compared with
/// the patch as it was when following began (no drift), turned by a few degrees either way.
///
/// Where a step or a lost match ends a stretch, following begins anew with another stretch number: positions are
/// comparable only inside one stretch. Feed frames in order; one instance per thread.
class FootFollower {
  public:
    /// Fills in pose.feet. `pose` has the picture's pixel coordinates.
    void follow(const PictureView& picture, PoseFrame& pose);
    /// Numbers stretches from here on, so that those of parallel workers differ.
    explicit FootFollower(int firstStretch = 1) : m_nextStretch(firstStretch) {}

  private:
    struct Point {
        bool active = false;
        int stretch = 0;
        Vec2 home = Vec2::Zero();  ///< where following began
        Vec2 at = Vec2::Zero();
        int half = 0;
        int turn = 0;  ///< which of the turned patches fitted last
        int lost = 0;  ///< frames in a row without a match
        std::vector<Patch> turned;
    };
    void begin(Point& point, const PictureView& picture, const Vec2& landmark, double footLength);

    std::array<Point, kFootPointCount> m_points;
    int m_nextStretch = 1;
};

}  // namespace zevo
