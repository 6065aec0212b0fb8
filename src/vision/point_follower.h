#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "core/base/calibration.h"
#include "core/base/picture.h"
#include "core/base/vectors.h"

namespace zevo {

/// A picture without colours, rows top to bottom without padding.
struct GreyPicture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> pixels;
};
GreyPicture greyOf(const PictureView& picture);

/// Follows one point of a clip from picture to picture, forwards or backwards.
///
/// Pyramidal Lucas–Kanade (Bouguet, *Pyramidal implementation of the Lucas Kanade feature tracker*, Intel 2000, as in
/// OpenCV), there and back again: a step that does not come back to where it began is none. Steps add up small errors,
/// so the patch of the click (or the newest one that still resembled it) is looked for again at every place and takes
/// it over where it fits. A point that was lost is looked for around where it was last seen, and taken up only where
/// it is alike and nothing beside it is. Slow drift over a place without marks of its own is not noticed here: that
/// takes following from both ends (pipeline/follow_mark.h).
///
/// Pixels of the pictures given; meant for pictures of about 1280 × 720.
class PointFollower {
  public:
    /// A load turns and is seen from other sides; a piece of tape keeps its look, and what looks otherwise is something
    /// that covers it.
    enum class Look { Changes, Stays };
    PointFollower(std::shared_ptr<const GreyPicture> picture, const Vec2& at, Look look = Look::Changes);
    ~PointFollower();
    PointFollower(PointFollower&&) noexcept;
    PointFollower& operator=(PointFollower&&) noexcept;

    /// How much there is at the place to hold on to, in both directions: the smaller eigenvalue of the gradients'
    /// second moments in the window, grey levels² a pixel. Where there is little, its neighbours look the same and
    /// following it means nothing. Plain cloth has 2 to 39 (at the seam of shirt and shorts to 78), walls 0 to 3, a
    /// dark bell before a grey wall 20 to 25, tape that is seen 180 and more (virtual clients); sensor noise alone
    /// about 2.
    double minEigenvalue() const;
    static constexpr double kLeastStructure = calibrated("tape.structure"), kLeastOfTape = calibrated("tape.of_tape");
    struct Step {
        Vec2 at = Vec2::Zero();
        bool held = false;
        double forwardBackwardErrorPx = 0;
        double match = 0;  ///< correlation with the newest patch that counts, −1…1
    };
    Step follow(std::shared_ptr<const GreyPicture> next);

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo
